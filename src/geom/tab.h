// A ring to hang a piece by, joined to its edge: the outline with the ring's disc united, and its hole taken out.
//
// mm, y down. The disc's centre lies on the edge's outward normal, so that the disc reaches `depth` into the edge. At a
// corner the normal is the bisector of both sides'. Bounds: the booleans' (geom/boolean.h).
#pragma once

#include "geom/weld.h"

#include <optional>

namespace frelm {

struct EdgePlace {
  Point at;
  Vec out; // unit, away from the area
};
// On the outer contours of a sound outline (outer ones of positive area); nothing where there are none.
std::optional<EdgePlace> edge_nearest(const Outline& area, Point p);

struct TabRing {
  double outer = 14, inner = 6; // diameters, more than 0; inner: 0 or less than outer
  double depth = 3;             // more than 0, at most outer
};
Point tab_centre(const EdgePlace& place, const TabRing& ring);
// In the middle of the ring's band, where it is farthest from the edge: what a hand takes.
Point tab_rim(const EdgePlace& place, const TabRing& ring);
// Requires a sound outline, which stays as it is where it has no edge. Errors: the booleans'.
Result<WeldResult> with_tab(const Outline& area, Point near, const TabRing& ring, const WeldOptions& options = {});

} // namespace frelm
