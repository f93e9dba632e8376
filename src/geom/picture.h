// Pictures as their pixels, rows from the top.
#pragma once

#include <cmath>
#include <cstdint>
#include <vector>

namespace frelm {

struct Rgb {
  std::uint8_t r = 0, g = 0, b = 0;
  bool operator==(const Rgb&) const = default;
};
template <class Px> struct PictureOf {
  int width = 0, height = 0;
  std::vector<Px> px; // width x height

  std::size_t index(int x, int y) const {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
  }
  Px at(int x, int y) const { return px[index(x, y)]; }
};
using GreyPicture = PictureOf<std::uint8_t>; // 0 black … 255 white
using ColourPicture = PictureOf<Rgb>;

// By luminance (ITU-R BT.709).
inline std::uint8_t grey_of(Rgb c) {
  return static_cast<std::uint8_t>(std::lround(0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b));
}
inline GreyPicture grey_of(const ColourPicture& picture) {
  GreyPicture out{picture.width, picture.height, {}};
  out.px.reserve(picture.px.size());
  for (const Rgb c : picture.px)
    out.px.push_back(grey_of(c));
  return out;
}

} // namespace frelm
