// A picture of a cut sheet, for people; drawn by cairo.
#pragma once

#include "document/evaluate.h"

namespace frelm {

enum class PictureView { Ink, Lines };

// PNG bytes, `width_px` wide, the sheet on white. Errors: a size cairo refuses.
Result<std::string> write_png(const CutSheet& sheet, int width_px, PictureView view);

} // namespace frelm
