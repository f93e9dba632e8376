// The one place that calls FriBidi (Unicode Standard Annex #9, Unicode Bidirectional Algorithm).
#pragma once

#include <cstddef>
#include <string>
#include <vector>

namespace frelm {

struct BidiRun {
  std::size_t first = 0, count = 0; // code points, in reading order
  bool right_to_left = false;
};

// The line's runs of one direction, in visual order from left to right. The base direction is the first strong one.
std::vector<BidiRun> bidi_runs(const std::u32string& line);

} // namespace frelm
