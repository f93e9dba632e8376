// A picture of a sheet or a page, for people; drawn by cairo.
#pragma once

#include "formats/page.h"

namespace frelm {

// What lies under the drawing; none: it is transparent.
using PictureGround = std::optional<Colour>;
inline constexpr Colour white{255, 255, 255};
inline constexpr int most_picture_width = 32'000; // px, less than what cairo takes

// PNG bytes, `width_px` wide. Errors: a size cairo refuses.
Result<std::string> write_png(const CutSheet& sheet, int width_px, ExportInk ink, const PictureGround& ground = white);
// Does the file hold just what is drawn? It is decoded, and drawn once more. Errors: it does not.
Result<Done> same_in_png(const CutSheet& sheet, const std::string& bytes, int width_px, ExportInk ink,
                         const PictureGround& ground = white);
Result<std::string> write_png(const DrawnPage& page, int width_px, const PictureGround& ground = white);

} // namespace frelm
