// A blade that is dragged: its tip trails behind the axis that it turns about, and points where it came from.
//
// mm, radians. The tip lies `tip` behind the axis; while that moves, the tip follows it by its rule (a tractrix: it
// moves straight towards the axis, as fast as keeps the distance). Lifted, the blade keeps its direction.
#pragma once

#include "geom/outline.h"

namespace frelm {

// The axis' way for which the tip follows the route: ahead of it by `tip` along its direction; where the route turns by
// more than `swivel`, round the corner on an arc, the tip staying there. `heading` (unit): where the blade points when
// it is put down, then where it points at the end. Within 0.003 mm; the route must not be empty.
std::vector<Point> axis_of(const std::vector<Segment>& route, double tip, double swivel, Vec& heading);

// Where the tip goes while the axis runs along the line, begun at `from` (the line's first place less tip · heading):
// a place for each of the line's, and some between where it turns.
// Source: the tractrix of a straight line, tan(φ/2) = tan(φ₀/2) · exp(−s / tip), φ the angle between blade and way.
std::vector<Point> dragged_tip(const std::vector<Point>& axis, double tip, Vec heading);

} // namespace frelm
