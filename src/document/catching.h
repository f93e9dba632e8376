// What a hand is caught by: nodes, corners, centres, crossings of edges and ruler lines, edges, ruler lines and the
// sheet's own lines near a point.
#pragma once

#include "document/evaluate.h"

namespace frelm {

enum class CatchKind { Node, Corner, Centre, Crossing, Edge, RulerLine, SheetEdge };
Words catch_name(CatchKind kind); // "corner"

struct Caught {
  CatchKind kind = CatchKind::Node;
  Point at;
  PieceId piece = 0; // 0: the sheet
};

// Whether live letters catch as well: by their nodes and edges, and by the box that their ink covers. They do where one
// measures, not where one draws beside them.
enum class CatchLetters { No, Yes };
// The nearest catching place within reach (mm) of p among visible drawn pieces and guides; points win over edges.
// Pieces named in `except` don't catch.
std::optional<Caught> catch_at(const Document& document, const DocumentEvaluator& evaluator, Point p, double reach,
                               const std::vector<PieceId>& except = {}, CatchLetters letters = CatchLetters::No);

} // namespace frelm
