// Letters put onto lines: what a lettering can do with the guides and outlines that are selected with it.
#pragma once

#include "document/evaluate.h"

namespace frelm {

// One lettering and lines; nothing where the pieces are anything else, or more than three. open, closed: those lines
// that letters can follow, in drawing order.
struct LetteringWithLines {
  PieceId lettering = 0;
  std::vector<PieceId> open, closed;
};
std::optional<LetteringWithLines> lettering_with_lines(const Document& document, const std::vector<PieceId>& ids,
                                                       const DocumentEvaluator& evaluator);

// The bend of letters set to a line where `near` (mm on the sheet) is nearest to it; below the middle of a closed line
// their tops go inward, so that they are read from the same side.
void ride_near(Lettering& lettering, PieceId line_id, const GuideLine& line, Point near);

// The lettering rides on the line: near a place, or where its bend says. Errors: no lettering of letters, locked, a
// line that nothing can follow.
Result<Document> ridden(const Document& document, PieceId lettering, PieceId line, const DocumentEvaluator& evaluator,
                        std::optional<Point> near = {});

// The lettering stands between two open lines as its edges; the one whose middle is higher is the top edge. Errors: as
// above, and those of begin_warp.
Result<Document> set_between(const Document& document, PieceId lettering, PieceId one, PieceId other,
                             const DocumentEvaluator& evaluator);

// The lettering fills a closed line. Errors: as for ridden, an open line.
Result<Document> set_into(const Document& document, PieceId lettering, PieceId shape,
                          const DocumentEvaluator& evaluator);

} // namespace frelm
