// Stretches of drawn lines taken out: what is left of the contours they lie on.
#pragma once

#include "geom/arrangement.h"

namespace frelm {

// The outline without these stretches of its own contours (`from.contour`; which outline they name is no matter). A
// closed contour opens, an open one falls into what is left before, between and behind; the other contours and the
// order stay. Pieces shorter than 0.001 mm go.
Outline without_stretches(const Outline& outline, const std::vector<ArrangedStretch>& stretches);

} // namespace frelm
