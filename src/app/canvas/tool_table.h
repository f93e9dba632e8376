// The tools, each told once: what it is called, its key and icon, the pointer over the sheet, and how it is made.
// Adding one is a row here and a file beside it.
#pragma once

#include "app/canvas/tool.h"

#include <QString>

namespace frelm {

// Shape: picks the shape that the selected lettering is to fill; then back to Select.
// Backing: moves the pictures under the drawing; Part: takes a part of one, to be traced.
enum class ToolKind { Select, Letters, Guide, Nodes, Snip, Space, Sand, Measure, Shape, Tie, Backing, Part };

struct ToolRow {
  ToolKind kind;
  const char* id; // of its command; null: taken by another command, without a button
  QString words;  // with the & of its menu
  QString tip;
  const char* key;
  const char* icon;
  Qt::CursorShape cursor;
  std::unique_ptr<Tool> (*make)(std::size_t guide_kind); // of what the Guide tool draws
};

const std::vector<ToolRow>& tool_table(); // in the order of ToolKind
inline const ToolRow& tool_row(ToolKind kind) {
  return tool_table()[static_cast<std::size_t>(kind)];
}

} // namespace frelm
