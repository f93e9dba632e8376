// How a file shows what is cut.
#pragma once

namespace frelm {

// Areas filled with the material's colour, or lines to cut along. What is not closed is a line either way.
enum class ExportInk { Areas, Lines };

inline constexpr double hairline = 0.0254; // mm, a thousandth of an inch

} // namespace frelm
