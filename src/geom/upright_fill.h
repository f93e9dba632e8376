// A closed shape filled upright, as a sign painter does it: verticals stay vertical, the upper side of the source box
// goes onto the shape's upper edge and its lower side onto the lower edge, each where it stands.
//
// mm, y down. h(X) is the height of the shape on the vertical at X. The box begins where h first reaches a share of its
// greatest value and ends where it last does. In between, with u the share of the box's width, dX/du = c h(X)^p: with
// p = 0 everything is stretched evenly, with p = 1 what stands at X is as much wider as it is higher, so that letters
// keep their own proportions; gaps likewise. c makes the box as wide as its room.
// Bounds: X within 1e-5 mm of the equation's, edges as geom/curve_table.h. Work: 60 letters
// as long as a smooth fill (bench/core_bench, bend_exact/4).
#pragma once

#include "geom/warp.h"

#include <array>

namespace frelm {

struct UprightFill {
  std::array<double, 2> ends{0.4, 0.4}; // shares of the greatest height, left and right; within least_end and 1
  double proportion = 0.5;              // p, from 0 to 1
  bool operator==(const UprightFill&) const = default;
};
inline constexpr double least_end = 0.02;

// The heights of a shape.
class ShapeHeights {
public:
  // boundary: closed; requires an area and no crossings. Orientation is no matter.
  explicit ShapeHeights(const Contour& boundary);
  double left() const { return left_; }
  double right() const { return right_; }
  double greatest() const { return greatest_; }
  // From the highest to the lowest place at X; 0 beyond the shape.
  double at(double x) const;
  std::size_t crossings(double x) const; // of the vertical with the boundary; not where it stands upright
  // Where the height first (from the left), or last, reaches a share of the greatest one.
  double reaches(double share, bool last) const;
  // Does an end come to a point or a round: less than a quarter of the greatest height near it?
  bool pointed() const;

private:
  friend struct UprightChains;
  struct Piece { // runs one way in x
    Segment s;
    double from, to; // x, ascending
    bool rightward, upright;
    double y_at(double x) const;
  };
  std::vector<Piece> pieces_; // around the shape, clockwise on screen
  double left_ = 0, right_ = 0, greatest_ = 0, greatest_at_ = 0;
};

struct UprightMap {
  WarpMap map;
  double from = 0, to = 0; // X of the ends
};
// Errors: an empty box; a boundary that is open, has no area or crosses itself; measures out of range; a shape that
// turns back, has a step or is hollow between its ends, with the place.
Result<UprightMap> upright_fill(const Box& source, const Contour& boundary, const UprightFill& options);

} // namespace frelm
