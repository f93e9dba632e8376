// How far a line that was drawn anew strays from what it was.
#pragma once

#include "geom/outline.h"

#include <span>

namespace frelm {

struct Farthest {
  double off = 0; // mm
  Point at;
  void add(double mm, Point p) {
    if (mm > off)
      off = mm, at = p;
  }
  void add(const Farthest& other) { add(other.off, other.at); }
};

// Of both ways, each in order; a loop may begin elsewhere. Where it is more than `allowed`, some such distance.
Farthest worst_distance(std::span<const Segment> source, std::span<const Segment> result, bool loop, double allowed);

} // namespace frelm
