// Fitting cubics to a smooth curve: end points and end tangents are given, the two handle lengths are found.
//
// mm. The one fitter behind warps, freehand strokes, spirals on their way out and joined segments.
// Source: least squares on the distance along the normal with re-estimated parameters (Plass & Stone, Curve-fitting
// with piecewise parametric cubics, 1983); here by Gauss–Newton on the two handle lengths, every system 2 x 2.
#pragma once

#include "geom/outline.h"

#include <functional>
#include <span>

namespace frelm {

struct CubicFit {
  Segment cubic;
  double worst = 0; // mm, largest distance of a target from the cubic
};

// start, end: unit directions of travel at both ends. targets: points to pass by, with first guesses of their
// parameters. start_handle, end_handle: first guesses, mm. Stops early once `enough` (mm) is reached.
CubicFit fit_cubic(Point p0, Vec start, Vec end, Point p3, std::span<const Point> targets, std::span<const double> t,
                   double start_handle, double end_handle, double enough);

// A curve given by its parameter in [0, 1].
struct FitPlace {
  Point point;
  Vec direction; // unit, of travel
};
using FitSource = std::function<FitPlace(double t)>;

// The source as cubics that meet smoothly, within tolerance (mm) of it: `steps` equal pieces to begin with, each halved
// while it misses, at most 2^10 times.
std::vector<Segment> fit_cubics(const FitSource& source, int steps, double tolerance);

} // namespace frelm
