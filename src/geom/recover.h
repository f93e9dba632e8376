// The engine that weld, the other booleans and offsets share: closed contours combined, their curves kept.
//
// mm. Bounds and guarantees are those of geom/weld.h; the file's .cpp tells how.
#pragma once

#include "geom/weld.h"

#include "geom/boolean_op.h"
#include "geom/flat_cluster.h"

namespace frelm {

// What a cluster of shapes is to become: its first `subjects` shapes op the others.
struct ClipOperation {
  BooleanOp op = BooleanOp::Union;
  FillRule rule = FillRule::Nonzero;
  std::size_t subjects = static_cast<std::size_t>(-1);
};

// All shapes at once, whatever their size or depth; open contours are left out. Adds to the report's joins and
// fallbacks. Errors: Cancelled, and what Clipper refuses.
Result<Outline> clip_and_recover(const std::vector<ClipShape>& shapes, const ClipOperation& operation,
                                 const WeldOptions& options, WeldReport& report);

} // namespace frelm
