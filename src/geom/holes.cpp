#include "geom/holes.h"

namespace frelm {

Outline with_holes(const Outline& outline, HoleRule rule, double size) {
  if (rule == HoleRule::Keep)
    return outline;
  struct Hole {
    Contour contour;
    Box box;
  };
  std::vector<Hole> dropped;
  std::vector<bool> gone(outline.contours.size(), false);
  for (std::size_t i = 0; i < outline.contours.size(); ++i) {
    const Contour& c = outline.contours[i];
    if (!c.closed || !(c.area() < 0))
      continue;
    const Box box = c.bounds();
    if (rule == HoleRule::DropSmall && std::max(box.width(), box.height()) > size)
      continue;
    gone[i] = true;
    dropped.push_back({c, box});
  }
  Outline out;
  for (std::size_t i = 0; i < outline.contours.size(); ++i) {
    const Contour& c = outline.contours[i];
    for (const Hole& hole : dropped)
      if (!gone[i] && c.closed && hole.box.overlaps(c.bounds()))
        gone[i] = lies_in(c, hole.contour);
    if (!gone[i])
      out.contours.push_back(c);
  }
  return out;
}

} // namespace frelm
