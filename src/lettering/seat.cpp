#include "lettering/seat.h"

namespace frelm {
namespace {

double run_start(const SpacedLine& line, const RunPlace& place) {
  switch (place.anchor) {
  case RunAnchor::Start:
    return place.s;
  case RunAnchor::End:
    return place.s - line.length;
  case RunAnchor::Middle:
    break;
  }
  return place.s - (place.centring == Centring::Ink ? (line.ink_start + line.ink_end) / 2 : line.length / 2);
}

// Straight setting: each line along its own baseline, aligned at the placement.
SeatedText seat_straight(std::shared_ptr<const SpacedText> spaced, const Letters& letters, const Placement& placement,
                         double height) {
  SeatedText out;
  const double turn = radians(placement.angle), pitch = letters.line_pitch * spaced->set->cap_height;
  out.guide_length = out.used_length = spaced->longest;
  const double share = letters.alignment == Alignment::Left || letters.alignment == Alignment::Justified ? 0
                       : letters.alignment == Alignment::Centre                                          ? 0.5
                                                                                                         : 1;
  const Vec along = direction(turn);
  const Point start = placement.at - along * (share * spaced->longest);
  out.guide = std::make_shared<const Curve>(Curve::line(start, start + along * std::max(spaced->longest, 1e-3)));
  for (std::size_t l = 0; l < spaced->lines.size(); ++l) {
    const SpacedLine& line = spaced->lines[l];
    const double h = height - static_cast<double>(l) * pitch;
    for (std::size_t i = 0; i < line.middles.size(); ++i) {
      const SetCluster& c = spaced->set->lines[l][i];
      const double s = line.middles[i] + share * (spaced->longest - line.length);
      const Point origin = start + along * (s - c.advance / 2) + up_of(along) * h;
      out.letters.push_back({l, c.first, c.count, s, h, c.advance, origin, turn, false, c.space, c.missing, c.shape});
    }
  }
  out.spaced = std::move(spaced);
  return out;
}

void measure_ink(SeatedText& text) {
  for (const PlacedLetter& l : text.letters)
    if (!l.blank())
      text.ink.add(l.shape->transformed(l.placement()).bounds());
}

Result<RunPlace> place_on_circle(const GuideBend& bend, const CircleGuide& circle) {
  const double around = 2 * pi * circle.radius;
  RunPlace place;
  place.centring = Centring::Ink;
  switch (bend.anchor) {
  case Anchor::CentredAt: {
    const double s = circle.radius * radians(bend.angle - circle.start);
    place.s = bend.tops == Tops::Outward ? s : around - s;
    place.anchor = RunAnchor::Middle;
    break;
  }
  case Anchor::StartsAt:
    place.s = bend.distance;
    place.anchor = RunAnchor::Start;
    break;
  case Anchor::EndsAt:
    place.s = around - bend.distance;
    place.anchor = RunAnchor::End;
    break;
  }
  return place;
}

} // namespace

Curve curve_of(const CircleGuide& guide) {
  return Curve::circle(guide.centre, guide.radius, radians(guide.start));
}

Curve arc_curve(ArcSide side, double radius, const Placement& placement) {
  const bool over = side == ArcSide::Over;
  const Curve circle = Curve::circle({0, over ? radius : -radius}, radius, over ? pi : 0);
  return (over ? circle : circle.reversed()).transformed_rigidly(radians(placement.angle), placement.at);
}

double sit_height(SitBy sit_by, double cap_height) {
  return sit_by == SitBy::Base ? 0 : sit_by == SitBy::Middle ? -cap_height / 2 : -cap_height;
}

SeatedText seat_on_curve(std::shared_ptr<const SpacedText> spaced, Curve guide, const RunPlace& place) {
  SeatedText out;
  out.guide_length = guide.length();
  for (std::size_t l = 0; l < spaced->lines.size(); ++l) {
    const SpacedLine& line = spaced->lines[l];
    const double start = run_start(line, place), h = place.height - static_cast<double>(l) * place.line_pitch;
    const double over = guide.closed() ? line.length - guide.length()
                                       : std::max(0.0, -start) + std::max(0.0, start + line.length - guide.length());
    out.overflow = std::max(out.overflow, std::max(0.0, over));
    out.used_length = std::max(out.used_length, line.length);
    for (std::size_t i = 0; i < line.middles.size(); ++i) {
      const SetCluster& c = spaced->set->lines[l][i];
      const double s = start + line.middles[i];
      const CurvePlace p = guide.at(s);
      const Point origin = p.point + up_of(p.tangent) * h - p.tangent * (c.advance / 2);
      out.letters.push_back({l, c.first, c.count, s, h, c.advance, origin, std::atan2(p.tangent.y, p.tangent.x),
                             p.beyond, c.space, c.missing, c.shape});
    }
  }
  if (out.overflow < 1e-9)
    out.overflow = 0;
  out.guide = std::make_shared<const Curve>(std::move(guide));
  out.spaced = std::move(spaced);
  measure_ink(out);
  return out;
}

double arc_rise(double radius, double run_length) {
  return radius * (1 - std::cos(run_length / (2 * radius)));
}
double arc_sweep(double radius, double run_length) {
  return degrees(run_length / radius);
}

Result<double> arc_radius(const ArcBend& arc, double run_length) {
  const double v = arc.value;
  if (!(v > 0) || !std::isfinite(v))
    return bad_input("the arc's measure must be more than 0", "Bend");
  if (arc.by == ArcBy::Radius)
    return v;
  if (!(run_length > 0))
    return 1000.0; // nothing to bend yet
  if (arc.by == ArcBy::Sweep) {
    if (v > 360)
      return bad_input("the sweep can be at most 360°; make it smaller", "Bend");
    return run_length / radians(v);
  }
  // Half angle a with run/(2a)·(1 − cos a) = rise: the left side grows from 0 to run/π at a = π, and a little further
  // to its largest value near 2.33 rad (0.7246 run / 2); the arc is wanted up to there.
  constexpr double largest_half_angle = 2.3311223704144224; // root of a sin a = 1 − cos a
  const auto rise = [&](double a) { return run_length / (2 * a) * (1 - std::cos(a)); };
  if (v > rise(largest_half_angle))
    return bad_input("the rise is more than this run can reach; type a smaller rise or more text", "Bend");
  double low = 0, high = largest_half_angle;
  for (int i = 0; i < 200 && high - low > 1e-16 * high; ++i) {
    const double m = (low + high) / 2;
    (rise(m) < v ? low : high) = m;
  }
  return run_length / (low + high);
}

Result<std::shared_ptr<const SeatedText>> seat(std::shared_ptr<const SpacedText> spaced, const Recipe& recipe,
                                               const Placement& placement, const CircleGuide* guide) {
  const Bend& bend = recipe.bend;
  const Letters letters = recipe.letters() != nullptr ? *recipe.letters() : Letters{};
  const double cap = spaced->set->cap_height;
  if (!std::isfinite(bend.offset))
    return bad_input("the base offset is not a number", "Bend");
  SeatedText out;
  if (bend.kind == BendKind::Straight) {
    out = seat_straight(std::move(spaced), letters, placement, 0);
    measure_ink(out);
    return std::make_shared<const SeatedText>(std::move(out));
  }
  RunPlace place;
  Curve curve;
  double arc_run = 0, radius = 0;
  if (bend.kind == BendKind::Arc) {
    arc_run = spaced->longest;
    const Result<double> r = arc_radius(bend.arc, arc_run);
    if (!r)
      return r.error();
    radius = *r;
    curve = arc_curve(bend.arc.side, radius, placement);
    place.s = pi * radius;
    place.anchor = RunAnchor::Middle;
    place.centring = Centring::Ink;
  } else {
    if (guide == nullptr)
      return bad_input("choose a guide for the letters to ride on", "Bend");
    if (!(guide->radius > 0) || !std::isfinite(guide->radius))
      return bad_input("the circle's radius must be more than 0 mm", "Guide");
    const Result<RunPlace> on_circle = place_on_circle(bend.guide, *guide);
    if (!on_circle)
      return on_circle.error();
    place = *on_circle;
    curve = curve_of(*guide);
    if (bend.guide.tops == Tops::Inward)
      curve = curve.reversed();
  }
  place.height = bend.offset + sit_height(bend.sit_by, cap);
  place.line_pitch = letters.line_pitch * cap;
  out = seat_on_curve(std::move(spaced), std::move(curve), place);
  if (bend.kind == BendKind::Arc) {
    out.arc_radius = radius;
    out.arc_rise = arc_rise(radius, arc_run);
    out.arc_sweep = arc_sweep(radius, arc_run);
  }
  return std::make_shared<const SeatedText>(std::move(out));
}

} // namespace frelm
