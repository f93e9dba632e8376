// Rails: an outline bent between a top edge and a bottom edge, and what the bend does to its strokes.
//
// mm, y down. The map takes a source box to the space between the rails: the box's upper side onto the top rail from
// its start to its end, the lower side onto the bottom rail, straight in between. Breaks are where a rail's pieces
// meet. Rails that are arcs of two circles about one centre, with the same angle, give the polar map exactly.
#pragma once

#include "geom/curve.h"
#include "geom/warp.h"

namespace frelm {

// Follow: each rail is divided evenly by its length. Kept: verticals stay upright, x runs evenly over what both rails
// share of it; both must then run from left to right throughout.
enum class Verticals { Follow, Kept };

struct Rails {
  Curve top, bottom;
  Verticals verticals = Verticals::Follow;
};

// Errors: an empty box or a rail of no length; for Kept, a rail that turns back or stands upright, with the place.
Result<WarpMap> rails_map(const Box& source, const Rails& rails);

// What a map does to an outline, looked at on its boundary.
struct WarpStretch {
  double narrowest = 1, widest = 1; // the smallest and largest factor of any length, so of any stroke
  Point narrowest_at, widest_at;    // in the source
  double steepest_shear = 0;        // radians: how far upright and level are from being at right angles
  Point steepest_at;
};
WarpStretch stretch_of(const Outline& outline, const WarpMap& map);

} // namespace frelm
