#include "cutting/cut_plan.h"

#include <algorithm>

namespace frelm {
namespace {

// The layers of what is in the sheet, in `known` first.
CutPlan planned(CutSheet sheet, std::vector<PlanLayer> known, const std::vector<Material>& materials,
                const std::stop_token& stop) {
  CutPlan out;
  std::vector<std::size_t> used(known.size(), 0);
  std::vector<std::size_t> of;
  for (const CutPiece& p : sheet.pieces) {
    const auto it = std::find_if(known.begin(), known.end(), [&](const PlanLayer& l) {
      return l.colour == p.colour && l.destination == p.destination;
    });
    const auto at = static_cast<std::size_t>(it - known.begin());
    if (it == known.end())
      known.push_back({p.colour, p.destination, to_hex(p.colour) + (p.destination == Destination::Pen ? ", pen" : "")}),
          used.push_back(0);
    ++used[at];
    of.push_back(at);
  }
  std::vector<std::size_t> place(known.size());
  for (std::size_t i = 0; i < known.size(); ++i)
    if (used[i] > 0)
      place[i] = out.layers.size(), out.layers.push_back(std::move(known[i]));
  for (const std::size_t at : of)
    out.layer_of.push_back(place[at]);
  out.sheet = std::move(sheet);
  for (std::size_t layer = 0; layer < out.layers.size(); ++layer) {
    std::vector<std::size_t> pieces;
    for (std::size_t i = 0; i < out.layer_of.size(); ++i)
      if (out.layer_of[i] == layer)
        pieces.push_back(i);
    const Material* m = material_of(materials, out.layers[layer].colour);
    const CutTool tool = m != nullptr && out.layers[layer].destination == Destination::Knife ? m->tool : CutTool{};
    std::vector<CutPath> order = ordered_by_hand(out.sheet, cut_order(out.sheet, pieces, tool.seam, stop));
    for (CutPath& path : order) { // from here on lines begin where the knife goes in, and run as it goes
      Contour& line = out.sheet.pieces[path.piece].outline.contours[path.contour];
      line = as_cut(out.sheet, path);
      path.first = 0, path.reversed = false;
      // The inside of a line that runs clockwise on screen lies to its right.
      const bool part_right = (line.area() > 0) == (path.depth % 2 == 0);
      if (line.closed && tool.side != PartSide::Either && part_right != (tool.side == PartSide::Right))
        line = line.reversed(), path.heading = line.segments.front().start_tangent();
      if (path.inside)
        *path.inside += out.order.size();
    }
    out.order.insert(out.order.end(), order.begin(), order.end());
  }
  return out;
}

} // namespace

CutPlan cut_plan(CutSheet sheet, const std::vector<Material>& materials, const PlanChoice& choice,
                 const std::stop_token& stop) {
  std::erase_if(sheet.pieces, [&](const CutPiece& p) {
    const bool goes = p.destination == Destination::Knife ? choice.knife : choice.pen;
    return !goes || p.outline.empty() || (choice.only && p.colour != *choice.only) ||
           std::find(choice.left_out.begin(), choice.left_out.end(), p.colour) != choice.left_out.end();
  });
  std::vector<PlanLayer> known;
  for (const Destination to : {Destination::Knife, Destination::Pen})
    for (const Material& m : materials)
      known.push_back(
          {m.colour, to, (m.name.empty() ? to_hex(m.colour) : m.name) + (to == Destination::Pen ? ", pen" : "")});
  return planned(std::move(sheet), std::move(known), materials, stop);
}

std::vector<CutPlan> split(const CutPlan& plan) {
  std::vector<CutPlan> out;
  std::size_t first = 0; // of the layer's paths
  for (std::size_t layer = 0; layer < plan.layers.size(); ++layer) {
    CutPlan& one = out.emplace_back();
    one.sheet.frame = plan.sheet.frame, one.layers = {plan.layers[layer]};
    std::vector<std::size_t> place(plan.sheet.pieces.size());
    for (std::size_t i = 0; i < plan.sheet.pieces.size(); ++i)
      if (plan.layer_of[i] == layer)
        place[i] = one.sheet.pieces.size(), one.sheet.pieces.push_back(plan.sheet.pieces[i]);
    one.layer_of.assign(one.sheet.pieces.size(), 0);
    std::size_t next = first;
    for (; next < plan.order.size() && plan.layer_of[plan.order[next].piece] == layer; ++next) {
      CutPath& path = one.order.emplace_back(plan.order[next]);
      path.piece = place[path.piece];
      if (path.inside)
        *path.inside -= first;
    }
    first = next;
  }
  return out;
}

} // namespace frelm
