// SVG in and out (SVG 1.1, W3C Recommendation 2011).
//
// Out: plain; width and height in mm, viewBox in mm, one group per colour, one compound path per piece, absolute
// coordinates, no transforms, no text. In: paths, basic shapes, groups, transforms, units, viewBox → mm;
// shapes filled by the even-odd rule as the nonzero outlines of the same area.
#pragma once

#include "document/evaluate.h"

#include <string>
#include <string_view>

namespace frelm {

// Coordinates are rounded to 0.00001 mm.
std::string write_svg(const CutSheet& sheet);

struct SvgShape {
  Outline outline; // mm
  std::string id;
  Colour colour; // of fill, else of stroke, else black
};
struct SvgDrawing {
  Box frame; // mm
  std::vector<SvgShape> shapes;
  std::vector<std::string> skipped; // what was not taken, one line each
};
// Errors: not XML, no svg element, path data that can't be read.
Result<SvgDrawing> read_svg(std::string_view bytes);

} // namespace frelm
