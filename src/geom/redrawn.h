// Stretches of contours that were drawn anew with fewer nodes, and put back where the new ones would cross.
//
// mm. Refitting and thinning look at one stretch at a time, within their tolerance; two that run close by may come to
// cross. Guarantee: no two segments of the result cross or touch that didn't in the contours as they were.
#pragma once

#include "geom/outline.h"

#include <stop_token>

namespace frelm {

// Both begin and end in the same places (a closed contour's only stretch may begin elsewhere).
struct Redrawn {
  std::vector<Segment> was, now;
};
struct RedrawnContour {
  std::vector<Redrawn> stretches; // in order, each from where the one before ends
  bool closed = true;
};

struct RedrawnResult {
  Outline outline;
  std::size_t put_back = 0; // stretches that stayed as they were
};
// When asked to stop, what has been found until then is not complete: ask `stop` afterwards.
RedrawnResult without_new_crossings(const std::vector<RedrawnContour>& contours, const std::stop_token& stop = {});

} // namespace frelm
