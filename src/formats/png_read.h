// PNG pictures in, for tracing; read by cairo.
#pragma once

#include "geom/trace.h"

#include <string_view>

namespace frelm {

// As grey by luminance (ITU-R BT.709), transparent places as white paper. Errors: not a PNG, too large.
Result<GreyPicture> read_png(std::string_view bytes);

} // namespace frelm
