// The middle of an outline's area (centroid), as each contour counts by its own direction.
#pragma once

#include "geom/outline.h"

#include <optional>

namespace frelm {

// Exact but for rounding: area and moments by Green's theorem, whose integrands over a cubic are of degree 8. Nothing
// where there is no area.
std::optional<Point> area_centre(const Outline& outline);

} // namespace frelm
