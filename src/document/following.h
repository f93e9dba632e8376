// What follows what, and the one way anything loses what it follows.
//
// Letterings follow guides and outlines, guides follow outlines and circles, blocks are made from hidden pieces, and
// what a release put aside follows as its lettering did. Any edit may take away, or change the kind of, what another
// piece follows; `detached` then leaves each follower just where it was.
#pragma once

#include "document/document.h"

namespace frelm {

// `after` is `before` with some pieces gone or become something else. Whatever in `after` names a piece that it can't
// follow there any more gets what it followed in `before` as its own: riders a private copy of the guide's shape,
// guides their shape (a midway circle its band, so that fitted heights stay), blocks a hidden copy of the source.
// Pieces that were broken before stay as they are.
Document detached(const Document& before, Document after);

// The hidden pieces among the sources of these blocks (and of blocks among them) that no other piece is made from.
std::vector<PieceId> sources_only_of(const Document& document, const std::vector<PieceId>& ids);

} // namespace frelm
