#include "geom/fill_map.h"

#include "geom/boolean.h"
#include "geom/curve_table.h"

#include <fmt/format.h>
#include <memory>
#include <optional>

namespace frelm {
namespace {

constexpr std::size_t columns = 96, rows = 48; // cells of the finest grid
constexpr int coarsenings = 3;                 // each halves both
constexpr int sketch_coarsenings = 2;          // left out of a sketch
constexpr int most_sweeps = 600;               // on each grid
constexpr double still = 1e-7;                 // of the shape's size: largest move of a sweep
constexpr double least_side = 0.01;            // of the boundary's length between two corners
constexpr double corner_bonus = 0.25;          // of the box, for a place where the boundary has a corner
constexpr double clear_corner = 40 * pi / 180; // turn of a corner that anybody would call one
constexpr double off_tip = 0.06;               // of the boundary's length: corners keep so far from a tip between two
constexpr double alike = 0.5;                  // a tip that fits two corners this nearly as well lies between them
constexpr int places = 720;                    // looked at for corners
constexpr double beside_corner = 5e-4;         // of the shape's length
constexpr int checks = 3;                      // per cell, each way, for folds
constexpr double least_sense = 1e-6;           // of the mean Jacobian: less is a fold

struct Nodes {              // of a grid, row after row from the top
  std::size_t n = 0, m = 0; // columns and rows of cells
  std::vector<Point> at;
  Point& p(std::size_t i, std::size_t j) { return at[j * (n + 1) + i]; }
  const Point& p(std::size_t i, std::size_t j) const { return at[j * (n + 1) + i]; }
};

// The four sides of the shape by the box's own directions: top and bottom from the left, left and right from the top.
class Sides {
public:
  Sides(const FillTarget& target)
      : curve_({target.boundary.segments.begin(), target.boundary.segments.end()}, true), table_(curve_) {
    const double whole = curve_.length();
    const auto after = [&](double from, double to) {
      const double d = std::fmod(to - from, whole);
      return d > 0 ? d : d + whole;
    };
    auto c = target.corners;
    for (double& corner : c) // one typed beside a sharp corner means it: the rest of a side would be a hook
      for (const CurveCorner& sharp : curve_.corners())
        if (std::abs(std::remainder(corner - sharp.s, whole)) < beside_corner * whole)
          corner = sharp.s;
    from_ = {c[0], c[1], c[3], c[0]};
    along_ = {after(c[0], c[1]), after(c[1], c[2]), -after(c[2], c[3]), -after(c[3], c[0])};
  }
  struct Place {
    Point point;
    Vec along; // per unit of t
  };
  enum Side { Top, Right, Bottom, Left };
  Place at(Side side, double t) const {
    const auto k = static_cast<std::size_t>(side);
    // The direction on the side's own part, also at its ends, where the boundary may turn.
    constexpr double inside = 1e-9;
    if (t < inside || t > 1 - inside)
      return {curve_.at(from_[k] + along_[k] * t).point,
              table_.at(from_[k] + along_[k] * std::clamp(t, inside, 1 - inside)).along * along_[k]};
    const CurveTable::Place p = table_.at(from_[k] + along_[k] * t);
    return {p.point, p.along * along_[k]};
  }
  double length(Side side) const { return std::abs(along_[static_cast<std::size_t>(side)]); }
  double whole() const { return curve_.length(); }
  // t of the places where pieces of the boundary meet on the side.
  std::vector<double> joints(Side side) const {
    const auto k = static_cast<std::size_t>(side);
    std::vector<double> out;
    for (const double s : curve_.joints())
      for (const double turn : {-2.0, -1.0, 0.0, 1.0, 2.0})
        if (const double t = (s + turn * curve_.length() - from_[k]) / along_[k]; t > 1e-9 && t < 1 - 1e-9)
          out.push_back(t);
    return out;
  }

private:
  Curve curve_;
  CurveTable table_;
  std::array<double, 4> from_{}, along_{};
};

// Boundary nodes exact, inner ones blended from them (Coons), to begin with.
Nodes first_guess(const Sides& sides, std::size_t n, std::size_t m) {
  Nodes g{n, m, std::vector<Point>((n + 1) * (m + 1))};
  for (std::size_t j = 0; j <= m; ++j)
    for (std::size_t i = 0; i <= n; ++i) {
      const double u = static_cast<double>(i) / static_cast<double>(n),
                   v = static_cast<double>(j) / static_cast<double>(m);
      const Point top = sides.at(Sides::Top, u).point, bottom = sides.at(Sides::Bottom, u).point,
                  left = sides.at(Sides::Left, v).point, right = sides.at(Sides::Right, v).point;
      const Point a = sides.at(Sides::Top, 0).point, b = sides.at(Sides::Top, 1).point,
                  c = sides.at(Sides::Bottom, 1).point, d = sides.at(Sides::Bottom, 0).point;
      g.p(i, j) = j == 0   ? top
                  : j == m ? bottom
                  : i == 0 ? left
                  : i == n ? right
                           : lerp(top, bottom, v) + lerp(left, right, u) - lerp(lerp(a, b, u), lerp(d, c, u), v);
    }
  return g;
}

// The boundary exact, the inside of a grid of half as many cells each way halved.
Nodes refined(const Nodes& coarse, const Sides& sides) {
  Nodes g = first_guess(sides, coarse.n * 2, coarse.m * 2);
  for (std::size_t j = 1; j < g.m; ++j)
    for (std::size_t i = 1; i < g.n; ++i) {
      const std::size_t a = i / 2, b = j / 2, c = (i + 1) / 2, d = (j + 1) / 2;
      g.p(i, j) = (coarse.p(a, b) + coarse.p(c, b) + coarse.p(a, d) + coarse.p(c, d)) / 4;
    }
  return g;
}

// Sweeps of over-relaxation until nothing moves. False: stopped.
template <class Target>
bool relax(Nodes& g, double over, double size, const std::stop_token& stop, const Target& target) {
  for (int sweep = 0; sweep < most_sweeps; ++sweep) {
    if (stop.stop_requested())
      return false;
    double most = 0;
    for (std::size_t j = 1; j < g.m; ++j)
      for (std::size_t i = 1; i < g.n; ++i) {
        Point& here = g.p(i, j);
        const Vec by = (target(g, i, j) - here) * over;
        here += by;
        most = std::max(most, std::max(std::abs(by.x), std::abs(by.y)));
      }
    if (most < still * size)
      break;
  }
  return true;
}

// Harmonic on the source: the mean of the neighbours, weighed by the cells' sides.
bool solve_forward(Nodes& g, const Box& source, double size, const std::stop_token& stop) {
  const double hx = source.width() / static_cast<double>(g.n), hy = source.height() / static_cast<double>(g.m);
  const double wx = 1 / (hx * hx), wy = 1 / (hy * hy);
  const double over = 2 / (1 + std::sin(pi / static_cast<double>(std::max(g.n, g.m))));
  return relax(g, over, size, stop, [&](const Nodes& k, std::size_t i, std::size_t j) {
    return ((k.p(i - 1, j) + k.p(i + 1, j)) * wx + (k.p(i, j - 1) + k.p(i, j + 1)) * wy) / (2 * (wx + wy));
  });
}

// The inverse harmonic on the shape: α p_uu − 2β p_uv + γ p_vv = 0 with the metric of the map so far.
bool solve_inverse(Nodes& g, double size, const std::stop_token& stop) {
  return relax(g, 1.3, size, stop, [&](const Nodes& k, std::size_t i, std::size_t j) {
    const Vec pu = (k.p(i + 1, j) - k.p(i - 1, j)) / 2, pv = (k.p(i, j + 1) - k.p(i, j - 1)) / 2;
    const double alpha = dot(pv, pv), beta = dot(pu, pv), gamma = dot(pu, pu);
    const Vec cross_term = (k.p(i + 1, j + 1) - k.p(i - 1, j + 1) - k.p(i + 1, j - 1) + k.p(i - 1, j - 1)) / 4;
    const double sum = 2 * (alpha + gamma);
    return sum > 0 ? ((k.p(i - 1, j) + k.p(i + 1, j)) * alpha + (k.p(i, j - 1) + k.p(i, j + 1)) * gamma -
                      cross_term * (2 * beta)) /
                         sum
                   : k.p(i, j);
  });
}

// The cubic spline surface through the nodes, in u and v from 0 to 1.
class Surface {
public:
  explicit Surface(const Nodes& g) : n_(g.n), m_(g.m), c_((g.n + 3) * (g.m + 3)) {
    std::vector<Point> line;
    for (std::size_t j = 0; j <= m_; ++j) {
      line.assign(g.at.begin() + static_cast<std::ptrdiff_t>(j * (n_ + 1)),
                  g.at.begin() + static_cast<std::ptrdiff_t>((j + 1) * (n_ + 1)));
      const std::vector<Point> solved = coefficients(line);
      for (std::size_t i = 0; i < n_ + 3; ++i)
        c(i, j + 1) = solved[i];
    }
    for (std::size_t i = 0; i < n_ + 3; ++i) {
      line.clear();
      for (std::size_t j = 0; j <= m_; ++j)
        line.push_back(c(i, j + 1));
      const std::vector<Point> solved = coefficients(line);
      for (std::size_t j = 0; j < m_ + 3; ++j)
        c(i, j) = solved[j];
    }
  }
  struct Place {
    Point point;
    Vec du, dv; // per unit of u and v
  };
  Place at(double u, double v) const {
    std::array<double, 4> bu, du, bv, dv;
    const std::size_t i = basis(u, n_, bu, du), j = basis(v, m_, bv, dv);
    Place out;
    for (std::size_t b = 0; b < 4; ++b)
      for (std::size_t a = 0; a < 4; ++a) {
        const Point& k = c_[(j + b) * (n_ + 3) + i + a];
        out.point += k * (bu[a] * bv[b]);
        out.du += k * (du[a] * bv[b] * static_cast<double>(n_));
        out.dv += k * (bu[a] * dv[b] * static_cast<double>(m_));
      }
    return out;
  }

private:
  Point& c(std::size_t i, std::size_t j) { return c_[j * (n_ + 3) + i]; }

  // Of the uniform cubic B-spline that goes through f, its second differences at the ends as f's own are there.
  static std::vector<Point> coefficients(const std::vector<Point>& f) {
    const std::size_t n = f.size() - 1;
    std::vector<Point> k(n + 3);
    const Point first = f[0] * 2 - f[1] * 5 + f[2] * 4 - f[3], last = f[n] * 2 - f[n - 1] * 5 + f[n - 2] * 4 - f[n - 3];
    k[1] = f[0] - first / 6, k[n + 1] = f[n] - last / 6;
    // (k[i-1] + 4 k[i] + k[i+1]) / 6 = f: elimination and back.
    std::vector<double> upper(n + 1, 0);
    std::vector<Point> rest(n + 1);
    rest[0] = k[1];
    for (std::size_t i = 1; i < n; ++i) {
      const double pivot = 4 - upper[i - 1];
      upper[i] = 1 / pivot;
      rest[i] = (f[i] * 6 - rest[i - 1]) / pivot;
    }
    for (std::size_t i = n - 1; i >= 1; --i)
      k[i + 1] = rest[i] - k[i + 2] * upper[i];
    k[0] = k[1] * 2 - k[2] + first;
    k[n + 2] = k[n + 1] * 2 - k[n] + last;
    return k;
  }
  static std::size_t basis(double t, std::size_t cells, std::array<double, 4>& b, std::array<double, 4>& d) {
    const double x = std::clamp(t, 0.0, 1.0) * static_cast<double>(cells);
    const auto i = std::min(static_cast<std::size_t>(x), cells - 1);
    const double s = x - static_cast<double>(i), r = 1 - s;
    b = {r * r * r / 6, (3 * s * s * s - 6 * s * s + 4) / 6, (3 * r * r * r - 6 * r * r + 4) / 6, s * s * s / 6};
    d = {-r * r / 2, (3 * s * s - 4 * s) / 2, -(3 * r * r - 4 * r) / 2, s * s / 2};
    return i;
  }

  std::size_t n_, m_;
  std::vector<Point> c_;
};

// 1 at the side, 0 from the fade's end on, smooth to the second derivative.
struct Fade {
  double value = 0, slope = 0;
};
Fade fade(double from_side) {
  const double t = from_side / fill_fade;
  if (t >= 1)
    return {};
  return {1 - t * t * t * (10 - 15 * t + 6 * t * t), -30 * t * t * (1 - t) * (1 - t) / fill_fade};
}

class Filler {
public:
  Filler(const Box& source, const Sides& sides, const Nodes& g)
      : source_(source), sides_(sides), surface_(g), across_(g.n * checks), down_(g.m * checks) {}

  WarpPlace at(Point p) const {
    const double u = std::clamp((p.x - source_.x0) / source_.width(), 0.0, 1.0),
                 v = std::clamp((p.y - source_.y0) / source_.height(), 0.0, 1.0);
    const Surface::Place s = surface_.at(u, v);
    Point point = s.point;
    Vec du = s.du, dv = s.dv;
    // What lies between the surface and the true side, fading inwards.
    const auto mend = [&](Sides::Side side, double from_side, double sense) {
      const Fade f = fade(from_side);
      if (f.value == 0)
        return;
      const bool level = side == Sides::Top || side == Sides::Bottom;
      const double edge = sense > 0 ? 0 : 1;
      const Sides::Place exact = sides_.at(side, level ? u : v);
      const Surface::Place near = level ? surface_.at(u, edge) : surface_.at(edge, v);
      const Vec off = exact.point - near.point;
      point += off * f.value;
      (level ? du : dv) += (exact.along - (level ? near.du : near.dv)) * f.value;
      (level ? dv : du) += off * (f.slope * sense);
    };
    mend(Sides::Top, v, 1);
    mend(Sides::Bottom, 1 - v, -1);
    mend(Sides::Left, u, 1);
    mend(Sides::Right, 1 - u, -1);
    return {point, du / source_.width(), dv / source_.height()};
  }

  // A place inside the source where the map loses its sense; nothing: it keeps it.
  std::optional<Point> fold(double mean) const {
    for (std::size_t j = 0; j < down_; ++j)
      for (std::size_t i = 0; i < across_; ++i) {
        const Point p{source_.x0 + source_.width() * (static_cast<double>(i) + 0.5) / static_cast<double>(across_),
                      source_.y0 + source_.height() * (static_cast<double>(j) + 0.5) / static_cast<double>(down_)};
        if (!(at(p).determinant() > least_sense * mean))
          return p;
      }
    return std::nullopt;
  }

private:
  Box source_;
  Sides sides_;
  Surface surface_;
  std::size_t across_, down_; // places looked at for folds
};

Error bad_target(Said what) {
  return bad_input(std::move(what), FRELM_WORDS("core", "target"));
}

// Closed, clockwise, with area, without crossings.
std::optional<Error> fault_of(const Contour& boundary) {
  if (!boundary.closed || boundary.segments.empty())
    return bad_target(FRELM_WORDS("core", "the shape to fill is open; close it"));
  for (const Segment& s : boundary.segments)
    for (const Point p : {s.p0, s.p1, s.p2, s.p3})
      if (!finite(p))
        return bad_target(FRELM_WORDS("core", "the shape to fill has a place that is not a number"));
  const double area = std::abs(boundary.area()), length = boundary.length();
  Outline turned{{boundary}};
  turned.make_area_positive();
  const Result<WeldResult> sound = self_union(turned, FillRule::EvenOdd);
  if (!sound || !(sound->outline.area() > 1e-6 * length * length)) // what has no area may well not be united at all
    return bad_target(FRELM_WORDS("core", "the shape to fill has no area"));
  const double covered = sound->outline.area();
  if (sound->outline.contours.size() != 1 || std::abs(covered - area) > 1e-4 * covered)
    return bad_target(FRELM_WORDS("core", "the shape to fill crosses itself; resolve its crossings first"));
  return std::nullopt;
}

std::optional<Error> fault_of_corners(const FillTarget& target, double whole) {
  double around = 0;
  for (std::size_t k = 0; k < 4; ++k) {
    const double d = std::fmod(target.corners[(k + 1) % 4] - target.corners[k] + 2 * whole, whole);
    if (!std::isfinite(d) || d < least_side * whole)
      return bad_target(
          FRELM_WORDS("core", "two corners of the shape to fill stand too close together; move one away"));
    around += d;
  }
  if (std::abs(around - whole) > 1e-6 * whole)
    return bad_target(FRELM_WORDS("core", "the corners of the shape to fill must go around it clockwise"));
  return std::nullopt;
}

} // namespace

Result<FillTarget> fill_target(const Contour& drawn) {
  if (const std::optional<Error> fault = fault_of(drawn))
    return *fault;
  FillTarget out;
  out.boundary = drawn.area() > 0 ? drawn : drawn.reversed();
  const Curve curve({out.boundary.segments.begin(), out.boundary.segments.end()}, true);
  const double whole = curve.length();
  const Box box = out.boundary.bounds();
  constexpr std::array<Vec, 4> towards{Vec{-1, -1}, Vec{1, -1}, Vec{1, 1}, Vec{-1, 1}};
  const auto fits = [&](double s, std::size_t k) {
    const Point p = curve.at(s).point, c = box.centre();
    return dot({(p.x - c.x) / box.width(), (p.y - c.y) / box.height()}, towards[k]);
  };
  // A shape with just four corners has them: turned so that they fit best.
  std::vector<double> clear;
  for (const CurveCorner& c : curve.corners())
    if (c.turn > clear_corner)
      clear.push_back(c.s);
  if (clear.size() == 4) {
    double best = -std::numeric_limits<double>::infinity();
    for (std::size_t turn = 0; turn < 4; ++turn) {
      double sum = 0;
      for (std::size_t k = 0; k < 4; ++k)
        sum += fits(clear[(turn + k) % 4], k);
      if (sum > best) {
        best = sum;
        for (std::size_t k = 0; k < 4; ++k)
          out.corners[k] = clear[(turn + k) % 4];
      }
    }
    if (!fault_of_corners(out, whole))
      return out;
  }
  std::vector<std::pair<double, double>> candidates; // arc length, bonus
  std::vector<double> tips;                          // in the middle of a side: a nose, the foot of a heart
  for (const CurveCorner& c : curve.corners()) {
    if (!(c.turn > 0)) // where the shape comes out
      continue;
    std::array<double, 4> fit{};
    for (std::size_t k = 0; k < 4; ++k)
      fit[k] = fits(c.s, k);
    std::sort(fit.begin(), fit.end());
    if (fit[3] - fit[2] < alike)
      tips.push_back(c.s);
    else
      candidates.emplace_back(c.s, corner_bonus * std::min(c.turn / (pi / 2), 1.0));
  }
  for (int i = 0; i < places; ++i) {
    const double s = whole * i / places;
    if (std::none_of(tips.begin(), tips.end(), [&](double tip) {
          const double d = std::abs(std::remainder(s - tip, whole));
          return d < off_tip * whole;
        }))
      candidates.emplace_back(s, 0.0);
  }
  for (std::size_t k = 0; k < 4; ++k) {
    double best = -std::numeric_limits<double>::infinity();
    for (const auto& [s, bonus] : candidates) {
      const double score = fits(s, k) + bonus;
      // In order around the shape from the first one, and apart.
      const auto from_first = [&](double at) { return std::fmod(at - out.corners[0] + whole, whole); };
      const double room = 2 * least_side * whole;
      const bool free =
          k == 0 || (from_first(s) > from_first(out.corners[k - 1]) + room && from_first(s) < whole - room);
      if (free && score > best)
        best = score, out.corners[k] = s;
    }
  }
  if (const std::optional<Error> fault = fault_of_corners(out, whole))
    return *fault;
  return out;
}

FillMeasure fill_measure(const FillTarget& target) {
  const Sides sides(target);
  const double width = (sides.length(Sides::Top) + sides.length(Sides::Bottom)) / 2;
  return {width, width > 0 ? std::abs(target.boundary.area()) / width : 0};
}

Result<FillMap> fill_map(const Box& source, const FillTarget& target, const FillOptions& options) {
  if (!(source.width() > 0) || !(source.height() > 0))
    return bad_input(FRELM_WORDS("core", "there is nothing to fill the shape with"), FRELM_WORDS("core", "source"));
  if (const std::optional<Error> fault = fault_of(target.boundary))
    return *fault;
  if (!(target.boundary.area() > 0))
    return bad_target(FRELM_WORDS("core", "the shape to fill must be drawn clockwise"));
  const Sides sides(target);
  if (const std::optional<Error> fault = fault_of_corners(target, sides.whole()))
    return *fault;
  const double size = std::sqrt(target.boundary.area());
  const double mean = target.boundary.area() / (source.width() * source.height());
  std::optional<Point> fold;
  for (const FillSolve solve : {FillSolve::Forward, FillSolve::Inverse}) {
    if (options.only && *options.only != solve)
      continue;
    constexpr std::size_t times = std::size_t{1} << coarsenings;
    Nodes g = first_guess(sides, columns / times, rows / times);
    for (int level = 0; level <= coarsenings - (options.sketch ? sketch_coarsenings : 0); ++level) {
      if (level > 0)
        g = refined(g, sides);
      if (!(solve == FillSolve::Forward ? solve_forward(g, source, size, options.stop)
                                        : solve_inverse(g, size, options.stop)))
        return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "stopped"), FRELM_WORDS("core", "fill")};
    }
    const auto filler = std::make_shared<const Filler>(source, sides, g);
    fold = filler->fold(mean);
    if (fold)
      continue;
    FillMap out;
    out.solved = solve;
    out.map.at = [filler](Point p) { return filler->at(p); };
    for (const Sides::Side side : {Sides::Top, Sides::Bottom})
      for (const double t : sides.joints(side))
        out.map.breaks.push_back(source.x0 + source.width() * t);
    for (const Sides::Side side : {Sides::Left, Sides::Right})
      for (const double t : sides.joints(side))
        out.map.level_breaks.push_back(source.y0 + source.height() * t);
    std::sort(out.map.breaks.begin(), out.map.breaks.end());
    std::sort(out.map.level_breaks.begin(), out.map.level_breaks.end());
    return out;
  }
  return bad_target(say(FRELM_WORDS("core", "the letters would fold over at %1 % of their width and %2 % of their "
                                            "height; move the shape's corners or choose a simpler shape"),
                        std::to_string(std::lround(100 * (fold->x - source.x0) / source.width())),
                        std::to_string(std::lround(100 * (fold->y - source.y0) / source.height()))));
}

} // namespace frelm
