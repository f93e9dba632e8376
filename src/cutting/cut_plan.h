// What leaves: the layers of a cut sheet, one for each material and destination, and the order their contours are cut
// in. All writers take it.
#pragma once

#include "cutting/cut_order.h"

namespace frelm {

struct PlanLayer {
  Colour colour;
  Destination destination = Destination::Knife;
  // Of the material, else of the colour ("#9b2f45"); with ", pen" for what is drawn, ", panel 2 of 3" for a panel.
  std::string name;
  std::size_t panel = 0, panels = 0; // 0: not in panels
};

struct CutPlan {
  CutSheet sheet; // what was chosen of it, its lines begun as they are cut
  std::vector<PlanLayer> layers;
  std::vector<std::size_t> layer_of; // of each piece of the sheet
  std::vector<CutPath> order;        // layer after layer; `inside` by places in all of it
};

struct PlanChoice {
  std::optional<Colour> only;   // one material
  std::vector<Colour> left_out; // materials that stay
  bool knife = true, pen = true;
  std::size_t panel = 0; // only this one of the panels that work is cut in; 0: all of it
};

// Layers in the order of the materials, then as they come; the knife's before the pen's. Lines begin where the knife
// goes in. Stopped: an order by nesting alone.
CutPlan cut_plan(CutSheet sheet, const std::vector<Material>& materials, const PlanChoice& choice = {},
                 const std::stop_token& stop = {});
// The whole way from a job: its cut sheet, larger work in panels (cutting/panels). Errors: those of both, Cancelled.
Result<CutPlan> job_plan(const Document& document, const DocumentEvaluator& evaluator, const PlanChoice& choice,
                         const std::stop_token& stop = {}, const std::function<void(double)>& progress = {});
// For each layer its tool, from 0 on: panels of one material and destination have the same, others have others.
std::vector<std::size_t> tools_of(const CutPlan& plan);
// One plan a layer, each with the whole frame.
std::vector<CutPlan> split(const CutPlan& plan);

} // namespace frelm
