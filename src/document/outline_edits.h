// Editing outlines and guides by their nodes, with what that means for what follows them.
#pragma once

#include "document/document.h"

#include <functional>

namespace frelm {

// Nodes of an outline or a guide; a guide of another kind as the pen curve it would become.
Result<Outline> nodes_of(const Document& document, PieceId id);
// Nodes changed (geom/nodes.h). Guides become pen curves; what a break leaves over becomes a guide of its own; lines
// without length go. What follows a line that is broken or joined keeps the curve it had. Locked pieces and letterings
// stay.
Document edit_nodes(Document document, PieceId id, const std::function<Outline(Outline)>& change);

} // namespace frelm
