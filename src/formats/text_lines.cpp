#include "formats/text_lines.h"

namespace frelm {
namespace {

std::string one_line(std::string words) {
  for (char& c : words)
    if (static_cast<unsigned char>(c) < 0x20)
      c = ' ';
  return words;
}

} // namespace

std::shared_ptr<const SetText> TextLines::set(const std::string& words, double caps) {
  auto& known = known_[{words, caps}];
  if (known != nullptr)
    return known;
  Letters letters;
  std::uint64_t next_id = 1;
  letters.text = retyped({}, from_utf8(one_line(words)), next_id);
  letters.size = caps;
  std::vector<FaceName> tries{letters.face};
  constexpr std::size_t most_tries = 60;
  for (const FaceEntry& entry : faces_.entries())
    if (tries.size() < most_tries)
      tries.push_back(entry.name);
  for (const FaceName& name : tries) {
    const Result<std::shared_ptr<const Face>> face = faces_.face(name);
    if (!face)
      continue;
    const Result<std::shared_ptr<const SetText>> text = set_text(letters, Ligatures::On, **face);
    if (!text)
      continue;
    if (known == nullptr || (*text)->missing.empty())
      known = *text;
    if (known->missing.empty())
      break;
  }
  return known;
}

Outline TextLines::line(const std::string& words, double caps) {
  Outline out;
  double x = 0;
  if (const auto text = set(words, caps))
    for (const SetCluster& c : text->lines.front()) {
      if (c.shape != nullptr)
        out.append(c.shape->transformed(Affine::translation({x, 0})));
      x += c.advance;
    }
  return out;
}

double TextLines::width(const std::string& words, double caps) {
  double x = 0;
  if (const auto text = set(words, caps))
    for (const SetCluster& c : text->lines.front())
      x += c.advance;
  return x;
}

std::string TextLines::fitted(const std::string& words, double caps, double width_mm) {
  if (width(words, caps) <= width_mm)
    return words;
  const std::u32string all = from_utf8(one_line(words));
  std::size_t low = 0, high = all.size(); // so many letters fit
  const auto with_dots = [&](std::size_t n) { return to_utf8(all.substr(0, n)) + "…"; };
  while (low + 1 < high)
    (width(with_dots((low + high) / 2), caps) <= width_mm ? low : high) = (low + high) / 2;
  return with_dots(low);
}

std::vector<std::string> TextLines::wrapped(const std::string& words, double caps, double width_mm, std::size_t most) {
  std::vector<std::string> out;
  std::string rest = words;
  while (!rest.empty() && out.size() < most) {
    const std::size_t end = std::min(rest.find('\n'), rest.size());
    const std::string paragraph = rest.substr(0, end);
    std::size_t taken = 0;
    if (width(paragraph, caps) <= width_mm) {
      taken = end;
    } else { // the last space before which it fits, else what fits of the word
      for (std::size_t at = paragraph.find(' '); at != std::string::npos; at = paragraph.find(' ', at + 1))
        if (at > 0 && width(paragraph.substr(0, at), caps) <= width_mm)
          taken = at;
        else if (at > 0)
          break;
      if (taken == 0) {
        const std::string part = fitted(paragraph, caps, width_mm);
        const std::string_view dots = "…";
        taken = std::max<std::size_t>(part.size() - dots.size(), 1);
        while (taken < paragraph.size() && (static_cast<unsigned char>(paragraph[taken]) & 0xC0) == 0x80)
          ++taken; // to the letter's end
      }
    }
    const bool more = rest.find_first_not_of(" \n", taken) != std::string::npos;
    if (out.size() + 1 == most && more)
      out.push_back(fitted(paragraph.substr(0, taken) + " …", caps, width_mm));
    else
      out.push_back(paragraph.substr(0, taken));
    const std::size_t next = taken < rest.size() && (rest[taken] == ' ' || rest[taken] == '\n') ? taken + 1 : taken;
    rest.erase(0, next);
  }
  return out;
}

} // namespace frelm
