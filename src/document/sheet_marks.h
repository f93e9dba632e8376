// What helps after the cut: a box to weed within, lines to weed along, marks that layers are laid on one another by.
//
// mm. All are outlines of their own, cut with what they are for, and can be moved and deleted like any other.
#pragma once

#include "document/evaluate.h"

namespace frelm {

inline constexpr double usual_weeding_margin = 10, usual_mark_size = 10, usual_mark_distance = 12; // mm
inline constexpr double least_weeding_room = 2; // mm between what lies above a weeding line and what lies below

struct Marked {
  Document document;
  std::vector<PieceId> ids; // of what came
};

// A box around what the pieces cut, `margin` away, one for each of their materials. Errors: nothing of them is cut.
Result<Marked> with_weeding_box(const Document& document, const std::vector<PieceId>& ids,
                                const DocumentEvaluator& evaluator, double margin = usual_weeding_margin,
                                const std::stop_token& stop = {});
// Level lines from side to side of what a material's box holds (a piece that lies around all the others of it, else
// what all cover), in the middle of every stretch of height that no cut line reaches into. Errors: nothing is cut;
// there is no such stretch, since letters of one line reach into the next.
Result<Marked> with_weeding_lines(const Document& document, const std::vector<PieceId>& ids,
                                  const DocumentEvaluator& evaluator, double least = least_weeding_room,
                                  const std::stop_token& stop = {});
// Crosses beside the four corners of all that the pieces cut, at the same places for each of their materials. Errors:
// nothing of them is cut.
Result<Marked> with_register_marks(const Document& document, const std::vector<PieceId>& ids,
                                   const DocumentEvaluator& evaluator, double size = usual_mark_size,
                                   double distance = usual_mark_distance, const std::stop_token& stop = {});

} // namespace frelm
