// How far a plan goes, and how long a machine takes over it.
//
// mm, seconds. The machine speeds up and slows down evenly, and passes a corner as fast as keeps it within `corner` of
// it, were it rounded by an arc (v² = a · corner · s / (1 − s), s the sine of half the angle between the sides); each
// line begins and ends at rest.
#pragma once

#include "cutting/cut_plan.h"

namespace frelm {

struct CutPace {
  double cut = 200, travel = 400; // mm/s
  double acceleration = 3000;     // mm/s²
  double corner = 0.05;           // mm
  double down = 0.05, up = 0.05;  // s: to put it down, which a torch takes to pierce, and to lift it
};
// Made up: what a small machine of the kind does.
CutPace pace_of(Machine machine);
// Of a plan's layer: its machine's, at the speed and acceleration that the material says.
CutPace pace_of(const std::vector<Material>& materials, Colour colour);

struct CutTime {
  double cut = 0, travel = 0; // mm
  double seconds = 0;
};
// Of a plan as it stands, or as it is driven (cutting/driven). Each layer at the pace of its material's machine, from
// the lower left corner of the sheet; the way back is left out.
CutTime cut_time(const CutPlan& plan, const std::vector<Material>& materials);
// From rest to rest along a line.
double seconds_along(const std::vector<Point>& line, double speed, const CutPace& pace);

} // namespace frelm
