// A cluster of outlines flattened to integer edges that remember which source segment, and which stretch of it, each
// one is. Used by weld to give the edges of Clipper's answer back to their curves.
#pragma once

#include "geom/clipper_adapter.h"
#include "geom/outline.h"

#include <cstdint>
#include <span>
#include <vector>

namespace frelm {

// An integer edge of a flattened segment: source(t0) → source(t1).
struct FlatEdge {
  std::uint32_t segment = 0;
  double t0 = 0, t1 = 0;
  GridPoint a, b;
  std::uint32_t previous = 0; // the edge before it on the contour
};

// A boundary edge runs along `segment` from parameter t0 to t1; forward when t grows.
struct EdgeLabel {
  std::uint32_t segment = 0;
  bool forward = true;
  double t0 = 0, t1 = 0;
};

// A shape to be flattened; `close`: of its segments, contour after contour, those that need the fine flattening, the
// others take the coarse one (mm; geom/sound). Nothing: all are fine.
struct ClipShape {
  const Outline* outline = nullptr;
  const std::vector<bool>* close = nullptr;
  double coarse = 0;
};

class FlatCluster {
public:
  FlatCluster(const std::vector<ClipShape>& shapes, double flattening);

  const std::vector<Segment>& segments() const { return segments_; }
  bool coarse(std::uint32_t segment) const { return coarse_[segment]; }
  const std::vector<GridPolygon>& polygons() const { return polygons_; }
  // How many polygons the first `shapes` shapes gave.
  std::size_t polygons_of_first(std::size_t shapes) const {
    return shapes < first_polygon_.size() ? first_polygon_[shapes] : polygons_.size();
  }
  // Every source edge that p → q lies on, within 1.5 units at both ends. Empty only for an edge that came from
  // nowhere.
  // Appended to out.
  void append_labels(GridPoint p, GridPoint q, std::vector<EdgeLabel>& out) const;

private:
  struct Vertex {
    GridPoint p;
    std::uint32_t edge = 0; // the edge that starts here
  };
  void add_contour(const Contour& contour, const ClipShape& shape, std::size_t first, double flattening);
  void build_grid() const;
  void try_edge(std::uint32_t e, GridPoint p, GridPoint q, std::size_t first, std::vector<EdgeLabel>& out) const;
  std::span<const Vertex> vertices_at(GridPoint at) const;
  void try_vertex_edges(std::span<const Vertex> at, GridPoint p, GridPoint q, std::size_t first,
                        std::vector<EdgeLabel>& out) const;
  std::size_t cell_of(double x, double y) const;

  std::vector<Segment> segments_;
  std::vector<bool> coarse_;
  std::vector<FlatEdge> edges_;
  std::vector<GridPolygon> polygons_;
  std::vector<std::size_t> first_polygon_; // of each shape
  std::vector<Vertex> vertices_;           // sorted by point
  mutable std::span<const Vertex> last_found_;
  // Grid of edges for boundary edges between two crossings; made when the first of them is met.
  mutable Box area_;
  mutable std::size_t columns_ = 1, rows_ = 1;
  mutable std::vector<std::vector<std::uint32_t>> cells_;
};

inline GridPoint to_grid(Point p) {
  return {static_cast<std::int64_t>(std::llround(p.x * clipper_units_per_mm)),
          static_cast<std::int64_t>(std::llround(p.y * clipper_units_per_mm))};
}
inline Point from_grid(GridPoint p) {
  return {static_cast<double>(p.x) / clipper_units_per_mm, static_cast<double>(p.y) / clipper_units_per_mm};
}

} // namespace frelm
