// Where each letter of a run stands along its line: repeated, spread, and set side by side of corners.
//
// Unrolled: arc length σ (mm) on the line's own parallel of the guide.
#pragma once

#include "geom/parallel.h"
#include "lettering/space_text.h"

namespace frelm {

// One letter of a run; a repeated text has a cell for every copy of it.
struct RunCell {
  std::size_t line = 0, cluster = 0; // of the spaced text
  double at = 0;                     // start of its advance from the run's start
  double plain = 0;                  // the same in the plain straight setting
  double advance = 0;
  bool blank = false;
  bool straddles = false; // no side was long enough for it
};
struct Run {
  std::vector<RunCell> cells; // left to right
  double length = 0;          // from the first advance's start to the last one's end
  double plain_length = 0;    // the same in the plain straight setting
  double ink_start = 0, ink_end = 0;
};

Run run_of_line(const SpacedText& text, std::size_t line);
// All lines one after another with a gap (mm) between them.
Run run_of_all_lines(const SpacedText& text, double gap);

// A corner on the line's parallel, and the room that letters must leave before and after it.
struct CornerStop {
  double at = 0, margin = 0;
};
// The run repeated along `room` mm of guide. The text's own clusters come first, then the separator's, which starts at
// code point `separator_first`; an open guide gets none after the last copy. copies 0: as many as find room, at least
// one. What room is left is shared out on both sides of the separators.
Run repeated(const Run& unit, const SetText& set, std::size_t separator_first, std::uint64_t copies, double room,
             bool closed);

// The same on a guide with corners, kept from them: as many whole copies as find room on each side, what room is left
// shared out between them and half at each end; a side too short for one copy stays empty. No cells: no side has room.
// Cells stand at their σ on the guide.
Run repeated_by_sides(const Run& unit, const SetText& set, std::size_t separator_first,
                      const std::vector<CornerStop>& stops, double around, bool closed);

// Every gap wider by the same amount so that the run fills `room`; on a closed guide filled whole the gap between end
// and start counts too. Letters are pushed together by at most `tightest` mm (0 or more) a gap. Gives what each gap
// gained.
enum class SpreadEnds { Open, Meeting };
double spread(Run& run, double room, SpreadEnds ends, double tightest);

// Corner margins for letters that reach from `low` to `high` mm above the line (towards up_of the tangent): band height
// times tan(half the turn) where the corner closes in on them, nothing where it opens.
std::vector<CornerStop> corner_stops(const Parallel& line, double low, double high);

// Moves letters that would straddle a corner on to its other side; room left before a corner is shared among the gaps
// of that side. start: σ of the run's start. Gives the start that keeps `anchor_share` (0 start, ½ middle, 1 end) of
// the run's extent where it was.
double lay_by_sides(Run& run, double start, double anchor_share, const std::vector<CornerStop>& stops, double around,
                    bool closed);

} // namespace frelm
