#include "cutting/legibility.h"

#include "geom/said.h"

namespace frelm {
namespace {

constexpr double mm_of_height_a_metre = 25.4 / 3.048; // an inch of height for ten feet: common practice, no source

// A letter alone, as large as in the text.
std::optional<Outline> letter_alone(char32_t c, const Letters& letters, const SetText& set, const Face& face) {
  const std::vector<ShapedCluster> shaped = face.shape(std::u32string(1, c), {});
  if (shaped.size() != 1 || shaped.front().missing || shaped.front().glyphs.size() != 1)
    return std::nullopt;
  const double k = set.mm_per_unit;
  const Outline out =
      face.outline(shaped.front().glyphs.front().glyph)->transformed(Affine::scaling(k * letters.width, k));
  return out.empty() ? std::nullopt : std::optional(out);
}

// Width of the ink in the middle fifth of the height.
double stroke_of(const Outline& letter, const SetText& set) {
  const Box box = letter.bounds();
  const FlatLetter flat = flat_letter(letter, flat_letter_tolerance(set.cap_height));
  const Band middle{-box.y1 + 0.4 * box.height(), -box.y1 + 0.6 * box.height()};
  return mean_edge(flat, flat.points, {}, middle, Facing::Right) -
         mean_edge(flat, flat.points, {}, middle, Facing::Left);
}

} // namespace

std::vector<LegibilityReading> legibility(const Letters& letters, const SeatedText& text, const std::vector<Gap>& gaps,
                                          const Face& face) {
  std::vector<LegibilityReading> out;
  const SetText& set = *text.spaced->set;
  const std::optional<Outline> i = letter_alone(U'I', letters, set, face), o = letter_alone(U'O', letters, set, face);
  const double height = i ? i->bounds().height() : set.cap_height;
  if (!(height > 0))
    return out;
  if (i && o) {
    const double width = o->bounds().width() / height;
    out.push_back({FRELM_WORDS("core", "Width of O to height of I"), width, width, 0.55, 1.10, "703.5.4"});
  }
  if (i) {
    const double stroke = stroke_of(*i, set) / height;
    out.push_back({FRELM_WORDS("core", "Stroke of I to its height"), stroke, stroke, 0.10, 0.30, "703.5.7"});
  }
  LegibilityReading between{FRELM_WORDS("core", "Gaps between letters to height"), 1e9, 0, 0.10, 0.35, "703.5.8"};
  for (const Gap& g : gaps)
    if (!g.word_space)
      between.low = std::min(between.low, g.closest.distance / height),
      between.high = std::max(between.high, g.closest.distance / height);
  if (between.high > 0 || between.low == 0)
    out.push_back(between);
  if (text.spaced->lines.size() > 1 && !letters.downwards) {
    LegibilityReading pitch{FRELM_WORDS("core", "Line pitch to height"), 1e9, 0, 1.35, 1.70, "703.5.9"};
    const std::vector<double>& drops = text.spaced->drops;
    for (std::size_t l = 1; l < text.spaced->lines.size(); ++l) {
      const double p = drops.empty() ? letters.line_pitch * set.cap_height : drops[l] - drops[l - 1];
      pitch.low = std::min(pitch.low, p / height), pitch.high = std::max(pitch.high, p / height);
    }
    out.push_back(pitch);
  }
  const double reach = height / mm_of_height_a_metre * 1000;
  out.push_back({FRELM_WORDS("core", "Reads best up to"), reach, reach, 0, 0, "common practice"});
  return out;
}

} // namespace frelm
