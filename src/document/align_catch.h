// Catching while pieces are moved: their edges and middles by the edges and middles of other pieces and of the sheet,
// their baselines and cap lines by those of other letterings, all of them by ruler lines; and equal gaps to their
// neighbours.
#pragma once

#include "document/evaluate.h"

#include <optional>

namespace frelm {

// Left or top, middle, right or bottom; of level letterings; between neighbours.
enum class AlignSide { Low, Middle, High, Baseline, CapLine, EqualGap };
enum class AlignTo { Piece, Sheet, RulerLine };

// Lines that catch, sorted by their place: found in the time of a search, however many pieces there are.
struct AlignLine {
  double at = 0; // mm
  AlignSide side = AlignSide::Low;
  AlignTo to = AlignTo::Piece;
  PieceId piece = 0; // of AlignTo::Piece
  Box box;           // of what it belongs to
};
struct PlacedBox {
  PieceId piece = 0;
  Box box;
  std::vector<double> baselines = {}, cap_lines = {}; // y, mm
};
struct AlignLines {
  std::vector<AlignLine> across, down; // places along x, along y
  std::vector<PlacedBox> others;
};
// Of a piece as it is seated; baselines and cap lines where its letters stand level.
PlacedBox placed_box(PieceId id, const PieceResult& seated);
AlignLines align_lines(const Document& document, std::vector<PlacedBox> others);

struct AlignCaught {
  AlignLine line;
  AlignSide side = AlignSide::Low; // of what is moved
  double by = 0;                   // mm that it is moved on
  std::vector<Box> equal = {};     // the gaps that are equal, where those are what caught
};
struct AlignCatch {
  std::optional<AlignCaught> across, down;
};
// The nearest one each way within `reach` mm; of equally near ones ruler lines first, then middles on middles, pieces,
// the sheet, equal gaps.
AlignCatch align_catch(const AlignLines& lines, const PlacedBox& moved, double reach);

// What is sized, by the widths and heights of others: the scale, in place of `scale`, at which it is as wide or as high
// as the one whose size is nearest within `reach` mm. Nothing: none is so near.
struct SizeCaught {
  double scale = 1;
  PieceId piece = 0;
  bool wide = true; // else high
};
std::optional<SizeCaught> size_catch(const std::vector<PlacedBox>& others, const Box& sized, double scale,
                                     double reach);

} // namespace frelm
