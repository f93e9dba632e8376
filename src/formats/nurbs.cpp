#include "formats/nurbs.h"

#include "geom/cubic_fit.h"

#include <algorithm>

namespace frelm {
namespace {

struct Weighted { // x w, y w, w
  double x = 0, y = 0, w = 1;
};

// The polar form of the spline's piece over the knots k to k + 1, at `degree` arguments.
Weighted blossom(const BSpline& s, const std::vector<Weighted>& points, std::size_t k, const std::vector<double>& at) {
  const auto d = static_cast<std::size_t>(s.degree);
  std::vector<Weighted> p(points.begin() + static_cast<std::ptrdiff_t>(k - d),
                          points.begin() + static_cast<std::ptrdiff_t>(k + 1));
  for (std::size_t r = 1; r <= d; ++r)
    for (std::size_t j = d; j >= r; --j) {
      const double from = s.knots[j + k - d], to = s.knots[j + 1 + k - r];
      const double a = to > from ? (at[r - 1] - from) / (to - from) : 0;
      p[j] = {p[j - 1].x + a * (p[j].x - p[j - 1].x), p[j - 1].y + a * (p[j].y - p[j - 1].y),
              p[j - 1].w + a * (p[j].w - p[j - 1].w)};
    }
  return p[d];
}

bool sound(const BSpline& s) {
  const std::size_t n = s.points.size();
  constexpr int most_degree = 25;
  if (s.degree < 1 || s.degree > most_degree || n < static_cast<std::size_t>(s.degree) + 1 ||
      s.knots.size() != n + static_cast<std::size_t>(s.degree) + 1 || !std::is_sorted(s.knots.begin(), s.knots.end()) ||
      (!s.weights.empty() && s.weights.size() != n))
    return false;
  const auto good = [](double v) { return std::isfinite(v); };
  return std::all_of(s.points.begin(), s.points.end(), [](Point p) { return finite(p); }) &&
         std::all_of(s.knots.begin(), s.knots.end(), good) &&
         std::all_of(s.weights.begin(), s.weights.end(), [](double w) { return w > 0 && std::isfinite(w); });
}

} // namespace

std::vector<Segment> spline_cubics(const BSpline& spline, double tolerance) {
  if (!sound(spline))
    return {};
  std::vector<Weighted> points;
  bool even = true;
  for (std::size_t i = 0; i < spline.points.size(); ++i) {
    const double w = spline.weights.empty() ? 1 : spline.weights[i];
    even = even && w == (spline.weights.empty() ? 1 : spline.weights.front());
    points.push_back({spline.points[i].x * w, spline.points[i].y * w, w});
  }
  const auto d = static_cast<std::size_t>(spline.degree);
  const auto place = [](const Weighted& p) { return Point{p.x / p.w, p.y / p.w}; };
  std::vector<Segment> out;
  for (std::size_t k = d; k + d + 1 < spline.knots.size(); ++k) {
    const double from = spline.knots[k], to = spline.knots[k + 1];
    if (!(to > from))
      continue;
    const auto at = [&](std::size_t late) { // the Bézier point with so many arguments at the end
      std::vector<double> args(d, from);
      std::fill(args.begin(), args.begin() + static_cast<std::ptrdiff_t>(late), to);
      return place(blossom(spline, points, k, args));
    };
    if (even && d == 1) {
      out.push_back(Segment::line(at(0), at(1)));
    } else if (even && d == 2) {
      out.push_back(Segment::quadratic(at(0), at(1), at(2)));
    } else if (even && d == 3) {
      out.push_back(Segment::cubic(at(0), at(1), at(2), at(3)));
    } else {
      const auto of = [&](double t) { return place(blossom(spline, points, k, std::vector<double>(d, t))); };
      const FitSource source = [&](double u) {
        const double step = (to - from) * 1e-5, t = from + u * (to - from);
        return FitPlace{of(t), unit(of(std::min(t + step, to)) - of(std::max(t - step, from)))};
      };
      for (const Segment& s : fit_cubics(source, 2, tolerance))
        out.push_back(s);
    }
  }
  for (std::size_t i = 1; i < out.size(); ++i) // the same but for rounding
    out[i] = out[i].is_line() ? Segment::line(out[i - 1].p3, out[i].p3)
                              : Segment::cubic(out[i - 1].p3, out[i].p1, out[i].p2, out[i].p3);
  return out;
}

std::vector<Segment> through_points(const std::vector<Point>& given, Vec start, Vec end, bool closed) {
  std::vector<Point> p;
  for (const Point& q : given)
    if (p.empty() || distance(p.back(), q) > 0)
      p.push_back(q);
  if (closed && p.size() > 2 && p.front() == p.back())
    p.pop_back();
  if (closed && p.size() > 2) { // two more points on either side: what they bend no longer reaches the middle
    const std::size_t n = p.size(), more = std::min<std::size_t>(n, 12);
    std::vector<Point> around;
    for (std::size_t i = n - more; i < n + n + 1 + more; ++i)
      around.push_back(p[i % n]);
    const std::vector<Segment> all = through_points(around, {}, {}, false);
    std::vector<Segment> out(all.begin() + static_cast<std::ptrdiff_t>(more),
                             all.begin() + static_cast<std::ptrdiff_t>(more + n));
    if (!out.empty())
      out.back().p3 = out.front().p0;
    return out;
  }
  if (p.size() < 2)
    return {};
  const std::size_t n = p.size() - 1;
  std::vector<double> h(n);
  for (std::size_t i = 0; i < n; ++i)
    h[i] = distance(p[i], p[i + 1]);
  // Slopes m at the points: a tridiagonal system.
  std::vector<double> below(n + 1, 0), on(n + 1, 1), above(n + 1, 0);
  std::vector<Vec> m(n + 1);
  const auto end_row = [&](std::size_t i, Vec tangent, Vec chord, double& other) {
    if (length(tangent) > 0) {
      m[i] = unit(tangent);
    } else { // no curvature
      on[i] = 2, other = 1, m[i] = chord * 3.0;
    }
  };
  end_row(0, start, (p[1] - p[0]) / h[0], above[0]);
  end_row(n, end, (p[n] - p[n - 1]) / h[n - 1], below[n]);
  for (std::size_t i = 1; i < n; ++i) {
    below[i] = h[i], above[i] = h[i - 1], on[i] = 2 * (h[i - 1] + h[i]);
    m[i] = ((p[i] - p[i - 1]) * (h[i] / h[i - 1]) + (p[i + 1] - p[i]) * (h[i - 1] / h[i])) * 3.0;
  }
  for (std::size_t i = 1; i <= n; ++i) {
    const double f = below[i] / on[i - 1];
    on[i] -= f * above[i - 1];
    m[i] = m[i] - m[i - 1] * f;
  }
  m[n] = m[n] / on[n];
  for (std::size_t i = n; i-- > 0;)
    m[i] = (m[i] - m[i + 1] * above[i]) / on[i];
  std::vector<Segment> out;
  for (std::size_t i = 0; i < n; ++i)
    out.push_back(Segment::cubic(p[i], p[i] + m[i] * (h[i] / 3), p[i + 1] - m[i + 1] * (h[i] / 3), p[i + 1]));
  return out;
}

} // namespace frelm
