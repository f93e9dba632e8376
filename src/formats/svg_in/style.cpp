// Rules are read once and sorted by how much their selector says; for each element those that match are applied in that
// order, then its own style attribute. Values that can't be read leave what was inherited.
#include "formats/svg_in/style.h"

#include "formats/svg_in/values.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace frelm {
namespace {

constexpr std::string_view css_blanks = " \t\r\n\f";

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

} // namespace

int StyleSheets::Rule::weight() const {
  constexpr int many = 1000;
  int sum = 0;
  for (const Compound& c : within)
    sum += (c.id.empty() ? 0 : many * many) + many * (static_cast<int>(c.classes.size()) + (c.root ? 1 : 0)) +
           (c.element.empty() ? 0 : 1);
  return sum;
}

StyleSheets::Declarations StyleSheets::declarations(std::string_view text) {
  Declarations out;
  for (const std::string_view item : split(text, ';')) {
    const std::size_t colon = item.find(':');
    if (colon == std::string_view::npos)
      continue;
    ElementStyle::Declared d{std::string(trimmed(item.substr(colon + 1)))};
    if (const std::size_t bang = d.value.rfind('!');
        bang != std::string::npos && lower_case(trimmed(std::string_view(d.value).substr(bang + 1))) == "important")
      d = {std::string(trimmed(std::string_view(d.value).substr(0, bang))), true};
    ElementStyle::Declared& kept = out[lower_case(trimmed(item.substr(0, colon)))];
    if (d.important || !kept.important)
      kept = std::move(d);
  }
  return out;
}

bool StyleSheets::read(std::string_view text, Compound& out) {
  constexpr std::string_view marks = ".#:";
  for (std::size_t at = 0; at < text.size();) {
    const char sort = marks.find(text[at]) == std::string_view::npos ? 'e' : text[at++];
    const std::size_t end = std::min(text.find_first_of(marks, at), text.size());
    const std::string word(text.substr(at, end - at));
    if (word.empty() || word.find_first_of("+~[]()*@\"'\\") != std::string::npos) {
      if (sort != 'e' || word != "*")
        return false;
    } else if (sort == 'e') {
      const std::size_t bar = word.find('|'); // a namespace
      out.element = bar == std::string::npos ? word : word.substr(bar + 1);
    } else if (sort == '#') {
      out.id = word;
    } else if (sort == '.') {
      out.classes.push_back(word);
    } else if (lower_case(word) == "root") {
      out.root = true;
    } else {
      return false;
    }
    at = end;
  }
  return !text.empty();
}

StyleSheets::Reading StyleSheets::read(std::string_view text, Rule& out) {
  for (const char* state : {":hover", ":active", ":focus", ":visited", ":target", "::selection"})
    if (text.find(state) != std::string_view::npos)
      return Reading::NeverInPrint;
  bool child = false;
  while (!text.empty()) {
    const std::size_t end = std::min(text.find_first_of(" \t\r\n\f>"), text.size());
    Compound one;
    if (!read(text.substr(0, end), one))
      return Reading::Unknown;
    one.child = child;
    out.within.push_back(std::move(one));
    text.remove_prefix(end);
    const std::size_t next = text.find_first_not_of(" \t\r\n\f");
    text.remove_prefix(std::min(next, text.size()));
    child = text.starts_with('>');
    if (child)
      text = trimmed(text.substr(1));
  }
  return out.within.empty() || child ? Reading::Unknown : Reading::Rule;
}

void StyleSheets::keep(Rule rule) {
  constexpr std::size_t most_rules = 5000;
  if (count_ >= most_rules) {
    passed_over_.push_back("\u2026");
    return;
  }
  const Compound& own = rule.within.back();
  const std::string key = !own.id.empty()        ? "#" + own.id
                          : !own.classes.empty() ? "." + own.classes.front()
                                                 : own.element;
  rule.order = count_++;
  rules_[key].push_back(std::move(rule));
}

void StyleSheets::add(std::string_view sheet) {
  const std::string css = without_comments(sheet);
  for (std::size_t at = 0; at < css.size();) {
    const std::size_t open = css.find('{', at);
    if (open == std::string::npos)
      break;
    std::string_view selectors = trimmed(std::string_view(css).substr(at, open - at));
    if (const std::size_t before = selectors.rfind(';'); before != std::string_view::npos) {
      imports_ = imports_ || selectors.find("@import") != std::string_view::npos;
      selectors = trimmed(selectors.substr(before + 1)); // behind "@import …;"
    }
    std::size_t shut = open + 1;
    for (int deep = 1; shut < css.size(); ++shut) { // at-rules hold blocks
      deep += css[shut] == '{' ? 1 : css[shut] == '}' ? -1 : 0;
      if (deep == 0)
        break;
    }
    const bool at_rule = selectors.starts_with('@');
    const auto says = declarations(std::string_view(css).substr(open + 1, shut - open - 1));
    for (const std::string_view one : at_rule ? std::vector<std::string_view>{} : split(selectors, ',')) {
      Rule rule;
      const Reading reading = read(trimmed(one), rule);
      if (reading == Reading::Rule) {
        rule.says = says;
        keep(std::move(rule));
      } else if (reading == Reading::Unknown) {
        passed_over_.emplace_back(trimmed(one));
      }
    }
    at = shut + 1;
  }
}

bool StyleSheets::meets(const Compound& rule, const pugi::xml_node& element) {
  if (!rule.element.empty() && rule.element != element.name())
    return false;
  if (!rule.id.empty() && rule.id != element.attribute("id").value())
    return false;
  if (rule.root && element.parent().type() == pugi::node_element)
    return false;
  if (rule.classes.empty())
    return true;
  std::string of = element.attribute("class").value();
  std::replace_if(
      of.begin(), of.end(), [](char c) { return css_blanks.find(c) != std::string_view::npos; }, ' ');
  const auto has = split(of, ' ');
  return std::all_of(rule.classes.begin(), rule.classes.end(),
                     [&](const std::string& wanted) { return std::find(has.begin(), has.end(), wanted) != has.end(); });
}

// Compounds joined by ">" stand together; each such group is looked for at the nearest place further out, which leaves
// the most room for the others, so that nothing need be tried twice.
bool StyleSheets::meets(const Rule& rule, const pugi::xml_node& element) {
  std::size_t i = rule.within.size() - 1;
  const auto group = [&rule](std::size_t& at, pugi::xml_node& node) {
    std::size_t k = at;
    pugi::xml_node n = node;
    for (;; --k, n = n.parent()) {
      if (n.type() != pugi::node_element || !meets(rule.within[k], n))
        return false;
      if (!rule.within[k].child || k == 0)
        break;
    }
    at = k, node = n;
    return true;
  };
  pugi::xml_node node = element;
  if (!group(i, node))
    return false;
  while (i > 0) {
    --i;
    do
      node = node.parent();
    while (node.type() == pugi::node_element && !group(i, node));
    if (node.type() != pugi::node_element)
      return false;
  }
  return true;
}

ElementStyle StyleSheets::of(const pugi::xml_node& element) const {
  ElementStyle out;
  out.element_ = element;
  const auto said = [&](const Declarations& says) {
    for (const auto& [property, d] : says)
      if (ElementStyle::Declared& kept = out.says_[property]; d.important || !kept.important)
        kept = d;
  };
  std::vector<const Rule*> meeting;
  const auto look = [&](const std::string& key) {
    const auto found = rules_.find(key);
    if (found == rules_.end())
      return;
    for (const Rule& rule : found->second)
      if (meets(rule, element))
        meeting.push_back(&rule);
  };
  if (!rules_.empty()) {
    look("");
    look(element.name());
    if (const std::string id = element.attribute("id").value(); !id.empty())
      look(std::string("#").append(id));
    std::string of = element.attribute("class").value();
    std::replace_if(
        of.begin(), of.end(), [](char c) { return css_blanks.find(c) != std::string_view::npos; }, ' ');
    for (const std::string_view one : split(of, ' '))
      if (!one.empty())
        look(std::string(".").append(one));
    std::sort(meeting.begin(), meeting.end(), [](const Rule* a, const Rule* b) {
      return std::pair(a->weight(), a->order) < std::pair(b->weight(), b->order);
    });
  }
  for (const Rule* rule : meeting)
    said(rule->says);
  if (const std::string_view own = element.attribute("style").value(); !own.empty())
    said(declarations(without_comments(own)));
  return out;
}

std::string_view ElementStyle::value(std::string_view property) const {
  const auto said = says_.find(property);
  if (said != says_.end())
    return said->second.value;
  for (const pugi::xml_attribute a : element_.attributes())
    if (property == a.name())
      return trimmed(a.value());
  return {};
}

} // namespace frelm
