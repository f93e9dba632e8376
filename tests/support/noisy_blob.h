// The noisy blob of bench/cases/blob.md.
#pragma once

#include "geom/outline.h"

#include <cstdint>
#include <vector>

namespace frelm::test {

struct NoisyBlob {
  std::vector<Point> points;  // 20,000, with noise
  std::vector<Point> clean;   // the same without
  std::vector<Point> corners; // seven
  Outline outline() const;    // the points joined by lines
};
NoisyBlob noisy_blob(std::uint64_t seed = 20240611);

} // namespace frelm::test
