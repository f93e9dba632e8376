// Curves as circular arcs, for machines that drive lines and arcs alone.
//
// mm. Each cubic falls into stretches, each as long as two arcs that meet smoothly can follow it; both ends of a
// stretch keep their directions. Bound: every place of the contour within `tolerance` of the view, looked at in 32
// places of each stretch; nodes stay exactly. Source: Bolton, Biarc curves, Computer-Aided Design 7(2), 1975.
#pragma once

#include "geom/arc_view.h"

namespace frelm {

// tolerance: more than 0. In order; lines stay, what lies on a circle within the tolerance is one arc (arc_view).
std::vector<ViewPiece> as_arcs(const Contour& contour, double tolerance);

} // namespace frelm
