// A place counts when no curve comes nearer than |d| − slack, each curve searched from 25 places by golden section;
// beyond a crossing at angle w such places reach slack / sin w further, 0.00006 mm at 1 degree.
#include "reference/offset_truth.h"

#include <array>

namespace frelm::test {
namespace {

constexpr double slack = 1e-6; // mm

class Distances {
public:
  explicit Distances(const Outline& outline) {
    for (const Contour& c : outline.contours)
      for (const Segment& s : c.segments)
        curves_.push_back({s, s.control_box()});
  }
  bool any_nearer_than(double d, Point p) const {
    Box at;
    at.add(p);
    return std::any_of(curves_.begin(), curves_.end(),
                       [&](const auto& c) { return c.second.distance_to(at) < d && nearest(c.first, p) < d; });
  }

private:
  static double nearest(const Segment& s, Point p) {
    constexpr int places = 24;
    std::array<double, places + 1> at;
    double best = std::numeric_limits<double>::infinity();
    for (int i = 0; i <= places; ++i)
      at[static_cast<std::size_t>(i)] = distance(p, s.at(static_cast<double>(i) / places));
    for (int i = 0; i <= places; ++i) {
      const auto k = static_cast<std::size_t>(i);
      best = std::min(best, at[k]);
      if ((i > 0 && at[k - 1] < at[k]) || (i < places && at[k + 1] < at[k]))
        continue;
      double lo = std::max(0.0, (i - 1.0) / places), hi = std::min(1.0, (i + 1.0) / places);
      for (int round = 0; round < 40; ++round) {
        const double a = lo + (hi - lo) * 0.381966, b = lo + (hi - lo) * 0.618034;
        (distance(p, s.at(a)) < distance(p, s.at(b)) ? hi : lo) = distance(p, s.at(a)) < distance(p, s.at(b)) ? b : a;
      }
      best = std::min(best, distance(p, s.at((lo + hi) / 2)));
    }
    return best;
  }
  std::vector<std::pair<Segment, Box>> curves_;
};

Vec direction_at(const Segment& s, double t) {
  const Vec d = s.derivative(t);
  if (length(d) > 1e-9)
    return unit(d);
  return t < 0.5 ? s.start_tangent() : s.end_tangent();
}

} // namespace

std::vector<Ring> offset_boundary(const Outline& outline, double d, double step) {
  const Distances distances(outline);
  std::vector<Ring> out;
  const auto good = [&](Point p) { return !distances.any_nearer_than(std::abs(d) - slack, p); };
  // The good stretches of a curve f(u0) … f(u1), halved until the steps are short; where they begin and end by
  // bisection.
  const auto trace = [&](const auto& self, const auto& f, double u0, double u1) -> void {
    if (distance(f(u0), f(u1)) > step && u1 - u0 > 1e-9) {
      self(self, f, u0, (u0 + u1) / 2);
      self(self, f, (u0 + u1) / 2, u1);
      return;
    }
    const bool g0 = good(f(u0)), g1 = good(f(u1));
    if (g0 && g1)
      out.push_back({f(u0), f(u1)});
    if (g0 == g1)
      return;
    double in = g0 ? u0 : u1, beyond = g0 ? u1 : u0;
    for (int k = 0; k < 30; ++k)
      (good(f((in + beyond) / 2)) ? in : beyond) = (in + beyond) / 2;
    out.push_back({f(g0 ? u0 : u1), f(in)});
  };
  constexpr int parts = 16; // so that no curve comes back to where it began within a step
  const auto trace_all = [&](const auto& f) {
    for (int i = 0; i < parts; ++i)
      trace(trace, f, static_cast<double>(i) / parts, static_cast<double>(i + 1) / parts);
  };
  const auto arc = [&](Point node, Vec from, double turn) {
    const double start = std::atan2(from.y, from.x);
    trace_all([&](double u) { return node + direction(start + turn * u) * std::abs(d); });
  };
  const auto walk = [&](const std::vector<Segment>& segments, double side, bool closed) {
    for (std::size_t i = 0; i < segments.size(); ++i) {
      const Segment& s = segments[i];
      trace_all([&](double t) { return s.at(t) + up_of(direction_at(s, t)) * side; });
      if (!closed && i + 1 == segments.size())
        break;
      const Vec a = s.end_tangent(), b = segments[(i + 1) % segments.size()].start_tangent();
      const double turn = std::atan2(cross(a, b), dot(a, b));
      if (turn * side > 0)
        arc(s.p3, up_of(a) * side, turn);
    }
  };
  for (const Contour& c : outline.contours) {
    walk(c.segments, d, c.closed);
    if (c.closed)
      continue;
    walk(c.segments, -d, false);
    arc(c.segments.front().p0, up_of(c.segments.front().start_tangent()), -pi);
    arc(c.segments.back().p3, up_of(c.segments.back().end_tangent()), pi);
  }
  return out;
}

} // namespace frelm::test
