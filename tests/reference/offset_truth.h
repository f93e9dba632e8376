// The exact boundary of an offset by its definition, for judging offsets: no clipping, no fitting.
#pragma once

#include "support/compare.h"

namespace frelm::test {

// Places p + d·N of the outline's curves, and of arcs around its corners on the growing side, that are no nearer than
// |d| to any of its lines; neighbours joined to edges of about `step` mm (each edge is a ring of two points). The
// outline must be sound: contours that don't cross, outer ones of positive area. Open contours: both sides and round
// caps, d > 0.
std::vector<Ring> offset_boundary(const Outline& outline, double d, double step = 0.03);

} // namespace frelm::test
