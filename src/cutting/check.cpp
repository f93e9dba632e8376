#include "cutting/check.h"

#include "document/edits.h"
#include "document/measure.h"
#include "geom/distance.h"
#include "lettering/finish_steps.h"
#include "lettering/gaps.h"

#include <fmt/format.h>

namespace frelm {
namespace {

constexpr double off_sheet = 0.001; // mm; less is rounding

class Checker {
public:
  Checker(const Document& document, const DocumentEvaluator& evaluator, const std::stop_token& stop)
      : document_(document), evaluator_(evaluator), stop_(stop) {}

  CheckReport run() {
    for (const auto& piece : document_.pieces) {
      if (stop_.stop_requested())
        break;
      check_piece(*piece);
    }
    if (live_ > 0)
      add(Weight::Note, live_ == 1 ? "Letters are live" : fmt::format("{} letterings are live", live_),
          "files get their outlines", nullptr, {});
    std::stable_sort(report_.findings.begin(), report_.findings.end(),
                     [](const Finding& a, const Finding& b) { return a.weight < b.weight; });
    return std::move(report_);
  }

private:
  void add(Weight weight, std::string title, std::string detail, const Piece* piece, const Box& where,
           Cure cure = Cure::None) {
    report_.findings.push_back(
        {weight, std::move(title), std::move(detail), piece != nullptr ? piece->id : 0, where, cure});
  }
  // At most some 32 letters of a piece's name: findings are read at a glance.
  std::string short_name(const Piece& piece) const {
    constexpr std::size_t longest = 32;
    const std::u32string name = from_utf8(display_name(piece, document_.unit));
    return name.size() <= longest ? to_utf8(name) : to_utf8(name.substr(0, longest - 1)) + "…";
  }
  std::string length(double mm) const { return format_length(mm, document_.unit) + " " + unit_name(document_.unit); }

  void check_piece(const Piece& piece) {
    if (!piece.is_cut())
      return;
    const std::string name = short_name(piece);
    if (piece.guide() != nullptr) {
      const Result<PieceResult> r = evaluator_.piece(document_, piece.id, Depth::Seat, stop_);
      add(Weight::MustFix, "Guide would be cut",
          name + " goes to the " + (piece.destination == Destination::Knife ? "knife" : "pen"), &piece,
          r ? r->ink : Box{}, Cure::SendToGuide);
      return;
    }
    const Result<PieceResult> result = evaluator_.piece(document_, piece.id, Depth::Finish, stop_);
    if (!result) {
      if (result.error().code == ErrorCode::Cancelled)
        return;
      const bool face = result.error().code == ErrorCode::NotFound;
      add(Weight::MustFix, face ? "Face is missing" : "Can't be set", result.error().text(), &piece, {});
      return;
    }
    if (const Lettering* lettering = piece.lettering(); lettering != nullptr && result->seated != nullptr)
      check_lettering(piece, *lettering, *result->seated, name);
    else if (result->outline != nullptr)
      check_outline(piece, *result->outline, name);
    const Box sheet{-off_sheet, -off_sheet, document_.sheet.width + off_sheet, document_.sheet.height + off_sheet};
    if (!result->ink.empty() && !sheet.contains(result->ink))
      add(Weight::MustFix, "Outside the sheet", name + " reaches past the edge", &piece, result->ink,
          Cure::MoveOntoSheet);
  }

  void check_lettering(const Piece& piece, const Lettering& lettering, const SeatedText& text,
                       const std::string& name) {
    ++live_;
    const SetText& set = *text.spaced->set;
    if (set.carried_face)
      add(Weight::Look, "Face is not on this machine",
          lettering.recipe.letters()->face.text() + ": cut from the shapes in the job", &piece, text.ink);
    if (!set.missing.empty())
      add(Weight::Look, "Letters the face lacks", name + ": " + to_utf8(set.missing), &piece, text.ink);
    if (set.letter_count() == 0)
      add(Weight::Note, "Nothing lettered yet", name, &piece, {});
    if (!lettering.recipe.finish.welds()) {
      const std::vector<Gap> overlaps = find_overlaps(text, stop_);
      Box where;
      for (const Gap& g : overlaps)
        where.add(g.closest.on_a);
      if (!overlaps.empty())
        add(Weight::MustFix, "Overlap would be cut",
            fmt::format("{}: {} {} not welded", name, overlaps.size(), overlaps.size() == 1 ? "join" : "joins"), &piece,
            where.grown(set.cap_height / 2), Cure::SwitchWeldOn);
    }
    if (text.overflow > 0 && lettering.recipe.bend.kind != BendKind::Straight)
      add(Weight::MustFix, "Run meets its own start",
          fmt::format("{}: {} too long for its circle", name, length(text.overflow)), &piece, text.ink);
    const CircleGuide* guide = lettering.recipe.bend.kind == BendKind::Guide ? guide_of(document_, lettering) : nullptr;
    const bool inward =
        (guide != nullptr && lettering.recipe.bend.guide.tops == Tops::Inward) ||
        (lettering.recipe.bend.kind == BendKind::Arc && lettering.recipe.bend.arc.side == ArcSide::Under);
    const double radius = guide != nullptr ? guide->radius : text.arc_radius;
    if (inward && set.letter_count() > 0 && highest(text) >= radius)
      add(Weight::MustFix, "Circle is too small", fmt::format("{}: the letters reach past its centre", name), &piece,
          text.ink);
  }

  // How far the cap line stands inside the guide.
  static double highest(const SeatedText& text) {
    double h = 0;
    for (const PlacedLetter& l : text.letters)
      h = std::max(h, l.h + text.spaced->set->cap_height);
    return h;
  }

  void check_outline(const Piece& piece, const Outline& outline, const std::string& name) {
    Box open;
    std::size_t open_count = 0;
    for (const Contour& c : outline.contours)
      if (!c.closed)
        ++open_count, open.add(c.bounds());
    if (open_count > 0)
      add(Weight::MustFix, "Line is not closed",
          fmt::format("{}: {} open {}", name, open_count, open_count == 1 ? "line" : "lines"), &piece, open);
    std::vector<Box> boxes;
    for (const Contour& c : outline.contours)
      boxes.push_back(c.bounds());
    Box where;
    std::size_t crossings = 0;
    for (std::size_t i = 0; i < boxes.size() && !stop_.stop_requested(); ++i)
      for (std::size_t j = i + 1; j < boxes.size(); ++j)
        if (boxes[i].overlaps(boxes[j]))
          if (const Closest c = closest_boundaries({{outline.contours[i]}}, {{outline.contours[j]}}); c.overlapping)
            ++crossings, where.add(c.on_a);
    if (crossings > 0)
      add(Weight::MustFix, "Overlap would be cut",
          fmt::format("{}: {} {} of lines cross", name, crossings, crossings == 1 ? "pair" : "pairs"), &piece,
          where.grown(5), Cure::SwitchWeldOn);
  }

  const Document& document_;
  const DocumentEvaluator& evaluator_;
  std::stop_token stop_;
  CheckReport report_;
  std::size_t live_ = 0;
};

} // namespace

std::size_t CheckReport::to_look_at() const {
  return static_cast<std::size_t>(
      std::count_if(findings.begin(), findings.end(), [](const Finding& f) { return f.weight != Weight::Note; }));
}

CheckReport check(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop) {
  return Checker(document, evaluator, stop).run();
}

Document cured(const Document& document, const Finding& finding, const DocumentEvaluator& evaluator) {
  switch (finding.cure) {
  case Cure::None:
    break;
  case Cure::SwitchWeldOn:
    return edit_piece(document, finding.piece, [](Piece& p) {
      if (Lettering* l = p.lettering())
        set_weld(l->recipe.finish, true);
      if (OutlinePiece* o = p.outline())
        set_weld(o->finish, true);
    });
  case Cure::SendToGuide:
    return edit_piece(document, finding.piece, [](Piece& p) { p.destination = Destination::Guide; });
  case Cure::MoveOntoSheet: {
    const Result<PieceResult> r = evaluator.piece(document, finding.piece, Depth::Seat);
    if (!r)
      break;
    const auto shift = [](double low, double high, double size) {
      return high - low > size ? (size - low - high) / 2 : low < 0 ? -low : high > size ? size - high : 0;
    };
    return move_pieces(
        document, {finding.piece},
        {shift(r->ink.x0, r->ink.x1, document.sheet.width), shift(r->ink.y0, r->ink.y1, document.sheet.height)});
  }
  }
  return document;
}

const char* cure_name(Cure cure) {
  switch (cure) {
  case Cure::None:
    break;
  case Cure::SwitchWeldOn:
    return "Weld";
  case Cure::SendToGuide:
    return "Make it a guide";
  case Cure::MoveOntoSheet:
    return "Move onto the sheet";
  }
  return "";
}

} // namespace frelm
