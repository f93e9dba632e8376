// 1. Segments are halved until none turns by half a circle, so that none crosses itself; pairs whose boxes touch are
//    found by a sweep in x and crossed (geom/crossings).
// 2. Every segment is split at its crossings; ends nearer than same_vertex become one vertex.
// 3. At each vertex the edges are ordered by the direction in which they leave, looked at a little way along; where
//    some leave nearly alike (curves that touch), as far along as it takes to tell them apart. A face's boundary goes
//    on with the neighbour in that order (the doubly connected edge list of de Berg et al., Computational Geometry,
//    2008, ch. 2). Edges that end in the open are walked there and back, and dropped from the boundary.
// 4. Boundaries of positive area are faces; those of negative area are what a connected group of curves looks like from
//    outside, and an island of the smallest face of another group around it.
#include "geom/arrangement.h"

#include "geom/along.h"
#include "geom/crossings.h"
#include "geom/groups.h"
#include "geom/nodes.h"

#include <numeric>
#include <unordered_map>

namespace frelm {
namespace {

constexpr double same_vertex = 0.002; // mm
constexpr double look_ahead = 0.05;   // mm along an edge, for its direction at a vertex,
constexpr double look_share = 0.25;   // or this much of it
constexpr double most_turn = 2.8;     // radians a segment may turn
constexpr double alike = 0.05;        // radians: edges that leave so nearly the same way
constexpr double apart = 0.004;       // mm: are looked at where they are this far from each other
constexpr std::size_t none = static_cast<std::size_t>(-1);

struct Part { // of a source segment
  Segment s;
  CurveAt start;
  double t_end = 1;
  Box box;
  std::vector<double> cuts; // of its own parameter
};

double turning(const Segment& s) {
  double sum = 0;
  Vec before = s.start_tangent();
  for (int i = 1; i <= 8; ++i) {
    const Vec now = i == 8 ? s.end_tangent() : unit(s.derivative(i / 8.0));
    sum += std::abs(std::atan2(cross(before, now), dot(before, now)));
    before = now;
  }
  return sum;
}

void append_parts(const Segment& s, CurveAt start, double t_end, int halvings, std::vector<Part>& out) {
  if (!s.is_line() && halvings > 0 && turning(s) > most_turn) {
    const double m = (start.t + t_end) / 2;
    append_parts(s.part(0, 0.5), start, m, halvings - 1, out);
    start.t = m;
    append_parts(s.part(0.5, 1), start, t_end, halvings - 1, out);
    return;
  }
  out.push_back({s, start, t_end, s.control_box().grown(meet_distance), {}});
}

// Points nearer than same_vertex get one number.
class Vertices {
public:
  std::size_t at(Point p) {
    const long x = cell(p.x), y = cell(p.y);
    for (long dy = -1; dy <= 1; ++dy)
      for (long dx = -1; dx <= 1; ++dx)
        if (const auto it = cells_.find(key(x + dx, y + dy)); it != cells_.end())
          for (const std::size_t v : it->second)
            if (distance(points[v], p) <= same_vertex)
              return v;
    cells_[key(x, y)].push_back(points.size());
    points.push_back(p);
    return points.size() - 1;
  }
  std::vector<Point> points;

private:
  static long cell(double v) { return std::lround(v / (2 * same_vertex)); }
  static std::uint64_t key(long x, long y) {
    return static_cast<std::uint64_t>(x) * 0x9e3779b97f4a7c15ULL ^
           static_cast<std::uint64_t>(y) * 0xc2b2ae3d27d4eb4fULL;
  }
  std::unordered_map<std::uint64_t, std::vector<std::size_t>> cells_;
};

void cross_all(std::vector<Part>& parts, const std::stop_token& stop) {
  std::vector<std::size_t> order(parts.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::sort(order.begin(), order.end(), [&](auto a, auto b) { return parts[a].box.x0 < parts[b].box.x0; });
  std::vector<std::size_t> open;
  for (const std::size_t i : order) {
    if (stop.stop_requested())
      return;
    std::erase_if(open, [&](std::size_t j) { return parts[j].box.x1 < parts[i].box.x0; });
    for (const std::size_t j : open) {
      if (!parts[i].box.overlaps(parts[j].box))
        continue;
      for (const CurveCrossing& c : crossings(parts[i].s, parts[j].s)) {
        parts[i].cuts.push_back(c.t);
        parts[j].cuts.push_back(c.u);
      }
    }
    open.push_back(i);
  }
}

Segment moved_ends(Segment s, Point from, Point to) {
  if (s.is_line())
    return Segment::line(from, to);
  s.p1 += from - s.p0, s.p2 += to - s.p3;
  s.p0 = from, s.p3 = to;
  return s;
}

} // namespace

Result<Arrangement> Arrangement::build(const std::vector<Outline>& outlines, std::stop_token stop) {
  Arrangement out;
  std::vector<Part> parts;
  struct Row {
    std::size_t first, count;
    bool closed;
  };
  std::vector<Row> rows;
  for (std::size_t o = 0; o < outlines.size(); ++o)
    for (std::size_t c = 0; c < outlines[o].contours.size(); ++c) {
      const Contour& contour = outlines[o].contours[c];
      const std::size_t first = parts.size();
      for (std::size_t s = 0; s < contour.segments.size(); ++s) {
        const Segment& segment = contour.segments[s];
        if (!all_finite(segment))
          return bad_input(FRELM_WORDS("core", "a curve has a coordinate that is not a number; draw it again"),
                           FRELM_WORDS("core", "arrangement"));
        append_parts(segment, {o, c, s, 0}, 1, 6, parts);
      }
      if (parts.size() > first)
        rows.push_back({first, parts.size() - first, contour.closed});
    }
  cross_all(parts, stop);
  if (stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "arrangement")};
  Vertices vertices;
  for (const Row& row : rows) {
    Chain chain{out.edges_.size(), 0, row.closed};
    for (std::size_t i = row.first; i < row.first + row.count; ++i) {
      Part& part = parts[i];
      part.cuts.push_back(0), part.cuts.push_back(1);
      std::sort(part.cuts.begin(), part.cuts.end());
      double t = 0;
      std::size_t v = vertices.at(part.s.p0);
      for (const double cut : part.cuts) {
        const std::size_t w = vertices.at(part.s.at(cut));
        const bool loop =
            w == v && distance(part.s.at((t + cut) / 2), part.s.at(t)) > same_vertex; // a whole small ring
        if (w == v && !loop)
          continue;
        CurveAt start = part.start;
        start.t = part.start.t + (part.t_end - part.start.t) * t;
        out.edges_.push_back({moved_ends(part.s.part(t, cut), vertices.points[v], vertices.points[w]), v, w, start,
                              part.start.t + (part.t_end - part.start.t) * cut});
        v = w, t = cut;
      }
    }
    chain.count = out.edges_.size() - chain.first;
    if (chain.count > 0)
      out.chains_.push_back(chain);
  }
  out.vertices_ = std::move(vertices.points);
  out.degree_.assign(out.vertices_.size(), 0);
  for (const Edge& e : out.edges_)
    ++out.degree_[e.from], ++out.degree_[e.to];
  for (std::size_t v = 0; v < out.vertices_.size(); ++v)
    if (out.degree_[v] > 2)
      out.crossings_.push_back(out.vertices_[v]);
  out.make_cycles();
  return out;
}

std::vector<Point> Arrangement::loose_ends() const {
  std::vector<Point> out;
  for (std::size_t v = 0; v < vertices_.size(); ++v)
    if (degree_[v] == 1)
      out.push_back(vertices_[v]);
  return out;
}

Segment Arrangement::half_curve(std::size_t half) const {
  const Segment& s = edges_[half / 2].curve;
  return half % 2 == 0 ? s : s.reversed();
}

std::vector<std::size_t> Arrangement::components() const {
  Groups groups(vertices_.size());
  for (const Edge& e : edges_)
    groups.join(e.from, e.to);
  std::vector<std::size_t> out;
  for (std::size_t v = 0; v < vertices_.size(); ++v)
    out.push_back(groups.first_of(v));
  return out;
}

void Arrangement::make_cycles() {
  const std::size_t halves = edges_.size() * 2;
  Leaving leaving(vertices_.size());
  std::vector<bool> twin_of_another(edges_.size(), false); // edges that lie on an earlier one
  for (std::size_t h = 0; h < halves; ++h) {
    const Segment s = half_curve(h);
    const double size = control_length(s);
    const double t = std::min(look_share, look_ahead / std::max(size, 1e-9));
    const Vec way = s.at(t) - s.p0;
    leaving[half_from(h)].push_back({std::atan2(way.y, way.x), h});
  }
  for (auto& at : leaving)
    std::sort(at.begin(), at.end());
  for (auto& at : leaving)
    if (at.size() > 2)
      tell_apart(at, leaving);
  // Two edges between the same vertices that leave alike and pass the same middle are one curve drawn twice.
  for (const auto& at : leaving)
    for (std::size_t i = 0; i < at.size(); ++i)
      for (std::size_t j = i + 1; j < at.size(); ++j) {
        const std::size_t a = at[i].second, b = at[j].second;
        if (a / 2 != b / 2 && half_to(a) == half_to(b) &&
            distance(half_curve(a).at(0.5), half_curve(b).at(0.5)) <= 2 * same_vertex)
          twin_of_another[std::max(a, b) / 2] = true;
      }
  std::vector<std::size_t> next(halves, none);
  for (auto& at : leaving) {
    std::erase_if(at, [&](const auto& entry) { return twin_of_another[entry.second / 2]; });
    for (std::size_t i = 0; i < at.size(); ++i) // the face lies to the right: the next leaves just before, by angle
      next[at[i].second ^ 1] = at[(i + at.size() - 1) % at.size()].second;
  }
  const std::vector<std::size_t> component = components();
  std::vector<bool> seen(halves, false);
  for (std::size_t h = 0; h < halves; ++h) {
    if (seen[h] || twin_of_another[h / 2])
      continue;
    Cycle cycle;
    for (std::size_t k = h; !seen[k]; k = next[k]) {
      seen[k] = true;
      if (!cycle.halves.empty() && cycle.halves.back() == (k ^ 1)) // there and back
        cycle.halves.pop_back();
      else
        cycle.halves.push_back(k);
    }
    while (cycle.halves.size() > 1 && cycle.halves.front() == (cycle.halves.back() ^ 1)) {
      cycle.halves.pop_back();
      cycle.halves.erase(cycle.halves.begin());
    }
    for (const std::size_t k : cycle.halves)
      cycle.contour.segments.push_back(half_curve(k));
    cycle.area = cycle.contour.area();
    cycle.box = cycle.contour.bounds();
    cycle.component = component[half_from(h)];
    if (!cycle.halves.empty())
      cycles_.push_back(std::move(cycle));
  }
}

// The place at a distance from where the half-edge begins, along it and what follows it without a choice; where the
// curve ends before, its end.
Point Arrangement::place_along(std::size_t half, double far, const Leaving& leaving) const {
  const Point from = vertices_[half_from(half)];
  for (int i = 0; i < 1000; ++i) {
    const Segment s = half_curve(half);
    if (distance(s.p3, from) >= far) {
      double near = 0, beyond = 1;
      for (int k = 0; k < 40; ++k) {
        const double t = (near + beyond) / 2;
        (distance(s.at(t), from) < far ? near : beyond) = t;
      }
      return s.at(beyond);
    }
    const auto& there = leaving[half_to(half)];
    if (there.size() != 2)
      return s.p3;
    half = there[there[0].second == (half ^ 1) ? 1 : 0].second;
  }
  return half_curve(half).p3;
}

// Runs of edges around a vertex that leave nearly alike, in the order that they have further along.
void Arrangement::tell_apart(std::vector<std::pair<double, std::size_t>>& around, const Leaving& leaving) const {
  const std::size_t n = around.size();
  const auto turn = [](double a, double b) { return std::remainder(b - a, 2 * pi); };
  std::size_t first = 0; // of a run: the widest gap lies before it
  double widest = 0;
  for (std::size_t i = 0; i < n; ++i) {
    double gap = turn(around[(i + n - 1) % n].first, around[i].first);
    gap = gap < 0 ? gap + 2 * pi : gap;
    if (gap > widest)
      widest = gap, first = i;
  }
  std::rotate(around.begin(), around.begin() + static_cast<std::ptrdiff_t>(first), around.end());
  const Point from = vertices_[half_from(around.front().second)];
  for (std::size_t i = 0; i < n;) {
    std::size_t end = i + 1;
    while (end < n && turn(around[end - 1].first, around[end].first) < alike)
      ++end;
    const double base = around[i].first;
    std::vector<std::pair<double, std::size_t>> run; // turn from the first, half-edge
    for (double far = 2 * look_ahead; end - i > 1; far *= 2) {
      std::vector<std::pair<double, std::size_t>> now;
      bool reached = true, clear = true;
      for (std::size_t k = i; k < end; ++k) {
        const Vec way = place_along(around[k].second, far, leaving) - from;
        reached = reached && length(way) > far * 0.99;
        now.emplace_back(turn(base, std::atan2(way.y, way.x)), around[k].second);
      }
      if (!reached)
        break;
      std::sort(now.begin(), now.end());
      for (std::size_t k = 1; k < now.size(); ++k)
        clear = clear && (now[k].first - now[k - 1].first) * far > apart;
      run = std::move(now);
      if (clear)
        break;
    }
    for (std::size_t k = 0; k < run.size(); ++k)
      around[i + k].second = run[k].second;
    i = end;
  }
}

const Arrangement::Cycle* Arrangement::innermost(Point p, std::size_t not_component) const {
  const Cycle* best = nullptr;
  for (const Cycle& c : cycles_)
    if (c.area > 0 && c.component != not_component && c.box.contains(p) && (best == nullptr || c.area < best->area) &&
        winding_number({{c.contour}}, p) != 0)
      best = &c;
  return best;
}

std::optional<Outline> Arrangement::face_at(Point p) const {
  const Cycle* outer = innermost(p, none);
  if (outer == nullptr)
    return std::nullopt;
  Outline face{{outer->contour}};
  for (const Cycle& c : cycles_)
    if (c.area < 0 && c.component != outer->component && innermost(c.contour.segments.front().p0, c.component) == outer)
      face.contours.push_back(c.contour);
  return face;
}

std::optional<ArrangedStretch> Arrangement::stretch_at(Point p) const {
  std::size_t nearest = none;
  double best = std::numeric_limits<double>::infinity();
  Box at;
  at.add(p);
  for (std::size_t e = 0; e < edges_.size(); ++e) {
    if (edges_[e].curve.control_box().distance_to(at) >= best)
      continue;
    if (const double d = nearest_on({{{{edges_[e].curve}, false}}}, p)->distance; d < best)
      best = d, nearest = e;
  }
  if (nearest == none)
    return std::nullopt;
  const Chain& chain = *std::find_if(chains_.begin(), chains_.end(),
                                     [&](const Chain& c) { return nearest >= c.first && nearest < c.first + c.count; });
  const auto edge = [&](std::size_t i) -> const Edge& { return edges_[chain.first + i % chain.count]; };
  const auto goes_on = [&](std::size_t v) { return degree_[v] == 2; };
  std::size_t first = nearest - chain.first, count = 1;
  while (count < chain.count && (chain.closed || first > 0) && goes_on(edge(first).from))
    first = (first + chain.count - 1) % chain.count, ++count;
  while (count < chain.count && (chain.closed || first + count < chain.count) && goes_on(edge(first + count - 1).to))
    ++count;
  ArrangedStretch out;
  out.whole = count == chain.count;
  out.curve.closed = out.whole && chain.closed;
  for (std::size_t i = 0; i < count; ++i)
    out.curve.segments.push_back(edge(first + i).curve);
  out.from = edge(first).start;
  out.to = edge(first + count - 1).start;
  out.to.t = edge(first + count - 1).t_end;
  return out;
}

} // namespace frelm
