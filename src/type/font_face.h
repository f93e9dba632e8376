// A face read from a font file.
#pragma once

#include "type/face.h"

namespace frelm {

// index: the face in a collection. Errors: the file can't be read, or has no scalable outlines.
Result<std::shared_ptr<const Face>> open_font(const std::string& path, int index = 0);

} // namespace frelm
