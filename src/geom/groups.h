// Things that are joined two by two and fall into groups: disjoint sets (Galler & Fischer, An improved equivalence
// algorithm, 1964, with path halving).
#pragma once

#include <algorithm>
#include <numeric>
#include <vector>

namespace frelm {

class Groups {
public:
  explicit Groups(std::size_t things) : parent_(things) { std::iota(parent_.begin(), parent_.end(), std::size_t{0}); }
  // The first of the group that i is in.
  std::size_t first_of(std::size_t i) {
    while (parent_[i] != i)
      i = parent_[i] = parent_[parent_[i]];
    return i;
  }
  void join(std::size_t a, std::size_t b) {
    a = first_of(a), b = first_of(b);
    parent_[std::max(a, b)] = std::min(a, b);
  }
  // Groups by their first, members in ascending order.
  std::vector<std::vector<std::size_t>> all() {
    std::vector<std::vector<std::size_t>> out;
    std::vector<std::size_t> place(parent_.size());
    for (std::size_t i = 0; i < parent_.size(); ++i) {
      if (first_of(i) == i)
        place[i] = out.size(), out.emplace_back();
      out[place[first_of(i)]].push_back(i);
    }
    return out;
  }

private:
  std::vector<std::size_t> parent_;
};

} // namespace frelm
