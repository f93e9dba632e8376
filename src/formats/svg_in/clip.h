// What of shapes lies within a region: areas by intersection, lines cut where they cross its edge.
#pragma once

#include "formats/drawing.h"
#include "geom/result.h"

#include <optional>
#include <stop_token>

namespace frelm {

struct ClipRegion {
  Outline area;            // mm, nonzero
  std::optional<Box> rect; // where it is an upright rectangle
};
ClipRegion region_of(Outline area);

// The shape's outline within the region; the same one where all of it lies there. Errors: those of combine.
Result<Outline> clipped(const DrawnShape& shape, const ClipRegion& region, const std::stop_token& stop);

// The stretches of lines within an area. Closed lines that the area's edge does not cross stay closed. A line along the
// edge is within.
Outline lines_within(const Outline& lines, const Outline& area);

} // namespace frelm
