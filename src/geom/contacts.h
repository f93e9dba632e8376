// Where two areas hold together: over what width, and along what they share.
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <stop_token>
#include <vector>

namespace frelm {

struct Contact {
  Point at;          // in the middle of what they share
  double width = 0;  // mm: the narrower of the two ways in, each as wide as the widest opening through which one area
                     // runs into the other; of areas that only touch what they touch along; one that lies in the other
                     // is as wide as the largest circle in it
  double shared = 0; // mm: of the first area's edge that lies in the second, or along its edge
};

// Requires outlines whose contours don't cross, outer ones of positive area. A contact is a connected part of what both
// cover, or a stretch along which they only touch (edges nearer than touch_distance); the widest first. Bounds: widths
// within 0.004 mm. Errors: those of the booleans, Cancelled.
inline constexpr double touch_distance = 0.002; // mm
Result<std::vector<Contact>> contacts(const Outline& a, const Outline& b, std::stop_token stop = {});

} // namespace frelm
