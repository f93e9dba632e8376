#include "formats/png.h"
#include "formats/cairo_path.h"

#include <cstring>

namespace frelm {
namespace {

constexpr double line_width_mm = 0.25;

// PNG keeps colours by themselves, cairo times their alpha: rounded there and back.
bool close(std::uint32_t p, std::uint32_t q) {
  for (int shift = 0; shift < 32; shift += 8)
    if (std::abs(static_cast<int>(p >> shift & 255) - static_cast<int>(q >> shift & 255)) > (shift == 24 ? 0 : 1))
      return false;
  return true;
}

Error refused() {
  return bad_input(FRELM_WORDS("core", "a picture of this size can't be made; choose a smaller one"),
                   FRELM_WORDS("core", "PNG"));
}

DrawnPage page_of(const CutSheet& sheet, ExportInk ink) {
  DrawnPage page{sheet.frame, {}};
  for (const CutPiece& piece : sheet.pieces)
    add_item(page.items, {piece.outline, piece.colour}, ink, line_width_mm);
  return page;
}

// Null: more than can be drawn.
CairoSurface drawn(const DrawnPage& page, int width_px, const PictureGround& ground) {
  const double k = width_px / std::max(page.frame.width(), 1e-6);
  const int height_px = std::max(1, static_cast<int>(std::lround(std::min(1e6, page.frame.height() * k))));
  constexpr double most_pixels = 2e8; // 800 MB while it is drawn
  if (double(width_px) * height_px > most_pixels)
    return {nullptr, cairo_surface_destroy};
  CairoSurface surface(
      cairo_image_surface_create(ground ? CAIRO_FORMAT_RGB24 : CAIRO_FORMAT_ARGB32, width_px, height_px),
      cairo_surface_destroy);
  const CairoContext cr(cairo_create(surface.get()), cairo_destroy);
  const auto choose = [&](Colour c) { cairo_set_source_rgb(cr.get(), c.r / 255.0, c.g / 255.0, c.b / 255.0); };
  if (ground) {
    choose(*ground);
    cairo_paint(cr.get());
  }
  cairo_scale(cr.get(), k, k);
  cairo_translate(cr.get(), -page.frame.x0, -page.frame.y0);
  cairo_set_fill_rule(cr.get(), CAIRO_FILL_RULE_WINDING);
  for (const PageItem& item : page.items) {
    add_path(cr.get(), item.outline);
    choose(item.colour);
    cairo_set_line_width(cr.get(), item.line);
    if (item.line > 0)
      cairo_stroke(cr.get());
    else
      cairo_fill(cr.get());
  }
  return surface;
}

} // namespace

Result<std::string> write_png(const DrawnPage& page, int width_px, const PictureGround& ground) {
  const CairoSurface surface = drawn(page, width_px, ground);
  std::string out;
  if (!surface || cairo_surface_write_to_png_stream(surface.get(), append_bytes, &out) != CAIRO_STATUS_SUCCESS)
    return refused();
  return out;
}

Result<std::string> write_png(const CutSheet& sheet, int width_px, ExportInk ink, const PictureGround& ground) {
  return write_png(page_of(sheet, ink), width_px, ground);
}

Result<Done> same_in_png(const CutSheet& sheet, const std::string& bytes, int width_px, ExportInk ink,
                         const PictureGround& ground) {
  const CairoSurface wanted = drawn(page_of(sheet, ink), width_px, ground);
  std::string_view left = bytes;
  const CairoSurface found(cairo_image_surface_create_from_png_stream(take_bytes, &left), cairo_surface_destroy);
  cairo_surface_t *a = wanted.get(), *b = found.get();
  bool same = a != nullptr && cairo_surface_status(b) == CAIRO_STATUS_SUCCESS &&
              cairo_image_surface_get_format(a) == cairo_image_surface_get_format(b) &&
              cairo_image_surface_get_width(a) == cairo_image_surface_get_width(b) &&
              cairo_image_surface_get_height(a) == cairo_image_surface_get_height(b);
  if (same)
    cairo_surface_flush(a);
  const auto width = same ? static_cast<std::size_t>(cairo_image_surface_get_width(a)) : 0;
  for (int y = 0; same && y < cairo_image_surface_get_height(a); ++y) {
    const unsigned char* mine = cairo_image_surface_get_data(a) + std::ptrdiff_t{y} * cairo_image_surface_get_stride(a);
    const unsigned char* theirs =
        cairo_image_surface_get_data(b) + std::ptrdiff_t{y} * cairo_image_surface_get_stride(b);
    for (std::size_t x = 0; same && x < width; ++x) { // the highest byte says nothing where there is a ground
      std::uint32_t p = 0, q = 0;
      std::memcpy(&p, mine + 4 * x, 4), std::memcpy(&q, theirs + 4 * x, 4);
      same = ground ? (p & 0xffffff) == (q & 0xffffff) : close(p, q);
    }
  }
  if (!same)
    return Error{ErrorCode::Internal,
                 FRELM_WORDS("core", "the picture was read back and is not what was to leave. Try another format, and "
                                     "tell us"),
                 {}};
  return Done{};
}

} // namespace frelm
