// Each contour falls into runs at its clear corners and at long lines; what lies between is either drawn (long segments
// that meet smoothly: geom/refit) or points in a row (geom/noisy_run, then geom/follow). A joint of two lines is soft,
// the curve only sampled there, when the lines are chords of a curve that is nowhere further from them than the
// tolerance, or so short that the noise may turn them any way.
//
// Error budget: a drawn run takes the whole tolerance; a row of points the tolerance less the noise found in it.
#include "geom/thin.h"

#include "geom/along.h"
#include "geom/noisy_run.h"
#include "geom/refit.h"
#include "geom/strays.h"

#include <optional>

namespace frelm {
namespace {

constexpr double no_length = 1e-7;      // mm
constexpr double sagitta_share = 0.125; // of the chord times the turn: what a circle's arc rises over its chord
constexpr double soft_turn = 40 * pi / 180;
constexpr double any_way = 3;      // tolerances: shorter segments may turn any way
constexpr double long_line = 20;   // tolerances, and
constexpr double outstanding = 8;  // times the median segment: such a line among points stays a line
constexpr double drawn_line = 10;  // tolerances: such a line among curves stays a line
constexpr double least_left = 0.3; // of the tolerance, for the fit, however strong the noise
constexpr double safe = 0.97;      // of the tolerance: what fits may use
constexpr double second_try = 0.6; // of the tolerance, for a part that strayed

double turn_at_joint(const Segment& a, const Segment& b) {
  return std::abs(turn_between(a.end_tangent(), b.start_tangent()));
}

class ContourThinner {
public:
  ContourThinner(const Contour& contour, const ThinOptions& options) : options_(options), closed_(contour.closed) {
    for (const Segment& s : contour.segments)
      if (control_length(s) > no_length)
        segments_.push_back(s);
    std::vector<double> lengths;
    for (const Segment& s : segments_)
      lengths.push_back(control_length(s));
    if (!lengths.empty()) {
      std::nth_element(lengths.begin(), lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2),
                       lengths.end());
      median_ = lengths[lengths.size() / 2];
    }
  }

  RedrawnContour run(Farthest& worst) const {
    RedrawnContour out;
    out.closed = closed_;
    const std::size_t n = segments_.size();
    std::size_t start = 0;
    while (start < n && !breaks_before(start))
      ++start;
    if (start == n && n > 0)
      out.stretches.push_back(redrawn(segments_, closed_, worst));
    for (std::size_t i = 0; i < n && start < n;) {
      std::vector<Segment> part{segments_[(start + i) % n]};
      while (i + part.size() < n && !breaks_before(start + i + part.size()))
        part.push_back(segments_[(start + i + part.size()) % n]);
      i += part.size();
      out.stretches.push_back(redrawn(part, false, worst));
    }
    return out;
  }

private:
  const Segment& segment(std::size_t i) const { return segments_[i % segments_.size()]; }
  bool outstanding_line(const Segment& s) const {
    const double l = control_length(s);
    return s.is_line() && l >= long_line * options_.tolerance && l >= outstanding * median_;
  }
  bool short_one(const Segment& s) const { return control_length(s) < any_way * options_.tolerance; }
  bool soft(const Segment& a, const Segment& b) const {
    const double turn = turn_at_joint(a, b);
    if (short_one(a) && short_one(b))
      return true;
    if (!a.is_line() || !b.is_line())
      return turn < options_.corner;
    const double chord = std::min(control_length(a), control_length(b));
    return chord * turn * sagitta_share < options_.tolerance / 2 &&
           (turn < soft_turn || chord < any_way * options_.tolerance);
  }
  bool breaks_before(std::size_t i) const {
    if (i % segments_.size() == 0 && !closed_)
      return true;
    const Segment &a = segment(i + segments_.size() - 1), &b = segment(i);
    return outstanding_line(a) || outstanding_line(b) || !soft(a, b);
  }

  std::vector<Segment> thinned(const std::vector<Segment>& part, bool closed, double tolerance) const {
    const bool points = part.size() >= 3 && std::all_of(part.begin(), part.end(),
                                                        [&](const Segment& s) { return s.is_line() || short_one(s); });
    if (points)
      return through_points(part, closed, tolerance);
    RefitOptions refitting;
    refitting.tolerance = safe * tolerance;
    refitting.corner = options_.corner;
    refitting.shortest_line = drawn_line * options_.tolerance;
    std::vector<Segment> out;
    const std::vector<RedrawnContour> refitted = refit({{part, closed}}, refitting);
    for (const Redrawn& r : refitted.front().stretches)
      out.insert(out.end(), r.now.begin(), r.now.end());
    return out;
  }

  std::vector<Segment> through_points(const std::vector<Segment>& part, bool closed, double tolerance) const {
    std::vector<Point> row;
    for (const Segment& s : part)
      row.push_back(s.p0);
    if (!closed)
      row.push_back(part.back().p3);
    std::vector<NoisyStretch> stretches = read_noisy_run(row, closed, {tolerance, options_.corner});
    std::vector<Segment> out;
    const bool loop = closed && stretches.size() == 1;
    for (const NoisyStretch& stretch : stretches) {
      if (stretch.straight) {
        out.push_back(Segment::line(stretch.track.front().point, stretch.track.back().point));
        continue;
      }
      FollowOptions following;
      following.tolerance = std::max(safe * tolerance - stretch.noise, least_left * tolerance);
      following.free = {true, true};
      const std::vector<Segment> pieces =
          loop ? follow_loop(stretch.track, following) : follow(stretch.track, following);
      out.insert(out.end(), pieces.begin(), pieces.end());
    }
    return out;
  }

  // The thinned part, or the part itself where it would not have become fewer or would have strayed.
  Redrawn redrawn(const std::vector<Segment>& part, bool closed, Farthest& worst) const {
    const bool loop = closed_ && part.size() == segments_.size();
    for (const double share : {1.0, second_try}) {
      std::vector<Segment> fewer = thinned(part, closed, share * options_.tolerance);
      if (fewer.empty() || fewer.size() >= part.size())
        break;
      connect(std::span<Segment>(fewer));
      if (const Farthest off = worst_distance(part, fewer, loop, options_.tolerance); off.off <= options_.tolerance) {
        worst.add(off);
        return {part, std::move(fewer)};
      }
    }
    return {part, part};
  }

  const ThinOptions& options_;
  bool closed_;
  std::vector<Segment> segments_;
  double median_ = 0;
};

// Lines in a row that one line can stand for, within a tenth of the tolerance.
RedrawnContour with_lines_merged(Contour c, double tolerance, Farthest& worst) {
  const std::vector<Segment> was = c.segments;
  for (std::size_t i = 0; i + 1 < c.segments.size() && c.segments.size() > 3;) {
    Segment &a = c.segments[i], &b = c.segments[i + 1];
    const Vec along = unit(b.p3 - a.p0);
    const double off = std::abs(cross(along, a.p3 - a.p0));
    if (a.is_line() && b.is_line() && off <= 0.1 * tolerance && dot(a.p3 - a.p0, along) > 0 &&
        dot(b.p3 - b.p0, along) > 0) {
      worst.add(off, a.p3);
      a = Segment::line(a.p0, b.p3);
      c.segments.erase(c.segments.begin() + static_cast<std::ptrdiff_t>(i) + 1);
    } else {
      ++i;
    }
  }
  return {{{was, c.segments}}, c.closed};
}

} // namespace

Result<ThinResult> thin(const Outline& outline, const ThinOptions& options) {
  if (!(options.tolerance > 0))
    return bad_input(FRELM_WORDS("core", "the tolerance must be more than 0 mm"), FRELM_WORDS("core", "thin"));
  ThinResult out;
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      if (!all_finite(s))
        return bad_input(FRELM_WORDS("core", "an outline has a coordinate that is not a number; draw that shape again"),
                         FRELM_WORDS("core", "thin"));
  const Error cancelled{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "thin")};
  std::vector<RedrawnContour> redrawn;
  Farthest worst;
  for (const Contour& c : outline.contours) {
    if (options.stop.stop_requested())
      return cancelled;
    redrawn.push_back(ContourThinner(c, options).run(worst));
  }
  out.outline = without_new_crossings(redrawn, options.stop).outline;
  bool merged = false;
  for (std::size_t i = 0; i < redrawn.size(); ++i) {
    redrawn[i] = with_lines_merged(out.outline.contours[i], options.tolerance, worst);
    const Redrawn& whole = redrawn[i].stretches.front();
    merged = merged || whole.now.size() < whole.was.size();
  }
  out.report.worst = worst.off, out.report.worst_at = worst.at;
  if (merged)
    out.outline = without_new_crossings(redrawn, options.stop).outline;
  if (options.stop.stop_requested())
    return cancelled;
  for (std::size_t i = 0; i < outline.contours.size(); ++i)
    if (const Contour& was = outline.contours[i], &now = out.outline.contours[i];
        now.segments.empty() || now.segments.size() >= was.segments.size()) {
      out.report.contours_left += was.segments.empty() ? 0 : 1;
      out.outline.contours[i] = was;
    }
  out.report.nodes_in = outline.node_count();
  out.report.nodes_out = out.outline.node_count();
  return out;
}

} // namespace frelm
