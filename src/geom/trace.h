// Tracing: the dark areas of a picture as outlines in mm, with few nodes.
//
// x to the right and y down, the picture's upper left corner at the origin. Outer contours have positive area, holes
// negative. A picture whose edges have greys is followed to parts of a pixel (geom/iso_lines); one of ink and paper
// alone is blurred a little first, and all of it taken as less certain. Bounds, at 4 to 20 px a mm, with the noise of
// JPEG or without: of the edge that was painted the result lies within half a pixel and the tolerance (where less than
// 4 px are between two edges, three quarters more), a corner between sides of 8 px and more that turns by 45° to 120°
// within a pixel, at most 1.3 times the nodes. Without greys: 2.25 px; corners between sides of 15 px within 3; 1.5
// times. Tips sharper than 60° end where the pixels show them no more, up to 4 px short.
//
// Potrace's outlines, which were used before, lay up to 1.9 px off on the same pictures, missed corners by more than 5
// px and had up to 1.8 times the nodes: it takes ink and paper alone.
#pragma once

#include "geom/outline.h"
#include "geom/picture.h"
#include "geom/result.h"

#include <optional>
#include <stop_token>

namespace frelm {

// px, with greys: of what is straight, and between line and result.
inline constexpr double usual_trace_px = 0.4;

struct TraceOptions {
  double width = 100;              // mm, of the whole picture; more than 0
  std::optional<double> threshold; // darker than this share of white is ink, 0 to 1; none: `ink_threshold`
  bool light_ink = false;          // trace what is lighter instead
  double speckle = 4;              // areas of less than so many px² go, ink and holes
  double tolerance = -1;           // mm, between line and result; less than 0: the usual
  double sharper_than = 30;        // degrees: turns that are corners, more than 0
  double straight = -1;            // mm: what bends less between two corners is straight; less than 0: the usual
  std::stop_token stop = {};
};

struct Traced {
  Outline outline;
  std::size_t points = 0;             // of the pixels' lines
  double tolerance = 0, straight = 0; // mm, that were used
  double worst = 0;                   // mm, the farthest a pixels' line lies off, but at its corners
  std::size_t put_back = 0;           // stretches that stayed lines, since curves would have crossed
};
// Errors: an empty picture or one whose data don't fit its size, options out of range, Cancelled.
Result<Traced> trace(const GreyPicture& picture, const TraceOptions& options);

// The share of white that parts a picture best into dark and light. Source: Otsu, A threshold selection method from
// gray-level histograms, 1979; the middle of what is equally good.
double ink_threshold(const GreyPicture& picture);

} // namespace frelm
