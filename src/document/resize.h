// Finished size: the letter size that gives a lettering's ink a wanted width or height.
#pragma once

#include "document/arrange.h"
#include "document/edits.h"
#include "document/evaluate.h"

namespace frelm {

enum class InkSide { Width, Height };

struct SizeEffort {
  double within = 0.0002; // mm
  // Letters are measured as the face sets them, which is quick, and taken to be as much longer or shorter evened as
  // they are now: near enough while the hand moves.
  bool roughly = false;
};

// The document with the piece scaled so that its ink measures `target` mm. Letterings: the letter
// size (spacing and offset in proportion) is solved for, on the guide as it is or scaled along; other pieces are
// scaled about the top left of their ink. Errors: target not more than 0, nothing inked, a size that this guide
// cannot give.
Result<Document> with_ink_size(const Document& document, PieceId id, InkSide side, double target, GuideScaling guide,
                               const DocumentEvaluator& evaluator, const SizeEffort& effort = {});

// The document with the letters spread (Spacing, over a length) so that their ink measures `target` mm across; their
// size stays, and straight ones keep their middle. Errors: what has no two letters, is set downwards or locked; a width
// that they can't reach: they would stand too close, or the line they ride on turns back.
Result<Document> with_spread_width(const Document& document, PieceId id, double target,
                                   const DocumentEvaluator& evaluator);

} // namespace frelm
