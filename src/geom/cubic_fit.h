// Fitting cubics to a smooth curve: end points and end tangents are given, the two handle lengths are found; an end at
// a corner may leave its tangent to be found too.
//
// mm. The one fitter behind warps, freehand strokes, spirals on their way out and joined segments.
// Source: least squares on the distance along the normal with re-estimated parameters (Plass & Stone, Curve-fitting
// with piecewise parametric cubics, 1983); here by Gauss–Newton on two to four unknowns.
#pragma once

#include "geom/outline.h"

#include <functional>
#include <span>

namespace frelm {

struct CubicFit {
  Segment cubic;
  double worst = 0; // mm, largest distance of a target from the cubic
};

// Ends whose direction may change to fit better, by at most 2 degrees.
struct FitFreedom {
  bool start = false, end = false;
};
struct FitAim {
  double enough = 0; // mm: the fit stops when it is this good
  // mm: an error that would do. A least-squares fit between this and half as much again is bettered by weighing its
  // worst places more (Lawson's method), until it does or stops getting better; 0: never.
  double needed = 0;
  FitFreedom free = {};
};

// start, end: unit directions of travel at both ends. targets: points to pass by, with first guesses of their
// parameters. start_handle, end_handle: first guesses, mm.
CubicFit fit_cubic(Point p0, Vec start, Vec end, Point p3, std::span<const Point> targets, std::span<const double> t,
                   double start_handle, double end_handle, const FitAim& aim);

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
