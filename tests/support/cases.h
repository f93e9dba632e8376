// The letters of bench/cases, for tests and measurements.
#pragma once

#include "geom/curve.h"

#include <string>

namespace frelm::test {

// The tide rhyme repeated until it has so many letters; spaces come on top.
std::string case_text(std::size_t letters);
// An Archimedean spiral of 18 mm pitch from r 40 mm outwards.
Curve case_spiral(double turns);
// 14: "Saltmarsh Lane", 40 mm em, circle of r 120 mm. Else the rhyme, 10 mm em, on the spiral. Dancing Script Bold.
std::vector<Outline> case_letters(std::size_t letters);

} // namespace frelm::test
