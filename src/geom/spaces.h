// The spaces that drawn lines enclose, with small openings bridged.
//
// mm, y down. A bridge is a straight line over an opening: from an end that no other line meets to the nearest other
// such end within the width, else to the nearest line; and between two lines that nowhere meet, where they come
// nearest. Bounds: geom/arrangement.
#pragma once

#include "geom/arrangement.h"

namespace frelm {

struct Bridge {
  Point from, to;
  bool operator==(const Bridge&) const = default;
};

class Spaces {
public:
  // bridged: the widest opening that is bridged; 0: none. Errors: a width that is less than 0 or not finite, those of
  // Arrangement.
  static Result<Spaces> build(const std::vector<Outline>& outlines, double bridged, std::stop_token stop = {});

  const Arrangement& lines() const { return lines_; } // as drawn
  const std::vector<Bridge>& bridges() const { return bridges_; }
  // The space around p, as face_at gives it; nothing in the open.
  std::optional<Outline> at(Point p) const { return bridged_ ? bridged_->face_at(p) : lines_.face_at(p); }

private:
  Arrangement lines_;
  std::optional<Arrangement> bridged_; // where there are bridges
  std::vector<Bridge> bridges_;
};

} // namespace frelm
