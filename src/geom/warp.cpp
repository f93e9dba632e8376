// Per piece of a segment: the ends' images, end tangents by the Jacobian, first handles |J h| of the source's own
// handles, and eleven targets that carry the source's parameter as first guess; Gauss–Newton on the handles
// (cubic_fit). A piece that misses is split at a break inside it, else halved.
// Error budget: accepted at 0.9 of the tolerance on 11 targets and on 24 more places between them; the tenth left over
// is for what lies between the places.
#include "geom/warp.h"

#include "geom/along.h"
#include "geom/bisect.h"
#include "geom/cubic_fit.h"
#include "geom/powers.h"

#include <array>
#include <fmt/format.h>
#include <optional>

namespace frelm {
namespace {

constexpr int targets_per_piece = 11;
constexpr int checks_per_piece = 24;
constexpr double accepted = 0.9; // of the tolerance, at the places looked at
constexpr int most_halvings = 12;
constexpr int most_sketch_halvings = 4;
constexpr double sketched_within = 0.1; // mm, at two places of each piece
constexpr double inside = 1e-6;         // mm from an end, where a Jacobian is taken beside a break
constexpr double straight_share = 0.1;  // of the tolerance: a bent line this flat stays a line

class Warper {
public:
  Warper(const WarpMap& map, const WarpOptions& options)
      : map_(map), tolerance_(options.tolerance), sketch_(options.sketch) {}

  void segment(const Segment& s) {
    pieces_.clear();
    if (sketch_)
      sketch(s, most_sketch_halvings);
    else
      piece(s, most_halvings);
  }
  const std::vector<Segment>& pieces() const { return pieces_; }
  WarpReport report;
  std::optional<Point> bad; // a place whose image is not finite

private:
  WarpPlace at(Point p) {
    const WarpPlace w = map_.at(p);
    if (!finite(w.point) || !finite(w.dx) || !finite(w.dy))
      bad = p;
    else if (!(w.determinant() > 0)) {
      ++report.folds;
      report.fold_box.add(w.point);
    }
    return w;
  }
  // Direction and length of what the map makes of the handle `h` at an end, the Jacobian taken just inside.
  Vec image_of_handle(Point end, Vec h, Vec tangent) {
    const WarpPlace w = at(end + tangent * inside);
    return w.linear(length(h) > 0 ? h : tangent * 1e-9);
  }

  // The image's ends and its directions there; the handles as long as the map makes them.
  void sketch(const Segment& s, int left) {
    const WarpPlace a = at(s.p0), b = at(s.p3);
    const bool line = s.is_line();
    const Vec h0 = line ? (s.p3 - s.p0) / 3 : s.p1 - s.p0, h1 = line ? (s.p0 - s.p3) / 3 : s.p2 - s.p3;
    const Point p1 = a.point + a.linear(h0), p2 = b.point + b.linear(h1);
    const Vec way = b.point - a.point;
    const double off = std::max(std::abs(cross(way, p1 - a.point)), std::abs(cross(way, p2 - a.point)));
    const Segment made = line && off <= tolerance_ * length(way) ? Segment::line(a.point, b.point)
                                                                 : Segment::cubic(a.point, p1, p2, b.point);
    const auto off_at = [&](double t) { return distance(made.at(t), map_.at(s.at(t)).point); };
    if (left > 0 && (off_at(0.3) > sketched_within || off_at(0.7) > sketched_within)) {
      sketch(s.part(0, 0.5), left - 1);
      sketch(s.part(0.5, 1), left - 1);
    } else {
      pieces_.push_back(made);
    }
  }

  void halve(const Segment& s, double t, int left) {
    piece(s.part(0, t), left - 1);
    piece(s.part(t, 1), left - 1);
  }

  void piece(const Segment& s, int left) {
    if (bad)
      return;
    const WarpPlace a = at(s.p0), b = at(s.p3);
    std::array<Point, targets_per_piece> targets;
    std::array<double, targets_per_piece> t;
    for (std::size_t i = 0; i < targets.size(); ++i) {
      t[i] = static_cast<double>(i + 1) / (targets_per_piece + 1);
      targets[i] = at(s.at(t[i])).point;
    }
    if (bad)
      return;
    if (s.is_line() && stays_straight(a.point, b.point, targets)) {
      pieces_.push_back(Segment::line(a.point, b.point));
      return;
    }
    const Vec start = s.start_tangent(), end = s.end_tangent();
    const Vec h0 = image_of_handle(s.p0, s.p1 - s.p0, start), h1 = image_of_handle(s.p3, s.p3 - s.p2, -end);
    const Vec d0 = unit(image_of_handle(s.p0, start, start)), d1 = unit(image_of_handle(s.p3, end, -end));
    const CubicFit fit = fit_cubic(a.point, d0, d1, b.point, targets, t, length(h0), length(h1), {0.25 * tolerance_});
    const double worst = fit.worst <= accepted * tolerance_ ? std::max(fit.worst, check(s, fit.cubic)) : fit.worst;
    if (worst <= accepted * tolerance_ || left == 0) {
      report.worst = std::max(report.worst, worst);
      pieces_.push_back(fit.cubic);
      return;
    }
    halve(s, break_inside(s).value_or(0.5), left);
  }

  static bool stays_straight(Point a, Point b, std::span<const Point> between, double within) {
    const Vec along = b - a;
    const double l = length(along);
    if (!(l > 0))
      return true;
    double last = 0;
    for (const Point p : between) {
      const double s = dot(p - a, along) / l;
      if (std::abs(cross(along, p - a)) / l > within || s < last - within)
        return false;
      last = s;
    }
    return true;
  }
  bool stays_straight(Point a, Point b, std::span<const Point> between) const {
    return stays_straight(a, b, between, straight_share * tolerance_);
  }

  // Largest distance of the exact image from the cubic, near the same parameter.
  double check(const Segment& s, const Segment& cubic) {
    const Powers source(s), made(cubic);
    double worst = 0;
    const std::optional<double> at_break = break_inside(s);
    for (int i = 0; i < checks_per_piece + (at_break ? 1 : 0); ++i) {
      double t = i < checks_per_piece ? (i + 0.5) / checks_per_piece : *at_break;
      const Point p = map_.at(source.at(t)).point;
      for (int k = 0; k < 5; ++k) {
        const Vec d = made.derivative(t), r = made.at(t) - p;
        const double dd = dot(d, d);
        if (!(dd > 0))
          break;
        const double before = t;
        t = std::clamp(t - dot(r, d) / dd, 0.0, 1.0);
        if (std::abs(t - before) < 1e-6)
          break;
      }
      const Vec off = made.at(t) - p;
      worst = std::max(worst, dot(off, off));
    }
    return std::sqrt(worst);
  }

  // A break inside the piece's reach, if there is one that splits it well.
  std::optional<double> break_inside(const Segment& s) const {
    if (map_.breaks.empty() && map_.level_breaks.empty())
      return std::nullopt;
    const Box box = s.bounds();
    const std::optional<double> t = at_break(s, map_.breaks, box.x0, box.x1, &Point::x);
    return t ? t : at_break(s, map_.level_breaks, box.y0, box.y1, &Point::y);
  }
  static std::optional<double> at_break(const Segment& s, const std::vector<double>& breaks, double low, double high,
                                        double Point::*axis) {
    auto it = std::upper_bound(breaks.begin(), breaks.end(), low + inside);
    for (; it != breaks.end() && *it < high - inside; ++it) {
      // The parameter of the break by bisection between samples of different sides.
      constexpr int n = 16;
      for (int i = 0; i < n; ++i) {
        const double lo = static_cast<double>(i) / n, hi = static_cast<double>(i + 1) / n;
        const auto below = [&](double t) { return s.at(t).*axis < *it; };
        const bool rising = below(lo);
        if (rising == below(hi))
          continue;
        if (const double t = bisect({lo, hi}, [&](double m) { return below(m) != rising; }).low;
            t > 1e-6 && t < 1 - 1e-6)
          return t;
      }
    }
    return std::nullopt;
  }

  const WarpMap& map_;
  double tolerance_;
  bool sketch_;
  std::vector<Segment> pieces_;
};

} // namespace

Result<WarpResult> warp(const Outline& outline, const WarpMap& map, const WarpOptions& options) {
  if (!(options.tolerance > 0))
    return bad_input(FRELM_WORDS("core", "the tolerance must be more than 0 mm"));
  WarpResult out;
  Warper warper(map, options);
  for (const Contour& c : outline.contours) {
    if (options.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "warp")};
    Contour image;
    image.closed = c.closed;
    for (const Segment& s : c.segments) {
      warper.segment(s);
      if (warper.bad)
        return bad_input(FRELM_WORDS("core", "the bend has no place for this point; choose a gentler one"),
                         place_words(warper.bad->x, warper.bad->y));
      image.segments.insert(image.segments.end(), warper.pieces().begin(), warper.pieces().end());
    }
    connect(image);
    out.outline.contours.push_back(std::move(image));
  }
  out.report = warper.report;
  out.report.nodes_in = outline.node_count();
  out.report.nodes_out = out.outline.node_count();
  return out;
}

} // namespace frelm
