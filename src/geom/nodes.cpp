// A contour's segments are edited in place and its ends joined again with the same doubles. A node that goes leaves one
// cubic for the two segments it stood between, fitted to both (geom/cubic_fit); kinds are read off the handles.
#include "geom/nodes.h"

#include "geom/cubic_fit.h"

#include <set>

namespace frelm {
namespace {

constexpr double in_line = 0.2 * pi / 180; // radians: handles closer to one line than this make a smooth node
constexpr double equal_share = 1e-3;       // of the length: handles this near are equally long
constexpr double same_place = 1e-9;        // mm
constexpr int refit_targets = 24;

bool has(const Outline& o, NodeAt n) {
  return n.contour < o.contours.size() && n.node < node_count(o.contours[n.contour]);
}
// Index of the segment that ends at the node, or that starts there.
std::optional<std::size_t> segment_beside(const Contour& c, std::size_t node, HandleSide side) {
  const std::size_t n = c.segments.size();
  if (n == 0)
    return std::nullopt;
  if (side == HandleSide::Out)
    return node < n ? std::optional(node) : std::nullopt;
  if (node > 0)
    return node - 1;
  return c.closed ? std::optional(n - 1) : std::nullopt;
}

void keep_line(Segment& s) {
  if (s.is_line())
    s = Segment::line(s.p0, s.p3);
}
void make_curved(Segment& s) {
  s.kind = SegmentKind::Cubic;
}
Point& control(Segment& s, HandleSide side) {
  return side == HandleSide::In ? s.p2 : s.p1; // the one near the node it belongs to
}
Vec direction_of(const Segment& s, HandleSide side) { // away from the node
  return side == HandleSide::In ? -s.end_tangent() : s.start_tangent();
}

// The cubic nearest to two segments in a row, with their outer directions. Two lines in one line stay a line.
Segment merged(const Segment& a, const Segment& b) {
  if (a.is_line() && b.is_line())
    return Segment::line(a.p0, b.p3);
  std::vector<Point> targets;
  std::vector<double> t;
  const double la = std::max(distance(a.p0, a.p3), same_place), lb = std::max(distance(b.p0, b.p3), same_place);
  const double share = la / (la + lb);
  for (int i = 1; i < refit_targets; ++i) {
    const double k = static_cast<double>(i) / refit_targets;
    targets.push_back(k < share ? a.at(k / share) : b.at((k - share) / (1 - share)));
    t.push_back(k);
  }
  const Vec start = a.start_tangent(), end = b.end_tangent();
  return fit_cubic(a.p0, start, end, b.p3, targets, t, std::max(distance(a.p0, a.p1) / share, 0.05 * (la + lb)),
                   std::max(distance(b.p2, b.p3) / (1 - share), 0.05 * (la + lb)), {})
      .cubic;
}

void turn_handle(Contour& c, std::size_t node, HandleSide side, Vec away) {
  const auto i = segment_beside(c, node, side);
  if (!i)
    return;
  Segment& s = c.segments[*i];
  const Point p = node_point(c, node);
  const double l = distance(p, control(s, side));
  make_curved(s);
  control(s, side) = p + away * (l > same_place ? l : distance(s.p0, s.p3) / 3);
}

} // namespace

std::size_t node_count(const Contour& c) {
  return c.segments.size() + (c.closed || c.segments.empty() ? 0 : 1);
}

Point node_point(const Contour& c, std::size_t node) {
  return node < c.segments.size() ? c.segments[node].p0 : c.segments.back().p3;
}

NodeKind node_kind(const Contour& c, std::size_t node) {
  const auto in = segment_beside(c, node, HandleSide::In), out = segment_beside(c, node, HandleSide::Out);
  if (!in || !out)
    return NodeKind::End;
  const Segment &a = c.segments[*in], &b = c.segments[*out];
  const Vec from = a.end_tangent(), to = b.start_tangent();
  if (std::abs(std::atan2(cross(from, to), dot(from, to))) > in_line || (a.is_line() && b.is_line()))
    return NodeKind::Corner;
  const double la = distance(a.p2, a.p3), lb = distance(b.p0, b.p1);
  return !a.is_line() && !b.is_line() && std::abs(la - lb) <= equal_share * std::max(la, lb) ? NodeKind::Even
                                                                                             : NodeKind::Smooth;
}

std::optional<Point> node_handle(const Contour& c, std::size_t node, HandleSide side) {
  const auto i = segment_beside(c, node, side);
  if (!i || c.segments[*i].is_line())
    return std::nullopt;
  return side == HandleSide::In ? c.segments[*i].p2 : c.segments[*i].p1;
}

std::optional<NearestOnOutline> nearest_on(const Outline& outline, Point p) {
  std::optional<NearestOnOutline> best;
  for (std::size_t c = 0; c < outline.contours.size(); ++c)
    for (std::size_t i = 0; i < outline.contours[c].segments.size(); ++i) {
      const Segment& s = outline.contours[c].segments[i];
      if (best) { // too far away to matter
        const Box box = s.control_box();
        const double dx = std::max({0.0, box.x0 - p.x, p.x - box.x1}), dy = std::max({0.0, box.y0 - p.y, p.y - box.y1});
        if (std::hypot(dx, dy) > best->distance)
          continue;
      }
      constexpr int n = 16;
      double t = 0, d = std::numeric_limits<double>::infinity();
      for (int k = 0; k <= n; ++k)
        if (const double now = distance(s.at(static_cast<double>(k) / n), p); now < d)
          d = now, t = static_cast<double>(k) / n;
      double a = std::max(0.0, t - 1.0 / n), b = std::min(1.0, t + 1.0 / n);
      for (int k = 0; k < 60; ++k) {
        const double m0 = a + (b - a) * 0.381966, m1 = b - (b - a) * 0.381966;
        (distance(s.at(m0), p) < distance(s.at(m1), p) ? b : a) =
            distance(s.at(m0), p) < distance(s.at(m1), p) ? m1 : m0;
      }
      t = (a + b) / 2;
      if (const double now = distance(s.at(t), p); !best || now < best->distance)
        best = {c, i, t, s.at(t), now};
    }
  return best;
}

Outline add_node(Outline o, std::size_t contour, std::size_t segment, double t) {
  if (contour >= o.contours.size() || segment >= o.contours[contour].segments.size() || !(t > 0) || !(t < 1))
    return o;
  auto& segments = o.contours[contour].segments;
  const Segment s = segments[segment];
  const Segment first = s.part(0, t);
  Segment second = s.part(t, 1);
  second.p0 = first.p3;
  segments[segment] = first;
  segments.insert(segments.begin() + static_cast<std::ptrdiff_t>(segment) + 1, second);
  return o;
}

Outline delete_nodes(Outline o, std::vector<NodeAt> nodes) {
  std::sort(nodes.begin(), nodes.end());
  nodes.erase(std::unique(nodes.begin(), nodes.end()), nodes.end());
  for (auto it = nodes.rbegin(); it != nodes.rend(); ++it) { // from the back, so that indices stay true
    if (!has(o, *it))
      continue;
    Contour& c = o.contours[it->contour];
    const auto in = segment_beside(c, it->node, HandleSide::In), out = segment_beside(c, it->node, HandleSide::Out);
    if (in && out && *in != *out) {
      c.segments[*in] = merged(c.segments[*in], c.segments[*out]);
      c.segments.erase(c.segments.begin() + static_cast<std::ptrdiff_t>(*out));
    } else if (in && out) {
      c.segments.clear();
    } else {
      c.segments.erase(c.segments.begin() + static_cast<std::ptrdiff_t>(in ? *in : *out));
    }
  }
  std::erase_if(o.contours, [](const Contour& c) { return c.segments.empty(); });
  return o;
}

Outline move_nodes(Outline o, const std::vector<NodeAt>& nodes, Vec by) {
  const std::set<NodeAt> once(nodes.begin(), nodes.end());
  for (const NodeAt n : once) {
    if (!has(o, n))
      continue;
    Contour& c = o.contours[n.contour];
    const Point to = node_point(c, n.node) + by;
    if (const auto in = segment_beside(c, n.node, HandleSide::In)) {
      c.segments[*in].p3 = to;
      c.segments[*in].p2 += by;
    }
    if (const auto out = segment_beside(c, n.node, HandleSide::Out)) {
      c.segments[*out].p0 = to;
      c.segments[*out].p1 += by;
    }
    for (const HandleSide side : {HandleSide::In, HandleSide::Out})
      if (const auto i = segment_beside(c, n.node, side))
        keep_line(c.segments[*i]);
  }
  return o;
}

Outline move_handle(Outline o, NodeAt n, HandleSide side, Point to) {
  if (!has(o, n))
    return o;
  Contour& c = o.contours[n.contour];
  const auto i = segment_beside(c, n.node, side);
  if (!i)
    return o;
  const NodeKind kind = node_kind(c, n.node);
  const Point p = node_point(c, n.node);
  make_curved(c.segments[*i]);
  control(c.segments[*i], side) = to;
  const HandleSide other = side == HandleSide::In ? HandleSide::Out : HandleSide::In;
  const auto j = segment_beside(c, n.node, other);
  if (!j || (kind != NodeKind::Smooth && kind != NodeKind::Even) || c.segments[*j].is_line())
    return o;
  const double l = kind == NodeKind::Even ? distance(to, p) : distance(control(c.segments[*j], other), p);
  if (distance(to, p) > same_place)
    control(c.segments[*j], other) = p - unit(to - p) * l;
  return o;
}

Outline set_node_kind(Outline o, NodeAt n, NodeKind kind) {
  if (!has(o, n))
    return o;
  Contour& c = o.contours[n.contour];
  const auto in = segment_beside(c, n.node, HandleSide::In), out = segment_beside(c, n.node, HandleSide::Out);
  if (!in || !out || kind == NodeKind::End)
    return o;
  const Vec from = -direction_of(c.segments[*in], HandleSide::In), to = direction_of(c.segments[*out], HandleSide::Out);
  if (kind == NodeKind::Corner) {
    if (node_kind(c, n.node) != NodeKind::Corner) {
      constexpr double mark = 0.5 * pi / 180;
      turn_handle(c, n.node, HandleSide::Out, Affine::rotation(mark).linear(to));
    }
    return o;
  }
  Vec along = from + to;
  if (length(along) < 1e-6) // a cusp: across it
    along = up_of(from);
  along = unit(along);
  turn_handle(c, n.node, HandleSide::In, -along);
  turn_handle(c, n.node, HandleSide::Out, along);
  if (kind == NodeKind::Even) {
    const Point p = node_point(c, n.node);
    const double l = (distance(c.segments[*in].p2, p) + distance(c.segments[*out].p1, p)) / 2;
    c.segments[*in].p2 = p - along * l;
    c.segments[*out].p1 = p + along * l;
  }
  return o;
}

Outline set_straight(Outline o, const std::vector<NodeAt>& segments) {
  for (const NodeAt n : segments)
    if (n.contour < o.contours.size() && n.node < o.contours[n.contour].segments.size()) {
      Segment& s = o.contours[n.contour].segments[n.node];
      s = Segment::line(s.p0, s.p3);
    }
  return o;
}

Outline set_curved(Outline o, const std::vector<NodeAt>& segments) {
  for (const NodeAt n : segments)
    if (n.contour < o.contours.size() && n.node < o.contours[n.contour].segments.size())
      make_curved(o.contours[n.contour].segments[n.node]);
  return o;
}

Outline break_at(Outline o, NodeAt n) {
  if (!has(o, n))
    return o;
  Contour& c = o.contours[n.contour];
  if (c.closed) {
    std::rotate(c.segments.begin(), c.segments.begin() + static_cast<std::ptrdiff_t>(n.node), c.segments.end());
    c.closed = false;
    return o;
  }
  if (n.node == 0 || n.node >= c.segments.size())
    return o;
  Contour rest;
  rest.closed = false;
  rest.segments.assign(c.segments.begin() + static_cast<std::ptrdiff_t>(n.node), c.segments.end());
  c.segments.resize(n.node);
  o.contours.insert(o.contours.begin() + static_cast<std::ptrdiff_t>(n.contour) + 1, std::move(rest));
  return o;
}

Outline one_line(Outline o, NodeAt a, NodeAt b) {
  if (!has(o, a) || !has(o, b) || a.contour != b.contour || a.node == b.node)
    return o;
  Contour& c = o.contours[a.contour];
  std::size_t first = std::min(a.node, b.node), last = std::max(a.node, b.node);
  const auto begin = c.segments.begin();
  const auto at = [&](std::size_t i) { return begin + static_cast<std::ptrdiff_t>(i); };
  if (c.closed) { // begins at the node from which the way to the other is the shorter one
    const double inner = Contour{{at(first), at(last)}, false}.length();
    const bool straight_on = inner <= c.length() - inner;
    const std::size_t between = straight_on ? last - first : c.segments.size() - (last - first);
    std::rotate(begin, at(straight_on ? first : last), c.segments.end());
    last = between;
    first = 0;
  }
  const Segment line = Segment::line(c.segments[first].p0, c.segments[last - 1].p3);
  c.segments.erase(at(first) + 1, at(last));
  c.segments[first] = line;
  return o;
}

Outline join_ends(Outline o, NodeAt a, NodeAt b) {
  const auto is_end = [&](NodeAt n) { return has(o, n) && node_kind(o.contours[n.contour], n.node) == NodeKind::End; };
  if (!is_end(a) || !is_end(b) || a == b)
    return o;
  const Point middle = lerp(node_point(o.contours[a.contour], a.node), node_point(o.contours[b.contour], b.node), 0.5);
  for (const NodeAt n : {a, b}) {
    const Vec by = middle - node_point(o.contours[n.contour], n.node);
    o = move_nodes(std::move(o), {n}, by);
  }
  if (a.contour == b.contour) {
    Contour& c = o.contours[a.contour];
    c.closed = true;
    c.segments.back().p3 = c.segments.front().p0;
    return o;
  }
  Contour first = o.contours[a.contour], second = o.contours[b.contour];
  if (a.node == 0)
    first = first.reversed();
  if (b.node != 0)
    second = second.reversed();
  second.segments.front().p0 = first.segments.back().p3;
  first.segments.insert(first.segments.end(), second.segments.begin(), second.segments.end());
  o.contours[a.contour] = std::move(first);
  o.contours.erase(o.contours.begin() + static_cast<std::ptrdiff_t>(b.contour));
  return o;
}

Outline close_contour(Outline o, std::size_t contour) {
  if (contour >= o.contours.size() || o.contours[contour].closed || o.contours[contour].segments.empty())
    return o;
  Contour& c = o.contours[contour];
  if (distance(c.segments.back().p3, c.segments.front().p0) > same_place)
    c.segments.push_back(Segment::line(c.segments.back().p3, c.segments.front().p0));
  c.segments.back().p3 = c.segments.front().p0;
  c.closed = true;
  return o;
}

Outline reverse_contour(Outline o, std::size_t contour) {
  if (contour < o.contours.size())
    o.contours[contour] = o.contours[contour].reversed();
  return o;
}

Outline set_start(Outline o, NodeAt n) {
  if (has(o, n) && o.contours[n.contour].closed) {
    auto& segments = o.contours[n.contour].segments;
    std::rotate(segments.begin(), segments.begin() + static_cast<std::ptrdiff_t>(n.node), segments.end());
  }
  return o;
}

} // namespace frelm
