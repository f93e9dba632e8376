// Arc length of cubics and ellipses: the speed is integrated by Gauss–Legendre over equal steps of the parameter and
// kept in a table; a place is found by looking s up there and polishing with Newton steps on the exact length.
// Error budget: quadrature 1e-10 relative a step, Newton stops at 1e-10 mm.
#include "geom/curve.h"

#include "geom/arc_cubics.h"
#include "geom/quadrature.h"

namespace frelm {
namespace {

constexpr int table_steps = 16;
constexpr double newton_stop = 1e-10;      // mm
constexpr double empty_piece = 1e-12;      // mm: shorter pieces carry no direction
constexpr double quadrature_error = 1e-10; // relative

struct Local {
  Point p;
  Vec d1, d2;
};

Local local(const CurvePiece& piece, double t) {
  if (const Segment* s = std::get_if<Segment>(&piece))
    return {s->at(t), s->derivative(t), s->second(t)};
  const ArcPiece& a = std::get<ArcPiece>(piece);
  const double angle = a.from + a.sweep * t, c = std::cos(angle), s = std::sin(angle);
  const Affine turn = Affine::rotation(a.turn);
  return {a.centre + turn.linear({a.rx * c, a.ry * s}), turn.linear({-a.rx * s, a.ry * c}) * a.sweep,
          turn.linear({-a.rx * c, -a.ry * s}) * (a.sweep * a.sweep)};
}

double speed(const CurvePiece& piece, double t) {
  return length(local(piece, t).d1);
}

// Closed-form length, or a negative number where there is none.
double closed_form_length(const CurvePiece& piece) {
  if (const Segment* s = std::get_if<Segment>(&piece))
    return s->is_line() ? distance(s->p0, s->p3) : -1;
  const ArcPiece& a = std::get<ArcPiece>(piece);
  return a.circular() ? a.rx * std::abs(a.sweep) : -1;
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
      for (int i = 0; i < table_steps; ++i) {
        const double a = static_cast<double>(i) / table_steps, b = static_cast<double>(i + 1) / table_steps;
        span.table.push_back(span.table.back() +
                             integrate([&](double t) { return speed(piece, t); }, a, b, quadrature_error));
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
  const auto after = std::upper_bound(spans_.begin(), spans_.end(), s,
                                      [](double value, const Span& span) { return value < span.start; });
  const std::size_t i = static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, after - spans_.begin() - 1));
  const Span& span = spans_[i];
  const CurvePiece& piece = pieces_[i];
  const double along = std::clamp(s - span.start, 0.0, span.length);
  double t = along / span.length;
  if (!span.table.empty()) {
    const auto cell = std::upper_bound(span.table.begin(), span.table.end(), along);
    const int k = std::clamp(static_cast<int>(cell - span.table.begin()) - 1, 0, table_steps - 1);
    const double a = span.table[static_cast<std::size_t>(k)], b = span.table[static_cast<std::size_t>(k) + 1];
    const double t0 = static_cast<double>(k) / table_steps;
    t = t0 + (b > a ? (along - a) / (b - a) : 0) / table_steps;
    for (int step = 0; step < 8; ++step) {
      const double got = a + gauss8([&](double u) { return speed(piece, u); }, t0, t);
      const double v = speed(piece, t);
      if (std::abs(got - along) < newton_stop || v < empty_piece)
        break;
      t = std::clamp(t - (got - along) / v, 0.0, 1.0);
    }
  }
  const Local l = local(piece, t);
  const double v = frelm::length(l.d1);
  if (v < empty_piece)
    return {l.p, end_direction(piece, t < 0.5 ? 0 : 1), 0, false};
  return {l.p, l.d1 / v, cross(l.d1, l.d2) / (v * v * v), false};
}

double Curve::nearest(Point p) const {
  if (pieces_.empty() || length_ <= 0)
    return 0;
  const int n = static_cast<int>(64 * pieces_.size());
  const double step = length_ / n;
  int best = 0;
  double best_distance = std::numeric_limits<double>::infinity();
  for (int i = 0; i <= n; ++i)
    if (const double d = distance(at(step * i).point, p); d < best_distance)
      best = i, best_distance = d;
  double a = step * (best - 1), b = step * (best + 1);
  if (!closed_)
    a = std::max(0.0, a), b = std::min(length_, b);
  constexpr double golden = 0.6180339887498949;
  for (int i = 0; i < 60 && b - a > 1e-7; ++i) {
    const double m0 = b - golden * (b - a), m1 = a + golden * (b - a);
    if (distance(at(m0).point, p) < distance(at(m1).point, p))
      b = m1;
    else
      a = m0;
  }
  double s = (a + b) / 2;
  if (closed_) {
    s = std::fmod(s, length_);
    if (s < 0)
      s += length_;
  }
  return s;
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
