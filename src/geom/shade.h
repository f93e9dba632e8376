// Shades: what an outline leaves when it is swept along a straight way (block shade), or copied aside (drop shade).
//
// mm, y down. The outline is united first under the nonzero rule; open contours have no shade and are left out.
// Exact but for joins: the swept region's boundary is stretches of the source, of its copy at the far end, and straight
// lines between them (bounds: geom/weld.h); every node is one of the source's, of the copy's, a place where the outline
// runs along the way, or a crossing.
#pragma once

#include "geom/weld.h"

namespace frelm {

// WithLetters: letters and shade as one area. Alone: the shade without the letters, which lie on it or in it.
enum class ShadePart { WithLetters, Alone };

struct ShadeOptions {
  ShadePart part = ShadePart::WithLetters;
  // mm, 0 or more, for Alone: the letters are taken away this much larger, round joins (geom/offset).
  double gap = 0;
  WeldOptions weld = {};
};

// Every place of the outline moved by t · way, t from 0 to 1. way: mm; 0 gives the united outline itself (Alone:
// nothing). The region is the Minkowski sum of the outline and the segment from the origin to `way`.
Result<WeldResult> block_shade(const Outline& outline, Vec way, const ShadeOptions& options = {});

// The copy moved by `way`, united with the outline or without what it covers.
Result<WeldResult> drop_shade(const Outline& outline, Vec way, const ShadeOptions& options = {});

} // namespace frelm
