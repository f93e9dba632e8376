// The points are spaced evenly by arc length, weighed with a Gaussian whose standard deviation is the smoothing, and
// the result is followed by cubics: each as long as fits (doubling, then bisection), with the direction at its ends
// taken from the smoothed points around it, so that neighbours meet smoothly.
// Nothing but the stroke's own length and the smoothing sets a scale, so a scaled stroke gives the scaled curve.
// Error budget: spacing at most a quarter of the smoothing; the cubics pass every smoothed point within
// the tolerance; between points the smoothed stroke is straight to far below it.
#include "geom/freehand.h"

#include "geom/cubic_fit.h"

#include <optional>

namespace frelm {
namespace {

constexpr double same_point = 1e-6;                                      // mm
constexpr double finest_spacing = 1.0 / 4000, widest_spacing = 1.0 / 64; // of the stroke's length
constexpr double spacing_of_smoothing = 0.25;
constexpr std::size_t most_points = 20000;

std::vector<Point> without_repeats(const std::vector<Point>& points) {
  std::vector<Point> out;
  for (const Point p : points)
    if (out.empty() || distance(out.back(), p) > same_point)
      out.push_back(p);
  return out;
}

// Evenly spaced along the polyline; the first and last point kept. A closed stroke's last point is not its first.
std::vector<Point> spaced_evenly(std::vector<Point> points, double spacing, bool closed) {
  if (closed && distance(points.front(), points.back()) > same_point)
    points.push_back(points.front());
  std::vector<double> along{0};
  for (std::size_t i = 1; i < points.size(); ++i)
    along.push_back(along.back() + distance(points[i - 1], points[i]));
  const auto n = std::clamp<std::size_t>(static_cast<std::size_t>(along.back() / spacing), 8, most_points);
  std::vector<Point> out;
  std::size_t i = 0;
  for (std::size_t k = 0; k <= n; ++k) {
    const double s = along.back() * static_cast<double>(k) / static_cast<double>(n);
    while (i + 2 < along.size() && along[i + 1] < s)
      ++i;
    const double part = along[i + 1] - along[i];
    out.push_back(lerp(points[i], points[i + 1], part > 0 ? std::clamp((s - along[i]) / part, 0.0, 1.0) : 0));
  }
  if (closed)
    out.pop_back();
  return out;
}

std::vector<Point> smoothed(const std::vector<Point>& points, double sigma_steps, bool closed) {
  if (!(sigma_steps > 0.05))
    return points;
  const auto n = static_cast<std::ptrdiff_t>(points.size());
  const auto reach = static_cast<std::ptrdiff_t>(std::ceil(3 * sigma_steps));
  std::vector<double> weight;
  for (std::ptrdiff_t k = 0; k <= reach; ++k) {
    const double x = static_cast<double>(k) / sigma_steps;
    weight.push_back(std::exp(-x * x / 2));
  }
  const auto point = [&](std::ptrdiff_t i) -> Point {
    if (closed)
      return points[static_cast<std::size_t>(((i % n) + n) % n)];
    if (i < 0)
      return points.front() * 2 - points[static_cast<std::size_t>(std::min(-i, n - 1))];
    if (i >= n)
      return points.back() * 2 - points[static_cast<std::size_t>(std::max<std::ptrdiff_t>(2 * (n - 1) - i, 0))];
    return points[static_cast<std::size_t>(i)];
  };
  std::vector<Point> out;
  for (std::ptrdiff_t i = 0; i < n; ++i) {
    Point sum = point(i);
    double total = 1;
    for (std::ptrdiff_t k = 1; k <= reach; ++k) {
      const double w = weight[static_cast<std::size_t>(k)];
      sum += (point(i - k) + point(i + k)) * w;
      total += 2 * w;
    }
    out.push_back(sum / total);
  }
  return out;
}

class Follower {
public:
  Follower(std::vector<Point> points, double tolerance, bool closed)
      : points_(std::move(points)), tolerance_(tolerance), closed_(closed) {
    if (closed_)
      points_.push_back(points_.front());
  }

  std::vector<Segment> run() {
    std::vector<Segment> out;
    for (std::size_t from = 0; from + 1 < points_.size();) {
      // Doubling to the first miss, then bisection between the last hit and it.
      std::size_t good = from + 1, reach = 4;
      std::optional<Segment> best = fit(from, good).cubic;
      std::size_t bad = 0;
      while (good < points_.size() - 1) {
        const std::size_t to = std::min(from + reach, points_.size() - 1);
        const CubicFit f = fit(from, to);
        if (f.worst > tolerance_) {
          bad = to;
          break;
        }
        best = f.cubic, good = to, reach *= 2;
      }
      while (bad > good + 1) {
        const std::size_t middle = (good + bad) / 2;
        const CubicFit f = fit(from, middle);
        if (f.worst > tolerance_)
          bad = middle;
        else
          best = f.cubic, good = middle;
      }
      out.push_back(*best);
      from = good;
    }
    return out;
  }

private:
  Vec direction_at(std::size_t i) const {
    const std::size_t n = points_.size();
    if (closed_ && (i == 0 || i + 1 == n))
      return unit(points_[1] - points_[n - 2]);
    if (i == 0) // the parabola through three points
      return n > 2 ? unit((points_[1] - points_[0]) * 4 - (points_[2] - points_[0])) : unit(points_[1] - points_[0]);
    if (i + 1 == n)
      return n > 2 ? unit((points_[n - 1] - points_[n - 2]) * 4 - (points_[n - 1] - points_[n - 3]))
                   : unit(points_[n - 1] - points_[n - 2]);
    return unit(points_[i + 1] - points_[i - 1]);
  }
  CubicFit fit(std::size_t from, std::size_t to) const {
    std::vector<Point> targets;
    std::vector<double> t;
    const std::size_t step = std::max<std::size_t>(1, (to - from) / 64);
    for (std::size_t i = from + step; i < to; i += step) {
      targets.push_back(points_[i]);
      t.push_back(static_cast<double>(i - from) / static_cast<double>(to - from));
    }
    const double handle = distance(points_[from], points_[to]) / 3;
    return fit_cubic(points_[from], direction_at(from), direction_at(to), points_[to], targets, t, handle, handle,
                     0.5 * tolerance_);
  }

  std::vector<Point> points_;
  double tolerance_;
  bool closed_;
};

} // namespace

Contour smooth_stroke(const std::vector<Point>& raw, const FreehandOptions& options) {
  Contour out;
  out.closed = options.closed;
  if (!std::isfinite(options.smoothing) || !std::all_of(raw.begin(), raw.end(), finite))
    return out;
  const std::vector<Point> points = without_repeats(raw);
  if (points.size() < 2)
    return out;
  const double smoothing = std::max(options.smoothing, 0.0);
  double drawn = 0;
  for (std::size_t i = 1; i < points.size(); ++i)
    drawn += distance(points[i - 1], points[i]);
  const double spacing = std::clamp(spacing_of_smoothing * smoothing, finest_spacing * drawn, widest_spacing * drawn);
  const std::vector<Point> even = spaced_evenly(points, spacing, options.closed);
  double length = 0;
  for (std::size_t i = 1; i < even.size(); ++i)
    length += distance(even[i - 1], even[i]);
  const double step = length / static_cast<double>(even.size() - 1);
  if (!(step > 0))
    return out;
  // More than a quarter of the stroke would melt it into its chord.
  const double sigma = std::min(smoothing, length / 4) / step;
  out.segments = Follower(smoothed(even, sigma, options.closed), options.tolerance * drawn, options.closed).run();
  for (std::size_t i = 1; i < out.segments.size(); ++i)
    out.segments[i].p0 = out.segments[i - 1].p3;
  if (out.closed && !out.segments.empty())
    out.segments.back().p3 = out.segments.front().p0;
  return out;
}

} // namespace frelm
