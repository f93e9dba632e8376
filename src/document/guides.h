// Guides of a document: shapes that follow other pieces resolved, and what a guide hangs on.
#pragma once

#include "document/document.h"

namespace frelm {

// The line of a guide piece, or of a drawn outline that letters ride on directly (its longest contour). Guides that
// follow an outline or two circles are looked up through the document. Errors: those of guide_line, a piece that is
// gone, a contour or corner that it no longer has, guides that follow each other in a circle.
Result<std::shared_ptr<const GuideLine>> resolve_guide(const Document& document, PieceId id);
// The guide that a bend names, else its private copy. Error: none chosen.
Result<std::shared_ptr<const GuideLine>> guide_of(const Document& document, const GuideRef& ref);
// The piece that it names, if letters can follow it.
const Piece* guide_piece(const Document& document, const GuideRef& ref);

// A contour that is a circle within 0.2 % of its radius.
std::optional<CircleGuide> circle_of(const Contour& contour);
// The circle of a piece: a circle or band guide, or an outline whose longest contour is one.
std::optional<CircleGuide> circle_of(const Piece& piece);

// Letterings whose bend follows this guide or outline.
std::vector<PieceId> riders_of(const Document& document, PieceId guide);
// Guides that follow this piece.
std::vector<PieceId> followers_of(const Document& document, PieceId piece);
// What has to be moved for a guide to move: itself, or the pieces it follows.
std::vector<PieceId> carriers_of(const Document& document, PieceId guide);

// The stretch of an outline that an edge guide follows. Errors: the outline, its line or its corner is gone.
Result<std::shared_ptr<const GuideLine>> follow_outline(const Document& document, const OutlineGuide& edge);

// The guide's shape made independent of other pieces, as it is now: a circle, a midway circle's band, or a pen curve.
Result<GuideShape> own_shape(const Document& document, const GuideShape& shape);
Result<GuideShape> own_shape(const Document& document, PieceId guide);

// The edges of an outline from corner to corner; one entry with no corner for a contour that has none.
struct OutlineEdge {
  OutlineGuide guide;
  Curve curve;
};
std::vector<OutlineEdge> edges_of(PieceId id, const Outline& outline);

} // namespace frelm
