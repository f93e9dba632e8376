// Backings in the job file: the picture's bytes in base 64 (RFC 4648).
#include "document/backing_json.h"
#include "document/job_json.h"

namespace frelm::job_json {
namespace {

constexpr std::string_view digits = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";

std::string in_base64(const std::string& bytes) {
  std::string out;
  out.reserve((bytes.size() + 2) / 3 * 4);
  for (std::size_t i = 0; i < bytes.size(); i += 3) {
    const std::size_t n = std::min<std::size_t>(3, bytes.size() - i);
    std::uint32_t group = 0;
    for (std::size_t k = 0; k < 3; ++k)
      group = group << 8 | (k < n ? static_cast<unsigned char>(bytes[i + k]) : 0U);
    for (std::size_t k = 0; k < 4; ++k)
      out += k <= n ? digits[group >> (18 - 6 * k) & 63] : '=';
  }
  return out;
}

std::string from_base64(const At& at) {
  const std::string text = at.text();
  std::string out;
  out.reserve(text.size() / 4 * 3);
  std::uint32_t group = 0;
  int bits = 0;
  for (const char c : text) {
    if (c == '=')
      break;
    const std::size_t digit = digits.find(c);
    if (digit == std::string_view::npos)
      at.refuse(FRELM_WORDS("core", "is not a picture's bytes"));
    group = group << 6 | static_cast<std::uint32_t>(digit);
    bits += 6;
    if (bits >= 8) {
      bits -= 8;
      out += static_cast<char>(group >> bits & 255);
    }
  }
  return out;
}

} // namespace

Json backings(const std::vector<Backing>& list) {
  Json out = Json::array();
  for (const Backing& b : list)
    out.push_back({{"name", b.name},
                   {"place", {b.place.a, b.place.b, b.place.c, b.place.d, b.place.e, b.place.f}},
                   {"strength", b.strength},
                   {"visible", b.visible},
                   {"width", b.picture->width},
                   {"height", b.picture->height},
                   {"picture", in_base64(b.picture->bytes)}});
  return out;
}

Backing backing(const At& at) {
  Backing out;
  out.name = at["name"].text();
  double* const parts[]{&out.place.a, &out.place.b, &out.place.c, &out.place.d, &out.place.e, &out.place.f};
  for (std::size_t i = 0; i < std::size(parts); ++i)
    *parts[i] = at["place"].item(i).number();
  out.strength = at["strength"].number();
  out.visible = at["visible"].flag();
  const auto side = [](const At& of) {
    const std::uint64_t v = of.whole();
    if (v > static_cast<std::uint64_t>(most_picture_side))
      of.refuse(FRELM_WORDS("core", "is out of range"));
    return static_cast<int>(v);
  };
  PictureFile picture{from_base64(at["picture"]), side(at["width"]), side(at["height"])};
  out.picture = std::make_shared<const PictureFile>(std::move(picture));
  return out;
}

} // namespace frelm::job_json
