// A drawing's shapes as outline pieces of a document.
#pragma once

#include "document/edits.h"
#include "formats/drawing.h"

#include <optional>
#include <span>
#include <string_view>

namespace frelm {

// Which format it is, its bytes say. Errors: those of its reader; bytes of no known format.
Result<Drawing> read_drawing(std::string_view bytes, const DrawingReadOptions& options = {});
// Is this text an SVG drawing (or a fragment of one), packed or not?
bool looks_like_svg(std::string_view text);
bool looks_like_drawing(std::string_view bytes);      // of any format that is read
std::span<const std::string_view> drawing_suffixes(); // of their files

struct Placing {
  std::optional<Point> centre; // mm; nothing: where the drawing's page says
  double size = 1;             // times what the drawing says (see Drawing::sizes)
};
struct Imported {
  Document document;
  std::vector<PieceId> pieces;
  std::vector<LeftOut> left_out; // places: in the document
  Point corner;                  // where the upper left corner of the drawing's page stands, mm
};
// In front of a document's pieces. Errors: a drawing that shows nothing, a size of nothing.
Result<Imported> add_drawing(Document document, const Drawing& drawing, const Placing& placing = {});
// A new job with the drawing's page as its sheet.
Result<Imported> job_from_drawing(const Drawing& drawing, double size = 1);

} // namespace frelm
