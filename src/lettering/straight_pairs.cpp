// Worked out pair by pair when first asked for, and kept: outlines at the advance of the straight setting, their
// overlap by geom/boolean, and how many pieces and counters they make together.
#include "lettering/straight_pairs.h"

#include "geom/boolean.h"
#include "geom/distance.h"

namespace frelm {
namespace {

constexpr double joins_finer = 16;
constexpr double contact = 0.004;    // mm: letters as near as that in the straight setting meet edge to edge
constexpr double least_depth = 0.01; // mm: how deep such letters are held together, so that they are one piece
constexpr double edge_reach = 0.25;  // x-heights about a join that its letters may turn by

// The largest part that both cover, the right letter's advance beginning at `start`.
std::optional<Contour> largest_overlap(const Outline& left, const Outline& right, double start,
                                       const WeldOptions& options) {
  const Result<WeldResult> overlap =
      combine(BooleanOp::Intersection, {left}, {right.transformed(Affine::translation({start, 0}))}, options);
  if (!overlap || overlap->outline.empty())
    return std::nullopt;
  return *std::max_element(overlap->outline.contours.begin(), overlap->outline.contours.end(),
                           [](const Contour& a, const Contour& b) { return a.area() < b.area(); });
}

// The lines of a letter that reach into the band, each by itself.
FlatLetter lines_within(const Outline& letter, Band band, double tolerance) {
  FlatLetter out;
  for (const Contour& c : letter.contours) {
    const std::vector<Point> points = flatten(c, tolerance);
    for (std::size_t i = 0; i < points.size(); ++i) {
      const Point p = points[i], q = points[i + 1 < points.size() ? i + 1 : 0];
      if (std::max(-p.y, -q.y) < band.low || std::min(-p.y, -q.y) > band.high)
        continue;
      out.points.push_back(p), out.points.push_back(q);
      out.ends.push_back(out.points.size());
    }
  }
  return out;
}

// Of a cluster whose advance begins at `start` on the line y = 0.
std::vector<Point> moved(const FlatLetter& letter, double start) {
  std::vector<Point> out = letter.points;
  for (Point& p : out)
    p.x += start;
  return out;
}

// The start of the right letter's advance from that of the left one.
double start_of_right(const SetCluster& left, const SetCluster& right, double apart) {
  return left.advance / 2 + apart - right.advance / 2;
}

std::size_t bytes_of(const FlatLetter& f) {
  return f.points.capacity() * sizeof(Point) + f.ends.capacity() * sizeof(std::size_t);
}
std::size_t bytes_of(const std::shared_ptr<const FlatLetter>& f) {
  return sizeof *f + bytes_of(*f);
}
std::size_t bytes_of(const std::shared_ptr<const Join>& j) {
  return j == nullptr ? 0 : sizeof *j + bytes_of(j->left_edge) + bytes_of(j->right_edge);
}
template <class Plain> std::size_t bytes_of(const Plain&) {
  return 0;
}

// The same pair further along a line differs by rounding only.
auto key(const SetCluster& left, const SetCluster& right, double apart) {
  return std::make_tuple(static_cast<const Outline*>(left.shape.get()), static_cast<const Outline*>(right.shape.get()),
                         left.advance, right.advance, std::llround(apart * 1e7));
}

} // namespace

Topology topology(const Outline& united) {
  Topology out;
  for (const Contour& c : united.contours)
    ++(c.area() > 0 ? out.pieces : out.counters);
  return out;
}

StraightPairs::StraightPairs(std::shared_ptr<const SetText> set)
    : set_(std::move(set)), tolerance_(flat_letter_tolerance(set_->cap_height)) {}

std::size_t StraightPairs::bytes() const {
  const std::lock_guard lock(mutex_);
  return sizeof *this + held_;
}

void StraightPairs::forget() const {
  const std::lock_guard lock(mutex_);
  flat_.clear(), gaps_.clear(), clearances_.clear(), joins_.clear(), topologies_.clear();
  held_ = 0;
}

template <class K, class V, class Make>
V StraightPairs::kept(std::map<K, V>& memory, const K& key, const Make& make) const {
  {
    const std::lock_guard lock(mutex_);
    if (const auto it = memory.find(key); it != memory.end())
      return it->second;
  }
  V made = make();
  constexpr std::size_t node = 4 * sizeof(void*) + sizeof(std::pair<const K, V>); // of a map
  const std::lock_guard lock(mutex_);
  const auto [it, first] = memory.try_emplace(key, std::move(made));
  if (first)
    held_ += node + bytes_of(it->second);
  return it->second;
}

std::shared_ptr<const FlatLetter> StraightPairs::flat(const std::shared_ptr<const Outline>& shape) const {
  return kept(flat_, static_cast<const Outline*>(shape.get()),
              [&] { return std::make_shared<const FlatLetter>(flat_letter(*shape, tolerance_)); });
}

double StraightPairs::gap(const SetCluster& left, const SetCluster& right, double apart) const {
  return kept(gaps_, key(left, right, apart), [&] {
    const Band band = shared_band(left, right, *set_);
    const auto a = flat(left.shape), b = flat(right.shape);
    const PairFrame frame;
    return mean_edge(*b, moved(*b, start_of_right(left, right, apart)), frame, band, Facing::Left) -
           mean_edge(*a, a->points, frame, band, Facing::Right);
  });
}

std::shared_ptr<const Join> StraightPairs::find_join(const SetCluster& left, const SetCluster& right,
                                                     double start) const {
  if (left.ink.x1 + contact < start + right.ink.x0)
    return nullptr;
  std::optional<Contour> largest = largest_overlap(*left.shape, *right.shape, start, {});
  if (!largest) { // they meet without area: where they would overlap if they stood a little closer
    WeldOptions finer;
    finer.flattening = contact / 8;
    largest = largest_overlap(*left.shape, *right.shape, start - contact, finer);
  }
  if (!largest)
    return nullptr;
  const Box box = largest->bounds();
  const double margin = reach_margin * set_->x_height;
  Join join;
  join.band = {-box.y1 - margin, -box.y0 + margin};
  join.left = box.centre(), join.right = box.centre() - Vec{start, 0};
  const double about = edge_reach * set_->x_height;
  const Band near{join.band.low - about, join.band.high + about};
  join.left_edge = lines_within(*left.shape, near, tolerance_ / joins_finer);
  join.right_edge = lines_within(*right.shape, near, tolerance_ / joins_finer);
  join.depth = deepest_reach(join.left_edge, join.left_edge.points, join.right_edge, moved(join.right_edge, start),
                             PairFrame{}, join.band);
  join.depth = std::max(join.depth, least_depth);
  return std::make_shared<const Join>(std::move(join));
}

std::shared_ptr<const Join> StraightPairs::join(const SetCluster& left, const SetCluster& right, double apart) const {
  return kept(joins_, key(left, right, apart),
              [&] { return find_join(left, right, start_of_right(left, right, apart)); });
}

Topology StraightPairs::pair_topology(const SetCluster& left, const SetCluster& right, double apart) const {
  return kept(topologies_, key(left, right, apart), [&] {
    const double start = start_of_right(left, right, apart);
    const std::shared_ptr<const Join> joined = join(left, right, apart);
    const double closer = joined != nullptr && joined->depth <= least_depth ? least_depth : 0;
    const Result<WeldResult> both =
        weld({*left.shape, right.shape->transformed(Affine::translation({start - closer, 0}))});
    if (!both)
      return Topology{};
    return topology(both->outline);
  });
}

double StraightPairs::clearance(const SetCluster& left, const SetCluster& right, double apart) const {
  return kept(clearances_, key(left, right, apart), [&] {
    const auto a = flat(left.shape), b = flat(right.shape);
    return closest(polygons(*a, a->points), polygons(*b, moved(*b, start_of_right(left, right, apart)))).distance;
  });
}

double reach_of(const Join& join, const PairFrame& frame, Point left_middle, Point right_middle,
                std::span<const Point> left_edge, std::span<const Point> right_edge) {
  const double here = (frame.y(left_middle) + frame.y(right_middle)) / 2, half = join.band.height() / 2;
  return deepest_reach(join.left_edge, left_edge, join.right_edge, right_edge, frame, {here - half, here + half});
}

} // namespace frelm
