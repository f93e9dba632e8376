// Strokes as the areas that they paint, and as lines to cut along.
// Sources: SVG 1.1, 11.4 (width, caps, joins, dashes); SVG 2, 13.5.6 (subpaths without length).
#pragma once

#include "formats/svg_in/paint.h"
#include "formats/svg_in/shapes.h"

namespace frelm {

// mm: the width in the middle of a transform that is not the same all ways. px_to_mm: for widths of the screen.
double stroke_width(const StrokeStyle& line, const Affine& to_mm, double px_to_mm);

// What a stroke paints, within a hundredth of its width. Errors: those of offset.
Result<Outline> stroke_outline(const std::vector<Subpath>& subpaths, const StrokeStyle& line, const Affine& to_mm,
                               double px_to_mm, const std::stop_token& stop);
// Its lines, dashed ones in dashes.
Outline stroke_lines(const std::vector<Subpath>& subpaths, const StrokeStyle& line, const Affine& to_mm,
                     double px_to_mm);

} // namespace frelm
