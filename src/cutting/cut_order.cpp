// Each contour's parent is the smallest one of the piece that contains it. Groups (an outermost contour with all in
// it) are visited by nearest neighbour from where the knife is; inside a group, deeper contours come first.
#include "cutting/cut_order.h"

#include <numeric>

namespace frelm {
namespace {

struct Nest {
  Box box;
  double area = 0;
  std::size_t depth = 0, outermost = 0;
};

std::vector<Nest> nest(const Outline& outline) {
  std::vector<Nest> out;
  for (const Contour& c : outline.contours)
    out.push_back({c.bounds(), std::abs(c.area()), 0, out.size()});
  std::vector<std::size_t> by_area(out.size());
  std::iota(by_area.begin(), by_area.end(), std::size_t{0});
  std::sort(by_area.begin(), by_area.end(), [&](std::size_t a, std::size_t b) { return out[a].area > out[b].area; });
  for (std::size_t k = 0; k < by_area.size(); ++k) {
    const std::size_t i = by_area[k];
    if (outline.contours[i].segments.empty())
      continue;
    const Point inside = outline.contours[i].segments.front().at(0.5);
    for (std::size_t m = k; m-- > 0;) {
      const std::size_t j = by_area[m];
      if (!outline.contours[j].closed || !out[j].box.contains(out[i].box))
        continue;
      if (winding_number({{outline.contours[j]}}, inside, 0.01) == 0)
        continue;
      out[i].depth = out[j].depth + 1;
      out[i].outermost = out[j].outermost;
      break;
    }
  }
  return out;
}

} // namespace

std::vector<CutPath> cut_order(const CutSheet& sheet) {
  std::vector<std::size_t> all(sheet.pieces.size());
  std::iota(all.begin(), all.end(), std::size_t{0});
  return cut_order(sheet, all);
}

std::vector<CutPath> cut_order(const CutSheet& sheet, const std::vector<std::size_t>& pieces) {
  std::vector<CutPath> order;
  Point knife{sheet.frame.x0, sheet.frame.y1};
  for (const std::size_t p : pieces) {
    const Outline& outline = sheet.pieces[p].outline;
    const std::vector<Nest> nests = nest(outline);
    std::vector<std::size_t> left;
    for (std::size_t i = 0; i < nests.size(); ++i)
      if (nests[i].outermost == i && !outline.contours[i].segments.empty())
        left.push_back(i);
    while (!left.empty()) {
      const auto near = std::min_element(left.begin(), left.end(), [&](std::size_t a, std::size_t b) {
        return distance(outline.contours[a].segments.front().p0, knife) <
               distance(outline.contours[b].segments.front().p0, knife);
      });
      const std::size_t outermost = *near;
      left.erase(near);
      std::vector<std::size_t> group;
      for (std::size_t i = 0; i < nests.size(); ++i)
        if (nests[i].outermost == outermost && !outline.contours[i].segments.empty())
          group.push_back(i);
      std::stable_sort(group.begin(), group.end(),
                       [&](std::size_t a, std::size_t b) { return nests[a].depth > nests[b].depth; });
      for (const std::size_t i : group) {
        const Segment& first = outline.contours[i].segments.front();
        order.push_back({p, i, nests[i].depth, first.p0, first.start_tangent(), sheet.pieces[p].colour});
        knife = outline.contours[i].closed ? first.p0 : outline.contours[i].segments.back().p3;
      }
    }
  }
  return order;
}

} // namespace frelm
