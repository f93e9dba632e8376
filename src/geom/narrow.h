// Strokes and gaps narrower than a size: where, and how much.
//
// mm. At a place of the boundary, the width is the diameter of the largest disc that touches it there from the inside
// (for gaps: from the outside) and touches a boundary that faces it, the two turned towards each other by at least
// `facing`. So the sides of a stroke count and the corner where they meet does not; a point sharper than 180° − facing
// does. Bounds: the narrowest width within 0.001 mm; a place narrower than 0.98 x size is found, one wider is never
// reported. Work is bounded: on boundaries longer than `most_samples` sixths of the size places are looked at further
// apart than that, and what is narrow between them only may be missed.
#pragma once

#include "geom/outline.h"

#include <stop_token>
#include <vector>

namespace frelm {

inline constexpr std::size_t most_samples = 500'000;
inline constexpr double least_narrow = 0.001; // mm

enum class NarrowSide { Strokes, Gaps };

struct NarrowOptions {
  double facing = 165 * pi / 180; // radians
  std::stop_token stop = {};      // ends early, with nothing
};

struct NarrowPlace {
  double width = 0;  // mm, at its narrowest,
  Point a, b;        // between these two places of the boundary
  Box where;         // all of it that is narrower than the size
  double length = 0; // mm, along its middle, within a sixth of the size
};

// Narrowest first. Requires contours that don't cross, outer ones of positive area (geom/boolean, self_union); open
// contours are left out. A size under the bound of the widths themselves, `least_narrow`, gives nothing.
// Source: the medial ball through a boundary point as the least over all others (Ma, Bae & Choi, 3D medial axis point
// approximation using nearest neighbors and the normal field, The Visual Computer 2012), here over samples in cells.
std::vector<NarrowPlace> narrow_places(const Outline& outline, double size, NarrowSide side,
                                       const NarrowOptions& options = {});

} // namespace frelm
