// Copies in order: by a step, in rows and columns, around a circle, along a line. What letters ride on comes along with
// each, so that they stand by themselves. Copies are free, or linked (links.h).
#pragma once

#include "document/arrange.h"
#include "document/evaluate.h"
#include "geom/placing.h"

#include <variant>

namespace frelm {

inline constexpr std::size_t most_copies = 5'000; // pieces that come of it

struct StepCopies {
  std::size_t count = 3; // besides what is there
  Vec step{50, 0};       // mm from one to the next
  double turn = 0;       // degrees from one to the next, clockwise, each about its own middle
  bool operator==(const StepCopies&) const = default;
};
struct GridCopies {
  std::size_t columns = 3, rows = 2; // with what is there, which is the upper left one
  Vec gap{10, 10};                   // mm between what they cover
  bool operator==(const GridCopies&) const = default;
};
// About the middle of the sheet, or of the piece picked last, which is not copied itself.
struct RingCopies {
  std::size_t count = 6; // with what is there
  double sweep = 360;    // degrees; of all around the last one is a step short of it
  bool upright = false;  // else they turn with their place
  bool about_last = false;
  bool operator==(const RingCopies&) const = default;
};
// Evenly along the guide or the outline picked last, which is not copied itself, with their middles on it: on an open
// line from end to end, on a closed one from its start on. What is there stays besides.
struct AlongCopies {
  std::size_t count = 8;
  bool upright = false; // else they turn with the line; where it goes to the right they stand as they are
  bool operator==(const AlongCopies&) const = default;
};
// On the whole sheet so that little is wasted (geom/placing), what is there as well; it takes a while.
struct NestedCopies {
  std::size_t count = 6;         // with what is there
  double apart = 5, margin = 10; // mm
  MayTurn turn = MayTurn::Quarter;
  bool operator==(const NestedCopies&) const = default;
};
using CopyOrder = std::variant<StepCopies, GridCopies, RingCopies, AlongCopies, NestedCopies>;

enum class CopyAs { Free, Linked };
struct Copied {
  Document document;
  std::vector<PieceId> ids; // of the pieces that are there now, first the ones that were; without their guides
};
// Where they would stand, for the screen: letters and outlines as they are seated now, moved and turned as a whole. Of
// more than can be shown at once, the first ones; none of nested ones, which take a while. Errors: those of copied.
Result<Outline> copies_shown(const Document& document, const std::vector<PieceId>& ids, const CopyOrder& order,
                             const DocumentEvaluator& evaluator);
// Errors: nothing to copy, nothing to measure, no line picked last, more than `most_copies`, more than the sheet has
// room for, Cancelled.
Result<Copied> copied(const Document& document, const std::vector<PieceId>& ids, const CopyOrder& order,
                      const DocumentEvaluator& evaluator, CopyAs as = CopyAs::Free, const std::stop_token& stop = {});

// A copy of each in front, with what its letters ride on, and the change done to the copies alone; `ids` are the
// copies. The document as it was where the change can do nothing to them (they are locked).
Copied copied_and_changed(const Document& document, const std::vector<PieceId>& ids, const Change& change,
                          const Box& ink);

// The pieces as they are now, put aside beside the sheet, under what was put there before; they go to no knife. What
// letters ride on comes along. Errors: nothing to measure.
Result<Copied> parked(const Document& document, const std::vector<PieceId>& ids, const DocumentEvaluator& evaluator);

} // namespace frelm
