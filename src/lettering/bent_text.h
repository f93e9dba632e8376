// A seated text warped as one block (block_bend.h): each letter gets its own bent outline, and keeps its unrolled
// place.
#pragma once

#include "lettering/seat.h"

namespace frelm {

// text: as it stands before the warp, unmoved by the placement unless it rides on a guide. Errors: those of bend_block.
Result<SeatedText> bend_text(const SeatedText& text, const Bend& bend, const Placement& placement,
                             const BendGuides& guides, const BlockEffort& effort = {},
                             const std::function<void(double)>& progress = {});

} // namespace frelm
