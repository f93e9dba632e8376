#include "cutting/check.h"
#include "cutting/cures.h"

#include "document/edits.h"
#include "document/measure.h"
#include "geom/crossings.h"
#include "geom/distance.h"
#include "geom/narrow.h"
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
    check_pieces_apart();
    if (live_ > 0)
      add(Weight::Note, live_ == 1 ? "Letters are live" : fmt::format("{} letterings are live", live_),
          "files get their outlines", nullptr, {});
    std::stable_sort(report_.findings.begin(), report_.findings.end(),
                     [](const Finding& a, const Finding& b) { return a.weight < b.weight; });
    return std::move(report_);
  }

private:
  void add(Weight weight, std::string title, std::string detail, const Piece* piece, const Box& where,
           std::vector<Cure> cures = {}) {
    report_.findings.push_back(
        {weight, std::move(title), std::move(detail), piece != nullptr ? piece->id : 0, where, std::move(cures)});
  }
  // At most some 32 letters of a piece's name: findings are read at a glance.
  std::string short_name(const Piece& piece) const {
    constexpr std::size_t longest = 32;
    const std::u32string name = from_utf8(display_name(document_, piece));
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
          r.value_or({}).ink, {Cure::SendToGuide});
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
    if (result->outline != nullptr)
      cut_.push_back({&piece, result->outline, result->ink});
    if (std::optional<Finding> gave_up = fallbacks(result->weld, name)) {
      gave_up->piece = piece.id, gave_up->where = result->ink;
      report_.findings.push_back(std::move(*gave_up));
    }
    if (result->bent != nullptr)
      check_warp(piece, *result, name);
    if (const Lettering* lettering = piece.lettering(); lettering != nullptr && result->seated != nullptr)
      check_lettering(piece, *lettering, result->seated, name);
    else if (result->outline != nullptr)
      check_outline(piece, *result->outline, name);
    const Box sheet{-off_sheet, -off_sheet, document_.sheet.width + off_sheet, document_.sheet.height + off_sheet};
    if (!result->ink.empty() && !sheet.contains(result->ink))
      add(Weight::MustFix, "Outside the sheet", name + " reaches past the edge", &piece, result->ink,
          {Cure::MoveOntoSheet});
  }

  // Two pieces of one colour and one operation whose lines cross are cut through each other. Colours are layers: they
  // may lie over one another. One finding for each piece that crosses some before it.
  void check_pieces_apart() {
    constexpr std::size_t most_named = 3;
    std::vector<std::optional<Boundary>> lines(cut_.size()); // of those that come over one another
    const auto line_of = [&](std::size_t i) -> Boundary& {
      return lines[i] ? *lines[i] : lines[i].emplace(*cut_[i].outline);
    };
    for (std::size_t j = 0; j < cut_.size(); ++j) {
      const Cut& b = cut_[j];
      Box where;
      std::vector<std::size_t> crossed;
      for (std::size_t i = 0; i < j && crossed.size() <= most_named && !stop_.stop_requested(); ++i) {
        const Cut& a = cut_[i];
        if (a.piece->colour != b.piece->colour || a.piece->destination != b.piece->destination ||
            !a.ink.overlaps(b.ink))
          continue;
        if (const auto at = line_of(i).meets(line_of(j)))
          where.add(*at), crossed.push_back(i);
      }
      if (crossed.empty())
        continue;
      std::string others = short_name(*cut_[crossed[0]].piece);
      for (std::size_t k = 1; k < std::min(crossed.size(), most_named); ++k)
        others += (k + 1 == crossed.size() ? " and " : ", ") + short_name(*cut_[crossed[k]].piece);
      add(Weight::MustFix, "Pieces are cut into each other",
          fmt::format("{} crosses {}{}; move it, or give it a colour of its own", short_name(*b.piece), others,
                      crossed.size() > most_named ? " and others" : ""),
          b.piece, where.grown(15));
    }
  }

  void check_lettering(const Piece& piece, const Lettering& lettering, const std::shared_ptr<const SeatedText>& seated,
                       const std::string& name) {
    const SeatedText& text = *seated;
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
      const std::vector<Gap> overlaps = find_overlaps(text, {.stop = stop_});
      Box where;
      for (const Gap& g : overlaps)
        where.add(g.closest.on_a);
      if (!overlaps.empty())
        add(Weight::MustFix, "Overlap would be cut",
            fmt::format("{}: {} {} not welded", name, overlaps.size(), overlaps.size() == 1 ? "join" : "joins"), &piece,
            where.grown(set.cap_height / 2), {Cure::SwitchWeldOn});
    }
    check_gaps(piece, lettering, seated, name);
    if (stands_straight(lettering.recipe.bend))
      return;
    check_length(piece, lettering, text, name);
    check_corners(piece, text, name);
    check_collisions(piece, lettering, text, name);
    if (text.folds > 0)
      add(Weight::MustFix, "Letters fold over",
          name + ": the guide bends more tightly than the letters are high; choose a gentler guide or smaller letters",
          &piece, text.ink);
    const bool on_guide = lettering.recipe.bend.rides();
    const auto line = on_guide ? evaluator_.guide(document_, lettering) : bad_input("");
    const bool inward =
        (on_guide && lettering.recipe.bend.guide.tops == Tops::Inward) ||
        (lettering.recipe.bend.laid_by() == BendKind::Arc && lettering.recipe.bend.arc.side == ArcSide::Under);
    const double radius = line && (*line)->circle ? (*line)->circle->radius : text.arc_radius;
    if (inward && radius > 0 && set.letter_count() > 0 && highest(text) >= radius)
      add(Weight::MustFix, "Circle is too small", fmt::format("{}: the letters reach past its centre", name), &piece,
          text.ink);
    check_lean(piece, lettering, text, name);
  }

  // Lines that are straight before any warp, which moves no letter into another.
  static bool stands_straight(const Bend& bend) {
    return bend.laid_by() == BendKind::Straight || bend.laid_by() == BendKind::Rails;
  }

  // What a warp of the block did: folds, and strokes thinner than can be cut.
  void check_warp(const Piece& piece, const PieceResult& result, const std::string& name) {
    const Lettering& lettering = *piece.lettering();
    const WarpReport& report = result.bent->report;
    if (report.folds > 0)
      add(Weight::MustFix, "Letters fold over", name + ": the bend turns them over here; bend less or move its corners",
          &piece, report.fold_box.grown(2));
    const double least = lettering.recipe.bend.least_stroke;
    if (!(least > 0))
      return;
    std::vector<NarrowPlace> thin;
    const auto look = [&](const Outline& sound) {
      const std::vector<NarrowPlace> found = narrow_places(sound, least, NarrowSide::Strokes, {.stop = stop_});
      thin.insert(thin.end(), found.begin(), found.end());
    };
    if (lettering.recipe.finish.welds() && result.outline != nullptr)
      look(*result.outline);
    else if (result.seated != nullptr)
      for (const PlacedLetter& l : result.seated->letters)
        look(*l.shape);
    const auto worst = std::min_element(thin.begin(), thin.end(),
                                        [](const NarrowPlace& a, const NarrowPlace& b) { return a.width < b.width; });
    if (worst != thin.end())
      add(Weight::Look, bent_too_far,
          fmt::format("{}: {} {} thinner than {}, the thinnest {}", name, thin.size(),
                      thin.size() == 1 ? "stroke" : "strokes", length(least), length(worst->width)),
          &piece, worst->where.grown(1));
  }

  void check_length(const Piece& piece, const Lettering& lettering, const SeatedText& text, const std::string& name) {
    if (!(text.overflow > 0))
      return;
    Box where;
    std::size_t count = 0;
    for (const PlacedLetter& l : text.letters)
      if (!l.blank() && (l.beyond || l.meets_start))
        ++count, where.add(l.shape->transformed(l.place).bounds());
    const std::vector<Cure> cures = length_cures(lettering, text);
    if (text.guide->closed())
      add(Weight::MustFix, "Run meets its own start",
          fmt::format("{}: {} too long for its guide", name, length(text.overflow)), &piece,
          where.empty() ? text.ink : where, cures);
    else
      add(Weight::MustFix, "Run is longer than its guide",
          fmt::format("{}: {} too long, {} {} beyond the end", name, length(text.overflow), count,
                      count == 1 ? "letter" : "letters"),
          &piece, where.empty() ? text.ink : where, cures);
  }

  void check_corners(const Piece& piece, const SeatedText& text, const std::string& name) {
    Box where;
    for (const PlacedLetter& l : text.letters)
      if (l.straddles && !l.blank())
        where.add(l.shape->transformed(l.place).bounds());
    if (!where.empty())
      add(Weight::Look, "Letters straddle a corner", name + ": its sides are shorter than the letters", &piece, where,
          {Cure::ShrinkLetters});
  }

  void check_collisions(const Piece& piece, const Lettering& lettering, const SeatedText& text,
                        const std::string& name) {
    const std::vector<Gap> collisions = find_collisions(text, stop_);
    if (collisions.empty())
      return;
    Box where;
    for (const Gap& g : collisions)
      where.add(g.closest.on_a);
    const bool spiral =
        !text.guide->pieces().empty() && std::holds_alternative<SpiralPiece>(text.guide->pieces().front());
    const bool neighbours = std::any_of(collisions.begin(), collisions.end(), [&](const Gap& g) {
      return text.letters[g.left].run == text.letters[g.right].run && g.right - g.left <= 2;
    });
    std::vector<Cure> cures{Cure::ShrinkLetters};
    if (neighbours && lettering.recipe.spacing.mode == SpacingMode::AsSet && can_be_evened(lettering.recipe))
      cures.insert(cures.begin(), Cure::EvenGaps);
    add(Weight::MustFix, spiral ? "Windings touch" : "Letters run into each other",
        fmt::format("{}: {} {} of letters meet that stand clear of each other in the straight word", name,
                    collisions.size(), collisions.size() == 1 ? "pair" : "pairs"),
        &piece, where.grown(text.spaced->set->cap_height / 2), cures);
  }

  // The two letters of each pair: "a–r, r–i and 3 more".
  static std::string letters_of(const Lettering& lettering, const SeatedText& text, const std::vector<Gap>& gaps) {
    constexpr std::size_t most = 3;
    std::u32string typed = plain_text(lettering.recipe.letters()->text);
    if (lettering.recipe.spacing.mode == SpacingMode::Repeat)
      typed += lettering.recipe.spacing.separator;
    const auto letter = [&](std::size_t i) {
      return to_utf8(typed.substr(text.letters[i].first, text.letters[i].count));
    };
    std::string out;
    for (std::size_t i = 0; i < gaps.size() && i < most; ++i)
      out = fmt::format("{}{}{}–{}", out, i > 0 ? ", " : "", letter(gaps[i].left), letter(gaps[i].right));
    return gaps.size() > most ? fmt::format("{} and {} more", out, gaps.size() - most) : out;
  }
  static Box where_of(const SeatedText& text, const std::vector<Gap>& gaps) {
    Box where;
    for (const Gap& g : gaps)
      where.add(g.closest.on_a), where.add(g.closest.on_b);
    return where.grown(text.spaced->set->cap_height / 2);
  }

  void check_gaps(const Piece& piece, const Lettering& lettering, const std::shared_ptr<const SeatedText>& seated,
                  const std::string& name) {
    const SeatedText& text = *seated;
    const Spacing& spacing = lettering.recipe.spacing;
    const bool keeps = spacing.mode == SpacingMode::KeepJoined;
    if (text.runs.empty() || (stands_straight(lettering.recipe.bend) && spacing.least_gap <= 0))
      return;
    if (!keeps && spacing.least_gap <= 0 && !joins_when_straight(text))
      return;
    std::vector<Gap> lost, crashed, narrow;
    const auto gaps = evaluator_.gaps(seated, stop_);
    for (const Gap& g : *gaps) {
      if (g.look == GapLook::Lost)
        lost.push_back(g);
      else if (g.look == GapLook::Crashed && g.target_depth) // others are collisions
        crashed.push_back(g);
      if (!g.joined() && !g.target_depth && g.closest.distance < spacing.least_gap - least_gap_slack)
        narrow.push_back(g);
    }
    const std::vector<Cure> cures =
        !keeps && can_be_evened(lettering.recipe) ? std::vector{Cure::KeepJoined} : std::vector<Cure>{};
    if (!lost.empty())
      add(Weight::MustFix, lost.size() == 1 ? "A join comes apart" : "Joins come apart",
          fmt::format("{}: {} {}", name, letters_of(lettering, text, lost),
                      keeps ? "can't be kept on this bend; choose a gentler one or close them by hand"
                            : "join in the straight word"),
          &piece, where_of(text, lost), cures);
    if (!crashed.empty())
      add(Weight::Look, crashed.size() == 1 ? "A join runs together" : "Joins run together",
          fmt::format("{}: {} close a counter or leave one open", name, letters_of(lettering, text, crashed)), &piece,
          where_of(text, crashed), cures);
    if (!narrow.empty())
      add(Weight::Look, "Gaps too narrow to weed",
          fmt::format("{}: {} closer than {}", name, letters_of(lettering, text, narrow), length(spacing.least_gap)),
          &piece, where_of(text, narrow),
          spacing.mode == SpacingMode::AsSet && can_be_evened(lettering.recipe) ? std::vector{Cure::EvenGaps}
                                                                                : std::vector<Cure>{});
    if (const std::vector<Gap> far = find_tight(text, spacing.least_gap, stop_); !far.empty())
      add(Weight::Look, "Lines or windings too close to weed",
          fmt::format("{}: {} closer than {}, the closest {}", name, letters_of(lettering, text, far),
                      length(spacing.least_gap), length(far.front().closest.distance)),
          &piece, where_of(text, far), {Cure::ShrinkLetters});
  }

  static bool joins_when_straight(const SeatedText& text) {
    const PlacedLetter* last = nullptr;
    for (const PlacedLetter& l : text.letters) {
      if (l.blank())
        continue;
      const auto& lines = text.spaced->set->lines;
      if (last != nullptr && last->run == l.run &&
          text.straight->join(lines[last->line][last->cluster], lines[l.line][l.cluster], l.plain_s - last->plain_s))
        return true;
      last = &l;
    }
    return false;
  }

  void check_lean(const Piece& piece, const Lettering& lettering, const SeatedText& text, const std::string& name) {
    constexpr double steep = 60; // degrees: half of the width is left
    if (lettering.recipe.bend.stance != Stance::Lean)
      return;
    Box where;
    for (const PlacedLetter& l : text.letters)
      if (!l.blank() && std::abs(std::cos(l.angle)) < std::cos(radians(steep)))
        where.add(l.shape->transformed(l.place).bounds());
    if (!where.empty())
      add(Weight::Look, "Letters lean very far", name + ": less than half of their width is left", &piece, where);
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
    std::vector<std::optional<Boundary>> lines(boxes.size());
    const auto line_of = [&](std::size_t i) -> Boundary& {
      return lines[i] ? *lines[i] : lines[i].emplace(Outline{{outline.contours[i]}});
    };
    Box where;
    std::size_t crossings = 0;
    constexpr std::size_t most_crossings = 1000; // enough to see that it is all of them
    for (std::size_t i = 0; i < boxes.size() && crossings < most_crossings && !stop_.stop_requested(); ++i)
      for (std::size_t j = i + 1; j < boxes.size(); ++j)
        if (boxes[i].overlaps(boxes[j]))
          if (const auto at = line_of(i).meets(line_of(j)))
            ++crossings, where.add(*at);
    if (crossings > 0)
      add(Weight::MustFix, "Overlap would be cut",
          fmt::format("{}: {}{} {} of lines cross", name, crossings >= most_crossings ? "more than " : "",
                      std::min(crossings, most_crossings), crossings == 1 ? "pair" : "pairs"),
          &piece, where.grown(5), {Cure::SwitchWeldOn});
    std::size_t tangled = 0;
    Box tangle;
    for (const Contour& c : outline.contours)
      if (const std::optional<Point> at = stop_.stop_requested() ? std::nullopt : crosses_itself(c))
        ++tangled, tangle.add(*at);
    if (tangled > 0)
      add(Weight::MustFix, "Line crosses itself",
          fmt::format("{}: {} {} would be cut across", name, tangled, tangled == 1 ? "line" : "lines"), &piece,
          tangle.grown(5), {Cure::SwitchWeldOn});
  }

  const Document& document_;
  const DocumentEvaluator& evaluator_;
  std::stop_token stop_;
  CheckReport report_;
  std::size_t live_ = 0;
  struct Cut {
    const Piece* piece;
    std::shared_ptr<const Outline> outline; // finished
    Box ink;
  };
  std::vector<Cut> cut_;
};

} // namespace

std::optional<Finding> fallbacks(const WeldReport& report, const std::string& name) {
  constexpr double least_move = 0.001; // mm; less is seen by no blade
  const std::size_t lines = report.polyline_contours, joins = report.snapped_joins;
  if (lines > 0)
    return Finding{Weight::Look,
                   "Curves became short lines",
                   fmt::format("{}: {} {} could not be kept as curves; they are within 0.002 mm, with many nodes", name,
                               lines, lines == 1 ? "outline" : "outlines"),
                   0,
                   {},
                   {}};
  if (joins > 0 && report.worst_move >= least_move)
    return Finding{Weight::Note,
                   "Ends were moved to meet",
                   fmt::format("{}: {} {} of the weld, by up to {:.3f} mm", name, joins, joins == 1 ? "join" : "joins",
                               report.worst_move),
                   0,
                   {},
                   {}};
  return std::nullopt;
}

std::size_t CheckReport::to_look_at() const {
  return static_cast<std::size_t>(
      std::count_if(findings.begin(), findings.end(), [](const Finding& f) { return f.weight != Weight::Note; }));
}

CheckReport check(const Document& document, const DocumentEvaluator& evaluator, std::stop_token stop) {
  return Checker(document, evaluator, stop).run();
}

} // namespace frelm
