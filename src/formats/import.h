// A drawing's shapes as outline pieces of a document.
#pragma once

#include "document/edits.h"
#include "formats/svg.h"

namespace frelm {

struct Imported {
  Document document;
  std::vector<PieceId> pieces;
  std::vector<LeftOut> left_out; // places: in the document
};

// A new job with the drawing's frame as its sheet, or the shapes in front of a document's pieces: where the drawing
// says, or centred at a point. Errors: those of read_svg, a drawing without any shape.
Result<Imported> job_from_svg(std::string_view bytes);
Result<Imported> add_svg(Document document, std::string_view bytes, std::optional<Point> centre);
// Is this text an SVG drawing (or a fragment of one)?
bool looks_like_svg(std::string_view text);

} // namespace frelm
