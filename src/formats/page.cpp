#include "formats/page.h"
#include "formats/cairo_path.h"

#include <cairo/cairo-pdf.h>
#include <cairo/cairo-ps.h>
#include <cmath>

namespace frelm {
namespace {

constexpr double points_per_mm = 72 / 25.4;
constexpr double hairline = 0.0254;     // mm, a thousandth of an inch
constexpr double largest_page = 14'400; // points

// down: points from the page's top edge.
void draw(cairo_t* cr, const CutPlan& plan, const PageOptions& options, double down, std::optional<std::size_t> only) {
  cairo_save(cr);
  cairo_translate(cr, 0, down);
  cairo_scale(cr, points_per_mm, points_per_mm);
  cairo_translate(cr, -plan.sheet.frame.x0, -plan.sheet.frame.y0);
  cairo_set_line_width(cr, hairline);
  cairo_set_line_join(cr, CAIRO_LINE_JOIN_ROUND);
  cairo_set_fill_rule(cr, CAIRO_FILL_RULE_WINDING);
  for (std::size_t i = 0; i < plan.sheet.pieces.size(); ++i) {
    if (only && plan.layer_of[i] != *only)
      continue;
    const CutPiece& piece = plan.sheet.pieces[i];
    add_path(cr, piece.outline);
    cairo_set_source_rgb(cr, piece.colour.r / 255.0, piece.colour.g / 255.0, piece.colour.b / 255.0);
    if (options.ink == PageInk::Filled)
      cairo_fill(cr);
    else
      cairo_stroke(cr);
  }
  cairo_restore(cr);
}

// whole: of points, which EPS counts its page by; the sheet's lower left corner is the page's.
enum class PageSize { Exact, Whole };
template <class Begin>
Result<std::string> paged(const CutPlan& plan, const PageOptions& options, Words format, PageSize size,
                          const Begin& begin) {
  double width = plan.sheet.frame.width() * points_per_mm, height = plan.sheet.frame.height() * points_per_mm;
  const double whole = std::ceil(height), down = size == PageSize::Whole ? whole - height : 0;
  if (size == PageSize::Whole)
    width = std::ceil(width), height = whole;
  const Error refused =
      bad_input(FRELM_WORDS("core", "the sheet is too large for this format, which ends at 5 m; write "
                                    "an SVG or DXF file, or make the sheet smaller"),
                format);
  if (!(width > 0 && width <= largest_page && height > 0 && height <= largest_page))
    return refused;
  std::string out;
  {
    const CairoSurface surface(begin(&out, width, height), cairo_surface_destroy);
    const CairoContext cr(cairo_create(surface.get()), cairo_destroy);
    if (options.page_a_layer)
      for (std::size_t layer = 0; layer < plan.layers.size(); ++layer) {
        draw(cr.get(), plan, options, down, layer);
        cairo_show_page(cr.get());
      }
    else
      draw(cr.get(), plan, options, down, {}), cairo_show_page(cr.get());
    cairo_surface_finish(surface.get());
    if (cairo_surface_status(surface.get()) != CAIRO_STATUS_SUCCESS || cairo_status(cr.get()) != CAIRO_STATUS_SUCCESS)
      return refused;
  }
  return out;
}

} // namespace

Result<std::string> write_pdf(const CutPlan& plan, const PageOptions& options) {
  return paged(plan, options, FRELM_WORDS("core", "PDF"), PageSize::Exact,
               [](std::string* out, double width, double height) {
                 return cairo_pdf_surface_create_for_stream(append_bytes, out, width, height);
               });
}

Result<std::string> write_eps(const CutPlan& plan, const PageOptions& options) {
  PageOptions one = options;
  one.page_a_layer = false;
  return paged(plan, one, FRELM_WORDS("core", "EPS"), PageSize::Whole,
               [](std::string* out, double width, double height) {
                 cairo_surface_t* surface = cairo_ps_surface_create_for_stream(append_bytes, out, width, height);
                 cairo_ps_surface_set_eps(surface, 1);
                 return surface;
               });
}

} // namespace frelm
