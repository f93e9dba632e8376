// Arc length of a spiral r = r0 + b u (u the angle swept): with F(r) = (r √(r² + b²) + b² asinh(r/b)) / 2 it is
// (F(r1) − F(r0)) / b (Archimedes' spiral; e.g. Lawrence, A Catalog of Special Plane Curves, 1972).
//
// Arc length of cubics and ellipses: the speed is integrated by Gauss–Legendre over equal steps of the parameter and
// kept in a table; a place is found by looking s up there and polishing with Newton steps on the exact length.
// Error budget: quadrature 1e-10 relative a step, Newton stops at 1e-10 mm.
#include "geom/curve.h"

#include "geom/arc_cubics.h"
#include "geom/cubic_fit.h"
#include "geom/quadrature.h"

namespace frelm {
namespace {

constexpr int table_steps = 16;
constexpr double newton_stop = 1e-10;      // mm
constexpr double newton_last = 1e-7;       // mm: one step from here on ends far below newton_stop (it is quadratic)
constexpr double empty_piece = 1e-12;      // mm: shorter pieces carry no direction
constexpr double quadrature_error = 1e-10; // relative

struct Local {
  Point p;
  Vec d1, d2;
};

Local local(const CurvePiece& piece, double t) {
  if (const Segment* s = std::get_if<Segment>(&piece))
    return {s->at(t), s->derivative(t), s->second(t)};
  if (const SpiralPiece* s = std::get_if<SpiralPiece>(&piece)) {
    const double grow = s->r_to - s->r_from, r = s->r_from + grow * t;
    const Vec out = direction(s->from + s->sweep * t), along{-out.y, out.x};
    return {s->centre + out * r, out * grow + along * (r * s->sweep),
            along * (2 * grow * s->sweep) - out * (r * s->sweep * s->sweep)};
  }
  const ArcPiece& a = std::get<ArcPiece>(piece);
  const double angle = a.from + a.sweep * t, c = std::cos(angle), s = std::sin(angle);
  const Affine turn = Affine::rotation(a.turn);
  return {a.centre + turn.linear({a.rx * c, a.ry * s}), turn.linear({-a.rx * s, a.ry * c}) * a.sweep,
          turn.linear({-a.rx * c, -a.ry * s}) * (a.sweep * a.sweep)};
}

double spiral_length(const SpiralPiece& s, double t) {
  const double b = std::abs((s.r_to - s.r_from) / s.sweep);
  const double r0 = s.r_from, r1 = s.r_from + (s.r_to - s.r_from) * t;
  // Nearly a circle: the formula loses its digits there; the mean radius is exact to (b/r)².
  if (b < 1e-7 * std::max(r0, r1))
    return std::abs(s.sweep) * t * (r0 + r1) / 2;
  const auto f = [b](double r) { return (r * std::hypot(r, b) + b * b * std::asinh(r / b)) / 2; };
  return std::abs(f(r1) - f(r0)) / b;
}

double speed(const CurvePiece& piece, double t) {
  if (const Segment* s = std::get_if<Segment>(&piece)) { // the one in every lookup: no more than it needs
    const Vec d = s->derivative(t);
    return std::sqrt(dot(d, d));
  }
  return length(local(piece, t).d1);
}

// The parameter's share of a table cell at the share u of its length: the cubic with the slopes that the speeds give
// at both ends (Hermite); linear where a speed is next to nothing.
double share_in_cell(double u, double length, double speed0, double speed1) {
  const double even = length * table_steps; // the speed of a cell that is walked evenly
  if (!(speed0 > 0.05 * even) || !(speed1 > 0.05 * even))
    return u;
  const double m0 = even / speed0, m1 = even / speed1, u2 = u * u, u3 = u2 * u;
  return std::clamp((u3 - 2 * u2 + u) * m0 + (3 * u2 - 2 * u3) + (u3 - u2) * m1, 0.0, 1.0);
}

// Closed-form length, or a negative number where there is none.
double closed_form_length(const CurvePiece& piece) {
  if (const Segment* s = std::get_if<Segment>(&piece))
    return s->is_line() ? distance(s->p0, s->p3) : -1;
  if (const SpiralPiece* s = std::get_if<SpiralPiece>(&piece))
    return s->sweep == 0 ? std::abs(s->r_to - s->r_from) : spiral_length(*s, 1);
  const ArcPiece& a = std::get<ArcPiece>(piece);
  return a.circular() ? a.rx * std::abs(a.sweep) : -1;
}

// First guess of the cubics a spiral needs: one for each quarter turn.
int spiral_steps(const SpiralPiece& s) {
  return std::max(1, static_cast<int>(std::ceil(std::abs(s.sweep) / (pi / 2) - 1e-9)));
}

Vec end_direction(const CurvePiece& piece, double t) {
  if (const Segment* s = std::get_if<Segment>(&piece)) {
    if (t == 0)
      return s->start_tangent();
    if (t == 1)
      return s->end_tangent();
  }
  return unit(local(piece, t).d1);
}

CurvePiece reverse(const CurvePiece& piece) {
  if (const Segment* s = std::get_if<Segment>(&piece))
    return s->reversed();
  if (const SpiralPiece* s = std::get_if<SpiralPiece>(&piece))
    return SpiralPiece{s->centre, s->r_to, s->r_from, s->from + s->sweep, -s->sweep};
  ArcPiece a = std::get<ArcPiece>(piece);
  a.from += a.sweep;
  a.sweep = -a.sweep;
  return a;
}

} // namespace

Curve::Curve(std::vector<CurvePiece> pieces, bool closed) : closed_(closed) {
  for (CurvePiece& piece : pieces) {
    Span span;
    span.start = length_;
    span.length = closed_form_length(piece);
    if (span.length < 0) {
      span.table.push_back(0);
      span.speeds.push_back(speed(piece, 0));
      for (int i = 0; i < table_steps; ++i) {
        const double a = static_cast<double>(i) / table_steps, b = static_cast<double>(i + 1) / table_steps;
        span.table.push_back(span.table.back() +
                             integrate([&](double t) { return speed(piece, t); }, a, b, quadrature_error));
        span.speeds.push_back(speed(piece, b));
      }
      span.length = span.table.back();
    }
    if (!(span.length > empty_piece))
      continue;
    length_ += span.length;
    spans_.push_back(std::move(span));
    pieces_.push_back(piece);
  }
  if (pieces_.empty())
    closed_ = false;
}

Curve Curve::line(Point from, Point to) {
  return Curve({Segment::line(from, to)});
}

Curve Curve::circle(Point centre, double radius, double start) {
  return Curve({ArcPiece{centre, radius, radius, 0, start - pi / 2, 2 * pi}}, true);
}

std::pair<std::size_t, double> Curve::parameter(double s) const {
  const auto after = std::upper_bound(spans_.begin(), spans_.end(), s,
                                      [](double value, const Span& span) { return value < span.start; });
  const std::size_t i = static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, after - spans_.begin() - 1));
  const Span& span = spans_[i];
  const CurvePiece& piece = pieces_[i];
  const double along = std::clamp(s - span.start, 0.0, span.length);
  double t = along / span.length;
  if (const SpiralPiece* spiral = std::get_if<SpiralPiece>(&piece); spiral != nullptr && spiral->sweep != 0) {
    for (int step = 0; step < 30; ++step) {
      const double miss = spiral_length(*spiral, t) - along, v = speed(piece, t);
      if (std::abs(miss) < newton_stop || v < empty_piece)
        break;
      t = std::clamp(t - miss / v, 0.0, 1.0);
    }
    return {i, t};
  }
  if (!span.table.empty()) {
    const auto cell = std::upper_bound(span.table.begin(), span.table.end(), along);
    const int k = std::clamp(static_cast<int>(cell - span.table.begin()) - 1, 0, table_steps - 1);
    const double a = span.table[static_cast<std::size_t>(k)], b = span.table[static_cast<std::size_t>(k) + 1];
    const double t0 = static_cast<double>(k) / table_steps;
    const double share = b > a ? (along - a) / (b - a) : 0;
    t = t0 + share_in_cell(share, b - a, span.speeds[static_cast<std::size_t>(k)],
                           span.speeds[static_cast<std::size_t>(k) + 1]) /
                 table_steps;
    for (int step = 0; step < 8; ++step) {
      const double got = a + gauss8([&](double u) { return speed(piece, u); }, t0, t);
      const double v = speed(piece, t);
      if (std::abs(got - along) < newton_stop || v < empty_piece)
        break;
      t = std::clamp(t - (got - along) / v, 0.0, 1.0);
      if (std::abs(got - along) < newton_last)
        break;
    }
  }
  return {i, t};
}

CurvePlace Curve::at(double s) const {
  if (pieces_.empty())
    return {{s, 0}, {1, 0}, 0, s != 0};
  if (closed_) {
    s = std::fmod(s, length_);
    if (s < 0)
      s += length_;
  } else if (s < 0 || s > length_) {
    const bool before = s < 0;
    const CurvePiece& piece = before ? pieces_.front() : pieces_.back();
    const double t = before ? 0 : 1;
    const Vec tangent = end_direction(piece, t);
    return {local(piece, t).p + tangent * (before ? s : s - length_), tangent, 0, true};
  }
  const auto [i, t] = parameter(s);
  const CurvePiece& piece = pieces_[i];
  const Local l = local(piece, t);
  const double v = frelm::length(l.d1);
  if (v < empty_piece)
    return {l.p, end_direction(piece, t < 0.5 ? 0 : 1), 0, false};
  return {l.p, l.d1 / v, cross(l.d1, l.d2) / (v * v * v), false};
}

double Curve::nearest(Point p) const {
  constexpr int samples = 24;
  double best_distance = std::numeric_limits<double>::infinity(), best_t = 0;
  std::size_t best_piece = 0;
  for (std::size_t i = 0; i < pieces_.size(); ++i) {
    // A spiral's piece may wind many times.
    const SpiralPiece* spiral = std::get_if<SpiralPiece>(&pieces_[i]);
    const int n = samples * (spiral != nullptr ? 1 + static_cast<int>(std::abs(spiral->sweep) / (2 * pi)) : 1);
    for (int k = 0; k <= n; ++k) {
      const double t = static_cast<double>(k) / n;
      const double d = distance(local(pieces_[i], t).p, p);
      if (d < best_distance - empty_piece)
        best_distance = d, best_piece = i, best_t = t;
    }
  }
  if (pieces_.empty())
    return 0;
  const CurvePiece& piece = pieces_[best_piece];
  const SpiralPiece* spiral = std::get_if<SpiralPiece>(&piece);
  const double step =
      1.0 / (samples * (spiral != nullptr ? 1 + static_cast<int>(std::abs(spiral->sweep) / (2 * pi)) : 1));
  double a = std::max(0.0, best_t - step), b = std::min(1.0, best_t + step);
  constexpr double golden = 0.6180339887498949;
  for (int i = 0; i < 60 && b - a > 1e-12; ++i) {
    const double m0 = b - golden * (b - a), m1 = a + golden * (b - a);
    if (distance(local(piece, m0).p, p) < distance(local(piece, m1).p, p))
      b = m1;
    else
      a = m0;
  }
  const double t = (a + b) / 2;
  const Span& span = spans_[best_piece];
  double along = span.length * t;
  if (spiral != nullptr && spiral->sweep != 0) {
    along = spiral_length(*spiral, t);
  } else if (!span.table.empty()) {
    const int k = std::clamp(static_cast<int>(t * table_steps), 0, table_steps - 1);
    along = span.table[static_cast<std::size_t>(k)] +
            gauss8([&](double u) { return speed(piece, u); }, static_cast<double>(k) / table_steps, t);
  }
  return span.start + along;
}

std::vector<CurveCorner> Curve::corners() const {
  std::vector<CurveCorner> out;
  for (std::size_t i = closed_ ? 0 : 1; i < pieces_.size(); ++i) {
    const Vec in = end_direction(pieces_[(i + pieces_.size() - 1) % pieces_.size()], 1),
              on = end_direction(pieces_[i], 0);
    const double turn = std::atan2(cross(in, on), dot(in, on));
    if (std::abs(turn) > corner_turn)
      out.push_back({spans_[i].start, turn});
  }
  return out;
}

std::vector<double> Curve::joints() const {
  std::vector<double> out;
  for (const Span& span : spans_)
    out.push_back(span.start);
  if (!closed_)
    out.push_back(length_);
  return out;
}

Curve Curve::part(double s0, double s1) const {
  if (pieces_.empty())
    return *this;
  if (closed_) {
    const double turns = std::floor(s0 / length_) * length_;
    s0 -= turns, s1 = std::min(s1 - turns, s0 + length_);
  } else {
    s0 = std::clamp(s0, 0.0, length_), s1 = std::clamp(s1, s0, length_);
  }
  std::vector<CurvePiece> out;
  for (int round = 0; round < 2; ++round)
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
      const double start = spans_[i].start + round * length_, end = start + spans_[i].length;
      const double from = std::max(s0, start), to = std::min(s1, end);
      if ((!closed_ && round > 0) || to - from < newton_stop)
        continue;
      const auto parameter_on = [&](double s) {
        if (s <= start + newton_stop)
          return 0.0;
        if (s >= end - newton_stop)
          return 1.0;
        return parameter(s - round * length_).second;
      };
      const double t0 = parameter_on(from), t1 = parameter_on(to);
      out.push_back(std::visit(
          [&](const auto& piece) -> CurvePiece {
            if constexpr (std::is_same_v<std::decay_t<decltype(piece)>, Segment>) {
              return piece.part(t0, t1);
            } else {
              auto cut = piece;
              cut.from += piece.sweep * t0;
              cut.sweep = piece.sweep * (t1 - t0);
              if constexpr (std::is_same_v<std::decay_t<decltype(piece)>, SpiralPiece>) {
                cut.r_from = piece.r_from + (piece.r_to - piece.r_from) * t0;
                cut.r_to = piece.r_from + (piece.r_to - piece.r_from) * t1;
              }
              return cut;
            }
          },
          pieces_[i]));
    }
  return Curve(std::move(out));
}

Curve Curve::rounded(double reach) const {
  const std::vector<CurveCorner> sharp = corners();
  if (sharp.empty() || !(reach > 0))
    return *this;
  // The sides between corners, each cut back at its corners, joined by cubics with handles of 0.55 of the cut.
  const std::size_t n = sharp.size();
  std::vector<CurvePiece> out;
  const auto side_length = [&](std::size_t i) { // the side before corner i
    if (i > 0)
      return sharp[i].s - sharp[i - 1].s;
    return closed_ ? sharp[0].s + length_ - sharp[n - 1].s : sharp[0].s;
  };
  const auto cut_at = [&](std::size_t i) {
    const double after = i + 1 < n ? side_length(i + 1) : closed_ ? side_length(0) : length_ - sharp[i].s;
    return std::min({reach, side_length(i) / 3, after / 3});
  };
  const auto add = [&](const Curve& side) { out.insert(out.end(), side.pieces().begin(), side.pieces().end()); };
  const auto bridge = [&](std::size_t i) {
    constexpr double handle = 0.5523;
    const double cut = cut_at(i);
    const CurvePlace a = at(sharp[i].s - cut), b = at(sharp[i].s + cut);
    out.push_back(Segment::cubic(a.point, a.point + a.tangent * (handle * cut * 1.2),
                                 b.point - b.tangent * (handle * cut * 1.2), b.point));
  };
  if (!closed_)
    add(part(0, sharp[0].s - cut_at(0)));
  for (std::size_t i = 0; i < n; ++i) {
    bridge(i);
    const double from = sharp[i].s + cut_at(i);
    if (i + 1 < n)
      add(part(from, sharp[i + 1].s - cut_at(i + 1)));
    else if (closed_)
      add(part(from, sharp[0].s + length_ - cut_at(0)));
    else
      add(part(from, length_));
  }
  return Curve(std::move(out), closed_);
}

double Curve::area() const {
  return closed_ ? contour(0.01).area() : 0;
}

Curve Curve::reversed() const {
  std::vector<CurvePiece> pieces;
  for (auto it = pieces_.rbegin(); it != pieces_.rend(); ++it)
    pieces.push_back(reverse(*it));
  return Curve(std::move(pieces), closed_);
}

Curve Curve::transformed_rigidly(double angle, Vec shift) const {
  const Affine m = Affine::translation(shift) * Affine::rotation(angle);
  std::vector<CurvePiece> pieces = pieces_;
  for (CurvePiece& piece : pieces) {
    if (Segment* s = std::get_if<Segment>(&piece)) {
      *s = s->transformed(m);
    } else if (SpiralPiece* spiral = std::get_if<SpiralPiece>(&piece)) {
      spiral->centre = m(spiral->centre);
      spiral->from += angle;
    } else {
      ArcPiece& a = std::get<ArcPiece>(piece);
      a.centre = m(a.centre);
      a.turn += angle;
    }
  }
  return Curve(std::move(pieces), closed_);
}

Contour Curve::contour(double tolerance) const {
  Contour c;
  c.closed = closed_;
  for (const CurvePiece& piece : pieces_) {
    if (const Segment* s = std::get_if<Segment>(&piece)) {
      c.segments.push_back(*s);
      continue;
    }
    if (std::holds_alternative<SpiralPiece>(piece)) {
      for (const Segment& s : fit_cubics(
               [&](double t) {
                 return FitPlace{local(piece, t).p, end_direction(piece, t)};
               },
               spiral_steps(std::get<SpiralPiece>(piece)), tolerance))
        c.segments.push_back(s);
      continue;
    }
    const ArcPiece& a = std::get<ArcPiece>(piece);
    for (const Segment& s : arc_cubics(a.centre, a.rx, a.ry, a.turn, a.from, a.sweep, tolerance))
      c.segments.push_back(s);
  }
  for (std::size_t i = 1; i < c.segments.size(); ++i)
    c.segments[i].p0 = c.segments[i - 1].p3;
  if (closed_ && !c.segments.empty())
    c.segments.back().p3 = c.segments.front().p0;
  return c;
}

} // namespace frelm
