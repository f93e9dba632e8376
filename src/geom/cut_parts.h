// What falls apart when an outline is cut: the parts that leave, and what comes loose of the sheet around them.
#pragma once

#include "geom/outline.h"

namespace frelm {

struct CutPart {
  Outline outline;
  double area = 0; // mm², more than 0
  Point at;        // a place in it: the middle of its area, else of its longest stretch at half its height
  Box box;
};

// Requires contours that don't cross, outer ones of positive area, holes negative (geom/weld, self_union). Each outer
// contour with its holes, the largest first; open contours cut nothing out. Areas within 1e-9 relative.
std::vector<CutPart> cut_parts(const Outline& sound);
// Of the sheet that it is cut from: each hole without what lies in it. In a stencil these fall out; the sheet around
// everything is not among them.
std::vector<CutPart> loose_stock(const Outline& sound);

} // namespace frelm
