// Drawings into the job: dropped, pasted, chosen; and taken once more otherwise. Work beside the window, one step each.
#pragma once

#include "app/menus/desk.h"
#include "app/session/opening.h"

namespace frelm {

// Beside each other about a point, or where their pages say.
void add_drawings(Desk& desk, std::vector<DrawingSource> drawings, std::optional<Point> centre);
void choose_drawings(Desk& desk);
void resize_drawing(Desk& desk, const Arrival& arrival, double size);
// With strokes up to another width as lines; `done` gets what came.
void take_drawing_again(Desk& desk, const Arrival& arrival, const TakeAs& as,
                        const std::function<void(std::optional<Arrival>)>& done);
QString drawing_patterns(); // "*.svg *.dxf", for dialogs

} // namespace frelm
