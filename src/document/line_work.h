// What is drawn on a sheet taken as lines: stretches snipped out of them, and the spaces they enclose taken as pieces.
//
// Lines are the outlines and guides that show, the outlines of letters with all their layers, and the sheet's edges.
// Only outlines and guides can be snipped, as they are drawn, before their finish; letters and locked pieces bound what
// lies between them. Bounds: geom/arrangement, geom/spaces.
#pragma once

#include "document/evaluate.h"
#include "geom/spaces.h"

namespace frelm {

struct LineWork {
  std::vector<PieceId> owners; // of the outlines that were arranged; 0: the sheet's edges
  Spaces spaces;
};

// Pieces that can't be worked out are left out. Errors: those of geom/spaces, Cancelled.
Result<LineWork> line_work(const Document& document, const DocumentEvaluator& evaluator, double bridged,
                           std::stop_token stop = {});

// The piece whose line it is; null: the sheet's edge.
const Piece* owner_of(const Document& document, const LineWork& work, const ArrangedStretch& stretch);
// Why its lines can't be snipped; empty: they can.
Said why_not_snip(const Document& document, const LineWork& work, const ArrangedStretch& stretch);

// Without these stretches of `work`, which was made of this very document. What a guide falls into are guides; a piece
// that nothing is left of goes. Errors: why_not_snip of one of them, none given.
Result<Document> snipped(const Document& document, const LineWork& work, const std::vector<ArrangedStretch>& stretches);

// The spaces united as a new piece in front; into: an outline that they are added to instead. Errors: no space given,
// those of the union.
struct SpaceTaken {
  Document document;
  PieceId piece = 0;
};
Result<SpaceTaken> take_space(const Document& document, const std::vector<Outline>& spaces, PieceId into = 0);

} // namespace frelm
