// How often a closed polygon winds around a place, clockwise on screen counted as positive. Half-open at its corners.
#pragma once

#include "geom/point.h"

#include <vector>

namespace frelm {

inline int winding_of(Point a, Point b, Point p) { // what one side of it adds: a ray to the right crosses it
  const double side = cross(b - a, p - a);
  return a.y <= p.y && b.y > p.y && side > 0 ? 1 : a.y > p.y && b.y <= p.y && side < 0 ? -1 : 0;
}

inline int winding_of(const std::vector<Point>& polygon, Point p) {
  int winding = 0;
  for (std::size_t i = 0; i < polygon.size(); ++i)
    winding += winding_of(polygon[i], polygon[(i + 1) % polygon.size()], p);
  return winding;
}

} // namespace frelm
