// Warping outlines through a map of the plane, keeping curves: cubics in, few cubics out.
//
// mm, y down; the map may be any smooth function with a Jacobian. Contours stay closed; smooth joints stay smooth
// where the map is smooth, straight lines stay lines where the map keeps them straight.
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <functional>
#include <stop_token>

namespace frelm {

// The image of a point, and what the map makes of a step along x and along y there.
struct WarpPlace {
  Point point;
  Vec dx, dy;
  Vec linear(Vec v) const { return dx * v.x + dy * v.y; }
  double determinant() const { return cross(dx, dy); }
};

struct WarpMap {
  std::function<WarpPlace(Point)> at;
  // Values of x, ascending, where the map bends (its second derivative jumps): outlines are split exactly there when
  // one cubic across does not fit. At a break Jacobians are taken a little inside the piece, on its own side.
  std::vector<double> breaks;
  std::vector<double> level_breaks = {}; // the same of y
};

struct WarpOptions {
  double tolerance = 0.005; // mm, both ways between the result and the exact image; more than 0
  bool sketch = false;      // ends and directions exact, and some 0.1 mm between: for a picture during a drag
  std::stop_token stop = {};
};

struct WarpReport {
  std::size_t nodes_in = 0, nodes_out = 0;
  double worst = 0;      // mm, measured on 24 places of each piece
  std::size_t folds = 0; // places looked at where the map turns the plane over or flattens it
  Box fold_box;          // where they came to lie
};
struct WarpResult {
  Outline outline;
  WarpReport report;
};

// The identity gives the source's nodes back, an affine map adds none. Errors: an image that is not finite (naming the
// source's place), Cancelled.
Result<WarpResult> warp(const Outline& outline, const WarpMap& map, const WarpOptions& options = {});

} // namespace frelm
