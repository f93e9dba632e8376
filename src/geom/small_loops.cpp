// A simple arc that comes into a disc at A and leaves it at B turns by one certain angle, whatever it does in between
// (H. Whitney, On regular closed curves in the plane, Compositio Mathematica 1937): that of A, centre, B with the arc's
// own directions at both. A contour that turns by 2π more or less than this about a joint has a loop there. The disc is
// tried in three sizes; larger loops are seen by the flattening and cut off by the clipping.
#include "geom/small_loops.h"

#include "geom/along.h"
#include "geom/crossings.h"

#include <array>
#include <optional>

namespace frelm {
namespace {

constexpr std::array<double, 3> disc_sizes{2, 16, 128}; // flattening errors
constexpr std::size_t most_walked = 6;                  // segments on either side of a joint
constexpr double about_face = pi - 1e-6;                // radians: the sign of such a turn is rounding
constexpr double whole_turn = pi;                       // radians off: nearer to one turn too many than to none
constexpr double nearer_share = 1e-3;                   // of the disc: near enough to its edge
constexpr double same_point = 1e-7;                     // mm
constexpr double newton_residual = 1e-10;               // mm
constexpr int samples = 40;                             // of the stretch beside a joint,
constexpr double closer = 0.65;                         // each so much nearer to it than the last

// By how much the curve's direction turns from t0 to t1, radians, whole turns counted.
double turning(const Segment& s, double t0, double t1, int halvings = 40) {
  if (s.is_line() || t0 >= t1)
    return 0;
  const Segment part = s.part(t0, t1);
  if (control_turn(part) < 0.9 * pi || halvings == 0)
    return turn_between(part.start_tangent(), part.end_tangent());
  const double m = (t0 + t1) / 2;
  const double first = turning(s, t0, m, halvings - 1), second = turning(s, m, t1, halvings - 1);
  return first + turn_between(s.part(t0, m).end_tangent(), s.part(m, t1).start_tangent()) + second;
}

// The way from a joint until it leaves the disc: whole segments, then the last one up to t (from its end that is
// nearer to the joint).
struct Way {
  std::vector<Segment> segments; // turned so that the joint lies at the beginning
  double t = 1;                  // on the last
  bool leaves = false;
};

std::optional<double> first_exit(const Segment& s, Point centre, double radius) {
  const double speed = 3 * std::max({distance(s.p0, s.p1), distance(s.p1, s.p2), distance(s.p2, s.p3)});
  for (double t = 0; t < 1;) {
    const double room = radius - distance(s.at(t), centre);
    if (room <= nearer_share * radius)
      return t;
    t += room / speed;
  }
  return distance(s.p3, centre) >= radius * (1 - nearer_share) ? std::optional(1.0) : std::nullopt;
}

class Unlooper {
public:
  Unlooper(Contour& contour, SmallLoops loops, double flattening, WeldReport& report)
      : segments_(contour.segments), loops_(loops), flattening_(flattening), report_(report) {}

  void run() {
    leave_out_points();
    split_loops();
    learn();
    for (const double size : disc_sizes) {
      std::size_t left = segments_.size(); // repairs, so that it ends in any case
      for (std::size_t k = 0; k < segments_.size() && segments_.size() > 1;)
        if (left > 0 && may_loop(k, size * flattening_) && mend(k, size * flattening_)) {
          learn();
          k = 0, --left;
        } else {
          ++k;
        }
    }
  }

private:
  const Segment& at(std::size_t i) const { return segments_[i % segments_.size()]; }

  void leave_out_points() {
    if (std::erase_if(segments_, [](const Segment& s) { return control_length(s) < same_point; }) == 0 ||
        segments_.empty())
      return;
    connect(std::span<Segment>(segments_));
    segments_.back().p3 = segments_.front().p0;
  }

  void split_loops() {
    const double most = disc_sizes.back() * flattening_;
    std::vector<Segment> out;
    for (const Segment& s : segments_) {
      const auto loop = control_turn(s) >= pi ? own_crossing(s) : std::nullopt;
      if (!loop || control_length(s.part(loop->t, loop->u)) > most) {
        out.push_back(s);
        continue;
      }
      out.push_back(s.part(0, loop->t));
      out.push_back(s.part(loop->u, 1));
      out.back().p0 = out[out.size() - 2].p3;
    }
    segments_ = std::move(out);
    leave_out_points();
  }
  // By how much each segment turns at the most, and the joint before it.
  void learn() {
    const std::size_t n = segments_.size();
    turns_.resize(n), joints_.resize(n);
    for (std::size_t k = 0; k < n; ++k) {
      turns_[k] = control_turn(segments_[k]);
      joints_[k] = std::abs(turn_between(at(k + n - 1).end_tangent(), segments_[k].start_tangent()));
    }
  }
  // A loop takes half a turn at the least, of the joint, of what lies in the disc, and of the segments that leave it.
  bool may_loop(std::size_t k, double radius) const {
    const std::size_t n = segments_.size();
    const Point centre = segments_[k].p0;
    double turned = joints_[k];
    std::size_t ahead = k, behind = (k + n - 1) % n; // the segments that leave the disc
    for (std::size_t i = 0; i < std::min(most_walked, n / 2); ++i) {
      ahead = (k + i) % n;
      turned += turns_[ahead] + (i > 0 ? joints_[ahead] : 0);
      if (distance(segments_[ahead].p3, centre) >= radius)
        break;
    }
    for (std::size_t i = 1; i <= std::min(most_walked, n / 2); ++i) {
      behind = (k + n - i) % n;
      turned += turns_[behind] + (i > 1 ? joints_[(behind + 1) % n] : 0);
      if (distance(segments_[behind].p0, centre) >= radius)
        break;
    }
    if (turned < pi)
      return false;
    // Of those only what lies in the disc.
    turned -= turns_[ahead] - turn_within(segments_[ahead], centre, radius);
    turned -= turns_[behind] - turn_within(segments_[behind].reversed(), centre, radius);
    return turned >= pi;
  }
  // At least what the curve turns by before it leaves the disc for the first time.
  static double turn_within(const Segment& s, Point centre, double radius) {
    const double handle = distance(s.p0, s.p1), t = handle > radius ? radius / handle : 1;
    return control_turn(t < 1 && distance(s.at(t), centre) >= radius ? s.part(0, t) : s);
  }

  Way way_from(std::size_t k, bool back, double radius) const {
    Way way;
    const Point centre = at(k).p0;
    const std::size_t n = segments_.size();
    for (std::size_t i = 0; i < std::min(most_walked, n / 2); ++i) {
      way.segments.push_back(back ? at(k + 2 * n - 1 - i).reversed() : at(k + i));
      if (const auto t = first_exit(way.segments.back(), centre, radius)) {
        way.t = *t;
        way.leaves = true;
        break;
      }
    }
    return way;
  }
  static Vec direction_out(const Way& way) { return way.segments.back().part(0, way.t).end_tangent(); }

  // What the contour turns by about the joint more than a simple arc would, radians; 0 where that can't be said.
  static double excess(Point centre, const Way& before, const Way& after) {
    const Vec in = centre - before.segments.back().at(before.t), out = after.segments.back().at(after.t) - centre;
    const double through = turn_between(in, out);
    if (std::abs(through) > about_face)
      return 0;
    double sum = -turn_between(-direction_out(before), in) - through - turn_between(out, direction_out(after));
    std::vector<double> joints{
        turn_between(-before.segments.front().start_tangent(), after.segments.front().start_tangent())};
    // A way travelled towards the joint turns by what it turns by from there, the other way round.
    for (const auto& [way, sense] : {std::pair{&before, -1.0}, std::pair{&after, 1.0}})
      for (std::size_t i = 0; i < way->segments.size(); ++i) {
        sum += sense * turning(way->segments[i], 0, i + 1 == way->segments.size() ? way->t : 1);
        if (i > 0)
          joints.push_back(sense * turn_between(way->segments[i - 1].end_tangent(), way->segments[i].start_tangent()));
      }
    for (const double j : joints)
      sum += j;
    for (const double j : joints)
      if (std::abs(j) > about_face && std::abs(sum - 2 * j) < std::abs(sum))
        sum -= 2 * j;
    return sum;
  }

  bool mend(std::size_t k, double radius) {
    const Point centre = at(k).p0;
    const Way before = way_from(k, true, radius), after = way_from(k, false, radius);
    if (!before.leaves || !after.leaves || before.segments.size() + after.segments.size() > segments_.size())
      return false;
    const double turned = excess(centre, before, after);
    if (std::abs(turned) < whole_turn)
      return false;
    // The area lies to the right of travel. A loop that turns the other way lies outside it, and is filled all the same
    // (nonzero); one that turns with it lies inside, where its area counts already.
    if (to_the_crossing(k, before, after, turned < 0))
      return true;
    if (radius > disc_sizes.front() * flattening_)
      return false;
    to_the_node(k, before, after);
    return true;
  }

  struct Sample {
    std::size_t segment;
    double t;
    Point p;
  };
  static std::vector<Sample> sampled(const Way& way) { // from where it leaves to the joint
    std::vector<Sample> out;
    for (std::size_t i = way.segments.size(); i-- > 0;) {
      double t = i + 1 == way.segments.size() ? way.t : 1;
      for (int n = 0; n < samples; ++n, t *= closer)
        out.push_back({i, t, way.segments[i].at(t)});
    }
    out.push_back({0, 0, way.segments.front().p0});
    return out;
  }
  static bool newton(const Segment& a, const Segment& b, double& t, double& u) {
    for (int i = 0; i < 30; ++i) {
      const Vec f = a.at(t) - b.at(u);
      if (length(f) < newton_residual)
        return true;
      const Vec da = a.derivative(t), db = b.derivative(u);
      const double det = cross(da, db);
      if (std::abs(det) < 1e-12 * length(da) * length(db))
        return false;
      t -= cross(f, db) / det;
      u -= cross(f, da) / det;
      if (!(t > 0 && t <= 1 && u > 0 && u <= 1))
        return false;
    }
    return false;
  }

  bool to_the_crossing(std::size_t k, const Way& before, const Way& after, bool outside) {
    const std::vector<Sample> x = sampled(before), y = sampled(after);
    for (std::size_t i = 0; i + 2 < x.size(); ++i)
      for (std::size_t j = 0; j + 2 < y.size(); ++j) {
        const Vec dx = x[i + 1].p - x[i].p, dy = y[j + 1].p - y[j].p;
        if ((cross(dx, y[j].p - x[i].p) > 0) == (cross(dx, y[j + 1].p - x[i].p) > 0) ||
            (cross(dy, x[i].p - y[j].p) > 0) == (cross(dy, x[i + 1].p - y[j].p) > 0))
          continue;
        Way a = before, b = after;
        a.segments.resize(x[i].segment + 1), b.segments.resize(y[j].segment + 1);
        a.t = x[i].t, b.t = y[j].t;
        if (!newton(a.segments.back(), b.segments.back(), a.t, b.t))
          continue;
        const double turned = excess_at_crossing(before, after, a, b);
        if (std::abs(turned) >= whole_turn)
          continue;
        const Point meet = a.segments.back().at(a.t);
        ++report_.small_loops;
        replace(k, a, b, meet, meet);
        if (outside && loops_ == SmallLoops::Turned && extent(a, b) > disc_sizes.front() * flattening_)
          append_turned(a, b);
        return true;
      }
    return false;
  }
  static double extent(const Way& a, const Way& b) {
    double sum = 0;
    for (const Way* way : {&a, &b})
      for (std::size_t i = 0; i < way->segments.size(); ++i)
        sum += control_length(i + 1 == way->segments.size() ? way->segments[i].part(0, way->t) : way->segments[i]);
    return sum / 2;
  }
  // The loop behind the crossing, the other way round: its area counts then.
  void append_turned(const Way& a, const Way& b) {
    for (std::size_t i = b.segments.size(); i-- > 0;)
      segments_.push_back(i + 1 == b.segments.size() ? b.segments[i].part(b.t, 0) : b.segments[i].reversed());
    for (std::size_t i = 0; i < a.segments.size(); ++i)
      segments_.push_back(i + 1 == a.segments.size() ? a.segments[i].part(0, a.t) : a.segments[i]);
    connect(std::span<Segment>(segments_));
    segments_.back().p3 = segments_.front().p0;
  }

  // The same, once both ways begin in the crossing.
  static double excess_at_crossing(const Way& before, const Way& after, const Way& a, const Way& b) {
    const auto rest_of = [](const Way& whole, const Way& cut) {
      Way rest = whole;
      rest.segments.erase(rest.segments.begin(),
                          rest.segments.begin() + static_cast<std::ptrdiff_t>(cut.segments.size()) - 1);
      const double end = rest.segments.size() == 1 ? (whole.t - cut.t) / (1 - cut.t) : whole.t;
      rest.segments.front() = rest.segments.front().part(cut.t, 1);
      rest.t = end;
      return rest;
    };
    return excess(a.segments.back().at(a.t), rest_of(before, a), rest_of(after, b));
  }

  // Both ways end at the edge of the disc and are drawn to the node; where even so the turn would be a wrong one, lines
  // lead there.
  void to_the_node(std::size_t k, const Way& before, const Way& after) {
    const Point node = at(k).p0;
    const Point a = before.segments.back().at(before.t), b = after.segments.back().at(after.t);
    ++report_.small_loops;
    ++report_.snapped_joins;
    report_.worst_move = std::max({report_.worst_move, distance(a, node), distance(b, node)});
    const Vec from = -direction_out(before), to = direction_out(after);
    const double simple = turn_between(from, node - a) + turn_between(node - a, b - node) + turn_between(b - node, to);
    const bool turns_right = std::abs(turn_between(from, to) - simple) < whole_turn;
    replace(k, before, after, turns_right ? node : a, turns_right ? node : b);
    if (turns_right)
      return;
    segments_.push_back(Segment::line(a, node));
    segments_.push_back(Segment::line(node, b));
  }

  // The contour from where `after` ends round to where `before` ends, its ends drawn to `end` and `start`; what lies
  // between them on the ways is gone.
  void replace(std::size_t k, const Way& before, const Way& after, Point end, Point start) {
    const std::size_t n = segments_.size();
    const auto stays = [&](const Way& way) { // what is left of its last segment
      return way.t < 1 && control_length(way.segments.back().part(way.t, 1)) >= disc_sizes.front() * flattening_;
    };
    std::vector<Segment> out;
    if (stays(after))
      out.push_back(after.segments.back().part(after.t, 1));
    for (std::size_t i = after.segments.size(); i + before.segments.size() < n; ++i)
      out.push_back(at(k + i));
    if (stays(before))
      out.push_back(before.segments.back().part(before.t, 1).reversed());
    if (!out.empty()) {
      out.front() = drawn_to(out.front(), start);
      out.back() = drawn_to(out.back().reversed(), end).reversed();
    }
    segments_ = std::move(out);
  }
  static Segment drawn_to(const Segment& s, Point start) {
    return s.is_line() ? Segment::line(start, s.p3) : Segment::cubic(start, s.p1 + (start - s.p0), s.p2, s.p3);
  }

  std::vector<Segment>& segments_;
  std::vector<double> turns_, joints_; // radians
  SmallLoops loops_;
  double flattening_;
  WeldReport& report_;
};

} // namespace

void take_small_loops(Contour& contour, const WeldOptions& options, WeldReport& report) {
  if (contour.closed)
    Unlooper(contour, options.small_loops, options.flattening, report).run();
}

} // namespace frelm
