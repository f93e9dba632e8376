// Dimension marks: measured distances that stay. An end that was caught by a piece follows it, by its share of the box
// that the piece's ink covers; other ends stay where they are. Marks are seen on the sheet and on the proof, and never
// cut; a mark goes with the piece that it measures.
#pragma once

#include "document/evaluate.h"
#include "document/known_length.h"

#include <optional>

namespace frelm {

inline constexpr double mark_beside = 8; // mm from what is measured to its line, to begin with

// The mark of a measured line: its ends belong to the pieces that catch there (or whose ink has an edge there).
DimensionMark mark_of(const Document& document, const MeasuredLine& line, const DocumentEvaluator& evaluator);

// Where it stands, mm on the sheet. The line runs beside what it measures, to its left looking from `from` to `to` for
// beside > 0.
struct MarkDrawn {
  Point from, to;           // what is measured
  Point line_from, line_to; // the line with its ends
  Point middle;             // for the number
  double length = 0;        // mm
  double angle = 0;         // degrees clockwise, -90 < angle <= 90: of the number, never upside down
};
// Nothing: what it measures can't be set now, or has no length.
std::optional<MarkDrawn> drawn(const Document& document, const DimensionMark& mark, const DocumentEvaluator& evaluator);

// The place among the document's of the mark whose line is nearest to p within reach, mm.
std::optional<std::size_t> mark_at(const Document& document, Point p, double reach, const DocumentEvaluator& evaluator);
// How far beside what it measures the line runs through p.
double beside_through(const MarkDrawn& mark, Point p);

// What a piece measures: mm along all of its outline, mm² that it covers (0 for lines, and where that takes long).
struct PieceMeasures {
  double length = 0, area = 0;
};
PieceMeasures measures_of(const PieceResult& piece);
// The least distance between two, mm; 0 where they touch or overlap. Nothing: one of them has no outline, or it takes
// long.
std::optional<double> gap_between(const PieceResult& a, const PieceResult& b);

// Straight across a stroke at a place in it: from the nearest edge through the place to the other side. Nothing: the
// place is in no piece's area. Within 1e-6 mm on both edges.
std::optional<MeasuredLine> across_stroke(const Document& document, const DocumentEvaluator& evaluator, Point at);

// Along the edge that both ends of a line lie on: the shorter way and, where it is closed, the other one. Nothing: they
// lie on none together. Within 1e-6 of the lengths.
struct AlongCurve {
  double length = 0; // mm
  std::optional<double> other_way;
};
std::optional<AlongCurve> along_curve(const Document& document, const DocumentEvaluator& evaluator,
                                      const MeasuredLine& line);

// The line made so long by moving what it ends on: the selected pieces, else the one that its end belongs to. Errors: a
// line without length, a length less than 0, an end on nothing, what is locked.
Result<Document> moved_to_measure(const Document& document, const std::vector<PieceId>& selection,
                                  const MeasuredLine& line, double length, const DocumentEvaluator& evaluator);

Document without_mark(Document document, std::size_t at);
// Marks of pieces that are gone go.
Document without_lost_marks(Document document);

} // namespace frelm
