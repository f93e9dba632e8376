// The order of cutting: inner lines before the lines around them, near ones after one another.
#pragma once

#include "document/evaluate.h"

namespace frelm {

struct CutPath {
  std::size_t piece = 0; // index into CutSheet::pieces
  std::size_t contour = 0;
  std::size_t depth = 0; // how many closed contours of the piece lie around it
  Point start;           // where the knife goes in
  Vec heading;           // unit, the way it leaves
  Colour colour;         // of the material
};

// Requires nothing; pieces in sheet order. Within a piece every contour comes after all that lie inside it, and each
// group of nested contours is finished before the next nearest one is begun.
std::vector<CutPath> cut_order(const CutSheet& sheet);
// Of these pieces of it, in this order, from the sheet's corner.
std::vector<CutPath> cut_order(const CutSheet& sheet, const std::vector<std::size_t>& pieces);

} // namespace frelm
