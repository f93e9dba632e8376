#include "formats/import.h"

#include "document/validity.h"
#include "formats/dxf_read.h"
#include "formats/hpgl_read.h"
#include "formats/page_read.h"
#include "formats/svg.h"

#include <set>

namespace frelm {

bool looks_like_svg(std::string_view text) {
  if (text.starts_with("\x1f\x8b"))
    return true; // packed; what it holds is seen when it is read
  const std::size_t first = text.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
  return first != std::string_view::npos && text[first] == '<' && text.find("<svg") != std::string_view::npos;
}

std::span<const std::string_view> drawing_suffixes() {
  static constexpr std::string_view all[]{"svg", "svgz", "dxf", "plt", "hpgl", "hpg", "pdf", "eps", "ps"};
  return all;
}

bool looks_like_drawing(std::string_view bytes) {
  return looks_like_svg(bytes) || looks_like_dxf(bytes) || looks_like_hpgl(bytes) || looks_like_pdf(bytes) ||
         looks_like_postscript(bytes);
}

Result<Drawing> read_drawing(std::string_view bytes, const DrawingReadOptions& options) {
  if (looks_like_pdf(bytes))
    return read_pdf(bytes, options);
  if (looks_like_postscript(bytes))
    return read_postscript(bytes, options);
  if (looks_like_dxf(bytes))
    return read_dxf(bytes, options);
  if (looks_like_hpgl(bytes))
    return read_hpgl(bytes, options);
  if (!looks_like_svg(bytes))
    return Error{
        ErrorCode::Unsupported,
        FRELM_WORDS("core", "is no drawing that can be read; save it as SVG, PDF, EPS, DXF or HP-GL where it was made"),
        {}};
  return read_svg(bytes, options);
}

Result<Imported> add_drawing(Document document, const Drawing& drawing, const Placing& placing) {
  if (const Result<Done> shows = shows_something(drawing); !shows)
    return shows.error();
  if (!(placing.size > 0) || !std::isfinite(placing.size))
    return bad_input(FRELM_WORDS("core", "a size must be more than 0"));
  const double k = placing.size;
  Box box;
  for (const DrawnShape& s : drawing.shapes)
    box.add(s.outline.bounds());
  const Vec by =
      placing.centre ? *placing.centre - box.centre() * k : Vec{-drawing.frame.x0 * k, -drawing.frame.y0 * k};
  const Affine m = Affine::translation(by) * Affine::scaling(k, k);
  const Document before = document;
  Imported out;
  out.corner = m({drawing.frame.x0, drawing.frame.y0});
  for (const DrawnShape& s : drawing.shapes) {
    Piece piece;
    piece.name = s.id;
    piece.colour = s.colour;
    OutlinePiece drawn;
    drawn.outline = std::make_shared<const Outline>(s.outline.transformed(m));
    piece.content = std::move(drawn);
    Added added = add_piece(std::move(document), std::move(piece));
    document = std::move(added.document);
    out.pieces.push_back(added.id);
  }
  LeftOutList left_out;
  for (LeftOut l : drawing.left_out) {
    for (Box& place : l.places) {
      const Point a = m({place.x0, place.y0}), b = m({place.x1, place.y1});
      place = {a.x, a.y, b.x, b.y};
    }
    left_out.add(l);
  }
  std::set<PieceId> bad;
  for (const Fault& fault : faults(document, &before))
    if (bad.insert(fault.piece).second)
      left_out.add(Lost::Beyond, {}, fault.text());
  out.left_out = left_out.list();
  const auto is_bad = [&](PieceId id) { return bad.count(id) > 0; };
  std::erase_if(document.pieces, [&](const auto& p) { return is_bad(p->id); });
  std::erase_if(out.pieces, is_bad);
  if (out.pieces.empty())
    return bad_input(
        say(FRELM_WORDS("core", "none of the drawing's shapes can be taken: %1"), in_one_line(out.left_out)));
  out.document = std::move(document);
  return out;
}

Result<Imported> job_from_drawing(const Drawing& drawing, double size) {
  Document document;
  const double width = drawing.frame.width() * size, height = drawing.frame.height() * size;
  if (width > 0 && height > 0)
    document.sheet = {width, height};
  return add_drawing(std::move(document), drawing, {std::nullopt, size});
}

} // namespace frelm
