// Drawings of lines made ready to cut: what is found in outline pieces, and each of it put right.
//
// Lines of one colour go together, as they would on one material. Pieces that are locked, hidden, or have an origin are
// left alone. Tolerances: ends within `ends_meet`, doubles within `doubled` (geom/clean_lines).
#pragma once

#include "document/document.h"

namespace frelm {

inline constexpr double ends_meet = 0.01;  // mm
inline constexpr double doubled = 0.001;   // mm: nearer than this, two lines are one
inline constexpr double largest_mark = 30; // mm

struct LineFaults {
  std::size_t meeting = 0;     // ends of different lines that meet
  std::size_t doubles = 0;     // segments that stand there twice
  std::vector<PieceId> frames; // upright rectangles around all the others
  // Registration marks: three to six alike, none larger than `largest_mark`, in at least three corners around all the
  // others. What they are made of.
  std::vector<PieceId> marks;
  bool operator==(const LineFaults&) const = default;
};
LineFaults line_faults(const Document& document, const std::vector<PieceId>& ids);

// What the pieces become keeps the first's names and ids; those that are used up go.
Document ends_joined(Document document, const std::vector<PieceId>& ids);
Document doubles_dropped(Document document, const std::vector<PieceId>& ids);

} // namespace frelm
