#include "formats/cairo_path.h"

#include <cstring>
#include <string_view>

namespace frelm {

void add_path(cairo_t* cr, const Outline& outline) {
  cairo_new_path(cr);
  for (const Contour& c : outline.contours) {
    if (c.segments.empty())
      continue;
    cairo_move_to(cr, c.segments.front().p0.x, c.segments.front().p0.y);
    for (const Segment& s : c.segments) {
      if (s.is_line())
        cairo_line_to(cr, s.p3.x, s.p3.y);
      else
        cairo_curve_to(cr, s.p1.x, s.p1.y, s.p2.x, s.p2.y, s.p3.x, s.p3.y);
    }
    if (c.closed)
      cairo_close_path(cr);
  }
}

cairo_status_t append_bytes(void* string, const unsigned char* data, unsigned length) {
  static_cast<std::string*>(string)->append(reinterpret_cast<const char*>(data), length);
  return CAIRO_STATUS_SUCCESS;
}

cairo_status_t take_bytes(void* string_view, unsigned char* data, unsigned length) {
  auto& left = *static_cast<std::string_view*>(string_view);
  if (left.size() < length)
    return CAIRO_STATUS_READ_ERROR;
  std::memcpy(data, left.data(), length);
  left.remove_prefix(length);
  return CAIRO_STATUS_SUCCESS;
}

} // namespace frelm
