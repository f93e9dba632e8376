// Each piece is evaluated as a file would get it and looked at by itself: its guide and face, its run (length, corners,
// windings, collisions, joins, gaps), what a warp did to it, its finished outline. Then pieces of one colour and one
// operation are looked at in pairs whose boxes overlap. Findings are sorted by weight in the end.
#include "cutting/check.h"
#include "cutting/cures.h"
#include "cutting/finding_words.h"
#include "cutting/material_check.h"
#include "cutting/order_check.h"

#include "document/edits.h"
#include "document/measure.h"
#include "document/piece_name.h"
#include "geom/crossings.h"
#include "geom/distance.h"
#include "geom/narrow.h"
#include "lettering/finish.h"
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
    for (Finding& f : check_materials(document_, evaluator_, cut_, stop_))
      report_.findings.push_back(std::move(f));
    for (Finding& f : check_order(document_, evaluator_, cut_, stop_))
      report_.findings.push_back(std::move(f));
    for (Finding& f : report_.findings)
      for (const SetAside& left : document_.set_aside)
        if (left.piece == f.piece && left.finding == finding_id(f.kind))
          f.weight = Weight::Note, f.aside = left.reason;
    if (live_ > 0)
      add(Weight::Note, FindingKind::LettersLive,
          live_ == 1 ? say(FRELM_WORDS("core", "files get their outlines"))
                     : say(FRELM_WORDS("core", "%1 letterings; files get their outlines"), std::to_string(live_)),
          nullptr, {});
    std::stable_sort(report_.findings.begin(), report_.findings.end(),
                     [](const Finding& a, const Finding& b) { return a.weight < b.weight; });
    return std::move(report_);
  }

private:
  void add(Weight weight, FindingKind kind, Said detail, const Piece* piece, const Box& where,
           std::vector<Cure> cures = {}) {
    report_.findings.push_back(
        {weight, kind, std::move(detail), piece != nullptr ? piece->id : 0, where, std::move(cures)});
  }
  std::string short_name(const Piece& piece) const { return frelm::short_name(document_, piece); }
  std::string length(double mm) const { return length_words(document_, mm); }

  void check_piece(const Piece& piece) {
    if (!piece.is_cut())
      return;
    const std::string name = short_name(piece);
    const bool shape = piece.guide() == nullptr || always_shape(piece.guide()->shape.index());
    if (!shape && !riders_of(document_, piece.id).empty()) { // else it is one too
      const Result<PieceResult> r = evaluator_.piece(document_, piece.id, Depth::Seat, stop_);
      add(Weight::MustFix, FindingKind::GuideCut,
          say(piece.destination == Destination::Knife ? FRELM_WORDS("core", "%1 goes to the knife")
                                                      : FRELM_WORDS("core", "%1 goes to the pen"),
              name),
          &piece, r.value_or({}).ink, {Cure::SendToGuide});
      return;
    }
    const Result<PieceResult> result = evaluator_.piece(document_, piece.id, Depth::Finish, stop_);
    if (!result) {
      if (result.error().code == ErrorCode::Cancelled)
        return;
      const bool face = result.error().code == ErrorCode::NotFound;
      add(Weight::MustFix, face ? FindingKind::FaceMissing : FindingKind::CannotBeSet, result.error().said(), &piece,
          {});
      return;
    }
    Box drawn = result->ink;
    for (const PieceLayer& l : result->outline != nullptr ? layers_of(piece, *result) : std::vector<PieceLayer>{}) {
      if (l.destination != Destination::Knife && l.destination != Destination::Pen)
        continue;
      const Box box = l.outline->bounds();
      const bool apart = l.role == LayerRole::Letters && (piece.finish() == nullptr || !piece.finish()->welds());
      cut_.push_back({&piece, l.outline, box, l.colour, l.destination, apart ? result->seated : nullptr, !apart});
      drawn.add(box);
    }
    if (std::optional<Finding> gave_up = fallbacks(result->weld, name)) {
      gave_up->piece = piece.id, gave_up->where = result->ink;
      report_.findings.push_back(std::move(*gave_up));
    }
    if (result->bent != nullptr)
      check_warp(piece, *result, name);
    if (result->finished != nullptr)
      check_holes(piece, *result->finished, name);
    if (const Lettering* lettering = piece.lettering(); lettering != nullptr && result->seated != nullptr)
      check_lettering(piece, *lettering, result->seated, name);
    else if (result->outline != nullptr)
      check_outline(piece, *result->outline, name);
    const Box sheet{-off_sheet, -off_sheet, document_.sheet.width + off_sheet, document_.sheet.height + off_sheet};
    if (!drawn.empty() && !sheet.contains(drawn))
      add(Weight::MustFix, FindingKind::OutsideSheet, say(FRELM_WORDS("core", "%1 reaches past the edge"), name),
          &piece, drawn, {Cure::MoveOntoSheet});
  }

  // Counters that a ring covers.
  void check_holes(const Piece& piece, const Finished& finished, const std::string& name) {
    const Finish& finish = *piece.finish();
    std::size_t closed = 0;
    for (std::size_t i = 0; i < std::min(finished.steps.size(), finish.steps.size()); ++i)
      if (const auto* border = std::get_if<BorderStep>(&finish.steps[i].what);
          border != nullptr && border->holes == HoleRule::Keep)
        closed += finished.steps[i].holes_out;
    if (closed > 0)
      add(Weight::Note, FindingKind::HolesClosed,
          counted(closed, FRELM_WORDS("core", "%1: 1 hole is covered by its ring; a narrower one leaves it open"),
                  FRELM_WORDS("core", "%1: %2 holes are covered by their ring; a narrower one leaves them open"), name),
          &piece, finished.bounds());
  }

  // Two pieces of one colour and one operation whose lines cross are cut through each other. Colours are layers: they
  // may lie over one another; two layers of one piece in one colour may not. One finding for each piece or layer that
  // crosses some before it.
  void check_pieces_apart() {
    constexpr std::size_t most_named = 3;
    std::vector<std::optional<Boundary>> lines(cut_.size()); // of those that come over one another
    const auto line_of = [&](std::size_t i) -> Boundary& {
      return lines[i] ? *lines[i] : lines[i].emplace(*cut_[i].outline);
    };
    for (std::size_t j = 0; j < cut_.size(); ++j) {
      const CutLayer& b = cut_[j];
      Box where;
      std::vector<std::size_t> crossed;
      for (std::size_t i = 0; i < j && crossed.size() <= most_named && !stop_.stop_requested(); ++i) {
        const CutLayer& a = cut_[i];
        if (a.colour != b.colour || a.destination != b.destination || !a.ink.overlaps(b.ink))
          continue;
        std::optional<Point> at = line_of(i).meets(line_of(j));
        if (!at && a.piece == b.piece)
          at = inside_of(*b.outline, *a.outline);
        if (at)
          where.add(*at), crossed.push_back(i);
      }
      if (crossed.empty())
        continue;
      if (cut_[crossed[0]].piece == b.piece) {
        add(Weight::MustFix, FindingKind::PiecesCross,
            say(FRELM_WORDS("core", "%1: layers of one colour lie over one another; give each a colour of its own"),
                short_name(*b.piece)),
            b.piece, b.ink, {Cure::ColourApart});
        continue;
      }
      std::string others = short_name(*cut_[crossed[0]].piece);
      for (std::size_t k = 1; k < std::min(crossed.size(), most_named); ++k)
        others += ", " + short_name(*cut_[crossed[k]].piece);
      add(Weight::MustFix, FindingKind::PiecesCross,
          say(crossed.size() > most_named
                  ? FRELM_WORDS("core", "%1 crosses %2 and others; move it, or give it a colour of its own")
                  : FRELM_WORDS("core", "%1 crosses %2; move it, or give it a colour of its own"),
              short_name(*b.piece), others),
          b.piece, where.grown(15), {Cure::ColourApart});
    }
  }

  // A place of what lies whole on another area, holes left out.
  static std::optional<Point> inside_of(const Outline& upper, const Outline& lower) {
    for (const Contour& c : upper.contours)
      if (!c.segments.empty() && winding_number(lower, c.segments.front().p0) != 0)
        return c.segments.front().p0;
    return std::nullopt;
  }

  void check_lettering(const Piece& piece, const Lettering& lettering, const std::shared_ptr<const SeatedText>& seated,
                       const std::string& name) {
    const SeatedText& text = *seated;
    ++live_;
    const SetText& set = *text.spaced->set;
    if (set.carried_face)
      add(Weight::Look, FindingKind::FaceNotHere,
          say(FRELM_WORDS("core", "%1: cut from the shapes in the job"), lettering.recipe.letters()->face.text()),
          &piece, text.ink);
    if (!set.missing.empty())
      add(Weight::Look, FindingKind::LettersLacking, say(FRELM_WORDS("core", "%1: %2"), name, to_utf8(set.missing)),
          &piece, text.ink);
    if (set.letter_count() == 0)
      add(Weight::Note, FindingKind::NothingLettered, as_it_is(name), &piece, {});
    if (!lettering.recipe.finish.welds()) {
      const std::vector<Gap> overlaps = find_overlaps(text, {.stop = stop_});
      Box where;
      for (const Gap& g : overlaps)
        where.add(g.closest.on_a);
      if (!overlaps.empty())
        add(Weight::MustFix, FindingKind::OverlapCut,
            counted(overlaps.size(), FRELM_WORDS("core", "%1: 1 join not welded"),
                    FRELM_WORDS("core", "%1: %2 joins not welded"), name),
            &piece, where.grown(set.cap_height / 2), {Cure::SwitchWeldOn});
    }
    check_gaps(piece, lettering, seated, name);
    if (stands_straight(lettering.recipe.bend))
      return;
    check_length(piece, lettering, text, name);
    check_corners(piece, text, name);
    check_collisions(piece, lettering, text, name);
    if (text.folds > 0)
      add(Weight::MustFix, FindingKind::FoldsOver,
          say(FRELM_WORDS("core",
                          "%1: the guide bends more tightly than the letters are high; choose a gentler guide or "
                          "smaller letters"),
              name),
          &piece, text.ink);
    const bool on_guide = lettering.recipe.bend.rides();
    const auto line = on_guide ? evaluator_.guide(document_, lettering) : bad_input({});
    const bool inward =
        (on_guide && lettering.recipe.bend.guide.tops == Tops::Inward) ||
        (lettering.recipe.bend.laid_by() == BendKind::Arc && lettering.recipe.bend.arc.side == ArcSide::Under);
    const double radius = line && (*line)->circle ? (*line)->circle->radius : text.arc_radius;
    if (inward && radius > 0 && set.letter_count() > 0 && highest(text) >= radius)
      add(Weight::MustFix, FindingKind::CircleTooSmall,
          say(FRELM_WORDS("core", "%1: the letters reach past its centre"), name), &piece, text.ink);
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
      add(Weight::MustFix, FindingKind::FoldsOver,
          say(FRELM_WORDS("core", "%1: the bend turns them over here; bend less or move its corners"), name), &piece,
          report.fold_box.grown(2));
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
      add(Weight::Look, FindingKind::BentTooFar,
          counted(thin.size(), FRELM_WORDS("core", "%1: 1 stroke thinner than %3, the thinnest %4"),
                  FRELM_WORDS("core", "%1: %2 strokes thinner than %3, the thinnest %4"), name, length(least),
                  length(worst->width)),
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
    const std::vector<Cure> cures = length_cures(lettering, text, evaluator_.faces());
    if (text.guide->closed())
      add(Weight::MustFix, FindingKind::MeetsOwnStart,
          say(FRELM_WORDS("core", "%1: %2 too long for its guide"), name, length(text.overflow)), &piece,
          where.empty() ? text.ink : where, cures);
    else
      add(Weight::MustFix, FindingKind::LongerThanGuide,
          counted(count, FRELM_WORDS("core", "%1: %3 too long, 1 letter beyond the end"),
                  FRELM_WORDS("core", "%1: %3 too long, %2 letters beyond the end"), name, length(text.overflow)),
          &piece, where.empty() ? text.ink : where, cures);
  }

  void check_corners(const Piece& piece, const SeatedText& text, const std::string& name) {
    Box where;
    for (const PlacedLetter& l : text.letters)
      if (l.straddles && !l.blank())
        where.add(l.shape->transformed(l.place).bounds());
    if (!where.empty())
      add(Weight::Look, FindingKind::StraddlesCorner,
          say(FRELM_WORDS("core", "%1: its sides are shorter than the letters"), name), &piece, where,
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
    add(Weight::MustFix, spiral ? FindingKind::WindingsTouch : FindingKind::LettersCollide,
        counted(collisions.size(),
                FRELM_WORDS("core", "%1: 1 pair of letters meet that stand clear of each other in the straight word"),
                FRELM_WORDS("core", "%1: %2 pairs of letters meet that stand clear of each other in the straight word"),
                name),
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
      add(Weight::MustFix, FindingKind::JoinsApart,
          say(keeps
                  ? FRELM_WORDS("core", "%1: %2 can't be kept on this bend; choose a gentler one or close them by hand")
                  : FRELM_WORDS("core", "%1: %2 join in the straight word"),
              name, letters_of(lettering, text, lost)),
          &piece, where_of(text, lost), cures);
    if (!crashed.empty())
      add(Weight::Look, FindingKind::JoinsTogether,
          say(FRELM_WORDS("core", "%1: %2 close a counter or leave one open"), name,
              letters_of(lettering, text, crashed)),
          &piece, where_of(text, crashed), cures);
    if (!narrow.empty())
      add(Weight::Look, FindingKind::GapsNarrow,
          say(FRELM_WORDS("core", "%1: %2 closer than %3"), name, letters_of(lettering, text, narrow),
              length(spacing.least_gap)),
          &piece, where_of(text, narrow),
          spacing.mode == SpacingMode::AsSet && can_be_evened(lettering.recipe) ? std::vector{Cure::EvenGaps}
                                                                                : std::vector<Cure>{});
    if (const std::vector<Gap> far = find_tight(text, spacing.least_gap, stop_); !far.empty())
      add(Weight::Look, FindingKind::LinesClose,
          say(FRELM_WORDS("core", "%1: %2 closer than %3, the closest %4"), name, letters_of(lettering, text, far),
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
      add(Weight::Look, FindingKind::LeansFar,
          say(FRELM_WORDS("core", "%1: less than half of their width is left"), name), &piece, where);
  }

  // How far the cap line stands inside the guide.
  static double highest(const SeatedText& text) {
    double h = 0;
    for (const PlacedLetter& l : text.letters)
      h = std::max(h, l.h + text.spaced->set->cap_height);
    return h;
  }

  void check_outline(const Piece& piece, const Outline& outline, const std::string& name) {
    if (const OutlinePiece* drawn = piece.outline())
      for (Finding& f : check_drawn(document_, piece, *drawn->outline, name))
        report_.findings.push_back(std::move(f));
    Box open;
    std::size_t open_count = 0;
    for (const Contour& c : outline.contours)
      if (!c.closed)
        ++open_count, open.add(c.bounds());
    if (open_count > 0)
      add(Weight::MustFix, FindingKind::NotClosed,
          counted(open_count, FRELM_WORDS("core", "%1: 1 open line"), FRELM_WORDS("core", "%1: %2 open lines"), name),
          &piece, open);
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
      add(Weight::MustFix, FindingKind::OverlapCut,
          counted(std::min(crossings, most_crossings), FRELM_WORDS("core", "%1: 1 pair of lines cross"),
                  crossings >= most_crossings ? FRELM_WORDS("core", "%1: more than %2 pairs of lines cross")
                                              : FRELM_WORDS("core", "%1: %2 pairs of lines cross"),
                  name),
          &piece, where.grown(5), {Cure::SwitchWeldOn});
    std::size_t tangled = 0;
    Box tangle;
    for (const Contour& c : outline.contours)
      if (const std::optional<Point> at = stop_.stop_requested() ? std::nullopt : crosses_itself(c))
        ++tangled, tangle.add(*at);
    if (tangled > 0)
      add(Weight::MustFix, FindingKind::CrossesItself,
          counted(tangled, FRELM_WORDS("core", "%1: 1 line would be cut across"),
                  FRELM_WORDS("core", "%1: %2 lines would be cut across"), name),
          &piece, tangle.grown(5), {Cure::SwitchWeldOn});
  }

  const Document& document_;
  const DocumentEvaluator& evaluator_;
  std::stop_token stop_;
  CheckReport report_;
  std::size_t live_ = 0;
  std::vector<CutLayer> cut_;
};

} // namespace

Words finding_title(FindingKind kind) {
  switch (kind) {
  case FindingKind::GuideCut:
    return FRELM_WORDS("core", "Guide would be cut");
  case FindingKind::FaceMissing:
    return FRELM_WORDS("core", "Face is missing");
  case FindingKind::CannotBeSet:
    return FRELM_WORDS("core", "Can't be set");
  case FindingKind::OutsideSheet:
    return FRELM_WORDS("core", "Outside the sheet");
  case FindingKind::PiecesCross:
    return FRELM_WORDS("core", "Pieces are cut into each other");
  case FindingKind::FaceNotHere:
    return FRELM_WORDS("core", "Face is not on this machine");
  case FindingKind::LettersLacking:
    return FRELM_WORDS("core", "Letters the face lacks");
  case FindingKind::NothingLettered:
    return FRELM_WORDS("core", "Nothing lettered yet");
  case FindingKind::OverlapCut:
    return FRELM_WORDS("core", "Overlap would be cut");
  case FindingKind::FoldsOver:
    return FRELM_WORDS("core", "Letters fold over");
  case FindingKind::CircleTooSmall:
    return FRELM_WORDS("core", "Circle is too small");
  case FindingKind::BentTooFar:
    return FRELM_WORDS("core", "Bent too far");
  case FindingKind::MeetsOwnStart:
    return FRELM_WORDS("core", "Run meets its own start");
  case FindingKind::LongerThanGuide:
    return FRELM_WORDS("core", "Run is longer than its guide");
  case FindingKind::StraddlesCorner:
    return FRELM_WORDS("core", "Letters straddle a corner");
  case FindingKind::WindingsTouch:
    return FRELM_WORDS("core", "Windings touch");
  case FindingKind::LettersCollide:
    return FRELM_WORDS("core", "Letters run into each other");
  case FindingKind::JoinsApart:
    return FRELM_WORDS("core", "Joins come apart");
  case FindingKind::JoinsTogether:
    return FRELM_WORDS("core", "Joins run together");
  case FindingKind::GapsNarrow:
    return FRELM_WORDS("core", "Gaps too narrow to weed");
  case FindingKind::LinesClose:
    return FRELM_WORDS("core", "Lines or windings too close to weed");
  case FindingKind::LeansFar:
    return FRELM_WORDS("core", "Letters lean very far");
  case FindingKind::NotClosed:
    return FRELM_WORDS("core", "Line is not closed");
  case FindingKind::CrossesItself:
    return FRELM_WORDS("core", "Line crosses itself");
  case FindingKind::CurvesBecameLines:
    return FRELM_WORDS("core", "Curves became short lines");
  case FindingKind::EndsMoved:
    return FRELM_WORDS("core", "Ends were moved to meet");
  case FindingKind::StrokesThin:
    return FRELM_WORDS("core", "Strokes too thin for the material");
  case FindingKind::GapsThin:
    return FRELM_WORDS("core", "Gaps too narrow for the material");
  case FindingKind::TooLarge:
    return FRELM_WORDS("core", "Larger than the material");
  case FindingKind::CutTwice:
    return FRELM_WORDS("core", "Lines would be cut twice");
  case FindingKind::SizeNotOrdered:
    return FRELM_WORDS("core", "Not the size that was ordered");
  case FindingKind::PartsNotOrdered:
    return FRELM_WORDS("core", "Not in as many parts as were ordered");
  case FindingKind::ColourUnlisted:
    return FRELM_WORDS("core", "Colour without a material");
  case FindingKind::PictureOnly:
    return FRELM_WORDS("core", "Nothing but a picture");
  case FindingKind::HolesFilled:
    return FRELM_WORDS("core", "Holes would be filled");
  case FindingKind::HolesClosed:
    return FRELM_WORDS("core", "Holes close in a ring");
  case FindingKind::NodesClose:
    return FRELM_WORDS("core", "Nodes very close");
  case FindingKind::Spikes:
    return FRELM_WORDS("core", "Spikes");
  case FindingKind::LinesTiny:
    return FRELM_WORDS("core", "Curves of tiny lines");
  case FindingKind::NodesDense:
    return FRELM_WORDS("core", "Too many nodes for the machine");
  case FindingKind::LettersLive:
    return FRELM_WORDS("core", "Letters are live");
  case FindingKind::CheckFailed:
    return FRELM_WORDS("core", "The check failed");
  }
  return {};
}

const char* finding_id(FindingKind kind) {
  static constexpr const char* ids[] = {
      "guide-cut",        "face-missing",      "cannot-be-set",    "outside-sheet",     "pieces-cross",
      "face-not-here",    "letters-lacking",   "nothing-lettered", "overlap-cut",       "folds-over",
      "circle-too-small", "bent-too-far",      "meets-own-start",  "longer-than-guide", "straddles-corner",
      "windings-touch",   "letters-collide",   "joins-apart",      "joins-together",    "gaps-narrow",
      "lines-close",      "leans-far",         "not-closed",       "crosses-itself",    "curves-became-lines",
      "ends-moved",       "strokes-thin",      "gaps-thin",        "too-large",         "cut-twice",
      "size-not-ordered", "parts-not-ordered", "colour-unlisted",  "picture-only",      "holes-filled",
      "holes-closed",     "nodes-close",       "spikes",           "lines-tiny",        "nodes-dense",
      "letters-live",     "check-failed"};
  static_assert(std::size(ids) == static_cast<std::size_t>(FindingKind::CheckFailed) + 1);
  return ids[static_cast<std::size_t>(kind)];
}

Document with_set_aside(Document document, FindingKind kind, PieceId piece, const std::string& reason) {
  const std::string id = finding_id(kind);
  std::erase_if(document.set_aside, [&](const SetAside& s) { return s.finding == id && s.piece == piece; });
  if (!reason.empty() && document.set_aside.size() < most_set_aside) {
    std::u32string kept = from_utf8(reason);
    kept.resize(std::min(kept.size(), longest_reason / 4));
    document.set_aside.push_back({id, piece, to_utf8(kept)});
  }
  return document;
}

std::optional<Finding> fallbacks(const WeldReport& report, const std::string& name) {
  constexpr double least_move = 0.001; // mm; less is seen by no blade
  const std::size_t lines = report.polyline_contours, joins = report.snapped_joins;
  if (lines > 0)
    return Finding{Weight::Look,
                   FindingKind::CurvesBecameLines,
                   counted(lines,
                           FRELM_WORDS("core", "%1: 1 outline could not be kept as curves; it is within 0.002 mm, with "
                                               "many nodes"),
                           FRELM_WORDS("core", "%1: %2 outlines could not be kept as curves; they are within 0.002 mm, "
                                               "with many nodes"),
                           name),
                   0,
                   {},
                   {}};
  if (joins > 0 && report.worst_move >= least_move)
    return Finding{Weight::Note,
                   FindingKind::EndsMoved,
                   counted(joins, FRELM_WORDS("core", "%1: 1 join of the weld, by up to %3 mm"),
                           FRELM_WORDS("core", "%1: %2 joins of the weld, by up to %3 mm"), name,
                           fmt::format("{:.3f}", report.worst_move)),
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
