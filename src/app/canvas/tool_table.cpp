#include "app/canvas/tool_table.h"

#include <QObject>

namespace frelm {
namespace {

template <std::unique_ptr<Tool> (*Make)()> std::unique_ptr<Tool> plain(std::size_t) {
  return Make();
}

} // namespace

const std::vector<ToolRow>& tool_table() {
  static const std::vector<ToolRow> rows{
      {ToolKind::Select, "edit.tool.select", QObject::tr("&Select"), QObject::tr("Pick, move and reshape"), "1",
       "tool-select", Qt::ArrowCursor, plain<make_select_tool>},
      {ToolKind::Letters, "edit.tool.letters", QObject::tr("&Letters"),
       QObject::tr("Click where letters should begin, on the sheet or on a guide"), "2", "tool-letters",
       Qt::IBeamCursor, plain<make_letters_tool>},
      {ToolKind::Guide, "edit.tool.guide", QObject::tr("&Guide"), QObject::tr("Draw a line for letters to ride on"),
       "3", "tool-guide", Qt::CrossCursor, make_guide_tool},
      {ToolKind::Nodes, "edit.tool.nodes", QObject::tr("&Nodes"), QObject::tr("Pull the nodes of guides and outlines"),
       "4", "tool-nodes", Qt::ArrowCursor, plain<make_nodes_tool>},
      {ToolKind::Snip, "edit.tool.snip", QObject::tr("S&nip"),
       QObject::tr("Take out stretches of lines from crossing to crossing"), "5", "tool-snip", Qt::CrossCursor,
       plain<make_snip_tool>},
      {ToolKind::Space, "edit.tool.space", QObject::tr("S&pace"),
       QObject::tr("Make the space that lines enclose a piece"), "6", "tool-space", Qt::CrossCursor,
       plain<make_space_tool>},
      {ToolKind::Sand, "edit.tool.sand", QObject::tr("San&d"), QObject::tr("Even out an outline with a brush"), "7",
       "tool-sand", Qt::CrossCursor, plain<make_sand_tool>},
      {ToolKind::Measure, "edit.tool.measure", QObject::tr("&Measure"),
       QObject::tr("How far it is from place to place, and how far it should be"), "8", "tool-measure", Qt::CrossCursor,
       plain<make_measure_tool>},
      {ToolKind::Shape, nullptr, {}, {}, "", "", Qt::CrossCursor, plain<make_shape_tool>},
      {ToolKind::Tie, nullptr, {}, {}, "", "", Qt::CrossCursor, plain<make_tie_tool>},
      {ToolKind::Backing, nullptr, {}, {}, "", "", Qt::ArrowCursor, plain<make_backing_tool>},
      {ToolKind::Part, nullptr, {}, {}, "", "", Qt::CrossCursor, plain<make_part_tool>}};
  return rows;
}

} // namespace frelm
