#include "geom/pixel_line.h"

#include "geom/along.h"
#include "geom/follow.h"
#include "geom/row_fit.h"

#include <optional>

namespace frelm {
namespace {

constexpr double usual_noise = 0.3;                    // px: with more, all lengths grow as it does
constexpr double spacing = 0.7;                        // px, of the points that are looked at
constexpr double windows[] = {3.5, 5, 7, 10};          // px to each side, for corners
constexpr double least_seen = 0.7;                     // of the noise: how far a corner's parabola passes by
constexpr double rounded = 1.4;                        // px to each side of a corner that the pixels have rounded
constexpr double side_lengths[] = {14, 10, 7, 5, 3.5}; // px, of what is carried on to the corner
constexpr double no_bend = 0.5;                        // of the noise: sides that bend less are carried on straight
constexpr double farthest_tip = 3;                     // px from the ring to where its sides meet,
constexpr double along_ring = 1;                       // px that a corner may be found beside its place
constexpr double cut_by = 0.35, cut_at_least = 0.25;   // or so far, over the sine of half the corner, and a little
constexpr double smoothing[] = {5, 3.5, 2.2};          // px to each side
constexpr std::size_t most_targets = 48;               // that a fit sees
constexpr double lost = 3;                             // times the noise, and the tolerance: then lines stay lines
constexpr std::size_t looks_at_cubic = 24;             // for how far it lies off
constexpr int longest_line = 400;                      // points, of what stands in where curves would cross
constexpr std::size_t fewest = 12;                     // points that can be looked at so

class Ring {
public:
  Ring(std::vector<Point> points, double step, const PixelLineOptions& options)
      : points_(std::move(points)), n_(static_cast<int>(points_.size())), step_(step), o_(options) {}

  PixelLine redrawn() const {
    const std::vector<int> corners = find_corners();
    PixelLine out;
    if (corners.empty()) {
      FollowOptions following;
      following.tolerance = o_.tolerance, following.most_targets = most_targets;
      add(out, 0, n_, nullptr, follow_loop(smoothed(0, n_, nullptr), following));
      return out;
    }
    std::vector<Point> tips;
    for (std::size_t k = 0; k < corners.size(); ++k)
      tips.push_back(tip(corners, k));
    for (std::size_t k = 0; k < corners.size(); ++k) {
      const std::size_t l = (k + 1) % corners.size();
      const int to = corners[l] > corners[k] ? corners[l] : corners[l] + n_;
      const Point ends[] = {tips[k], tips[l]};
      add(out, corners[k], to, ends, between(corners[k], to, ends));
    }
    return out;
  }

private:
  Point point(int i) const { return points_[static_cast<std::size_t>(((i % n_) + n_) % n_)]; }
  auto points() const {
    return [this](int i) { return point(i); };
  }
  int steps(double px) const { return std::max(2, static_cast<int>(std::lround(px * o_.noise / usual_noise / step_))); }

  // How far the parabola through w points to each side passes by the middle one.
  double passed_by(int i, int w) const {
    const double m = w, s0 = 2 * m + 1, s2 = m * (m + 1) * (2 * m + 1) / 3, s4 = s2 * (3 * m * m + 3 * m - 1) / 5;
    const double d = s0 * s4 - s2 * s2;
    Vec sum;
    for (int k = -w; k <= w; ++k)
      sum += (point(i + k) - point(i)) * ((s4 - s2 * k * k) / d);
    return length(sum);
  }

  // From short windows to long ones; a longer one is no use where it would hold a corner that is known.
  std::vector<int> find_corners() const {
    std::vector<int> out;
    const double share = 3.0 / 16 * std::sin(o_.sharper_than / 2);
    std::vector<double> off(static_cast<std::size_t>(n_));
    for (const double px : windows) {
      const int w = steps(px);
      if (2 * w + 1 > n_ * 4 / 5)
        break;
      const double least = std::max(least_seen * o_.noise, share * px * o_.noise / usual_noise);
      for (int i = 0; i < n_; ++i)
        off[static_cast<std::size_t>(i)] = passed_by(i, w);
      std::vector<int> found;
      for (int i = 0; i < n_; ++i) {
        const double own = off[static_cast<std::size_t>(i)];
        if (own < least)
          continue;
        bool highest = true;
        for (int k = -w; k <= w && highest; ++k) {
          const double other = off[static_cast<std::size_t>(((i + k) % n_ + n_) % n_)];
          highest = k == 0 || other < own || (other == own && k > 0);
        }
        if (highest && std::none_of(out.begin(), out.end(), [&](int c) { return apart(c, i) <= w; }))
          found.push_back(i);
      }
      out.insert(out.end(), found.begin(), found.end());
    }
    std::sort(out.begin(), out.end());
    return out;
  }
  int apart(int a, int b) const {
    const int d = std::abs(a - b);
    return std::min(d, n_ - d);
  }

  // Across it, the farthest of the points.
  double worst_of(const RowParabola& f, int first, int last, int origin) const {
    double worst = 0;
    for (int i = first; i <= last; ++i) {
      const double u = i - origin;
      worst = std::max(worst, std::abs(cross(unit(f.derivative(u)), point(i) - f.at(u))));
    }
    return worst;
  }
  // What lies on one side (−1 or 1) of a corner, `room` steps long: a line where it hardly bends, else a parabola.
  RowParabola side(int corner, int way, int room) const {
    const int skip = std::min(steps(rounded), std::max(1, room / 4));
    for (const double px : side_lengths) {
      const int reach = std::min(steps(px), room - 2 * skip);
      if (reach < 4)
        break;
      const auto [first, last] = std::minmax({corner + way * skip, corner + way * (skip + reach)});
      const RowParabola curve = row_parabola(points(), first, last, corner);
      if (worst_of(curve, first, last, corner) > o_.noise)
        continue;
      const double sagitta = length(curve.c) * reach * reach / 4;
      return sagitta < no_bend * o_.noise ? row_line(points(), first, last, corner) : curve;
    }
    const int reach = std::max(1, std::min(steps(side_lengths[std::size(side_lengths) - 1]), room - skip));
    const auto [first, last] = std::minmax({corner + way, corner + way * (1 + reach)});
    return row_line(points(), first, last, corner);
  }
  Point tip(const std::vector<int>& corners, std::size_t k) const {
    const int c = corners[k];
    const auto room = [&](int from, int to) { return to > from ? to - from : to - from + n_; };
    const int before = room(corners[(k + corners.size() - 1) % corners.size()], c),
              after = room(c, corners[(k + 1) % corners.size()]);
    const RowParabola l = side(c, -1, before), r = side(c, 1, after);
    const auto met = row_crossing(l, r);
    if (!met)
      return point(c);
    // The pixels round a corner the more the sharper it is; what lies farther off was not seen.
    const Point at = l.at(met->on_a);
    const Vec in = unit(l.derivative(met->on_a)), on = unit(r.derivative(met->on_b));
    const double half = (pi - std::abs(std::atan2(cross(in, on), dot(in, on)))) / 2;
    const double most =
        o_.noise / usual_noise * (cut_by / std::max(std::sin(half), cut_by / farthest_tip) + cut_at_least);
    Point seen = point(c);
    for (int i = -steps(along_ring); i <= steps(along_ring); ++i)
      if (distance(at, point(c + i)) < distance(at, seen))
        seen = point(c + i);
    const double off = distance(at, seen);
    return off <= most ? at : lerp(seen, at, most / off);
  }

  std::vector<Segment> between(int first, int last, const Point* ends) const {
    const int skip = std::min(steps(rounded), (last - first) / 4);
    double off = 0;
    const Vec along = unit(ends[1] - ends[0]);
    for (int i = first + skip; i <= last - skip; ++i)
      off = std::max(off, std::abs(cross(along, point(i) - ends[0])));
    if (off <= o_.straight || last - first < 4)
      return {Segment::line(ends[0], ends[1])};
    FollowOptions following;
    following.tolerance = o_.tolerance, following.free = {true, true}, following.most_targets = most_targets;
    return follow(smoothed(first, last, ends), following);
  }
  void add(PixelLine& out, int first, int last, const Point* ends, std::vector<Segment> now) const {
    Redrawn stretch;
    const auto place = [&](int i) {
      return ends != nullptr && i == first ? ends[0] : ends != nullptr && i == last ? ends[1] : point(i);
    };
    for (int i = first; i < last;) { // as few lines as pass by all points
      int to = i + 1;
      const auto passes = [&](int end) {
        for (int k = i + 1; k < end; ++k)
          if (distance_to_chord(place(i), place(end), place(k)) > o_.noise)
            return false;
        return true;
      };
      while (to < last && to - i < longest_line && passes(to + 1))
        ++to;
      stretch.was.push_back(Segment::line(place(i), place(to)));
      i = to;
    }
    stretch.now = std::move(now);
    connect(stretch.now);
    stretch.now.back().p3 = ends == nullptr ? stretch.now.front().p0 : ends[1];
    double worst = off_by(stretch.now, first, last, ends == nullptr);
    if (worst > lost * o_.noise + o_.tolerance)
      stretch.now = stretch.was, worst = 0;
    out.worst = std::max(out.worst, worst);
    out.drawn.stretches.push_back(std::move(stretch));
  }
  // How far the points lie off, but for those about a corner. Points and curves go the same way: what is nearest moves
  // on, from the start or, of a loop, from what is nearest of all.
  double off_by(const std::vector<Segment>& now, int first, int last, bool loop) const {
    std::vector<Point> walk{now.front().p0};
    for (const Segment& s : now)
      for (std::size_t k = 1, looks = s.is_line() ? 1 : looks_at_cubic; k <= looks; ++k)
        walk.push_back(s.at(static_cast<double>(k) / static_cast<double>(looks)));
    const std::size_t chords = walk.size() - 1;
    const int skip = loop ? 0 : std::min(steps(rounded), (last - first) / 4);
    const auto off = [&](std::size_t k, Point p) { return distance_to_chord(walk[k], walk[k + 1], p); };
    std::size_t at = 0;
    for (std::size_t k = 1; loop && k < chords; ++k)
      if (off(k, point(first)) < off(at, point(first)))
        at = k;
    double worst = 0;
    for (int i = first + skip; i <= last - skip; ++i) {
      const Point p = point(i);
      double nearest = off(at, p);
      const std::size_t from = at;
      for (std::size_t n = 1; n <= looks_at_cubic && n < chords && (loop || from + n < chords); ++n)
        if (const std::size_t k = (from + n) % chords; off(k, p) < nearest)
          nearest = off(k, p), at = k;
      worst = std::max(worst, nearest);
    }
    return worst;
  }
  std::vector<TrackPoint> smoothed(int first, int last, const Point* ends) const {
    std::vector<TrackPoint> out;
    const bool loop = ends == nullptr;
    const int skip = loop ? 0 : std::min(steps(rounded), (last - first) / 4);
    const int low = first + skip, high = last - skip;
    for (int i = low; i <= high; ++i) {
      RowParabola f;
      for (const double px : smoothing) {
        const int reach = steps(px);
        int from = i - reach, to = i + reach;
        if (!loop)
          from = std::max(low, std::min(from, high - 2 * reach)), to = std::min(high, std::max(to, low + 2 * reach));
        if (to - from < 3)
          from = std::max(low - 1, i - 2), to = std::min(high + 1, i + 2);
        f = row_parabola(points(), from, to, i);
        if (worst_of(f, from, to, i) <= o_.noise)
          break;
      }
      out.push_back({f.a, unit(f.b)});
    }
    if (loop) {
      out.back() = out.front();
      return out;
    }
    const auto with_end = [&](const TrackPoint& next, Point end, double way) {
      const Vec v = (next.point - end) * way;
      return TrackPoint{end, length(v) > 0 ? unit(v) : next.direction};
    };
    const TrackPoint start = with_end(out.front(), ends[0], 1), end = with_end(out.back(), ends[1], -1);
    out.insert(out.begin(), start);
    out.push_back(end);
    return out;
  }

  std::vector<Point> points_;
  int n_;
  double step_;
  const PixelLineOptions& o_;
};

} // namespace

PixelLine redrawn_ring(const std::vector<Point>& ring, const PixelLineOptions& options) {
  const double length = row_length(ring, true);
  const auto count = static_cast<std::size_t>(length / spacing);
  if (count < fewest) {
    Redrawn all;
    for (std::size_t i = 0; i < ring.size(); ++i)
      all.was.push_back(Segment::line(ring[i], ring[(i + 1) % ring.size()]));
    all.now = all.was;
    return {{{all}, true}, 0};
  }
  return Ring(spaced_evenly(ring, count, true), length / static_cast<double>(count), options).redrawn();
}

} // namespace frelm
