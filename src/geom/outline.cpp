// Areas are exact (Green's theorem on the cubics), bounds too (roots of the derivative); flattening steps evenly in the
// parameter, as many steps as the second differences ask for.
#include "geom/outline.h"

#include "geom/arc_cubics.h"
#include "geom/quadrature.h"
#include "geom/winding.h"

#include <array>

namespace frelm {
namespace {

constexpr double handle_epsilon = 1e-9; // mm: a handle shorter than this has no direction of its own

Point blossom(const Segment& s, double a, double b, double c) {
  const Point q0 = lerp(s.p0, s.p1, a), q1 = lerp(s.p1, s.p2, a), q2 = lerp(s.p2, s.p3, a);
  return lerp(lerp(q0, q1, b), lerp(q1, q2, b), c);
}

void add_extremes(Box& box, const Segment& s, double c0, double c1, double c2, double c3) {
  // Roots of the derivative's quadratic a t² + b t + c, by the cancellation-free form.
  const double a = -c0 + 3 * c1 - 3 * c2 + c3, b = 2 * (c0 - 2 * c1 + c2), c = c1 - c0;
  std::array<double, 2> roots{-1, -1};
  if (std::abs(a) < 1e-14 * (std::abs(b) + std::abs(c))) {
    if (b != 0)
      roots[0] = -c / b;
  } else if (const double disc = b * b - 4 * a * c; disc >= 0) {
    const double q = -0.5 * (b + std::copysign(std::sqrt(disc), b));
    roots[0] = q / a;
    if (q != 0)
      roots[1] = c / q;
  }
  for (const double t : roots)
    if (t > 0 && t < 1)
      box.add(s.at(t));
}

} // namespace

Point Segment::at(double t) const {
  if (t == 0)
    return p0;
  if (t == 1)
    return p3;
  if (is_line())
    return lerp(p0, p3, t);
  const double u = 1 - t;
  return p0 * (u * u * u) + p1 * (3 * u * u * t) + p2 * (3 * u * t * t) + p3 * (t * t * t);
}

Vec Segment::derivative(double t) const {
  if (is_line())
    return p3 - p0;
  const double u = 1 - t;
  return ((p1 - p0) * (u * u) + (p2 - p1) * (2 * u * t) + (p3 - p2) * (t * t)) * 3.0;
}

Vec Segment::second(double t) const {
  if (is_line())
    return {};
  return ((p2 - p1 * 2.0 + p0) * (1 - t) + (p3 - p2 * 2.0 + p1) * t) * 6.0;
}

Vec Segment::start_tangent() const {
  for (const Point p : {p1, p2, p3})
    if (distance(p0, p) > handle_epsilon)
      return unit(p - p0);
  return {1, 0};
}

Vec Segment::end_tangent() const {
  for (const Point p : {p2, p1, p0})
    if (distance(p3, p) > handle_epsilon)
      return unit(p3 - p);
  return {1, 0};
}

Segment Segment::part(double t0, double t1) const {
  if (t0 == 0 && t1 == 1)
    return *this;
  if (t0 == 1 && t1 == 0)
    return reversed();
  if (is_line())
    return line(at(t0), at(t1));
  return cubic(at(t0), blossom(*this, t0, t0, t1), blossom(*this, t0, t1, t1), at(t1));
}

Box Segment::control_box() const {
  Box b;
  b.add(p0), b.add(p1), b.add(p2), b.add(p3);
  return b;
}

Box Segment::bounds() const {
  Box b;
  b.add(p0), b.add(p3);
  if (is_line() || (b.contains(p1) && b.contains(p2)))
    return b;
  add_extremes(b, *this, p0.x, p1.x, p2.x, p3.x);
  add_extremes(b, *this, p0.y, p1.y, p2.y, p3.y);
  return b;
}

double Segment::area() const {
  if (is_line())
    return cross(p0, p3) / 2;
  return (6 * cross(p0, p1) + 3 * cross(p0, p2) + cross(p0, p3) + 3 * cross(p1, p2) + 3 * cross(p1, p3) +
          6 * cross(p2, p3)) /
         20;
}

int Segment::flat_steps(double tolerance) const {
  if (is_line())
    return 1;
  // |B''| <= 6 D with D the largest second difference, and a chord of step h is off by at most |B''| h² / 8.
  const double d = std::max(length(p0 - p1 * 2.0 + p2), length(p1 - p2 * 2.0 + p3));
  return std::clamp(static_cast<int>(std::ceil(std::sqrt(0.75 * d / tolerance))), 1, 4096);
}

double Contour::area() const {
  if (segments.empty())
    return 0;
  double sum = 0;
  for (const Segment& s : segments)
    sum += s.area();
  if (segments.back().p3 != segments.front().p0)
    sum += cross(segments.back().p3, segments.front().p0) / 2;
  return sum;
}

double Contour::length() const {
  double sum = 0;
  for (const Segment& s : segments)
    sum += s.is_line() ? distance(s.p0, s.p3)
                       : integrate([&](double t) { return frelm::length(s.derivative(t)); }, 0, 1, 1e-7);
  return sum;
}

Box Contour::bounds() const {
  Box b;
  for (const Segment& s : segments)
    b.add(s.bounds());
  return b;
}

Contour Contour::reversed() const {
  Contour r;
  r.closed = closed;
  r.segments.reserve(segments.size());
  for (auto it = segments.rbegin(); it != segments.rend(); ++it)
    r.segments.push_back(it->reversed());
  return r;
}

double Outline::area() const {
  double sum = 0;
  for (const Contour& c : contours)
    sum += c.area();
  return sum;
}

double Outline::length() const {
  double sum = 0;
  for (const Contour& c : contours)
    sum += c.length();
  return sum;
}

Box Outline::bounds() const {
  Box b;
  for (const Contour& c : contours)
    b.add(c.bounds());
  return b;
}

OutlineParts parts_of(const Outline& outline) {
  OutlineParts out;
  for (const Contour& c : outline.contours)
    (c.closed ? out.closed : out.open).contours.push_back(c);
  return out;
}

std::size_t bytes_of(const Outline& outline) {
  std::size_t sum = sizeof outline;
  for (const Contour& c : outline.contours)
    sum += sizeof c + c.segments.capacity() * sizeof(Segment);
  return sum;
}

std::size_t Outline::node_count() const {
  std::size_t n = 0;
  for (const Contour& c : contours)
    n += c.segments.size() + (c.closed || c.segments.empty() ? 0 : 1);
  return n;
}

Outline Outline::transformed(const Affine& m) const {
  Outline r = *this;
  for (Contour& c : r.contours)
    for (Segment& s : c.segments)
      s = s.transformed(m);
  return r;
}

Outline turned_over(const Outline& outline, const Affine& m) {
  Outline out = outline.transformed(m);
  for (Contour& c : out.contours)
    if (c.closed && m.determinant() < 0)
      c = c.reversed();
  return out;
}

void Outline::append(const Outline& other) {
  contours.insert(contours.end(), other.contours.begin(), other.contours.end());
}

void Outline::make_area_positive() {
  if (area() >= 0)
    return;
  for (Contour& c : contours)
    c = c.reversed();
}

std::vector<Point> flatten(const Contour& contour, double tolerance) {
  std::vector<Point> points;
  for (const Segment& s : contour.segments) {
    const int n = s.flat_steps(tolerance);
    for (int i = 0; i < n; ++i)
      points.push_back(s.at(static_cast<double>(i) / n));
  }
  if (!contour.closed && !contour.segments.empty())
    points.push_back(contour.segments.back().p3);
  return points;
}

bool lies_in(const Contour& inner, const Contour& outer) {
  constexpr std::size_t most_places = 3;
  const std::size_t n = inner.segments.size(), places = std::min(n, most_places);
  std::size_t in = 0;
  for (std::size_t k = 0; k < places; ++k)
    in += winding_number({{outer}}, inner.segments[k * n / places].at(0.5)) != 0 ? 1 : 0;
  return 2 * in > places;
}

namespace {

// Of a segment flattened; only one that comes near needs it.
int winding_of(const Segment& s, Point p, double tolerance) {
  const Box box = s.control_box();
  if (box.x1 < p.x || box.y1 < p.y || box.y0 > p.y)
    return 0;
  if (box.x0 > p.x) // all of it lies to the right: its ends decide
    return s.p0.y <= p.y && s.p3.y > p.y ? 1 : s.p0.y > p.y && s.p3.y <= p.y ? -1 : 0;
  const int n = s.flat_steps(tolerance);
  int winding = 0;
  Point before = s.p0;
  for (int i = 1; i <= n; ++i) {
    const Point here = i == n ? s.p3 : s.at(static_cast<double>(i) / n);
    winding += winding_of(before, here, p);
    before = here;
  }
  return winding;
}

} // namespace

int winding_number(const Outline& outline, Point p, double tolerance) {
  int winding = 0;
  for (const Contour& contour : outline.contours) {
    for (const Segment& s : contour.segments)
      winding += winding_of(s, p, tolerance);
    if (!contour.segments.empty()) // open ones are closed by a line
      winding += winding_of(contour.segments.back().p3, contour.segments.front().p0, p);
  }
  return winding;
}

Contour circle_contour(Point centre, double radius) {
  Contour c;
  c.segments = arc_cubics(centre, radius, radius, 0, -pi / 2, 2 * pi, default_arc_tolerance);
  c.segments.back().p3 = c.segments.front().p0;
  return c;
}

} // namespace frelm
