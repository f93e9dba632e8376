// A row of points taken as a smooth curve with corners and noise; for geom/thin.
#pragma once

#include "geom/follow.h"

namespace frelm {

struct NoisyOptions {
  double tolerance = 0.05;      // mm: what counts as noise at most
  double corner = 4 * pi / 180; // radians
};

// A smooth stretch between two corners (or ends).
struct NoisyStretch {
  std::vector<TrackPoint> track; // smoothed; first and last point are the corners
  double noise = 0;              // mm, largest distance of a given point from the smoothed curve
  bool straight = false;         // but for the noise
};

// points: in order, at least three; closed: the last joins the first (and is not repeated). The stretches follow one
// another; a closed curve without corners is one stretch whose track ends where it began.
std::vector<NoisyStretch> read_noisy_run(const std::vector<Point>& points, bool closed, const NoisyOptions& options);

} // namespace frelm
