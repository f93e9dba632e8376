// What a hand is caught by: nodes, corners, centres, crossings of edges and ruler lines, edges, ruler lines and the
// sheet's own lines near a point.
#pragma once

#include "document/evaluate.h"

namespace frelm {

enum class CatchKind { Node, Corner, Centre, Crossing, Touch, Square, Edge, RulerLine, SheetEdge };
Words catch_name(CatchKind kind); // "corner"

struct Caught {
  CatchKind kind = CatchKind::Node;
  Point at;
  PieceId piece = 0; // 0: the sheet
};

// Whether live letters catch as well: by their nodes and edges, and by the box that their ink covers. They do where one
// measures, not where one draws beside them.
enum class CatchLetters { No, Yes };
struct CatchHow {
  std::vector<PieceId> except = {}; // these don't catch
  CatchLetters letters = CatchLetters::No;
  // Where the line that is drawn begins: places where it touches an edge or stands square to it catch too.
  std::optional<Point> from = {};
};
// The nearest catching place within reach (mm) of p among visible drawn pieces and guides; points win over edges.
std::optional<Caught> catch_at(const Document& document, const DocumentEvaluator& evaluator, Point p, double reach,
                               const CatchHow& how = {});

} // namespace frelm
