#include "support/silhouette.h"

#include <cairo/cairo.h>
#include <cstdio>
#include <fmt/format.h>
#include <memory>

namespace frelm {
namespace {

using Surface = std::unique_ptr<cairo_surface_t, decltype(&cairo_surface_destroy)>;

Silhouette silhouette_of(cairo_surface_t* surface) {
  cairo_surface_flush(surface);
  Silhouette out{cairo_image_surface_get_width(surface), cairo_image_surface_get_height(surface), {}};
  const unsigned char* data = cairo_image_surface_get_data(surface);
  const int stride = cairo_image_surface_get_stride(surface);
  const bool alpha = cairo_image_surface_get_format(surface) == CAIRO_FORMAT_ARGB32;
  constexpr int least = 2, bytes = 4, of_alpha = 3;
  for (int y = 0; y < out.height; ++y)
    for (int x = 0; x < out.width; ++x)
      out.covered.push_back(!alpha || data[std::ptrdiff_t{y} * stride + std::ptrdiff_t{x} * bytes + of_alpha] > least);
  return out;
}

cairo_status_t from_pipe(void* pipe, unsigned char* data, unsigned length) {
  return std::fread(data, 1, length, static_cast<FILE*>(pipe)) == length ? CAIRO_STATUS_SUCCESS
                                                                         : CAIRO_STATUS_READ_ERROR;
}

std::string quoted(const std::string& path) {
  std::string out = "'";
  for (const char c : path)
    out += c == '\'' ? std::string("'\\''") : std::string(1, c);
  return out + "'";
}

} // namespace

std::size_t Silhouette::count() const {
  return static_cast<std::size_t>(std::count(covered.begin(), covered.end(), true));
}

std::optional<Silhouette> seen_by_librsvg(const std::string& path, double zoom) {
  // Not by the width wanted: from that it makes a scale of whole pixels.
  const std::string size = zoom > 0 ? fmt::format("--zoom {}", zoom) : "-w 50 -h 50";
  const std::string command = fmt::format("timeout 6 rsvg-convert {} {} 2>/dev/null", size, quoted(path));
  FILE* pipe = popen(command.c_str(), "r");
  if (pipe == nullptr)
    return std::nullopt;
  const Surface surface(cairo_image_surface_create_from_png_stream(&from_pipe, pipe), &cairo_surface_destroy);
  const bool done = pclose(pipe) == 0 && cairo_surface_status(surface.get()) == CAIRO_STATUS_SUCCESS;
  return done ? std::optional(silhouette_of(surface.get())) : std::nullopt;
}

double zoom_for(const Drawing& drawing, int size) {
  return size / (std::max(drawing.frame.width(), drawing.frame.height()) / 25.4 * 96);
}

Silhouette seen_in(const Drawing& drawing, int width, int height, double zoom) {
  const Surface surface(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, width, height), &cairo_surface_destroy);
  const std::unique_ptr<cairo_t, decltype(&cairo_destroy)> cr(cairo_create(surface.get()), &cairo_destroy);
  const double px_per_mm = zoom * 96 / 25.4;
  cairo_scale(cr.get(), px_per_mm, px_per_mm);
  cairo_translate(cr.get(), -drawing.frame.x0, -drawing.frame.y0);
  cairo_set_tolerance(cr.get(), 0.02 / px_per_mm);
  for (const DrawnShape& s : drawing.shapes) {
    for (const Contour& c : s.outline.contours) {
      cairo_move_to(cr.get(), c.segments.front().p0.x, c.segments.front().p0.y);
      for (const Segment& g : c.segments)
        g.is_line() ? cairo_line_to(cr.get(), g.p3.x, g.p3.y)
                    : cairo_curve_to(cr.get(), g.p1.x, g.p1.y, g.p2.x, g.p2.y, g.p3.x, g.p3.y);
      if (c.closed)
        cairo_close_path(cr.get());
    }
    if (s.line_width > 0) {
      cairo_set_line_width(cr.get(), s.line_width);
      cairo_stroke(cr.get());
    } else {
      cairo_fill(cr.get());
    }
  }
  return silhouette_of(surface.get());
}

double overlap(const Silhouette& a, const Silhouette& b) {
  if (a.covered.size() != b.covered.size())
    return 0;
  std::size_t both = 0, either = 0;
  for (std::size_t i = 0; i < a.covered.size(); ++i)
    both += a.covered[i] && b.covered[i], either += a.covered[i] || b.covered[i];
  return either == 0 ? 1 : static_cast<double>(both) / static_cast<double>(either);
}

} // namespace frelm
