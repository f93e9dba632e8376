// Rules are read once and sorted by how much their selector says; for each element those that match are applied in that
// order, then its own style attribute. Values that can't be read leave what was inherited.
#include "formats/svg_style.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace frelm {
namespace {

constexpr std::string_view blanks = " \t\r\n\f";

std::string_view trimmed(std::string_view text) {
  const std::size_t first = text.find_first_not_of(blanks);
  if (first == std::string_view::npos)
    return {};
  return text.substr(first, text.find_last_not_of(blanks) - first + 1);
}

std::string lower(std::string_view text) {
  std::string out(text);
  for (char& c : out)
    if (c >= 'A' && c <= 'Z')
      c = static_cast<char>(c - 'A' + 'a');
  return out;
}

std::string without_comments(std::string_view css) {
  std::string out;
  for (std::size_t at = 0; at < css.size();) {
    const std::size_t begin = css.find("/*", at);
    out += css.substr(at, std::min(begin, css.size()) - at);
    if (begin == std::string_view::npos)
      break;
    const std::size_t end = css.find("*/", begin + 2);
    at = end == std::string_view::npos ? css.size() : end + 2;
  }
  return out;
}

// Parts of a text between separators.
std::vector<std::string_view> split(std::string_view text, char by) {
  std::vector<std::string_view> out;
  for (std::size_t at = 0; at <= text.size();) {
    const std::size_t end = std::min(text.find(by, at), text.size());
    out.push_back(text.substr(at, end - at));
    at = end + 1;
  }
  return out;
}

struct Keyword {
  std::string_view name;
  unsigned rgb;
};
// SVG 1.1, 4.4: recognized color keyword names, in the order of their names.
constexpr Keyword keywords[]{
    {"aliceblue", 0xf0f8ff},
    {"antiquewhite", 0xfaebd7},
    {"aqua", 0x00ffff},
    {"aquamarine", 0x7fffd4},
    {"azure", 0xf0ffff},
    {"beige", 0xf5f5dc},
    {"bisque", 0xffe4c4},
    {"black", 0x000000},
    {"blanchedalmond", 0xffebcd},
    {"blue", 0x0000ff},
    {"blueviolet", 0x8a2be2},
    {"brown", 0xa52a2a},
    {"burlywood", 0xdeb887},
    {"cadetblue", 0x5f9ea0},
    {"chartreuse", 0x7fff00},
    {"chocolate", 0xd2691e},
    {"coral", 0xff7f50},
    {"cornflowerblue", 0x6495ed},
    {"cornsilk", 0xfff8dc},
    {"crimson", 0xdc143c},
    {"cyan", 0x00ffff},
    {"darkblue", 0x00008b},
    {"darkcyan", 0x008b8b},
    {"darkgoldenrod", 0xb8860b},
    {"darkgray", 0xa9a9a9},
    {"darkgreen", 0x006400},
    {"darkgrey", 0xa9a9a9},
    {"darkkhaki", 0xbdb76b},
    {"darkmagenta", 0x8b008b},
    {"darkolivegreen", 0x556b2f},
    {"darkorange", 0xff8c00},
    {"darkorchid", 0x9932cc},
    {"darkred", 0x8b0000},
    {"darksalmon", 0xe9967a},
    {"darkseagreen", 0x8fbc8f},
    {"darkslateblue", 0x483d8b},
    {"darkslategray", 0x2f4f4f},
    {"darkslategrey", 0x2f4f4f},
    {"darkturquoise", 0x00ced1},
    {"darkviolet", 0x9400d3},
    {"deeppink", 0xff1493},
    {"deepskyblue", 0x00bfff},
    {"dimgray", 0x696969},
    {"dimgrey", 0x696969},
    {"dodgerblue", 0x1e90ff},
    {"firebrick", 0xb22222},
    {"floralwhite", 0xfffaf0},
    {"forestgreen", 0x228b22},
    {"fuchsia", 0xff00ff},
    {"gainsboro", 0xdcdcdc},
    {"ghostwhite", 0xf8f8ff},
    {"gold", 0xffd700},
    {"goldenrod", 0xdaa520},
    {"gray", 0x808080},
    {"green", 0x008000},
    {"greenyellow", 0xadff2f},
    {"grey", 0x808080},
    {"honeydew", 0xf0fff0},
    {"hotpink", 0xff69b4},
    {"indianred", 0xcd5c5c},
    {"indigo", 0x4b0082},
    {"ivory", 0xfffff0},
    {"khaki", 0xf0e68c},
    {"lavender", 0xe6e6fa},
    {"lavenderblush", 0xfff0f5},
    {"lawngreen", 0x7cfc00},
    {"lemonchiffon", 0xfffacd},
    {"lightblue", 0xadd8e6},
    {"lightcoral", 0xf08080},
    {"lightcyan", 0xe0ffff},
    {"lightgoldenrodyellow", 0xfafad2},
    {"lightgray", 0xd3d3d3},
    {"lightgreen", 0x90ee90},
    {"lightgrey", 0xd3d3d3},
    {"lightpink", 0xffb6c1},
    {"lightsalmon", 0xffa07a},
    {"lightseagreen", 0x20b2aa},
    {"lightskyblue", 0x87cefa},
    {"lightslategray", 0x778899},
    {"lightslategrey", 0x778899},
    {"lightsteelblue", 0xb0c4de},
    {"lightyellow", 0xffffe0},
    {"lime", 0x00ff00},
    {"limegreen", 0x32cd32},
    {"linen", 0xfaf0e6},
    {"magenta", 0xff00ff},
    {"maroon", 0x800000},
    {"mediumaquamarine", 0x66cdaa},
    {"mediumblue", 0x0000cd},
    {"mediumorchid", 0xba55d3},
    {"mediumpurple", 0x9370db},
    {"mediumseagreen", 0x3cb371},
    {"mediumslateblue", 0x7b68ee},
    {"mediumspringgreen", 0x00fa9a},
    {"mediumturquoise", 0x48d1cc},
    {"mediumvioletred", 0xc71585},
    {"midnightblue", 0x191970},
    {"mintcream", 0xf5fffa},
    {"mistyrose", 0xffe4e1},
    {"moccasin", 0xffe4b5},
    {"navajowhite", 0xffdead},
    {"navy", 0x000080},
    {"oldlace", 0xfdf5e6},
    {"olive", 0x808000},
    {"olivedrab", 0x6b8e23},
    {"orange", 0xffa500},
    {"orangered", 0xff4500},
    {"orchid", 0xda70d6},
    {"palegoldenrod", 0xeee8aa},
    {"palegreen", 0x98fb98},
    {"paleturquoise", 0xafeeee},
    {"palevioletred", 0xdb7093},
    {"papayawhip", 0xffefd5},
    {"peachpuff", 0xffdab9},
    {"peru", 0xcd853f},
    {"pink", 0xffc0cb},
    {"plum", 0xdda0dd},
    {"powderblue", 0xb0e0e6},
    {"purple", 0x800080},
    {"red", 0xff0000},
    {"rosybrown", 0xbc8f8f},
    {"royalblue", 0x4169e1},
    {"saddlebrown", 0x8b4513},
    {"salmon", 0xfa8072},
    {"sandybrown", 0xf4a460},
    {"seagreen", 0x2e8b57},
    {"seashell", 0xfff5ee},
    {"sienna", 0xa0522d},
    {"silver", 0xc0c0c0},
    {"skyblue", 0x87ceeb},
    {"slateblue", 0x6a5acd},
    {"slategray", 0x708090},
    {"slategrey", 0x708090},
    {"snow", 0xfffafa},
    {"springgreen", 0x00ff7f},
    {"steelblue", 0x4682b4},
    {"tan", 0xd2b48c},
    {"teal", 0x008080},
    {"thistle", 0xd8bfd8},
    {"tomato", 0xff6347},
    {"turquoise", 0x40e0d0},
    {"violet", 0xee82ee},
    {"wheat", 0xf5deb3},
    {"white", 0xffffff},
    {"whitesmoke", 0xf5f5f5},
    {"yellow", 0xffff00},
    {"yellowgreen", 0x9acd32},
};

constexpr Colour colour(unsigned rgb) {
  return {static_cast<std::uint8_t>(rgb >> 16 & 0xff), static_cast<std::uint8_t>(rgb >> 8 & 0xff),
          static_cast<std::uint8_t>(rgb & 0xff)};
}

std::optional<Colour> hex_colour(std::string_view digits) {
  unsigned value = 0;
  const auto [end, status] = std::from_chars(digits.data(), digits.data() + digits.size(), value, 16);
  if (status != std::errc() || end != digits.data() + digits.size())
    return std::nullopt;
  if (digits.size() == 6)
    return colour(value);
  if (digits.size() != 3)
    return std::nullopt;
  return colour((value >> 8 & 0xf) * 0x110000 + (value >> 4 & 0xf) * 0x1100 + (value & 0xf) * 0x11);
}

// Three numbers 0 to 255, or three percentages.
std::optional<Colour> rgb_colour(std::string_view inside) {
  unsigned rgb = 0;
  const auto parts = split(inside, ',');
  if (parts.size() != 3)
    return std::nullopt;
  for (const std::string_view part : parts) {
    const std::string_view text = trimmed(part);
    double v = 0;
    const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), v);
    const bool percent = end != text.data() + text.size() && *end == '%';
    if (status != std::errc() || end + (percent ? 1 : 0) != text.data() + text.size() || !std::isfinite(v))
      return std::nullopt;
    rgb = rgb << 8 | static_cast<unsigned>(std::lround(std::clamp(percent ? v * 255 / 100 : v, 0.0, 255.0)));
  }
  return colour(rgb);
}

} // namespace

std::string_view local_name(const pugi::xml_node& element) {
  const std::string_view name = element.name();
  const std::size_t colon = name.find(':');
  return colon == std::string_view::npos ? name : name.substr(colon + 1);
}

std::optional<Colour> css_colour(std::string_view text) {
  const std::string word = lower(trimmed(text));
  if (word.starts_with('#'))
    return hex_colour(std::string_view(word).substr(1));
  if (word.starts_with("rgb(") && word.ends_with(')'))
    return rgb_colour(std::string_view(word).substr(4, word.size() - 5));
  const auto known = std::lower_bound(std::begin(keywords), std::end(keywords), word,
                                      [](const Keyword& k, const std::string& w) { return k.name < w; });
  if (known == std::end(keywords) || known->name != word)
    return std::nullopt;
  return colour(known->rgb);
}

int StyleSheets::Selector::weight() const {
  constexpr int many = 1000;
  return (id.empty() ? 0 : many * many) + many * static_cast<int>(classes.size()) + (element.empty() ? 0 : 1);
}

StyleSheets::Declarations StyleSheets::declarations(std::string_view text) {
  Declarations out;
  for (const std::string_view item : split(text, ';')) {
    const std::size_t colon = item.find(':');
    if (colon == std::string_view::npos)
      continue;
    ElementStyle::Declared d{std::string(trimmed(item.substr(colon + 1)))};
    if (const std::size_t bang = d.value.rfind('!');
        bang != std::string::npos && lower(trimmed(std::string_view(d.value).substr(bang + 1))) == "important")
      d = {std::string(trimmed(std::string_view(d.value).substr(0, bang))), true};
    ElementStyle::Declared& kept = out[lower(trimmed(item.substr(0, colon)))];
    if (d.important || !kept.important)
      kept = std::move(d);
  }
  return out;
}

bool StyleSheets::read(std::string_view text, Selector& out) {
  constexpr std::string_view marks = ".#";
  for (std::size_t at = 0; at < text.size();) {
    const char sort = marks.find(text[at]) == std::string_view::npos ? 'e' : text[at++];
    const std::size_t end = std::min(text.find_first_of(marks, at), text.size());
    const std::string word(text.substr(at, end - at));
    if (word.empty() || word.find_first_of(" \t\r\n\f>+~:[]()*@\"'\\") != std::string::npos) {
      if (sort != 'e' || word != "*")
        return false;
    } else if (sort == 'e') {
      out.element = word;
    } else if (sort == '#') {
      out.id = word;
    } else {
      out.classes.push_back(word);
    }
    at = end;
  }
  return !text.empty();
}

void StyleSheets::add(std::string_view sheet) {
  const std::string css = without_comments(sheet);
  for (std::size_t at = 0; at < css.size();) {
    const std::size_t open = css.find('{', at);
    if (open == std::string::npos)
      break;
    std::string_view selectors = trimmed(std::string_view(css).substr(at, open - at));
    if (const std::size_t before = selectors.rfind(';'); before != std::string_view::npos)
      selectors = trimmed(selectors.substr(before + 1)); // behind "@import …;"
    std::size_t shut = open + 1;
    for (int deep = 1; shut < css.size(); ++shut) { // at-rules hold blocks
      deep += css[shut] == '{' ? 1 : css[shut] == '}' ? -1 : 0;
      if (deep == 0)
        break;
    }
    const auto says = declarations(std::string_view(css).substr(open + 1, shut - open - 1));
    for (const std::string_view one : split(selectors, ',')) {
      Selector rule;
      if (read(trimmed(one), rule)) {
        rule.says = says;
        rules_.push_back(std::move(rule));
      } else {
        passed_over_.emplace_back(trimmed(one));
      }
    }
    at = shut + 1;
  }
  std::stable_sort(rules_.begin(), rules_.end(),
                   [](const Selector& a, const Selector& b) { return a.weight() < b.weight(); });
}

bool StyleSheets::meets(const Selector& rule, const pugi::xml_node& element) {
  if (!rule.element.empty() && rule.element != local_name(element))
    return false;
  if (!rule.id.empty() && rule.id != element.attribute("id").value())
    return false;
  if (rule.classes.empty())
    return true;
  std::string of = element.attribute("class").value();
  std::replace_if(
      of.begin(), of.end(), [](char c) { return blanks.find(c) != std::string_view::npos; }, ' ');
  const auto has = split(of, ' ');
  return std::all_of(rule.classes.begin(), rule.classes.end(),
                     [&](const std::string& wanted) { return std::find(has.begin(), has.end(), wanted) != has.end(); });
}

ElementStyle StyleSheets::of(const pugi::xml_node& element) const {
  ElementStyle out;
  out.element_ = element;
  const auto said = [&](const Declarations& says) {
    for (const auto& [property, d] : says)
      if (ElementStyle::Declared& kept = out.says_[property]; d.important || !kept.important)
        kept = d;
  };
  for (const Selector& rule : rules_)
    if (meets(rule, element))
      said(rule.says);
  if (const std::string_view own = element.attribute("style").value(); !own.empty())
    said(declarations(without_comments(own)));
  return out;
}

std::string ElementStyle::value(const std::string& property) const {
  const auto said = says_.find(property);
  return said != says_.end() ? said->second.value : std::string(trimmed(element_.attribute(property.c_str()).value()));
}

} // namespace frelm
