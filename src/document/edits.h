// Edits: functions Document → Document that add, change and take away pieces. Moves and scalings: document/arrange.h;
// nodes: document/outline_edits.h.
#pragma once

#include "document/guides.h"

#include <functional>

namespace frelm {

struct Added {
  Document document;
  PieceId id = 0;
};
// In front of all others, under a fresh id.
Added add_piece(Document document, Piece piece);
// The piece changed by `change`; nothing when there is no such piece.
Document edit_piece(Document document, PieceId id, const std::function<void(Piece&)>& change);

// The pieces that a block is made from.
std::vector<PieceId> sources_of(const Document& document, PieceId id);

// Hidden sources that only removed blocks were made from go along; what others follow stays theirs (following.h).
struct Removed {
  Document document;
  std::vector<Piece> guides; // guides that letters rode on; each rider now has a private copy
  std::vector<PieceId> riders;
};
Removed remove_pieces(Document document, const std::vector<PieceId>& ids);
// Puts a removed guide back under its old id, and its riders on it.
Document bring_back_guide(Document document, const Piece& guide);
// The letterings set straight, each about the middle of its ink so far.
Document straighten(Document document, const std::vector<PieceId>& ids,
                    const std::function<Point(PieceId)>& ink_centre);

// The piece moved to another place in the drawing order; index counts from the back.
Document reorder_piece(Document document, PieceId id, std::size_t index);

// A fresh document's first lettering and guide, so that every way in makes the same ones.
Piece new_lettering(Document& document, const std::u32string& text, Point at);
Piece new_circle(Point centre, double radius);
// Plates and ribbons are drawn to be cut, whatever is asked for.
enum class GuideUse { Guide, Shape };
Piece new_guide(GuideShape shape, GuideUse use = GuideUse::Guide);
bool always_shape(std::size_t kind); // an index of GuideShape

// The lettering put on a guide, at a place that makes sense there: centred on closed and open ones, from the start on
// spirals.
void ride_on(Lettering& lettering, PieceId guide, const GuideLine& line);
// The tops to the other side; a run centred by percent stays where it is.
void turn_tops(Lettering& lettering, Tops tops);

// A letter moved by hand, or put back where the tweak is idle.
Document set_tweak(Document document, PieceId lettering, const LetterTweak& tweak);

} // namespace frelm
