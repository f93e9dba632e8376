// HP-GL for cutters and plotters: 40 units a mm, absolute, y up from the sheet's lower left corner or its middle, a pen
// for each layer (1, 2, …), contours in cutting order, curves as chords. Controllers differ in what they want beside
// that; the switches say it.
//
// Source: Hewlett-Packard, HP 7475A Graphics Plotter Interfacing and Programming Manual (1983), instructions IN, PA,
// PU, PD and SP; PS of HP-GL/2 (HP, PCL 5 Printer Language Technical Reference Manual, 1992); a plotter unit is 0.025
// mm.
#pragma once

#include "cutting/cut_plan.h"

namespace frelm {

inline constexpr double hpgl_units_per_mm = 40;

struct HpglOptions {
  double flatten = 0.01;    // mm: the chords from the curves, more than 0; rounding to units comes on top
  bool from_middle = false; // 0,0 is the sheet's middle
  bool turned = false;      // by 90°, counter-clockwise: the sheet's length runs along y
  bool mirrored = false;    // left and right change places
  bool spaces = false;      // between numbers, instead of commas
  bool page_size = false;   // PS with the sheet's size
  bool back_home = false;   // the pen goes to 0,0 at the end
};
// Errors: a place beyond what the units can count.
Result<std::string> write_hpgl(const CutPlan& plan, const HpglOptions& options = {});

} // namespace frelm
