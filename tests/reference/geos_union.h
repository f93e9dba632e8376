// The outside reference for booleans: GEOS (Debian's libgeos), which knows nothing of our curves.
#pragma once

#include "support/compare.h"

namespace frelm::test {

// Union of the shapes under the nonzero rule, each flattened within `flattening` mm: rings, outer ones positive.
// Contours of one shape that nest are combined by the winding of each.
std::vector<Ring> geos_union(const std::vector<Outline>& shapes, double flattening);

} // namespace frelm::test
