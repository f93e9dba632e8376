// The speed at each place is the most that the corner there, what lies behind and what lies ahead allow: once on, once
// back.
#include "cutting/cut_time.h"

#include "geom/along.h"

#include <cmath>

namespace frelm {
namespace {

constexpr double flat_enough = 0.02; // mm

double corner_speed(Point a, Point b, Point c, const CutPace& pace, double most) {
  const double turn = std::abs(turn_between(b - a, c - b)), s = std::cos(turn / 2);
  return s >= 1 ? most : std::min(most, std::sqrt(pace.acceleration * pace.corner * s / (1 - s)));
}
// Over a length, between two speeds that can be reached over it, no faster than `most`.
double seconds_over(double length, double from, double to, double most, double a) {
  const double peak = std::min(most, std::sqrt((2 * a * length + from * from + to * to) / 2));
  const double steady = length - (2 * peak * peak - from * from - to * to) / (2 * a);
  return (2 * peak - from - to) / a + (peak > 0 ? std::max(0.0, steady) / peak : 0);
}

} // namespace

CutPace pace_of(Machine machine) {
  switch (machine) {
  case Machine::Blade:
    break;
  case Machine::Laser:
    return {.cut = 40, .travel = 300, .acceleration = 2000, .corner = 0.03, .down = 0.1, .up = 0};
  case Machine::Torch:
    return {.cut = 50, .travel = 200, .acceleration = 600, .corner = 0.2, .down = 0.8, .up = 0.3};
  case Machine::Router:
    return {.cut = 25, .travel = 100, .acceleration = 400, .corner = 0.1, .down = 1.2, .up = 0.5};
  }
  return {};
}

CutPace pace_of(const std::vector<Material>& materials, Colour colour) {
  const Material* m = material_of(materials, colour);
  CutPace out = pace_of(m != nullptr ? m->machine : Machine::Blade);
  if (m != nullptr && m->tool.speed > 0)
    out.cut = m->tool.speed;
  if (m != nullptr && m->tool.acceleration > 0)
    out.acceleration = m->tool.acceleration;
  return out;
}

double seconds_along(const std::vector<Point>& line, double speed, const CutPace& pace) {
  std::vector<Point> p;
  for (const Point q : line)
    if (p.empty() || distance(p.back(), q) > 0)
      p.push_back(q);
  if (p.size() < 2)
    return 0;
  std::vector<double> v(p.size(), 0);
  for (std::size_t i = 1; i + 1 < p.size(); ++i)
    v[i] = corner_speed(p[i - 1], p[i], p[i + 1], pace, speed);
  const auto reach = [&](double from, double length) {
    return std::sqrt(from * from + 2 * pace.acceleration * length);
  };
  for (std::size_t i = 1; i < p.size(); ++i)
    v[i] = std::min(v[i], reach(v[i - 1], distance(p[i - 1], p[i])));
  for (std::size_t i = p.size() - 1; i-- > 0;)
    v[i] = std::min(v[i], reach(v[i + 1], distance(p[i], p[i + 1])));
  double out = 0;
  for (std::size_t i = 1; i < p.size(); ++i)
    out += seconds_over(distance(p[i - 1], p[i]), v[i - 1], v[i], speed, pace.acceleration);
  return out;
}

CutTime cut_time(const CutPlan& plan, const std::vector<Material>& materials) {
  CutTime out;
  Point knife;
  std::optional<std::size_t> layer;
  CutPace pace;
  for (const CutPath& path : plan.order) {
    if (layer != plan.layer_of[path.piece]) {
      layer = plan.layer_of[path.piece];
      pace = pace_of(materials, path.colour);
      knife = {plan.sheet.frame.x0, plan.sheet.frame.y1};
    }
    const Contour& c = plan.sheet.pieces[path.piece].outline.contours[path.contour];
    std::vector<Point> line = flatten(c, flat_enough);
    if (c.closed)
      line.push_back(line.front());
    out.travel += distance(knife, path.start);
    out.cut += c.length();
    out.seconds += seconds_along({knife, path.start}, pace.travel, pace) + pace.down +
                   seconds_along(line, pace.cut, pace) + pace.up;
    knife = line.back();
  }
  return out;
}

} // namespace frelm
