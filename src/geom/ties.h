// Ties: short bridges of a set width. Between the parts of a cut, so that it leaves in one piece; or across the strokes
// of a stencil, so that what a counter holds stays with the sheet.
//
// mm, y down. Outlines are sound: contours that don't cross, outer ones of positive area (geom/weld, self_union).
#pragma once

#include "geom/weld.h"

namespace frelm {

enum class TieEnds { Square, Round };
inline constexpr double least_tie = 0.05, most_tie = 100; // mm
struct TieForm {
  double width = 2; // more than 0: exactly that from side to side
  TieEnds ends = TieEnds::Square;
  bool operator==(const TieForm&) const = default;
};
struct Tie {
  Point from, to; // places on the edge
  bool operator==(const Tie&) const = default;
};

// The strip of a tie. Its ends are sunk into what it holds as far as it takes to hold over its whole width, at most
// `deepest` of its width; where one side finds nothing to hold within that, a little only. Bridges are sunk into what
// is not filled. Round: a half disc more at both ends.
enum class TieHolds { Area, Sheet };
inline constexpr double deepest_tie = 1.5;
Outline tie_strip(const Outline& area, const Tie& tie, const TieForm& form, TieHolds holds = TieHolds::Area);

// The fewest ties that make one of all parts, over the shortest ways from part to part; where edges run beside each
// other in the middle of the longest stretch. Strips meet nothing but the two parts that they join and close no
// counter; where the nearest place is not sound, or adds more than 1.5 times its length by its width, the one that adds
// the least within a width of it. A part that no sound place was found for keeps the nearest one. Deterministic.
// Stopped: those found so far.
std::vector<Tie> ties_for_loose(const Outline& area, const TieForm& form, std::stop_token stop = {});
// The parts and the strips as one. Errors: the booleans'.
Result<WeldResult> with_ties(const Outline& area, const std::vector<Tie>& ties, const TieForm& form,
                             const WeldOptions& options = {});

struct BridgeChoice {
  int each = 2;      // for each counter: 1, or 2 on opposite sides where the strokes are about as wide
  double angle = 90; // degrees from level, clockwise: the way they run
  bool operator==(const BridgeChoice&) const = default;
};
// For each counter, across the stroke to the sheet or to the next counter; level ones of counters beside each other lie
// on one line. A counter that this leaves by itself gets the shortest one in another direction. Stopped: none.
std::vector<Tie> stencil_bridges(const Outline& area, const TieForm& form, const BridgeChoice& choice,
                                 std::stop_token stop = {});
// What is left of the area beside the strips. Errors: the booleans'.
Result<WeldResult> with_bridges(const Outline& area, const std::vector<Tie>& bridges, const TieForm& form,
                                const WeldOptions& options = {});

} // namespace frelm
