// Where two curves cross or touch.
//
// mm. Bounds: a crossing within 1e-7 mm on both curves; touching curves (no crossing, but nearer than meet_distance)
// give one place for each stretch along which they touch; curves that run along each other give the ends of what they
// share.
#pragma once

#include "geom/outline.h"

#include <optional>
#include <vector>

namespace frelm {

inline constexpr double meet_distance = 0.0005; // mm: nearer than this, curves meet

struct CurveCrossing {
  double t = 0, u = 0; // parameters on a and b
  Point point;
  bool operator==(const CurveCrossing&) const = default;
};

// Ascending in t. Segments of no length give nothing.
std::vector<CurveCrossing> crossings(const Segment& a, const Segment& b);

// Where a cubic crosses itself, t < u; it does so once at the most. One whose ends meet does not cross itself there.
std::optional<CurveCrossing> own_crossing(const Segment& s);

// The first place found where the contour crosses itself, also at a node or within one segment, or touches itself
// between nodes. Nothing: it does not.
std::optional<Point> crosses_itself(const Contour& contour);

} // namespace frelm
