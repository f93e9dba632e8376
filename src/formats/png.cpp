#include "formats/png.h"
#include "formats/cairo_path.h"

namespace frelm {
namespace {

constexpr double line_width_mm = 0.25;

} // namespace

Result<std::string> write_png(const CutSheet& sheet, int width_px, PictureView view) {
  const double k = width_px / std::max(sheet.frame.width(), 1e-6);
  const int height_px = std::max(1, static_cast<int>(std::lround(sheet.frame.height() * k)));
  const CairoSurface surface(cairo_image_surface_create(CAIRO_FORMAT_RGB24, width_px, height_px),
                             cairo_surface_destroy);
  const CairoContext cr(cairo_create(surface.get()), cairo_destroy);
  cairo_set_source_rgb(cr.get(), 1, 1, 1);
  cairo_paint(cr.get());
  cairo_scale(cr.get(), k, k);
  cairo_translate(cr.get(), -sheet.frame.x0, -sheet.frame.y0);
  cairo_set_line_width(cr.get(), line_width_mm);
  for (const CutPiece& piece : sheet.pieces) {
    add_path(cr.get(), piece.outline);
    cairo_set_source_rgb(cr.get(), piece.colour.r / 255.0, piece.colour.g / 255.0, piece.colour.b / 255.0);
    cairo_set_fill_rule(cr.get(), CAIRO_FILL_RULE_WINDING);
    if (view == PictureView::Ink)
      cairo_fill(cr.get());
    else
      cairo_stroke(cr.get());
  }
  std::string out;
  if (cairo_surface_write_to_png_stream(surface.get(), append_bytes, &out) != CAIRO_STATUS_SUCCESS)
    return bad_input(FRELM_WORDS("core", "a picture of this size can't be made; choose a smaller one"),
                     FRELM_WORDS("core", "PNG"));
  return out;
}

} // namespace frelm
