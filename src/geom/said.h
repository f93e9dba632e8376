// Words with places for arguments. The core says what is so as such a value: it reads as English (`english`), which the
// command line prints, and it is a code that the window looks up in the language of the screen before it puts the
// arguments in. Words are marked with FRELM_WORDS where they stand, so that the list of all can be made; what is not
// marked does not compile as words.
#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

#define FRELM_WORDS(context, words) (::frelm::Words{words})
#if defined(__clang__) && __clang_major__ < 15 // falls over a view made by a consteval constructor
#define FRELM_CONSTEVAL constexpr
#else
#define FRELM_CONSTEVAL consteval
#endif

namespace frelm {

struct Words {
  constexpr Words() = default;
  template <std::size_t N> explicit FRELM_CONSTEVAL Words(const char (&literal)[N]) : text(literal, N - 1) {}
  constexpr operator std::string_view() const { return text; }
  constexpr bool empty() const { return text.empty(); }
  bool operator==(const Words&) const = default;
  std::string_view text; // "%1: %2 too long"
};

struct Said {
  Said() = default;
  Said(Words what, std::vector<Said> with = {}) : words(what), parts(std::move(with)) {}
  bool empty() const { return words.empty() && as_is.empty(); }
  bool operator==(const Said&) const = default;

  Words words;
  std::vector<Said> parts; // for %1, %2…
  std::string as_is;       // with empty words: a number, a name, what the user has typed
};

inline Said as_it_is(std::string text) {
  Said said;
  said.as_is = std::move(text);
  return said;
}
inline Said as_part(Said said) {
  return said;
}
inline Said as_part(Words words) {
  return words;
}
inline Said as_part(std::string text) {
  return as_it_is(std::move(text));
}
Said place_words(double x, double y); // "x 12.30, y 4.00", in mm
template <class... Parts> Said say(Words words, Parts&&... parts) {
  return {words, {as_part(std::forward<Parts>(parts))...}};
}

// lookup: words → words; what is said with each part in its place.
template <class Lookup> auto spoken(const Said& said, const Lookup& lookup) -> decltype(lookup(said.words.text)) {
  using Text = decltype(lookup(said.words.text));
  if (said.words.empty())
    return lookup.own(said.as_is);
  const Text words = lookup(said.words.text);
  Text out;
  for (std::size_t i = 0; i < static_cast<std::size_t>(words.size()); ++i) {
    const auto c = words[i];
    if (c == '%' && i + 1 < static_cast<std::size_t>(words.size()) && words[i + 1] >= '1' && words[i + 1] <= '9') {
      const auto part = static_cast<std::size_t>(lookup.digit(words[++i]) - 1);
      if (part < said.parts.size())
        out += spoken(said.parts[part], lookup);
    } else {
      out += c;
    }
  }
  return out;
}

struct English {
  std::string operator()(std::string_view words) const { return std::string(words); }
  static std::string own(const std::string& text) { return text; }
  static int digit(char c) { return c - '0'; }
};
inline std::string english(const Said& said) {
  return spoken(said, English{});
}

} // namespace frelm
