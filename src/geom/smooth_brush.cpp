// The contour is sampled evenly near the brush, and at its nodes elsewhere; a sample under the brush moves towards the
// Gaussian mean of its neighbours along the contour (standard deviation half the wavelength) by the share (1 −
// (d/r)²)², which is 0 with its slope at the rim; the move is cut to the drift. Each row of moved samples is followed
// by cubics that leave and meet the rest as it runs there.
#include "geom/smooth_brush.h"

#include "geom/along.h"
#include "geom/distance.h"
#include "geom/follow.h"
#include "geom/refit.h"

#include <array>
#include <set>

namespace frelm {
namespace {

constexpr double spacing_of_wavelength = 1.0 / 12;
constexpr double reach = 3;             // standard deviations
constexpr std::size_t fewest_moved = 4; // samples

struct Sample {
  Point p;
  Vec direction;
  std::size_t segment = 0;
  double t = 0;
};

constexpr double most_samples = 8000; // of a contour: a dab never takes longer, however fine its wavelength is

std::vector<Sample> sampled(const Contour& c, double spacing, const Box& near) {
  double length_near = 0;
  for (const Segment& s : c.segments)
    length_near += s.control_box().overlaps(near) ? control_length(s) : 0;
  spacing = std::max(spacing, length_near / most_samples);
  std::vector<Sample> out;
  for (std::size_t k = 0; k < c.segments.size(); ++k) {
    const Segment& s = c.segments[k];
    const double size = s.control_box().overlaps(near) ? control_length(s) : 0;
    const int n = std::max(1, static_cast<int>(std::ceil(size / spacing)));
    for (int i = 0; i < n; ++i) {
      const double t = static_cast<double>(i) / n;
      const Vec d = s.derivative(t);
      out.push_back({s.at(t), length(d) > 0 ? unit(d) : s.start_tangent(), k, t});
    }
  }
  if (!c.closed)
    out.push_back({c.segments.back().p3, c.segments.back().end_tangent(), c.segments.size() - 1, 1});
  return out;
}

Contour smoothed(const Contour& contour, Point centre, const BrushOptions& o) {
  Box brush;
  brush.add(centre);
  const std::vector<Sample> samples =
      sampled(contour, o.wavelength * spacing_of_wavelength, brush.grown(o.radius + (reach + 1) * o.wavelength));
  const auto n = static_cast<std::ptrdiff_t>(samples.size());
  if (n == 0)
    return contour;
  const auto at = [&](std::ptrdiff_t i) -> const Sample& {
    return samples[static_cast<std::size_t>(contour.closed ? ((i % n) + n) % n
                                                           : std::clamp<std::ptrdiff_t>(i, 0, n - 1))];
  };
  const double sigma = o.wavelength / 2;
  const auto moved = [&](std::ptrdiff_t i) {
    const Point p = at(i).p;
    const double d = distance(p, centre) / o.radius;
    if (d >= 1 || (!contour.closed && (i <= 0 || i >= n - 1)))
      return p;
    Vec sum = p;
    double total = 1;
    for (const int way : {-1, 1}) {
      double along = 0;
      for (std::ptrdiff_t k = 1; k < n / 2; ++k) {
        along += distance(at(i + way * (k - 1)).p, at(i + way * k).p);
        if (along > reach * sigma || (!contour.closed && (i + way * k < 0 || i + way * k >= n)))
          break;
        const double w = std::exp(-along * along / (2 * sigma * sigma));
        sum += at(i + way * k).p * w;
        total += w;
      }
    }
    Vec move = (sum / total - p) * ((1 - d * d) * (1 - d * d));
    if (const double l = length(move); l > o.most_drift)
      move = move * (o.most_drift / l);
    return p + move;
  };
  const auto under = [&](std::ptrdiff_t i) { return distance(at(i).p, centre) < o.radius; };

  std::ptrdiff_t start = 0; // a sample outside, where a closed contour can begin
  while (start < n && under(start))
    ++start;
  if (start == n && !contour.closed)
    start = 0;
  if (start == n) { // all of a closed contour
    std::vector<TrackPoint> track;
    for (std::ptrdiff_t i = 0; i <= n; ++i)
      track.push_back({moved(i), unit(moved(i + 1) - moved(i - 1))});
    track.back() = track.front();
    return {follow_loop(track, {o.tolerance}), true};
  }
  Contour out;
  out.closed = contour.closed;
  const auto keep = [&](const Sample& from, const Sample& to, bool around) {
    // The source from one sample to the other, in whole segments where it can be.
    std::size_t k = from.segment;
    double t = from.t;
    for (bool first = true;; first = false, t = 0) {
      const bool last = k == to.segment && (!around || !first) && to.t >= t;
      const double end = last ? to.t : 1;
      if (end > t)
        out.segments.push_back(t == 0 && end == 1 ? contour.segments[k] : contour.segments[k].part(t, end));
      if (last)
        return;
      k = (k + 1) % contour.segments.size();
    }
  };
  std::ptrdiff_t kept = start; // up to here the result is done
  const std::ptrdiff_t end = contour.closed ? start + n : n - 1;
  for (std::ptrdiff_t i = start; i <= end; ++i) {
    if (!under(i) || i == end)
      continue;
    const std::ptrdiff_t first = std::max(i - 1, kept);
    std::ptrdiff_t last = i;
    while (last < end && under(last))
      ++last;
    i = last;
    if (static_cast<std::size_t>(last - first) < fewest_moved)
      continue;
    if (first > kept)
      keep(at(kept), at(first), false);
    std::vector<TrackPoint> track;
    for (std::ptrdiff_t k = first; k <= last; ++k)
      track.push_back({moved(k), k == first || k == last ? at(k).direction : unit(moved(k + 1) - moved(k - 1))});
    for (const Segment& s : follow(track, {o.tolerance}))
      out.segments.push_back(s);
    kept = last;
  }
  if (kept == start && out.segments.empty())
    return contour;
  if (kept < end)
    keep(at(kept), at(end), false);
  connect(out);
  return out;
}

} // namespace

Outline smooth_under(const Outline& outline, Point centre, const BrushOptions& options) {
  if (!(options.radius > 0) || !(options.wavelength > 0) || !(options.most_drift >= 0) || !(options.tolerance > 0) ||
      !finite(centre))
    return outline;
  Box brush;
  brush.add(centre);
  brush = brush.grown(options.radius);
  Outline out;
  for (const Contour& c : outline.contours)
    out.contours.push_back(!c.segments.empty() && c.bounds().overlaps(brush) ? smoothed(c, centre, options) : c);
  return out;
}

Outline sanded(const Outline& was, const Outline& now, Point centre, const BrushOptions& options) {
  Outline next = smooth_under(now, centre, options);
  Boundary lines(was);
  constexpr int looks = 4; // places of a segment
  for (std::size_t c = 0; c < next.contours.size(); ++c) {
    if (next.contours[c] == now.contours[c])
      continue;
    for (const Segment& s : next.contours[c].segments)
      for (int i = 0; i < looks; ++i)
        if (const Point p = s.at(static_cast<double>(i) / looks);
            distance(p, centre) < options.radius && !lines.nearer_than(options.most_drift + options.tolerance, p))
          return now;
  }
  return next;
}

Outline with_few_nodes(const Outline& was, const Outline& now, const BrushOptions& options) {
  constexpr double corner = 10 * pi / 180; // radians: what a brush leaves of a wobble is none
  RefitOptions refitting;
  refitting.tolerance = options.tolerance, refitting.corner = corner;
  refitting.shortest_line = std::numeric_limits<double>::infinity();
  const auto key = [](const Segment& s) { return std::array{s.p0.x, s.p0.y, s.p1.x, s.p1.y, s.p3.x, s.p3.y}; };
  std::set<std::array<double, 6>> old;
  for (const Contour& c : was.contours)
    for (const Segment& s : c.segments)
      old.insert(key(s));
  std::vector<RedrawnContour> drawn;
  for (const Contour& c : now.contours) {
    std::vector<Segment> segments = c.segments;
    const auto is_old = [&](const Segment& s) { return old.contains(key(s)); };
    if (c.closed) // runs then lie between its ends
      std::rotate(segments.begin(), std::find_if(segments.begin(), segments.end(), is_old), segments.end());
    RedrawnContour& out = drawn.emplace_back();
    out.closed = c.closed;
    for (auto from = segments.begin(); from != segments.end();) {
      const bool kept = is_old(*from);
      const auto to = std::find_if(from, segments.end(), [&](const Segment& s) { return is_old(s) != kept; });
      const std::vector<Segment> run(from, to);
      if (kept) {
        out.stretches.push_back({run, run});
      } else {
        const bool whole = c.closed && run.size() == segments.size();
        for (const RedrawnContour& r : refit({{run, whole}}, refitting))
          out.stretches.insert(out.stretches.end(), r.stretches.begin(), r.stretches.end());
      }
      from = to;
    }
  }
  return without_new_crossings(drawn).outline;
}

} // namespace frelm
