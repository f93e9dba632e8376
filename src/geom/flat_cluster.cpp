#include "geom/flat_cluster.h"

namespace frelm {
namespace {

constexpr double on_edge_units = 1.5; // Clipper rounds crossings to whole units: at most about one off its edge

bool before(GridPoint a, GridPoint b) {
  return a.x != b.x ? a.x < b.x : a.y < b.y;
}

struct Foot {
  double along = 0; // share of the edge
  bool on = false;
};

Foot foot_of(const FlatEdge& e, GridPoint p) {
  const double ex = static_cast<double>(e.b.x - e.a.x), ey = static_cast<double>(e.b.y - e.a.y);
  const double px = static_cast<double>(p.x - e.a.x), py = static_cast<double>(p.y - e.a.y);
  const double l2 = ex * ex + ey * ey;
  const double u = (px * ex + py * ey) / l2, l = std::sqrt(l2);
  const double off = std::abs(px * ey - py * ex) / l;
  const double past = std::max({0.0, -u, u - 1}) * l;
  return {u, off * off + past * past <= on_edge_units * on_edge_units};
}

double parameter(const FlatEdge& e, double u) {
  if (u <= 0)
    return e.t0;
  if (u >= 1)
    return e.t1;
  return e.t0 + (e.t1 - e.t0) * u;
}

} // namespace

FlatCluster::FlatCluster(const std::vector<ClipShape>& shapes, double flattening) {
  for (const ClipShape& shape : shapes) {
    first_polygon_.push_back(polygons_.size());
    std::size_t first = 0; // segment of the contour, in the shape
    for (const Contour& contour : shape.outline->contours) {
      if (contour.closed)
        add_contour(contour, shape, first, flattening);
      first += contour.segments.size();
    }
  }
  vertices_.reserve(edges_.size());
  for (std::uint32_t e = 0; e < edges_.size(); ++e)
    vertices_.push_back({edges_[e].a, e});
  std::sort(vertices_.begin(), vertices_.end(),
            [](const Vertex& a, const Vertex& b) { return a.p == b.p ? a.edge < b.edge : before(a.p, b.p); });
}

void FlatCluster::add_contour(const Contour& contour, const ClipShape& shape, std::size_t first_segment,
                              double flattening) {
  // Vertices that fall on the unit before them are left out; an edge then spans the stretch on both sides of them.
  const std::uint32_t first = static_cast<std::uint32_t>(edges_.size());
  GridPolygon polygon;
  for (const Segment& segment : contour.segments) {
    const std::uint32_t id = static_cast<std::uint32_t>(segments_.size());
    segments_.push_back(segment);
    const auto at = first_segment + static_cast<std::size_t>(&segment - contour.segments.data());
    coarse_.push_back(shape.close != nullptr && !(*shape.close)[at] && flattening < shape.coarse);
    const int n = segment.flat_steps(coarse_.back() ? shape.coarse : flattening);
    GridPoint last = to_grid(segment.p0);
    double t_last = 0;
    for (int i = 1; i <= n; ++i) {
      const double t = i == n ? 1.0 : static_cast<double>(i) / n;
      const GridPoint p = to_grid(segment.at(t));
      if (p == last) {
        if (i == n && edges_.size() > first && edges_.back().segment == id)
          edges_.back().t1 = 1;
        continue;
      }
      edges_.push_back({id, t_last, t, last, p, 0});
      polygon.push_back(last);
      last = p, t_last = t;
    }
  }
  const std::uint32_t count = static_cast<std::uint32_t>(edges_.size()) - first;
  if (count < 3) {
    edges_.resize(first);
    return;
  }
  for (std::uint32_t i = 0; i < count; ++i)
    edges_[first + i].previous = first + (i + count - 1) % count;
  polygons_.push_back(std::move(polygon));
}

void FlatCluster::build_grid() const {
  for (const FlatEdge& e : edges_)
    area_.add(Point{static_cast<double>(e.a.x), static_cast<double>(e.a.y)});
  if (edges_.empty())
    return;
  const double side = std::sqrt(static_cast<double>(edges_.size()));
  columns_ = rows_ = static_cast<std::size_t>(std::clamp(side, 1.0, 512.0));
  cells_.resize(columns_ * rows_);
  for (std::uint32_t i = 0; i < edges_.size(); ++i) {
    const FlatEdge& e = edges_[i];
    const std::size_t low =
        cell_of(static_cast<double>(std::min(e.a.x, e.b.x)) - 2, static_cast<double>(std::min(e.a.y, e.b.y)) - 2);
    const std::size_t high =
        cell_of(static_cast<double>(std::max(e.a.x, e.b.x)) + 2, static_cast<double>(std::max(e.a.y, e.b.y)) + 2);
    for (std::size_t y = low / columns_; y <= high / columns_; ++y)
      for (std::size_t x = low % columns_; x <= high % columns_; ++x)
        cells_[y * columns_ + x].push_back(i);
  }
}

std::size_t FlatCluster::cell_of(double x, double y) const {
  const auto index = [](double value, double low, double extent, std::size_t n) {
    const double share = extent > 0 ? (value - low) / extent : 0;
    return static_cast<std::size_t>(std::clamp(share * static_cast<double>(n), 0.0, static_cast<double>(n - 1)));
  };
  return index(y, area_.y0, area_.height(), rows_) * columns_ + index(x, area_.x0, area_.width(), columns_);
}

void FlatCluster::try_edge(std::uint32_t index, GridPoint p, GridPoint q, std::size_t first,
                           std::vector<EdgeLabel>& out) const {
  const FlatEdge& e = edges_[index];
  const Foot fp = foot_of(e, p), fq = foot_of(e, q);
  if (!fp.on || !fq.on || fp.along == fq.along)
    return;
  const EdgeLabel label{e.segment, fp.along < fq.along,
                        p == e.a   ? e.t0
                        : p == e.b ? e.t1
                                   : parameter(e, fp.along),
                        q == e.a   ? e.t0
                        : q == e.b ? e.t1
                                   : parameter(e, fq.along)};
  for (std::size_t i = first; i < out.size(); ++i)
    if (out[i].segment == label.segment && out[i].forward == label.forward && out[i].t0 == label.t0)
      return;
  out.push_back(label);
}

std::span<const FlatCluster::Vertex> FlatCluster::vertices_at(GridPoint at) const {
  const auto first = std::lower_bound(vertices_.begin(), vertices_.end(), at,
                                      [](const Vertex& v, GridPoint value) { return before(v.p, value); });
  auto last = first;
  while (last != vertices_.end() && last->p == at)
    ++last;
  return {first, last};
}

void FlatCluster::try_vertex_edges(std::span<const Vertex> at, GridPoint p, GridPoint q, std::size_t first,
                                   std::vector<EdgeLabel>& out) const {
  for (const Vertex& v : at) {
    try_edge(v.edge, p, q, first, out);
    try_edge(edges_[v.edge].previous, p, q, first, out);
  }
}

void FlatCluster::append_labels(GridPoint p, GridPoint q, std::vector<EdgeLabel>& out) const {
  const std::size_t first = out.size();
  // Boundaries are asked for edge after edge: p was q just now.
  const std::span<const Vertex> at_p =
      !last_found_.empty() && last_found_.front().p == p ? last_found_ : vertices_at(p);
  const std::span<const Vertex> at_q = last_found_ = vertices_at(q);
  if (at_p.size() == 1 && at_q.size() == 1) { // mostly: an edge of one source segment, untouched
    const std::uint32_t forward = at_p.front().edge, back = at_q.front().edge;
    if (edges_[forward].b == q && edges_[back].b != p)
      return out.push_back({edges_[forward].segment, true, edges_[forward].t0, edges_[forward].t1});
    if (edges_[back].b == p && edges_[forward].b != q)
      return out.push_back({edges_[back].segment, false, edges_[back].t1, edges_[back].t0});
  }
  try_vertex_edges(at_p, p, q, first, out);
  try_vertex_edges(at_q, p, q, first, out);
  if (out.size() == first && !edges_.empty()) {
    if (cells_.empty())
      build_grid();
    const std::size_t cell = cell_of((static_cast<double>(p.x) + static_cast<double>(q.x)) / 2,
                                     (static_cast<double>(p.y) + static_cast<double>(q.y)) / 2);
    for (const std::uint32_t e : cells_[cell])
      try_edge(e, p, q, first, out);
  }
}

} // namespace frelm
