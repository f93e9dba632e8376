#include "formats/png.h"
#include "formats/cairo_path.h"

namespace frelm {
namespace {

constexpr double line_width_mm = 0.25;

} // namespace

Result<std::string> write_png(const DrawnPage& page, int width_px, const PictureGround& ground) {
  const double k = width_px / std::max(page.frame.width(), 1e-6);
  const int height_px = std::max(1, static_cast<int>(std::lround(std::min(1e6, page.frame.height() * k))));
  constexpr double most_pixels = 2e8; // 800 MB while it is drawn
  const Error refused = bad_input(FRELM_WORDS("core", "a picture of this size can't be made; choose a smaller one"),
                                  FRELM_WORDS("core", "PNG"));
  if (double(width_px) * height_px > most_pixels)
    return refused;
  const CairoSurface surface(
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
  std::string out;
  if (cairo_surface_write_to_png_stream(surface.get(), append_bytes, &out) != CAIRO_STATUS_SUCCESS)
    return refused;
  return out;
}

Result<std::string> write_png(const CutSheet& sheet, int width_px, ExportInk ink, const PictureGround& ground) {
  DrawnPage page{sheet.frame, {}};
  for (const CutPiece& piece : sheet.pieces)
    add_item(page.items, {piece.outline, piece.colour}, ink, line_width_mm);
  return write_png(page, width_px, ground);
}

} // namespace frelm
