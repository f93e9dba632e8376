// A closed shape as the target of a warp: the source box goes onto the whole shape, its four corners onto four places
// of the boundary, its sides onto the boundary between them by length, and its inside smoothly.
//
// mm, y down. The sides are met exactly: the boundary itself is evaluated. Inside, the map is a C2 surface through a
// grid; what lies between it and the true boundary fades out over the outer `fade` of the box, so a corner or a node of
// the boundary shows on what lies on that side and nowhere further in.
// The grid is harmonic on the source (each coordinate solves Laplace's equation) where that keeps its sense everywhere.
// Where it folds, the inverse is made harmonic instead: that map cannot fold in the continuous case, because the box is
// convex (Winslow, Numerical solution of the quasilinear Poisson equation in a nonuniform triangle mesh, J. Comput.
// Phys. 1966; Radó, Aufgabe 41, Jahresber. DMV 1926). The result says which one ran.
// A rectangle gives the identity up to scale. Work: bounded, about a tenth of a second.
#pragma once

#include "geom/curve.h"
#include "geom/warp.h"

#include <array>
#include <optional>

namespace frelm {

struct FillTarget {
  Contour boundary; // closed, without crossings
  // Arc length along the boundary, clockwise on screen from its start, of the corners: top left, top right, bottom
  // right, bottom left, in this order around it.
  std::array<double, 4> corners{};
};

// The mean width and height of the space between its sides, mm.
struct FillMeasure {
  double width = 0, height = 0;
};
FillMeasure fill_measure(const FillTarget& target);

// Where a hand would put the corners: towards the four corners of the shape's box, on sharp corners where there are
// any. Errors: as for fill_map.
Result<FillTarget> fill_target(const Contour& boundary);

enum class FillSolve { Forward, Inverse };
struct FillMap {
  WarpMap map;
  FillSolve solved = FillSolve::Forward;
  std::size_t bytes() const { return std::size_t{200} << 10; } // its grid
};

inline constexpr double fill_fade = 0.15; // of the box's height and width

struct FillOptions {
  std::optional<FillSolve> only; // without it: forward, and inverse where that folds
  std::stop_token stop = {};
  bool sketch = false; // a grid of a quarter of the lines: for a picture during a drag, about 3 ms
};

// Folds are looked for inside, not along the sides: what is warped has to look after itself there (WarpReport).
// Errors: an empty box; a boundary that is open, has no area or crosses itself; corners out of order or too close
// together; a shape into which the box folds whichever way, with the place; Cancelled.
Result<FillMap> fill_map(const Box& source, const FillTarget& target, const FillOptions& options = {});

} // namespace frelm
