#include "geom/clipper_adapter.h"

#include <optional>
#include <polyclipping/clipper.hpp>
#include <unordered_map>

namespace frelm {
namespace {

constexpr std::int64_t cell = 4;      // units
constexpr std::int64_t same_spot = 2; // units: two roundings of one crossing

struct Cell {
  std::int64_t x, y;
  bool operator==(const Cell&) const = default;
};
struct CellHash {
  std::size_t operator()(const Cell& c) const {
    return static_cast<std::size_t>(c.x) * 0x9e3779b97f4a7c15ULL ^
           static_cast<std::size_t>(c.y) * 0xc2b2ae3d27d4eb4fULL;
  }
};

// Does the ring come by one spot twice, other than from one vertex to the next or the one after? A quick look: vertices
// are hashed by squares so wide that most lie in the middle of one.
class SpotFinder {
public:
  bool twice(const ClipperLib::Path& ring) {
    std::size_t size = 16;
    while (size < 2 * ring.size())
      size *= 2;
    table_.assign(size, 0);
    for (std::size_t i = 0; i < ring.size(); ++i) {
      const std::int64_t x = ring[i].X, y = ring[i].Y;
      for (std::int64_t cx = (x - same_spot) >> wide; cx <= (x + same_spot) >> wide; ++cx)
        for (std::int64_t cy = (y - same_spot) >> wide; cy <= (y + same_spot) >> wide; ++cy)
          for (std::size_t at = slot(cx, cy); table_[at] != 0; at = (at + 1) & (size - 1)) {
            const std::size_t k = table_[at] - 1, apart = i - k;
            if (std::abs(ring[k].X - x) <= same_spot && std::abs(ring[k].Y - y) <= same_spot &&
                std::min(apart, ring.size() - apart) > 2)
              return true;
          }
      std::size_t at = slot(x >> wide, y >> wide);
      while (table_[at] != 0)
        at = (at + 1) & (size - 1);
      table_[at] = static_cast<std::uint32_t>(i) + 1;
    }
    return false;
  }

private:
  static constexpr int wide = 5; // a square is 32 units wide
  std::size_t slot(std::int64_t cx, std::int64_t cy) const {
    return (CellHash{}({cx, cy}) >> 20) & (table_.size() - 1);
  }
  std::vector<std::uint32_t> table_; // vertex + 1
};

// Clipper may join areas that only touch at a point into one ring that passes it twice, the two passes rounded apart by
// a unit or so. Taken apart there, so that every ring is simple up to touching others.
void append_simple(const ClipperLib::Path& ring, std::vector<GridPolygon>& out) {
  std::unordered_multimap<Cell, std::size_t, CellHash> seen; // place on the path so far
  seen.reserve(ring.size());
  GridPolygon path;
  const auto cell_of = [](GridPoint p) { return Cell{p.x / cell, p.y / cell}; };
  const auto close = [&](std::size_t from) {
    if (path.size() - from >= 3)
      out.emplace_back(path.begin() + static_cast<std::ptrdiff_t>(from), path.end());
  };
  // The earliest place at this spot that is not a direct neighbour on the path.
  const auto met = [&](GridPoint p) -> std::optional<std::size_t> {
    const Cell at = cell_of(p);
    std::optional<std::size_t> best;
    for (std::int64_t x = at.x - 1; x <= at.x + 1; ++x)
      for (std::int64_t y = at.y - 1; y <= at.y + 1; ++y)
        for (auto [it, end] = seen.equal_range({x, y}); it != end; ++it) {
          const GridPoint q = path[it->second];
          if (std::abs(q.x - p.x) <= same_spot && std::abs(q.y - p.y) <= same_spot && it->second + 2 < path.size() &&
              (!best || it->second < *best))
            best = it->second;
        }
    return best;
  };
  for (const ClipperLib::IntPoint& point : ring) {
    const GridPoint p{point.X, point.Y};
    if (const auto from = met(p)) {
      close(*from);
      for (std::size_t i = *from + 1; i < path.size(); ++i)
        for (auto [it, end] = seen.equal_range(cell_of(path[i])); it != end; ++it)
          if (it->second == i) {
            seen.erase(it);
            break;
          }
      path.resize(*from + 1);
      continue;
    }
    seen.emplace(cell_of(p), path.size());
    path.push_back(p);
  }
  close(0);
}

} // namespace

Result<std::vector<GridPolygon>> clip_polygons(BooleanOp op, FillRule rule, const std::vector<GridPolygon>& polygons,
                                               std::size_t subjects) {
  constexpr ClipperLib::ClipType types[] = {ClipperLib::ctUnion, ClipperLib::ctDifference, ClipperLib::ctIntersection,
                                            ClipperLib::ctXor};
  constexpr ClipperLib::PolyFillType fills[] = {ClipperLib::pftNonZero, ClipperLib::pftEvenOdd,
                                                ClipperLib::pftPositive};
  const ClipperLib::PolyFillType fill = fills[static_cast<std::size_t>(rule)];
  try {
    ClipperLib::Clipper clipper(ClipperLib::ioPreserveCollinear);
    ClipperLib::Path path;
    for (std::size_t i = 0; i < polygons.size(); ++i) {
      path.clear();
      for (const GridPoint p : polygons[i])
        path.emplace_back(p.x, p.y);
      clipper.AddPath(path, i < subjects ? ClipperLib::ptSubject : ClipperLib::ptClip, true);
    }
    ClipperLib::Paths solution;
    if (!clipper.Execute(types[static_cast<std::size_t>(op)], solution, fill, fill))
      return Error{ErrorCode::Internal,
                   FRELM_WORDS("core", "the polygons could not be united; move one of the shapes a little"),
                   FRELM_WORDS("core", "weld")};
    std::vector<GridPolygon> out;
    out.reserve(solution.size());
    SpotFinder spots;
    for (const ClipperLib::Path& ring : solution)
      if (spots.twice(ring)) {
        append_simple(ring, out);
      } else {
        GridPolygon& polygon = out.emplace_back();
        polygon.reserve(ring.size());
        for (const ClipperLib::IntPoint& p : ring)
          polygon.push_back({p.X, p.Y});
      }
    return out;
  } catch (const std::exception& e) {
    return Error{ErrorCode::Internal,
                 say(FRELM_WORDS("core", "the polygons could not be united: %1"), std::string(e.what())),
                 FRELM_WORDS("core", "weld")};
  }
}

std::vector<GridPolygon> minkowski_difference(const GridPolygon& resting, const GridPolygon& moving) {
  const auto path = [](const GridPolygon& p) {
    ClipperLib::Path out;
    for (const GridPoint& q : p)
      out.emplace_back(q.x, q.y);
    return out;
  };
  ClipperLib::Paths made;
  ClipperLib::MinkowskiDiff(path(moving), path(resting), made); // the second less the first
  std::vector<GridPolygon> out;
  for (const ClipperLib::Path& ring : made) {
    GridPolygon& p = out.emplace_back();
    for (const ClipperLib::IntPoint& q : ring)
      p.push_back({q.X, q.Y});
  }
  return out;
}

} // namespace frelm
