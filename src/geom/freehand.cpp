// The points are spaced evenly by arc length, weighed with a Gaussian whose standard deviation is the smoothing, and
// the result is followed by cubics (geom/follow), with directions taken from the smoothed points.
// Nothing but the stroke's own length and the smoothing sets a scale, so a scaled stroke gives the scaled curve.
// Error budget: spacing at most a quarter of the smoothing; the cubics pass every smoothed point within
// the tolerance; between points the smoothed stroke is straight to far below it.
#include "geom/freehand.h"

#include "geom/along.h"
#include "geom/follow.h"

namespace frelm {
namespace {

constexpr double same_point = 1e-6;                                      // mm
constexpr double finest_spacing = 1.0 / 4000, widest_spacing = 1.0 / 64; // of the stroke's length
constexpr double spacing_of_smoothing = 0.25;
constexpr std::size_t fewest_points = 8, most_points = 20000;
constexpr std::size_t most_targets = 64; // the smoothed points still wobble a little

std::vector<Point> without_repeats(const std::vector<Point>& points) {
  std::vector<Point> out;
  for (const Point p : points)
    if (out.empty() || distance(out.back(), p) > same_point)
      out.push_back(p);
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

// The smoothed points with the directions of the parabolas through three of them.
std::vector<TrackPoint> track_of(std::vector<Point> points, bool closed) {
  if (closed)
    points.push_back(points.front());
  const std::size_t n = points.size();
  const auto direction_at = [&](std::size_t i) {
    if (closed && (i == 0 || i + 1 == n))
      return unit(points[1] - points[n - 2]);
    if (n == 2)
      return unit(points[1] - points[0]);
    if (i == 0)
      return unit((points[1] - points[0]) * 4 - (points[2] - points[0]));
    if (i + 1 == n)
      return unit((points[n - 1] - points[n - 2]) * 4 - (points[n - 1] - points[n - 3]));
    return unit(points[i + 1] - points[i - 1]);
  };
  std::vector<TrackPoint> out;
  for (std::size_t i = 0; i < n; ++i)
    out.push_back({points[i], direction_at(i)});
  return out;
}

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
  const auto count = static_cast<std::size_t>(row_length(points, options.closed) / spacing);
  const std::vector<Point> even = spaced_evenly(points, std::clamp(count, fewest_points, most_points), options.closed);
  double length = 0;
  for (std::size_t i = 1; i < even.size(); ++i)
    length += distance(even[i - 1], even[i]);
  const double step = length / static_cast<double>(even.size() - 1);
  if (!(step > 0))
    return out;
  // More than a quarter of the stroke would melt it into its chord.
  const double sigma = std::min(smoothing, length / 4) / step;
  const std::vector<TrackPoint> track = track_of(smoothed(even, sigma, options.closed), options.closed);
  const FollowOptions following{options.tolerance * drawn, {}, most_targets};
  out.segments = options.closed ? follow_loop(track, following) : follow(track, following);
  return out;
}

} // namespace frelm
