// A page of a PDF, EPS or PostScript file as a drawing: frelm-pages (src/pages) paints it as SVG under limits of time
// and memory, the SVG reader takes that. Text comes as outlines, letters that follow each other closely as one shape.
//
// Bounds: 256 MB; four seconds of a processor and 256 MB of memory for each step, 30 seconds by the clock; no other
// file is opened. Errors: what can't be read, is locked, lacks the page, takes too much; PostScript without
// Ghostscript.
#pragma once

#include "formats/drawing.h"

#include <string_view>

namespace frelm {

bool looks_like_pdf(std::string_view bytes);
bool looks_like_postscript(std::string_view bytes);
Result<Drawing> read_pdf(std::string_view bytes, const DrawingReadOptions& options = {});
Result<Drawing> read_postscript(std::string_view bytes, const DrawingReadOptions& options = {});

} // namespace frelm
