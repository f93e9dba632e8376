// A face read from a font file.
#pragma once

#include "type/face.h"

namespace frelm {

// index: the face in a collection, and from bit 16 on the number of a named instance of a variable face, from 1; 0: as
// the file has it by default. Errors: the file can't be read, or has no scalable outlines.
Result<std::shared_ptr<const Face>> open_font(const std::string& path, int index = 0);

} // namespace frelm
