// SVG in and out (SVG 1.1, W3C Recommendation 2011).
//
// Out: width and height in mm, viewBox in mm, one group a layer of the plan with its name and an id, one compound path
// a piece with its contours in cutting order, absolute coordinates, no transforms, no styles, no text. In: what a
// drawing shows (formats/svg_in).
#pragma once

#include "cutting/cut_plan.h"
#include "formats/drawing.h"
#include "formats/export_ink.h"

#include <string>
#include <string_view>

namespace frelm {

inline constexpr double svg_arc_tolerance = 0.0005; // mm

struct SvgOptions {
  ExportInk ink = ExportInk::Areas;
  bool arcs = false;   // what lies on a circle within svg_arc_tolerance as A
  bool plain = false;  // only paths: no groups, no titles
  bool pixels = false; // coordinates and sizes in px of 1/96 inch, without units and without a viewBox
};
// Coordinates are rounded to 0.00001 of their unit.
std::string write_svg(const CutPlan& plan, const SvgOptions& options = {});
// A group a colour; of one piece in layers a group a layer, named by it ("ring-1").
std::string write_svg(const CutSheet& sheet);
// To look at: what lies in front hides what is behind, so a group a run of pieces of one colour. metadata: an element
// that comes first.
std::string write_svg_as_drawn(const CutSheet& sheet, const std::string& metadata);
// As the content of an element or attribute.
std::string xml_text(const std::string& text);

// What a drawing shows, as it is painted: filled areas, strokes by their width, within their clips and masks; nothing
// of what can't be seen. What can't be taken is listed.
// Bounds: 1000 groups within each other, copies in copies 16 deep, 300,000 elements and 100,000 shapes with all
// copies; what is beyond is listed. Errors: bytes that are no SVG (formats/svg_in/tree), a size that no sheet has.
Result<Drawing> read_svg(std::string_view bytes, const DrawingReadOptions& options = {});

} // namespace frelm
