#include "lettering/bent_text.h"

#include <map>

namespace frelm {
namespace {

constexpr double mark_under = 0.5; // of the line's height: dots, hyphens and quotes keep their size and place

// In a shape that is filled upright every letter is first made as high as the ink of its line; marks and what a hand
// has moved stay as they stand. Empty: nothing is done.
std::vector<Affine> full_heights(const SeatedText& text, const Bend& bend, const std::vector<Outline>& outlines) {
  std::vector<Affine> out;
  if (!bend.fills() || bend.rails.fill.style != FillStyle::Upright)
    return out;
  std::vector<Box> boxes;
  std::map<std::size_t, Box> lines;
  for (std::size_t i = 0; i < outlines.size(); ++i) {
    boxes.push_back(outlines[i].bounds());
    if (!text.letters[i].by_hand)
      lines[text.letters[i].line].add(boxes.back());
  }
  for (std::size_t i = 0; i < outlines.size(); ++i) {
    const PlacedLetter& l = text.letters[i];
    const Box &own = boxes[i], &line = lines[l.line];
    out.emplace_back();
    if (own.empty() || l.by_hand || own.height() < mark_under * line.height())
      continue;
    const double k = line.height() / own.height();
    out.back() = {1, 0, 0, k, 0, line.y0 - own.y0 * k};
  }
  return out;
}

} // namespace

Result<SeatedText> bend_text(const SeatedText& text, const Bend& bend, const Placement& placement,
                             const BendGuides& guides, const BlockEffort& effort,
                             const std::function<void(double)>& progress) {
  SeatedText out = text;
  std::vector<Outline> outlines;
  for (const PlacedLetter& l : text.letters)
    outlines.push_back(l.shape->transformed(l.place));
  if (std::all_of(outlines.begin(), outlines.end(), [](const Outline& o) { return o.empty(); }))
    return out; // nothing to bend yet
  BlockEffort with_heights = effort;
  with_heights.before = full_heights(text, bend, outlines);
  Result<BentOutlines> bent = bend_block(bend, outlines, placement, guides, with_heights, progress);
  if (!bent)
    return bent.error();
  const WarpMap& map = bent->block.made.map;
  out.ink = {};
  for (std::size_t i = 0; i < out.letters.size(); ++i) {
    PlacedLetter& l = out.letters[i];
    const Vec along = direction(l.angle);
    l.unbent = l.place;
    if (!with_heights.before.empty())
      l.origin = with_heights.before[i](l.origin);
    const WarpPlace base = map.at(l.origin), middle = map.at(l.origin + along * (l.advance / 2));
    l.origin = base.point;
    const Vec turned = middle.linear(along);
    l.angle = std::atan2(turned.y, turned.x);
    if (text.stance == Stance::Flow)
      l.flowed = l.shape;
    l.shape = std::make_shared<const Outline>(std::move(bent->outlines[i]));
    l.place = {};
    out.ink.add(l.shape->bounds());
  }
  out.bent = std::make_shared<const BentBlock>(std::move(bent->block));
  return out;
}

} // namespace frelm
