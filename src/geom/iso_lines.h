// The lines along which the grey of a picture passes a level, to parts of a pixel: straight from one pair of
// neighbouring pixels to the next, at the place between their middles where the level lies.
//
// Px, x right and y down, the picture's upper left corner at the origin (a pixel's middle at its half); what is beyond
// the picture is paper. Outer lines have positive area, holes negative; all are closed. Where ink touches ink over a
// corner, the mean of the four decides. Bound: on a picture whose grey is the share of each pixel that is covered, a
// straight edge is followed within 0.2 px, and a corner is cut by less than half a pixel. Source: Lorensen, Cline,
// Marching cubes, 1987, in the plane.
#pragma once

#include "geom/outline.h"
#include "geom/picture.h"

#include <stop_token>

namespace frelm {

// Darker than `level` (0 to 255) is ink; with `light`, what is not. Lines around less than `speckle` px² go.
// Stopped: what there was.
Outline iso_lines(const GreyPicture& picture, double level, bool light, double speckle, std::stop_token stop = {});

} // namespace frelm
