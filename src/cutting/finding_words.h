// Words that several checks share.
#pragma once

#include "document/measure.h"
#include "document/piece_name.h"
#include "geom/said.h"

namespace frelm {

// Words for one and for several; the count is %2.
template <class... Parts>
Said counted(std::size_t n, Words one, Words several, const std::string& name, Parts&&... more) {
  return say(n == 1 ? one : several, name, std::to_string(n), std::forward<Parts>(more)...);
}

// At most some 32 letters of a piece's name: findings are read at a glance.
inline std::string short_name(const Document& document, const Piece& piece) {
  constexpr std::size_t longest = 32;
  const std::u32string name = from_utf8(display_name(document, piece));
  return name.size() <= longest ? to_utf8(name) : to_utf8(name.substr(0, longest - 1)) + "…";
}

inline std::string length_words(const Document& document, double mm) {
  return format_length(mm, document.unit) + " " + unit_name(document.unit);
}

} // namespace frelm
