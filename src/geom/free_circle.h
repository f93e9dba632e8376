// Where there is most room in an area: a circle in it that is nearly as large as any.
//
// mm. Of all places that are at least 0.99 as far from the edge as the farthest one, the one nearest to the middle of
// the area: in a long bar its middle, in a boot the heel. The radius is between 0.985 of the largest and the largest.
// Method: cells that halve, best first (branch and bound on the signed distance, which changes by no more than one
// moves). Cost: edges times cells, some hundreds of cells.
#pragma once

#include "geom/outline.h"

#include <optional>

namespace frelm {

struct FreeCircle {
  Point centre;
  double radius = 0;
};
// Of the area that the outline fills (nonzero). Nothing: it fills none.
std::optional<FreeCircle> free_circle(const Outline& outline);

} // namespace frelm
