// Small things that walking along contours needs again and again.
#pragma once

#include "geom/outline.h"

#include <span>

namespace frelm {

// Length of the control polygon, mm: at least the segment's own.
inline double control_length(const Segment& s) {
  return distance(s.p0, s.p1) + distance(s.p1, s.p2) + distance(s.p2, s.p3);
}

// The place of the chord from a to b that is nearest to p; a chord of no length is a place itself.
inline Point nearest_on_chord(Point a, Point b, Point p) {
  const Vec d = b - a;
  const double l2 = dot(d, d);
  return l2 > 0 ? a + d * std::clamp(dot(p - a, d) / l2, 0.0, 1.0) : a;
}

inline double distance_to_chord(Point a, Point b, Point p) {
  return distance(p, nearest_on_chord(a, b, p));
}

// The turn from direction a to direction b, radians in (-π, π], positive clockwise on screen.
inline double turn_between(Vec a, Vec b) {
  return std::atan2(cross(a, b), dot(a, b));
}

// The sum of the turns of the control polygon, radians: the curve turns by no more, and crosses itself only from π on.
double control_turn(const Segment& s);

// Each segment begins exactly where the one before ends; the ends must be as good as there already.
inline void connect(std::span<Segment> segments) {
  for (std::size_t i = 1; i < segments.size(); ++i)
    segments[i].p0 = segments[i - 1].p3;
}
// The same, and a closed contour ends exactly where it begins.
inline void connect(Contour& contour) {
  connect(std::span<Segment>(contour.segments));
  if (contour.closed && !contour.segments.empty())
    contour.segments.back().p3 = contour.segments.front().p0;
}

// `count` (at least 1) steps of equal length along the polyline; its first and last point kept. Closed: the last step
// leads back to the first point, which is not repeated. Requires two points that differ.
std::vector<Point> spaced_evenly(std::vector<Point> points, std::size_t count, bool closed);
// Length of the polyline, with the way back when closed.
double row_length(const std::vector<Point>& points, bool closed);

} // namespace frelm
