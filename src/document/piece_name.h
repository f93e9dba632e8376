// What pieces are called.
#pragma once

#include "document/document.h"
#include "geom/said.h"

namespace frelm {

// The name a piece goes by in lists: the text as lettered, or the guide's kind and measure.
Said piece_name(const Piece& piece, Unit unit);
Said piece_name(const Document& document, const Piece& piece);
std::string display_name(const Piece& piece, Unit unit); // the same in English
// Within its document: a guide that follows an outline by that outline's name.
std::string display_name(const Document& document, const Piece& piece);

} // namespace frelm
