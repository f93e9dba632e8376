// Following a track: dense samples of a smooth curve become the fewest cubics that stay within a tolerance of it.
//
// mm. The one place that decides how long a fitted cubic may be; freehand strokes, offsets and thinning use it.
// Pieces meet smoothly.
#pragma once

#include "geom/cubic_fit.h"

#include <span>

namespace frelm {

struct TrackPoint {
  Point point;
  Vec direction; // unit, of travel
};

struct FollowOptions {
  double tolerance = 0.01; // mm, more than 0
  // Ends at corners, whose directions may change a little where that makes longer pieces.
  FitFreedom free = {};
  // Points that a fit sees, spread over its piece; the check sees all. More for noisy tracks.
  std::size_t most_targets = 24;
};

// Requires at least two points, neighbours apart, close enough together that the curve between two of them is straight
// to far below the tolerance. Every point lies within the tolerance of the result, and every place of the result within
// it of the track; where not even the step from one point to the next can be followed with its directions, a line is
// taken. The first and last point are kept exactly, and their directions unless they are free. Greedy: each piece as
// long as fits, which gives the fewest pieces from that start wherever part of a good piece is good.
std::vector<Segment> follow(std::span<const TrackPoint> track, const FollowOptions& options);

// The same for a loop, whose last point is its first: the start is chosen so that few pieces are needed.
std::vector<Segment> follow_loop(std::span<const TrackPoint> track, const FollowOptions& options);

} // namespace frelm
