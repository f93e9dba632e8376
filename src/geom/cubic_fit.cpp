#include "geom/cubic_fit.h"

#include <array>

namespace frelm {
namespace {

constexpr int most_rounds = 24;
constexpr int patience = 3;      // rounds without a gain of a tenth
constexpr int most_halvings = 4; // of a step that leads far off
constexpr double far_off = 1.5;
constexpr double shortest_handle = 0.01, longest_handle = 2; // of the chord

struct Handles {
  double start, end;
};

Segment with_handles(Point p0, Vec start, Vec end, Point p3, Handles h) {
  return Segment::cubic(p0, p0 + start * h.start, p3 - end * h.end, p3);
}

// The parameter near t whose place is nearest to p: Newton on (C − p)·C' with the curvature term kept when it helps.
double nearest_parameter(const Segment& c, Point p, double t) {
  for (int i = 0; i < 4; ++i) {
    const Vec r = c.at(t) - p, d = c.derivative(t), dd = c.second(t);
    const double g = dot(r, d);
    double h = dot(d, d) + dot(r, dd);
    if (h < 0.1 * dot(d, d))
      h = dot(d, d);
    if (!(h > 0))
      break;
    const double step = g / h;
    t = std::clamp(t - step, 0.0, 1.0);
    if (std::abs(step) < 1e-9)
      break;
  }
  return t;
}

double worst_distance(const Segment& c, std::span<const Point> targets, std::vector<double>& t) {
  double worst = 0;
  for (std::size_t i = 0; i < targets.size(); ++i) {
    t[i] = nearest_parameter(c, targets[i], t[i]);
    worst = std::max(worst, distance(c.at(t[i]), targets[i]));
  }
  return worst;
}

// One Gauss–Newton step of the handles on the normal distances at the current parameters.
bool improve(const Segment& c, Vec start, Vec end, std::span<const Point> targets, std::span<const double> t,
             double chord, Handles& h) {
  double aa = 0, ab = 0, bb = 0, ra = 0, rb = 0;
  for (std::size_t i = 0; i < targets.size(); ++i) {
    const Vec d = c.derivative(t[i]);
    const double l = length(d);
    if (!(l > 0))
      continue;
    const Vec n{-d.y / l, d.x / l};
    const double u = 1 - t[i];
    const double ja = 3 * u * u * t[i] * dot(start, n), jb = -3 * u * t[i] * t[i] * dot(end, n);
    const double r = dot(targets[i] - c.at(t[i]), n);
    aa += ja * ja, ab += ja * jb, bb += jb * jb, ra += ja * r, rb += jb * r;
  }
  const double damp = 1e-12 * (aa + bb), det = (aa + damp) * (bb + damp) - ab * ab;
  if (!(det > 0))
    return false;
  const auto bounded = [chord](double v) { return std::clamp(v, shortest_handle * chord, longest_handle * chord); };
  h.start = bounded(h.start + (ra * (bb + damp) - rb * ab) / det);
  h.end = bounded(h.end + (rb * (aa + damp) - ra * ab) / det);
  return true;
}

void fit_span(const FitSource& source, double t0, double t1, double tolerance, int depth, std::vector<Segment>& out) {
  constexpr int inner = 15;
  std::array<Point, inner> targets;
  std::array<double, inner> t;
  for (int i = 0; i < inner; ++i) {
    const double k = static_cast<double>(i + 1) / (inner + 1);
    targets[static_cast<std::size_t>(i)] = source(t0 + (t1 - t0) * k).point;
    t[static_cast<std::size_t>(i)] = k;
  }
  const FitPlace a = source(t0), b = source(t1);
  const double handle = distance(a.point, b.point) / 3;
  const CubicFit fit =
      fit_cubic(a.point, a.direction, b.direction, b.point, targets, t, handle, handle, 0.3 * tolerance);
  // Targets stand close enough together that the true error between them is at most a tenth larger.
  if (fit.worst <= 0.9 * tolerance || depth == 0) {
    out.push_back(fit.cubic);
    return;
  }
  fit_span(source, t0, (t0 + t1) / 2, tolerance, depth - 1, out);
  fit_span(source, (t0 + t1) / 2, t1, tolerance, depth - 1, out);
}

} // namespace

CubicFit fit_cubic(Point p0, Vec start, Vec end, Point p3, std::span<const Point> targets,
                   std::span<const double> guess, double start_handle, double end_handle, double enough) {
  const double chord = std::max(distance(p0, p3), 1e-9);
  std::vector<double> t(guess.begin(), guess.end());
  Handles h{start_handle, end_handle};
  CubicFit best{with_handles(p0, start, end, p3, h), 0};
  best.worst = worst_distance(best.cubic, targets, t);
  std::vector<double> now = t;
  Segment cubic = best.cubic;
  Handles held = h; // of the best so far
  double gained = best.worst;
  for (int round = 0, last_gain = 0; round < most_rounds && best.worst > enough; ++round) {
    if (best.worst < 0.9 * gained)
      gained = best.worst, last_gain = round;
    if (round - last_gain > patience)
      break;
    if (!improve(cubic, start, end, targets, now, chord, h))
      break;
    for (int halving = 0;; ++halving) {
      cubic = with_handles(p0, start, end, p3, h);
      const double worst = worst_distance(cubic, targets, now);
      if (worst < best.worst) {
        best = {cubic, worst};
        held = h;
        break;
      }
      if (worst <= far_off * best.worst)
        break; // the sum of squares may still be falling
      if (halving == most_halvings)
        return best;
      h = {(h.start + held.start) / 2, (h.end + held.end) / 2};
      now = t;
    }
  }
  return best;
}

std::vector<Segment> fit_cubics(const FitSource& source, int steps, double tolerance) {
  std::vector<Segment> out;
  for (int i = 0; i < steps; ++i)
    fit_span(source, static_cast<double>(i) / steps, static_cast<double>(i + 1) / steps, tolerance, 10, out);
  for (std::size_t i = 1; i < out.size(); ++i)
    out[i].p0 = out[i - 1].p3;
  return out;
}

} // namespace frelm
