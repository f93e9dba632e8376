// HP-GL in: pens that move up and down, absolute and relative, arcs, circles, rectangles and wedges drawn with the pen,
// scaling; lines to cut along in a colour for each pen, as for DXF. Labels are told.
//
// Source: as for writing (formats/hpgl.h), with AA, AR, CI, EA, ER, EW, PM, EP, IP, SC, LB of the same manuals; a unit
// is 0.025 mm. PE (encoded places): Hewlett-Packard, PCL 5 Printer Language Technical Reference Manual (1992), Polyline
// Encoded, from memory. Not read: fills, symbols; told where they stand. Bounds: 2,000,000
// places, 64 MB.
#pragma once

#include "formats/import.h"

namespace frelm {

bool looks_like_hpgl(std::string_view bytes);
// Errors: no HP-GL, beyond the bounds.
Result<Drawing> read_hpgl(std::string_view bytes, const DrawingReadOptions& options = {});

} // namespace frelm
