// The axis stands at p + tip · t, so that the tip, which moves along t, needs no turning but what t itself turns.
#include "cutting/dragged_blade.h"

#include "geom/along.h"

namespace frelm {
namespace {

constexpr double flat_axis = 0.003;            // mm
constexpr double turn_of_step = 10 * pi / 180; // on an arc about a corner
constexpr double most_turn = 15 * pi / 180;    // of the direction from place to place of a curve
constexpr double least_turn = 1 * pi / 180;    // that is gone around where the blade is put down
constexpr int deepest = 14;

Vec direction_at(const Segment& s, double t) {
  if (s.is_line() || t <= 0)
    return s.start_tangent();
  if (t >= 1)
    return s.end_tangent();
  const Vec d = s.derivative(t);
  return length(d) > 0 ? unit(d) : s.start_tangent();
}

class Axis {
public:
  explicit Axis(double tip) : tip_(tip) {}
  void at(Point p, Vec t) { out_.push_back(p + t * tip_); }
  void around(Point p, Vec from, Vec to) {
    const double turn = turn_between(from, to), first = std::atan2(from.y, from.x);
    const int steps = std::max(1, static_cast<int>(std::ceil(std::abs(turn) / turn_of_step)));
    for (int i = 1; i < steps; ++i)
      at(p, direction(first + turn * i / steps));
    at(p, to);
  }
  void along(const Segment& s) {
    if (!s.is_line())
      between(s, 0, 1, 0);
    at(s.p3, direction_at(s, 1));
  }
  std::vector<Point> take() { return std::move(out_); }

private:
  Point axis(const Segment& s, double t) const { return s.at(t) + direction_at(s, t) * tip_; }
  // Places strictly between t0 and t1 where the chord is too far from the curve.
  void between(const Segment& s, double t0, double t1, int depth) {
    const double middle = (t0 + t1) / 2;
    const Point a = axis(s, t0), b = axis(s, t1), m = axis(s, middle);
    const auto off = [&](double t) { return distance_to_chord(a, b, axis(s, t)); };
    const double turn = std::abs(turn_between(direction_at(s, t0), direction_at(s, middle))) +
                        std::abs(turn_between(direction_at(s, middle), direction_at(s, t1)));
    const double quarter = (t1 - t0) / 4;
    if (depth >= deepest || (turn <= most_turn && distance_to_chord(a, b, m) <= flat_axis &&
                             off(t0 + quarter) <= flat_axis && off(t1 - quarter) <= flat_axis))
      return;
    between(s, t0, middle, depth + 1);
    out_.push_back(m);
    between(s, middle, t1, depth + 1);
  }

  double tip_;
  std::vector<Point> out_;
};

} // namespace

std::vector<Point> axis_of(const std::vector<Segment>& route, double tip, double swivel, Vec& heading) {
  Axis axis(tip);
  const Vec first = route.front().start_tangent();
  if (tip > 0 && std::abs(turn_between(heading, first)) > least_turn) {
    axis.at(route.front().p0, heading);
    axis.around(route.front().p0, heading, first);
  } else
    axis.at(route.front().p0, first);
  for (std::size_t i = 0; i < route.size(); ++i) {
    axis.along(route[i]);
    heading = route[i].end_tangent();
    if (tip == 0 || i + 1 == route.size())
      continue;
    const Vec next = route[i + 1].start_tangent();
    if (const double turn = std::abs(turn_between(heading, next)); turn > radians(swivel))
      axis.around(route[i].p3, heading, next);
    else if (turn > 0)
      axis.at(route[i].p3, next);
  }
  return axis.take();
}

std::vector<Point> dragged_tip(const std::vector<Point>& axis, double tip, Vec heading) {
  if (tip <= 0 || axis.empty())
    return axis;
  std::vector<Point> out{axis.front() - heading * tip};
  double blade = std::atan2(heading.y, heading.x);
  for (std::size_t i = 1; i < axis.size(); ++i) {
    const Vec way = axis[i] - axis[i - 1];
    const double l = length(way);
    if (l == 0)
      continue;
    const double to = std::atan2(way.y, way.x);
    const double off = std::remainder(blade - to, 2 * pi); // from the way to the blade
    const auto after = [&](double s) { return 2 * std::atan(std::tan(off / 2) * std::exp(-s / tip)); };
    // Straight but where the blade turns: there the tip's way is cut into steps.
    const int steps = std::abs(off) > least_turn ? 8 : 1;
    const double turning = std::min(l, 5 * tip); // beyond that it points ahead
    for (int k = 1; k <= steps; ++k) {
      const double s = steps == 1 ? l : turning * k / steps;
      out.push_back(lerp(axis[i - 1], axis[i], s / l) - direction(to + after(s)) * tip);
    }
    if (steps > 1 && turning < l)
      out.push_back(axis[i] - direction(to + after(l)) * tip);
    blade = to + after(l);
  }
  return out;
}

} // namespace frelm
