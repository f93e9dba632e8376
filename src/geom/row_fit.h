// Parabolas through points in a row, and where two curves that are fitted so cross. For geom/noisy_run and
// geom/pixel_line.
#pragma once

#include "geom/point.h"

#include <cmath>
#include <optional>

namespace frelm {

// p(u) = a + b u + c u².
struct RowParabola {
  Point a;
  Vec b, c;
  Point at(double u) const { return a + (b + c * u) * u; }
  Vec derivative(double u) const { return b + c * (2 * u); }
};

// Least squares through the points first … last, at whole steps u counted from `origin`; too few for it: the origin's.
template <class PointAt> RowParabola row_parabola(const PointAt& point, int first, int last, int origin) {
  double s1 = 0, s2 = 0, s3 = 0, s4 = 0;
  Vec r0, r1, r2;
  const Point base = point(origin);
  for (int i = first; i <= last; ++i) {
    const double u = i - origin, uu = u * u;
    const Vec p = point(i) - base;
    s1 += u, s2 += uu, s3 += uu * u, s4 += uu * uu;
    r0 += p, r1 += p * u, r2 += p * uu;
  }
  const double s0 = last - first + 1;
  const double d = s0 * (s2 * s4 - s3 * s3) - s1 * (s1 * s4 - s3 * s2) + s2 * (s1 * s3 - s2 * s2);
  RowParabola out{base, {}, {}};
  if (!(std::abs(d) > 0))
    return out;
  const auto row = [&](double k0, double k1, double k2) { return (r0 * k0 + r1 * k1 + r2 * k2) / d; };
  out.a = base + row(s2 * s4 - s3 * s3, s2 * s3 - s1 * s4, s1 * s3 - s2 * s2);
  out.b = row(s2 * s3 - s1 * s4, s0 * s4 - s2 * s2, s1 * s2 - s0 * s3);
  out.c = row(s1 * s3 - s2 * s2, s1 * s2 - s0 * s3, s0 * s2 - s1 * s1);
  return out;
}
// The same without its bend.
template <class PointAt> RowParabola row_line(const PointAt& point, int first, int last, int origin) {
  double s1 = 0, s2 = 0;
  Vec r0, r1;
  const Point base = point(origin);
  for (int i = first; i <= last; ++i) {
    const double u = i - origin;
    const Vec p = point(i) - base;
    s1 += u, s2 += u * u, r0 += p, r1 += p * u;
  }
  const double s0 = last - first + 1, d = s0 * s2 - s1 * s1;
  return d > 0 ? RowParabola{base + (r0 * s2 - r1 * s1) / d, (r1 * s0 - r0 * s1) / d, {}} : RowParabola{base, {}, {}};
}

struct RowCrossing {
  double on_a = 0, on_b = 0; // the parameters
};
// By Newton's method from where both are 0; nothing where they run the same way.
template <class A, class B> std::optional<RowCrossing> row_crossing(const A& a, const B& b) {
  RowCrossing at;
  for (int round = 0; round < 20; ++round) {
    const Vec f = a.at(at.on_a) - b.at(at.on_b), da = a.derivative(at.on_a), db = b.derivative(at.on_b);
    const double det = cross(da, db);
    if (std::abs(det) < 1e-9 * length(da) * length(db))
      return std::nullopt;
    at.on_a -= cross(f, db) / det;
    at.on_b -= cross(f, da) / det;
  }
  return std::isfinite(at.on_a) ? std::optional(at) : std::nullopt;
}

} // namespace frelm
