// Corners rounded by arcs that touch both sides.
//
// mm, y down. Each arc is that of the circle which touches the two sides of the corner nearest to it, within 1e-6 mm
// and 1e-6 radians; the sides are the source's own curves, cut where the arc begins. Where a side is too short for the
// radius, bends too tightly for it, or is wanted by the corner at its other end as well (both get their share), the
// arc is the largest that fits (`smaller`). What would cross another part of the outline stays as it was.
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <stop_token>

namespace frelm {

// Outer: of the area, where a chip breaks off. Inner: where a blade turns inside a notch.
enum class WhichCorners { All, Outer, Inner };

inline constexpr double least_rounding = 1e-3; // mm: an arc of less is none

struct RoundOptions {
  double radius = 1; // mm, at least least_rounding
  WhichCorners which = WhichCorners::All;
  double sharper_than = 150 * pi / 180; // radians within (0, π]: corners whose sides open less than this
  std::stop_token stop = {};
};

struct RoundReport {
  std::size_t rounded = 0; // of which
  std::size_t smaller = 0; // with less than the radius
  std::size_t left = 0;    // corners that would take no arc
  double least = 0;        // mm, the smallest radius there is; 0 without any
};
struct RoundResult {
  Outline outline;
  RoundReport report;
};

// Requires contours that don't cross for Outer and Inner to mean the area, on either side of which it may lie; open
// lines have neither, so their corners are all rounded. Errors: options out of range, coordinates that are not finite,
// Cancelled.
Result<RoundResult> round_corners(const Outline& outline, const RoundOptions& options);

} // namespace frelm
