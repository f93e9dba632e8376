// The outline is flattened; nearness by chords, inside by winding.
#include "geom/free_circle.h"

#include "geom/area_centre.h"
#include "geom/deepest.h"

namespace frelm {

std::optional<FreeCircle> free_circle(const Outline& outline) {
  constexpr double fine = 1e-4; // of the shorter side, for flattening
  const Box bounds = outline.bounds();
  const double side = std::min(bounds.width(), bounds.height());
  if (!(side > 0))
    return std::nullopt;
  const SignedDistance depth(outline, fine * side);
  FreeCircle most;
  constexpr double near_enough = 0.005; // of the radius
  search_cells(
      bounds, depth, [](const Cell& c) { return c.depth + c.reach(); },
      [&](const Cell& c) {
        if (c.depth > most.radius)
          most = {c.centre, c.depth};
      },
      [&] { return most.radius * (1 + near_enough); });
  if (!(most.radius > 0))
    return std::nullopt;
  // The nearest to the middle that has nearly as much room.
  constexpr double nearly = 0.99;
  const Point middle = area_centre(outline).value_or(bounds.centre());
  FreeCircle best = most;
  double nearest = distance(most.centre, middle);
  search_cells(
      bounds, depth,
      [&](const Cell& c) {
        return c.depth + c.reach() < nearly * most.radius ? -std::numeric_limits<double>::infinity()
                                                          : c.reach() - distance(c.centre, middle);
      },
      [&](const Cell& c) {
        if (c.depth >= nearly * most.radius && distance(c.centre, middle) < nearest)
          best = {c.centre, c.depth}, nearest = distance(c.centre, middle);
      },
      [&] { return -nearest + near_enough * most.radius; });
  return best;
}

} // namespace frelm
