// Case first (utf8proc, one code point for one), then each line through the face; sizes are the ratio of what the size
// measures to the face's own measure of it. Clusters made of the same glyphs share one outline.
#include "lettering/set_text.h"

#include <map>
#include <set>
#include <utf8proc.h>

namespace frelm {
namespace {

constexpr double largest_size = 10000; // mm

bool letter_like(char32_t c) {
  switch (utf8proc_category(static_cast<utf8proc_int32_t>(c))) {
  case UTF8PROC_CATEGORY_LU:
  case UTF8PROC_CATEGORY_LL:
  case UTF8PROC_CATEGORY_LT:
  case UTF8PROC_CATEGORY_LM:
  case UTF8PROC_CATEGORY_LO:
  case UTF8PROC_CATEGORY_MN:
  case UTF8PROC_CATEGORY_MC:
  case UTF8PROC_CATEGORY_ND:
    return true;
  default:
    return c == U'\'' || c == U'\u2019'; // an apostrophe does not start a word
  }
}

bool is_space(char32_t c) {
  return c == U' ' || c == U'\u00a0' || c == U'\u3000' || (c >= U'\u2000' && c <= U'\u200a');
}

// Clusters made of the same glyphs share one outline.
class Shapes {
public:
  Shapes(const Face& face, const Affine& scale) : face_(face), scale_(scale) {}
  std::shared_ptr<const Outline> of(const ShapedCluster& cluster) {
    std::vector<std::tuple<std::uint32_t, double, double>> key;
    for (const ShapedGlyph& g : cluster.glyphs)
      key.emplace_back(g.glyph, g.x, g.y);
    std::shared_ptr<const Outline>& slot = made_[key];
    if (!slot) {
      Outline outline;
      for (const ShapedGlyph& g : cluster.glyphs)
        outline.append(face_.outline(g.glyph)->transformed(scale_ * Affine::translation({g.x, g.y})));
      slot = std::make_shared<const Outline>(std::move(outline));
    }
    return slot;
  }

private:
  const Face& face_;
  Affine scale_;
  std::map<std::vector<std::tuple<std::uint32_t, double, double>>, std::shared_ptr<const Outline>> made_;
};

// Height (font units) from the lowest to the highest ink of all lines laid on one baseline.
double ink_height(const std::vector<std::vector<ShapedCluster>>& lines, const Face& face) {
  Box box;
  for (const auto& line : lines)
    for (const ShapedCluster& cluster : line)
      for (const ShapedGlyph& g : cluster.glyphs)
        box.add(face.outline(g.glyph)->transformed(Affine::translation({g.x, g.y})).bounds());
  return box.height();
}

double measured_units(const Letters& letters, const std::vector<std::vector<ShapedCluster>>& lines, const Face& face) {
  const FaceMetrics& m = face.metrics();
  switch (letters.size_by) {
  case SizeBy::Capitals:
    return m.cap_height;
  case SizeBy::XHeight:
    return m.x_height;
  case SizeBy::Em:
    return m.units_per_em;
  case SizeBy::Full:
    break;
  }
  const double h = ink_height(lines, face);
  return h > 0 ? h : m.cap_height; // only blanks: nothing to measure, any scale will do
}

} // namespace

std::size_t SetText::letter_count() const {
  std::size_t n = 0;
  for (const auto& line : lines)
    for (const SetCluster& c : line)
      n += c.blank() ? 0 : 1;
  return n;
}

std::size_t SetText::bytes() const {
  std::size_t n = sizeof *this;
  std::set<const Outline*> shapes; // the same letter shares its outline
  for (const auto& line : lines) {
    n += sizeof(std::vector<SetCluster>) + line.capacity() * sizeof(SetCluster);
    for (const SetCluster& c : line)
      if (c.shape != nullptr && shapes.insert(c.shape.get()).second)
        n += bytes_of(*c.shape);
  }
  return n;
}

std::u32string cased(const std::u32string& text, Capitals mode) {
  std::u32string out = text;
  bool in_word = false;
  for (char32_t& c : out) {
    if (c == U'\t' || c == U'\r')
      c = U' ';
    const auto cp = static_cast<utf8proc_int32_t>(c);
    const bool letter = letter_like(c);
    utf8proc_int32_t mapped = cp;
    if (mode == Capitals::Capitals)
      mapped = utf8proc_toupper(cp);
    if (mode == Capitals::Lower)
      mapped = utf8proc_tolower(cp);
    if (mode == Capitals::Title)
      mapped = in_word ? utf8proc_tolower(cp) : utf8proc_totitle(cp);
    in_word = letter;
    c = static_cast<char32_t>(mapped);
  }
  return out;
}

Ligatures ligatures_for(const Spacing& spacing) {
  return spacing.letter == 0 && spacing.mode != SpacingMode::Spread ? Ligatures::On : Ligatures::Off;
}

std::vector<std::u32string> split_lines(const std::u32string& text) {
  std::vector<std::u32string> lines(1);
  for (const char32_t c : text) {
    if (c == U'\n')
      lines.emplace_back();
    else
      lines.back().push_back(c);
  }
  return lines;
}

ShapeStyle shape_style(const Letters& letters, Ligatures ligatures, std::size_t line_start, std::size_t line_length) {
  ShapeStyle style(ligatures);
  for (const FeatureSetting& f : letters.features)
    style.features.push_back({f.tag, f.value});
  if (!letters.alternates.empty())
    for (std::size_t i = 0; i < line_length && line_start + i < letters.text.size(); ++i)
      for (const LetterAlternate& a : letters.alternates)
        if (a.id != 0 && a.id == letters.text[line_start + i].id)
          style.features.push_back({a.by.tag, a.by.value, i, 1});
  return style;
}

Result<std::shared_ptr<const SetText>> set_text(const Letters& letters, Ligatures ligatures, const Face& face) {
  if (!(letters.size > 0) || letters.size > largest_size)
    return bad_input(FRELM_WORDS("core", "the letter size must be more than 0 mm and at most 10 m"),
                     FRELM_WORDS("core", "Letters"));
  if (!(letters.width > 0) || letters.width > 100)
    return bad_input(FRELM_WORDS("core", "the letter width must be more than 0 %"), FRELM_WORDS("core", "Letters"));
  std::vector<std::vector<ShapedCluster>> shaped;
  const std::vector<std::u32string> texts = split_lines(cased(plain_text(letters.text), letters.capitals));
  std::size_t line_start = 0;
  for (const std::u32string& line : texts) {
    shaped.push_back(face.shape(line, shape_style(letters, ligatures, line_start, line.size())));
    line_start += line.size() + 1;
  }

  auto set = std::make_shared<SetText>();
  const double k = letters.size / measured_units(letters, shaped, face);
  const FaceMetrics& m = face.metrics();
  set->mm_per_unit = k;
  set->cap_height = m.cap_height * k, set->x_height = m.x_height * k;
  set->ascent = m.ascent * k, set->descent = m.descent * k;
  set->cap_source = m.cap_source;
  set->carried_face = face.carried();
  Shapes shapes(face, Affine::scaling(k * letters.width, k));
  std::size_t start = 0;
  for (std::size_t l = 0; l < shaped.size(); ++l) {
    set->line_starts.push_back(start);
    auto& line = set->lines.emplace_back();
    for (const ShapedCluster& c : shaped[l]) {
      SetCluster out{start + c.first, c.count, c.advance * k * letters.width, shapes.of(c), {}, false, c.missing, 1};
      out.ink = out.shape->bounds();
      out.space = is_space(texts[l][c.first]);
      if (c.missing)
        for (std::size_t i = c.first; i < c.first + c.count; ++i)
          if (set->missing.find(texts[l][i]) == std::u32string::npos)
            set->missing.push_back(texts[l][i]);
      line.push_back(std::move(out));
    }
    start += texts[l].size() + 1;
  }
  return std::shared_ptr<const SetText>(std::move(set));
}

} // namespace frelm
