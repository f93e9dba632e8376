#include "lettering/bent_text.h"

namespace frelm {

Result<SeatedText> bend_text(const SeatedText& text, const Bend& bend, const Placement& placement,
                             const BendGuides& guides, const BlockEffort& effort,
                             const std::function<void(double)>& progress) {
  SeatedText out = text;
  std::vector<Outline> outlines;
  for (const PlacedLetter& l : text.letters)
    outlines.push_back(l.shape->transformed(l.place));
  if (std::all_of(outlines.begin(), outlines.end(), [](const Outline& o) { return o.empty(); }))
    return out; // nothing to bend yet
  Result<BentOutlines> bent = bend_block(bend, outlines, placement, guides, effort, progress);
  if (!bent)
    return bent.error();
  const WarpMap& map = bent->block.made.map;
  out.ink = {};
  for (std::size_t i = 0; i < out.letters.size(); ++i) {
    PlacedLetter& l = out.letters[i];
    const Vec along = direction(l.angle);
    l.unbent = l.place;
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
