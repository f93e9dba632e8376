// A box as a closed contour, clockwise on screen from its upper left corner.
#pragma once

#include "geom/outline.h"

namespace frelm {

inline Contour rectangle(const Box& b) {
  const Point p[]{{b.x0, b.y0}, {b.x1, b.y0}, {b.x1, b.y1}, {b.x0, b.y1}};
  Contour out;
  for (std::size_t i = 0; i < 4; ++i)
    out.segments.push_back(Segment::line(p[i], p[(i + 1) % 4]));
  return out;
}

} // namespace frelm
