// Boxes in a tree of Boost.Geometry; of those around a line's own, from small to large, the first whose polygon holds
// the line's middle.
#include "geom/nesting.h"

#include "geom/winding.h"
#include <boost/geometry.hpp>
#include <boost/geometry/geometries/box.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <boost/geometry/index/rtree.hpp>
#include <cmath>
#include <numeric>

namespace frelm {
namespace {

namespace bg = boost::geometry;
using TreePoint = bg::model::d2::point_xy<double>;
using TreeBox = bg::model::box<TreePoint>;

constexpr double flat_enough = 0.01; // mm

} // namespace

std::vector<Nest> nesting(std::span<const Contour* const> lines, const std::stop_token& stop) {
  std::vector<Nest> out(lines.size());
  std::vector<Box> boxes;
  std::vector<double> areas;
  std::vector<std::pair<TreeBox, std::size_t>> closed;
  for (std::size_t i = 0; i < lines.size(); ++i) {
    boxes.push_back(lines[i]->bounds());
    areas.push_back(lines[i]->closed ? std::abs(lines[i]->area()) : 0);
    if (areas.back() > 0)
      closed.emplace_back(TreeBox({boxes[i].x0, boxes[i].y0}, {boxes[i].x1, boxes[i].y1}), i);
  }
  const bg::index::rtree<std::pair<TreeBox, std::size_t>, bg::index::rstar<16>> tree(closed);
  std::vector<std::vector<Point>> polygons(lines.size());
  std::vector<std::size_t> large_first(lines.size());
  std::iota(large_first.begin(), large_first.end(), std::size_t{0});
  std::stable_sort(large_first.begin(), large_first.end(),
                   [&](std::size_t a, std::size_t b) { return areas[a] > areas[b]; });
  std::vector<std::pair<TreeBox, std::size_t>> around;
  for (const std::size_t i : large_first) {
    if (stop.stop_requested())
      return out;
    if (lines[i]->segments.empty())
      continue;
    around.clear();
    const TreeBox own({boxes[i].x0, boxes[i].y0}, {boxes[i].x1, boxes[i].y1});
    tree.query(bg::index::covers(own) &&
                   bg::index::satisfies([&](const auto& v) { return v.second != i && areas[v.second] > areas[i]; }),
               std::back_inserter(around));
    std::sort(around.begin(), around.end(), [&](const auto& a, const auto& b) {
      return areas[a.second] != areas[b.second] ? areas[a.second] < areas[b.second] : a.second < b.second;
    });
    const Point middle = lines[i]->segments.front().at(0.5);
    for (const auto& [box, j] : around) {
      if (polygons[j].empty())
        polygons[j] = flatten(*lines[j], flat_enough);
      if (winding_of(polygons[j], middle) == 0)
        continue;
      out[i] = {j, out[j].depth + 1};
      break;
    }
  }
  return out;
}

} // namespace frelm
