// What drawings cover, as pixels: by librsvg, and by shapes that were read.
#pragma once

#include "formats/drawing.h"

#include <optional>
#include <vector>

namespace frelm {

struct Silhouette {
  int width = 0, height = 0;
  std::vector<bool> covered; // row by row
  std::size_t count() const;
};

// The drawing's page by rsvg-convert (librsvg), `zoom` px for each px (1/96 in) of the drawing; a pixel counts where
// its alpha is more than 2 of 255. Nothing: it could not.
std::optional<Silhouette> seen_by_librsvg(const std::string& path, double zoom);
// Shapes within the drawing's frame, painted by cairo on as many pixels. Lines are drawn as wide as they were.
Silhouette seen_in(const Drawing& drawing, int width, int height, double zoom);
// The zoom at which the longer side has so many px.
double zoom_for(const Drawing& drawing, int size);
// Intersection over union; two empty ones are the same.
double overlap(const Silhouette& a, const Silhouette& b);

} // namespace frelm
