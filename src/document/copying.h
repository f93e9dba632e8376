// Copies: a sub-document with all that its pieces need, and its way into a document, the same one or another.
#pragma once

#include "document/piece_groups.h"

namespace frelm {

// The pieces with the hidden sources they are made from and, with CopyGuides::Along, the guides their letters ride on;
// what they follow besides becomes their own. In drawing order, under the ids they have.
enum class CopyGuides { Along, Stay };
Document sub_document(const Document& document, const std::vector<PieceId>& ids, CopyGuides guides);

// The pieces of `part` in front of the others, moved by `by`, with new ids for all that has one: pieces, letters,
// releases and what these put aside. Names inside the part go on meaning the same; those of other pieces are kept in
// the same job and forgotten in another. Groups and carried faces come along.
// Links (links.h) are kept where they are asked for in the same job, in new companies; else the copies are free.
enum class CopyLinks { Freed, Kept };
struct Inserted {
  Document document;
  std::vector<PieceId> ids; // in the part's order
};
Inserted insert_part(Document document, const Document& part, CopyInto into, Vec by,
                     CopyLinks links = CopyLinks::Freed);

// Copies in front, moved by `by`; letterings keep riding on their guide unless that is copied too.
Inserted duplicate_pieces(const Document& document, const std::vector<PieceId>& ids, Vec by);

} // namespace frelm
