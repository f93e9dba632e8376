// A picture parted into a few colours, each as how much of every pixel it covers, so that geom/trace follows the edges
// between two colours to parts of a pixel.
//
// Pixels whose neighbours are all like them say which colours there are; those at edges only how much of each of the
// two beside them they hold, so the greys of an edge between black and white are no colour of their own. Source: Lloyd,
// Least squares quantization in PCM, 1982, from first guesses as far from one another as can be (Gonzalez, Clustering
// to minimize the maximum intercluster distance, 1985).
#pragma once

#include "geom/picture.h"

#include <stop_token>

namespace frelm {

struct PictureLevel {
  Rgb colour;
  double share = 0;     // of the picture
  bool at_edge = false; // holds more of the picture's own edge than any other: its paper, most likely
  GreyPicture cover;    // 0 (all of it) to 255 (none): dark is ink
};
inline constexpr int most_levels = 8;
// At most `count` (2 to most_levels), the most frequent first; fewer where the picture has fewer. Requires a picture of
// at least one pixel. Stopped: what there was.
std::vector<PictureLevel> picture_levels(const ColourPicture& picture, int count, std::stop_token stop = {});

} // namespace frelm
