// Basic shapes and paths as subpaths (SVG 1.1, 8 and 9; geometry as properties too: SVG 2, 7), and those as contours.
#pragma once

#include "formats/svg_in/style.h"
#include "formats/svg_in/values.h"
#include "geom/path_data.h"

namespace frelm {

bool is_svg_shape(std::string_view element);

struct ShapeReading {
  std::vector<Subpath> subpaths;    // user units; empty where there is nothing to see
  std::optional<std::string> wrong; // what of it can't be read
  bool broken_path = false;         // it is path data: the part before the error is there
};
ShapeReading svg_shape(const pugi::xml_node& node, const ElementStyle& style, const LengthScale& scale);

// As contours, arcs within the tolerance (user units). Areas: all of them closed (SVG 1.1, 11.3), by a line, or by
// moving an end that is nearer than the tolerance to the start. Lines: closed where they say so or their ends meet so.
enum class Ends { Closed, AsDrawn };
Outline contours_of(const std::vector<Subpath>& subpaths, double tolerance, Ends ends);

// All within `within` of one straight line.
bool is_flat(const Contour& contour, double within);

// Its lines meet each other so often (some 10,000 times) that areas made of them would take many seconds.
bool is_tangled(const Outline& outline);

} // namespace frelm
