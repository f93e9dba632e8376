// The words of boolean operations on areas.
#pragma once

namespace frelm {

enum class BooleanOp { Union, Difference, Intersection, ExclusiveOr };
// What counts as inside: wound around at all, or an odd number of times (SVG 1.1, 11.3, fill-rule); Positive: more
// often clockwise on screen than the other way.
enum class FillRule { Nonzero, EvenOdd, Positive };

} // namespace frelm
