// The outside reference for booleans: GEOS (Debian's libgeos), which knows nothing of our curves.
#pragma once

#include "support/compare.h"

namespace frelm::test {

// Union of the shapes under the nonzero rule, each flattened within `flattening` mm: rings, outer ones positive.
// Contours of one shape that nest are combined by the winding of each.
std::vector<Ring> geos_union(const std::vector<Outline>& shapes, double flattening);

// The same for any operation: 'u' union, 'd' difference, 'i' intersection, 'x' exclusive or, of two lists of shapes.
// b is grown by `grown` mm first (GEOS's buffer), to see how firmly a result stands.
std::vector<Ring> geos_combine(char op, const std::vector<Outline>& a, const std::vector<Outline>& b, double flattening,
                               double grown = 0);

// The shapes' union grown by d mm (less: shrunk), round joins of about `flattening` mm.
std::vector<Ring> geos_buffer(const std::vector<Outline>& shapes, double d, double flattening);

} // namespace frelm::test
