// Which segments of a raw offset lie deep inside the offset, so that they can't be part of its boundary.
//
// mm. A disc of the distance about any place of the source belongs to a round offset; a stretch that lies well within
// one such disc is covered. On both sides of it the winding is 1 or more, and stays so when the stretch is flattened
// coarsely: a tenth to a half of all edges that are clipped go this way.
#pragma once

#include "geom/outline.h"

#include <cstdint>

namespace frelm {

class Discs {
public:
  // About the nodes and some places between them of all contours of `source`, radius less `margin`.
  Discs(const Outline& source, double radius, double margin);
  // Surely within discs; false where that would take a closer look.
  bool cover(const Segment& s) const { return cover(s, halvings); }

private:
  struct Place {
    std::int64_t column, row;
    Point p;
  };
  static constexpr int halvings = 3;
  bool cover(const Segment& s, int halvings_left) const;
  std::int64_t index(double v) const { return static_cast<std::int64_t>(std::floor(v / cell_)); }

  double radius_, cell_;
  std::vector<Place> places_; // by column, then row
};

} // namespace frelm
