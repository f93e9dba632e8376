// The letters and rails of bench/cases/warp.md.
#pragma once

#include "geom/rails.h"

#include <string>
#include <vector>

namespace frelm::test {

struct WarpCase {
  std::string name; // "arch, Lato"
  Outline letters;  // 64
  WarpMap map;
};
std::vector<WarpCase> warp_cases();

} // namespace frelm::test
