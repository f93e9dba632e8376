// How a tool comes to a closed line out of the waste, and leaves it, without touching what stays.
//
// mm. A lead of some length is tried, then a half, a quarter, an eighth of it. It keeps half the kerf and a little from
// every line, and its far end lies in the waste: within an even number of lines.
#pragma once

#include "document/cut_tool.h"
#include "geom/outline.h"

#include <memory>
#include <optional>

namespace frelm {

// A place of a line as the tool passes it: it comes along `in` and goes on along `out` (unit).
struct LeadPlace {
  Point at;
  Vec in, out;
  bool waste_right = false;
};

class LeadFinder {
public:
  // All lines of the layer as they are to be.
  LeadFinder(const std::vector<const Contour*>& lines, double kerf);
  ~LeadFinder();

  // From a place in the waste to this one. A line comes at 45°, or through the middle of a narrow corner; an arc is a
  // quarter of a circle that meets the line along it. Nothing: there is no room.
  std::optional<Segment> in(const LeadPlace& place, Lead kind, double length) const;
  std::optional<Segment> out(const LeadPlace& place, Lead kind, double length) const;

private:
  bool free(const Segment& lead, double radius) const;
  struct Tree;
  std::unique_ptr<Tree> tree_;
  double least_;
};

} // namespace frelm
