// Boxes swept from left to right; only boxes still open at the sweep line are compared.
#include "geom/groups.h"
#include "geom/weld.h"

#include <numeric>

namespace frelm {

std::vector<std::vector<std::size_t>> touching_groups(const std::vector<Box>& boxes) {
  Groups groups(boxes.size());
  std::vector<std::size_t> order(boxes.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return boxes[a].x0 < boxes[b].x0; });
  std::vector<std::size_t> open;
  for (const std::size_t i : order) {
    if (boxes[i].empty())
      continue;
    std::erase_if(open, [&](std::size_t j) { return boxes[j].x1 < boxes[i].x0; });
    for (const std::size_t j : open)
      if (boxes[i].overlaps(boxes[j]))
        groups.join(i, j);
    open.push_back(i);
  }
  std::vector<std::vector<std::size_t>> out = groups.all();
  std::erase_if(out, [&](const std::vector<std::size_t>& members) { return boxes[members.front()].empty(); });
  return out;
}

} // namespace frelm
