// Every segment is flattened to edges (error f). Curves whose edges are further than 2 f apart don't meet, so
// edges are hashed by cells and all pairs but neighbours compared. Neighbouring edges share an end: at a gentle joint
// both run on along one direction; at a sharp one they must part in the same order as their tangents. No segment may
// turn by half a circle, so that none crosses itself.
#include "geom/sound.h"

#include "geom/along.h"
#include "geom/groups.h"

#include <cstdint>

namespace frelm {
namespace {

constexpr double coarse_share = 0.01;            // of the mean segment
constexpr double finest = 0.005, coarsest = 0.1; // mm
constexpr double margin_share = 2.5;             // of the flattening: more than twice
constexpr double shortest = 1e-4;                // mm, of an edge
constexpr double sharp = pi / 2;                 // radians: a joint that turns by more has its order looked at
constexpr double fold = 175 * pi / 180;
constexpr double hook_cosine = 0.5; // a curve's end that is 60 degrees or more off its first edge
constexpr std::size_t dense = 4;    // cells for each edge at most, else cells get wider

struct Edge {
  Point a, b;
  std::size_t shape = 0, segment = 0, next = 0; // segment: counted through the shape's contours
};

// Does the curve begin or end quite another way than its first or last edge? Then there may be a loop under the edges.
bool hooked(const Segment& s, const Edge& first, const Edge& last) {
  if (s.is_line())
    return false;
  const Vec a = first.b - first.a, b = last.b - last.a;
  return dot(s.start_tangent(), a) < hook_cosine * length(a) || dot(s.end_tangent(), b) < hook_cosine * length(b);
}

double point_to_edge(Point p, const Edge& e) {
  return distance_to_chord(e.a, e.b, p);
}
bool near(const Edge& x, const Edge& y, double margin) {
  const Vec dx = x.b - x.a, dy = y.b - y.a;
  if ((cross(dx, y.a - x.a) > 0) != (cross(dx, y.b - x.a) > 0) &&
      (cross(dy, x.a - y.a) > 0) != (cross(dy, x.b - y.a) > 0))
    return true;
  return std::min({point_to_edge(x.a, y), point_to_edge(x.b, y), point_to_edge(y.a, x), point_to_edge(y.b, x)}) <
         margin;
}

// The edges of an outline. `close` gets the segments that a joint or they themselves leave in doubt; false when there
// are any that may make the outline unsound.
bool flatten_all(const Outline& outline, std::size_t shape, double flattening, std::vector<Edge>& edges,
                 std::vector<bool>& close) {
  bool sure = !outline.empty();
  for (const Contour& contour : outline.contours) {
    const std::vector<Segment>& segments = contour.segments;
    const std::size_t first = edges.size(), first_segment = close.size();
    std::vector<std::size_t> starts;
    for (const Segment& s : segments) {
      bool doubt = control_turn(s) >= pi;
      starts.push_back(edges.size());
      const int n = s.flat_steps(flattening);
      Point a = s.p0;
      for (int i = 1; i <= n; ++i) {
        const Point b = i == n ? s.p3 : s.at(static_cast<double>(i) / n);
        if (distance(a, b) < shortest) {
          doubt = true;
          continue;
        }
        edges.push_back({a, b, shape, close.size(), edges.size() + 1});
        a = b;
      }
      doubt = doubt || edges.size() == starts.back() || hooked(s, edges[starts.back()], edges.back());
      sure = sure && !doubt;
      close.push_back(doubt);
    }
    sure = sure && contour.closed && edges.size() - first >= 3;
    if (edges.size() == first)
      continue;
    edges.back().next = first;
    for (std::size_t k = 0; k < segments.size(); ++k) {
      const std::size_t h = (k + segments.size() - 1) % segments.size();
      if (close[first_segment + k] && edges.size() == starts[k]) // a point, without an edge of its own
        continue;
      const Edge &before = edges[starts[k] == first ? edges.size() - 1 : starts[k] - 1],
                 &after = edges[std::min(starts[k], edges.size() - 1)];
      const double turn = turn_between(segments[h].end_tangent(), segments[k].start_tangent());
      const double chords = turn_between(before.b - before.a, after.b - after.a);
      if (std::abs(turn) <= sharp && std::abs(chords) <= sharp)
        continue;
      close[first_segment + h] = close[first_segment + k] = true;
      sure = sure && std::abs(turn) <= fold && std::abs(chords) <= fold && turn * chords >= 0;
    }
  }
  return sure;
}

// Calls meet(i, j) for pairs of edges that are near and not neighbours, unless known(i, j) says that it is no news.
template <class Known, class Meet>
void find_near(const std::vector<Edge>& edges, double margin, const Known& known, const Meet& meet) {
  Box box;
  double total = 0;
  for (const Edge& e : edges)
    box.add(e.a), box.add(e.b), total += distance(e.a, e.b);
  const auto count = static_cast<double>(edges.size());
  const double cell = std::max(
      {2 * margin, 1.5 * total / count, std::sqrt(box.width() * box.height() / (static_cast<double>(dense) * count))});
  const auto columns = static_cast<std::size_t>((box.width() + 2 * margin) / cell) + 2;
  const auto rows = static_cast<std::size_t>((box.height() + 2 * margin) / cell) + 2;
  std::vector<std::vector<std::uint32_t>> cells(columns * rows);
  const auto column = [&](double x) { return static_cast<std::size_t>((x - box.x0 + margin) / cell); };
  const auto row = [&](double y) { return static_cast<std::size_t>((y - box.y0 + margin) / cell); };
  for (std::uint32_t i = 0; i < edges.size(); ++i) {
    const Edge& e = edges[i];
    Box reach;
    reach.add(e.a), reach.add(e.b);
    reach = reach.grown(margin / 2);
    for (std::size_t y = row(reach.y0); y <= row(reach.y1); ++y)
      for (std::size_t x = column(reach.x0); x <= column(reach.x1); ++x) {
        for (const std::uint32_t j : cells[y * columns + x])
          if (edges[j].next != i && e.next != j && !known(e, edges[j]) && near(e, edges[j], margin))
            meet(e, edges[j]);
        cells[y * columns + x].push_back(i);
      }
  }
}

// Is every contour an outer one or directly in one? Requires contours that don't cross.
bool nests_well(const Outline& outline, double flattening) {
  for (const Contour& c : outline.contours) {
    Outline others;
    for (const Contour& o : outline.contours)
      if (&o != &c)
        others.contours.push_back(o);
    const int around = others.empty() ? 0 : winding_number(others, c.segments.front().p0, flattening);
    if (around != (c.area() > 0 ? 0 : 1))
      return false;
  }
  return true;
}

bool lies_in(const Outline& inner, const Outline& outer, double flattening) {
  return std::any_of(inner.contours.begin(), inner.contours.end(), [&](const Contour& c) {
    return !c.segments.empty() && winding_number(outer, c.segments.front().p0, flattening) != 0;
  });
}

} // namespace

NearGroups near_groups(const std::vector<const Outline*>& outlines) {
  const std::size_t n = outlines.size();
  NearGroups out;
  double total = 0;
  std::size_t segments = 0;
  for (const Outline* o : outlines)
    for (const Contour& c : o->contours)
      for (const Segment& s : c.segments)
        total += control_length(s), ++segments;
  const double mean = total / static_cast<double>(std::max<std::size_t>(segments, 1));
  out.coarse = std::clamp(coarse_share * mean, finest, coarsest);
  std::vector<Edge> edges;
  for (std::size_t i = 0; i < n; ++i)
    out.sound.push_back(flatten_all(*outlines[i], i, out.coarse, edges, out.close.emplace_back()));
  Groups groups(n);
  const auto together = [&](std::size_t i, std::size_t j) { return groups.first_of(i) == groups.first_of(j); };
  if (!edges.empty())
    find_near(
        edges, margin_share * out.coarse,
        [&](const Edge& a, const Edge& b) {
          return out.close[a.shape][a.segment] && out.close[b.shape][b.segment] &&
                 (a.shape == b.shape ? !out.sound[a.shape] : together(a.shape, b.shape));
        },
        [&](const Edge& a, const Edge& b) {
          out.close[a.shape][a.segment] = out.close[b.shape][b.segment] = true;
          if (a.shape == b.shape)
            out.sound[a.shape] = false;
          else
            groups.join(a.shape, b.shape);
        });
  std::vector<Box> boxes;
  for (const Outline* o : outlines)
    boxes.push_back(o->bounds());
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t j = i + 1; j < n; ++j)
      if (!together(i, j) && boxes[i].overlaps(boxes[j]) &&
          (lies_in(*outlines[i], *outlines[j], out.coarse) || lies_in(*outlines[j], *outlines[i], out.coarse)))
        groups.join(i, j);
  for (std::size_t i = 0; i < n; ++i)
    out.sound[i] = out.sound[i] && nests_well(*outlines[i], out.coarse);
  out.groups = groups.all();
  return out;
}

} // namespace frelm
