// Linked copies: the same thing in several places. Change one and all follow, in letters, shape, finish, colour and
// destination; place, turn, size, name, lock, eye and group are each copy's own.
//
// Each says what it is a copy of, what was copied together with it, and its pose (Piece::link). What moves, turns,
// sizes or mirrors a piece (arrange.h) changes the pose with it; whatever else changes a piece changes the thing
// itself. Two copies under the inverses of their poses are equal within 1e-9 of their size.
#pragma once

#include "document/document.h"

namespace frelm {

// `after` is `before` with some edits: of every thing that one of its copies was changed in, the others are made anew
// from that one, each under its own pose; a guide that it rides on from now on gets copies too. Of several that were
// changed the one furthest behind decides. What can't be a copy any more (it became something else, or what it is made
// from is gone) and what is the last of its kind is freed. Bound: copies times the size of what was changed.
Document followed_links(const Document& before, Document after);

// The pieces as things that can be copied: those that are none yet become the first copy of one.
Document with_links(Document document, const std::vector<PieceId>& ids);
// These with the guides that they ride on and what they are made from are copies no more.
Document freed_links(Document document, const std::vector<PieceId>& ids);
// All copies of what these are copies of, in drawing order, with these.
std::vector<PieceId> linked_with(const Document& document, const std::vector<PieceId>& ids);
// How many there are of a piece, with itself; 1: it is linked to none.
std::size_t copies_of(const Document& document, const Piece& piece);

} // namespace frelm
