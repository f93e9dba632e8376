#include "geom/cubic_fit.h"

#include "geom/along.h"
#include "geom/powers.h"

#include <array>

namespace frelm {
namespace {

constexpr int most_rounds = 24;
constexpr int patience = 2; // rounds without a gain of a tenth
constexpr int most_weighings = 8;
constexpr int first_weighings = 4;     // after which half the way to what is needed must be done
constexpr double worth_weighing = 1.5; // times what is needed: of 59 fits beyond, none came down so far
constexpr int most_halvings = 4;       // of a step that leads far off
constexpr double same_foot = 1e-4; // of the parameter: what is left is its square, and only makes distances look larger
constexpr double far_off = 1.5;
constexpr double shortest_handle = 0.01, longest_handle = 2; // of the chord
constexpr double widest_turn = 2 * pi / 180;                 // of a free end from the direction given

// The parameter near t whose place is nearest to p: Newton on (C − p)·C' with the curvature term kept when it helps.
double nearest_parameter(const Powers& c, Point p, double t) {
  for (int i = 0; i < 4; ++i) {
    const Vec r = c.at(t) - p, d = c.derivative(t);
    const double dd = dot(d, d);
    double h = dd + dot(r, c.second(t));
    if (h < 0.1 * dd)
      h = dd;
    if (!(h > 0))
      break;
    const double before = t;
    t = std::clamp(t - dot(r, d) / h, 0.0, 1.0);
    if (std::abs(t - before) < same_foot)
      break;
  }
  return t;
}

double worst_distance(const Powers& c, std::span<const Point> targets, std::vector<double>& t) {
  double worst = 0;
  for (std::size_t i = 0; i < targets.size(); ++i) {
    t[i] = nearest_parameter(c, targets[i], t[i]);
    const Vec off = c.at(t[i]) - targets[i];
    worst = std::max(worst, dot(off, off));
  }
  return std::sqrt(worst);
}

// The handles as vectors from their nodes; those that are not free are their direction times a length.
struct Handles {
  Vec start, end;
};

class HandleFit {
public:
  HandleFit(Point p0, Vec start, Vec end, Point p3, FitFreedom freedom)
      : p0_(p0), p3_(p3), start_(start), end_(end), freedom_(freedom), chord_(std::max(distance(p0, p3), 1e-9)) {}

  Segment cubic(const Handles& h) const { return Segment::cubic(p0_, p0_ + h.start, p3_ - h.end, p3_); }

  // One Gauss–Newton step on the normal distances at the current parameters.
  bool improve(const Powers& c, std::span<const Point> targets, std::span<const double> t,
               std::span<const double> weights, Handles& h) const {
    // Unknown k moves the cubic by weight(t) · way[k]; those of the start first.
    std::array<Vec, unknowns> way;
    std::size_t n = 0;
    const auto columns = [&](Vec direction, bool free) {
      way[n++] = direction;
      if (free)
        way[n++] = normal(direction);
    };
    columns(start_, freedom_.start);
    const std::size_t of_end = n;
    columns(-end_, freedom_.end);
    Matrix m{};
    for (std::size_t i = 0; i < targets.size(); ++i) {
      const Vec d = c.derivative(t[i]);
      const double l = length(d);
      if (!(l > 0))
        continue;
      const Vec across = normal(d) / l;
      const double u = 1 - t[i], w0 = 3 * u * u * t[i], w1 = 3 * u * t[i] * t[i];
      std::array<double, unknowns + 1> row{};
      for (std::size_t k = 0; k < n; ++k)
        row[k] = (k < of_end ? w0 : w1) * dot(way[k], across);
      row[unknowns] = dot(targets[i] - c.at(t[i]), across);
      const double weight = weights.empty() ? 1 : weights[i];
      for (std::size_t a = 0; a < n; ++a)
        for (std::size_t b = a; b <= unknowns; b = b + 1 == n ? unknowns : b + 1)
          m[a][b] += weight * row[a] * row[b];
    }
    std::array<double, unknowns> step{};
    if (!solve(m, n, step))
      return false;
    Vec start = h.start, end = h.end;
    for (std::size_t k = 0; k < n; ++k)
      k < of_end ? start += way[k] * step[k] : end += way[k] * -step[k];
    h.start = bounded(start, start_, freedom_.start), h.end = bounded(end, end_, freedom_.end);
    return true;
  }

private:
  static constexpr std::size_t unknowns = 4;
  using Matrix = std::array<std::array<double, unknowns + 1>, unknowns>;

  static Vec normal(Vec d) { return {-d.y, d.x}; }

  // Symmetric elimination of the upper triangle, lightly damped; the right side is the last column.
  static bool solve(Matrix& m, std::size_t n, std::array<double, unknowns>& x) {
    double trace = 0;
    for (std::size_t k = 0; k < n; ++k)
      trace += m[k][k];
    for (std::size_t k = 0; k < n; ++k)
      m[k][k] += 1e-12 * trace;
    for (std::size_t k = 0; k < n; ++k) {
      if (!(m[k][k] > 1e-16 * trace))
        return false;
      for (std::size_t r = k + 1; r < n; ++r) {
        const double f = m[k][r] / m[k][k];
        for (std::size_t c = r; c < n; ++c)
          m[r][c] -= f * m[k][c];
        m[r][unknowns] -= f * m[k][unknowns];
      }
    }
    for (std::size_t k = n; k-- > 0;) {
      x[k] = m[k][unknowns];
      for (std::size_t c = k + 1; c < n; ++c)
        x[k] -= m[k][c] * x[c];
      x[k] /= m[k][k];
    }
    return true;
  }
  Vec bounded(Vec handle, Vec direction, bool free) const {
    const double along = std::clamp(dot(handle, direction), shortest_handle * chord_, longest_handle * chord_);
    const double across = free ? cross(direction, handle) : 0;
    const double most = along * std::tan(widest_turn);
    return direction * along + normal(direction) * std::clamp(across, -most, most);
  }

  Point p0_, p3_;
  Vec start_, end_;
  FitFreedom freedom_;
  double chord_;
};

// Lawson's method (Contributions to the theory of linear least maximum approximation, 1961): each round multiplies the
// weights by the errors, so that the largest error comes down to where all large ones are alike.
void weigh_worst(const HandleFit& handles, std::span<const Point> targets, std::vector<double>& t, Handles h,
                 double needed, CubicFit& best) {
  std::vector<double> weights(targets.size(), 1.0);
  Segment cubic = best.cubic;
  const double halfway = (worst_distance(Powers(cubic), targets, t) + needed) / 2;
  for (int round = 0; round < most_weighings && best.worst > needed; ++round) {
    if (round == first_weighings && best.worst > halfway)
      return;
    double sum = 0;
    for (std::size_t i = 0; i < targets.size(); ++i) {
      weights[i] *= distance(cubic.at(t[i]), targets[i]);
      sum += weights[i];
    }
    if (!(sum > 0))
      return;
    for (double& w : weights)
      w = std::max(w * static_cast<double>(targets.size()) / sum, 1e-3);
    if (!handles.improve(Powers(cubic), targets, t, weights, h))
      return;
    cubic = handles.cubic(h);
    const double worst = worst_distance(Powers(cubic), targets, t);
    if (worst > 2 * best.worst)
      return;
    if (worst < best.worst)
      best = {cubic, worst};
  }
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
      fit_cubic(a.point, a.direction, b.direction, b.point, targets, t, handle, handle, {0.3 * tolerance});
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
                   std::span<const double> guess, double start_handle, double end_handle, const FitAim& aim) {
  const HandleFit handles(p0, start, end, p3, aim.free);
  std::vector<double> t(guess.begin(), guess.end());
  Handles h{start * start_handle, end * end_handle};
  CubicFit best{handles.cubic(h), 0};
  best.worst = worst_distance(Powers(best.cubic), targets, t);
  std::vector<double> now = t;
  Segment cubic = best.cubic;
  Handles held = h; // of the best so far
  double gained = best.worst;
  for (int round = 0, last_gain = 0; round < most_rounds && best.worst > aim.enough; ++round) {
    if (best.worst < 0.9 * gained)
      gained = best.worst, last_gain = round;
    if (round - last_gain > patience)
      break;
    if (!handles.improve(Powers(cubic), targets, now, {}, h))
      break;
    for (int halving = 0;; ++halving) {
      cubic = handles.cubic(h);
      const double worst = worst_distance(Powers(cubic), targets, now);
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
  if (best.worst > aim.needed && best.worst <= worth_weighing * aim.needed)
    weigh_worst(handles, targets, now, held, aim.needed, best);
  return best;
}

std::vector<Segment> fit_cubics(const FitSource& source, int steps, double tolerance) {
  std::vector<Segment> out;
  for (int i = 0; i < steps; ++i)
    fit_span(source, static_cast<double>(i) / steps, static_cast<double>(i + 1) / steps, tolerance, 10, out);
  connect(out);
  return out;
}

} // namespace frelm
