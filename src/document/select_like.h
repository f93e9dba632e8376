// Pieces like those that are selected.
#pragma once

#include "document/document.h"

namespace frelm {

enum class Like { Colour, Destination, Kind };
// Visible, unlocked pieces that share it with any of these, which are among them; in drawing order. Guides of one
// shape, letterings, outlines are kinds.
std::vector<PieceId> pieces_like(const Document& document, const std::vector<PieceId>& ids, Like like);

} // namespace frelm
