// The speed at each place is the most that the corner there, what lies behind and what lies ahead allow: once on, once
// back.
#include "cutting/cut_time.h"

#include "geom/along.h"

#include <algorithm>
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

std::vector<double> times_along(const std::vector<Point>& p, double speed, const CutPace& pace) {
  std::vector<double> out(p.size(), 0);
  std::vector<std::size_t> at; // places that differ from the one before
  for (std::size_t i = 0; i < p.size(); ++i)
    if (at.empty() || distance(p[at.back()], p[i]) > 0)
      at.push_back(i);
  if (at.size() < 2)
    return out;
  const auto place = [&](std::size_t k) { return p[at[k]]; };
  std::vector<double> v(at.size(), 0);
  for (std::size_t k = 1; k + 1 < at.size(); ++k)
    v[k] = corner_speed(place(k - 1), place(k), place(k + 1), pace, speed);
  const auto reach = [&](double from, double length) {
    return std::sqrt(from * from + 2 * pace.acceleration * length);
  };
  for (std::size_t k = 1; k < at.size(); ++k)
    v[k] = std::min(v[k], reach(v[k - 1], distance(place(k - 1), place(k))));
  for (std::size_t k = at.size() - 1; k-- > 0;)
    v[k] = std::min(v[k], reach(v[k + 1], distance(place(k), place(k + 1))));
  double passed = 0;
  for (std::size_t k = 0; k < at.size(); ++k) {
    if (k > 0)
      passed += seconds_over(distance(place(k - 1), place(k)), v[k - 1], v[k], speed, pace.acceleration);
    for (std::size_t i = at[k]; i < (k + 1 < at.size() ? at[k + 1] : p.size()); ++i)
      out[i] = passed;
  }
  return out;
}

double seconds_along(const std::vector<Point>& line, double speed, const CutPace& pace) {
  return line.empty() ? 0 : times_along(line, speed, pace).back();
}

CutTimeline::CutTimeline(const CutPlan& plan, const std::vector<Material>& materials) {
  Point knife;
  const std::vector<std::size_t> tools = tools_of(plan);
  std::optional<std::size_t> tool;
  CutPace pace;
  double now = 0;
  for (const CutPath& path : plan.order) {
    if (tool != tools[plan.layer_of[path.piece]]) {
      tool = tools[plan.layer_of[path.piece]];
      pace = pace_of(materials, path.colour);
      knife = {plan.sheet.frame.x0, plan.sheet.frame.y1};
    }
    const Contour& c = plan.sheet.pieces[path.piece].outline.contours[path.contour];
    CutLeg leg;
    leg.line = flatten(c, flat_enough);
    if (c.closed)
      leg.line.push_back(leg.line.front());
    leg.passed = times_along(leg.line, pace.cut, pace);
    leg.travel = distance(knife, path.start), leg.cut = c.length();
    leg.begins = now;
    leg.down = now + seconds_along({knife, path.start}, pace.travel, pace) + pace.down;
    leg.up = leg.down + leg.passed.back();
    now = leg.ends = leg.up + pace.up;
    knife = leg.line.back();
    cut_ += leg.cut, travel_ += leg.travel;
    legs_.push_back(std::move(leg));
  }
}

CutMoment CutTimeline::at(double seconds) const {
  CutMoment out;
  if (legs_.empty())
    return out;
  const auto found =
      std::upper_bound(legs_.begin(), legs_.end(), seconds, [](double t, const CutLeg& l) { return t < l.ends; });
  out.path = static_cast<std::size_t>(std::min(found, legs_.end() - 1) - legs_.begin());
  for (std::size_t i = 0; i < out.path; ++i)
    out.cut += legs_[i].cut, out.travel += legs_[i].travel;
  const CutLeg& leg = legs_[out.path];
  if (seconds < leg.down) { // on its way, evenly
    const Point from = out.path > 0 ? legs_[out.path - 1].line.back() : leg.line.front();
    const double share = leg.down > leg.begins ? std::max(0.0, (seconds - leg.begins) / (leg.down - leg.begins)) : 1;
    out.knife = lerp(from, leg.line.front(), share);
    out.travel += leg.travel * share;
    return out;
  }
  out.travel += leg.travel;
  const std::vector<Point> done = cut_of(out.path, seconds);
  out.knife = done.back();
  out.down = seconds < leg.up;
  out.cut += out.down ? std::min(leg.cut, row_length(done, false)) : leg.cut;
  return out;
}

std::vector<Point> CutTimeline::cut_of(std::size_t path, double seconds) const {
  const CutLeg& leg = legs_[path];
  const double t = seconds - leg.down;
  if (t < 0)
    return {};
  if (t >= leg.passed.back())
    return leg.line;
  const auto next =
      static_cast<std::size_t>(std::upper_bound(leg.passed.begin(), leg.passed.end(), t) - leg.passed.begin());
  std::vector<Point> out(leg.line.begin(), leg.line.begin() + static_cast<std::ptrdiff_t>(next));
  const double from = leg.passed[next - 1], to = leg.passed[next];
  out.push_back(lerp(leg.line[next - 1], leg.line[next], to > from ? (t - from) / (to - from) : 0));
  return out;
}

CutTime cut_time(const CutPlan& plan, const std::vector<Material>& materials) {
  const CutTimeline line(plan, materials);
  return {line.cut(), line.travel(), line.seconds()};
}

} // namespace frelm
