// One number is solved for: a shift along the guide or a turn. The tilt is sampled around the present value, and the
// change of sign nearest to it is closed in on by bisection.
#include "document/level.h"

namespace frelm {
namespace {

constexpr double level_within = 0.0005; // mm
constexpr int samples = 96;             // over the whole range

Point foot(const PlacedLetter& l, double cap, LetterSide side) {
  return l.place(Point{baseline_foot(*l.plain, cap, side), 0});
}

} // namespace

std::optional<double> tilt_of(const SeatedText& text) {
  const PlacedLetter *first = nullptr, *last = nullptr;
  for (const PlacedLetter& l : text.letters)
    if (!l.blank() && l.line == 0) {
      if (first == nullptr)
        first = &l;
      last = &l;
    }
  if (first == last)
    return std::nullopt;
  const double cap = text.spaced->set->cap_height;
  // Flowing letters are already on the sheet: their feet follow the guide like turned ones.
  const auto place_of = [&](const PlacedLetter& l, LetterSide side) {
    if (l.shape == l.plain)
      return foot(l, cap, side);
    const double x = baseline_foot(*l.plain, cap, side);
    const CurvePlace p = text.guide->at(l.s + x - l.advance / 2);
    return p.point + up_of(p.tangent) * l.h;
  };
  return place_of(*last, LetterSide::Right).y - place_of(*first, LetterSide::Left).y;
}

Result<Document> leveled(const Document& document, PieceId id, const DocumentEvaluator& evaluator,
                         std::stop_token stop) {
  const Piece* piece = document.find(id);
  const Lettering* lettering = piece != nullptr ? piece->lettering() : nullptr;
  if (lettering == nullptr ||
      (lettering->recipe.bend.kind != BendKind::Arc && lettering->recipe.bend.kind != BendKind::Guide))
    return bad_input(FRELM_WORDS("core", "only letters on an arc or a guide can be leveled"),
                     FRELM_WORDS("core", "Level"));
  const Bend& bend = lettering->recipe.bend;
  const Result<PieceResult> now = evaluator.piece(document, id, Depth::Seat, stop);
  if (!now)
    return now.error();
  if (now->seated == nullptr || !tilt_of(*now->seated))
    return bad_input(FRELM_WORDS("core", "there must be two letters to level"), FRELM_WORDS("core", "Level"));
  const Piece* guide = bend.kind == BendKind::Guide ? document.find(bend.guide.guide) : nullptr;
  const bool arc_guide = guide != nullptr && guide->guide() != nullptr && !guide->locked &&
                         std::holds_alternative<ArcGuide>(guide->guide()->shape);
  const double whole = now->seated->guide_length;

  // v: degrees for arcs, mm along the guide otherwise.
  const auto changed = [&](double v) {
    if (bend.kind == BendKind::Arc)
      return edit_piece(document, id, [&](Piece& p) {
        p.lettering()->placement.angle = wrap_degrees(p.lettering()->placement.angle + v);
      });
    if (arc_guide)
      return edit_piece(document, guide->id, [&](Piece& p) {
        auto& arc = std::get<ArcGuide>(p.guide()->shape);
        arc.start = wrap_degrees(arc.start + v);
      });
    return edit_piece(document, id, [&](Piece& p) {
      GuideBend& b = p.lettering()->recipe.bend.guide;
      const double sign = b.anchor == Anchor::EndsAt ? -1 : 1;
      const auto line = evaluator.guide(document, *lettering);
      if (b.by == AlongBy::Angle && line && (*line)->circle) {
        b.angle = wrap_degrees(b.angle + (b.tops == Tops::Outward ? 1 : -1) * degrees(v / (*line)->circle->radius));
      } else if (b.by == AlongBy::Angle && line) { // from here on by distance
        const OrientedGuide along = oriented(**line, b.tops);
        const double s = along.curve->closed() ? length_at_angle(**line, along, b.angle) : along.curve->length() / 2;
        b.by = AlongBy::Distance;
        b.distance = (b.anchor == Anchor::EndsAt ? along.curve->length() - s : s) + sign * v;
      } else if (b.by == AlongBy::Percent) {
        b.percent += sign * v / whole * 100;
      } else {
        b.distance += sign * v;
      }
    });
  };
  const auto tilt = [&](double v) -> double {
    const Result<PieceResult> r = evaluator.piece(changed(v), id, Depth::Seat, stop);
    const auto t = r && r->seated != nullptr ? tilt_of(*r->seated) : std::nullopt;
    return t.value_or(std::numeric_limits<double>::quiet_NaN());
  };
  const double at_rest = tilt(0);
  if (std::abs(at_rest) <= level_within)
    return document;
  const bool by_angle = bend.kind == BendKind::Arc || arc_guide;
  // An open guide's run stays on the guide.
  const double range = by_angle ? 90 : now->seated->guide->closed() ? whole / 2 : whole;
  double before_up = at_rest, before_down = at_rest;
  for (int i = 1; i <= samples / 2; ++i) {
    const double step = range / (samples / 2.0);
    if (stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "Level")};
    for (const int way : {1, -1}) {
      const double v = way * step * i, t = tilt(v);
      double& before = way > 0 ? before_up : before_down;
      if (std::isfinite(t) && std::isfinite(before) && (t < 0) != (before < 0)) {
        double lo = way * step * (i - 1), hi = v, low = before;
        for (int k = 0; k < 80; ++k) {
          const double m = (lo + hi) / 2, tm = tilt(m);
          if (std::abs(tm) <= level_within)
            return changed(m);
          if ((tm < 0) == (low < 0))
            lo = m, low = tm;
          else
            hi = m;
        }
      }
      before = t;
    }
  }
  return bad_input(FRELM_WORDS("core", "the run is level nowhere on this guide"), FRELM_WORDS("core", "Level"));
}

} // namespace frelm
