// The parts of the area and those of its complement are found the same way: the complement's outer contours are the
// holes, turned about.
#include "geom/cut_parts.h"

#include "geom/area_centre.h"
#include "geom/components.h"

#include <algorithm>

namespace frelm {
namespace {

Point place_in(const Outline& part, const Box& box) {
  if (const auto middle = area_centre(part); middle && winding_number(part, *middle) != 0)
    return *middle;
  // Between the places where a level line goes in and out.
  constexpr double flat = 0.01; // mm
  const double y = box.centre().y;
  std::vector<double> crossed;
  for (const Contour& c : part.contours) {
    const std::vector<Point> p = flatten(c, flat);
    for (std::size_t i = 0; i < p.size(); ++i)
      if (const Point a = p[i], b = p[(i + 1) % p.size()]; (a.y <= y) != (b.y <= y))
        crossed.push_back(a.x + (b.x - a.x) * (y - a.y) / (b.y - a.y));
  }
  std::sort(crossed.begin(), crossed.end());
  Point best = box.centre();
  double longest = 0;
  for (std::size_t i = 0; i + 1 < crossed.size(); i += 2)
    if (const double stretch = crossed[i + 1] - crossed[i]; stretch > longest)
      longest = stretch, best = {crossed[i] + stretch / 2, y};
  return best;
}

} // namespace

std::vector<CutPart> cut_parts(const Outline& sound) {
  std::vector<CutPart> out;
  for (Outline& part : components(sound)) {
    const double area = part.area();
    if (!(area > 0) || !part.contours.front().closed)
      continue;
    const Box box = part.bounds();
    const Point at = place_in(part, box);
    out.push_back({std::move(part), area, at, box});
  }
  std::stable_sort(out.begin(), out.end(), [](const CutPart& a, const CutPart& b) { return a.area > b.area; });
  return out;
}

std::vector<CutPart> loose_stock(const Outline& sound) {
  Outline turned;
  for (const Contour& c : sound.contours)
    if (c.closed && !c.segments.empty())
      turned.contours.push_back(c.reversed());
  return cut_parts(turned); // what was outermost is a hole in nothing now
}

} // namespace frelm
