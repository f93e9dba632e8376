// The boundary is split into pieces that run one way in x. From the places where the box begins and ends the pieces are
// followed along the upper and the lower edge; these two chains are rails with upright verticals (geom/rails), and the
// width is spread over them by G(X) = integral of h^-p, tabulated and turned round by Newton's method.
#include "geom/upright_fill.h"

#include "geom/bisect.h"
#include "geom/crossings.h"
#include "geom/rails.h"

#include <fmt/format.h>
#include <memory>

namespace frelm {
namespace {

constexpr int looked_at = 512;         // places where heights are looked at across the shape
constexpr double near_end = 0.02;      // of the width: where it is seen whether an end is pointed
constexpr double pointed_under = 0.25; // of the greatest height
constexpr double upright_under = 1e-9; // of a piece's extent: dx less than this stands upright
constexpr std::size_t cells_in_all = 1024;
constexpr double joined = 1e-6; // mm between pieces that follow one another

// Where a cubic's x turns: roots of its derivative in (0, 1).
std::vector<double> turns_of(const Segment& s) {
  if (s.is_line())
    return {};
  const double a = -s.p0.x + 3 * s.p1.x - 3 * s.p2.x + s.p3.x, b = 2 * (s.p0.x - 2 * s.p1.x + s.p2.x),
               c = s.p1.x - s.p0.x;
  std::vector<double> out;
  const auto keep = [&](double t) {
    if (t > 1e-9 && t < 1 - 1e-9)
      out.push_back(t);
  };
  const double size = std::abs(a) + std::abs(b) + std::abs(c);
  if (std::abs(a) < 1e-12 * size) {
    if (std::abs(b) > 1e-12 * size)
      keep(-c / b);
  } else if (const double d = b * b - 4 * a * c; d > 0) {
    const double q = -(b + std::copysign(std::sqrt(d), b)) / 2;
    keep(q / a);
    if (q != 0)
      keep(c / q);
  }
  std::sort(out.begin(), out.end());
  return out;
}

Error turns_back(Point at) {
  return bad_input(
      FRELM_WORDS("core",
                  "the shape turns back or has a step here, so that letters can't stand upright in it; take more of "
                  "its ends off, or fill it smoothly"),
      place_words(at.x, at.y));
}

} // namespace

double ShapeHeights::Piece::y_at(double x) const {
  if (s.is_line())
    return std::lerp(s.p0.y, s.p3.y, std::clamp((x - s.p0.x) / (s.p3.x - s.p0.x), 0.0, 1.0));
  double low = rightward ? 0 : 1, high = rightward ? 1 : 0; // x ascends from low to high
  double t = std::lerp(low, high, std::clamp((x - from) / (to - from), 0.0, 1.0));
  for (int i = 0; i < 60; ++i) {
    const double off = s.at(t).x - x;
    (off > 0 ? high : low) = t;
    const double slope = s.derivative(t).x, newton = slope != 0 ? t - off / slope : low;
    const double next = newton > std::min(low, high) && newton < std::max(low, high) ? newton : (low + high) / 2;
    if (std::abs(next - t) < 1e-14)
      break;
    t = next;
  }
  return s.at(t).y;
}

ShapeHeights::ShapeHeights(const Contour& boundary) {
  const Contour clockwise = boundary.area() < 0 ? boundary.reversed() : boundary;
  const Box box = clockwise.bounds();
  left_ = box.x0, right_ = box.x1;
  for (const Segment& whole : clockwise.segments) {
    double from = 0;
    std::vector<double> turns = turns_of(whole);
    turns.push_back(1);
    for (const double to : turns) {
      const Segment s = from == 0 && to == 1 ? whole : whole.part(from, to);
      from = to;
      if (s.p0 == s.p3)
        continue;
      const bool upright = std::abs(s.p3.x - s.p0.x) <= upright_under * distance(s.p0, s.p3);
      pieces_.push_back({s, std::min(s.p0.x, s.p3.x), std::max(s.p0.x, s.p3.x), s.p3.x > s.p0.x, upright});
    }
  }
  for (int i = 0; i < looked_at; ++i) {
    const double x = std::lerp(left_, right_, (i + 0.5) / looked_at);
    if (const double h = at(x); h > greatest_)
      greatest_ = h, greatest_at_ = x;
  }
  for (const Piece& p : pieces_) // corners stand out
    for (const double x : {p.from, p.to})
      if (const double h = at(x); h > greatest_)
        greatest_ = h, greatest_at_ = x;
}

double ShapeHeights::at(double x) const {
  double top = std::numeric_limits<double>::infinity(), bottom = -top;
  const auto see = [&](double y) { top = std::min(top, y), bottom = std::max(bottom, y); };
  for (const Piece& p : pieces_)
    if (x >= p.from && x <= p.to) {
      if (p.upright)
        see(p.s.p0.y), see(p.s.p3.y);
      else
        see(p.y_at(x));
    }
  return bottom > top ? bottom - top : 0;
}

std::size_t ShapeHeights::crossings(double x) const {
  return static_cast<std::size_t>(std::count_if(pieces_.begin(), pieces_.end(),
                                                [&](const Piece& p) { return !p.upright && x > p.from && x <= p.to; }));
}

double ShapeHeights::reaches(double share, bool last) const {
  const double wanted = share * greatest_;
  const double end = last ? right_ : left_;
  const auto place = [&](int i) { return std::lerp(end, greatest_at_, static_cast<double>(i) / looked_at); };
  if (at(end) >= wanted)
    return end;
  for (int i = 1; i <= looked_at; ++i)
    if (at(place(i)) >= wanted)
      return bisect({place(i - 1), place(i)}, [&](double x) { return at(x) >= wanted; }).high;
  return greatest_at_;
}

bool ShapeHeights::pointed() const {
  const double inside = near_end * (right_ - left_);
  return at(left_ + inside) < pointed_under * greatest_ || at(right_ - inside) < pointed_under * greatest_;
}

// The upper and the lower edge between two verticals, from left to right.
struct UprightChains {
  std::vector<ShapeHeights::Piece> top, bottom;

  static Result<UprightChains> between(const ShapeHeights& shape, double from, double to) {
    UprightChains out;
    if (const std::optional<Error> e = out.follow(shape, from, to, true))
      return *e;
    if (const std::optional<Error> e = out.follow(shape, from, to, false))
      return *e;
    return out;
  }
  static const ShapeHeights::Piece& piece_at(const std::vector<ShapeHeights::Piece>& chain, double x) {
    const auto it = std::partition_point(chain.begin(), chain.end(), [&](const auto& p) { return p.to < x; });
    return it == chain.end() ? chain.back() : *it;
  }
  double height(double x) const { return piece_at(bottom, x).y_at(x) - piece_at(top, x).y_at(x); }
  static Curve curve(const std::vector<ShapeHeights::Piece>& chain) {
    std::vector<Segment> out;
    for (const auto& p : chain)
      out.push_back(p.s);
    return Curve(std::vector<CurvePiece>(out.begin(), out.end()));
  }

private:
  // The part of a piece between two x.
  static ShapeHeights::Piece clipped(ShapeHeights::Piece p, double from, double to) {
    const auto t_at = [&](double x) {
      return bisect({0, 1}, [&](double t) { return (p.s.at(t).x >= x) == p.rightward; }).high;
    };
    const double a = std::max(p.from, from), b = std::min(p.to, to);
    const double ta = a > p.from ? t_at(a) : p.rightward ? 0.0 : 1.0, tb = b < p.to ? t_at(b) : p.rightward ? 1.0 : 0.0;
    p.s = p.s.part(std::min(ta, tb), std::max(ta, tb));
    if (!p.rightward)
      p.s = p.s.reversed();
    p.rightward = true, p.from = a, p.to = b;
    return p;
  }

  std::optional<Error> follow(const ShapeHeights& shape, double from, double to, bool upper) {
    const auto& all = shape.pieces_;
    const double inside = 1e-9 * (to - from);
    // Where the chain begins: the highest piece over `from`, or the lowest over `to`, since the lower edge runs left.
    const double x = upper ? from + inside : to - inside;
    std::size_t first = all.size();
    double best = 0;
    for (std::size_t i = 0; i < all.size(); ++i)
      if (!all[i].upright && x >= all[i].from && x <= all[i].to)
        if (const double y = all[i].y_at(x); first == all.size() || (upper ? y < best : y > best))
          first = i, best = y;
    if (first == all.size())
      return turns_back({x, 0});
    auto& chain = upper ? top : bottom;
    for (std::size_t k = 0; k < all.size(); ++k) {
      const ShapeHeights::Piece& p = all[(first + k) % all.size()];
      if (p.upright || p.rightward != upper)
        return turns_back(p.s.p0);
      if (p.to > from && p.from < to)
        chain.push_back(clipped(p, from, to));
      if (upper ? p.to >= to - inside : p.from <= from + inside)
        break;
    }
    if (!upper)
      std::reverse(chain.begin(), chain.end());
    for (std::size_t i = 0; i + 1 < chain.size(); ++i)
      chain[i + 1].s.p0 = chain[i].s.p3;
    return std::nullopt;
  }
};

namespace {

// u as a function of X and back: G of the header, as cubics over cells that have its values and slopes.
class Spread {
public:
  Spread(const UprightChains& chains, double from, double to, double power, std::vector<double> stops)
      : chains_(chains), power_(power) {
    stops.push_back(to);
    double at = from;
    nodes_.push_back({from, 0, slope(from)});
    for (const double stop : stops) {
      if (!(stop > at + 1e-9 * (to - from)))
        continue;
      const auto cells =
          static_cast<std::size_t>(std::ceil(8 + static_cast<double>(cells_in_all) * (stop - at) / (to - from)));
      const double begin = at;
      for (std::size_t i = 1; i <= cells; ++i) {
        const double next =
            i == cells ? stop : std::lerp(begin, stop, static_cast<double>(i) / static_cast<double>(cells));
        nodes_.push_back({next, nodes_.back().g + integral(at, next), slope(next)});
        at = next;
      }
    }
    whole_ = nodes_.back().g;
  }
  // The place at a share of the whole; where the height is h a step of the share is as much as rate(h).
  double at(double share) const {
    const double wanted = share * whole_;
    auto it = std::partition_point(nodes_.begin(), nodes_.end(), [&](const Node& n) { return n.g < wanted; });
    it = std::clamp(it, nodes_.begin() + 1, nodes_.end() - 1);
    const Node &a = *(it - 1), &b = *it;
    const double step = b.x - a.x;
    double low = 0, high = 1, t = (wanted - a.g) / (b.g - a.g);
    if (!(t >= 0 && t <= 1)) // beyond the ends: straight on
      return t < 0 ? a.x + (wanted - a.g) / a.slope : b.x + (wanted - b.g) / b.slope;
    for (int i = 0; i < 40; ++i) {
      const double t2 = t * t, t3 = t2 * t;
      const double value = a.g * (2 * t3 - 3 * t2 + 1) + b.g * (3 * t2 - 2 * t3) +
                           step * (a.slope * (t3 - 2 * t2 + t) + b.slope * (t3 - t2));
      const double rate =
          (b.g - a.g) * (6 * t - 6 * t2) + step * (a.slope * (3 * t2 - 4 * t + 1) + b.slope * (3 * t2 - 2 * t));
      const double off = value - wanted;
      (off > 0 ? high : low) = t;
      const double newton = t - off / rate, next = newton >= low && newton <= high ? newton : (low + high) / 2;
      if (std::abs(next - t) < 1e-13) {
        t = next;
        break;
      }
      t = next;
    }
    return std::lerp(a.x, b.x, t);
  }
  double rate(double height) const { return whole_ * std::pow(height, power_); }
  double share_at(double x) const {
    auto it = std::partition_point(nodes_.begin(), nodes_.end(), [&](const Node& n) { return n.x < x; });
    it = std::clamp(it, nodes_.begin() + 1, nodes_.end() - 1);
    return ((it - 1)->g + integral((it - 1)->x, x)) / whole_;
  }

private:
  struct Node {
    double x, g, slope;
  };
  double slope(double x) const { return std::pow(chains_.height(x), -power_); }
  double integral(double a, double b) const { // Gauss and Legendre's three places: exact to the fifth degree
    const double middle = (a + b) / 2, half = (b - a) / 2, out = half * std::sqrt(0.6);
    return half * (5 * slope(middle - out) + 8 * slope(middle) + 5 * slope(middle + out)) / 9;
  }
  UprightChains chains_;
  double power_;
  std::vector<Node> nodes_;
  double whole_ = 0;
};

} // namespace

Result<UprightMap> upright_fill(const Box& source, const Contour& boundary, const UprightFill& options) {
  if (!(source.width() > 0) || !(source.height() > 0))
    return bad_input(FRELM_WORDS("core", "there is nothing to fill the shape with: no width or no height"),
                     FRELM_WORDS("core", "Fill"));
  if (!boundary.closed || boundary.segments.empty() || !(std::abs(boundary.area()) > 0))
    return bad_input(FRELM_WORDS("core", "the shape to fill is open or has no area"), FRELM_WORDS("core", "Fill"));
  if (const std::optional<Point> at = crosses_itself(boundary))
    return bad_input(FRELM_WORDS("core", "the shape to fill crosses itself; choose one that doesn't"),
                     place_words(at->x, at->y));
  for (const double end : options.ends)
    if (!(end >= least_end && end <= 1))
      return bad_input(FRELM_WORDS("core", "ends go from 2 to 100 % of the greatest height"),
                       FRELM_WORDS("core", "Fill"));
  if (!(options.proportion >= 0 && options.proportion <= 1))
    return bad_input(FRELM_WORDS("core", "the proportion goes from 0 to 100 %"), FRELM_WORDS("core", "Fill"));
  const ShapeHeights shape(boundary);
  UprightMap out;
  out.from = shape.reaches(options.ends[0], false), out.to = shape.reaches(options.ends[1], true);
  if (!(out.to > out.from))
    return bad_input(FRELM_WORDS("core", "the ends leave no room; let letters begin where the shape is less high"),
                     FRELM_WORDS("core", "Fill"));
  const Result<UprightChains> chains = UprightChains::between(shape, out.from, out.to);
  if (!chains)
    return chains.error();
  std::vector<double> stops;
  for (const auto* chain : {&chains->top, &chains->bottom})
    for (const auto& piece : *chain)
      stops.push_back(piece.to);
  std::sort(stops.begin(), stops.end());
  for (int i = 0; i <= looked_at; ++i) {
    const double x = std::lerp(out.from, out.to, (i + 0.5) / (looked_at + 1)), h = chains->height(x);
    // Whatever else lies between the two edges is a hollow of the shape.
    if (!(h > 1e-6) || std::abs(h - shape.at(x)) > joined || shape.crossings(x) > 2)
      return turns_back({x, UprightChains::piece_at(chains->top, x).y_at(x)});
  }
  Result<WarpMap> rails = rails_map({out.from, 0, out.to, 1}, {UprightChains::curve(chains->top),
                                                               UprightChains::curve(chains->bottom), Verticals::Kept});
  if (!rails)
    return Error{rails.error().code, turns_back({}).what, rails.error().at};
  const auto spread = std::make_shared<const Spread>(*chains, out.from, out.to, options.proportion, stops);
  for (const double x : rails->breaks)
    out.map.breaks.push_back(source.x0 + source.width() * spread->share_at(x));
  out.map.at = [source, spread, at = std::move(rails->at)](Point p) {
    const double x = spread->at((p.x - source.x0) / source.width());
    const WarpPlace w = at({x, (p.y - source.y0) / source.height()}); // its dy is the height
    return WarpPlace{{x, w.point.y}, w.dx * (spread->rate(w.dy.y) / source.width()), w.dy / source.height()};
  };
  return out;
}

} // namespace frelm
