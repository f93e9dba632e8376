// The weakest link of a part: the narrowest bridge between two halves of it that are wider and weigh something.
#pragma once

#include "geom/outline.h"

#include <optional>

namespace frelm {

struct WeakLink {
  double width = 0; // mm
  Point a, b;       // of the edge, on both sides of it
};

// A half counts when it is wider somewhere than the link by 1 % at least, and holds `share` of the part's area. Where
// only cutting several bridges would part two halves, as in a ring, the widest of these is the link between them.
// Nothing: it is nowhere narrower than on both sides. Requires one connected part (geom/components). Bounds: width
// within 0.004 mm. Cost n log n in its edge flattened within 0.01 mm; the
// ends are settled on the curves.
// Method: the skeleton of the area (the Voronoi diagram of its edge's straight pieces: Boost.Polygon, after S. Fortune,
// A sweepline algorithm for Voronoi diagrams, Algorithmica 1987), of which the widest ways are kept: its maximum
// spanning tree. Each stretch of that is the widest way between the two sides that it parts the tree into.
std::optional<WeakLink> weakest_link(const Outline& part, double share = 0.05);

} // namespace frelm
