#include "support/compare.h"

#include <fmt/format.h>

namespace frelm::test {
namespace {

double to_edge(Point a, Point b, Point p) {
  const Vec d = b - a;
  const double l2 = dot(d, d), t = l2 > 0 ? std::clamp(dot(p - a, d) / l2, 0.0, 1.0) : 0;
  return distance(p, a + d * t);
}
long cell_index(double v, double cell) {
  return static_cast<long>(std::floor(v / cell));
}
long cell_key(long x, long y) {
  return x * 1000003L + y;
}

} // namespace

BoundaryDistance::BoundaryDistance(const std::vector<Ring>& rings) {
  double total = 0;
  for (const Ring& r : rings)
    for (std::size_t i = 0; i < r.size(); ++i) {
      edges_.push_back({r[i], r[(i + 1) % r.size()]});
      total += distance(edges_.back().first, edges_.back().second);
    }
  cell_ = std::max(0.05, 4 * total / static_cast<double>(std::max<std::size_t>(edges_.size(), 1)));
  for (std::size_t e = 0; e < edges_.size(); ++e) {
    Box b;
    b.add(edges_[e].first), b.add(edges_[e].second);
    for (long y = cell_index(b.y0, cell_); y <= cell_index(b.y1, cell_); ++y)
      for (long x = cell_index(b.x0, cell_); x <= cell_index(b.x1, cell_); ++x)
        cells_[cell_key(x, y)].push_back(e);
  }
}

double BoundaryDistance::operator()(Point p) const {
  double best = std::numeric_limits<double>::infinity();
  const long cx = cell_index(p.x, cell_), cy = cell_index(p.y, cell_);
  for (long ring = 0; ring < 4000; ++ring) {
    for (long y = cy - ring; y <= cy + ring; ++y)
      for (long x = cx - ring; x <= cx + ring; x += std::abs(y - cy) == ring ? 1 : std::max(2 * ring, 1L))
        if (const auto it = cells_.find(cell_key(x, y)); it != cells_.end())
          for (const std::size_t e : it->second)
            best = std::min(best, to_edge(edges_[e].first, edges_[e].second, p));
    if (best <= static_cast<double>(ring) * cell_)
      break;
  }
  return best;
}

std::vector<Ring> rings_of(const Outline& outline, double tolerance) {
  std::vector<Ring> rings;
  for (const Contour& c : outline.contours)
    rings.push_back(flatten(c, tolerance));
  return rings;
}

double ring_area(const Ring& ring) {
  double a = 0;
  for (std::size_t i = 0; i < ring.size(); ++i)
    a += cross(ring[i] - ring[0], ring[(i + 1) % ring.size()] - ring[0]) / 2;
  return a;
}
double ring_length(const Ring& ring) {
  double l = 0;
  for (std::size_t i = 0; i < ring.size(); ++i)
    l += distance(ring[i], ring[(i + 1) % ring.size()]);
  return l;
}
double total_area(const std::vector<Ring>& rings) {
  double a = 0;
  for (const Ring& r : rings)
    a += ring_area(r);
  return a;
}
double total_length(const std::vector<Ring>& rings) {
  double l = 0;
  for (const Ring& r : rings)
    l += ring_length(r);
  return l;
}
std::size_t ring_count(const std::vector<Ring>& rings, double width) {
  return static_cast<std::size_t>(std::count_if(
      rings.begin(), rings.end(), [&](const Ring& r) { return 2 * std::abs(ring_area(r)) >= width * ring_length(r); }));
}

double one_way_distance(const std::vector<Ring>& from, const std::vector<Ring>& to) {
  const BoundaryDistance to_boundary(to);
  double worst = 0;
  for (const Ring& r : from)
    for (std::size_t i = 0; i < r.size(); ++i) {
      worst = std::max(worst, to_boundary(r[i]));
      worst = std::max(worst, to_boundary(lerp(r[i], r[(i + 1) % r.size()], 0.5)));
    }
  return worst;
}
double boundary_distance(const std::vector<Ring>& a, const std::vector<Ring>& b) {
  return std::max(one_way_distance(a, b), one_way_distance(b, a));
}

std::string closed_fault(const Outline& outline) {
  for (std::size_t c = 0; c < outline.contours.size(); ++c) {
    const auto& s = outline.contours[c].segments;
    if (!outline.contours[c].closed || s.empty())
      return fmt::format("contour {} is open or empty", c);
    for (std::size_t i = 0; i < s.size(); ++i)
      if (s[i].p3 != s[(i + 1) % s.size()].p0)
        return fmt::format("contour {} breaks after segment {}", c, i);
  }
  return {};
}

std::size_t corner_count(const Outline& outline, double limit) {
  std::size_t n = 0;
  for (const Contour& c : outline.contours)
    for (std::size_t i = 0; i + (c.closed ? 0 : 1) < c.segments.size(); ++i) {
      const Vec a = c.segments[i].end_tangent(), b = c.segments[(i + 1) % c.segments.size()].start_tangent();
      if (degrees(std::abs(std::atan2(cross(a, b), dot(a, b)))) > limit)
        ++n;
    }
  return n;
}

} // namespace frelm::test
