// Nodes: editing outlines and guide curves by their nodes and handles. Functions Outline → Outline.
//
// mm, y down. A node stands where two segments of a contour meet, or at an end of an open contour: node i of a contour
// is where segment i starts; an open contour's last node is where its last segment ends. What a node is follows from
// its handles: nothing is stored beside the outline. Indices that name nothing leave the outline as it is.
#pragma once

#include "geom/outline.h"

#include <optional>
#include <vector>

namespace frelm {

struct NodeAt {
  std::size_t contour = 0, node = 0;
  auto operator<=>(const NodeAt&) const = default;
};

// Corner: the handles go their own ways. Smooth: they are in line. Even: in line and equally long.
enum class NodeKind { Corner, Smooth, Even, End };
enum class HandleSide { In, Out };

std::size_t node_count(const Contour& contour);
Point node_point(const Contour& contour, std::size_t node);
NodeKind node_kind(const Contour& contour, std::size_t node);
// The control point before or after the node; nothing beside a line or past an end.
std::optional<Point> node_handle(const Contour& contour, std::size_t node, HandleSide side);

struct NearestOnOutline {
  std::size_t contour = 0, segment = 0;
  double t = 0;
  Point point;
  double distance = 0;
};
// Nothing for an empty outline. Within 1e-6 mm of the nearest place of its segment.
std::optional<NearestOnOutline> nearest_on(const Outline& outline, Point p);

// A node more at parameter t of a segment; the shape stays exactly the same.
Outline add_node(Outline outline, std::size_t contour, std::size_t segment, double t);
// Without these nodes; the two segments beside each become the cubic that is nearest to them with their end
// directions. Contours left with less than one segment go.
Outline delete_nodes(Outline outline, std::vector<NodeAt> nodes);
// Nodes with their handles moved; lines beside them stay lines.
Outline move_nodes(Outline outline, const std::vector<NodeAt>& nodes, Vec by);
// A handle moved; at smooth and even nodes the other one follows.
Outline move_handle(Outline outline, NodeAt node, HandleSide side, Point to);
// Corner: nothing moves, but the handles come apart when pulled (a turn of half a degree marks it). Smooth: both
// handles into the line between their directions. Even: also equally long. Beside lines a handle is made first.
Outline set_node_kind(Outline outline, NodeAt node, NodeKind kind);
// The segment after each node; curved ones get handles at their thirds.
Outline set_straight(Outline outline, const std::vector<NodeAt>& segments);
Outline set_curved(Outline outline, const std::vector<NodeAt>& segments);
// All between two nodes of a contour becomes one straight line, of a closed one the shorter way; nodes there go.
Outline one_line(Outline outline, NodeAt a, NodeAt b);
// A closed contour opens at the node; an open one falls into two, the second right after the first.
Outline break_at(Outline outline, NodeAt node);
// Two ends of open contours become one node halfway between them; of the same contour: it closes.
Outline join_ends(Outline outline, NodeAt a, NodeAt b);
// An open contour closed with a line (or at once where its ends coincide).
Outline close_contour(Outline outline, std::size_t contour);
Outline reverse_contour(Outline outline, std::size_t contour);
// A closed contour begins at this node.
Outline set_start(Outline outline, NodeAt node);

} // namespace frelm
