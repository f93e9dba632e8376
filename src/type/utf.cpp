#include "type/face.h"

namespace frelm {

std::string to_utf8(const std::u32string& text) {
  std::string out;
  const auto put = [&](std::uint32_t byte) { out.push_back(static_cast<char>(static_cast<unsigned char>(byte))); };
  for (char32_t c : text) {
    if (c > 0x10ffff || (c >= 0xd800 && c < 0xe000))
      c = 0xfffd;
    if (c < 0x80) {
      put(c);
    } else if (c < 0x800) {
      put(0xc0 | (c >> 6)), put(0x80 | (c & 0x3f));
    } else if (c < 0x10000) {
      put(0xe0 | (c >> 12)), put(0x80 | ((c >> 6) & 0x3f)), put(0x80 | (c & 0x3f));
    } else {
      put(0xf0 | (c >> 18)), put(0x80 | ((c >> 12) & 0x3f)), put(0x80 | ((c >> 6) & 0x3f)), put(0x80 | (c & 0x3f));
    }
  }
  return out;
}

std::u32string from_utf8(const std::string& text) {
  std::u32string out;
  for (std::size_t i = 0; i < text.size();) {
    const unsigned char lead = static_cast<unsigned char>(text[i]);
    const std::size_t n = lead < 0x80                   ? 1
                          : lead >= 0xf0 && lead < 0xf5 ? 4
                          : lead >= 0xe0 && lead < 0xf0 ? 3
                          : lead >= 0xc2 && lead < 0xe0 ? 2
                                                        : 0;
    bool good = n != 0 && i + n <= text.size();
    char32_t c = n == 1 ? lead : n == 2 ? lead & 0x1f : n == 3 ? lead & 0x0f : lead & 0x07;
    for (std::size_t k = 1; good && k < n; ++k) {
      const unsigned char next = static_cast<unsigned char>(text[i + k]);
      good = (next & 0xc0) == 0x80;
      c = (c << 6) | (next & 0x3f);
    }
    good = good && !(n == 3 && c < 0x800) && !(n == 4 && c < 0x10000) && c <= 0x10ffff && !(c >= 0xd800 && c < 0xe000);
    out.push_back(good ? c : U'\ufffd');
    i += good ? n : 1;
  }
  return out;
}

} // namespace frelm
