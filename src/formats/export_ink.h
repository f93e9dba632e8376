// How a file shows what is cut.
#pragma once

namespace frelm {

// Areas filled with the material's colour, or hairlines to cut along.
enum class ExportInk { Areas, Lines };

} // namespace frelm
