// A word tied into a frame (geom/tie_in), as pieces: where it could stand, the live word put there, and both made one.
#pragma once

#include "document/evaluate.h"
#include "geom/tie_in.h"

namespace frelm {

struct WordInFrame {
  PieceId word = 0, frame = 0;
  bool operator==(const WordInFrame&) const = default;
};
// Of two pieces the frame is the one with an inside; where both have one, that with the larger extent. Errors: not two
// pieces, none with an inside, those of the evaluator.
Result<WordInFrame> word_and_frame(const Document& document, const std::vector<PieceId>& ids,
                                   const DocumentEvaluator& evaluator, std::stop_token stop = {});
// Errors: those of tie_in, and of the evaluator.
Result<TieInFound> find_tie_in(const Document& document, const WordInFrame& pair, const TieInWish& wish,
                               const DocumentEvaluator& evaluator, std::stop_token stop = {},
                               const std::function<void(double)>& progress = {});
// The word stands there, as live as it was; what it rides on comes along, and the measures of its finish. Errors: a
// piece that is gone or locked, those of the evaluator.
Result<Document> tied_in(const Document& document, const WordInFrame& pair, const TiedIn& answer,
                         const DocumentEvaluator& evaluator);
// Both as one outline; what was apart in the word is tied by a step of its finish, `width` mm wide.
struct OnePiece {
  Document document;
  PieceId piece = 0;
  std::size_t parts = 0, ties = 0;
};
Result<OnePiece> made_one(const Document& document, const WordInFrame& pair, double width,
                          const DocumentEvaluator& evaluator, std::stop_token stop = {});

} // namespace frelm
