#include "formats/line_drawing.h"

#include "document/clean_up.h"
#include "document/validity.h"
#include "formats/export_ink.h"
#include "geom/clean_lines.h"

namespace frelm {

void add_lines(Drawing& drawing, LeftOutList& left_out, std::vector<Contour> lines, const std::string& id,
               Colour colour, Clean clean) {
  constexpr double shortest = 1e-6; // mm
  std::erase_if(lines, [&](const Contour& c) {
    const Box box = c.bounds();
    const bool far = !(std::max({-box.x0, box.x1, -box.y0, box.y1}) <= largest_number);
    const bool tiny = box.width() < shortest && box.height() < shortest;
    if (far)
      left_out.add(Lost::Beyond, {}, id);
    else if (tiny)
      left_out.add(Lost::Tiny, box, id);
    return far || tiny;
  });
  std::vector<Outline> shapes;
  if (clean == Clean::AsWritten) {
    for (Contour& c : lines)
      shapes.push_back({{std::move(c)}});
  } else {
    LinesCleaned once = without_doubles(std::move(lines), doubled);
    left_out.add(Lost::Double, {}, id, once.doubles);
    shapes = nested(joined(std::move(once.contours), ends_meet).contours);
  }
  for (Outline& shape : shapes) {
    drawing.frame.add(shape.bounds());
    drawing.shapes.push_back({std::move(shape), id, colour, hairline});
  }
}

} // namespace frelm
