// Even gaps and Keep joined: where each letter of a run must stand on its bend so that every gap is what it should be.
//
// The letter at the run's anchor stays; from it outwards each next letter's place is the root of
//   optical gap (or depth of the join) in the pair's own frame − target,
// one pair after the other: no pair is touched twice, work is linear in the number of letters. Targets are those of
// the straight setting (straight_pairs), so a straight run does not change. Letters that corners keep apart are evened
// side by side, each side from its own middle.
// mm. Bounds: gaps and depths within 1e-6 mm of the target except where listed as held or off. Progress and stop are
// looked at between letters.
#pragma once

#include "lettering/run_layout.h"
#include "lettering/straight_pairs.h"

#include <functional>
#include <stop_token>

namespace frelm {

// Where a run lies, and how a letter at a place along it looks.
struct EvenRun {
  const SpacedText& spaced;
  const Parallel& line;
  double height = 0; // of the baseline above the guide
  Stance stance = Stance::Turn;
  double start = 0;        // σ of the run's start
  double anchor_share = 0; // 0, ½ or 1: the first, the middle or the last letter stays
  const std::vector<CornerStop>& stops;
  // The points of the letter's flat outline with the middle of its advance at σ = at.
  std::function<void(const RunCell&, const FlatLetter&, double at, std::vector<Point>&)> points;
};

struct EvenOptions {
  SpacingMode mode = SpacingMode::EvenGaps; // or KeepJoined
  GapAim aim = GapAim::Own;
  double gap = 0; // mm, GapAim::Typed
  // mm; pairs that would come closer are held there. Whatever it is, letters that stand clear of each other when
  // straight are kept 0.03 cap heights apart, or as far as they are when straight if that is less.
  double least_gap = 0;
  std::stop_token stop = {};
  std::function<void(double)> progress = {}; // share done
};

struct EvenPair {
  std::size_t left = 0, right = 0; // cells of the run; the seam's right one stands before its left one
  double target = 0;               // mm, optical gap, or depth of a join
  double off = 0;                  // mm that the target was missed by
  double moved = 0;                // mm that the two came closer (less than 0) or went apart
  bool joined = false;
  bool held = false; // kept from coming too close: further apart than the target
};
struct EvenResult {
  std::vector<EvenPair> pairs;
  double extra = 0; // mm that filling the guide added to every gap
};

// Moves the cells of the run. Errors: Cancelled.
Result<EvenResult> even_out(Run& run, const EvenRun& on, const EvenOptions& options, const StraightPairs& straight);

} // namespace frelm
