// Booleans that keep curves: what weld does for the union, for difference, intersection and exclusive or; and an
// outline's own crossings resolved.
//
// mm, y down. Requires: finite coordinates within 10 m. Bounds, closing, smooth joints, small contours and the report
// are weld's (geom/weld.h): every segment of the result is a stretch of a source segment, or joins two of them.
// combine(op, a, {}) is weld(a), or nothing for the intersection; area(a ∪ b) + area(a ∩ b) = area(a) + area(b).
#pragma once

#include "geom/boolean_op.h"
#include "geom/weld.h"

namespace frelm {

// a op b, the shapes of each list united first under the nonzero rule, each shape turned to positive total area.
// Open contours of a pass through untouched, those of b are left out (kept by Union and ExclusiveOr).
Result<WeldResult> combine(BooleanOp op, const std::vector<Outline>& a, const std::vector<Outline>& b,
                           const WeldOptions& options = {});

// The region that the outline covers under the rule, as contours that don't cross: outer ones of positive area, holes
// of negative area. Open contours pass through.
Result<WeldResult> self_union(const Outline& outline, FillRule rule, const WeldOptions& options = {});

} // namespace frelm
