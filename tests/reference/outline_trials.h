// What weld, offset, shade, thin, the booleans and warp make of any outlines, judged from outside: areas and contours
// by GEOS on the shapes as filled, distances by the definition. Each gives "" or what is wrong and where.
#pragma once

#include "geom/warp.h"
#include "support/compare.h"

namespace frelm::test {

// The union of shapes, each filled under the nonzero rule.
std::string weld_fault(const std::vector<Outline>& shapes, const Outline& got);
// op as in geos_combine; a and b are sound outlines.
std::string boolean_fault(char op, const Outline& a, const Outline& b, const Outline& got);
// Round joins; the source is filled under the nonzero rule.
std::string offset_fault(const Outline& source, double d, const Outline& got);
// Letters with their shade.
std::string shade_fault(const Outline& source, Vec way, const Outline& got);
std::string thin_fault(const Outline& source, double tolerance, const Outline& got);
std::string warp_fault(const Outline& source, const WarpMap& map, const Outline& got);

} // namespace frelm::test
