// Freehand strokes: a hand's raw points become a smooth curve of few cubics.
//
// mm. The points stay as they were drawn; the smoothing is a number that can be changed at any time.
#pragma once

#include "geom/outline.h"

#include <vector>

namespace frelm {

struct FreehandOptions {
  double smoothing = 5;    // mm of the stroke over which wobbles are evened out; 0: follow the points
  double tolerance = 1e-4; // of the stroke's length, between the smoothed stroke and the cubics; more than 0
  bool closed = false;
};

// The stroke's contour, smooth throughout. An open stroke keeps its first and last point. Fewer than two different
// points, or points that are not finite: an empty contour.
// Source: Gaussian smoothing by arc length, ends mirrored through the end points so that they neither shrink nor move.
Contour smooth_stroke(const std::vector<Point>& points, const FreehandOptions& options = {});

} // namespace frelm
