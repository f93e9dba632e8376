// A ribbon: a band along a line, its ends cut straight or like a swallow's tail, or folded behind with tails that show.
//
// mm, y down; the line runs from the ribbon's left to its right. The band is the line's stroke with flat ends
// (geom/offset.h, and its bounds). A fold is the triangle below an end's corner; the tail behind it runs on outwards,
// lower by `drop`. What lies in front is taken out of what lies behind, with `gap` between them, so that every part can
// be cut by itself; without a gap all is one outline.
#pragma once

#include "geom/curve.h"
#include "geom/outline.h"
#include "geom/result.h"

namespace frelm {

enum class RibbonEnd { Straight, SwallowTail };
struct RibbonCut {
  double width = 30; // more than 0
  RibbonEnd end = RibbonEnd::SwallowTail;
  double notch = 12; // how deep a swallow's tail is cut, 0 or more
  bool folds = false;
  double tail = 30; // how far tails reach beyond the ends, more than 0
  double drop = 8;  // how much lower they lie; less than 0: higher
  double gap = 1;   // between the parts, 0 or more
  bool operator==(const RibbonCut&) const = default;
};

// For the hand, in bounded time: the same corners, edges through a few hundred places at most, and what lies behind is
// drawn whole.
Outline ribbon_sketch(const Curve& line, const RibbonCut& cut);
// The front first, then folds and tails. A closed line makes a band without ends. Errors: the offset's and the
// booleans'.
Result<Outline> ribbon_parts(const Curve& line, const RibbonCut& cut);

} // namespace frelm
