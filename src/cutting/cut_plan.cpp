#include "cutting/cut_plan.h"

#include "cutting/panels.h"

#include <algorithm>

namespace frelm {
namespace {

std::string layer_name(const std::vector<Material>& materials, Colour colour, Destination to) {
  const Material* m = material_of(materials, colour);
  return (m == nullptr || m->name.empty() ? to_hex(colour) : m->name) + (to == Destination::Pen ? ", pen" : "");
}

// What decides where a piece goes: knife or pen, the material's place in the list, or after it as it comes, the panel.
struct LayerKey {
  bool pen = false;
  std::size_t material = 0, panel = 0;
  auto operator<=>(const LayerKey&) const = default;
};

// The layers of what is in the sheet.
CutPlan planned(CutSheet sheet, const std::vector<Material>& materials, const std::stop_token& stop) {
  CutPlan out;
  std::vector<Colour> colours;
  for (const Material& m : materials)
    colours.push_back(m.colour);
  std::vector<LayerKey> keys;
  for (const CutPiece& p : sheet.pieces) {
    const auto it = std::find(colours.begin(), colours.end(), p.colour);
    keys.push_back({p.destination == Destination::Pen, static_cast<std::size_t>(it - colours.begin()), p.panel});
    if (it == colours.end())
      colours.push_back(p.colour);
  }
  std::vector<LayerKey> layers = keys;
  std::sort(layers.begin(), layers.end());
  layers.erase(std::unique(layers.begin(), layers.end()), layers.end());
  std::vector<std::size_t> panels(colours.size(), 0);
  for (std::size_t i = 0; i < keys.size(); ++i)
    panels[keys[i].material] = std::max(panels[keys[i].material], sheet.pieces[i].panels);
  for (const LayerKey& k : layers) {
    const Destination to = k.pen ? Destination::Pen : Destination::Knife;
    std::string name = layer_name(materials, colours[k.material], to);
    if (k.panel > 0)
      name += ", panel " + std::to_string(k.panel) + " of " + std::to_string(panels[k.material]);
    out.layers.push_back({colours[k.material], to, std::move(name), k.panel, k.panel > 0 ? panels[k.material] : 0});
  }
  for (const LayerKey& k : keys)
    out.layer_of.push_back(
        static_cast<std::size_t>(std::lower_bound(layers.begin(), layers.end(), k) - layers.begin()));
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
  return planned(std::move(sheet), materials, stop);
}

Result<CutPlan> job_plan(const Document& document, const DocumentEvaluator& evaluator, const PlanChoice& choice,
                         const std::stop_token& stop, const std::function<void(double)>& progress) {
  Result<CutSheet> sheet = cut_sheet(document, evaluator, stop, SheetSide::Cut, progress);
  if (!sheet)
    return sheet.error();
  // Before anything is left out, so that knife and pen get the same panels.
  if (const Result<Done> parted = part_in_panels(*sheet, document.materials, choice.panel, stop); !parted)
    return parted.error();
  CutPlan plan = cut_plan(std::move(*sheet), document.materials, choice, stop);
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  return plan;
}

std::vector<std::size_t> tools_of(const CutPlan& plan) {
  std::vector<std::size_t> out;
  std::vector<std::pair<Colour, Destination>> tools;
  for (const PlanLayer& l : plan.layers) {
    const auto it = std::find(tools.begin(), tools.end(), std::pair(l.colour, l.destination));
    out.push_back(static_cast<std::size_t>(it - tools.begin()));
    if (it == tools.end())
      tools.emplace_back(l.colour, l.destination);
  }
  return out;
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
