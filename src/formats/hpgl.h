// HP-GL for cutters and plotters: 40 units a mm, absolute, y up from the sheet's lower left corner, a pen for each
// layer (1, 2, …), contours in cutting order, curves as chords.
//
// Source: Hewlett-Packard, HP 7475A Graphics Plotter Interfacing and Programming Manual (1983), instructions IN, PA,
// PU, PD and SP; a plotter unit is 0.025 mm.
#pragma once

#include "cutting/cut_plan.h"

namespace frelm {

inline constexpr double hpgl_units_per_mm = 40;

struct HpglOptions {
  double flatten = 0.01; // mm: the chords from the curves, more than 0; rounding to units comes on top
};
// Errors: a place beyond what the units can count.
Result<std::string> write_hpgl(const CutPlan& plan, const HpglOptions& options = {});

} // namespace frelm
