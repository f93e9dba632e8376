// A contour falls into sides between the corners that are rounded; a side is a curve by arc length. For each corner the
// places a before it and b behind it are sought whose normals of length r end in one centre. From r = 0, where the
// sides are as good as straight, r grows in steps with Newton's method in (a, b); a step that fails is halved, so that
// what is reached in the end is the largest radius that fits.
#include "geom/round_corners.h"

#include "geom/along.h"
#include "geom/arc_cubics.h"
#include "geom/curve.h"
#include "geom/redrawn.h"

namespace frelm {
namespace {

constexpr double nick = 1 * pi / 180; // radians: a joint that turns more ends the room for an arc
constexpr double touches = 1e-9;      // mm: how near both normals end
constexpr double no_length = 1e-5;    // mm: less of a side between two arcs is left out

struct Side {
  Curve curve;
  double front = 0, back = 0; // mm of it that arcs can have: from its start, and from its end
};
struct Corner {
  double turn = 0;
  double before = 0, behind = 0; // mm of the sides that the arc takes
  double radius = 0;             // 0: stays
};

Vec right_of(Vec t) {
  return {-t.y, t.x};
}

// Length of the curve from one of its ends to the first joint that is a corner itself.
double smooth_length(const std::vector<Segment>& segments, bool from_end) {
  double sum = 0;
  for (std::size_t i = 0; i < segments.size(); ++i) {
    const std::size_t k = from_end ? segments.size() - 1 - i : i;
    sum += Contour{{segments[k]}, false}.length();
    if (i + 1 == segments.size())
      break;
    const std::size_t first = from_end ? k - 1 : k;
    if (std::abs(turn_between(segments[first].end_tangent(), segments[first + 1].start_tangent())) > nick)
      break;
  }
  return sum;
}

class Fillet {
public:
  Fillet(const Curve& in, const Curve& out, double turn) : in_(in), out_(out), inner_(turn > 0 ? 1 : -1), turn_(turn) {}

  // The largest radius up to `wanted` that needs no more than this of the sides.
  Corner grow(double wanted, double most_before, double most_behind) const {
    Corner best{turn_};
    const double straight = std::tan(std::abs(turn_) / 2); // mm of each side for each mm of radius
    double step = std::min(wanted, 0.5 * std::min(most_before, most_behind) / straight);
    while (step > 1e-4 * std::max(best.radius, least_rounding) && best.radius < wanted) {
      const double r = std::min(wanted, best.radius + step);
      const double scale = best.radius > 0 ? r / best.radius : 0;
      Corner next{turn_, best.radius > 0 ? best.before * scale : r * straight,
                  best.radius > 0 ? best.behind * scale : r * straight, r};
      if (solve(next) && next.before <= most_before && next.behind <= most_behind)
        best = next, step = std::max(step, wanted / 16);
      else
        step /= 2;
    }
    if (best.radius < least_rounding)
      best.radius = best.before = best.behind = 0;
    return best;
  }

  CurvePlace where_it_begins(const Corner& c) const { return in_.at(in_.length() - c.before); }
  CurvePlace where_it_ends(const Corner& c) const { return out_.at(c.behind); }
  Point centre(const Corner& c) const {
    const CurvePlace p = where_it_begins(c);
    return p.point + right_of(p.tangent) * (inner_ * c.radius);
  }

private:
  bool solve(Corner& c) const {
    for (int i = 0; i < 20; ++i) {
      if (!(c.before > 0 && c.behind > 0 && c.before < in_.length() && c.behind < out_.length()))
        return false;
      const CurvePlace p = where_it_begins(c), q = where_it_ends(c);
      const double r = inner_ * c.radius, along_in = 1 - r * p.curvature, along_out = 1 - r * q.curvature;
      if (along_in <= 1e-6 || along_out <= 1e-6) // bends tighter than the arc
        return false;
      const Vec miss = p.point + right_of(p.tangent) * r - q.point - right_of(q.tangent) * r;
      if (length(miss) < touches)
        return turns_as_it_should(p, q);
      // −T₁(1 − rκ₁) Δa − T₂(1 − rκ₂) Δb = −miss
      const Vec a = p.tangent * along_in, b = q.tangent * along_out;
      const double det = cross(a, b);
      if (std::abs(det) < 1e-12)
        return false;
      c.before += cross(miss, b) / det;
      c.behind += cross(a, miss) / det;
    }
    return false;
  }
  // The arc turns the way the corner does, and less than half around.
  bool turns_as_it_should(const CurvePlace& p, const CurvePlace& q) const {
    return turn_between(p.tangent, q.tangent) * inner_ > 1e-6;
  }

  const Curve &in_, &out_;
  double inner_, turn_;
};

class Rounder {
public:
  Rounder(const Contour& contour, double area_sign, const RoundOptions& options, RoundReport& report)
      : segments_(contour.segments), closed_(contour.closed), area_sign_(area_sign), options_(options),
        report_(report) {}

  RedrawnContour run() {
    RedrawnContour out;
    out.closed = closed_;
    find_corners();
    if (at_.empty()) {
      out.stretches.push_back({segments_, segments_});
      return out;
    }
    make_sides();
    for (std::size_t k = 0; k < at_.size(); ++k)
      corners_.push_back(grown(k, before(k).back, behind(k).front));
    share_sides();
    for (std::size_t k = 0; k < at_.size(); ++k)
      count(corners_[k]);
    draw(out.stretches);
    return out;
  }

private:
  // The nodes that are rounded, in order.
  void find_corners() {
    const std::size_t n = segments_.size();
    for (std::size_t i = closed_ ? 0 : 1; i < n; ++i) {
      const double turn = turn_between(segments_[(i + n - 1) % n].end_tangent(), segments_[i].start_tangent());
      if (std::abs(turn) <= std::max(nick, pi - options_.sharper_than))
        continue;
      const bool outer = turn * area_sign_ > 0;
      if (closed_ && options_.which != WhichCorners::All && (options_.which == WhichCorners::Outer) != outer)
        continue;
      at_.push_back(i), turns_.push_back(turn);
    }
  }

  // The side behind corner k runs to the next one; an open contour has one more, before its first corner.
  void make_sides() {
    const std::size_t n = segments_.size();
    const auto add = [&](std::size_t from, std::size_t count) {
      std::vector<Segment> part;
      for (std::size_t i = 0; i < count; ++i)
        part.push_back(segments_[(from + i) % n]);
      sides_.push_back({Curve({part.begin(), part.end()}), smooth_length(part, false), smooth_length(part, true)});
      parts_.push_back(std::move(part));
    };
    if (!closed_)
      add(0, at_.front());
    for (std::size_t k = 0; k < at_.size(); ++k)
      add(at_[k], k + 1 < at_.size() ? at_[k + 1] - at_[k] : closed_ ? n - at_[k] + at_.front() : n - at_[k]);
  }
  std::size_t side_before(std::size_t k) const { return closed_ ? (k + sides_.size() - 1) % sides_.size() : k; }
  std::size_t side_behind(std::size_t k) const { return closed_ ? k : k + 1; }
  const Side& before(std::size_t k) const { return sides_[side_before(k)]; }
  const Side& behind(std::size_t k) const { return sides_[side_behind(k)]; }

  Corner grown(std::size_t k, double most_before, double most_behind) const {
    return Fillet(before(k).curve, behind(k).curve, turns_[k]).grow(options_.radius, most_before, most_behind);
  }

  // Where two arcs want more of a side than there is, each gets its share.
  void share_sides() {
    std::vector<double> front(sides_.size()), back(sides_.size());
    std::vector<char> again(at_.size(), 0);
    for (std::size_t s = 0; s < sides_.size(); ++s)
      front[s] = sides_[s].front, back[s] = sides_[s].back;
    for (std::size_t k = 0; k < at_.size(); ++k) {
      const std::size_t next = closed_ ? (k + 1) % at_.size() : k + 1;
      if (next >= at_.size())
        break;
      const std::size_t s = side_behind(k);
      const double wanted = corners_[k].behind + corners_[next].before, length = sides_[s].curve.length();
      if (wanted <= length)
        continue;
      front[s] = std::min(front[s], corners_[k].behind * length / wanted);
      back[s] = std::min(back[s], corners_[next].before * length / wanted);
      again[k] = again[next] = 1;
    }
    for (std::size_t k = 0; k < at_.size(); ++k)
      if (again[k] != 0)
        corners_[k] = grown(k, back[side_before(k)], front[side_behind(k)]);
  }

  void count(const Corner& c) {
    if (c.radius <= 0) {
      ++report_.left;
      return;
    }
    ++report_.rounded;
    report_.smaller += c.radius < options_.radius * (1 - 1e-3) ? 1 : 0;
    report_.least = report_.least > 0 ? std::min(report_.least, c.radius) : c.radius;
  }

  std::vector<Segment> part_of(std::size_t side, double from, double to) const {
    const double length = sides_[side].curve.length();
    if (from <= 0 && to >= length)
      return parts_[side];
    if (to - from <= no_length)
      return {};
    return sides_[side].curve.part(from, to).contour(default_arc_tolerance).segments;
  }

  // What is between the arcs stays; each arc stands for the two ends of its sides.
  void draw(std::vector<Redrawn>& out) const {
    const auto middle = [&](std::size_t side, double from, double to) {
      std::vector<Segment> same = part_of(side, from, to);
      if (!same.empty())
        out.push_back({same, same});
    };
    if (!closed_)
      middle(0, 0, sides_[0].curve.length() - corners_[0].before);
    for (std::size_t k = 0; k < at_.size(); ++k) {
      const Corner& c = corners_[k];
      const double length_before = before(k).curve.length();
      if (c.radius > 0) {
        Redrawn arc;
        arc.was = part_of(side_before(k), length_before - c.before, length_before);
        const std::vector<Segment> rest = part_of(side_behind(k), 0, c.behind);
        arc.was.insert(arc.was.end(), rest.begin(), rest.end());
        arc.now = arc_of(k);
        out.push_back(std::move(arc));
      }
      const bool last_of_open = !closed_ && k + 1 == at_.size();
      const double taken = last_of_open ? 0 : corners_[(k + 1) % at_.size()].before;
      middle(side_behind(k), c.behind, behind(k).curve.length() - taken);
    }
  }
  std::vector<Segment> arc_of(std::size_t k) const {
    const Corner& c = corners_[k];
    const Fillet fillet(before(k).curve, behind(k).curve, turns_[k]);
    const CurvePlace from = fillet.where_it_begins(c), to = fillet.where_it_ends(c);
    const Point centre = fillet.centre(c);
    const Vec spoke = from.point - centre;
    std::vector<Segment> arc = arc_cubics(centre, c.radius, c.radius, 0, std::atan2(spoke.y, spoke.x),
                                          turn_between(from.tangent, to.tangent), default_arc_tolerance);
    if (!arc.empty())
      arc.front().p0 = from.point, arc.back().p3 = to.point;
    return arc;
  }

  const std::vector<Segment>& segments_;
  bool closed_;
  double area_sign_;
  const RoundOptions& options_;
  RoundReport& report_;
  std::vector<std::size_t> at_; // nodes
  std::vector<double> turns_;
  std::vector<Side> sides_;
  std::vector<std::vector<Segment>> parts_; // the segments of the sides
  std::vector<Corner> corners_;
};

// What an arc cuts off, or fills, may hold a whole contour: then the corner stays.
std::size_t put_back_around_contours(std::vector<RedrawnContour>& drawn, const Outline& outline) {
  constexpr double fine = 0.01; // mm: no contour is as small
  std::size_t count = 0;
  for (std::size_t c = 0; c < drawn.size(); ++c)
    for (Redrawn& r : drawn[c].stretches) {
      if (r.was == r.now)
        continue;
      Contour region{r.was, true};
      for (auto it = r.now.rbegin(); it != r.now.rend(); ++it)
        region.segments.push_back(it->reversed());
      const Box box = region.bounds();
      const bool holds = std::any_of(outline.contours.begin(), outline.contours.end(), [&](const Contour& other) {
        return !other.segments.empty() && box.contains(other.bounds()) &&
               winding_number({{region}}, other.segments.front().at(0.5), fine) != 0;
      });
      if (holds)
        r.now = r.was, ++count;
    }
  return count;
}

} // namespace

Result<RoundResult> round_corners(const Outline& outline, const RoundOptions& options) {
  if (!(options.radius >= least_rounding) || !std::isfinite(options.radius))
    return bad_input(FRELM_WORDS("core", "the radius must be at least 0.001 mm"));
  if (!(options.sharper_than > 0 && options.sharper_than <= pi))
    return bad_input(FRELM_WORDS("core", "corners must be sharper than an angle between 0 and 180°"));
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      if (!all_finite(s))
        return bad_input(FRELM_WORDS("core", "coordinates must be finite"));
  RoundResult out;
  const double area_sign = outline.area() < 0 ? -1 : 1;
  std::vector<RedrawnContour> drawn;
  for (const Contour& c : outline.contours) {
    if (options.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    if (!c.segments.empty())
      drawn.push_back(Rounder(c, area_sign, options, out.report).run());
  }
  const std::size_t around = put_back_around_contours(drawn, outline);
  RedrawnResult sound = without_new_crossings(drawn, options.stop);
  if (options.stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
  out.outline = std::move(sound.outline);
  const std::size_t back = sound.put_back + around;
  out.report.left += back, out.report.rounded -= std::min(out.report.rounded, back);
  return out;
}

} // namespace frelm
