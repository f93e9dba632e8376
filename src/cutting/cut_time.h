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

// From rest to rest along a line: when each of its places is passed, the first at 0.
std::vector<double> times_along(const std::vector<Point>& line, double speed, const CutPace& pace);
double seconds_along(const std::vector<Point>& line, double speed, const CutPace& pace);

// One path of a plan in time; seconds from the beginning of all.
struct CutLeg {
  double begins = 0, down = 0, up = 0, ends = 0; // it sets out; the knife is down; is lifted; is up
  double travel = 0, cut = 0;                    // mm, before and of this one
  std::vector<Point> line;                       // where it goes while it is down
  std::vector<double> passed;                    // when, from `down` on, for each of these
};
struct CutMoment {
  Point knife;
  bool down = false;
  std::size_t path = 0;       // that it is at or on its way to; the last one at the end
  double cut = 0, travel = 0; // mm so far
};

// Of a plan as it stands, or as it is driven (cutting/driven). Each layer at the pace of its material's machine, from
// the lower left corner of the sheet; the way back is left out.
class CutTimeline {
public:
  CutTimeline() = default;
  CutTimeline(const CutPlan& plan, const std::vector<Material>& materials);
  double seconds() const { return legs_.empty() ? 0 : legs_.back().ends; }
  double cut() const { return cut_; } // mm
  double travel() const { return travel_; }
  const std::vector<CutLeg>& legs() const { return legs_; } // a path of the plan each, in order
  CutMoment at(double seconds) const;                       // within the whole; nothing planned: the origin
  // What of a path's line is cut by then.
  std::vector<Point> cut_of(std::size_t path, double seconds) const;

private:
  std::vector<CutLeg> legs_;
  double cut_ = 0, travel_ = 0;
};

struct CutTime {
  double cut = 0, travel = 0; // mm
  double seconds = 0;
};
CutTime cut_time(const CutPlan& plan, const std::vector<Material>& materials);

} // namespace frelm
