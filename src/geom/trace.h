// Tracing: the dark areas of a picture as outlines in mm, thinned.
//
// Pixels of `grey` (0 black … 255 white), rows from the top; x to the right and y down in the result, the picture's
// upper left corner at the origin. Outer contours have positive area, holes negative. Bound: a straight or round edge
// lies within half a pixel of the picture's, plus the thinning tolerance. Source: Selinger, Potrace: a polygon-based
// tracing algorithm, 2003, by Debian's libpotrace; then geom/thin.
#pragma once

#include "geom/thin.h"

#include <cstdint>

namespace frelm {

struct GreyPicture {
  int width = 0, height = 0;
  std::vector<std::uint8_t> grey; // width x height
};

struct TraceOptions {
  double width = 100;     // mm, of the whole picture; more than 0
  double threshold = 0.5; // darker than this share of white is ink; 0 to 1
  bool light_ink = false; // trace what is lighter instead
  int speckle = 4;        // areas of at most so many pixels go
  // mm, of thinning; less than 0: a quarter of a pixel.
  double tolerance = -1;
  std::stop_token stop = {};
};

// Errors: an empty picture or one whose data don't fit its size, options out of range, Cancelled.
Result<ThinResult> trace(const GreyPicture& picture, const TraceOptions& options);

} // namespace frelm
