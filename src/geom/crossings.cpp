// Both curves are halved, the longer first, as long as their control boxes come within meet_distance of each other;
// what is left when both are straight is met in closed form and settled on the curves by Newton's method. Where curves
// run along each other the number of such pairs has no bound but their length over the step; past most_pairs only the
// ends of either that lie on the other count.
#include "geom/crossings.h"

#include "geom/nodes.h"

#include <cmath>

namespace frelm {
namespace {

constexpr double flat = 1e-4; // mm
constexpr std::size_t most_pairs = 4096;
constexpr std::size_t most_crossings = 9; // of two cubics (Bézout's theorem)
constexpr double settled = 1e-9;          // mm
constexpr double same_place = 0.002;      // mm: neighbours in t this close are one crossing

struct Stretch {
  Segment s;
  double t0 = 0, t1 = 1;
  Box box;
};
Stretch stretch(const Segment& s, double t0, double t1) {
  return {s, t0, t1, s.control_box()};
}
bool is_flat(const Segment& s) {
  return s.is_line() || std::max(length(s.p0 - s.p1 * 2.0 + s.p2), length(s.p1 - s.p2 * 2.0 + s.p3)) * 0.75 <= flat;
}

class Finder {
public:
  Finder(const Segment& a, const Segment& b) : a_(a), b_(b) {}

  std::vector<CurveCrossing> run() {
    visit(stretch(a_, 0, 1), stretch(b_, 0, 1));
    if (pairs_ > most_pairs || apart().size() > most_crossings) // they run along each other
      found_.clear();
    touch_ends();
    return apart();
  }

private:
  std::vector<CurveCrossing> apart() {
    std::sort(found_.begin(), found_.end(), [](const auto& x, const auto& y) { return x.t < y.t; });
    std::vector<CurveCrossing> out;
    for (const CurveCrossing& c : found_)
      if (out.empty() || distance(out.back().point, c.point) > same_place)
        out.push_back(c);
      else if (is_end(c) && !is_end(out.back()))
        out.back() = c;
    return out;
  }
  static bool is_end(const CurveCrossing& c) { return c.t == 0 || c.t == 1 || c.u == 0 || c.u == 1; }

  void visit(const Stretch& a, const Stretch& b) {
    if (pairs_ > most_pairs || a.box.distance_to(b.box) > meet_distance)
      return;
    const bool fa = is_flat(a.s), fb = is_flat(b.s);
    if (fa && fb) {
      ++pairs_;
      return meet(a, b);
    }
    const bool split_a = !fa && (fb || a.box.width() + a.box.height() >= b.box.width() + b.box.height());
    const Stretch& s = split_a ? a : b;
    const double m = (s.t0 + s.t1) / 2;
    for (const Stretch& half : {stretch(s.s.part(0, 0.5), s.t0, m), stretch(s.s.part(0.5, 1), m, s.t1)})
      split_a ? visit(half, b) : visit(a, half);
  }

  void meet(const Stretch& a, const Stretch& b) {
    const Vec da = a.s.p3 - a.s.p0, db = b.s.p3 - b.s.p0, off = b.s.p0 - a.s.p0;
    const double det = cross(da, db);
    double x = 0.5, y = 0.5;
    if (std::abs(det) > 1e-9 * length(da) * length(db)) {
      x = cross(off, db) / det, y = cross(off, da) / det;
      // Beyond the chords by what the curves may rise over them, and a little.
      const double slack = 0.02 + meet_distance / std::max(std::min(length(da), length(db)), 1e-9);
      if (x < -slack || x > 1 + slack || y < -slack || y > 1 + slack)
        return;
    } else {
      return; // along each other: the ends say it
    }
    settle(std::clamp(a.t0 + (a.t1 - a.t0) * x, 0.0, 1.0), std::clamp(b.t0 + (b.t1 - b.t0) * y, 0.0, 1.0));
  }

  void settle(double t, double u) {
    for (int i = 0; i < 30; ++i) {
      const Vec f = a_.at(t) - b_.at(u), da = a_.derivative(t), db = b_.derivative(u);
      if (length(f) < settled)
        break;
      const double det = cross(da, db);
      if (std::abs(det) < 1e-6 * length(da) * length(db)) {
        // Nearly parallel: towards the closest approach instead.
        const double aa = dot(da, da), bb = dot(db, db);
        if (!(aa > 0) || !(bb > 0))
          break;
        t = std::clamp(t - dot(f, da) / aa / 2, 0.0, 1.0);
        u = std::clamp(u + dot(a_.at(t) - b_.at(u), db) / bb, 0.0, 1.0);
        continue;
      }
      t = std::clamp(t - cross(f, db) / det, 0.0, 1.0);
      u = std::clamp(u - cross(f, da) / det, 0.0, 1.0);
    }
    add(t, u);
  }
  void add(double t, double u) {
    const Point p = a_.at(t), q = b_.at(u);
    if (distance(p, q) <= meet_distance)
      found_.push_back({t, u, t == 0 || t == 1 ? p : u == 0 || u == 1 ? q : lerp(p, q, 0.5)});
  }

  // Ends of either curve on the other.
  void touch_ends() {
    const auto nearest = [](const Segment& s, Point p) { return nearest_on({{{{s}, false}}}, p)->t; };
    for (const double t : {0.0, 1.0})
      add(t, nearest(b_, a_.at(t)));
    for (const double u : {0.0, 1.0})
      add(nearest(a_, b_.at(u)), u);
  }

  const Segment &a_, &b_;
  std::size_t pairs_ = 0;
  std::vector<CurveCrossing> found_;
};

} // namespace

std::vector<CurveCrossing> crossings(const Segment& a, const Segment& b) {
  const Box box = a.control_box();
  if (!(box.width() + box.height() > 0) || box.distance_to(b.control_box()) > meet_distance)
    return {};
  return Finder(a, b).run();
}

// B(t) = B(u) divided by t − u, with t + u and t·u as the unknowns: two linear equations.
std::optional<CurveCrossing> own_crossing(const Segment& s) {
  const Vec a = s.p3 - s.p2 * 3 + s.p1 * 3 - s.p0, b = (s.p2 - s.p1 * 2 + s.p0) * 3, c = (s.p1 - s.p0) * 3;
  const double ab = cross(a, b), aa = dot(a, a);
  if (s.is_line() || ab == 0 || aa == 0)
    return std::nullopt;
  const double sum = -cross(a, c) / ab, product = sum * sum + (dot(a, b) * sum + dot(a, c)) / aa;
  const double root = sum * sum - 4 * product;
  if (!(root > 0))
    return std::nullopt;
  const double t = (sum - std::sqrt(root)) / 2, u = (sum + std::sqrt(root)) / 2;
  constexpr double at_end = 1e-9;
  if (t < 0 || u > 1 || (t < at_end && u > 1 - at_end))
    return std::nullopt;
  return CurveCrossing{t, u, s.at(t)};
}

// Does a contour that comes through one place twice cross itself there? Each visit by its directions back and on.
static bool crosses_at(const Segment& before, const Segment& after, const Segment& before_again,
                       const Segment& after_again) {
  const auto angle = [](Vec v) { return std::atan2(v.y, v.x); };
  const double back = angle(-before.end_tangent());
  const auto turned = [&](Vec v) { // from `back`, 0 to 2 pi
    const double a = std::fmod(angle(v) - back, 2 * pi);
    return a < 0 ? a + 2 * pi : a;
  };
  const double on = turned(after.start_tangent());
  return (turned(-before_again.end_tangent()) < on) != (turned(after_again.start_tangent()) < on);
}

std::optional<Point> crosses_itself(const Contour& contour) {
  // By ascending left ends: only segments whose boxes overlap are compared.
  struct Boxed {
    Box box;
    std::size_t segment = 0;
  };
  const std::vector<Segment>& s = contour.segments;
  for (const Segment& one : s)
    if (const auto c = own_crossing(one); c && distance(one.at((c->t + c->u) / 2), c->point) > meet_distance)
      return c->point;
  std::vector<Boxed> boxed;
  for (std::size_t i = 0; i < s.size(); ++i)
    if (s[i].p0 != s[i].p3 || !s[i].is_line())
      boxed.push_back({s[i].bounds(), i});
  std::sort(boxed.begin(), boxed.end(), [](const Boxed& a, const Boxed& b) { return a.box.x0 < b.box.x0; });
  constexpr double joint = 2 * meet_distance; // segments meet there
  // Nodes that the contour comes through twice.
  std::vector<std::size_t> nodes; // where segment i starts
  for (std::size_t i = contour.closed ? 0 : 1; i < s.size(); ++i)
    nodes.push_back(i);
  std::sort(nodes.begin(), nodes.end(), [&](std::size_t i, std::size_t j) {
    return s[i].p0.x != s[j].p0.x ? s[i].p0.x < s[j].p0.x : s[i].p0.y < s[j].p0.y;
  });
  const auto before = [&](std::size_t i) -> const Segment& { return s[i > 0 ? i - 1 : s.size() - 1]; };
  for (std::size_t k = 1; k < nodes.size(); ++k)
    if (const std::size_t i = nodes[k - 1], j = nodes[k];
        s[i].p0 == s[j].p0 && crosses_at(before(i), s[i], before(j), s[j]))
      return s[i].p0;
  for (std::size_t i = 0; i < boxed.size(); ++i)
    for (std::size_t j = i + 1; j < boxed.size() && boxed[j].box.x0 <= boxed[i].box.x1; ++j) {
      if (!boxed[i].box.overlaps(boxed[j].box))
        continue;
      const Segment &a = s[boxed[i].segment], &b = s[boxed[j].segment];
      for (const CurveCrossing& c : crossings(a, b)) {
        const auto near_both = [&](Point p, Point q) { return p == q && distance(c.point, p) < joint; };
        const bool shared =
            near_both(a.p3, b.p0) || near_both(b.p3, a.p0) || near_both(a.p0, b.p0) || near_both(a.p3, b.p3); // a node
        if (!shared)
          return c.point;
      }
    }
  return std::nullopt;
}

} // namespace frelm
