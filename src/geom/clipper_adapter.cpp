#include "geom/clipper_adapter.h"

#include <polyclipping/clipper.hpp>

namespace frelm {

Result<std::vector<GridPolygon>> union_polygons(const std::vector<GridPolygon>& polygons) {
  try {
    ClipperLib::Clipper clipper(ClipperLib::ioPreserveCollinear);
    ClipperLib::Path path;
    for (const GridPolygon& polygon : polygons) {
      path.clear();
      for (const GridPoint p : polygon)
        path.emplace_back(p.x, p.y);
      clipper.AddPath(path, ClipperLib::ptSubject, true);
    }
    ClipperLib::Paths solution;
    if (!clipper.Execute(ClipperLib::ctUnion, solution, ClipperLib::pftNonZero, ClipperLib::pftNonZero))
      return Error{ErrorCode::Internal, "the polygons could not be united; move one of the shapes a little", "weld"};
    std::vector<GridPolygon> out;
    out.reserve(solution.size());
    for (const ClipperLib::Path& ring : solution) {
      GridPolygon& polygon = out.emplace_back();
      polygon.reserve(ring.size());
      for (const ClipperLib::IntPoint& p : ring)
        polygon.push_back({p.X, p.Y});
    }
    return out;
  } catch (const std::exception& e) {
    return Error{ErrorCode::Internal, std::string("the polygons could not be united: ") + e.what(), "weld"};
  }
}

} // namespace frelm
