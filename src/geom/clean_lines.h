// What a drawing of lines needs before it can be cut: doubles dropped, ends that meet joined, contours put together
// with the holes in them.
//
// mm. All keep the lines as they are drawn: an end moves by no more than the tolerance.
#pragma once

#include "geom/outline.h"

namespace frelm {

struct LinesCleaned {
  std::vector<Contour> contours;
  std::vector<std::size_t> from; // without_doubles: which of those given each was
  std::size_t doubles = 0;       // segments that stood there twice
  std::size_t joined = 0;        // ends that met and are one now
};

// Segments of open contours that are another one once more, either way round, within the tolerance, go: what is left
// falls apart there. A closed contour goes when all of it stands there already, also with its nodes elsewhere, else it
// stays whole. Of two that are the same a closed one stays, else the first.
LinesCleaned without_doubles(std::vector<Contour> contours, double tolerance);

// Open contours whose ends are nearer than the tolerance become one, and closed where a chain comes back to its start.
// Where more than two ends meet, those that go on straightest are joined.
LinesCleaned joined(std::vector<Contour> contours, double tolerance);

// Closed contours as shapes: each outer one (clockwise on screen) with the holes right inside of it (the other way);
// what lies in a hole is a shape of its own. Open contours come last, each by itself.
std::vector<Outline> nested(std::vector<Contour> contours);

} // namespace frelm
