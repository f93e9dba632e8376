// Blocks of a document: how a piece begins to be warped, and what it is warped from.
#pragma once

#include "document/evaluate.h"

namespace frelm {

// The bend of a piece changed to Rails or Net, or back to Straight from these. Rails keep the block where its ink
// stands; a net starts over the bend as it is and changes nothing. A drawn outline becomes a block of its own outline
// (a Lettering of OutlineSource); one that came from a lettering stays as the hidden source of a new piece, so that it
// can still be reopened. Errors: no such piece, a guide, locked.
struct Together {
  Document document;
  PieceId id = 0;
};
Result<Together> begin_warp(const Document& document, PieceId id, BendKind kind, const DocumentEvaluator& evaluator);

// Several pieces as one block, to be bent together: in front of them, which stay as its hidden sources. Errors: fewer
// than two pieces that have outlines.
Result<Together> bend_together(const Document& document, const std::vector<PieceId>& ids, BendKind kind);

// Several pieces as one with a finish of its own: a ring around all of them, a shade of all. Each keeps its layers and
// colours as long as no step changes the letters (weld, fewer nodes, round corners). Guides count as shapes where they
// are cut. Errors: fewer than two pieces.
bool can_be_finished_together(const Piece& piece);
Result<Together> finish_together(const Document& document, const std::vector<PieceId>& ids);

// A block made from pieces goes, and they show again, moved as it was. Errors: not made from pieces, turned.
struct TakenApart {
  Document document;
  std::vector<PieceId> pieces;
};
Result<TakenApart> take_apart(const Document& document, PieceId block);

// Why a changed bend is not to be had: its letters fold over, with the place, or can't be set any more, and did neither
// before. Nothing: it is good.
std::optional<Error> warp_refusal(const Document& before, const Document& after, PieceId id,
                                  const DocumentEvaluator& evaluator);

// A closed line as the shape that a lettering fills; corners are found anew. A block that begins to fill shapes fills
// one with pointed ends upright, others smoothly.
Document fill_into(const Document& document, PieceId id, PieceId shape);

} // namespace frelm
