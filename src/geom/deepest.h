// How deep a place lies in an area, and the search for the deepest: cells that halve, best first (branch and bound on a
// depth that changes by no more than one moves).
#pragma once

#include "geom/along.h"
#include "geom/outline.h"
#include "geom/winding.h"

#include <queue>

namespace frelm {

// mm from the edge of the area that closed contours fill (nonzero), flattened; positive inside.
class SignedDistance {
public:
  SignedDistance(const Outline& outline, double tolerance) {
    for (const Contour& c : outline.contours) {
      if (!c.closed)
        continue;
      const std::vector<Point> points = flatten(c, tolerance);
      for (std::size_t i = 0; i < points.size(); ++i)
        chords_.push_back({points[i], points[(i + 1) % points.size()]});
    }
  }
  bool empty() const { return chords_.empty(); }
  double operator()(Point p) const {
    double nearest = std::numeric_limits<double>::infinity();
    int winding = 0;
    for (const Chord& c : chords_) {
      nearest = std::min(nearest, distance_to_chord(c.a, c.b, p));
      winding += winding_of(c.a, c.b, p);
    }
    return winding != 0 ? nearest : -nearest;
  }

private:
  struct Chord {
    Point a, b;
  };
  std::vector<Chord> chords_;
};

struct Cell {
  Point centre;
  double half = 0, depth = 0;
  double rank = 0; // the largest comes first
  double reach() const { return half * std::sqrt(2.0); }
  bool operator<(const Cell& other) const { return rank < other.rank; }
};

// depth(place); the box must have a width and a height.
// The best cell comes first, and is parted in four. rank(cell): how good its best place can be. see(cell): each that is
// looked at. Cells that rank no higher than `least()` go.
template <class Depth, class Rank, class See, class Least>
void search_cells(const Box& box, const Depth& depth, const Rank& rank, const See& see, const Least& least) {
  std::priority_queue<Cell> cells;
  const auto add = [&](Point centre, double half) {
    Cell cell{centre, half, depth(centre), 0};
    cell.rank = rank(cell);
    if (cell.rank > least())
      cells.push(cell);
  };
  constexpr double most_each_way = 64; // squares over the box, none much larger than it is narrow
  const double side = std::min(box.width(), box.height()), longer = std::max(box.width(), box.height());
  const double half = std::max(side, longer / most_each_way) / 2;
  for (double x = box.x0 + half; x - half < box.x1; x += 2 * half)
    for (double y = box.y0 + half; y - half < box.y1; y += 2 * half)
      add({x, y}, half);
  constexpr int most_cells = 20'000;
  for (int i = 0; i < most_cells && !cells.empty() && cells.top().rank > least(); ++i) {
    const Cell cell = cells.top();
    cells.pop();
    see(cell);
    const double h = cell.half / 2;
    for (const Vec way : {Vec{-h, -h}, Vec{h, -h}, Vec{-h, h}, Vec{h, h}})
      add(cell.centre + way, h);
  }
}

} // namespace frelm
