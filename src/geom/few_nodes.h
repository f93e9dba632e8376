// Outlines for machines that step from node to node: at most so many nodes for each length, none nearer to the next
// than a distance, and no farther off than that takes.
//
// mm. First geom/thin within the least tolerance that does, up to `most_off`; then nodes that are too near go one after
// the other, the smoothest of the shortest segment first, where the two segments beside it can be one within `most_off`
// (geom/nodes). What can't be had stays as near as it comes: `reached` tells.
#pragma once

#include "geom/thin.h"

namespace frelm {

struct NodeTarget {
  double per_100 = 0;  // nodes for each 100 mm of line; 0: any number
  double apart = 0;    // mm from node to node along the line; 0: any
  double most_off = 1; // mm that the line may move, more than 0
  std::stop_token stop = {};
};

struct NodeDensity {
  double per_100 = 0;                                     // of all lines
  double apart = std::numeric_limits<double>::infinity(); // mm, of the nearest two of one line
  Point closest;                                          // where these are
};
NodeDensity node_density(const Outline& outline);
bool reaches(const NodeDensity& density, const NodeTarget& target);

struct FewNodes {
  Outline outline;
  ThinReport report;
  bool reached = false;
};
// Errors: those of thin.
Result<FewNodes> few_nodes(const Outline& outline, const NodeTarget& target);

} // namespace frelm
