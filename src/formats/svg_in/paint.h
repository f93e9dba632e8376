// How an element is painted: what is handed on to those inside it, and what is its own.
// Sources: SVG 1.1, 11 (painting), 14.5 (opacity), 10.9 (font-size), with the stroke's `none` of SVG 2 (2018), 13.
#pragma once

#include "formats/svg_in/css_colour.h"
#include "formats/svg_in/style.h"
#include "formats/svg_in/values.h"
#include "geom/offset.h"

namespace frelm {

// Colours further out than this in a hundred parts are not seen.
inline constexpr double least_opacity = 0.01;

struct Paint {
  std::optional<SeenColour> colour; // nothing: not painted, unless there is a server
  std::string server;               // the id behind "url(#…)"; the colour is what to take where it is missing
};

struct StrokeStyle {
  double width = 1; // user units
  CapStyle cap = CapStyle::Flat;
  JoinStyle join = JoinStyle::Mitre;
  double mitre_limit = 4;
  std::vector<double> dashes; // user units; none: a whole line
  double dash_offset = 0;
  bool of_the_screen = false; // vector-effect: the width is not scaled
};

struct PaintState {
  // Handed on.
  Paint fill{SeenColour{{0, 0, 0}, 1}, {}}, stroke;
  SeenColour current{{0, 0, 0}, 1}; // "color"
  double fill_opacity = 1, stroke_opacity = 1;
  bool even_odd = false, clip_even_odd = false;
  StrokeStyle line;
  bool visible = true;
  bool markers = false;
  double font_size = 16; // user units
  // The product of an element's own opacity and of all that it is in.
  double opacity = 1;

  double fill_alpha() const { return opacity * fill_opacity * (fill.colour ? fill.colour->alpha : 0); }
  double stroke_alpha() const { return opacity * stroke_opacity * (stroke.colour ? stroke.colour->alpha : 0); }
};

// What an element says on top of what it is in. Values that can't be read change nothing.
PaintState painted(const ElementStyle& style, const PaintState& outer, const LengthScale& scale);

// The id in "url(#id) …"; nothing: no such reference. Another file's: empty.
std::optional<std::string> reference_in(std::string_view value);
// A number or a percentage, 0 to 1.
std::optional<double> share_of_one(std::string_view value);

} // namespace frelm
