// Union-find over boxes swept from left to right; only boxes still open at the sweep line are compared.
#include "geom/weld.h"

#include <map>
#include <numeric>

namespace frelm {

std::vector<std::vector<std::size_t>> touching_groups(const std::vector<Box>& boxes) {
  std::vector<std::size_t> parent(boxes.size());
  std::iota(parent.begin(), parent.end(), std::size_t{0});
  const auto root = [&](std::size_t i) {
    while (parent[i] != i)
      i = parent[i] = parent[parent[i]];
    return i;
  };
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
        parent[std::max(root(i), root(j))] = std::min(root(i), root(j));
    open.push_back(i);
  }
  std::map<std::size_t, std::vector<std::size_t>> groups;
  for (std::size_t i = 0; i < boxes.size(); ++i)
    if (!boxes[i].empty())
      groups[root(i)].push_back(i);
  std::vector<std::vector<std::size_t>> out;
  for (auto& [first, members] : groups)
    out.push_back(std::move(members));
  return out;
}

} // namespace frelm
