// A line of pixels' edges drawn anew: corners where its sides meet, straight runs as lines, the rest as few cubics.
//
// Px. For the closed rings of geom/iso_lines, whose points lie about 0.2 px off what was drawn where a picture has
// greys between ink and paper, and half a pixel where it has none. What was a corner is round there by half a pixel;
// it is given back by carrying its two sides on until they cross.
//
// A corner is where a parabola through the points to both sides passes by the middle one: at a turn by θ between sides
// of w px by 3/16 w sin(θ/2), in an arc of radius r by only w⁴/(280 r³). Between corners every point is smoothed by a
// parabola (Savitzky, Golay, Smoothing and differentiation of data by simplified least squares procedures, 1964) and
// followed by geom/follow.
#pragma once

#include "geom/redrawn.h"

namespace frelm {

struct PixelLineOptions {
  double noise = 0.3;                  // px that a point may lie off; with more, all lengths grow as it does
  double tolerance = 0.25;             // px, for following what is smoothed
  double sharper_than = 30 * pi / 180; // radians: turns that are corners
  double straight = 0.4;               // px: what bends less between two corners is straight
};

struct PixelLine {
  RedrawnContour drawn; // as it was and anew, stretch by stretch between corners
  double worst = 0;     // px, the farthest a point lies off, but for what the pixels have rounded about a corner
};
// A closed ring of at least three points.
PixelLine redrawn_ring(const std::vector<Point>& ring, const PixelLineOptions& options);

} // namespace frelm
