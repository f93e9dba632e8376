// A list whose rows fill the places ({name}, {number}) in a job's letterings, and what to do with a text that has no
// room where it stands.
#pragma once

#include "lettering/guide_shape.h"

#include <string>
#include <vector>

namespace frelm {

inline constexpr std::size_t most_name_rows = 20'000, most_name_columns = 40, most_names_by_hand = 2000,
                             longest_name_cell = 500; // bytes

// Keep: it stays as large as it is; Shrink: smaller letters; Spread: gaps take it to the room's length, shorter ones
// too; Tighten: narrower gaps first, then smaller letters; TwoLines: parted at a space where that lets it stay larger.
enum class NameFit { Keep, Shrink, Spread, Tighten, TwoLines };

struct NameRule {
  PieceId piece = 0; // whose places
  NameFit fit = NameFit::Shrink;
  double room = 0;       // mm along its line; 0: its guide's length, and of a straight line as much as it needs
  double least_caps = 0; // mm: cap height under which a row is told; 0: none
  bool operator==(const NameRule&) const = default;
};

// A lettering beside the sheet that holds what hands did to the letters of a text: rows of that very text in the place
// of `piece` get the same gaps, places and shapes.
struct NameByHand {
  PieceId piece = 0, by = 0;
  bool operator==(const NameByHand&) const = default;
};

struct NameList {
  std::string source;                         // what it was read from, to show; empty: typed
  std::vector<std::string> columns;           // their names, as places call them
  std::vector<std::vector<std::string>> rows; // a cell a column
  std::vector<NameRule> rules;                // at most one a piece
  std::vector<NameByHand> by_hand = {};       // of two for the same text the later one counts
  bool operator==(const NameList&) const = default;
};

} // namespace frelm
