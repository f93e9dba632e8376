#include "geom/few_nodes.h"

#include "geom/along.h"
#include "geom/nodes.h"
#include "geom/redrawn.h"
#include "geom/strays.h"

#include <optional>
#include <set>

namespace frelm {
namespace {

constexpr double first_tolerance = 0.005; // mm
constexpr int halvings = 3;               // of the last step, as a factor
constexpr double same_length = 1e-9;      // of a length: rounding
constexpr std::size_t least_segments = 2;

double length_of(const Segment& s) {
  return s.is_line() ? distance(s.p0, s.p3) : Contour{{s}, false}.length();
}

// The nodes of one contour that are too near to the next, taken out.
class Spreader {
public:
  Spreader(Contour contour, double apart, double most_off)
      : was_(contour), apart_(apart), most_off_(most_off), now_{{std::move(contour)}} {}

  Contour run(const std::stop_token& stop) {
    while (most_off_ > 0 && !stop.stop_requested() && line().segments.size() > least_segments && drop_one()) {
    }
    return line();
  }

private:
  const Contour& line() const { return now_.contours.front(); }

  // Shortest first; a node that can't go is kept for good, by its place.
  bool drop_one() {
    std::vector<std::pair<double, std::size_t>> shortest;
    const std::vector<Segment>& s = line().segments;
    for (std::size_t i = 0; i < s.size(); ++i)
      if (const double l = length_of(s[i]); l < apart_ * (1 - same_length))
        shortest.push_back({l, i});
    std::sort(shortest.begin(), shortest.end());
    for (const auto& [l, i] : shortest) {
      std::vector<std::pair<double, std::size_t>> ends; // by how sharp they turn
      for (const std::size_t node : {i, i + 1}) {
        if (!line().closed && (node == 0 || node == s.size()))
          continue;
        const std::size_t at = node % s.size();
        const Segment &in = s[(at + s.size() - 1) % s.size()], &on = s[at];
        ends.push_back({std::abs(turn_between(in.end_tangent(), on.start_tangent())), at});
      }
      std::sort(ends.begin(), ends.end());
      for (const auto& [turn, at] : ends)
        if (without(at))
          return true;
    }
    return false;
  }
  bool without(std::size_t node) {
    const Point place = line().segments[node].p0;
    if (kept_.contains({place.x, place.y}))
      return false;
    Outline next = delete_nodes(now_, {{0, node}});
    if (next.contours.size() == 1 && next.contours.front().segments.size() + 1 == line().segments.size() &&
        worst_distance(was_.segments, next.contours.front().segments, was_.closed, most_off_).off <= most_off_) {
      now_ = std::move(next);
      return true;
    }
    kept_.insert({place.x, place.y});
    return false;
  }

  const Contour was_;
  double apart_, most_off_;
  Outline now_;
  std::set<std::pair<double, double>> kept_;
};

bool few_enough(const Outline& outline, double per_100) {
  return !(per_100 > 0) || node_density(outline).per_100 <= per_100;
}

// Within the least tolerance that leaves few enough, or that beyond which hardly any more go.
Result<ThinResult> thinned_to(const Outline& outline, const NodeTarget& target) {
  double tolerance = std::min(first_tolerance, target.most_off), failed = 0;
  const auto thin_within = [&](double mm, ThinResult& into) -> std::optional<Error> {
    Result<ThinResult> made = thin(outline, {.tolerance = mm, .stop = target.stop});
    if (!made)
      return made.error();
    into = std::move(*made);
    return std::nullopt;
  };
  ThinResult best;
  if (const auto e = thin_within(tolerance, best))
    return *e;
  while (!few_enough(best.outline, target.per_100) && tolerance < target.most_off) {
    failed = tolerance;
    tolerance = std::min(2 * tolerance, target.most_off);
    if (const auto e = thin_within(tolerance, best))
      return *e;
  }
  for (int i = 0; i < halvings && failed > 0 && few_enough(best.outline, target.per_100); ++i) {
    const double middle = std::sqrt(failed * tolerance);
    ThinResult tried;
    if (const auto e = thin_within(middle, tried))
      return *e;
    if (few_enough(tried.outline, target.per_100))
      best = std::move(tried), tolerance = middle;
    else
      failed = middle;
  }
  return best;
}

// Within `allowed`, some places were passed over that may be as far; until no place can be farther by a hundredth.
Farthest true_worst(const Contour& was, const Contour& is, double allowed) {
  constexpr double nearly = 1.01;
  Farthest out = worst_distance(was.segments, is.segments, is.closed, allowed);
  while (out.off * nearly < allowed) {
    const Farthest found = worst_distance(was.segments, is.segments, is.closed, std::max(out.off * nearly, 1e-4));
    if (found.off <= out.off * nearly)
      break;
    out = found;
  }
  return out;
}

} // namespace

NodeDensity node_density(const Outline& outline) {
  NodeDensity out;
  double length = 0;
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments) {
      const double l = length_of(s);
      length += l;
      if (c.segments.size() > 1 && l < out.apart)
        out.apart = l, out.closest = s.at(0.5);
    }
  if (length > 0)
    out.per_100 = 100 * static_cast<double>(outline.node_count()) / length;
  return out;
}

bool reaches(const NodeDensity& density, const NodeTarget& target) {
  return (!(target.per_100 > 0) || density.per_100 <= target.per_100) &&
         density.apart >= target.apart * (1 - same_length);
}

Result<FewNodes> few_nodes(const Outline& outline, const NodeTarget& target) {
  FewNodes out;
  out.report.nodes_in = out.report.nodes_out = outline.node_count();
  if (target.most_off > 0 && reaches(node_density(outline), target)) { // nothing to do
    out.outline = outline, out.reached = true;
    return out;
  }
  Result<ThinResult> made = thinned_to(outline, target);
  if (!made)
    return made.error();
  out.outline = std::move(made->outline);
  Farthest worst{made->report.worst, made->report.worst_at};
  if (target.apart > 0) { // with what may yet be spent, and nowhere across another line
    std::vector<RedrawnContour> spread;
    for (const Contour& c : out.outline.contours)
      spread.push_back(
          {{{c.segments, Spreader(c, target.apart, target.most_off - worst.off).run(target.stop).segments}}, c.closed});
    Outline kept = without_new_crossings(spread, target.stop).outline;
    if (target.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    for (std::size_t i = 0; i < kept.contours.size(); ++i)
      if (kept.contours[i].segments.size() != out.outline.contours[i].segments.size())
        worst.add(true_worst(outline.contours[i], kept.contours[i], target.most_off));
    out.outline = std::move(kept);
  }
  out.report.nodes_out = out.outline.node_count();
  out.report.contours_left = made->report.contours_left;
  out.report.worst = worst.off, out.report.worst_at = worst.at;
  out.reached = reaches(node_density(out.outline), target);
  return out;
}

} // namespace frelm
