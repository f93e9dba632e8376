// Catching while pieces are moved: their edges and middles by the edges and middles of other pieces and of the sheet.
#pragma once

#include "document/document.h"

#include <optional>

namespace frelm {

enum class AlignSide { Low, Middle, High }; // left or top, middle, right or bottom

// Lines that catch, sorted by their place: found in the time of a search, however many pieces there are.
struct AlignLine {
  double at = 0; // mm
  AlignSide side = AlignSide::Low;
  PieceId piece = 0; // 0: the sheet
  Box box;           // of what it belongs to
};
struct AlignLines {
  std::vector<AlignLine> across, down; // places along x, along y
};
struct PlacedBox {
  PieceId piece = 0;
  Box box;
};
AlignLines align_lines(const Sheet& sheet, const std::vector<PlacedBox>& others);

struct AlignCaught {
  AlignLine line;
  AlignSide side = AlignSide::Low; // of what is moved
  double by = 0;                   // mm that it is moved on
};
struct AlignCatch {
  std::optional<AlignCaught> across, down;
};
// The nearest one each way within `reach` mm; of equally near ones middles on middles first, then pieces before the
// sheet.
AlignCatch align_catch(const AlignLines& lines, const Box& moved, double reach);

} // namespace frelm
