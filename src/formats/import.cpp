#include "formats/import.h"

#include "document/validity.h"

namespace frelm {

bool looks_like_svg(std::string_view text) {
  const std::size_t first = text.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
  return first != std::string_view::npos && text[first] == '<' && text.find("<svg") != std::string_view::npos;
}

Result<Imported> add_svg(Document document, std::string_view bytes, std::optional<Point> centre) {
  Result<Drawing> drawing = read_svg(bytes);
  if (!drawing)
    return drawing.error();
  Imported out;
  Box box;
  for (const DrawnShape& s : drawing->shapes)
    box.add(s.outline.bounds());
  if (const Result<Done> shows = shows_something(*drawing); !shows)
    return shows.error();
  const Vec by = centre ? *centre - box.centre() : Vec{-drawing->frame.x0, -drawing->frame.y0};
  LeftOutList beyond;
  for (DrawnShape& s : drawing->shapes) {
    Piece piece;
    piece.name = s.id;
    piece.colour = s.colour;
    OutlinePiece drawn;
    drawn.outline = std::make_shared<const Outline>(s.outline.transformed(Affine::translation(by)));
    piece.content = std::move(drawn);
    Added added = add_piece(document, std::move(piece));
    if (const std::vector<Fault> bad = faults(added.document, &document); !bad.empty()) {
      beyond.add(Lost::Beyond, {}, s.id + ": " + bad.front().text());
      continue;
    }
    document = std::move(added.document);
    out.pieces.push_back(added.id);
  }
  if (out.pieces.empty())
    return bad_input(say(FRELM_WORDS("core", "none of the drawing's shapes can be taken: %1"),
                         english(words_of(beyond.list().front()))));
  out.left_out = std::move(drawing->left_out);
  for (LeftOut& l : out.left_out)
    for (Box& place : l.places)
      place = {place.x0 + by.x, place.y0 + by.y, place.x1 + by.x, place.y1 + by.y};
  for (LeftOut& l : beyond.list())
    out.left_out.push_back(std::move(l));
  out.document = std::move(document);
  return out;
}

Result<Imported> job_from_svg(std::string_view bytes) {
  const Result<Drawing> drawing = read_svg(bytes);
  if (!drawing)
    return drawing.error();
  Document document;
  if (drawing->frame.width() > 0 && drawing->frame.height() > 0)
    document.sheet = {drawing->frame.width(), drawing->frame.height()};
  return add_svg(std::move(document), bytes, std::nullopt);
}

} // namespace frelm
