#include "geom/components.h"

namespace frelm {

std::vector<Outline> components(const Outline& outline) {
  struct Outer {
    std::size_t part;
    Box box;
    double area;
  };
  std::vector<Outline> out;
  std::vector<Outer> outers;
  for (const Contour& c : outline.contours) {
    const double area = c.closed ? c.area() : 0;
    if (c.closed && !(area > 0))
      continue;
    if (c.closed)
      outers.push_back({out.size(), c.bounds(), area});
    out.push_back({{c}});
  }
  std::sort(outers.begin(), outers.end(), [](const Outer& a, const Outer& b) { return a.area < b.area; });
  for (const Contour& c : outline.contours) {
    if (!c.closed || c.segments.empty() || !(c.area() < 0))
      continue;
    const Box box = c.bounds();
    for (const Outer& o : outers) // the smallest that holds it
      if (o.box.overlaps(box) && lies_in(c, out[o.part].contours.front())) {
        out[o.part].contours.push_back(c);
        break;
      }
  }
  return out;
}

} // namespace frelm
