#include "formats/svg_in/page.h"

#include <fmt/format.h>

namespace frelm {

SvgPage page_of(const pugi::xml_node& root, const ElementStyle& style, LeftOutList& left_out) {
  SvgPage page;
  const auto box = svg_view_box(root.attribute("viewBox").value());
  const auto measure = [&](const char* name) -> std::optional<double> {
    const std::string_view says = style.value(name);
    if (says.empty() || lower_case(says) == "auto" || says.ends_with('%'))
      return std::nullopt;
    const auto v = svg_length(says, {}, LengthAlong::Other);
    if (!v || !(*v > 0)) {
      left_out.add(Lost::Unread, {}, fmt::format("{} \u201c{}\u201d", name, says));
      return std::nullopt;
    }
    page.size = is_measured(says) ? SizeFrom::Lengths : SizeFrom::Pixels;
    return v;
  };
  const std::optional<double> w = measure("width"), h = measure("height");
  page.bounded = box || (w && h);
  constexpr double usual_width = 300, usual_height = 150; // CSS 2.1, 10.3.2
  double width = w.value_or(box ? box->width : usual_width), height = h.value_or(box ? box->height : usual_height);
  page.to_mm = Affine::scaling(mm_per_px, mm_per_px);
  page.scale = {16, 16, box ? box->width : width, box ? box->height : height};
  if (box) {
    if (w && !h)
      height = width * box->height / box->width;
    if (h && !w)
      width = height * box->width / box->height;
    page.to_mm = fitted(*box, width * mm_per_px, height * mm_per_px, root.attribute("preserveAspectRatio").value());
    // Frames whose origin is not 0 keep it, so that mm files come back with the coordinates they hold.
    page.origin = {box->x * page.to_mm.a, box->y * page.to_mm.d};
    page.to_mm.e += page.origin.x, page.to_mm.f += page.origin.y;
  }
  page.width = width * mm_per_px, page.height = height * mm_per_px;
  return page;
}

} // namespace frelm
