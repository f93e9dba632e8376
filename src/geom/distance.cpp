// Branch and bound over pairs of nodes of two box trees, whose leaves are segments, halved further as needed: the
// distance of two boxes bounds that of what they hold from below; the best pair of points found so far bounds the
// answer from above. Pieces flatter than flat_enough are compared as lines in closed form. Error: at most 2 x
// flat_enough. Work: near n log n of the number of segments, for outlines that lie apart.
#include "geom/distance.h"

#include "geom/along.h"

#include <queue>
#include <span>

namespace frelm {
namespace {

constexpr double flat_enough = 0.0005; // mm

constexpr std::size_t none = static_cast<std::size_t>(-1);

bool nearly_line(const Segment& s) {
  return s.is_line() ||
         std::max(length(s.p0 - s.p1 * 2.0 + s.p2), length(s.p1 - s.p2 * 2.0 + s.p3)) * 0.75 <= flat_enough;
}

} // namespace

// A binary tree of boxes; a node without children holds a piece of a segment and gets two on demand.
class BoxTree {
public:
  explicit BoxTree(const Outline& outline) {
    std::vector<Segment> segments;
    for (const Contour& c : outline.contours)
      segments.insert(segments.end(), c.segments.begin(), c.segments.end());
    if (!segments.empty())
      build(segments);
  }
  bool empty() const { return nodes_.empty(); }
  const Box& box(std::size_t n) const { return nodes_[n].box; }
  double size(std::size_t n) const { return std::max(box(n).width(), box(n).height()); }
  const Segment& piece(std::size_t n) const { return nodes_[n].piece; }
  bool holds_line(std::size_t n) const { return nodes_[n].first == none && nearly_line(nodes_[n].piece); }
  // A place on what the node holds.
  Point somewhere(std::size_t n) const { return nodes_[n].piece.at(0.5); }
  std::pair<std::size_t, std::size_t> children(std::size_t n) {
    if (nodes_[n].first == none) {
      const Segment a = nodes_[n].piece.part(0, 0.5), b = nodes_[n].piece.part(0.5, 1);
      nodes_[n].first = add({a.control_box(), a});
      nodes_[n].second = add({b.control_box(), b});
    }
    return {nodes_[n].first, nodes_[n].second};
  }

private:
  struct Node {
    Box box;
    Segment piece;
    std::size_t first = none, second = none;
  };
  std::size_t add(const Node& node) {
    nodes_.push_back(node);
    return nodes_.size() - 1;
  }
  std::size_t build(std::span<Segment> segments) {
    Box box;
    for (const Segment& s : segments)
      box.add(s.control_box());
    const std::size_t at = add({box, segments.front()});
    if (segments.size() == 1)
      return at;
    const bool by_x = box.width() >= box.height();
    const auto middle = segments.begin() + static_cast<std::ptrdiff_t>(segments.size() / 2);
    std::nth_element(segments.begin(), middle, segments.end(), [&](const Segment& a, const Segment& b) {
      return by_x ? a.p0.x + a.p3.x < b.p0.x + b.p3.x : a.p0.y + a.p3.y < b.p0.y + b.p3.y;
    });
    const std::size_t first = build(segments.first(segments.size() / 2));
    const std::size_t second = build(segments.subspan(segments.size() / 2));
    nodes_[at].first = first, nodes_[at].second = second;
    return at;
  }
  std::vector<Node> nodes_;
};

namespace {

void offer(Closest& best, Point a, Point b) {
  if (const double d = distance(a, b); d < best.distance)
    best.distance = d, best.on_a = a, best.on_b = b;
}

void compare_lines(const Segment& a, const Segment& b, Closest& best) {
  const Vec da = a.p3 - a.p0, db = b.p3 - b.p0;
  if (const double det = cross(da, db); det != 0) {
    const double t = cross(b.p0 - a.p0, db) / det, u = cross(b.p0 - a.p0, da) / det;
    if (t >= 0 && t <= 1 && u >= 0 && u <= 1) {
      const Point p = lerp(a.p0, a.p3, t);
      best = {0, p, p, true};
      return;
    }
  }
  offer(best, a.p0, nearest_on_chord(b.p0, b.p3, a.p0));
  offer(best, a.p3, nearest_on_chord(b.p0, b.p3, a.p3));
  offer(best, nearest_on_chord(a.p0, a.p3, b.p0), b.p0);
  offer(best, nearest_on_chord(a.p0, a.p3, b.p3), b.p3);
}

struct Pair {
  double bound;
  std::size_t a, b;
  bool operator<(const Pair& o) const { return bound > o.bound; }
};

bool inside(const Outline& area, const Outline& other) {
  for (const Contour& c : other.contours)
    if (!c.segments.empty() && winding_number(area, c.segments.front().p0) != 0)
      return true;
  return false;
}

// Pairs as near as `best` or farther are not looked at.
Closest nearest(BoxTree& ta, BoxTree& tb, Closest best) {
  if (ta.empty() || tb.empty())
    return best;
  std::priority_queue<Pair> queue;
  const auto visit = [&](std::size_t x, std::size_t y) {
    offer(best, ta.somewhere(x), tb.somewhere(y));
    if (const double bound = ta.box(x).distance_to(tb.box(y)); bound < best.distance)
      queue.push({bound, x, y});
  };
  visit(0, 0);
  while (!queue.empty() && queue.top().bound < best.distance && !best.overlapping) {
    const Pair pair = queue.top();
    queue.pop();
    const bool line_a = ta.holds_line(pair.a), line_b = tb.holds_line(pair.b);
    if (line_a && line_b) {
      compare_lines(ta.piece(pair.a), tb.piece(pair.b), best);
      continue;
    }
    if (!line_a && (line_b || ta.size(pair.a) >= tb.size(pair.b))) {
      const auto [first, second] = ta.children(pair.a);
      visit(first, pair.b), visit(second, pair.b);
    } else {
      const auto [first, second] = tb.children(pair.b);
      visit(pair.a, first), visit(pair.a, second);
    }
  }
  best.overlapping = best.overlapping || best.distance == 0;
  return best;
}

} // namespace

Closest closest_boundaries(const Outline& a, const Outline& b) {
  BoxTree ta(a), tb(b);
  return nearest(ta, tb, {});
}

Boundary::Boundary(const Outline& outline) : tree_(std::make_unique<BoxTree>(outline)) {}
Boundary::~Boundary() = default;
Boundary::Boundary(Boundary&&) noexcept = default;
Boundary& Boundary::operator=(Boundary&&) noexcept = default;

std::optional<Point> Boundary::meets(Boundary& other) {
  Closest none_yet;
  none_yet.distance = std::numeric_limits<double>::min(); // only what is 0 apart
  const Closest c = nearest(*tree_, *other.tree_, none_yet);
  return c.overlapping ? std::optional(c.on_a) : std::nullopt;
}

std::optional<Point> Boundary::nearer_than(double d, Point p) {
  if (tree_->empty())
    return std::nullopt;
  Box at;
  at.add(p);
  std::vector<std::size_t> open{0};
  while (!open.empty()) {
    const std::size_t n = open.back();
    open.pop_back();
    if (tree_->box(n).distance_to(at) >= d)
      continue;
    if (!tree_->holds_line(n)) {
      const auto [first, second] = tree_->children(n);
      open.insert(open.end(), {first, second});
    } else if (const Point q = nearest_on_chord(tree_->piece(n).p0, tree_->piece(n).p3, p); distance(p, q) < d) {
      return q;
    }
  }
  return std::nullopt;
}

Closest closest(const Outline& a, const Outline& b) {
  Closest best = closest_boundaries(a, b);
  if (!best.overlapping && (inside(a, b) || inside(b, a)))
    best = {0, best.on_a, best.on_b, true};
  return best;
}

} // namespace frelm
