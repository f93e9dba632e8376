// What PDF and EPS have in common: the words that draw. EPS defines PDF's short names.
#pragma once

#include "formats/page.h"

namespace frelm {

inline constexpr double points_per_mm = 72 / 25.4;

struct PageWords {
  // Before and after what is on a layer; empty: layers are not told apart.
  std::function<std::string(std::size_t layer)> begin_layer = {};
  std::string end_layer = {};
  std::string spot_fill, spot_line; // choose the spot colour
};
// y up from the frame's lower left corner, in points.
std::string page_content(const DrawnPage& page, const PageWords& words);

} // namespace frelm
