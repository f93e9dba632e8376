// A piece from point i to point j: handles by fit_cubic on some of the points between; then every point between is
// compared with the cubic (track to curve), and the cubic between the feet of neighbouring points with the chord
// between those points (curve to track). The error of a fit grows with the sixth power of its length, which says where
// to look for the longest one.
#include "geom/follow.h"

#include "geom/along.h"

#include <optional>

namespace frelm {
namespace {

constexpr double aim = 0.5;                         // of the tolerance: better than this is not looked for
constexpr double hope = 0.99;                       // of the tolerance: what the points a fit sees must reach
constexpr double power = 1.0 / 6;                   // of the error, for the length
constexpr double near_enough = 0.08;                // of the length: the longest piece is not looked for more closely
constexpr double least_step = 0.4, most_step = 1.9; // of the length, from one guess to the next
constexpr int most_guesses = 10;
constexpr double unsure = 64; // times the tolerance: such an error says nothing about lengths
constexpr double stub = 0.4;  // of the first piece's length: such a last piece may be saved
constexpr int newton_rounds = 6;
constexpr double foot_settled = 1e-7; // of the parameter
constexpr double least_looks = 24;    // at a cubic between the track's points, more where these are far apart,
constexpr int most_looks = 8;         // between two of them

struct Piece {
  Segment cubic;
  double worst = 0; // mm
};

class Follower {
public:
  Follower(std::span<const TrackPoint> track, const FollowOptions& options) : track_(track), options_(options) {
    along_.reserve(track.size());
    along_.push_back(0);
    for (std::size_t i = 1; i < track.size(); ++i)
      along_.push_back(along_.back() + distance(track[i - 1].point, track[i].point));
  }

  // Pieces from the first point to the last; `breaks` gets the point each one ends at.
  std::vector<Segment> run(std::vector<std::size_t>& breaks) {
    std::vector<Segment> out;
    const std::size_t last = track_.size() - 1;
    double reach = along_.back();
    for (std::size_t from = 0; from < last;) {
      const auto [to, cubic] = longest(from, reach);
      reach = 1.2 * (along_[to] - along_[from]);
      out.push_back(cubic);
      breaks.push_back(to);
      from = to;
    }
    return out;
  }

private:
  std::pair<std::size_t, Segment> longest(std::size_t from, double reach) {
    const std::size_t last = track_.size() - 1;
    std::size_t good = from, bad = last + 1;
    Segment best = Segment::line(track_[from].point, track_[from + 1].point);
    for (int guess = 0; guess < most_guesses || good == from; ++guess) {
      const std::size_t to = std::clamp(point_at(along_[from] + reach), good + 1, bad - 1);
      const Piece piece = fitted(from, to);
      const bool holds = piece.worst <= options_.tolerance;
      if (holds)
        good = to, best = piece.cubic;
      else
        bad = to;
      if (good == last || good + 1 == bad)
        break;
      const double length = along_[to] - along_[from];
      const double share = piece.worst / options_.tolerance;
      const double scale = share > unsure ? 0.5 : 0.97 * std::pow(std::max(share, 1e-3), -power);
      reach = length * std::clamp(scale, least_step, most_step);
      if (good > from && bad <= last) {
        const double low = along_[good] - along_[from], high = along_[bad] - along_[from];
        if (high - low < near_enough * low)
          break;
        // A guess that leaves the bracket, or hugs one of its ends, is the middle instead.
        if (reach < low + 0.1 * (high - low) || reach > high - 0.1 * (high - low))
          reach = (low + high) / 2;
      }
    }
    return {good == from ? from + 1 : good, best};
  }
  std::size_t point_at(double s) const {
    return static_cast<std::size_t>(std::lower_bound(along_.begin(), along_.end(), s) - along_.begin());
  }

  // Its worst error is over the tolerance where it does not hold.
  Piece fitted(std::size_t from, std::size_t to) {
    const FitFreedom free{options_.free.start && from == 0, options_.free.end && to + 1 == track_.size()};
    const double span = along_[to] - along_[from];
    targets_.clear(), guesses_.clear();
    const std::size_t between = to - from - 1, count = std::min(between, options_.most_targets);
    for (std::size_t k = 0; k < count; ++k) {
      const std::size_t i = from + 1 + (between * k + between / 2) / count;
      targets_.push_back(track_[i].point);
      guesses_.push_back((along_[i] - along_[from]) / span);
    }
    const TrackPoint &a = track_[from], &b = track_[to];
    const CubicFit fit = fit_cubic(a.point, a.direction, b.direction, b.point, targets_, guesses_, span / 3, span / 3,
                                   {aim * options_.tolerance, hope * options_.tolerance, free});
    if (fit.worst > options_.tolerance)
      return {fit.cubic, fit.worst};
    return {fit.cubic, std::max(fit.worst, off_track(fit.cubic, from, to, span))};
  }

  // The larger of both ways; stops at the first place over the tolerance.
  double off_track(const Segment& cubic, std::size_t from, std::size_t to, double span) const {
    const double first = along_[from];
    double t_before = 0, worst = 0;
    for (std::size_t i = from + 1; i <= to && worst <= options_.tolerance; ++i) {
      const Point p = track_[i].point;
      double t = i == to ? 1 : std::max(t_before, (along_[i] - first) / span);
      for (int k = 0; k < newton_rounds && i < to; ++k) {
        const Vec d = cubic.derivative(t), r = cubic.at(t) - p;
        const double dd = dot(d, d);
        if (!(dd > 0))
          break;
        const double next = std::clamp(t - dot(r, d) / dd, 0.0, 1.0), moved = std::abs(next - t);
        t = next;
        if (moved < foot_settled)
          break;
      }
      worst = std::max(worst, distance(cubic.at(t), p));
      const double chord = along_[i] - along_[i - 1];
      const int looks = std::clamp(span > 0 ? static_cast<int>(least_looks * chord / span) : 1, 1, most_looks);
      for (int k = 1; k <= looks; ++k)
        worst = std::max(
            worst, distance_to_chord(track_[i - 1].point, p, cubic.at(t_before + (t - t_before) * k / (looks + 1))));
      t_before = t;
    }
    return worst;
  }

  std::span<const TrackPoint> track_;
  const FollowOptions& options_;
  std::vector<double> along_;
  std::vector<Point> targets_;
  std::vector<double> guesses_;
};

} // namespace

std::vector<Segment> follow(std::span<const TrackPoint> track, const FollowOptions& options) {
  if (track.size() < 2)
    return {};
  std::vector<std::size_t> breaks;
  std::vector<Segment> out = Follower(track, options).run(breaks);
  if (out.size() > 1 && Contour{{out.back()}, false}.length() < stub * Contour{{out.front()}, false}.length()) {
    // From the other end the breaks come to lie elsewhere, and sometimes one piece goes.
    std::vector<TrackPoint> back;
    for (auto it = track.rbegin(); it != track.rend(); ++it)
      back.push_back({it->point, -it->direction});
    FollowOptions turned = options;
    std::swap(turned.free.start, turned.free.end);
    const std::vector<Segment> other = Follower(back, turned).run(breaks);
    if (other.size() < out.size()) {
      out.clear();
      for (auto it = other.rbegin(); it != other.rend(); ++it)
        out.push_back(it->reversed());
    }
  }
  connect(out);
  return out;
}

std::vector<Segment> follow_loop(std::span<const TrackPoint> track, const FollowOptions& options) {
  if (track.size() < 4)
    return follow(track, options);
  FollowOptions fixed = options;
  fixed.free = {};
  // A run from one of the first run's breaks often ends well, where the first one had a stub left over.
  std::vector<std::size_t> breaks;
  std::vector<Segment> best = Follower(track, fixed).run(breaks);
  const std::vector<std::size_t> starts(breaks.begin(), breaks.end() - 1);
  constexpr std::size_t tries = 2;
  for (std::size_t k = 0; k < std::min(tries, starts.size()); ++k) {
    std::vector<TrackPoint> turned(track.begin() + static_cast<std::ptrdiff_t>(starts[k]), track.end() - 1);
    turned.insert(turned.end(), track.begin(), track.begin() + static_cast<std::ptrdiff_t>(starts[k]) + 1);
    breaks.clear();
    std::vector<Segment> tried = Follower(turned, fixed).run(breaks);
    if (tried.size() < best.size())
      best = std::move(tried);
  }
  connect(best);
  if (!best.empty())
    best.back().p3 = best.front().p0;
  return best;
}

} // namespace frelm
