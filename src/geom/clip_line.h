// The stretches of an open line within a box.
//
// mm. Every stretch is a part of the source's curve (by blossoming), its new ends within 1e-9 mm of the box's edge;
// what only touches the edge at a place is none.
#pragma once

#include "geom/outline.h"

namespace frelm {

std::vector<Contour> clip_line(const Contour& line, const Box& box);

} // namespace frelm
