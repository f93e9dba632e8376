// Handles of a finish: where each shade falls, how far the outermost ring of each border lies from the letters, and
// where on the edge each tab stands; every tie.
#pragma once

#include "app/canvas/handles.h"

namespace frelm {

// ink: of the letters.
void add_finish_handles(const Session& session, const Piece& piece, const Box& ink, double mm_per_px,
                        std::vector<Handle>& out);
std::optional<HandleDrag> drag_finish(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                      Point from, const ToolEvent& to);

} // namespace frelm
