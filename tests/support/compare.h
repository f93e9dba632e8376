// Comparers for outlines. They share no code with what they judge beyond points and curve evaluation.
#pragma once

#include "geom/outline.h"

#include <string>
#include <unordered_map>
#include <vector>

namespace frelm::test {

using Ring = std::vector<Point>;

// Closed rings through points at equal parameter steps, within tolerance of the curves.
std::vector<Ring> rings_of(const Outline& outline, double tolerance);
double ring_area(const Ring& ring);
double ring_length(const Ring& ring);
double total_area(const std::vector<Ring>& rings);
double total_length(const std::vector<Ring>& rings);
// Rings whose mean width 2A/L reaches `width`.
std::size_t ring_count(const std::vector<Ring>& rings, double width);

// The distance from points to the nearest boundary edge, with the edges hashed by cell once.
class BoundaryDistance {
public:
  explicit BoundaryDistance(const std::vector<Ring>& rings);
  double operator()(Point p) const;

private:
  std::vector<std::pair<Point, Point>> edges_;
  double cell_ = 1;
  std::unordered_map<long, std::vector<std::size_t>> cells_;
};

// Largest distance of a vertex or edge middle of `from` to the boundary of `to`.
double one_way_distance(const std::vector<Ring>& from, const std::vector<Ring>& to);
// The larger of both ways (Hausdorff distance of the boundaries, up to the sampling of edges).
double boundary_distance(const std::vector<Ring>& a, const std::vector<Ring>& b);

// "" when every contour is closed with equal doubles and joins end to start, else what is wrong.
std::string closed_fault(const Outline& outline);
// Number of joints (an open contour's ends are none) whose tangents differ by more than `degrees`.
std::size_t corner_count(const Outline& outline, double degrees);

} // namespace frelm::test
