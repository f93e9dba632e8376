#include "geom/weak_link.h"

#include "geom/along.h"
#include "geom/groups.h"
#include "geom/nodes.h"

#include <boost/polygon/segment_data.hpp>
#include <boost/polygon/voronoi.hpp>

#include <algorithm>
#include <cstdint>
#include <numeric>

namespace frelm {
namespace {

namespace bp = boost::polygon;
using Grid = bp::point_data<std::int32_t>;
using Chord = bp::segment_data<std::int32_t>;
using Cell = bp::voronoi_diagram<double>::cell_type;
using Edge = bp::voronoi_diagram<double>::edge_type;
using Vertex = bp::voronoi_diagram<double>::vertex_type;

constexpr double flat = 0.01;  // mm: enough to find the link; what it measures is settled on the curves
constexpr double wider = 1.01; // than the link, somewhere in each half
constexpr double most_units_per_mm = 1e5, reach = 1e9;

// A stretch of the skeleton: as wide as twice the radius at its narrowest place.
struct Bone {
  std::size_t from = 0, to = 0; // joints
  double radius = 0;
  Point a, b; // of the edge, on both sides of the narrowest place
  double area = 0;
};

class Skeleton {
public:
  explicit Skeleton(const Outline& part) {
    const Box box = part.bounds();
    middle_ = box.centre();
    units_ = std::min(most_units_per_mm, reach / std::max({box.width(), box.height(), 1.0}));
    for (const Contour& c : part.contours)
      if (c.closed)
        add(c);
    bp::construct_voronoi(chords_.begin(), chords_.end(), &diagram_);
    radii_.resize(diagram_.vertices().size());
    for (const Edge& e : diagram_.edges())
      if (&e < e.twin() && e.is_primary() && e.is_finite() && inside(e))
        bones_.push_back(bone(e));
  }
  const std::vector<Bone>& bones() const { return bones_; }
  const std::vector<double>& radii() const { return radii_; } // of the joints
  Point on_sheet(Point p) const { return middle_ + p / units_; }
  double units() const { return units_; }

private:
  void add(const Contour& contour) {
    const std::size_t first = chords_.size();
    std::vector<Grid> points;
    for (const Point p : flatten(contour, flat)) {
      const Vec v = (p - middle_) * units_;
      const Grid g(static_cast<std::int32_t>(std::lround(v.x)), static_cast<std::int32_t>(std::lround(v.y)));
      if (points.empty() || g != points.back())
        points.push_back(g);
    }
    while (points.size() > 1 && points.front() == points.back())
      points.pop_back();
    if (points.size() < 3)
      return;
    const std::size_t n = points.size();
    for (std::size_t i = 0; i < n; ++i) {
      chords_.emplace_back(points[i], points[(i + 1) % n]);
      before_.push_back(first + (i + n - 1) % n);
      after_.push_back(first + (i + 1) % n);
    }
  }

  static Point point(const Grid& g) { return {static_cast<double>(g.x()), static_cast<double>(g.y())}; }
  static Point at(const Vertex& v) { return {v.x(), v.y()}; }
  Point low(std::size_t i) const { return point(chords_[i].low()); }
  Point high(std::size_t i) const { return point(chords_[i].high()); }
  Point place_of(const Cell& c) const { // of a point's cell
    return c.source_category() == bp::SOURCE_CATEGORY_SEGMENT_START_POINT ? low(c.source_index())
                                                                          : high(c.source_index());
  }
  // The place of the edge in this cell nearest to p.
  Point foot(const Cell& c, Point p) const {
    return c.contains_point() ? place_of(c) : nearest_on_chord(low(c.source_index()), high(c.source_index()), p);
  }
  // On the filled side: contours run with the area on their left hand as seen with y down.
  bool inside(const Edge& e) const {
    const Point middle = lerp(at(*e.vertex0()), at(*e.vertex1()), 0.5);
    for (const Cell* c : {e.cell(), e.twin()->cell()})
      if (c->contains_segment()) {
        const std::size_t i = c->source_index();
        return cross(high(i) - low(i), middle - low(i)) > 0;
      }
    const Cell& c = *e.cell(); // between two corners: on the side to which they turn away
    const std::size_t i = c.source_index();
    const bool start = c.source_category() == bp::SOURCE_CATEGORY_SEGMENT_START_POINT;
    const std::size_t in = start ? before_[i] : i, out = start ? i : after_[i];
    return cross(high(in) - low(in), high(out) - low(out)) < 0;
  }

  Bone bone(const Edge& e) {
    const Cell &c = *e.cell(), &d = *e.twin()->cell();
    const Point v0 = at(*e.vertex0()), v1 = at(*e.vertex1());
    Bone out;
    out.from = static_cast<std::size_t>(e.vertex0() - diagram_.vertices().data());
    out.to = static_cast<std::size_t>(e.vertex1() - diagram_.vertices().data());
    const double r0 = distance(v0, foot(c, v0)), r1 = distance(v1, foot(c, v1));
    radii_[out.from] = r0, radii_[out.to] = r1;
    Point narrowest = r0 <= r1 ? v0 : v1;
    if (c.contains_point() || d.contains_point()) { // narrowest between the two, where that is on the stretch
      const Cell &corner = c.contains_point() ? c : d, &other = c.contains_point() ? d : c;
      const Point p = place_of(corner);
      const Point q = other.contains_point() ? place_of(other) : [&] {
        const Point a = low(other.source_index());
        const Vec u = unit(high(other.source_index()) - a);
        return a + dot(p - a, u) * u;
      }();
      const Vec along = up_of(q - p);
      const double s0 = dot(v0 - p, along), s1 = dot(v1 - p, along);
      if (std::min(s0, s1) <= 0 && std::max(s0, s1) >= 0)
        narrowest = lerp(p, q, 0.5);
    }
    out.a = foot(c, narrowest), out.b = foot(d, narrowest);
    out.radius = distance(narrowest, out.a);
    for (const Cell* side : {&c, &d}) {
      const Point f0 = foot(*side, v0), f1 = foot(*side, v1);
      out.area += std::abs(cross(f0 - v0, v1 - v0) + cross(f1 - f0, v1 - f0)) / 2;
    }
    return out;
  }

  Point middle_;
  double units_ = 1;
  std::vector<Chord> chords_;
  std::vector<std::size_t> before_, after_; // along their contour
  bp::voronoi_diagram<double> diagram_;
  std::vector<double> radii_;
  std::vector<Bone> bones_;
};

} // namespace

namespace {

// It bends one way only: nowhere narrower than on both sides.
bool convex(const Outline& part) {
  if (part.contours.size() != 1)
    return false;
  std::vector<Point> corners;
  for (const Segment& s : part.contours.front().segments)
    for (const Point p : {s.p0, s.p1, s.p2})
      if (corners.empty() || distance(p, corners.back()) > flat * flat)
        corners.push_back(p);
  const std::size_t n = corners.size();
  for (std::size_t i = 0; i < n; ++i)
    if (cross(corners[(i + 1) % n] - corners[i], corners[(i + 2) % n] - corners[(i + 1) % n]) < -flat * flat)
      return false;
  return true;
}

// The stretch of the edge around a place: its segment and those beside it.
Outline around(const Outline& part, Point p) {
  const auto at = nearest_on(part, p);
  const std::vector<Segment>& all = part.contours[at->contour].segments;
  Contour out{{}, false};
  const std::size_t n = all.size(), count = std::min<std::size_t>(3, n);
  for (std::size_t i = 0; i < count; ++i)
    out.segments.push_back(all[(at->segment + n - (count > 1 ? 1 : 0) + i) % n]);
  return {{out}};
}

// Each end in turn goes to the place of its stretch nearest to the other.
void settle(const Outline& part, WeakLink& link) {
  const Outline by_a = around(part, link.a), by_b = around(part, link.b);
  constexpr int rounds = 40;
  constexpr double still = 1e-7; // mm
  for (int i = 0; i < rounds; ++i) {
    const Point b = nearest_on(by_b, link.a)->point, a = nearest_on(by_a, b)->point;
    const bool settled = distance(a, link.a) < still && distance(b, link.b) < still;
    link.a = a, link.b = b;
    if (settled)
      break;
  }
  if (const double width = distance(link.a, link.b); std::abs(width - link.width) < 10 * flat)
    link.width = width;
}

} // namespace

std::optional<WeakLink> weakest_link(const Outline& part, double share) {
  if (part.contours.empty() || convex(part))
    return std::nullopt;
  const Skeleton skeleton(part);
  const std::vector<Bone>& bones = skeleton.bones();
  const double units = skeleton.units(), heavy = share * std::abs(part.area()) * units * units;
  std::vector<std::size_t> widest_first(bones.size());
  std::iota(widest_first.begin(), widest_first.end(), std::size_t{0});
  std::stable_sort(widest_first.begin(), widest_first.end(),
                   [&](std::size_t a, std::size_t b) { return bones[a].radius > bones[b].radius; });
  const std::size_t joints = skeleton.radii().size();
  std::vector<double> area(joints, 0), widest = skeleton.radii();
  std::vector<std::vector<std::size_t>> tree(joints); // bones at each joint
  Groups grown(joints);
  for (const std::size_t b : widest_first) {
    const Bone& bone = bones[b];
    area[bone.from] += bone.area / 2, area[bone.to] += bone.area / 2;
    if (grown.first_of(bone.from) == grown.first_of(bone.to))
      continue;
    grown.join(bone.from, bone.to);
    tree[bone.from].push_back(b), tree[bone.to].push_back(b);
  }
  // Of each joint what hangs on it, and of what is on the other side of the bone that leads to it: the area, and how
  // wide it is anywhere. Down from a root and up again.
  constexpr std::size_t none = static_cast<std::size_t>(-1);
  std::vector<std::size_t> order, to_root(joints, none);
  std::vector<bool> seen(joints, false);
  const std::vector<double>& own = skeleton.radii();
  std::vector<double> beside(joints, 0);
  std::optional<WeakLink> out;
  for (std::size_t root = 0; root < joints; ++root) {
    if (seen[root] || tree[root].empty())
      continue;
    order.assign(1, root), seen[root] = true;
    for (std::size_t n = 0; n < order.size(); ++n)
      for (const std::size_t b : tree[order[n]]) {
        const std::size_t next = bones[b].from == order[n] ? bones[b].to : bones[b].from;
        if (!seen[next])
          seen[next] = true, to_root[next] = b, order.push_back(next);
      }
    const auto above = [&](std::size_t joint) {
      const Bone& b = bones[to_root[joint]];
      return b.from == joint ? b.to : b.from;
    };
    for (std::size_t n = order.size(); n-- > 1;) {
      area[above(order[n])] += area[order[n]];
      widest[above(order[n])] = std::max(widest[above(order[n])], widest[order[n]]);
    }
    // The widest place on the way down that does not hang on the joint: that of what is above it, of the joint above,
    // and of what else hangs on that.
    for (const std::size_t joint : order) {
      double first = 0, second = 0; // of what hangs on it
      std::size_t first_at = none;
      for (const std::size_t b : tree[joint]) {
        const std::size_t next = bones[b].from == joint ? bones[b].to : bones[b].from;
        if (b == to_root[joint])
          continue;
        if (widest[next] > first)
          second = std::exchange(first, widest[next]), first_at = next;
        else
          second = std::max(second, widest[next]);
      }
      for (const std::size_t b : tree[joint]) {
        const std::size_t next = bones[b].from == joint ? bones[b].to : bones[b].from;
        if (b != to_root[joint])
          beside[next] = std::max({beside[joint], own[joint], next == first_at ? second : first});
      }
    }
    for (std::size_t n = 1; n < order.size(); ++n) {
      const std::size_t joint = order[n];
      const Bone& b = bones[to_root[joint]];
      const double lighter = std::min(area[joint], area[root] - area[joint]);
      const bool link = lighter >= heavy && std::min(widest[joint], beside[joint]) >= wider * b.radius + flat * units;
      if (link && (!out || 2 * b.radius / units < out->width))
        out = WeakLink{2 * b.radius / units, skeleton.on_sheet(b.a), skeleton.on_sheet(b.b)};
    }
  }
  if (out)
    settle(part, *out);
  return out;
}

} // namespace frelm
