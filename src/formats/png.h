// A picture of a sheet or a page, for people; drawn by cairo.
#pragma once

#include "formats/page.h"

namespace frelm {

enum class PictureView { Ink, Lines };

// What lies under the drawing.
struct PictureGround {
  bool transparent = false;
  Colour colour = {255, 255, 255};
  bool operator==(const PictureGround&) const = default;
};
inline constexpr int most_picture_width = 32'000; // px, less than what cairo takes

// PNG bytes, `width_px` wide. Errors: a size cairo refuses.
Result<std::string> write_png(const CutSheet& sheet, int width_px, PictureView view, const PictureGround& ground = {});
Result<std::string> write_png(const DrawnPage& page, int width_px, const PictureGround& ground = {});

} // namespace frelm
