// Styles in a drawing: presentation attributes, the `style` attribute and <style> elements (SVG 1.1, 6; CSS 2.1, 6.4:
// the cascade). Selectors that are read: `*`, an element's name, .class, #id and those joined ("path.thin"), in lists.
// Others (descendants, states, attributes, at-rules) are passed over and listed. No library of Debian 12 reads style
// sheets from C++ (libcroco went in 2020).
#pragma once

#include "document/piece.h"

#include <map>
#include <optional>
#include <pugixml.hpp>
#include <string_view>

namespace frelm {

// What an element itself says, without what it inherits.
class ElementStyle {
public:
  std::string value(const std::string& property) const; // empty: nothing

private:
  friend class StyleSheets;
  struct Declared {
    std::string value;
    bool important = false;
  };
  using Declarations = std::map<std::string, Declared>;
  pugi::xml_node element_;
  Declarations says_; // by rules and `style`; attributes weigh less than any of them
};

class StyleSheets {
public:
  void add(std::string_view css);
  ElementStyle of(const pugi::xml_node& element) const;
  const std::vector<std::string>& passed_over() const { return passed_over_; } // selectors

private:
  using Declarations = ElementStyle::Declarations;
  struct Selector {
    std::string element, id; // empty: any
    std::vector<std::string> classes;
    Declarations says;
    int weight() const; // CSS 2.1, 6.4.3, of what is read here
  };
  static Declarations declarations(std::string_view text);
  static bool read(std::string_view text, Selector& out);
  static bool meets(const Selector& rule, const pugi::xml_node& element);

  std::vector<Selector> rules_; // by weight, then in the order they were read
  std::vector<std::string> passed_over_;
};

// SVG 1.1, 4.4: #rgb, #rrggbb, rgb(), a keyword. Nothing for what is no colour ("none", "url(#a)", "currentColor").
std::optional<Colour> css_colour(std::string_view text);

std::string_view local_name(const pugi::xml_node& element); // without its prefix

} // namespace frelm
