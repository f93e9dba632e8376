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
// As it is sent, path after path: what goes before all, each path with what was cut when it is done, what goes after.
struct HpglPath {
  std::string bytes;         // whole instructions; it ends with the pen down at the path's end
  std::size_t of = 0;        // CutPlan::order
  double cut = 0;            // mm of this one
  long x = 0, y = 0;         // units: where it ends
  std::vector<Point> places; // mm on the sheet, where it goes with the pen down
};
struct HpglProgram {
  std::string begin, end;
  std::vector<HpglPath> paths; // those smaller than a unit are left out
};
// For a layer: VS (cm/s) and AS (g); none where that is 0.
struct HpglSpeed {
  double cut = 0, acceleration = 0; // mm/s, mm/s²
};
// Errors: a place beyond what the units can count.
Result<HpglProgram> hpgl_program(const CutPlan& plan, const HpglOptions& options = {},
                                 const std::vector<HpglSpeed>& speeds = {});
std::string program_text(const HpglProgram& program); // the whole of it
Result<std::string> write_hpgl(const CutPlan& plan, const HpglOptions& options = {});

} // namespace frelm
