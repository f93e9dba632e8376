// Loops at joints that are too small for the flattening to see.
//
// Converted and hand-drawn faces have curves that run past their corner by microns and come back, or begin with a short
// handle that points the wrong way. The contour then turns once round too often at that joint. A blade doesn't notice,
// but the winding about the corner is off by one, and everything made from windings (offset, shade) gets a notch as
// deep as its distance there.
//
// mm. Only closed contours change, and of them only joints whose loop lies within 128 x flattening of the node; simple
// contours come back as they are. Both ends are taken back to where they cross; what lies behind is cut off, or turned
// the other way round (SmallLoops). Where no crossing can be found they end 2 x flattening from the node and meet in
// it.
#pragma once

#include "geom/weld.h"

namespace frelm {

// options.flattening: what the contour was clipped with. Joints that were moved are counted as snapped.
void take_small_loops(Contour& contour, const WeldOptions& options, WeldReport& report);

} // namespace frelm
