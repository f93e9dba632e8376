// Editing warped blocks by hand: the handles of rails, filled shapes and nets, and what dragging one makes of the bend.
//
// Places in mm on the sheet.
#pragma once

#include "geom/said.h"
#include "lettering/block_bend.h"

namespace frelm {

// Depth: of an edge's first profile (and the phase of a wave, the place of a peak); More: of the one added to it.
// TaperAlong: upper corners of the block; TaperAcross: lower ones. Corner: of a filled shape; End: of one
// that is filled upright. Peg and its handles.
enum class BlockHandleKind { Depth, More, TaperAlong, TaperAcross, Corner, End, Peg, PegAlong, PegDown };
struct BlockHandle {
  BlockHandleKind kind = BlockHandleKind::Depth;
  bool bottom = false;   // Depth, More: of the bottom edge
  std::size_t index = 0; // Corner: as in FillTarget; Taper, End: 0 left, 1 right; pegs: of the net
  double way = 1;        // peg's handles: -1 towards the left or up
  Point at, root;
};
// chosen: pegs whose handles show, when it is one; all pegs show.
std::vector<BlockHandle> block_handles(const Bend& bend, const BlockMap& made, const std::vector<std::size_t>& chosen);

// The bottom edge linked or set free; set free, it stays as it stands, or straight below a guide, which can't be both
// edges.
RailsBend with_link(RailsBend rails, EdgeLink link);
// Depths measured otherwise, the edges unchanged; height: mm of the block, as large as its target.
RailsBend with_depth_in(RailsBend rails, DepthIn depth_in, double height);
// The profiles and link of another bend, measured as these are; guides are remembered.
RailsBend with_profiles(RailsBend rails, const RailsBend& chosen, double height);
// A net's widest cell halved; with mirrored pulls on both sides of the middle.
NetBend with_more(NetBend net, NetLine line);
// Where a filled shape's corners are now, and the place of its edge nearest to a point: shares of its boundary.
// Requires a map that has a target.
std::array<double, 4> corner_shares(const BlockMap& made);
double share_nearest(const BlockMap& made, Point at);
// Shares of the boundary, clockwise from the top left one, and apart.
bool corners_in_order(const std::array<double, 4>& corners);

struct BlockDrag {
  Point from, to;
  bool snap = true;                // measures go in steps: 1 %, 0.5 mm, 5°
  std::vector<std::size_t> chosen; // pegs that move along
};
// The bend as it was when the drag began, with its handle dragged. Arch and Dip turn into one another when they are
// pulled through the straight edge, which becomes an Arch or a Dip itself. Corners keep their order: unchanged where
// they would pass one another.
Bend with_block_handle(const Bend& bend, const BlockMap& made, const Placement& placement, const BlockHandle& handle,
                       const BlockDrag& drag);
// Pegs moved by so much on the sheet, with the pegs mirrored to them.
Bend with_pegs_moved(const Bend& bend, const Placement& placement, const std::vector<std::size_t>& pegs, Vec by);

// The row or column of a peg made straight between its ends, or its pegs spaced evenly.
Result<Bend> with_net_line(const Bend& bend, const BlockMap& made, const Placement& placement, std::size_t peg,
                           NetLine line, bool straight);

// The lines of a block as they lie on the sheet.
enum class BlockLineKind { Edge, Side, Inner };
struct BlockLine {
  BlockLineKind kind = BlockLineKind::Edge;
  std::vector<Point> points;
};
std::vector<BlockLine> block_lines(const Bend& bend, const BlockMap& made);

Words profile_name(ProfileKind kind);
// "Dip under Arch", "Wave", "Arch, mirrored", "Filled shape".
Said rails_words(const RailsBend& rails);
// The depth in % at which a profile of so much looks right on a block of this width and height: less on high blocks.
double fitting_depth(double percent, double width, double height);
// Bends to choose from by their looks, for a block of this width and height; depths in %.
std::vector<RailsBend> rails_gallery(double width, double height);

} // namespace frelm
