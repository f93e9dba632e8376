#include "geom/clipper_adapter.h"

#include <polyclipping/clipper.hpp>
#include <unordered_map>

namespace frelm {
namespace {

struct PointHash {
  std::size_t operator()(const ClipperLib::IntPoint& p) const {
    return static_cast<std::size_t>(p.X) * 0x9e3779b97f4a7c15ULL ^ static_cast<std::size_t>(p.Y) * 0xc2b2ae3d27d4eb4fULL;
  }
};

// Clipper may join areas that only touch at a point into one ring that passes it twice: taken apart there, so that
// every ring is simple up to touching others.
void append_simple(const ClipperLib::Path& ring, std::vector<GridPolygon>& out) {
  std::unordered_map<ClipperLib::IntPoint, std::size_t, PointHash> seen; // place on the path so far
  seen.reserve(ring.size());
  GridPolygon path;
  const auto close = [&](std::size_t from) {
    if (path.size() - from >= 3)
      out.emplace_back(path.begin() + static_cast<std::ptrdiff_t>(from), path.end());
  };
  for (const ClipperLib::IntPoint& p : ring) {
    if (const auto it = seen.find(p); it != seen.end()) {
      const std::size_t from = it->second;
      close(from);
      for (std::size_t i = from + 1; i < path.size(); ++i)
        seen.erase(ClipperLib::IntPoint(path[i].x, path[i].y));
      path.resize(from + 1);
      continue;
    }
    seen.emplace(p, path.size());
    path.push_back({p.X, p.Y});
  }
  close(0);
}

} // namespace

Result<std::vector<GridPolygon>> clip_polygons(BooleanOp op, FillRule rule, const std::vector<GridPolygon>& polygons,
                                               std::size_t subjects) {
  constexpr ClipperLib::ClipType types[] = {ClipperLib::ctUnion, ClipperLib::ctDifference, ClipperLib::ctIntersection,
                                            ClipperLib::ctXor};
  const ClipperLib::PolyFillType fill = rule == FillRule::Nonzero ? ClipperLib::pftNonZero : ClipperLib::pftEvenOdd;
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
      return Error{ErrorCode::Internal, "the polygons could not be united; move one of the shapes a little", "weld"};
    std::vector<GridPolygon> out;
    out.reserve(solution.size());
    for (const ClipperLib::Path& ring : solution)
      append_simple(ring, out);
    return out;
  } catch (const std::exception& e) {
    return Error{ErrorCode::Internal, std::string("the polygons could not be united: ") + e.what(), "weld"};
  }
}

} // namespace frelm
