// The engine behind weld, the other booleans and offsets: polygons clipped, and every surviving edge given back to its
// curve.
//
//  1. The shapes are flattened (error f) to integer edges that know their source segment and parameters
//     (flat_cluster), and Clipper combines the polygons.
//  2. Each edge of its answer is labelled with the source edges it lies on; consecutive edges with a common label are
//     a run: a stretch [t0, t1] of one source segment.
//  3. Two curves that lie within 2f of each other make the answer hop between them: such hops are absorbed into the
//     run around them. Runs shorter than 2f that are not a whole source segment are dropped, and spikes.
//  4. Neighbouring runs are joined: source neighbours at their common node; others at the true crossing by Newton's
//     method on the curves; where there is none (tangency, coincidence) both ends move to one point and their
//     handles with them.
//  5. Each contour's area is compared with its polygon's; a contour that differs is rebuilt with snapped joins, and
//     if that differs too it stays a polyline. The report says so.
//
// Error budget: stretches are exact; a crossing is found where the polylines cross, at most f / sin(angle) from the
// true one, and then exactly; a snapped join moves at most 2f; an absorbed hop changes the boundary by at most 2f.
#include "geom/recover.h"

#include "geom/along.h"
#include "geom/nodes.h"
#include "geom/small_loops.h"

#include <optional>

namespace frelm {
namespace {

constexpr double newton_residual = 1e-9; // mm
constexpr double newton_reach = 0.05;    // mm a crossing may lie from where the polylines crossed,
constexpr double shallow_reach = 4;      // or this many flattening errors over the sine of its angle,
constexpr double farthest_reach = 0.5;   // mm at most
constexpr double collinear_off = 2e-5;   // mm: two grid units
constexpr int absorb_reach = 12;         // runs looked ahead for the end of a hop
constexpr double snapped_share = 4;      // of what is too short: a run's own length, when its ends were moved together
constexpr double spike_width = 2e-5;     // mm: two grid units
constexpr double opposite = -0.999;      // cosine of the turn at a spike's tip

// A stretch of one source segment; no_segment marks edges that came from nowhere and stay straight.
constexpr std::uint32_t no_segment = 0xffffffffu;
struct CurveRun {
  std::uint32_t segment = no_segment;
  bool forward = true;
  double t0 = 0, t1 = 0;
  std::size_t first = 0, count = 0; // edges of the polygon
};

// The same the other way round.
CurveRun turned(const CurveRun& run) {
  return {run.segment, !run.forward, run.t1, run.t0, run.first, run.count};
}

struct Ring {
  const FlatCluster& cluster;
  const GridPolygon& polygon;
  double flattening;

  Point vertex(std::size_t i) const { return from_grid(polygon[i % polygon.size()]); }
  Segment curve(const CurveRun& run) const {
    if (run.segment == no_segment)
      return Segment::line(vertex(run.first), vertex(run.first + run.count));
    return cluster.segments()[run.segment];
  }
};

bool continues(const EdgeLabel& a, const EdgeLabel& b, double slack) {
  return a.segment == b.segment && a.forward == b.forward && std::abs(a.t1 - b.t0) <= slack;
}

// Parameter slack for "the same place": three units on the segment's control polygon, in t.
double parameter_slack(const Segment& s) {
  const double l = std::max({distance(s.p0, s.p1), distance(s.p1, s.p2), distance(s.p2, s.p3), 1e-4});
  return std::min(0.25, 4.0 / clipper_units_per_mm / l) + 1e-12;
}

class RunFinder {
public:
  explicit RunFinder(const Ring& ring) : ring_(ring), n_(ring.polygon.size()) {
    all_.reserve(n_ + n_ / 4);
    starts_.reserve(n_ + 1);
    for (std::size_t i = 0; i < n_; ++i) {
      starts_.push_back(all_.size());
      ring.cluster.append_labels(ring.polygon[i], ring.polygon[(i + 1) % n_], all_);
    }
    starts_.push_back(all_.size());
  }

  std::vector<CurveRun> find() const {
    std::vector<CurveRun> runs;
    std::vector<EdgeLabel> alive, next;
    const std::size_t start = start_edge();
    for (std::size_t k = 0; k < n_;) {
      const std::size_t e = (start + k) % n_;
      CurveRun run;
      run.first = e;
      run.count = 1;
      alive.assign(labels(e).begin(), labels(e).end());
      while (k + run.count < n_) {
        next.clear();
        for (const EdgeLabel& a : alive)
          for (const EdgeLabel& b : labels((start + k + run.count) % n_))
            if (continues(a, b, slack(a.segment)))
              next.push_back({a.segment, a.forward, a.t0, b.t1});
        if (next.empty())
          break;
        alive.swap(next);
        ++run.count;
      }
      if (!alive.empty()) {
        const EdgeLabel best = *std::min_element(alive.begin(), alive.end(),
                                                 [](const auto& a, const auto& b) { return a.segment < b.segment; });
        run.segment = best.segment, run.forward = best.forward, run.t0 = best.t0, run.t1 = best.t1;
      }
      k += run.count;
      runs.push_back(run);
    }
    return runs;
  }

private:
  std::span<const EdgeLabel> labels(std::size_t e) const {
    return std::span(all_).subspan(starts_[e], starts_[e + 1] - starts_[e]);
  }
  double slack(std::uint32_t segment) const { return parameter_slack(ring_.cluster.segments()[segment]); }

  bool breaks_before(std::size_t e) const {
    for (const EdgeLabel& a : labels((e + n_ - 1) % n_))
      for (const EdgeLabel& b : labels(e))
        if (continues(a, b, slack(a.segment)))
          return false;
    return true;
  }
  std::size_t start_edge() const {
    for (std::size_t e = 0; e < n_; ++e)
      if (breaks_before(e))
        return e;
    for (std::size_t e = 0; e < n_; ++e)
      for (const EdgeLabel& l : labels(e))
        if (l.t0 == (l.forward ? 0.0 : 1.0))
          return e;
    return 0;
  }

  const Ring& ring_;
  std::size_t n_;
  std::vector<EdgeLabel> all_; // edge after edge,
  std::vector<std::size_t> starts_;
};

double distance_to_stretch(const Segment& s, double t0, double t1, Point p) {
  constexpr int steps = 8;
  double best = std::numeric_limits<double>::infinity();
  Point a = s.at(t0);
  for (int i = 1; i <= steps; ++i) {
    const Point b = s.at(t0 + (t1 - t0) * i / steps);
    best = std::min(best, distance_to_chord(a, b, p));
    a = b;
  }
  return best;
}

// Everything on the polygon between two runs lies on the stretch of the curve between them.
bool between_lies_on(const Ring& ring, const Segment& s, double t0, double t1, std::size_t from, std::size_t to) {
  const double limit = 2 * ring.flattening;
  for (std::size_t i = from; i < to; ++i)
    for (const double share : {0.0, 0.25, 0.5, 0.75, 1.0})
      if (distance_to_stretch(s, t0, t1, lerp(ring.vertex(i), ring.vertex(i + 1), share)) > limit)
        return false;
  return true;
}

// Joins each run with a later one of the same segment when all between them are hops along a near-coincident curve.
void absorb_hops(const Ring& ring, std::vector<CurveRun>& runs) {
  for (std::size_t i = 0; i < runs.size(); ++i) {
    if (runs[i].segment == no_segment)
      continue;
    bool joined = true;
    while (joined && runs.size() > 2) {
      joined = false;
      for (int ahead = absorb_reach; ahead >= 1; --ahead) {
        const std::size_t j = i + static_cast<std::size_t>(ahead);
        if (j >= runs.size())
          continue;
        CurveRun& a = runs[i];
        const CurveRun& b = runs[j];
        const Segment s = ring.cluster.segments()[a.segment];
        if (b.segment != a.segment || b.forward != a.forward)
          continue;
        const double gain = a.forward ? b.t0 - a.t1 : a.t1 - b.t0;
        if (gain < -parameter_slack(s))
          continue;
        if (ahead > 1 && !between_lies_on(ring, s, a.t1, b.t0, a.first + a.count,
                                          a.first + (b.first + ring.polygon.size() - a.first) % ring.polygon.size()))
          continue;
        if (ahead == 1 && gain > parameter_slack(s))
          continue;
        std::size_t count = 0;
        for (std::size_t k = i; k <= j; ++k)
          count += runs[k].count;
        a.t1 = b.t1;
        a.count = count;
        runs.erase(runs.begin() + static_cast<std::ptrdiff_t>(i) + 1,
                   runs.begin() + static_cast<std::ptrdiff_t>(j) + 1);
        joined = true;
        break;
      }
    }
  }
}

bool whole(const CurveRun& run) {
  return std::min(run.t0, run.t1) == 0 && std::max(run.t0, run.t1) == 1;
}

void drop_short_runs(const Ring& ring, std::vector<CurveRun>& runs) {
  const auto chord = [&](const CurveRun& run) {
    double l = 0;
    for (std::size_t i = 0; i < run.count && l <= 2 * ring.flattening; ++i)
      l += distance(ring.vertex(run.first + i), ring.vertex(run.first + i + 1));
    return l;
  };
  std::vector<CurveRun> kept;
  for (const CurveRun& run : runs)
    if ((run.segment != no_segment && whole(run)) || chord(run) >= 2 * ring.flattening)
      kept.push_back(run);
  if (kept.size() >= 2)
    runs = std::move(kept);
}

// Where the stretch `back` ends on `out`, if it runs back along it all the way.
std::optional<double> runs_back(const Ring& ring, const CurveRun& out, const CurveRun& back) {
  const Segment s = ring.curve(out), b = ring.curve(back);
  if (out.segment == back.segment) {
    const bool inside = std::abs(back.t1 - back.t0) <= std::abs(out.t1 - out.t0) + parameter_slack(s);
    return out.forward != back.forward && inside ? std::optional(back.t1) : std::nullopt;
  }
  double t = out.t1;
  for (const double share : {0.0, 0.25, 0.5, 0.75, 1.0}) {
    const Point p = b.at(back.t0 + (back.t1 - back.t0) * share);
    const double before = t;
    t = nearest_on({{{{s}, false}}}, p)->t;
    const double gain = out.forward ? before - t : t - before, left = out.forward ? t - out.t0 : out.t0 - t;
    if (distance(s.at(t), p) > spike_width || gain < -parameter_slack(s) || left < -parameter_slack(s))
      return std::nullopt;
  }
  return t;
}

// Spikes: along a curve and straight back on it, where areas meet that share the curve but not its pieces. What both
// ways have in common goes.
void cut_spikes(const Ring& ring, std::vector<CurveRun>& runs) {
  const auto direction_of = [&](const CurveRun& run, bool end) {
    const Segment part = ring.curve(run).part(run.t0, run.t1);
    return end ? part.end_tangent() : part.start_tangent();
  };
  for (std::size_t i = 0; i < runs.size() && runs.size() > 2;) {
    const std::size_t j = (i + 1) % runs.size();
    CurveRun &a = runs[i], &b = runs[j];
    if (a.segment == no_segment || b.segment == no_segment ||
        dot(direction_of(a, true), direction_of(b, false)) > opposite) {
      ++i;
      continue;
    }
    const auto on_a = runs_back(ring, a, b);
    const auto on_b = on_a ? std::nullopt : runs_back(ring, turned(b), turned(a));
    if (!on_a && !on_b) {
      ++i;
      continue;
    }
    if (on_a) {
      a.t1 = *on_a;
      a.count += b.count;
    } else {
      b.t0 = *on_b;
      b.first = a.first;
      b.count += a.count;
    }
    runs.erase(runs.begin() + static_cast<std::ptrdiff_t>(on_a ? j : i));
    i = i > 2 ? i - 2 : 0;
    std::erase_if(runs, [](const CurveRun& r) { return r.segment != no_segment && r.t0 == r.t1; });
  }
}

struct Join {
  double ta = 0, tb = 0; // where the first run ends and the second begins
  Point at;
  double move = 0; // mm, 0 where the curves really meet
};

bool is_end(double t) {
  return t == 0 || t == 1;
}

// Newton's method for a(t) = b(u); true when it converged near the start and inside both curves.
bool newton_crossing(const Segment& a, const Segment& b, double flattening, double farthest, double& t, double& u) {
  const Point start = a.at(t);
  double x = t, y = u;
  for (int i = 0; i < 20; ++i) {
    const Vec f = a.at(x) - b.at(y);
    if (length(f) < newton_residual) {
      constexpr double outside = 1e-9;
      if (x < -outside || x > 1 + outside || y < -outside || y > 1 + outside)
        return false;
      x = std::clamp(x, 0.0, 1.0), y = std::clamp(y, 0.0, 1.0);
      const double sine = std::abs(cross(unit(a.derivative(x)), unit(b.derivative(y))));
      const double reach = std::clamp(shallow_reach * flattening / std::max(sine, 1e-9), newton_reach, farthest_reach);
      if (distance(a.at(x), start) > std::min(reach, farthest))
        return false;
      t = x, u = y;
      return true;
    }
    const Vec da = a.derivative(std::clamp(x, 0.0, 1.0)), db = b.derivative(std::clamp(y, 0.0, 1.0));
    const double det = cross(da, db);
    if (std::abs(det) < 1e-9 * length(da) * length(db))
      return false;
    x -= cross(f, db) / det;
    y -= cross(f, da) / det;
    if (!std::isfinite(x) || !std::isfinite(y))
      return false;
  }
  return false;
}

Join join_runs(const Ring& ring, const CurveRun& a, const CurveRun& b, bool snap_only) {
  const Segment sa = ring.curve(a), sb = ring.curve(b);
  Join j{a.segment == no_segment ? 1.0 : a.t1, b.segment == no_segment ? 0.0 : b.t0, {}, 0};
  const Point pa = sa.at(j.ta), pb = sb.at(j.tb);
  if (pa == pb)
    return {j.ta, j.tb, pa, 0};
  if (!snap_only) {
    double t = j.ta, u = j.tb;
    // Where a short run went that was between them, they meet about there: a crossing far off would make it a needle.
    const bool next_to = (a.first + a.count) % ring.polygon.size() == b.first;
    const double farthest = next_to ? farthest_reach : shallow_reach * ring.flattening;
    if (newton_crossing(sa, sb, ring.flattening, farthest, t, u)) {
      const bool forward = (a.forward ? t > a.t0 : t < a.t0) && (b.forward ? u < b.t1 : u > b.t1);
      if (forward || a.segment == no_segment || b.segment == no_segment)
        return {t, u, sa.at(t), 0};
    }
  }
  // No crossing: an own end of one curve lying on the other stays where it is, else both meet half way.
  j.at = is_end(j.ta) && !is_end(j.tb) ? pa : is_end(j.tb) && !is_end(j.ta) ? pb : lerp(pa, pb, 0.5);
  j.move = std::max(distance(pa, j.at), distance(pb, j.at));
  return j;
}

Segment emit(const Segment& source, double t0, double t1, Point from, Point to) {
  if (source.is_line())
    return Segment::line(from, to);
  Segment s = source.part(t0, t1);
  s.p1 += from - s.p0, s.p2 += to - s.p3;
  s.p0 = from, s.p3 = to;
  return s;
}

// The directions in which a line from one point passes all the nodes it has left out within collinear_off.
class Sleeve {
public:
  explicit Sleeve(const Segment& first) : from_(first.p0), axis_(unit(first.p3 - first.p0)) { leave_out(first.p3); }
  bool reaches(Point p) const {
    const double a = angle(p);
    return a >= low_ && a <= high_;
  }
  void leave_out(Point p) {
    const double half = std::asin(std::min(1.0, collinear_off / std::max(distance(from_, p), collinear_off)));
    low_ = std::max(low_, angle(p) - half), high_ = std::min(high_, angle(p) + half);
  }

private:
  double angle(Point p) const { return turn_between(axis_, p - from_); }
  Point from_;
  Vec axis_;
  double low_ = -pi / 2, high_ = pi / 2;
};

// Lines in a row become one where it passes all their nodes within collinear_off.
void merge_collinear_lines(Contour& c) {
  const auto may_merge = [](const Segment& a, const Segment& b) {
    return a.is_line() && b.is_line() && dot(a.p3 - a.p0, b.p3 - b.p0) > 0;
  };
  std::vector<Segment>& s = c.segments;
  const auto corner = [&](std::size_t i) {
    const Segment& before = s[(i + s.size() - 1) % s.size()];
    return !may_merge(before, s[i]) || !Sleeve(before).reaches(s[i].p3);
  };
  std::size_t start = 0;
  while (start < s.size() && !corner(start))
    ++start;
  if (start < s.size())
    std::rotate(s.begin(), s.begin() + static_cast<std::ptrdiff_t>(start), s.end());
  std::vector<Segment> out;
  std::optional<Sleeve> sleeve;
  for (std::size_t i = 0; i < s.size(); ++i) {
    const bool enough_left = out.size() + s.size() - i > 3;
    if (sleeve && enough_left && may_merge(out.back(), s[i]) && sleeve->reaches(s[i].p3)) {
      sleeve->leave_out(s[i].p3);
      out.back() = Segment::line(out.back().p0, s[i].p3);
      continue;
    }
    out.push_back(s[i]);
    sleeve = s[i].is_line() ? std::optional(Sleeve(s[i])) : std::nullopt;
  }
  s = std::move(out);
}

std::vector<Join> joined(const Ring& ring, const std::vector<CurveRun>& runs, bool snap_only) {
  std::vector<Join> joins;
  for (std::size_t i = 0; i < runs.size(); ++i)
    joins.push_back(join_runs(ring, runs[i], runs[(i + 1) % runs.size()], snap_only));
  // Beside a tangency both ends of a short run may have moved past each other; it would run backwards.
  for (std::size_t i = 0; i < runs.size() && !snap_only; ++i) {
    const std::size_t h = (i + runs.size() - 1) % runs.size();
    const double gain = joins[i].ta - joins[h].tb;
    if (runs[i].segment == no_segment || (runs[i].forward ? gain > 0 : gain < 0))
      continue;
    joins[h] = join_runs(ring, runs[h], runs[i], true);
    joins[i] = join_runs(ring, runs[i], runs[(i + 1) % runs.size()], true);
  }
  return joins;
}

// Between its joins a run may be shorter than it was on the polygon. The first one that is too short to stay.
std::optional<std::size_t> too_short(const Ring& ring, const std::vector<CurveRun>& runs,
                                     const std::vector<Join>& joins) {
  const double least = 2 * ring.flattening;
  for (std::size_t i = 0; i < runs.size(); ++i) {
    const Join &before = joins[(i + runs.size() - 1) % runs.size()], &after = joins[i];
    const bool whole_one =
        runs[i].segment != no_segment && std::min(before.tb, after.ta) == 0 && std::max(before.tb, after.ta) == 1;
    if (!whole_one && distance(before.at, after.at) < least &&
        control_length(ring.curve(runs[i]).part(before.tb, after.ta)) <
            snapped_share * least) // its ends may have moved
      return i;
  }
  return std::nullopt;
}

Contour rebuild(const Ring& ring, std::vector<CurveRun> runs, bool snap_only, WeldReport& report) {
  std::vector<Join> joins = joined(ring, runs, snap_only);
  while (runs.size() > 2) {
    const auto gone = too_short(ring, runs, joins);
    if (!gone)
      break;
    runs.erase(runs.begin() + static_cast<std::ptrdiff_t>(*gone));
    joins = joined(ring, runs, snap_only);
  }
  Contour c;
  for (std::size_t i = 0; i < runs.size(); ++i) {
    const Join& before = joins[(i + runs.size() - 1) % runs.size()];
    const Join& after = joins[i];
    c.segments.push_back(emit(ring.curve(runs[i]), before.tb, after.ta, before.at, after.at));
    if (after.move > 0) {
      ++report.snapped_joins;
      report.worst_move = std::max(report.worst_move, after.move);
    }
  }
  merge_collinear_lines(c);
  return c;
}

Contour polyline(const Ring& ring) {
  Contour c;
  for (std::size_t i = 0; i < ring.polygon.size(); ++i)
    c.segments.push_back(Segment::line(ring.vertex(i), ring.vertex(i + 1)));
  return c;
}

struct PolygonSize {
  double area = 0, length = 0;
};

PolygonSize measure(const GridPolygon& polygon) {
  PolygonSize m;
  const Point origin = polygon.empty() ? Point{} : from_grid(polygon.front());
  for (std::size_t i = 0; i < polygon.size(); ++i) {
    const Point a = from_grid(polygon[i]) - origin, b = from_grid(polygon[(i + 1) % polygon.size()]) - origin;
    m.area += cross(a, b) / 2;
    m.length += distance(a, b);
  }
  return m;
}

// What the stretch of curve holds more than its polyline, mm², about the polyline's first vertex.
double over_chords(const Ring& ring, const CurveRun& run) {
  const Point origin = ring.vertex(run.first);
  double polyline = 0;
  for (std::size_t i = 0; i < run.count; ++i)
    polyline += cross(ring.vertex(run.first + i) - origin, ring.vertex(run.first + i + 1) - origin) / 2;
  const Segment part = ring.curve(run).part(run.t0, run.t1);
  return part.transformed(Affine::translation(-origin)).area() - polyline;
}

Contour recover(const FlatCluster& cluster, const GridPolygon& polygon, const WeldOptions& options, PolygonSize size,
                WeldReport& report) {
  const double flattening = options.flattening;
  const Ring ring{cluster, polygon, flattening};
  std::vector<CurveRun> runs = RunFinder(ring).find();
  absorb_hops(ring, runs);
  drop_short_runs(ring, runs);
  cut_spikes(ring, runs);
  absorb_hops(ring, runs);
  for (const CurveRun& run : runs)
    if (run.segment != no_segment && cluster.coarse(run.segment))
      size.area += over_chords(ring, run);
  const double allowed = 1.5 * flattening * size.length + 0.002;
  for (const bool snap_only : {false, true}) {
    WeldReport tried = report;
    Contour c = rebuild(ring, runs, snap_only, tried);
    if (std::abs(c.area() - size.area) <= allowed) {
      take_small_loops(c, options, tried);
      report = tried;
      return c;
    }
  }
  ++report.polyline_contours;
  return polyline(ring);
}

} // namespace

Result<Outline> clip_and_recover(const std::vector<ClipShape>& shapes, const ClipOperation& operation,
                                 const WeldOptions& options, WeldReport& report) {
  const FlatCluster cluster(shapes, options.flattening);
  const Result<std::vector<GridPolygon>> united =
      clip_polygons(operation.op, operation.rule, cluster.polygons(), cluster.polygons_of_first(operation.subjects));
  if (!united)
    return united.error();
  // What is narrower goes; where loops count, so do slivers, which are loops that the flattening saw.
  const double least_width = options.small_loops == SmallLoops::Turned ? spike_width : 2 * options.flattening;
  Outline out;
  for (const GridPolygon& polygon : *united) {
    if (options.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "weld")};
    const PolygonSize size = measure(polygon);
    if (2 * std::abs(size.area) < least_width * size.length)
      continue;
    out.contours.push_back(recover(cluster, polygon, options, size, report));
  }
  return out;
}

} // namespace frelm
