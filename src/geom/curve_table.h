// A curve looked up many times: places at even steps of its arc length, joined by cubics that have its directions.
//
// mm. Smooth stretches are tabulated apart, so corners stay corners. Bound: step^4 · |d³κ/ds³| / 384 between places,
// with a step of at most 1 mm, or of a 2,000th of the stretch on longer ones: below 2e-5 mm for radii over 5 mm, 1e-6
// over 11; where the curvature jumps inside a stretch, jump · step² / 32. About 40 ns a lookup.
#pragma once

#include "geom/curve.h"

namespace frelm {

class CurveTable {
public:
  explicit CurveTable(const Curve& curve);
  struct Place {
    Point point;
    Vec along; // derivative by arc length; of length 1 within the same bound
  };
  // s within the curve's length on open curves; closed ones wrap. Beyond an open curve's ends the end directions go on.
  Place at(double s) const;
  double length() const { return length_; }

private:
  struct Stretch {
    double from = 0, step = 1;
    std::size_t first = 0, cells = 0; // of places_
  };
  double length_ = 0;
  bool closed_ = false;
  std::vector<Stretch> stretches_;
  std::vector<Place> places_;
};

} // namespace frelm
