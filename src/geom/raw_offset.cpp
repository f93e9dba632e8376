// Every band between the loop and its raw offset is wound the same way round, so that winding numbers tell the region
// (Chen & McMains, Polygon offsetting by computing winding numbers, ASME 2005; there for polygons):
//  - where 1 + d·κ > 0 the offset curve C + d·N runs along with C: cubics fitted with its exact directions;
//  - where it is negative the offset runs backwards: there, each chord of C gives a rectangle of its own (spokes).
//    The chords run on the side of the offset, so that longer ones leave nothing out, and add nothing while the
//    rectangle stays within the offset (geom/covered);
//  - around a joint that turns away: an arc, a mitre or a bevel; at one that turns towards the side: spokes to the
//  node.
#include "geom/raw_offset.h"

#include "geom/along.h"
#include "geom/arc_cubics.h"
#include "geom/bisect.h"
#include "geom/cubic_fit.h"

#include <array>

namespace frelm {
namespace {

constexpr int samples = 6;         // of 1 + d·κ along a gentle stretch, to find where its sign changes
constexpr double grid_unit = 1e-5; // mm, of the grid everything is clipped on
constexpr double about_face = pi - 1e-9;
constexpr double gentle_turn = 0.8;    // radians: a stretch that turns by more is halved
constexpr double even_turn = 0.4;      // radians, and one that turns by so much more in one half than in the other
constexpr double sharp_stretch = 1e-9; // of the parameter: one that still turns there is a cusp, a joint like any other
constexpr double accepted = 0.8;       // of the tolerance, at the places a fit looks at
constexpr double zero_speed = 1e-12;   // of the reach: the derivative says nothing about the direction

Vec tangent(const Segment& s, double t) {
  const Vec d = s.derivative(t);
  if (length(d) > zero_speed * control_length(s))
    return unit(d);
  return t < 0.5 ? s.start_tangent() : s.end_tangent();
}

// |C'|³ (1 + d·κ): the same sign, without dividing by a speed that may vanish.
double forwardness(const Segment& s, double t, double d) {
  const Vec v = s.derivative(t);
  const double l = length(v);
  return l * l * l + d * cross(v, s.second(t));
}

std::vector<Segment> without_points(const std::vector<Segment>& segments) {
  std::vector<Segment> out;
  for (const Segment& s : segments)
    if (control_length(s) > grid_unit)
      out.push_back(s);
  return out;
}

class RawBuilder {
public:
  explicit RawBuilder(const RawOffset& options) : o_(options) {}

  // caps: indices of joints that are ends of an open line.
  Contour around(const std::vector<Segment>& loop, std::size_t turn, bool capped) {
    const std::size_t n = loop.size();
    for (std::size_t i = 0; i < n; ++i) {
      along(loop[i]);
      const std::size_t next = (i + 1) % n;
      joint(loop[i].p3, tangent(loop[i], 1), tangent(loop[next], 0), capped && (next == 0 || next == turn));
    }
    Contour out;
    out.segments = std::move(out_);
    if (!out.segments.empty()) // the last joint leads to where the first segment's offset began
      out.segments.back().p3 = out.segments.front().p0;
    return out;
  }

private:
  Point off(Point p, Vec t) const { return p + up_of(t) * o_.distance; }

  void line_to(Point p) {
    if (out_.empty() || distance(out_.back().p3, p) <= 0)
      return;
    out_.push_back(Segment::line(out_.back().p3, p));
  }
  void add(Segment s) {
    if (!out_.empty())
      s.p0 = out_.back().p3;
    out_.push_back(s);
  }

  void along(const Segment& s) {
    if (s.is_line()) {
      const Vec t = s.start_tangent();
      add(Segment::line(off(s.p0, t), off(s.p3, t)));
      return;
    }
    gentle(s, 0, 1);
  }

  // Halves until little turning is left and that is spread, so that a few places tell all of it; what turns within no
  // length at all is a cusp.
  void gentle(const Segment& s, double t0, double t1) {
    const double m = (t0 + t1) / 2;
    const Vec a = tangent(s, t0), b = tangent(s, m), c = tangent(s, t1);
    const double first = turn_between(a, b), second = turn_between(b, c);
    if (std::abs(first) + std::abs(second) <= gentle_turn && std::abs(first - second) <= even_turn)
      return by_sense(s, t0, t1);
    if (t1 - t0 < sharp_stretch)
      return joint(s.at(m), a, c, false);
    gentle(s, t0, m);
    gentle(s, m, t1);
  }

  void by_sense(const Segment& s, double t0, double t1) {
    std::vector<double> cuts{t0};
    const auto forward = [&](double t) { return forwardness(s, t, o_.distance) >= 0; };
    for (int i = 0; i < samples; ++i) {
      const double lo = t0 + (t1 - t0) * i / samples, hi = t0 + (t1 - t0) * (i + 1) / samples;
      const bool was = forward(lo);
      if (was == forward(hi))
        continue;
      if (const double t = bisect({lo, hi}, [&](double m) { return forward(m) != was; }).high; t > t0 && t < t1)
        cuts.push_back(t);
    }
    cuts.push_back(t1);
    for (std::size_t i = 0; i + 1 < cuts.size(); ++i)
      if (forward((cuts[i] + cuts[i + 1]) / 2))
        forwards(s, cuts[i], cuts[i + 1]);
      else
        backwards(s, cuts[i], cuts[i + 1]);
  }

  // First handles from the exact speed of the offset curve, |C'|·(1 + d·κ); a piece that misses is halved.
  void forwards(const Segment& s, double t0, double t1, int halvings = 12) {
    constexpr std::size_t inner = 7;
    std::array<Point, inner> targets;
    std::array<double, inner> guesses;
    for (std::size_t i = 0; i < inner; ++i) {
      guesses[i] = static_cast<double>(i + 1) / (inner + 1);
      const double t = t0 + (t1 - t0) * guesses[i];
      targets[i] = off(s.at(t), tangent(s, t));
    }
    const Vec a = tangent(s, t0), b = tangent(s, t1);
    const auto handle = [&](double t) {
      const Vec v = s.derivative(t);
      const double l2 = dot(v, v);
      return l2 > 0 ? std::max(forwardness(s, t, o_.distance) / l2, 0.0) * (t1 - t0) / 3 : 0;
    };
    const CubicFit fit = fit_cubic(off(s.at(t0), a), a, b, off(s.at(t1), b), targets, guesses, handle(t0), handle(t1),
                                   {accepted * o_.tolerance});
    if (fit.worst <= accepted * o_.tolerance || halvings == 0)
      return add(fit.cubic);
    const double m = (t0 + t1) / 2;
    forwards(s, t0, m, halvings - 1);
    forwards(s, m, t1, halvings - 1);
  }

  void backwards(const Segment& s, double t0, double t1) {
    const Segment part = s.part(t0, t1);
    if (out_.empty()) // the loop begins here
      out_.push_back(Segment::line(off(part.p0, tangent(s, t0)), part.p0));
    else
      line_to(part.p0);
    const int fine = part.flat_steps(o_.flattening);
    const int coarse = o_.discs != nullptr ? std::min(part.flat_steps(o_.coarse), fine) : fine;
    const int each = (fine + coarse - 1) / coarse; // fine steps in a coarse one
    const auto place = [&](int i, int n) { return i == n ? part.p3 : part.at(static_cast<double>(i) / n); };
    for (int i = 0; i < coarse; ++i) {
      if (o_.discs != nullptr && each > 1 && covered(*o_.discs, place(i, coarse), place(i + 1, coarse)))
        rectangle(place(i, coarse), place(i + 1, coarse));
      else
        for (int k = i * each; k < (i + 1) * each; ++k)
          rectangle(place(k, coarse * each), place(k + 1, coarse * each));
    }
    line_to(off(part.p3, tangent(s, t1)));
  }

  void rectangle(Point a, Point b) {
    const Vec t = unit(b - a);
    line_to(off(a, t));
    line_to(off(b, t));
    line_to(b);
  }
  bool covered(const Discs& discs, Point a, Point b) const {
    const Vec t = unit(b - a);
    const Point up_a = off(a, t), up_b = off(b, t);
    return discs.cover(Segment::line(a, up_a)) && discs.cover(Segment::line(up_a, up_b)) &&
           discs.cover(Segment::line(up_b, b));
  }

  void joint(Point node, Vec a, Vec b, bool cap) {
    double turn = turn_between(a, b);
    if (std::abs(turn) > about_face)
      turn = pi;
    const Point end = off(node, b);
    if (o_.distance * std::abs(turn) < grid_unit)
      return line_to(end);
    if (turn < 0) {
      line_to(node);
      return line_to(end);
    }
    if (cap) {
      if (o_.cap == CapStyle::Round)
        return arc(node, a, turn);
      if (o_.cap == CapStyle::Square) {
        line_to(off(node, a) + a * o_.distance);
        line_to(end - b * o_.distance);
      }
      return line_to(end);
    }
    if (o_.join == JoinStyle::Round)
      return arc(node, a, turn);
    if (o_.join == JoinStyle::Mitre && 1 / std::cos(turn / 2) <= o_.mitre_limit)
      line_to(node + (up_of(a) + up_of(b)) * (o_.distance / (1 + dot(a, b))));
    line_to(end);
  }
  void arc(Point node, Vec a, double turn) {
    const Vec n = up_of(a);
    for (const Segment& s : arc_cubics(node, o_.distance, o_.distance, 0, std::atan2(n.y, n.x), turn, o_.tolerance))
      add(s);
  }

  const RawOffset& o_;
  std::vector<Segment> out_;
};

} // namespace

Contour raw_offset(const std::vector<Segment>& loop, const RawOffset& options) {
  const std::vector<Segment> clean = without_points(loop);
  return clean.empty() ? Contour{} : RawBuilder(options).around(clean, 0, false);
}

Contour raw_stroke(const Contour& line, const RawOffset& options) {
  std::vector<Segment> clean = without_points(line.segments);
  const std::size_t n = clean.size();
  for (std::size_t i = n; i-- > 0;)
    clean.push_back(clean[i].reversed());
  return clean.empty() ? Contour{} : RawBuilder(options).around(clean, n, true);
}

} // namespace frelm
