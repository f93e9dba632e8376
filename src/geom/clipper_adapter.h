// The one place that calls Clipper (Angus Johnson's polygon clipping library, after B. R. Vatti, "A generic solution
// to polygon clipping", CACM 1992). Integer points, 1e5 units to the millimetre.
#pragma once

#include "geom/boolean_op.h"
#include "geom/result.h"

#include <cstdint>
#include <vector>

namespace frelm {

inline constexpr double clipper_units_per_mm = 1e5;
inline constexpr double clipper_reach_mm = 10000; // coordinates beyond this are refused

struct GridPoint {
  std::int64_t x = 0, y = 0;
  bool operator==(const GridPoint&) const = default;
};
using GridPolygon = std::vector<GridPoint>;

// The first `subjects` polygons op the others, both filled under the rule; outer rings come out with positive area,
// holes with negative. Collinear vertices of the input are kept where the boundary survives.
Result<std::vector<GridPolygon>> clip_polygons(BooleanOp op, FillRule rule, const std::vector<GridPolygon>& polygons,
                                               std::size_t subjects);

// All places p for which `moving`, put down with its origin at p, meets `resting`: outer rings of positive area, and
// holes where it meets nothing of the other's edge.
std::vector<GridPolygon> minkowski_difference(const GridPolygon& resting, const GridPolygon& moving);

} // namespace frelm
