// One good guide of every kind, with measures that are neither round nor symmetric by chance; what follows other pieces
// stands as the curve it would become.
#pragma once

#include "lettering/guide_shape.h"

#include <utility>

namespace frelm::test {

std::vector<std::pair<const char*, GuideShape>> every_guide();
// An open wave of two cubics and a line.
Contour wave();
// A hand's stroke of n points with a wobble, from left to right.
std::vector<Point> hand_stroke(int n);

} // namespace frelm::test
