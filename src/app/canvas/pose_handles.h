// Handles of all that is selected, as one: corners that size it, the dot that turns it, the mark that leans outlines.
#pragma once

#include "app/canvas/handles.h"

namespace frelm {

bool of_all_selected(HandleKind kind);
// b: what is selected, with room around it.
void add_corners(const Box& b, std::vector<Handle>& out);
void add_turn(const Box& b, double mm_per_px, std::vector<Handle>& out);
void add_lean(const Box& ink, const Box& b, double mm_per_px, std::vector<Handle>& out);
std::optional<HandleDrag> drag_selected(const Session& session, const Document& start, const Handle& handle, Point from,
                                        const ToolEvent& to, const std::vector<PlacedBox>& others,
                                        std::optional<double> typed);

} // namespace frelm
