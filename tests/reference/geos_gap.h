// The outside reference for gaps: lettering/optical.h's definitions worked out by GEOS on polygons, one horizontal cut
// after another.
#pragma once

#include "geom/outline.h"

namespace frelm::test {

// x along `along`, y towards its left (up on screen), from `base`; heights from low to high.
struct GapView {
  Point base;
  Vec along{1, 0};
  double low = 0, high = 0;
};

// Mean over the band of the distance between the facing edges, each at most `retreat` mm behind its own extreme.
// Cuts at `cuts` heights; curves flattened within 0.001 mm (joins: 0.0001).
double geos_optical_gap(const Outline& left, const Outline& right, const GapView& view, double retreat, int cuts);
// The largest of right edge of the left letter − left edge of the right one over the cuts.
double geos_deepest_reach(const Outline& left, const Outline& right, const GapView& view, int cuts);
// Closest distance of the areas.
double geos_distance(const Outline& a, const Outline& b);
// Extent in y (up, in the view) of the largest part that both cover; empty box: none. x0, x1 are the view's x.
Box geos_overlap(const Outline& a, const Outline& b, const GapView& view);

} // namespace frelm::test
