// A word tied into a frame (geom/tie_in), as pieces: where it could stand, the live word put there, and both made one.
#pragma once

#include "document/evaluate.h"
#include "geom/tie_in.h"

namespace frelm {

struct WordInFrame {
  PieceId word = 0, frame = 0;
  bool operator==(const WordInFrame&) const = default;
};
// Where two pieces hold together, in all that is cut of them. Errors: pieces that are gone, those of geom/contacts and
// of the evaluator.
Result<std::vector<Contact>> contacts_between(const Document& document, PieceId a, PieceId b,
                                              const DocumentEvaluator& evaluator, std::stop_token stop = {});
// Of two pieces the frame is the one with an inside; where both have one, that with the larger extent.
struct FoundInFrame {
  WordInFrame pair;
  TieInFound found;
};
// Errors: not two pieces, none with an inside, those of tie_in and of the evaluator.
Result<FoundInFrame> find_tie_in(const Document& document, const std::vector<PieceId>& ids, const TieInWish& wish,
                                 const DocumentEvaluator& evaluator, std::stop_token stop = {},
                                 const std::function<void(double)>& progress = {});
// The word stands there, as live as it was; what it rides on comes along, and the measures of its finish (but those of
// a linked copy, which has them together with others). Errors: a piece that is gone or locked.
Result<Document> tied_in(const Document& document, PieceId word, const TiedIn& answer);
// Both as one outline; what was apart in the word is tied by a step of its finish, `width` mm wide.
struct OnePiece {
  Document document;
  PieceId piece = 0;
  std::size_t parts = 0;
};
Result<OnePiece> made_one(const Document& document, const WordInFrame& pair, double width,
                          const DocumentEvaluator& evaluator, std::stop_token stop = {});

} // namespace frelm
