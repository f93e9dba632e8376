// The raw offset of a loop of segments: a closed contour whose positively wound region, added to the loop's own, is
// everything within a distance of it on its left (up_of the direction of travel). For geom/offset.
#pragma once

#include "geom/covered.h"
#include "geom/offset.h"

namespace frelm {

// distance: mm, more than 0. caps: the loop goes along an open line and back; the joints before segment 0 and before
// segment `turn` are its ends. tolerance: mm, of the cubics against the exact offset curve. flattening: mm, of what
// curves back tighter than the distance, and can't be on the boundary; coarse: mm, of such where `discs` cover it.
struct RawOffset {
  double distance = 0;
  double tolerance = 0;
  double flattening = 0, coarse = 0;
  const Discs* discs = nullptr;
  JoinStyle join = JoinStyle::Round;
  double mitre_limit = 4;
  CapStyle cap = CapStyle::Round;
};

Contour raw_offset(const std::vector<Segment>& loop, const RawOffset& options);
// An open line, on both sides and around its ends.
Contour raw_stroke(const Contour& line, const RawOffset& options);

} // namespace frelm
