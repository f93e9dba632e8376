// The outline is flattened; nearness by chords, inside by winding.
#include "geom/free_circle.h"

#include "geom/along.h"
#include "geom/area_centre.h"

#include <queue>

namespace frelm {
namespace {

struct Chord {
  Point a, b;
};

// Positive inside.
double signed_distance(const std::vector<Chord>& chords, Point p) {
  double nearest = std::numeric_limits<double>::infinity();
  int winding = 0;
  for (const Chord& c : chords) {
    nearest = std::min(nearest, distance_to_chord(c.a, c.b, p));
    if ((c.a.y <= p.y) != (c.b.y <= p.y)) { // crosses the level through p: to its right?
      const double x = c.a.x + (p.y - c.a.y) / (c.b.y - c.a.y) * (c.b.x - c.a.x);
      if (x > p.x)
        winding += c.b.y > c.a.y ? 1 : -1;
    }
  }
  return winding != 0 ? nearest : -nearest;
}

struct Cell {
  Point centre;
  double half = 0, from_edge = 0;
  double rank = 0; // the largest comes first
  double reach() const { return half * std::sqrt(2.0); }
  bool operator<(const Cell& other) const { return rank < other.rank; }
};

class Search {
public:
  Search(std::vector<Chord> chords, const Box& box) : chords_(std::move(chords)), box_(box) {}

  // rank(cell): how good its best place can be. found(cell): true ends the search. Cells that rank below `least()` go.
  template <class Rank, class Found, class Least>
  void run(const Rank& rank, const Found& found, const Least& least) const {
    std::priority_queue<Cell> cells;
    const auto add = [&](Point centre, double half) {
      Cell cell{centre, half, signed_distance(chords_, centre), 0};
      cell.rank = rank(cell);
      if (cell.rank > least())
        cells.push(cell);
    };
    constexpr double most_each_way = 64; // squares over the box, none much larger than it is narrow
    const double side = std::min(box_.width(), box_.height()), longer = std::max(box_.width(), box_.height());
    const double half = std::max(side, longer / most_each_way) / 2;
    for (double x = box_.x0 + half; x - half < box_.x1; x += 2 * half)
      for (double y = box_.y0 + half; y - half < box_.y1; y += 2 * half)
        add({x, y}, half);
    constexpr int most_cells = 20'000;
    for (int i = 0; i < most_cells && !cells.empty() && cells.top().rank > least(); ++i) {
      const Cell cell = cells.top();
      cells.pop();
      if (found(cell))
        return;
      const double h = cell.half / 2;
      for (const Vec way : {Vec{-h, -h}, Vec{h, -h}, Vec{-h, h}, Vec{h, h}})
        add(cell.centre + way, h);
    }
  }

private:
  std::vector<Chord> chords_;
  Box box_;
};

} // namespace

std::optional<FreeCircle> free_circle(const Outline& outline) {
  constexpr double fine = 1e-4; // of the shorter side, for flattening
  const Box bounds = outline.bounds();
  const double side = std::min(bounds.width(), bounds.height());
  if (!(side > 0))
    return std::nullopt;
  std::vector<Chord> chords;
  for (const Contour& c : outline.contours) {
    if (!c.closed)
      continue;
    const std::vector<Point> points = flatten(c, fine * side);
    for (std::size_t i = 0; i < points.size(); ++i)
      chords.push_back({points[i], points[(i + 1) % points.size()]});
  }
  const Search search(std::move(chords), bounds);
  FreeCircle most;
  constexpr double near_enough = 0.005; // of the radius
  search.run([](const Cell& c) { return c.from_edge + c.reach(); },
             [&](const Cell& c) {
               if (c.from_edge > most.radius)
                 most = {c.centre, c.from_edge};
               return false;
             },
             [&] { return most.radius * (1 + near_enough); });
  if (!(most.radius > 0))
    return std::nullopt;
  // The nearest to the middle that has nearly as much room.
  constexpr double nearly = 0.99;
  const Point middle = area_centre(outline).value_or(bounds.centre());
  FreeCircle best = most;
  double nearest = distance(most.centre, middle);
  search.run(
      [&](const Cell& c) {
        return c.from_edge + c.reach() < nearly * most.radius ? -std::numeric_limits<double>::infinity()
                                                              : c.reach() - distance(c.centre, middle);
      },
      [&](const Cell& c) {
        if (c.from_edge >= nearly * most.radius && distance(c.centre, middle) < nearest)
          best = {c.centre, c.from_edge}, nearest = distance(c.centre, middle);
        return false;
      },
      [&] { return -nearest + near_enough * most.radius; });
  return best;
}

} // namespace frelm
