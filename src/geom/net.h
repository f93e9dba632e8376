// A net of pegs as a map: bicubic patches that meet smoothly.
//
// mm, y down. The source box is divided evenly into columns x rows; its grid points go to the pegs, and near each peg
// the map is what the peg's vectors say. Between pegs it is bicubic (Ferguson, Multivariable curve interpolation, J.
// ACM 1964), so that places, directions and lengths go on smoothly from patch to patch. Breaks are at the columns.
#pragma once

#include "geom/warp.h"

#include <vector>

namespace frelm {

struct NetPeg {
  Point at;
  Vec along, down; // what one column to the right, and one row down, come to there, mm
  Vec twist;       // how `along` changes per row
  bool operator==(const NetPeg&) const = default;
};

struct Net {
  std::size_t columns = 1, rows = 1; // at least 1
  std::vector<NetPeg> pegs;          // (columns + 1) x (rows + 1), row after row from the top left
  bool operator==(const Net&) const = default;
};

// Errors: an empty box, a number of pegs that doesn't fit, pegs that are not finite.
Result<WarpMap> net_map(const Box& source, const Net& net);
// Pegs where the map takes the grid points, with its Jacobian; exact for maps that are cubic in x and in y within each
// cell, as affine ones and nets with the same or a coarser grid that divides this one.
Net net_from(const WarpMap& map, const Box& source, std::size_t columns, std::size_t rows);

} // namespace frelm
