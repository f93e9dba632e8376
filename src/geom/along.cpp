#include "geom/along.h"

namespace frelm {

double control_turn(const Segment& s) {
  if (s.is_line())
    return 0;
  constexpr double no_leg = 1e-9; // mm
  double turned = 0;
  Vec before{};
  for (const Vec leg : {s.p1 - s.p0, s.p2 - s.p1, s.p3 - s.p2}) {
    if (length(leg) < no_leg)
      continue;
    if (before != Vec{})
      turned += std::abs(turn_between(before, leg));
    before = leg;
  }
  return turned;
}

double row_length(const std::vector<Point>& points, bool closed) {
  double sum = closed && points.size() > 1 ? distance(points.back(), points.front()) : 0;
  for (std::size_t i = 1; i < points.size(); ++i)
    sum += distance(points[i - 1], points[i]);
  return sum;
}

std::vector<Point> spaced_evenly(std::vector<Point> points, std::size_t count, bool closed) {
  if (closed)
    points.push_back(points.front());
  std::vector<double> along{0};
  for (std::size_t i = 1; i < points.size(); ++i)
    along.push_back(along.back() + distance(points[i - 1], points[i]));
  std::vector<Point> out;
  std::size_t i = 0;
  for (std::size_t k = 0; k + (closed ? 1 : 0) <= count; ++k) {
    const double s = along.back() * static_cast<double>(k) / static_cast<double>(count);
    while (i + 2 < along.size() && along[i + 1] < s)
      ++i;
    const double part = along[i + 1] - along[i];
    out.push_back(lerp(points[i], points[i + 1], part > 0 ? std::clamp((s - along[i]) / part, 0.0, 1.0) : 0));
  }
  return out;
}

} // namespace frelm
