// Drawings of nothing but lines (DXF, HP-GL) as shapes: doubles dropped and counted, ends that meet joined, closed ones
// put together with their holes (geom/clean_lines).
#pragma once

#include "formats/drawing.h"

namespace frelm {

// Lines of one look, added to a drawing and its frame.
void add_lines(Drawing& drawing, LeftOutList& left_out, std::vector<Contour> lines, const std::string& id,
               Colour colour, Clean clean);

} // namespace frelm
