// How often a closed polygon winds around a place, clockwise on screen counted as positive. Half-open at its corners.
#pragma once

#include "geom/point.h"

#include <vector>

namespace frelm {

inline int winding_of(const std::vector<Point>& polygon, Point p) {
  int winding = 0;
  for (std::size_t i = 0; i < polygon.size(); ++i) {
    const Point a = polygon[i], b = polygon[(i + 1) % polygon.size()];
    const double side = cross(b - a, p - a);
    if (a.y <= p.y && b.y > p.y && side > 0)
      ++winding;
    if (a.y > p.y && b.y <= p.y && side < 0)
      --winding;
  }
  return winding;
}

} // namespace frelm
