// A contour as lines, circular arcs and cubics, for file formats and machines that know arcs. A view: the outline
// stays.
//
// mm. Neighbouring segments that lie on one circle become one arc. Bound: every place of the contour within `tolerance`
// of the view; ends of pieces are the contour's nodes exactly.
#pragma once

#include "geom/outline.h"

#include <variant>

namespace frelm {

struct ArcStretch {
  Point from, to, centre;
  double radius = 0; // mm
  double sweep = 0;  // radians, positive clockwise on screen, at most a full turn
};
struct LineStretch {
  Point from, to;
};
struct CubicStretch {
  Segment cubic;
};
using ViewPiece = std::variant<LineStretch, ArcStretch, CubicStretch>;

struct ArcViewOptions {
  double tolerance = 0.002;    // mm, more than 0
  double largest_radius = 1e4; // mm: flatter arcs stay cubics
};

// In order. A closed contour that is all one circle gives two arcs of half a turn each.
std::vector<ViewPiece> arc_view(const Contour& contour, const ArcViewOptions& options = {});

} // namespace frelm
