#include "geom/arc_cubics.h"

namespace frelm {

std::vector<Segment> arc_cubics(Point centre, double rx, double ry, double turn, double from, double sweep,
                                double tolerance) {
  constexpr double quarter_error = 2.73e-4; // of the radius, for a quarter turn
  const double r = std::max(std::abs(rx), std::abs(ry));
  const double step = pi / 2 * std::pow(tolerance / std::max(quarter_error * r, 1e-12), 1.0 / 6);
  constexpr double most_pieces = 10'000; // more are no arc: a radius or a sweep beyond all sense
  const double wanted = std::ceil(std::abs(sweep) / std::min(step, pi / 2) - 1e-9);
  const int n = wanted >= 1 ? static_cast<int>(std::min(wanted, most_pieces)) : 1;
  const double d = sweep / n, k = 4.0 / 3 * std::tan(d / 4);
  const Affine place = Affine::translation(centre) * Affine::rotation(turn) * Affine::scaling(rx, ry);
  std::vector<Segment> out;
  for (int i = 0; i < n; ++i) {
    const double a0 = from + d * i, a1 = from + d * (i + 1);
    const Vec r0 = direction(a0), r1 = direction(a1);
    const Vec t0{-r0.y, r0.x}, t1{-r1.y, r1.x};
    Segment s = Segment::cubic(r0, r0 + t0 * k, r1 - t1 * k, r1).transformed(place);
    if (!out.empty())
      s.p0 = out.back().p3;
    out.push_back(s);
  }
  return out;
}

} // namespace frelm
