// Branch and bound over pairs of curve pieces: the distance of two control boxes bounds that of the pieces from
// below; the best pair of points found so far bounds the answer from above. Pieces flatter than flat_enough are
// compared as lines in closed form. Error: at most 2 x flat_enough.
#include "geom/distance.h"

#include <queue>

namespace frelm {
namespace {

constexpr double flat_enough = 0.0005; // mm

struct Piece {
  Segment s;
  Box box;
  explicit Piece(const Segment& segment) : s(segment), box(segment.control_box()) {}
  bool flat() const {
    return s.is_line() ||
           std::max(length(s.p0 - s.p1 * 2.0 + s.p2), length(s.p1 - s.p2 * 2.0 + s.p3)) * 0.75 <= flat_enough;
  }
  double size() const { return std::max(box.width(), box.height()); }
};

Point nearest_on_line(Point a, Point b, Point p) {
  const Vec d = b - a;
  const double l2 = dot(d, d);
  return l2 > 0 ? a + d * std::clamp(dot(p - a, d) / l2, 0.0, 1.0) : a;
}

void offer(Closest& best, Point a, Point b) {
  if (const double d = distance(a, b); d < best.distance)
    best.distance = d, best.on_a = a, best.on_b = b;
}

void compare_lines(const Segment& a, const Segment& b, Closest& best) {
  const Vec da = a.p3 - a.p0, db = b.p3 - b.p0;
  if (const double det = cross(da, db); det != 0) {
    const double t = cross(b.p0 - a.p0, db) / det, u = cross(b.p0 - a.p0, da) / det;
    if (t >= 0 && t <= 1 && u >= 0 && u <= 1) {
      const Point p = lerp(a.p0, a.p3, t);
      best = {0, p, p, true};
      return;
    }
  }
  offer(best, a.p0, nearest_on_line(b.p0, b.p3, a.p0));
  offer(best, a.p3, nearest_on_line(b.p0, b.p3, a.p3));
  offer(best, nearest_on_line(a.p0, a.p3, b.p0), b.p0);
  offer(best, nearest_on_line(a.p0, a.p3, b.p3), b.p3);
}

struct Pair {
  double bound;
  Piece a, b;
  bool operator<(const Pair& o) const { return bound > o.bound; }
};

bool inside(const Outline& area, const Outline& other) {
  for (const Contour& c : other.contours)
    if (!c.segments.empty() && winding_number(area, c.segments.front().p0) != 0)
      return true;
  return false;
}

} // namespace

Closest closest_boundaries(const Outline& a, const Outline& b) {
  Closest best;
  std::vector<Piece> pa, pb;
  for (const Contour& c : a.contours)
    for (const Segment& s : c.segments)
      pa.emplace_back(s);
  for (const Contour& c : b.contours)
    for (const Segment& s : c.segments)
      pb.emplace_back(s);
  if (pa.empty() || pb.empty())
    return best;
  for (const Piece& x : pa)
    for (const Piece& y : pb)
      offer(best, x.s.p0, y.s.p0);
  std::priority_queue<Pair> queue;
  for (const Piece& x : pa)
    for (const Piece& y : pb)
      if (const double bound = x.box.distance_to(y.box); bound < best.distance)
        queue.push({bound, x, y});
  while (!queue.empty() && queue.top().bound < best.distance && !best.overlapping) {
    const Pair pair = queue.top();
    queue.pop();
    if (pair.a.flat() && pair.b.flat()) {
      compare_lines(pair.a.s, pair.b.s, best);
      continue;
    }
    const bool split_a = !pair.a.flat() && (pair.b.flat() || pair.a.size() >= pair.b.size());
    const Segment& s = split_a ? pair.a.s : pair.b.s;
    for (const Piece& half : {Piece(s.part(0, 0.5)), Piece(s.part(0.5, 1))}) {
      const Piece& x = split_a ? half : pair.a;
      const Piece& y = split_a ? pair.b : half;
      offer(best, x.s.at(0.5), y.s.at(0.5));
      if (const double bound = x.box.distance_to(y.box); bound < best.distance)
        queue.push({bound, x, y});
    }
  }
  return best;
}

Closest closest(const Outline& a, const Outline& b) {
  Closest best = closest_boundaries(a, b);
  if (!best.overlapping && (inside(a, b) || inside(b, a)))
    best = {0, best.on_a, best.on_b, true};
  return best;
}

} // namespace frelm
