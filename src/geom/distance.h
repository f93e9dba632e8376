// Closest distance between two outlines, with the places.
//
// mm. Filled areas: outlines that cross, touch, or lie one inside the other are 0 apart. Bound: 0.001 mm.
// An empty outline is infinitely far away.
#pragma once

#include "geom/outline.h"

#include <memory>
#include <optional>

namespace frelm {

struct Closest {
  double distance = std::numeric_limits<double>::infinity();
  Point on_a, on_b;
  bool overlapping = false; // the areas share points
};

Closest closest(const Outline& a, const Outline& b);

// The same for the lines themselves: `overlapping` when they cross or touch; areas inside one another are apart.
Closest closest_boundaries(const Outline& a, const Outline& b);

// The lines of an outline made ready to be asked often; what it learns while it is asked stays, so one thread at a
// time.
class Boundary {
public:
  explicit Boundary(const Outline& outline);
  ~Boundary();
  Boundary(Boundary&&) noexcept;
  Boundary& operator=(Boundary&&) noexcept;
  // A place where the lines of both cross or touch, if they do; quicker than the closest distance.
  std::optional<Point> meets(Boundary& other);
  // A place on the lines nearer than d (mm) to p, if there is one; within 0.0005 mm.
  std::optional<Point> nearer_than(double d, Point p);

private:
  std::unique_ptr<class BoxTree> tree_;
};

} // namespace frelm
