// Outlines: what a knife follows. An Outline is a list of contours of lines and cubics with nonzero fill.
//
// mm, y down. A contour's segments join end to start exactly (equal doubles); a closed contour's last segment ends
// exactly where its first begins. Positive area = clockwise on screen. An empty outline is a valid value.
#pragma once

#include "geom/point.h"

#include <cstddef>
#include <vector>

namespace frelm {

enum class SegmentKind { Line, Cubic };

// One piece of a contour. For a line p1 and p2 stand at its thirds, so that every formula for cubics holds for it.
struct Segment {
  Point p0, p1, p2, p3;
  SegmentKind kind = SegmentKind::Cubic;
  // A line is its ends: where its thirds stand is rounding.
  bool operator==(const Segment& o) const {
    return kind == o.kind && p0 == o.p0 && p3 == o.p3 && (kind == SegmentKind::Line || (p1 == o.p1 && p2 == o.p2));
  }

  static Segment line(Point from, Point to) {
    return {from, lerp(from, to, 1.0 / 3), lerp(from, to, 2.0 / 3), to, SegmentKind::Line};
  }
  static Segment cubic(Point a, Point b, Point c, Point d) { return {a, b, c, d, SegmentKind::Cubic}; }
  // The quadratic a, b, c as the cubic that is exactly the same curve.
  static Segment quadratic(Point a, Point b, Point c) {
    return {a, a + (b - a) * (2.0 / 3), c + (b - c) * (2.0 / 3), c, SegmentKind::Cubic};
  }

  bool is_line() const { return kind == SegmentKind::Line; }
  Point at(double t) const;       // t in [0, 1]; exact at both ends
  Vec derivative(double t) const; // d/dt, mm
  Vec second(double t) const;     // d²/dt², mm
  // Unit tangent at an end; where handles coincide with the end the next control point decides.
  Vec start_tangent() const;
  Vec end_tangent() const;
  // The part from t0 to t1 (t0 > t1 gives it reversed), by blossoming: the same curve, not an approximation.
  Segment part(double t0, double t1) const;
  Segment reversed() const { return {p3, p2, p1, p0, kind}; }
  Segment transformed(const Affine& m) const { return {m(p0), m(p1), m(p2), m(p3), kind}; }
  Box control_box() const;
  Box bounds() const;  // exact extremes
  double area() const; // ½∮(x dy − y dx) of this piece, mm²
  // Pieces for which the polyline through equal steps of t stays within tolerance (mm) of the curve.
  int flat_steps(double tolerance) const;
};

inline bool all_finite(const Segment& s) {
  return finite(s.p0) && finite(s.p1) && finite(s.p2) && finite(s.p3);
}

struct Contour {
  std::vector<Segment> segments;
  bool closed = true;
  bool operator==(const Contour&) const = default;

  double area() const;
  double length() const; // within 1e-6 relative
  Box bounds() const;
  Contour reversed() const;
};

struct Outline {
  std::vector<Contour> contours;
  bool operator==(const Outline&) const = default;

  bool empty() const { return contours.empty(); }
  double area() const; // signed sum over contours
  double length() const;
  Box bounds() const;             // exact; empty box for an empty outline
  std::size_t node_count() const; // segments, plus one for each open contour
  Outline transformed(const Affine& m) const;
  void append(const Outline& other);
  // Every contour reversed where the signed areas add up to less than nothing.
  void make_area_positive();
};

// What can be filled, and what is only a line.
struct OutlineParts {
  Outline closed, open;
};
OutlineParts parts_of(const Outline& outline);

// What it holds in memory, bytes.
std::size_t bytes_of(const Outline& outline);

// Points of the closed or open polyline within tolerance (mm) of the contour; the closing point is not repeated.
std::vector<Point> flatten(const Contour& contour, double tolerance);

// How often the outline winds around p (nonzero = inside), contours flattened within tolerance.
int winding_number(const Outline& outline, Point p, double tolerance = 0.001);

// Whether most of a contour's places lie in the area of another one, which it may touch at some but not cross.
bool lies_in(const Contour& inner, const Contour& outer);

// Transformed, and every closed contour reversed where that turns it over: outer ones keep their positive area.
Outline turned_over(const Outline& outline, const Affine& m);

// A full circle of cubics, clockwise on screen from its top, within 0.0005 mm of the true circle.
Contour circle_contour(Point centre, double radius);

} // namespace frelm
