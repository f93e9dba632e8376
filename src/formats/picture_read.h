// Photos and scans in, as backings: PNG by cairo, JPEG by libjpeg, upright as their camera says (libexif). What is
// larger than a backing needs is made smaller; else the file's own bytes are kept.
//
// Bounds: 64 million px of a PNG, 64,000 px along a side of a JPEG (which is decoded at a half, quarter or eighth).
// Sizes are said by pHYs (W3C, PNG, second edition, 2003, 11.3.5.3), JFIF (ECMA TR/98, 2009) or not at all.
#pragma once

#include "document/document.h"
#include "geom/picture.h"
#include "geom/result.h"

#include <optional>
#include <string_view>

namespace frelm {

inline constexpr int longest_kept_side = 4000; // px

struct PictureRead {
  PictureFile file;
  double px_per_mm = 0;      // of `file`; 0: not said
  int width = 0, height = 0; // px, as they came; more than the file's own where it was made smaller
  bool smaller() const { return width > file.width; }
};
bool looks_like_picture(std::string_view bytes);
// Errors: neither PNG nor JPEG, damaged, too large.
Result<PictureRead> read_picture(std::string_view bytes);

// Every px of it, upright; what can be seen through shows white paper. Errors: those of read_picture.
Result<ColourPicture> read_pixels(std::string_view bytes);

// One more backing, about a point; without one, the sheet becomes as large as the picture says it is. Errors: those of
// read_picture, as many backings as a job can hold.
struct PictureAdded {
  Document document;
  int width = 0, height = 0; // px, as it came
};
Result<PictureAdded> add_picture(Document document, std::string_view bytes, const std::string& name,
                                 std::optional<Point> centre);

} // namespace frelm
