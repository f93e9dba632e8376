// Outlines as cairo's paths, and what cairo writes as bytes.
#pragma once

#include "geom/outline.h"

#include <cairo/cairo.h>
#include <memory>
#include <string>

namespace frelm {

using CairoSurface = std::unique_ptr<cairo_surface_t, void (*)(cairo_surface_t*)>;
using CairoContext = std::unique_ptr<cairo_t, void (*)(cairo_t*)>;

void add_path(cairo_t* cr, const Outline& outline);
cairo_status_t append_bytes(void* string, const unsigned char* data, unsigned length);
cairo_status_t take_bytes(void* string_view, unsigned char* data, unsigned length); // from its beginning

} // namespace frelm
