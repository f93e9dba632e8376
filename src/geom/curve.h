// Curves that letters ride on: position, tangent, curvature and arc length, analytic where a closed form exists.
//
// mm, y down. A Curve is an immutable chain of lines, elliptical arcs and cubics, parametrised by arc length s from
// its start. Closed curves wrap; beyond an open curve's ends its end tangents go on as straight lines.
// Bounds: arc length 1e-9 relative (closed form for lines and circular arcs), place from s within 1e-7 mm.
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
using CurvePiece = std::variant<Segment, ArcPiece>;

struct CurvePlace {
  Point point;
  Vec tangent;          // unit
  double curvature = 0; // 1/mm, positive where the curve turns clockwise on screen
  bool beyond = false;  // past an end of an open curve
};

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
  // Arc length of the place nearest to p (dense scan, then golden section; within 1e-6 mm of a local optimum).
  double nearest(Point p) const;
  Curve reversed() const;
  Curve transformed_rigidly(double angle, Vec shift) const; // turned about the origin, then moved
  // As outline segments: cubics as they are, arcs within tolerance (mm).
  Contour contour(double tolerance) const;
  const std::vector<CurvePiece>& pieces() const { return pieces_; }

private:
  struct Span { // arc length of one piece up to equally spaced parameters
    double start = 0, length = 0;
    std::vector<double> table;
  };
  std::vector<CurvePiece> pieces_;
  std::vector<Span> spans_;
  double length_ = 0;
  bool closed_ = false;
};

} // namespace frelm
