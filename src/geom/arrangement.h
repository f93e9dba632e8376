// What drawn curves make of the plane: their crossings, the stretches between them, the faces around places. For
// cutting a stretch out of a line and for taking the space that several lines enclose.
//
// mm, y down. Open and closed contours of any number of outlines, however they cross, touch or run along each other.
// Bounds: crossings as in geom/crossings.h; ends nearer than 0.002 mm are one vertex. Faces are closed with equal
// doubles; their segments are stretches of the source's curves, ends moved to the vertices. Cost: pairs of segments
// whose boxes touch, found by a sweep.
#pragma once

#include "geom/outline.h"
#include "geom/result.h"

#include <optional>
#include <stop_token>
#include <vector>

namespace frelm {

// A place on one of the outlines.
struct CurveAt {
  std::size_t outline = 0, contour = 0, segment = 0;
  double t = 0;
  bool operator==(const CurveAt&) const = default;
};

// What lies between two crossings (or ends) of one contour; a contour that nothing crosses is a stretch of its own.
struct ArrangedStretch {
  Contour curve; // in the contour's own direction; closed when it is a whole closed contour
  CurveAt from, to;
  bool whole = false; // all of its contour
};

class Arrangement {
public:
  Arrangement() = default; // of nothing
  // Errors: coordinates that are not finite, Cancelled.
  static Result<Arrangement> build(const std::vector<Outline>& outlines, std::stop_token stop = {});

  // Places where more than two ends of stretches meet.
  const std::vector<Point>& crossings() const { return crossings_; }
  // Ends of lines that meet no other line.
  std::vector<Point> loose_ends() const;
  // The stretch nearest to p; nothing without curves.
  std::optional<ArrangedStretch> stretch_at(Point p) const;
  // The face around p: its outer contour of positive area, islands in it as contours of negative area; lines that end
  // inside it don't count. Nothing where p is in the open.
  std::optional<Outline> face_at(Point p) const;

private:
  struct Edge {
    Segment curve;
    std::size_t from = 0, to = 0; // vertices
    CurveAt start;
    double t_end = 0;
  };
  struct Cycle {
    std::vector<std::size_t> halves; // half-edge 2e runs along edge e, 2e + 1 back
    double area = 0;
    Box box;
    std::size_t component = 0;
    Contour contour;
  };
  struct Chain { // the edges of one contour in order
    std::size_t first = 0, count = 0;
    bool closed = false;
  };
  using Leaving = std::vector<std::vector<std::pair<double, std::size_t>>>; // of each vertex: angle, half-edge
  void make_cycles();
  Point place_along(std::size_t half, double far, const Leaving& leaving) const;
  void tell_apart(std::vector<std::pair<double, std::size_t>>& around, const Leaving& leaving) const;
  std::vector<std::size_t> components() const;
  Segment half_curve(std::size_t half) const;
  std::size_t half_from(std::size_t half) const { return half % 2 == 0 ? edges_[half / 2].from : edges_[half / 2].to; }
  std::size_t half_to(std::size_t half) const { return half_from(half ^ 1); }
  const Cycle* innermost(Point p, std::size_t not_component) const;

  std::vector<Point> vertices_;
  std::vector<std::size_t> degree_;
  std::vector<Edge> edges_;
  std::vector<Chain> chains_;
  std::vector<Cycle> cycles_;
  std::vector<Point> crossings_;
};

} // namespace frelm
