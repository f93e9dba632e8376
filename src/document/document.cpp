#include "document/document.h"

#include <charconv>
#include <fmt/format.h>

namespace frelm {

std::string to_hex(Colour c) {
  return fmt::format("#{:02x}{:02x}{:02x}", c.r, c.g, c.b);
}

Result<Colour> colour_from_hex(const std::string& text) {
  unsigned value = 0;
  const bool shape = text.size() == 7 && text[0] == '#';
  const auto [end, status] = std::from_chars(text.data() + (shape ? 1 : 0), text.data() + text.size(), value, 16);
  if (!shape || status != std::errc() || end != text.data() + text.size())
    return bad_input("a colour is written like #1f2a33", text);
  return Colour{static_cast<std::uint8_t>(value >> 16), static_cast<std::uint8_t>(value >> 8 & 0xff),
                static_cast<std::uint8_t>(value & 0xff)};
}

const Piece* Document::find(PieceId id) const {
  for (const auto& p : pieces)
    if (p->id == id)
      return p.get();
  return nullptr;
}

std::size_t Document::index_of(PieceId id) const {
  for (std::size_t i = 0; i < pieces.size(); ++i)
    if (pieces[i]->id == id)
      return i;
  return pieces.size();
}

bool Document::operator==(const Document& o) const {
  return sheet == o.sheet && unit == o.unit && next_id == o.next_id && carried == o.carried &&
         std::equal(pieces.begin(), pieces.end(), o.pieces.begin(), o.pieces.end(),
                    [](const auto& a, const auto& b) { return a == b || *a == *b; });
}

} // namespace frelm
