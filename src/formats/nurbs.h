// B-splines as cubics.
//
// Degree 1 to 3 without weights: exactly the same curve, by its polar form (Ramshaw, Blossoms are polar forms, CAGD
// 1989). Others: fitted within the tolerance.
#pragma once

#include "geom/outline.h"

#include <vector>

namespace frelm {

struct BSpline {
  int degree = 3;
  std::vector<double> knots; // as many as control points + degree + 1, none smaller than the one before
  std::vector<Point> points;
  std::vector<double> weights; // none: all 1; else one a point, more than 0
};
// Empty where the numbers do not make a spline.
std::vector<Segment> spline_cubics(const BSpline& spline, double tolerance);

// The curve with two continuous derivatives through the points, with parameters by the distances between them (Farin,
// Curves and Surfaces for CAGD, 2002, 9.4); at its ends along the tangents given, or without curvature for (0, 0).
std::vector<Segment> through_points(const std::vector<Point>& points, Vec start, Vec end, bool closed);

} // namespace frelm
