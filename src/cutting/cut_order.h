// The order of cutting, and where the knife goes into each line: inner lines before the lines around them, with little
// travel between them.
//
// mm. Lines are taken as the nearest next one whose inner lines are cut, then improved: rows of up to three are moved
// to where they cost less, stretches turned round where two ways cross (Croes, A method for solving traveling-salesman
// problems, 1958; Or, Traveling salesman-type combinatorial problems, 1976), never against the order of nesting; then
// every closed line begins at that of its places that makes the way shortest (dynamic programming), and both once more.
// Small sheets are shaken some hundred times on top of that.
// The same answer every time; bounded work, for 20,000 lines some seconds.
#pragma once

#include "document/evaluate.h"

namespace frelm {

struct CutPath {
  std::size_t piece = 0; // index into CutSheet::pieces
  std::size_t contour = 0;
  std::size_t depth = 0; // how many closed lines lie around it
  Point start;           // where the knife goes in
  Vec heading;           // unit, the way it leaves
  Colour colour;         // of the material
  // How its contour is to be begun: at this segment, or of an open one from its other end.
  std::size_t first = 0;
  bool reversed = false;
  std::optional<std::size_t> inside; // the line around it, by its place in the order
};

// Of all pieces, or of these; the knife begins at the sheet's lower left corner. Stopped: an order by nesting alone.
std::vector<CutPath> cut_order(const CutSheet& sheet, const std::stop_token& stop = {});
std::vector<CutPath> cut_order(const CutSheet& sheet, const std::vector<std::size_t>& pieces, Seam seam,
                               const std::stop_token& stop = {});
// The same paths, those of the sheet's order by hand first; inner lines still come before the lines around them.
std::vector<CutPath> ordered_by_hand(const CutSheet& sheet, std::vector<CutPath> order);
// What a path is called in an order by hand.
CutTurn turn_of(const CutSheet& sheet, const CutPath& path);
// A closed contour begun at another of its segments.
Contour begun_at(Contour contour, std::size_t first);
// The contour of a path, begun as the order has it.
Contour as_cut(const CutSheet& sheet, const CutPath& path);

} // namespace frelm
