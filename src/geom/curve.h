// Curves that letters ride on: position, tangent, curvature and arc length, analytic where a closed form exists.
//
// mm, y down. A Curve is an immutable chain of lines, elliptical arcs, spirals and cubics, parametrised by arc length s
// from its start. Closed curves wrap; beyond an open curve's ends its end tangents go on as straight lines.
// Bounds: arc length 1e-9 relative (closed form for lines, circular arcs and spirals), place from s within 1e-7 mm.
#pragma once

#include "geom/outline.h"

#include <memory>
#include <variant>
#include <vector>

namespace frelm {

// Part of an ellipse. Points: centre + R(turn)·(rx cos a, ry sin a), a from `from` to `from + sweep`; radians.
struct ArcPiece {
  Point centre;
  double rx = 0, ry = 0, turn = 0, from = 0, sweep = 0;
  bool operator==(const ArcPiece&) const = default;
  bool circular() const { return rx == ry; }
};
// Part of an Archimedean spiral: the point at distance r from the centre in direction a, while a goes from `from` to
// `from + sweep` (radians) and r evenly from r_from to r_to (mm, not negative).
struct SpiralPiece {
  Point centre;
  double r_from = 0, r_to = 0, from = 0, sweep = 0;
  bool operator==(const SpiralPiece&) const = default;
};
using CurvePiece = std::variant<Segment, ArcPiece, SpiralPiece>;

struct CurvePlace {
  Point point;
  Vec tangent;          // unit
  double curvature = 0; // 1/mm, positive where the curve turns clockwise on screen
  bool beyond = false;  // past an end of an open curve
};

// Where the direction jumps by more than corner_turn.
struct CurveCorner {
  double s = 0;
  double turn = 0; // radians in (-π, π], positive clockwise on screen
};
// Smaller jumps are drawing noise, not corners.
inline constexpr double corner_turn = 15 * pi / 180;

class Curve {
public:
  // Requires pieces that join end to start; pieces of no length are left out. No pieces: a curve of length 0 at the
  // origin running to the right.
  explicit Curve(std::vector<CurvePiece> pieces = {}, bool closed = false);

  static Curve line(Point from, Point to);
  // Full circle, clockwise on screen, from the angle `start` (radians, 0 = top).
  static Curve circle(Point centre, double radius, double start = 0);

  double length() const { return length_; }
  bool closed() const { return closed_; }
  CurvePlace at(double s) const;
  // Arc length of the place nearest to p (scan of every piece, then golden section; within 1e-6 mm of an optimum).
  double nearest(Point p) const;
  // In order of s; a closed curve's joint at 0 is among them when it is a corner.
  std::vector<CurveCorner> corners() const;
  // Arc lengths of the joints between pieces, both ends of an open curve included.
  std::vector<double> joints() const;
  // The open part from s0 to s1 > s0; on a closed curve s1 may go beyond the length, at most once around.
  Curve part(double s0, double s1) const;
  // Corners replaced by smooth cubics that leave and meet the curve `reach` mm (or a third of the shorter side) from
  // each corner.
  Curve rounded(double reach) const;
  // The area within a closed curve, positive when it runs clockwise on screen, mm².
  double area() const;
  Curve reversed() const;
  Curve transformed_rigidly(double angle, Vec shift) const; // turned about the origin, then moved
  // As outline segments: cubics as they are, arcs within tolerance (mm).
  Contour contour(double tolerance) const;
  const std::vector<CurvePiece>& pieces() const { return pieces_; }
  std::size_t bytes() const { // held in memory
    std::size_t sum = sizeof *this + pieces_.capacity() * sizeof(CurvePiece) + spans_.capacity() * sizeof(Span);
    for (const Span& s : spans_)
      sum += (s.table.capacity() + s.speeds.capacity()) * sizeof(double);
    return sum;
  }

private:
  // The piece s (within the length) falls on, and the parameter on it.
  std::pair<std::size_t, double> parameter(double s) const;
  struct Span { // arc length of one piece up to equally spaced parameters
    double start = 0, length = 0;
    std::vector<double> table;
    std::vector<double> speeds; // d length / d parameter at the same places
  };
  std::vector<CurvePiece> pieces_;
  std::vector<Span> spans_;
  double length_ = 0;
  bool closed_ = false;
};

} // namespace frelm
