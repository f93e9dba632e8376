// Circular and elliptical arcs as cubics.
#pragma once

#include "geom/outline.h"

namespace frelm {

inline constexpr double default_arc_tolerance = 0.0005; // mm

// The arc of the ellipse with half axes rx, ry (mm) turned by `turn`, from parameter angle `from` through `sweep`
// (radians, positive clockwise on screen), as the fewest equal cubics that stay within tolerance (mm).
// Source: the standard handle 4/3·tan(θ/4); its radial error is 2.7e-4 r for a quarter and falls with θ⁶
// (Goldapp, Approximation of circular arcs by cubic polynomials, CAGD 1991).
std::vector<Segment> arc_cubics(Point centre, double rx, double ry, double turn, double from, double sweep,
                                double tolerance);

} // namespace frelm
