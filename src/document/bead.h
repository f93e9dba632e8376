// The bead: the place of a run along its guide, and the places that catch it while it is slid.
#pragma once

#include "document/edits.h"
#include "document/evaluate.h"

namespace frelm {

struct Bead {
  std::shared_ptr<const Curve> guide; // in reading direction
  double s = 0;                       // mm along it
  Point at;
  Vec up; // unit, the side of the tops
};
// Errors: not on a guide, those of the guide.
Result<Bead> bead_of(const Document& document, PieceId lettering, const DocumentEvaluator& evaluator);
// The run slid so that its bead is at s; the way its place is measured stays.
Document slide_bead(const Document& document, PieceId lettering, const DocumentEvaluator& evaluator, double s);

struct BeadCatch {
  double s = 0;
  std::string name; // "quarter", "corner", "node", "middle", "end", "level"
};
// Likeliest first; without the place where the run is level, which takes time to find. Bounded work.
std::vector<BeadCatch> bead_catches(const Document& document, PieceId lettering, const DocumentEvaluator& evaluator);
// Where the bead is when the run is level. Errors: those of leveled; the guide would have to change.
Result<BeadCatch> level_catch(const Document& document, PieceId lettering, const DocumentEvaluator& evaluator,
                              std::stop_token stop = {});

} // namespace frelm
