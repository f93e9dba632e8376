// What stands in attributes and style properties: numbers, lengths, transforms, frames.
// Sources: SVG 1.1 (W3C Recommendation, 2011), 4.2, 7.6 to 7.10; CSS Values and Units 3 (2022), 5 and 6.2; CSS
// Transforms 1 (2019), 8 and 9.
#pragma once

#include "geom/point.h"

#include <optional>
#include <string_view>
#include <vector>

namespace frelm {

std::string_view trimmed(std::string_view text);
std::string lower_case(std::string_view text);

// Numbers between blanks and commas. What stands before an error holds (SVG 1.1, F.2).
std::vector<double> svg_numbers(std::string_view text);

// What relative lengths are measured by, user units.
struct LengthScale {
  double font_size = 16, root_font_size = 16;
  double width = 0, height = 0; // of the nearest viewport
};
enum class LengthAlong { X, Y, Other }; // of what a percentage is one; Other: the viewport's diagonal / √2
// In user units. Nothing: it can't be read ("auto", "calc(…)", "1,5mm"). Units in capitals are units.
std::optional<double> svg_length(std::string_view text, const LengthScale& scale, LengthAlong along);
// Does it say a length by itself: mm, cm, in, pt, pc, Q?
bool is_measured(std::string_view length);

// A list of transform functions, in the notations of attributes and of CSS (units, rad, turn). Nothing: it can't be
// read; "none" and nothing at all are the identity.
std::optional<Affine> svg_transform(std::string_view text);

// viewBox and preserveAspectRatio: how a box of user units lies in a viewport.
struct ViewBox {
  double x = 0, y = 0, width = 0, height = 0;
};
std::optional<ViewBox> svg_view_box(std::string_view text); // nothing: none, or none with an area
Affine fitted(const ViewBox& box, double width, double height, std::string_view preserve_aspect_ratio);

} // namespace frelm
