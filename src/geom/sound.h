// Which outlines have to be clipped at all, and where: a quick look that leaves the rest exactly as it is.
#pragma once

#include "geom/outline.h"

namespace frelm {

// Outlines that come nearer than a margin to each other, or lie in one another, directly or through others, are one
// group; groups and members in ascending order. `sound`: surely no need of uniting on its own: closed contours that
// neither cross nor touch themselves or each other, outer ones of positive area, holes negative and directly in an
// outer one; false wherever that would take a closer look. Cost: a few microseconds a letter.
struct NearGroups {
  std::vector<std::vector<std::size_t>> groups;
  std::vector<bool> sound; // of each outline
  // Of each outline's segments, contour after contour: comes near another one, or has a sharp joint, or is in doubt.
  // The others may be flattened as coarsely as `coarse` (mm, Segment::flat_steps) and still meet nothing.
  std::vector<std::vector<bool>> close;
  double coarse = 0; // mm: a hundredth of the mean segment, 0.005 to 0.1; the margin is 2.5 times as wide
};
NearGroups near_groups(const std::vector<const Outline*>& outlines);

} // namespace frelm
