// Holes of a united outline: contours of negative area inside outer ones.
#pragma once

#include "geom/outline.h"

namespace frelm {

// What becomes of holes. DropSmall: those that fit into a square of a given size go.
enum class HoleRule { Keep, Drop, DropSmall };

// Requires contours that don't cross, outer ones of positive area, holes negative. A dropped hole takes what lies
// inside it along: the area there is filled. size: mm, for DropSmall. Open contours stay.
Outline with_holes(const Outline& outline, HoleRule rule, double size);

} // namespace frelm
