#include "lettering/gaps.h"

#include "geom/weld.h"

namespace frelm {
namespace {

constexpr std::size_t most_collisions = 400; // overlapping pairs looked at

Gap measure(const SeatedText& text, std::size_t left, std::size_t right) {
  const PlacedLetter &a = text.letters[left], &b = text.letters[right];
  return {left, right, closest(a.shape->transformed(a.placement()), b.shape->transformed(b.placement()))};
}

} // namespace

std::vector<Gap> measure_gaps(const SeatedText& text, std::stop_token stop) {
  std::vector<Gap> gaps;
  for (std::size_t i = 0; i + 1 < text.letters.size() && !stop.stop_requested(); ++i) {
    const PlacedLetter &a = text.letters[i], &b = text.letters[i + 1];
    if (a.line == b.line && !a.blank() && !b.blank())
      gaps.push_back(measure(text, i, i + 1));
  }
  return gaps;
}

std::vector<Gap> find_overlaps(const SeatedText& text, const OverlapOptions& options) {
  std::vector<Box> boxes;
  for (const PlacedLetter& l : text.letters)
    boxes.push_back(
        l.meets_start && options.past_start == PastStart::Left ? Box{} : l.shape->transformed(l.placement()).bounds());
  std::vector<Gap> out;
  for (const std::vector<std::size_t>& group : touching_groups(boxes))
    for (std::size_t i = 0; i < group.size() && !options.stop.stop_requested(); ++i)
      for (std::size_t j = i + 1; j < group.size() && out.size() < options.most; ++j)
        if (boxes[group[i]].overlaps(boxes[group[j]]))
          if (const Gap g = measure(text, group[i], group[j]); g.joined())
            out.push_back(g);
  return out;
}

std::vector<Gap> find_collisions(const SeatedText& text, std::stop_token stop) {
  std::vector<Gap> out = find_overlaps(text, {PastStart::Left, most_collisions, stop});
  std::erase_if(out, [&](const Gap& g) {
    const PlacedLetter &a = text.letters[g.left], &b = text.letters[g.right];
    if (a.line != b.line)
      return false;
    // As they stand unrolled, side by side on their line.
    const double apart = b.s - b.advance / 2 - (a.s - a.advance / 2);
    return std::abs(apart) < a.advance + b.advance + text.spaced->set->cap_height &&
           closest(*a.plain, b.plain->transformed(Affine::translation({apart, a.h - b.h}))).overlapping;
  });
  return out;
}

} // namespace frelm
