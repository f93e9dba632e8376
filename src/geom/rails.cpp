#include "geom/rails.h"

#include "geom/curve_table.h"

#include <fmt/format.h>
#include <memory>
#include <optional>

namespace frelm {
namespace {

constexpr double least_rightward = 1e-3; // of a unit tangent: less stands upright
constexpr int rail_places = 400;         // places along a rail
constexpr int bisections = 60;
constexpr double same_knot = 1e-12; // of a rail's length
constexpr double same_break = 1e-9; // of the box's width
constexpr int stretch_places = 6;   // on each segment

std::optional<Error> not_rightward(const Curve& rail, Words name) {
  for (int i = 0; i <= rail_places; ++i) {
    const CurvePlace p = rail.at(rail.length() * i / rail_places);
    if (p.tangent.x < least_rightward)
      return bad_input(
          FRELM_WORDS("core",
                      "for upright verticals the rail must run from left to right; straighten it here or let the "
                      "verticals follow"),
          say(FRELM_WORDS("core", "%1, %2"), name, place_words(p.point.x, p.point.y)));
  }
  return std::nullopt;
}

// A rail tabulated for the many lookups of a warp, and where its ends are.
struct Table {
  explicit Table(const Curve& rail) : curve(rail), x0(curve.at(0).point.x), x1(curve.at(curve.length()).point.x) {}
  CurveTable curve;
  double x0, x1;
};
struct Tables {
  explicit Tables(const Rails& rails) : top(rails.top), bottom(rails.bottom) {}
  Table top, bottom;
};

// The place of a rail that runs from left to right at this x. A first guess by the share of the way, then Newton's
// method within the bracket.
CurveTable::Place at_x(const Table& rail, double x) {
  const double length = rail.curve.length(), near = same_knot * length;
  double lo = 0, hi = length, s = std::clamp((x - rail.x0) / (rail.x1 - rail.x0), 0.0, 1.0) * length;
  CurveTable::Place p = rail.curve.at(s);
  for (int i = 0; i < bisections && std::abs(p.point.x - x) > near; ++i) {
    const double off = p.point.x - x;
    (off > 0 ? hi : lo) = s;
    const double newton = s - off / std::max(p.along.x, least_rightward);
    const double next = newton > lo && newton < hi ? newton : (lo + hi) / 2;
    if (next == s)
      break;
    s = next;
    p = rail.curve.at(s);
  }
  return p;
}

void keep_apart(std::vector<double>& breaks, const Box& source) {
  std::sort(breaks.begin(), breaks.end());
  std::vector<double> out;
  const double least = same_break * source.width();
  for (const double b : breaks)
    if (b > source.x0 + least && b < source.x1 - least && (out.empty() || b > out.back() + least))
      out.push_back(b);
  breaks = std::move(out);
}

WarpMap following(const Box& source, std::shared_ptr<const Rails> rails) {
  WarpMap map;
  for (const Curve* rail : {&rails->top, &rails->bottom})
    for (const double s : rail->joints())
      map.breaks.push_back(source.x0 + source.width() * s / rail->length());
  map.at = [source, tables = std::make_shared<const Tables>(*rails)](Point p) {
    const double u = (p.x - source.x0) / source.width(), v = (p.y - source.y0) / source.height();
    const double lt = tables->top.curve.length(), lb = tables->bottom.curve.length();
    const CurveTable::Place t = tables->top.curve.at(u * lt), b = tables->bottom.curve.at(u * lb);
    return WarpPlace{lerp(t.point, b.point, v), lerp(t.along * lt, b.along * lb, v) / source.width(),
                     (b.point - t.point) / source.height()};
  };
  return map;
}

Result<WarpMap> upright(const Box& source, std::shared_ptr<const Rails> rails) {
  if (const auto e = not_rightward(rails->top, FRELM_WORDS("core", "top rail")))
    return *e;
  if (const auto e = not_rightward(rails->bottom, FRELM_WORDS("core", "bottom rail")))
    return *e;
  const auto end = [](const Curve& c) { return c.at(c.length()).point.x; };
  const double x0 = std::max(rails->top.at(0).point.x, rails->bottom.at(0).point.x);
  const double x1 = std::min(end(rails->top), end(rails->bottom));
  if (!(x1 > x0))
    return bad_input(
        FRELM_WORDS("core", "the rails must lie over one another; move them so that they share some width"),
        FRELM_WORDS("core", "rails"));
  const double scale = (x1 - x0) / source.width();
  WarpMap map;
  for (const Curve* rail : {&rails->top, &rails->bottom})
    for (const double s : rail->joints())
      map.breaks.push_back(source.x0 + (rail->at(s).point.x - x0) / scale);
  map.at = [source, tables = std::make_shared<const Tables>(*rails), x0, scale](Point p) {
    const double x = x0 + (p.x - source.x0) * scale, v = (p.y - source.y0) / source.height();
    const CurveTable::Place t = at_x(tables->top, x), b = at_x(tables->bottom, x);
    const double slope = std::lerp(t.along.y / t.along.x, b.along.y / b.along.x, v);
    return WarpPlace{{x, std::lerp(t.point.y, b.point.y, v)},
                     {scale, scale * slope},
                     {0, (b.point.y - t.point.y) / source.height()}};
  };
  return map;
}

} // namespace

Result<WarpMap> rails_map(const Box& source, const Rails& rails) {
  if (!(source.width() > 0) || !(source.height() > 0))
    return bad_input(FRELM_WORDS("core", "there is nothing to bend: the outline has no width or no height"),
                     FRELM_WORDS("core", "rails"));
  if (!(rails.top.length() > 0) || !(rails.bottom.length() > 0))
    return bad_input(FRELM_WORDS("core", "a rail has no length; draw it again"), FRELM_WORDS("core", "rails"));
  const auto shared = std::make_shared<const Rails>(rails);
  Result<WarpMap> map = rails.verticals == Verticals::Kept ? upright(source, shared) : following(source, shared);
  if (map)
    keep_apart(map->breaks, source);
  return map;
}

WarpStretch stretch_of(const Outline& outline, const WarpMap& map) {
  WarpStretch out;
  bool first = true;
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      for (int i = 0; i < stretch_places; ++i) {
        const Point p = s.at((i + 0.5) / stretch_places);
        const WarpPlace w = map.at(p);
        // Singular values of the Jacobian, from the sum and the product of their squares.
        const double sum = dot(w.dx, w.dx) + dot(w.dy, w.dy), product = w.determinant() * w.determinant();
        const double root = std::sqrt(std::max(sum * sum / 4 - product, 0.0));
        const double large = std::sqrt(sum / 2 + root), small = std::sqrt(std::max(sum / 2 - root, 0.0));
        const double shear = std::abs(std::atan2(dot(w.dx, w.dy), std::abs(cross(w.dx, w.dy))));
        if (first || small < out.narrowest)
          out.narrowest = small, out.narrowest_at = p;
        if (first || large > out.widest)
          out.widest = large, out.widest_at = p;
        if (first || shear > out.steepest_shear)
          out.steepest_shear = shear, out.steepest_at = p;
        first = false;
      }
  return out;
}

} // namespace frelm
