// 1. Points that lie irregularly, or closer than needed, are spaced evenly along their polyline.
// 2. The noise is what seven neighbours leave around their parabola, at the median. At each place the curve to the left
//    and the curve to the right are regressed as parabolas (x and y over the length), on windows as long as they leave
//    no more than the noise, at most `widest`. Where the two
//    directions at the place differ by more than `corner` and than the noise explains, more certainly than anywhere
//    within half a window around, there is a corner.
// 3. A corner parts the points where two parabolas leave the least sum of squares, tried at every point nearby; it lies
//    where two cubics cross, each over the longest window that leaves no more than the noise.
// 4. Between corners each place is smoothed by a parabola over a window that ends at the corners.
//
// Error budget (noise uniform within ±e, n points in a window of w mm): a direction is off by e/√3 · √(192/n)/w, half a
// degree for e = 0.02 mm, w = 2.5 mm and 55 points; a smoothed place by about e/√n.
#include "geom/noisy_run.h"

#include "geom/along.h"
#include "geom/row_fit.h"

#include <array>
#include <optional>

namespace frelm {
namespace {

constexpr double widest = 60, smoothing = 30; // tolerances: windows for corners, half windows for smoothing
constexpr double for_places = 300;            // tolerances: windows for a corner's place,
constexpr double strictly_noise = 1.05;       // which may scatter so much more than the noise
constexpr int least_window = 4;               // in a window to one side; it has to leave something over
constexpr int fewest_around = 2;              // to each side, for smoothing
constexpr double spacing_of_tolerance = 0.8;  // points closer than this are not needed
constexpr double regular = 3, dense = 4; // points whose gaps vary less, and that are not closer, are taken as they are
constexpr int noise_reach = 3;           // points to each side, for the noise
constexpr double median_of_four = 0.916; // of the root of a mean of four squares of normal errors
constexpr double above_noise = 1.25;     // a window may scatter so much more,
constexpr double above_few = 1.5;        // and by this over √points more where they are few,
constexpr double at_least = 0.01;        // and so many tolerances
constexpr double strict_floor = 0.001;
constexpr double no_worse = 1.002;     // times the cubic's scatter, for a parabola to be taken instead
constexpr double certain = 6;          // times a direction's own scatter
constexpr double straight_share = 0.1; // of the tolerance
constexpr double most_straight = 0.5;  // of the tolerance

struct Parabola : RowParabola {
  double squares = 0; // sum of squared distances
  std::size_t count = 0;
};

// A cubic through points at whole steps u, counted from its base; c by powers of u·scale.
struct Cubic {
  Point base;
  double scale = 1;
  std::array<Vec, 4> c;
  double scatter = 0;
  Point at(double u) const {
    const double x = u * scale;
    return base + c[0] + (c[1] + (c[2] + c[3] * x) * x) * x;
  }
  Vec derivative(double u) const {
    const double x = u * scale;
    return (c[1] + (c[2] * 2.0 + c[3] * (3 * x)) * x) * scale;
  }
};

class Row {
public:
  Row(std::vector<Point> points, bool closed, const NoisyOptions& options)
      : points_(std::move(points)), closed_(closed), options_(options), n_(static_cast<int>(points_.size())) {
    double length = 0;
    for (int i = 1; i < n_; ++i)
      length += distance(point(i - 1), point(i));
    step_ = length / std::max(1, n_ - 1);
    std::vector<double> scatters;
    const int margin = closed_ ? 0 : noise_reach;
    for (int i = margin; i < n_ - margin; i += 1 + noise_reach)
      scatters.push_back(scatter(regress(i - noise_reach, i + noise_reach, i)));
    if (scatters.empty())
      return;
    const auto middle = scatters.begin() + static_cast<std::ptrdiff_t>(scatters.size() / 2);
    std::nth_element(scatters.begin(), middle, scatters.end());
    noise_ = *middle / median_of_four;
  }

  std::vector<NoisyStretch> stretches() const {
    std::vector<Corner> corners = find_corners();
    std::vector<NoisyStretch> out;
    if (!closed_) {
      corners.insert(corners.begin(), Corner{0, point(0)});
      corners.push_back({n_ - 1, point(n_ - 1)});
    }
    if (corners.empty()) {
      out.push_back(smoothed(0, n_, {}));
      return out;
    }
    for (std::size_t k = 0; k + (closed_ ? 0 : 1) < corners.size(); ++k) {
      const Corner &a = corners[k], &b = corners[(k + 1) % corners.size()];
      const Point ends[] = {a.place, b.place};
      out.push_back(smoothed(a.index, b.index > a.index ? b.index : b.index + n_, ends));
    }
    return out;
  }

private:
  struct Corner {
    int index = 0;
    Point place;
  };
  Point point(int i) const {
    return points_[static_cast<std::size_t>(closed_ ? ((i % n_) + n_) % n_ : std::clamp(i, 0, n_ - 1))];
  }
  // At most a third of the row, so that windows don't meet themselves on a loop.
  int steps(double mm) const {
    return std::max(2, std::min(n_ / 3, std::max(least_window, static_cast<int>(std::min<double>(n_, mm / step_)))));
  }

  Parabola regress(int first, int last, int origin) const {
    Parabola f{row_parabola([this](int i) { return point(i); }, first, last, origin), 0,
               static_cast<std::size_t>(last - first) + 1};
    for (int i = first; i <= last; ++i) { // across the curve: along it points may lie as they like
      const double u = i - origin, off = cross(unit(f.derivative(u)), point(i) - f.at(u));
      f.squares += off * off;
    }
    return f;
  }
  bool fits(const Parabola& f) const {
    const double few = 1 + above_few / std::sqrt(static_cast<double>(f.count));
    return scatter(f) <= above_noise * few * noise_ + at_least * options_.tolerance;
  }
  double scatter(const Parabola& f) const {
    return std::sqrt(f.squares / static_cast<double>(std::max<std::size_t>(f.count, 4) - 3));
  }
  // The longest window on one side (−1 or 1) of i that still fits; without i, where spacing may have cut a corner.
  Parabola side(int i, int way) const {
    int window = steps(widest * options_.tolerance);
    for (;; window = std::max(least_window, window * 2 / 3)) {
      int reach = window;
      if (!closed_)
        reach = std::min(reach, way < 0 ? i : n_ - 1 - i);
      const Parabola f = way < 0 ? regress(i - reach, i - 1, i) : regress(i + 1, i + reach, i);
      if (window <= least_window || fits(f))
        return f;
    }
  }

  struct Jump {
    double turn = 0;   // radians
    double needed = 0; // what the noise may do
    int window = 0;    // steps
    double certainty() const { return turn / std::max(needed, 1e-12); }
  };
  Jump jump_at(int i) const {
    const Parabola l = side(i, -1), r = side(i, 1);
    const double turn = std::abs(std::atan2(cross(l.b, r.b), dot(l.b, r.b)));
    const auto noise = [&](const Parabola& f) {
      const double w = static_cast<double>(f.count) * std::max(length(f.b), 1e-12);
      return std::max(scatter(f), noise_) * std::sqrt(192 / static_cast<double>(f.count)) / w;
    };
    return {turn, certain * std::hypot(noise(l), noise(r)), static_cast<int>(std::min(l.count, r.count))};
  }

  std::vector<Corner> find_corners() const {
    const int margin = closed_ ? 0 : least_window;
    const int stride = std::max(1, least_window / 2);
    std::vector<std::pair<int, Jump>> seen;
    for (int i = margin; i < n_ - margin; i += stride)
      seen.push_back({i, jump_at(i)});
    const int count = static_cast<int>(seen.size());
    std::vector<Corner> out;
    for (int k = 0; k < count; ++k) {
      const auto& [i, jump] = seen[static_cast<std::size_t>(k)];
      if (jump.turn < std::max(options_.corner, jump.needed))
        continue;
      bool highest = true;
      const int reach = std::max(1, jump.window / 2 / stride);
      for (int o = -reach; o <= reach && highest; ++o) {
        const int at = closed_ ? ((k + o) % count + count) % count : k + o;
        if (o == 0 || at < 0 || at >= count)
          continue;
        const double other = seen[static_cast<std::size_t>(at)].second.certainty(), own = jump.certainty();
        highest = other < own || (other == own && o > 0);
      }
      if (highest)
        out.push_back(settle(i, jump.window, stride));
    }
    std::sort(out.begin(), out.end(), [](const Corner& a, const Corner& b) { return a.index < b.index; });
    const int apart = least_window;
    for (std::size_t k = 1; k < out.size();)
      if (out[k].index - out[k - 1].index < apart)
        out.erase(out.begin() + static_cast<std::ptrdiff_t>(k));
      else
        ++k;
    return out;
  }

  // The point near i that best parts two parabolas, and where longer curves to both sides of it cross.
  Corner settle(int i, int window, int stride) const {
    int best = i;
    window = std::max(window, 3 * least_window);
    double least = std::numeric_limits<double>::infinity();
    for (int at = i - 2 * stride; at <= i + 2 * stride; ++at) {
      if (!closed_ && (at < least_window || at > n_ - 1 - least_window))
        continue;
      const int left = closed_ ? window : std::min(window, at),
                right = closed_ ? window : std::min(window, n_ - 1 - at);
      const double squares = regress(at - left, at - 1, at).squares + regress(at + 1, at + right, at).squares;
      if (squares < least)
        least = squares, best = at;
    }
    // Where the cubics cross says better which points belong to which side; then they are taken once more.
    Point place = point(best);
    for (int round = 0; round < 3; ++round) {
      const Cubic l = long_side(best, -1), r = long_side(best, 1);
      const auto met = row_crossing(l, r);
      const double reach = 6 * stride; // steps
      if (!met || std::abs(met->on_a) > reach) {
        place = lerp(l.at(0), r.at(0), 0.5);
        break;
      }
      place = l.at(met->on_a);
      const int moved = static_cast<int>(std::lround(met->on_a));
      if (moved == 0 || (!closed_ && (best + moved < least_window || best + moved > n_ - 1 - least_window)))
        break;
      best += moved;
    }
    return {closed_ ? ((best % n_) + n_) % n_ : best, place};
  }
  // A cubic over the longest window on one side of i that leaves no more than the noise; a parabola where one fits that
  // window too, because the noise moves its end less.
  Cubic long_side(int i, int way) const {
    const int room = closed_ ? n_ / 3 : way < 0 ? i : n_ - 1 - i;
    const auto good = [&](const Cubic& f) {
      return f.scatter <= strictly_noise * noise_ + strict_floor * options_.tolerance;
    };
    for (int window = std::min(room, steps(for_places * options_.tolerance));; window = window * 7 / 8) {
      const Cubic cubic = regress_cubic(i, way, window, 3);
      if (window > 2 * least_window && !good(cubic))
        continue;
      const Cubic parabola = regress_cubic(i, way, window, 2);
      return parabola.scatter <= no_worse * cubic.scatter ? parabola : cubic;
    }
  }
  Cubic regress_cubic(int i, int way, int window, int degree) const {
    const auto unknowns = static_cast<std::size_t>(degree) + 1;
    Cubic f;
    f.base = point(i), f.scale = 1.0 / window;
    std::array<std::array<double, 6>, 4> m{}; // normal equations; right sides in the last two columns
    for (int k = 1; k <= window; ++k) {
      const double u = way * k * f.scale;
      const std::array<double, 4> powers{1, u, u * u, u * u * u};
      const Vec p = point(i + way * k) - f.base;
      for (std::size_t a = 0; a < unknowns; ++a) {
        for (std::size_t b = 0; b < unknowns; ++b)
          m[a][b] += powers[a] * powers[b];
        m[a][4] += powers[a] * p.x, m[a][5] += powers[a] * p.y;
      }
    }
    for (std::size_t a = 0; a < unknowns; ++a)
      for (std::size_t r = 0; r < unknowns; ++r) {
        if (r == a || !(m[a][a] > 0))
          continue;
        const double share = m[r][a] / m[a][a];
        for (std::size_t c = a; c < 6; ++c)
          m[r][c] -= share * m[a][c];
      }
    for (std::size_t a = 0; a < unknowns; ++a)
      f.c[a] = m[a][a] > 0 ? Vec{m[a][4] / m[a][a], m[a][5] / m[a][a]} : Vec{};
    double squares = 0;
    for (int k = 1; k <= window; ++k) {
      const double off = cross(unit(f.derivative(way * k)), point(i + way * k) - f.at(way * k));
      squares += off * off;
    }
    f.scatter = std::sqrt(squares / std::max(1, window - degree - 1));
    return f;
  }

  NoisyStretch smoothed(int first, int last, std::span<const Point> ends) const {
    NoisyStretch out;
    const int half = steps(smoothing * options_.tolerance);
    const bool loop = ends.empty();
    for (int i = first; i <= last; ++i) {
      int reach = half;
      Parabola f;
      for (;; reach = std::max(fewest_around, reach * 2 / 3)) {
        const int from = loop ? i - reach : std::max(first, i - reach),
                  to = loop ? i + reach : std::min(last, i + reach);
        f = regress(from, to, i);
        if (reach <= fewest_around || fits(f))
          break;
      }
      out.track.push_back({f.a, unit(f.b)});
    }
    if (loop)
      out.track.back() = out.track.front();
    else
      out.track.front().point = ends[0], out.track.back().point = ends[1];
    for (int i = first; i <= last; ++i) {
      const TrackPoint& t = out.track[static_cast<std::size_t>(i - first)];
      if (loop || (i > first && i < last))
        out.noise = std::max(out.noise, std::abs(cross(t.direction, point(i) - t.point)));
    }
    if (!loop) {
      const Point a = ends[0], b = ends[1];
      double off = 0;
      for (const TrackPoint& t : out.track)
        off = std::max(off, std::abs(cross(unit(b - a), t.point - a)));
      out.straight =
          off <= std::clamp(out.noise, straight_share * options_.tolerance, most_straight * options_.tolerance);
    }
    return out;
  }

  std::vector<Point> points_;
  bool closed_;
  const NoisyOptions& options_;
  int n_;
  double step_ = 0;  // mm
  double noise_ = 0; // mm, root mean square
};

} // namespace

std::vector<NoisyStretch> read_noisy_run(const std::vector<Point>& points, bool closed, const NoisyOptions& options) {
  std::vector<double> gaps;
  for (std::size_t i = 1; i < points.size(); ++i)
    gaps.push_back(distance(points[i - 1], points[i]));
  const auto middle = gaps.begin() + static_cast<std::ptrdiff_t>(gaps.size() / 2);
  std::nth_element(gaps.begin(), middle, gaps.end());
  const double widest_gap = *std::max_element(gaps.begin(), gaps.end());
  const double spacing = std::max(spacing_of_tolerance * options.tolerance, *middle);
  if (widest_gap <= regular * *middle && *middle >= spacing / dense)
    return Row(points, closed, options).stretches();
  const auto count = static_cast<std::size_t>(std::ceil(row_length(points, closed) / spacing));
  return Row(spaced_evenly(points, std::max<std::size_t>(3, count), closed), closed, options).stretches();
}

} // namespace frelm
