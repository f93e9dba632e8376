// Handles of a finish: where each shade falls, and how far the outermost ring of each border lies from the letters.
#pragma once

#include "app/canvas/handles.h"

namespace frelm {

// ink: of the letters.
void add_finish_handles(const Finish& finish, const Box& ink, double mm_per_px, std::vector<Handle>& out);
std::optional<HandleDrag> drag_finish(const Document& start, PieceId id, const Handle& handle, Point from,
                                      const ToolEvent& to);

} // namespace frelm
