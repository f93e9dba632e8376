// Greedy: the longest row of curved segments on one circle, whose centre is the circumcentre of the row's ends and its
// middle; places of every segment are then compared with it, and all must turn the same way.
#include "geom/arc_view.h"

#include <optional>
#include <span>

namespace frelm {
namespace {

constexpr int places = 16;                      // looked at on each segment
constexpr double longest_sweep = 1.9 * pi;      // of one arc; a full circle is two
constexpr double shortest_sweep = 2 * pi / 180; // below that, an arc says nothing

std::optional<Point> circumcentre(Point a, Point b, Point c) {
  const Vec u = b - a, v = c - a;
  const double d = 2 * cross(u, v);
  if (std::abs(d) < 1e-12)
    return std::nullopt;
  const double uu = dot(u, u), vv = dot(v, v);
  return a + Vec{v.y * uu - u.y * vv, u.x * vv - v.x * uu} / d;
}

std::optional<ArcStretch> arc_of(std::span<const Segment> row, const ArcViewOptions& options) {
  const Point from = row.front().p0, to = row.back().p3;
  const Point middle = row.size() % 2 == 1 ? row[row.size() / 2].at(0.5) : row[row.size() / 2].p0;
  if (from == to)
    return std::nullopt;
  const auto centre = circumcentre(from, middle, to);
  if (!centre)
    return std::nullopt;
  ArcStretch arc{from, to, *centre, distance(*centre, from), 0};
  if (arc.radius > options.largest_radius)
    return std::nullopt;
  double way = 0;
  Point before = from;
  for (const Segment& s : row)
    for (int i = 1; i <= places; ++i) {
      const Point p = s.at(static_cast<double>(i) / places);
      if (std::abs(distance(p, *centre) - arc.radius) > options.tolerance)
        return std::nullopt;
      const double step = std::atan2(cross(before - *centre, p - *centre), dot(before - *centre, p - *centre));
      if (way * step < 0)
        return std::nullopt;
      way = step, arc.sweep += step;
      before = p;
    }
  if (std::abs(arc.sweep) > longest_sweep || std::abs(arc.sweep) < shortest_sweep)
    return std::nullopt;
  return arc;
}

bool straight(const Segment& s, double tolerance) {
  if (s.is_line())
    return true;
  const Vec along = s.p3 - s.p0;
  const double l = length(along);
  const auto between = [&](Point p) {
    return std::abs(cross(along, p - s.p0)) <= 0.75 * tolerance * l && dot(along, p - s.p0) >= 0 &&
           dot(along, s.p3 - p) >= 0;
  };
  return l > 0 && between(s.p1) && between(s.p2);
}

} // namespace

std::vector<ViewPiece> arc_view(const Contour& contour, const ArcViewOptions& options) {
  std::vector<Segment> segments = contour.segments;
  const std::size_t n = segments.size();
  // A closed contour begins where its longest row does not go across: after a line, if there is one.
  for (std::size_t i = 0; contour.closed && i < n; ++i)
    if (straight(segments[i], options.tolerance)) {
      std::rotate(segments.begin(), segments.begin() + static_cast<std::ptrdiff_t>((i + 1) % n), segments.end());
      break;
    }
  const std::span<const Segment> all(segments);
  if (contour.closed && n > 1 && segments.front().p0 == segments.back().p3) {
    const std::size_t half = n / 2;
    const auto a = arc_of(all.first(half), options), b = arc_of(all.subspan(half), options);
    if (a && b && distance(a->centre, b->centre) <= options.tolerance &&
        std::abs(a->radius - b->radius) <= options.tolerance)
      return {*a, *b};
  }
  std::vector<ViewPiece> out;
  for (std::size_t i = 0; i < n;) {
    if (straight(segments[i], options.tolerance)) {
      out.push_back(LineStretch{segments[i].p0, segments[i].p3});
      ++i;
      continue;
    }
    std::optional<ArcStretch> arc;
    std::size_t count = 0;
    for (std::size_t k = 1; i + k <= n; ++k) {
      const auto longer = arc_of(all.subspan(i, k), options);
      if (!longer)
        break;
      arc = longer, count = k;
    }
    if (arc)
      out.push_back(*arc);
    else
      out.push_back(CubicStretch{segments[i]});
    i += std::max<std::size_t>(count, 1);
  }
  return out;
}

} // namespace frelm
