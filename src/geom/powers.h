// A cubic by powers of its parameter: half the work of the control points' form where one curve is asked for many
// places.
#pragma once

#include "geom/outline.h"

namespace frelm {

struct Powers {
  Point c0;
  Vec c1, c2, c3;
  explicit Powers(const Segment& s)
      : c0(s.p0), c1((s.p1 - s.p0) * 3.0), c2((s.p0 - s.p1 * 2.0 + s.p2) * 3.0), c3(s.p3 - s.p0 + (s.p1 - s.p2) * 3.0) {
  }
  Point at(double t) const { return c0 + (c1 + (c2 + c3 * t) * t) * t; }
  Vec derivative(double t) const { return c1 + (c2 * 2.0 + c3 * (3 * t)) * t; }
  Vec second(double t) const { return c2 * 2.0 + c3 * (6 * t); }
};

} // namespace frelm
