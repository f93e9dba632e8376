// Advances are laid one after the other with letter and word spacing between them; lines then start where alignment
// says. Lines made equally wide are set again, each at its own scale.
#include "lettering/space_text.h"

#include <map>

namespace frelm {
namespace {

SpacedLine space_line(const std::vector<SetCluster>& clusters, double letter, double word,
                      const std::vector<HandGap>& by_hand) {
  SpacedLine line;
  if (!by_hand.empty())
    line.by_hand.assign(clusters.size(), 0);
  double pen = 0;
  bool inked = false;
  for (std::size_t i = 0; i < clusters.size(); ++i) {
    const SetCluster& c = clusters[i];
    line.middles.push_back(pen + c.advance / 2);
    if (!c.blank()) {
      if (!inked || pen + c.ink.x0 < line.ink_start)
        line.ink_start = pen + c.ink.x0;
      if (!inked || pen + c.ink.x1 > line.ink_end)
        line.ink_end = pen + c.ink.x1;
      inked = true;
    }
    pen += c.advance + (c.space ? word : 0);
    if (i + 1 < clusters.size())
      pen += letter;
    for (const HandGap& h : by_hand)
      if (h.after == c.first)
        pen += h.gap, line.by_hand[i] = h.gap;
  }
  line.length = pen;
  if (!inked)
    line.ink_end = pen;
  return line;
}

} // namespace

std::size_t SpacedText::bytes() const {
  std::size_t sum = sizeof *this + drops.capacity() * sizeof(double);
  for (const SpacedLine& l : lines)
    sum += sizeof l + (l.middles.capacity() + l.by_hand.capacity()) * sizeof(double);
  // Lines made equally wide are set anew, each at its own scale; nothing else holds them.
  return sum + (drops.empty() ? 0 : set->bytes());
}

std::vector<HandGap> hand_gaps(const Recipe& recipe, const SetText& set) {
  std::vector<HandGap> out;
  if (recipe.pairs.empty() || recipe.letters() == nullptr)
    return out;
  const TypedText& text = recipe.letters()->text;
  const auto id_of = [&](const SetCluster& c) { return c.first < text.size() ? text[c.first].id : 0; };
  for (const auto& line : set.lines) {
    const SetCluster* left = nullptr;
    for (const SetCluster& c : line) {
      if (c.blank())
        continue;
      if (left != nullptr)
        if (const PairTweak* t = recipe.pair(id_of(*left), id_of(c)))
          out.push_back({left->first, t->gap * set.cap_height});
      left = &c;
    }
  }
  return out;
}

std::shared_ptr<const SpacedText> space_text(std::shared_ptr<const SetText> set, const Spacing& spacing,
                                             Alignment alignment, const std::vector<HandGap>& by_hand) {
  auto out = std::make_shared<SpacedText>();
  out->letter = spacing.letter;
  for (const auto& clusters : set->lines) {
    out->lines.push_back(space_line(clusters, spacing.letter, spacing.word, by_hand));
    out->longest = std::max(out->longest, out->lines.back().length);
  }
  if (alignment == Alignment::Justified)
    for (std::size_t l = 0; l < out->lines.size(); ++l) {
      const auto& clusters = set->lines[l];
      const double slack = out->longest - out->lines[l].length;
      const auto spaces = static_cast<double>(
          std::count_if(clusters.begin(), clusters.end(), [](const SetCluster& c) { return c.space; }));
      if (slack <= 0 || clusters.size() < 2)
        continue;
      out->lines[l] = spaces > 0
                          ? space_line(clusters, spacing.letter, spacing.word + slack / spaces, by_hand)
                          : space_line(clusters, spacing.letter + slack / static_cast<double>(clusters.size() - 1),
                                       spacing.word, by_hand);
    }
  out->set = std::move(set);
  return out;
}

std::shared_ptr<const SpacedText> space_equal_lines(const SetText& set, const Spacing& spacing,
                                                    const std::vector<HandGap>& by_hand, double gap) {
  // Ink of a line at scale 1, and what does not scale with it.
  const auto fixed_part = [&](std::size_t l) {
    SpacedLine bare = space_line(set.lines[l], 0, 0, {}),
               full = space_line(set.lines[l], spacing.letter, spacing.word, by_hand);
    return (full.ink_end - full.ink_start) - (bare.ink_end - bare.ink_start);
  };
  const auto ink_of = [](const SpacedLine& line) { return line.ink_end - line.ink_start; };
  double widest = 0;
  std::vector<double> fixed(set.lines.size(), 0), ink(set.lines.size(), 0);
  for (std::size_t l = 0; l < set.lines.size(); ++l) {
    const bool inked =
        std::any_of(set.lines[l].begin(), set.lines[l].end(), [](const SetCluster& c) { return !c.blank(); });
    if (!inked)
      continue;
    fixed[l] = fixed_part(l);
    ink[l] = ink_of(space_line(set.lines[l], 0, 0, {}));
    widest = std::max(widest, ink[l] + fixed[l]);
  }
  auto scaled = std::make_shared<SetText>(set);
  std::vector<double> drops;
  double drop = 0, bottom = 0;
  for (std::size_t l = 0; l < set.lines.size(); ++l) {
    const double k = ink[l] > 0 ? std::clamp((widest - fixed[l]) / ink[l], 0.05, 50.0) : 1;
    double above = 0, below = 0;
    std::map<const Outline*, std::shared_ptr<const Outline>> shapes;
    for (SetCluster& c : scaled->lines[l]) {
      auto& shape = shapes[c.shape.get()];
      if (shape == nullptr)
        shape = k == 1 ? c.shape : std::make_shared<const Outline>(c.shape->transformed(Affine::scaling(k, k)));
      c.shape = shape;
      c.ink = shape->bounds();
      c.advance *= k;
      c.scale = k;
      if (!c.blank())
        above = std::max(above, -c.ink.y0), below = std::max(below, c.ink.y1);
    }
    if (ink[l] <= 0) // an empty line keeps a capital's room
      above = set.cap_height;
    if (l > 0)
      drop += bottom + gap + above;
    drops.push_back(drop);
    bottom = below;
  }
  auto out = std::make_shared<SpacedText>(*space_text(std::move(scaled), spacing, Alignment::Left, by_hand));
  out->drops = std::move(drops);
  return out;
}

} // namespace frelm
