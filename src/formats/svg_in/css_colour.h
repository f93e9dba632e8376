// Colours as style sheets and attributes write them.
#pragma once

#include "document/piece.h"

#include <optional>
#include <string_view>

namespace frelm {

struct SeenColour {
  Colour colour;
  double alpha = 1; // 0 to 1
  bool operator==(const SeenColour&) const = default;
};
// SVG 1.1, 4.4, and CSS Color 4 (W3C, 2022), 4 to 8: #rgb, #rgba, #rrggbb, #rrggbbaa, rgb(), rgba(), hsl(), hsla(),
// hwb(), a keyword, transparent. Nothing for what is no colour ("none", "url(#a)", "currentColor").
std::optional<SeenColour> css_colour(std::string_view text);

} // namespace frelm
