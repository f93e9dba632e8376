// Where an outline stands in a shape so that its margins are even.
//
// mm. The margin of a place: the least distance between the item's lines and the edge of the area that the shape fills
// (nonzero). Of all places (without turning) one is taken whose margin is the greatest, within 0.5 % of the shape's
// shorter side; where there are many (a word in a long bar), the middle of the room that is left, across, then up and
// down. Largest: as large as it may be with at least that margin; the margin that is reported holds within 0.01 mm
// (geom/distance).
// Method: branch and bound (geom/deepest) on a table of the shape's depth, 256 cells along its longer side.
#pragma once

#include "geom/outline.h"

#include <optional>
#include <stop_token>

namespace frelm {

// p goes to about + scale (p - about) + by.
struct PlacedInside {
  Point about; // the middle of what the item covers
  double scale = 1;
  Vec by;
  double margin = 0;
  Affine place() const;
};
// Nothing: the shape fills no area, or the item has no room in it.
std::optional<PlacedInside> evenly_inside(const Outline& item, const Outline& shape);
// margin: 0 or more. Nothing: no area, no room with that margin, or stopped.
std::optional<PlacedInside> largest_inside(const Outline& item, const Outline& shape, double margin,
                                           const std::stop_token& stop = {});

} // namespace frelm
