// The gaps of a run as its letters really sit: closest distance, optical gap against the pair's own target, joins.
#pragma once

#include "geom/distance.h"
#include "lettering/seat.h"

#include <stop_token>

namespace frelm {

// How a gap compares with what the face (or the typed target) wants. Wide and tight: by more than noticeable_share of
// the run's middle target. Joined: as in the straight setting, with as many pieces and counters. Lost: a join that came
// apart. Crashed: letters that touch where they don't in the straight setting.
enum class GapLook { Even, Wide, Tight, Joined, Lost, Crashed };
inline constexpr double noticeable_share = 0.12;
inline constexpr double least_gap_slack = 0.005; // mm that a gap may fall short of the least one

struct Gap {
  std::size_t left = 0, right = 0;           // indices into SeatedText::letters
  Closest closest;                           // on the sheet; within 0.001 mm
  bool word_space = false;                   // words or lines end between them
  bool seam = false;                         // where a run meets itself on a closed guide
  bool measured = false;                     // not for letters set downwards; what follows then says nothing
  double optical = 0, target = 0;            // mm (lettering/optical.h)
  std::optional<double> depth, target_depth; // mm, of a join; for letters that join in the straight setting
  GapLook look = GapLook::Even;
  bool joined() const { return closest.overlapping; }
};

// Neighbouring letters of each run, spaces between them or not; on closed guides also the seam where the run nearly
// meets itself.
std::vector<Gap> measure_gaps(const SeatedText& text, std::stop_token stop = {});

// Letters that belong to different lines or windings (or are not neighbours) and come closer than this without
// touching; the closest first, at most `most`.
std::vector<Gap> find_tight(const SeatedText& text, double least_gap, std::stop_token stop = {},
                            std::size_t most = 200);

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
