// Stage 3b, the bends that warp a whole block: between rails, into a shape, by a net.
//
// The block is the box of the ink as it stands before the warp: of the straight setting, of letters on an arc or a
// guide under a net, or of drawn outlines; mm. Where guides decide (an edge or a shape that is one) the target is on
// the sheet; else the block is warped where it stands unturned and the placement moves and turns the result. Rails: x
// runs evenly from left to right (verticals kept) or evenly by each edge's length; straight in between. Edges shaped by
// profiles are exact functions; added up, one on top of the other. An edge without a guide stands off the other edge's
// guide by the block's height, the block made as wide as the guide's ends are apart. Fill: geom/fill_map.h. Net:
// geom/net.h, over any other bend. Bound: outlines 0.005 mm to the exact map (geom/warp.h); a sketch keeps ends and
// directions only.
#pragma once

#include "geom/fill_map.h"
#include "lettering/memo.h"
#include "lettering/recipe.h"

namespace frelm {

// The guides that a bend follows, looked up.
struct BendGuides {
  BendGuides(std::shared_ptr<const GuideLine> ridden = {}) : line(std::move(ridden)) {}
  BendGuides(std::nullptr_t) {}
  std::shared_ptr<const GuideLine> line; // BendKind::Guide, and the shape to fill
  std::shared_ptr<const GuideLine> top, bottom;
  bool operator==(const BendGuides&) const = default;
};

// Filled shapes that have been solved.
struct FillKey {
  Box source;
  Contour boundary;
  std::array<double, 4> corners{};
  bool sketch = false;
  std::optional<FillSolve> only;
  std::optional<UprightFill> upright; // of one that is filled upright
  std::size_t hash() const {
    const std::size_t h = hash_of(source.x0, source.y0, source.x1, source.y1, boundary.segments.size(), sketch);
    const Segment first = boundary.segments.empty() ? Segment{} : boundary.segments.front();
    const UprightFill u = upright.value_or(UprightFill{});
    return mix(h, hash_of(corners[0], corners[1], first.p0.x, first.p0.y, first.p2.x, first.p2.y, u.ends[0], u.ends[1],
                          u.proportion));
  }
  std::size_t bytes() const { return boundary.segments.size() * sizeof(Segment); }
  bool operator==(const FillKey&) const = default;
};
using FillMemo = Memo<FillKey, FillMap>;

struct BlockMap {
  Box block; // of the ink
  WarpMap map;
  double scale = 1;                 // of straight letters made as wide as the target
  std::optional<FillTarget> target; // of a filled shape, less its margin
  Contour shape;                    // the whole of it, clockwise; shares of corners are of this one
  std::optional<Contour> upright;   // less its margin, of one that is filled upright
  std::optional<FillSolve> solved;
  Vec along{1, 0}; // the block's width on the sheet, where an edge follows a guide: along its chord
};
struct BlockEffort {
  bool sketch = false;
  FillMemo* fills = nullptr;
  std::optional<FillSolve> only; // of a filled shape
  std::stop_token stop = {};
  std::vector<Affine> before = {}; // what is done to each outline first; none, or one for each
};
// Errors, each naming what to change: nothing to bend; measures that are not numbers or out of range; an edge that is
// closed or missing; those of rails_map, fill_map and net_map; Cancelled.
Result<BlockMap> block_map(const Bend& bend, const Box& block, const Placement& placement, const BendGuides& guides,
                           const BlockEffort& effort = {});
inline constexpr double most_taper = 90;       // %
inline constexpr double deepest_arch = 0.4999; // of the width: a half circle stands upright at its ends
// Share of the width at which a peak has its corner.
double peak_share(const RailProfile& profile);
// The frame in which nets are pulled: from the block's own frame to the sheet.
Affine block_frame(const Bend& bend, const Placement& placement);
// An edge of the block by its profiles: how far it stands above the straight edge at a share of the width, mm.
// Requires a width and height of the block; Guide counts as Straight.
double profile_height(const RailEdge& edge, DepthIn depth_in, double width, double height, double share);

// A block that has been warped, and what that did to it.
struct BentBlock {
  BlockMap made;
  WarpReport report;
  // Not of a sketch: against straight letters made as wide as the target; places on the sheet.
  WarpStretch stretch;
  std::vector<double> heights; // mm, likewise, of each letter as bent, in the order given
  bool sketch = false;
};
struct BentOutlines {
  BentBlock block;
  std::vector<Outline> outlines; // in the order given, on the sheet
};
// Folds are not an error: they are reported, with their place.
Result<BentOutlines> bend_block(const Bend& bend, const std::vector<Outline>& outlines, const Placement& placement,
                                const BendGuides& guides, const BlockEffort& effort = {},
                                const std::function<void(double)>& progress = {});

} // namespace frelm
