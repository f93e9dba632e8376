// Smoothing what lies under a brush: full in the middle, fading out to nothing at its rim.
//
// mm. Lines and corners under the brush are evened out like curves; what lies outside stays exactly as it is, and the
// joints at the rim stay smooth. No place moves further than `most_drift` from where it was.
#pragma once

#include "geom/outline.h"

namespace frelm {

struct BrushOptions {
  double radius = 5;       // mm, more than 0
  double wavelength = 2;   // mm along the outline: shorter wobbles are evened out
  double most_drift = 0.3; // mm, 0 or more
  double tolerance = 0.01; // mm, of the new curves; more than 0
};

// Without any contour under the brush, or options out of range, the outline itself.
Outline smooth_under(const Outline& outline, Point centre, const BrushOptions& options);

// One dab more of a stroke that began with `was` and has come to `now`: smooth_under, unless some place would then be
// farther than most_drift from what the outline was at the beginning; then `now`.
Outline sanded(const Outline& was, const Outline& now, Point centre, const BrushOptions& options);

// What a stroke has changed with as few nodes as the tolerance allows; the rest, segment by segment, as it is.
Outline with_few_nodes(const Outline& was, const Outline& now, const BrushOptions& options);

} // namespace frelm
