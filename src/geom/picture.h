// Pictures as their pixels, rows from the top.
#pragma once

#include <cmath>
#include <cstdint>
#include <vector>

namespace frelm {

struct GreyPicture { // 0 black … 255 white
  int width = 0, height = 0;
  std::vector<std::uint8_t> grey; // width x height
};

struct Rgb {
  std::uint8_t r = 0, g = 0, b = 0;
  bool operator==(const Rgb&) const = default;
};
struct ColourPicture {
  int width = 0, height = 0;
  std::vector<Rgb> px; // width x height
};

// By luminance (ITU-R BT.709).
inline std::uint8_t grey_of(Rgb c) {
  return static_cast<std::uint8_t>(std::lround(0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b));
}
GreyPicture grey_of(const ColourPicture& picture);

} // namespace frelm
