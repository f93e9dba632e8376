// Gaps changed by hand: what the Gap strip, the keyboard and the Spacing card do to pairs of letters.
//
// mm on the sheet. A pair is named by the ids of its letters' first characters, so that it stays the same pair on any
// bend and at any size; corrections are kept in cap heights (lettering/recipe.h, PairTweak).
#pragma once

#include "document/evaluate.h"
#include "lettering/gaps.h"

namespace frelm {

struct PairId {
  std::uint64_t left = 0, right = 0;
  auto operator<=>(const PairId&) const = default;
};

// Nothing: one of the two was not typed (a repeat's separator), or the gap is a seam.
std::optional<PairId> pair_of(const Recipe& recipe, const SeatedText& text, const Gap& gap);
// The pairs of the run as it stands, left to right, each once.
std::vector<PairId> pairs_of(const Recipe& recipe, const SeatedText& text);

// Each of the pairs wider by so much (less than 0: tighter).
Document widened(const Document& document, PieceId lettering, const std::vector<PairId>& pairs, double by,
                 const DocumentEvaluator& evaluator);
// Each of the pairs with this closest distance, within 0.002 mm where letters can be moved that way. Errors: the
// lettering can't be set, a distance less than 0, no such pair; Cancelled. Work: a few evaluations of the lettering.
Result<Document> with_gaps(const Document& document, PieceId lettering, const std::vector<PairId>& pairs,
                           double distance, const DocumentEvaluator& evaluator, const Effort& effort = {});
Document gaps_reset(const Document& document, PieceId lettering, const std::vector<PairId>& pairs);
Document all_gaps_reset(const Document& document, PieceId lettering);

// For lists: the two letters as typed, what the hand added, and whether they stand side by side now.
struct HandCorrection {
  PairId pair;
  std::u32string letters; // "Ta"; with a space between where words meet
  double by = 0;          // mm
  bool in_force = false;
};
std::vector<HandCorrection> hand_corrections(const Recipe& recipe, const SeatedText& text);

} // namespace frelm
