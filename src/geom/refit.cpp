// Stretches between corners and kept lines are sampled, closer where they bend, and followed by pieces as long as the
// tolerance allows (geom/follow, geom/cubic_fit).
#include "geom/refit.h"

#include "geom/along.h"
#include "geom/follow.h"
#include "geom/side_by_side.h"

namespace frelm {
namespace {

constexpr double sampling = 0.04;         // of the tolerance: how far the track's chords may be off the curve
constexpr double growth = 0.5;            // of the spacing, by distance from where it is narrower
constexpr int most_steps = 256;           // of one segment
constexpr double same_point = 1e-7;       // mm
constexpr std::size_t worth_threads = 60; // segments

class Refitter {
public:
  Refitter(const Contour& contour, const RefitOptions& options) : options_(options), closed_(contour.closed) {
    const double least = std::max(same_point, options.drop_under);
    for (const Segment& s : contour.segments)
      if (control_length(s) > least)
        segments_.push_back(s);
    for (std::size_t i = closed_ ? 0 : 1; i < segments_.size(); ++i)
      meet(segments_[(i + segments_.size() - 1) % segments_.size()], segments_[i]);
  }

  // Where the stretches are: numbers of segments, from first on round the contour.
  struct Stretch {
    std::size_t first, count;
    bool loop = false;
  };
  std::vector<Stretch> stretches() const {
    const std::size_t n = segments_.size();
    if (n == 0)
      return {};
    std::size_t start = 0;
    while (start < n && !breaks_before(start))
      ++start;
    if (start == n)
      return {{0, n, n > 1}};
    std::vector<Stretch> out;
    for (std::size_t i = 0; i < n;) {
      std::size_t count = 1;
      while (i + count < n && !breaks_before((start + i + count) % n))
        ++count;
      out.push_back({(start + i) % n, count});
      i += count;
    }
    return out;
  }
  Redrawn redrawn(const Stretch& s) const {
    std::vector<Segment> fitted;
    if (s.loop)
      fitted = follow_loop(track_of(0, s.count), {options_.tolerance});
    else if (s.count > 1)
      fitted = follow(track_of(s.first, s.count), {options_.tolerance, corners_at_ends(s.first, s.count)});
    Redrawn out;
    for (std::size_t k = 0; k < s.count; ++k)
      out.was.push_back(segment(s.first + k));
    out.now = !fitted.empty() && fitted.size() < s.count ? std::move(fitted) : out.was; // where they are fewer
    return out;
  }

private:
  static void meet(Segment& a, Segment& b) {
    if (a.p3 == b.p0)
      return;
    const Point m = lerp(a.p3, b.p0, 0.5);
    if (a.is_line())
      a = Segment::line(a.p0, m);
    else
      a.p2 += m - a.p3, a.p3 = m;
    if (b.is_line())
      b = Segment::line(m, b.p3);
    else
      b.p1 += m - b.p0, b.p0 = m;
  }
  const Segment& segment(std::size_t i) const { return segments_[i % segments_.size()]; }
  bool kept_line(std::size_t i) const {
    const Segment& s = segment(i);
    return s.is_line() && distance(s.p0, s.p3) >= options_.shortest_line;
  }
  bool corner_before(std::size_t i) const {
    const Segment &a = segment(i + segments_.size() - 1), &b = segment(i);
    return std::abs(turn_between(a.end_tangent(), b.start_tangent())) > options_.corner;
  }
  bool breaks_before(std::size_t i) const {
    return (i == 0 && !closed_) || kept_line(i) || kept_line(i + segments_.size() - 1) || corner_before(i);
  }

  FitFreedom corners_at_ends(std::size_t first, std::size_t count) const {
    const std::size_t after = (first + count) % segments_.size();
    return {(first == 0 && !closed_) || corner_before(first), (after == 0 && !closed_) || corner_before(after)};
  }

  double own_spacing(const Segment& s) const {
    return control_length(s) / std::clamp(s.flat_steps(sampling * options_.tolerance), 3, most_steps);
  }
  // Between a wide and a narrow segment the spacing of the points changes little by little, so that no long chord
  // stands beside a tight bend.
  std::vector<double> spacing_at_joints(std::size_t first, std::size_t count) const {
    std::vector<double> out(count + 1, std::numeric_limits<double>::infinity());
    for (std::size_t k = 0; k < count; ++k) {
      const double own = own_spacing(segment(first + k));
      out[k] = std::min(out[k], own), out[k + 1] = std::min(out[k + 1], own);
    }
    for (std::size_t k = 0; k < count; ++k)
      out[k + 1] = std::min(out[k + 1], out[k] + growth * control_length(segment(first + k)));
    for (std::size_t k = count; k-- > 0;)
      out[k] = std::min(out[k], out[k + 1] + growth * control_length(segment(first + k)));
    return out;
  }

  std::vector<TrackPoint> track_of(std::size_t first, std::size_t count) const {
    std::vector<TrackPoint> out;
    const std::vector<double> spacing = spacing_at_joints(first, count);
    for (std::size_t k = 0; k < count; ++k) {
      const Segment& s = segment(first + k);
      if (k == 0)
        out.push_back({s.p0, s.start_tangent()});
      else
        out.back().direction = unit(unit(out.back().direction) + s.start_tangent());
      const double length = control_length(s), own = own_spacing(s);
      for (double x = 0; x < length;) {
        const double step = std::min({own, spacing[k] + growth * x, spacing[k + 1] + growth * (length - x)});
        x = x + 1.5 * step > length ? length : x + step;
        const bool last = x >= length;
        const double t = last ? 1 : x / length;
        const TrackPoint p{s.at(t), last ? s.end_tangent() : unit(s.derivative(t))};
        if (distance(p.point, out.back().point) > same_point)
          out.push_back(p);
        else
          out.back().direction = p.direction;
      }
    }
    out.front().direction = end_direction(first, out.front().direction, first + segments_.size() - 1, false);
    out.back().direction = end_direction(first + count - 1, out.back().direction, first + count, true);
    if (closed_ && count == segments_.size() && !breaks_before(first)) {
      const Vec d = unit(out.front().direction + out.back().direction);
      out.front().direction = out.back().direction = d;
      out.back().point = out.front().point;
    }
    return out;
  }
  // Beside a kept line that is met smoothly, the line's direction.
  Vec end_direction(std::size_t own, Vec direction, std::size_t neighbour, bool at_end) const {
    if (!closed_ &&
        ((at_end && own % segments_.size() + 1 == segments_.size()) || (!at_end && own % segments_.size() == 0)))
      return direction;
    if (!kept_line(neighbour) || corner_before(at_end ? neighbour : own))
      return direction;
    return segment(neighbour).start_tangent();
  }

  const RefitOptions& options_;
  bool closed_;
  std::vector<Segment> segments_;
};

} // namespace

std::vector<RedrawnContour> refit(const std::vector<Contour>& contours, const RefitOptions& options) {
  struct Work {
    std::size_t contour, stretch;
    Refitter::Stretch what;
  };
  std::vector<Refitter> refitters;
  std::vector<RedrawnContour> out(contours.size());
  std::vector<Work> works;
  std::size_t segments = 0;
  for (const Contour& c : contours) {
    const std::size_t at = refitters.size();
    const std::vector<Refitter::Stretch> stretches = refitters.emplace_back(c, options).stretches();
    out[at].closed = c.closed;
    out[at].stretches.resize(stretches.size());
    for (std::size_t i = 0; i < stretches.size(); ++i)
      works.push_back({at, i, stretches[i]}), segments += stretches[i].count;
  }
  std::stable_sort(works.begin(), works.end(), // the long ones first
                   [](const Work& a, const Work& b) { return a.what.count > b.what.count; });
  side_by_side(works.size(), segments >= worth_threads, [&](std::size_t k) {
    const Work& w = works[k];
    out[w.contour].stretches[w.stretch] = refitters[w.contour].redrawn(w.what);
  });
  return out;
}

} // namespace frelm
