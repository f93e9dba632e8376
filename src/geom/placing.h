// Shapes placed on a sheet or a roll so that little of it is wasted: by their outlines, turned where they may be.
//
// mm. The sheet is `width` across (x from 0) and `length` along (y from 0; 0: a roll that goes on). What is placed
// keeps `margin` from its edges and `apart` from each other, measured between outlines, holes filled. Of several ways
// (which shape stands how, what of two places is the better one) the one is taken that ends soonest, or rows and
// columns where these end no later; of more than `most_kinds` shapes only these are tried.
//
// Sources: the places at which one polygon touches another without crossing it as their Minkowski difference (Art, An
// approach to the two-dimensional irregular cutting stock problem, 1966); each next one at the lowest such place
// (Baker, Coffman, Rivest, Orthogonal packings in two dimensions, 1980), here for any outlines.
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <functional>
#include <stop_token>

namespace frelm {

enum class MayTurn { No, Half, Quarter, Free }; // by 180°, 90°, 30°

struct PlacingWish {
  double width = 610, length = 0;
  double apart = 5, margin = 10; // not negative
  MayTurn turn = MayTurn::Quarter;
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // share done, 0 to 1
};
struct PlacedCopy {
  std::size_t shape = 0; // index of the given ones
  std::size_t sheet = 0; // on which of several sheets of this length
  Affine place;          // from where the shape is drawn to where it goes
};
struct PlacedShapes {
  std::vector<PlacedCopy> copies;
  std::size_t sheets = 0;
  double used = 0;    // mm along: of the last sheet, with a margin behind it
  double in_rows = 0; // the same of plain rows and columns of boxes, for comparison; 0: these need more sheets
};
inline constexpr std::size_t most_placed = 5'000, most_kinds = 40;

// counts: how many of each. Errors: nothing to place, a shape that has no room on an empty sheet, more than
// most_placed, Cancelled.
Result<PlacedShapes> place_shapes(const std::vector<Outline>& shapes, const std::vector<std::size_t>& counts,
                                  const PlacingWish& wish);

} // namespace frelm
