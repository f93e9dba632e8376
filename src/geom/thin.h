// Thinning: outlines of many nodes become outlines of few, within a tolerance; corners stay, found under noise too.
//
// mm. For scanned, traced and point-by-point outlines as for drawn ones. Every place of the source lies within
// `tolerance` of the result. Stretches of long segments keep their corners and lines exactly; stretches of many short
// ones (points in a row) are taken as a curve with noise: corners are found where the curve's direction jumps by more
// than the noise explains, and lie where the two sides meet; straight stretches between corners become lines. Under
// noise a bend rounder than a corner but tighter than about 40 tolerances may come out with a corner at its end.
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <stop_token>

namespace frelm {

struct ThinOptions {
  double tolerance = 0.05; // mm, more than 0
  // radians: a sharper turn is a corner. Between points the noise may ask for more.
  double corner = 4 * pi / 180;
  std::stop_token stop = {};
};

struct ThinReport {
  std::size_t nodes_in = 0, nodes_out = 0;
  double worst = 0;              // mm, largest distance of a place of the source from the result, or the other way
  Point worst_at;                // that place
  std::size_t contours_left = 0; // contours that could not be thinned, and stayed as they were
  bool operator==(const ThinReport&) const = default;
};
struct ThinResult {
  Outline outline;
  ThinReport report;
};

// Never more nodes than before. Errors: a tolerance that is not more than 0, coordinates that are not finite,
// Cancelled. Source: corners as change points between two local quadratic regressions (cf. Loader, Change point
// estimation using nonparametric regression, Annals of Statistics 1996), here on both coordinates of a curve.
Result<ThinResult> thin(const Outline& outline, const ThinOptions& options = {});

} // namespace frelm
