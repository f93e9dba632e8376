// Points, vectors, affine maps and boxes. Millimetres, x to the right, y down; angles in radians, clockwise on
// screen positive (which is what +y down makes of the usual rotation).
#pragma once

#include <algorithm>
#include <cmath>
#include <limits>

namespace frelm {

inline constexpr double pi = 3.14159265358979323846;

struct Point {
  double x = 0;
  double y = 0;
  bool operator==(const Point&) const = default;
  Point& operator+=(Point o) {
    x += o.x, y += o.y;
    return *this;
  }
};
using Vec = Point; // a difference of points

constexpr Point operator+(Point a, Point b) {
  return {a.x + b.x, a.y + b.y};
}
constexpr Point operator-(Point a, Point b) {
  return {a.x - b.x, a.y - b.y};
}
constexpr Point operator-(Point a) {
  return {-a.x, -a.y};
}
constexpr Point operator*(Point a, double k) {
  return {a.x * k, a.y * k};
}
constexpr Point operator*(double k, Point a) {
  return a * k;
}
constexpr Point operator/(Point a, double k) {
  return {a.x / k, a.y / k};
}
constexpr double dot(Vec a, Vec b) {
  return a.x * b.x + a.y * b.y;
}
constexpr double cross(Vec a, Vec b) {
  return a.x * b.y - a.y * b.x;
}
inline double length(Vec a) {
  return std::sqrt(a.x * a.x + a.y * a.y);
}
inline double distance(Point a, Point b) {
  return length(a - b);
}
constexpr Point lerp(Point a, Point b, double t) {
  return a + (b - a) * t;
}
// The vector scaled to length 1; the zero vector gives (1, 0).
inline Vec unit(Vec a) {
  const double l = length(a);
  return l > 0 ? a / l : Vec{1, 0};
}
// The side the tops of letters point to when they run along the tangent t: (1, 0) gives (0, -1), up on screen.
constexpr Vec up_of(Vec t) {
  return {t.y, -t.x};
}
inline Vec direction(double angle) {
  return {std::cos(angle), std::sin(angle)};
}
constexpr double radians(double degrees) {
  return degrees * pi / 180;
}
constexpr double degrees(double radians) {
  return radians * 180 / pi;
}
// The same angle in (-180, 180].
inline double wrap_degrees(double a) {
  a = std::fmod(a, 360.0);
  if (a > 180)
    a -= 360;
  if (a <= -180)
    a += 360;
  return a;
}
inline bool finite(Point p) {
  return std::isfinite(p.x) && std::isfinite(p.y);
}

// x' = a x + c y + e, y' = b x + d y + f (the order of SVG's matrix()).
struct Affine {
  double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;
  bool operator==(const Affine&) const = default;

  constexpr Point operator()(Point p) const { return {a * p.x + c * p.y + e, b * p.x + d * p.y + f}; }
  constexpr Vec linear(Vec v) const { return {a * v.x + c * v.y, b * v.x + d * v.y}; }
  constexpr double determinant() const { return a * d - b * c; }
  // Of a map whose determinant is not 0.
  constexpr Affine inverse() const {
    const double k = 1 / determinant();
    return {d * k, -b * k, -c * k, a * k, (c * f - d * e) * k, (b * e - a * f) * k};
  }

  static constexpr Affine translation(Vec v) { return {1, 0, 0, 1, v.x, v.y}; }
  static constexpr Affine scaling(double sx, double sy) { return {sx, 0, 0, sy, 0, 0}; }
  static constexpr Affine scaling_about(Point p, double sx, double sy) {
    return {sx, 0, 0, sy, p.x - sx * p.x, p.y - sy * p.y};
  }
  static Affine rotation(double angle) {
    const double c = std::cos(angle), s = std::sin(angle);
    return {c, s, -s, c, 0, 0};
  }
};
// (m * n)(p) = m(n(p)).
constexpr Affine operator*(const Affine& m, const Affine& n) {
  return {m.a * n.a + m.c * n.b, m.b * n.a + m.d * n.b,       m.a * n.c + m.c * n.d,
          m.b * n.c + m.d * n.d, m.a * n.e + m.c * n.f + m.e, m.b * n.e + m.d * n.f + m.f};
}

// Axis-parallel box; empty until a point is added. An empty box has width and height 0.
struct Box {
  double x0 = std::numeric_limits<double>::infinity();
  double y0 = std::numeric_limits<double>::infinity();
  double x1 = -std::numeric_limits<double>::infinity();
  double y1 = -std::numeric_limits<double>::infinity();
  bool operator==(const Box&) const = default;

  bool empty() const { return !(x0 <= x1 && y0 <= y1); }
  double width() const { return empty() ? 0 : x1 - x0; }
  double height() const { return empty() ? 0 : y1 - y0; }
  Point centre() const { return empty() ? Point{} : Point{(x0 + x1) / 2, (y0 + y1) / 2}; }
  void add(Point p) {
    x0 = std::min(x0, p.x), y0 = std::min(y0, p.y);
    x1 = std::max(x1, p.x), y1 = std::max(y1, p.y);
  }
  void add(const Box& b) {
    if (b.empty())
      return;
    add(Point{b.x0, b.y0});
    add(Point{b.x1, b.y1});
  }
  Box grown(double by) const { return empty() ? *this : Box{x0 - by, y0 - by, x1 + by, y1 + by}; }
  bool contains(Point p) const { return p.x >= x0 && p.x <= x1 && p.y >= y0 && p.y <= y1; }
  bool contains(const Box& b) const { return b.empty() || (b.x0 >= x0 && b.x1 <= x1 && b.y0 >= y0 && b.y1 <= y1); }
  bool overlaps(const Box& b) const {
    return !empty() && !b.empty() && x0 <= b.x1 && b.x0 <= x1 && y0 <= b.y1 && b.y0 <= y1;
  }
  // Distance between two boxes, 0 where they overlap.
  double distance_to(const Box& b) const {
    const double dx = std::max({0.0, b.x0 - x1, x0 - b.x1});
    const double dy = std::max({0.0, b.y0 - y1, y0 - b.y1});
    return std::hypot(dx, dy);
  }
};

} // namespace frelm
