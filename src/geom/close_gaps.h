// Shapes that meet along a straight edge but for rounding: letters of faces that are drawn to abut, once they are
// turned.
//
// mm. Two lines of different contours that run opposite ways within `widest_closed` of each other are one edge; without
// help a union leaves a slit there that no eye sees and every blade cuts.
#pragma once

#include "geom/outline.h"

#include <vector>

namespace frelm {

inline constexpr double widest_closed = 0.002; // mm

// Thin rectangles over such slits, each inside the edge's length; united with the shapes they close them. Cost: what
// lies within widest_closed of another contour's box.
std::vector<Outline> slit_covers(const Outline& outline);

} // namespace frelm
