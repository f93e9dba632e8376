// The closest distance between neighbouring letters as they really sit.
#pragma once

#include "geom/distance.h"
#include "lettering/seat.h"

#include <stop_token>

namespace frelm {

struct Gap {
  std::size_t left = 0, right = 0; // indices into SeatedText::letters
  Closest closest;                 // on the sheet
  bool joined() const { return closest.overlapping; }
};

// Pairs of letters of one line and one word that stand side by side. Bound: 0.001 mm.
std::vector<Gap> measure_gaps(const SeatedText& text, std::stop_token stop = {});

// Letters past their run's own start on a closed guide lie on top of its first ones.
enum class PastStart { Counted, Left };
struct OverlapOptions {
  PastStart past_start = PastStart::Counted;
  std::size_t most = 2000; // pairs; where whole runs lie on top of each other there is no end of them
  std::stop_token stop = {};
};
// Pairs of letters whose areas overlap, near or far; each is a line the knife would cut through if not welded.
std::vector<Gap> find_overlaps(const SeatedText& text, const OverlapOptions& options = {});

// Pairs whose areas overlap on the bend although they stand clear of each other in the straight run: letters of
// neighbouring windings, lines that come too close, letters that a corner or a tight inside bend drives together.
// Letters past their run's own start are left to the finding on its length.
std::vector<Gap> find_collisions(const SeatedText& text, std::stop_token stop = {});

} // namespace frelm
