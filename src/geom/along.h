// Small things that walking along contours needs again and again.
#pragma once

#include "geom/outline.h"

#include <span>

namespace frelm {

// Length of the control polygon, mm: at least the segment's own.
inline double control_length(const Segment& s) {
  return distance(s.p0, s.p1) + distance(s.p1, s.p2) + distance(s.p2, s.p3);
}

// The turn from direction a to direction b, radians in (-π, π], positive clockwise on screen.
inline double turn_between(Vec a, Vec b) {
  return std::atan2(cross(a, b), dot(a, b));
}

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

} // namespace frelm
