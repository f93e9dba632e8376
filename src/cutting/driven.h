// A plan as the machine moves: what is lost along the line taken into account, ways in and out, passes, the beginning
// cut over once more, the blade's tip dragged behind.
//
// mm. The outcome is a plan again, whose contours are open lines that the tool's axis runs along while it is down; all
// writers take it. Materials whose tool follows the line and what the pen draws stay as they are. Half the kerf lies
// outside of what stays (geom/offset, within 0.01 mm): outside of a line that an even number of others lies around,
// else inside. A blade is first put down pointing to the right, and later as it was lifted.
#pragma once

#include "cutting/cut_plan.h"

namespace frelm {

struct DrivenPlan {
  CutPlan plan;
  std::vector<std::size_t> of;           // for each path, the one of the given plan
  std::vector<Vec> heading;              // for each path, where the blade points when it is put down; unit
  std::vector<std::size_t> gone;         // paths of the given plan within which the kerf has no room
  std::vector<std::size_t> without_lead; // paths for whose lead there was no room at any of their places
};
// Errors: those of offset, Cancelled.
Result<DrivenPlan> driven(const CutPlan& plan, const std::vector<Material>& materials,
                          const std::stop_token& stop = {});

// From a job: as its lines are drawn, and as the machines move over them. Errors: those of cut_sheet and driven.
struct JobDriven {
  CutPlan lines;
  DrivenPlan drive; // of these
};
Result<JobDriven> job_driven(const Document& document, const DocumentEvaluator& evaluator, const PlanChoice& choice,
                             const std::stop_token& stop = {});

} // namespace frelm
