// A net of pegs as a map: bicubic patches that meet smoothly.
//
// mm, y down. The source box is divided into columns and rows, which need not be even; its grid points go to the pegs,
// and near each peg the map is what the peg's vectors say. Between pegs it is bicubic (Ferguson, Multivariable curve
// interpolation, J. ACM 1964), so that places, directions and lengths go on smoothly from patch to patch. Beyond the
// box the outer patches go on. Breaks are at the columns and rows.
// A net may also be a field of displacements over another map (displaced): started with all of them 0 it changes
// nothing, and neither does a column or a row more.
#pragma once

#include "geom/warp.h"

#include <optional>
#include <vector>

namespace frelm {

struct NetPeg {
  Point at;
  Vec along, down;      // the map's derivatives: per box width to the right, per box height downwards, mm
  Vec twist;            // how `along` changes per box height
  bool touched = false; // inside the net: moved by hand, so it no longer follows the sides
  bool operator==(const NetPeg&) const = default;
};

struct Net {
  std::vector<double> columns{0, 1}, rows{0, 1}; // shares of the box's width and height, from 0 to 1, ascending
  std::vector<NetPeg> pegs;                      // columns.size() x rows.size(), row after row from the top left
  bool operator==(const Net&) const = default;
  std::size_t index(std::size_t column, std::size_t row) const { return row * columns.size() + column; }
  const NetPeg& peg(std::size_t column, std::size_t row) const { return pegs[index(column, row)]; }
  NetPeg& peg(std::size_t column, std::size_t row) { return pegs[index(column, row)]; }
};

std::vector<double> even_shares(std::size_t cells); // 0, 1/cells, …, 1
// All displacements 0.
Net flat_net(std::size_t columns, std::size_t rows);

// Errors: an empty box, a number of pegs that doesn't fit, lines out of order, pegs that are not finite.
Result<WarpMap> net_map(const Box& source, const Net& net);
// base(p) + the net's displacement at p.
Result<WarpMap> displaced(WarpMap base, const Box& source, const Net& net);
// Pegs where the map takes the grid points, with its Jacobian; exact for maps that are cubic in x and in y within each
// cell, as affine ones.
Net net_from(const WarpMap& map, const Box& source, std::vector<double> columns, std::vector<double> rows);

enum class NetLine { Column, Row };
// One line more at a share of the box: nothing changes. Nothing is added on a line that is there already.
Net with_line(const Net& net, NetLine line, double share);
// Where one more would go: the middle of the widest cell; the one nearest to the net's middle among equals.
double widest_middle(const Net& net, NetLine line);
// One inner line less: the one that changes the map least, what remains fitted to what was by least squares. Nothing
// when there is no inner line.
struct NetRemoval {
  Net net;
  std::size_t line = 0; // which one went
  double largest = 0;   // mm, the largest change of the map
};
std::optional<NetRemoval> without_line(const Net& net, NetLine line);

struct NetPull {
  std::size_t peg = 0;
  Vec by;
};
// Pegs pulled. Directions at the pegs follow their neighbours' places, and inner pegs that no hand has touched follow
// the sides of the net (Coons, Surfaces for computer-aided design of space forms, MIT 1967). Linear in the pulls.
Net pulled(const Net& net, const std::vector<NetPull>& pulls);
// The peg on the other side of the vertical middle; nothing where there is none.
std::optional<std::size_t> mirrored_peg(const Net& net, std::size_t peg);

// For a net of displacements over `base`: the pegs of one line brought onto the straight line between its ends, their
// directions along it. Inner pegs follow as they do when pegs are pulled.
Net straightened(const Net& net, const WarpMap& base, const Box& source, NetLine line, std::size_t number);
// How far the image of a line is from straight, mm.
double bend_of_line(const WarpMap& map, const Box& source, const Net& net, NetLine line, std::size_t number);
// The pegs of one line spaced along it as its columns (or rows) are.
Net evened_out(const Net& net, const WarpMap& base, const Box& source, NetLine line, std::size_t number);

} // namespace frelm
