// Pieces placed by each other: lined up, spread, made as wide or as high, set into a shape. Each is measured as it
// stands: by the ink of its letters or outline, by the capitals (letterings: from baseline to cap line, across by ink),
// by the middle of its area, or (drawn shapes) by where there is most room in it. What rides on a guide moves with it;
// pieces that can only move together count as one, and so do groups that are whole among the pieces (of a single group,
// what it is made of).
#pragma once

#include "document/evaluate.h"

namespace frelm {

enum class PlaceBy { Ink, Capitals, Area, Room }; // Room: by the middle of the largest circle in its area
// What stays: the last of the pieces, their common box, the sheet.
enum class PlaceTo { Last, Together, Sheet };
enum class LineUp { Left, Middle, Right, Top, Centre, Bottom };
enum class Spread { Across, Down };
enum class AsLarge { Width, Height, Capitals, Spread }; // Spread: as wide, by the room between the letters

struct PlaceChoice {
  PlaceBy by = PlaceBy::Ink;
  PlaceTo to = PlaceTo::Last;
  double margin = 10; // mm, of what is made as large as a shape lets it
  bool operator==(const PlaceChoice&) const = default;
};

// mm: what a piece is placed by; by area and by room a box without size. Errors: those of the evaluator; nothing to
// measure.
Result<Box> placing_box(const Document& document, PieceId id, PlaceBy by, const DocumentEvaluator& evaluator);

// Locked pieces stay, and can be the last. Errors: fewer pieces than that takes (two; one for the sheet; three to
// spread them between their outermost), those of placing_box.
Result<Document> lined_up(const Document& document, const std::vector<PieceId>& ids, LineUp side,
                          const PlaceChoice& choice, const DocumentEvaluator& evaluator);
// The middle of each on the middle of what stays, both ways.
Result<Document> centred(const Document& document, const std::vector<PieceId>& ids, const PlaceChoice& choice,
                         const DocumentEvaluator& evaluator);
// Equal gaps between neighbours (by area: equal steps); the outermost two stay. With PlaceTo::Sheet the gaps to its
// edges are as large as those between.
Result<Document> spread(const Document& document, const std::vector<PieceId>& ids, Spread way,
                        const PlaceChoice& choice, const DocumentEvaluator& evaluator);
// The others as large as the last, each about its own middle; letterings by their letters' size, on their guides as
// these are. Capitals and Spread: letterings only. Errors: also those of with_ink_size and with_spread_width.
Result<Document> as_large(const Document& document, const std::vector<PieceId>& ids, AsLarge what,
                          const DocumentEvaluator& evaluator);
// The others, as they stand to each other, in the shape picked last (an outline, letters, a closed guide): where the
// least margin to its edge is the greatest, in the middle of the room that is left (geom/even_margins). Largest: also
// grown or shrunk, with the guides that they ride on, until the least margin is choice.margin within 0.01 mm.
// Errors: fewer than two that can move by themselves; a shape without an area; no room; locked;
// Cancelled.
enum class IntoShape { AsLargeAsItIs, Largest };
Result<Document> set_into(const Document& document, const std::vector<PieceId>& ids, IntoShape how,
                          const PlaceChoice& choice, const DocumentEvaluator& evaluator,
                          const std::stop_token& stop = {});

} // namespace frelm
