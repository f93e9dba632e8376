// Styles in a drawing: presentation attributes, the `style` attribute and <style> elements (SVG 1.1, 6; CSS 2.1, 6.4:
// the cascade). Selectors that are read: `*`, an element's name, .class, #id, :root, those joined ("path.thin"), one
// within another ("g path", "g > path"), in lists. Others (states, attributes, siblings) and at-rules say nothing here;
// what could show in print is listed. No library of Debian 12 reads style sheets from C++ (libcroco went in 2020).
#pragma once

#include "document/piece.h"

#include <map>
#include <optional>
#include <pugixml.hpp>
#include <string_view>
#include <unordered_map>

namespace frelm {

// What an element itself says, without what it inherits.
class ElementStyle {
public:
  std::string_view value(std::string_view property) const; // empty: nothing

private:
  friend class StyleSheets;
  struct Declared {
    std::string value;
    bool important = false;
  };
  using Declarations = std::map<std::string, Declared, std::less<>>;
  pugi::xml_node element_;
  Declarations says_; // by rules and `style`; attributes weigh less than any of them
};

class StyleSheets {
public:
  void add(std::string_view css);
  ElementStyle of(const pugi::xml_node& element) const;
  const std::vector<std::string>& passed_over() const { return passed_over_; } // selectors
  bool imports() const { return imports_; }                                    // a sheet in another file

private:
  using Declarations = ElementStyle::Declarations;
  struct Compound {
    std::string element, id; // empty: any
    std::vector<std::string> classes;
    bool root = false;
    bool child = false; // of what stands before it, not just somewhere within
  };
  struct Rule {
    std::vector<Compound> within; // the last is the element itself
    Declarations says;
    std::size_t order = 0;
    int weight() const; // CSS 2.1, 6.4.3
  };
  static Declarations declarations(std::string_view text);
  enum class Reading { Rule, NeverInPrint, Unknown };
  static Reading read(std::string_view text, Rule& out);
  static bool read(std::string_view text, Compound& out);
  static bool meets(const Compound& rule, const pugi::xml_node& element);
  static bool meets(const Rule& rule, const pugi::xml_node& element);
  void keep(Rule rule);

  // By what the element itself must have: "#id", ".class", "name", "".
  std::unordered_map<std::string, std::vector<Rule>> rules_;
  std::size_t count_ = 0;
  std::vector<std::string> passed_over_;
  bool imports_ = false;
};

} // namespace frelm
