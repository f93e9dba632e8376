// How large a drawing says it is (SVG 1.1, 5.1.2, 7.2 and 7.7; CSS 2.1, 10.3.2 for what it doesn't say).
#pragma once

#include "formats/drawing.h"
#include "formats/svg_in/style.h"
#include "formats/svg_in/values.h"

namespace frelm {

inline constexpr double mm_per_px = 25.4 / 96; // CSS Values 3, 6.2: 1px = 1/96 in

// The root's size and how user units lie in it.
struct SvgPage {
  double width = 0, height = 0; // mm
  Point origin;                 // mm
  Affine to_mm;
  LengthScale scale;
  bool bounded = false; // it has edges
  SizeFrom size = SizeFrom::Nothing;
};
// A size that can't be read is told, and counts as none.
SvgPage page_of(const pugi::xml_node& root, const ElementStyle& style, LeftOutList& left_out);

} // namespace frelm
