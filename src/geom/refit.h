// Refitting: smooth stretches of many segments become the fewest cubics within a tolerance; corners and lines stay.
//
// mm. For outlines whose segments are exact but many: what an offset or a weld left. Corners are read off the tangents,
// so noisy input belongs to geom/thin.h.
#pragma once

#include "geom/redrawn.h"

namespace frelm {

struct RefitOptions {
  double tolerance = 0.01;      // mm both ways; more than 0
  double corner = 2 * pi / 180; // radians: where tangents differ by more, the node is a corner and stays
  double shortest_line = 0.5;   // mm: lines at least this long stay lines
  double drop_under = 0;        // mm: segments shorter than this go, their neighbours meet in the middle
};

// Corners and the ends of kept lines stay exactly; what would not come out with fewer segments stays as it is.
// Open and closed contours; an empty one gives nothing. Stretches: between corners and kept lines; many are worked on
// by all processors.
std::vector<RedrawnContour> refit(const std::vector<Contour>& contours, const RefitOptions& options);

} // namespace frelm
