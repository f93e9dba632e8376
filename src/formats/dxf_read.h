// DXF in, read by dxflib: lines, polylines with bulges, arcs, circles, ellipses, splines of any degree with and without
// weights or through points, solids and the edges of hatches; blocks in blocks with their scale, turn, rows and
// columns; layers that are off, frozen or of the paper are not taken. Text, dimensions, pictures are told.
//
// All of it is lines to cut along: doubles dropped, ends that meet within `ends_meet` joined, closed ones put together
// with their holes (geom/clean_lines), a shape for each; in the colour of the entity or its layer. y is turned down;
// what lies in planes that are not the sheet's is taken as seen from above only where it is turned over.
// Bounds: arcs and curves within 0.0005 mm of what the file says (0.001 mm for splines with weights); 200,000 lines
// with all blocks, blocks 16 deep, 64 MB.
#pragma once

#include "formats/import.h"

namespace frelm {

bool looks_like_dxf(std::string_view bytes);
// Errors: no DXF, binary DXF, beyond the bounds.
Result<Drawing> read_dxf(std::string_view bytes, const DrawingReadOptions& options = {});

} // namespace frelm
