#include "reference/geos_gap.h"

#include "reference/geos_tools.h"

#include <optional>

namespace frelm::test {
namespace {

constexpr double flattening = 0.001;           // mm
constexpr double flattening_of_joins = 0.0001; // mm: they may be as shallow as 0.03 mm

// The outline in the view, y up.
Outline seen(const Outline& o, const GapView& v) {
  const Vec x = v.along, y = up_of(v.along);
  const Affine turn{x.x, y.x, x.y, y.y, -dot(v.base, x), -dot(v.base, y)};
  return o.transformed(turn);
}

struct Extent {
  double from, to;
};
std::optional<Extent> x_extent(GEOSContextHandle_t h, const GEOSGeometry* g) {
  if (GEOSisEmpty_r(h, g) == 1)
    return std::nullopt;
  Extent e{};
  GEOSGeom_getXMin_r(h, g, &e.from);
  GEOSGeom_getXMax_r(h, g, &e.to);
  return e;
}

class Letter {
public:
  Letter(GEOSContextHandle_t h, const Outline& o, double within = flattening)
      : h_(h), area_(geometry_of(h, {o}, within)) {
    GEOSGeom_getXMin_r(h_, area_, &all_.from);
    GEOSGeom_getXMax_r(h_, area_, &all_.to);
  }
  ~Letter() { GEOSGeom_destroy_r(h_, area_); }
  Letter(const Letter&) = delete;
  Letter& operator=(const Letter&) = delete;

  Extent whole() const { return all_; }
  std::optional<Extent> within(double low, double high) const {
    GEOSGeometry* band = checked(GEOSGeom_createRectangle_r(h_, all_.from - 1, low, all_.to + 1, high));
    return cut_by(band);
  }
  std::optional<Extent> at(double y) const {
    GEOSCoordSequence* seq = GEOSCoordSeq_create_r(h_, 2, 2);
    GEOSCoordSeq_setXY_r(h_, seq, 0, all_.from - 1, y);
    GEOSCoordSeq_setXY_r(h_, seq, 1, all_.to + 1, y);
    return cut_by(checked(GEOSGeom_createLineString_r(h_, seq)));
  }

private:
  std::optional<Extent> cut_by(GEOSGeometry* knife) const {
    GEOSGeometry* part = checked(GEOSIntersection_r(h_, area_, knife));
    const std::optional<Extent> out = x_extent(h_, part);
    GEOSGeom_destroy_r(h_, part);
    GEOSGeom_destroy_r(h_, knife);
    return out;
  }
  GEOSContextHandle_t h_;
  GEOSGeometry* area_;
  Extent all_{};
};

} // namespace

double geos_optical_gap(const Outline& left, const Outline& right, const GapView& view, double retreat, int cuts) {
  const GeosContext context;
  const Letter a(context.h, seen(left, view)), b(context.h, seen(right, view));
  const double right_most = a.within(view.low, view.high).value_or(a.whole()).to,
               left_most = b.within(view.low, view.high).value_or(b.whole()).from;
  double sum = 0;
  for (int i = 0; i < cuts; ++i) {
    const double y = view.low + (view.high - view.low) * (i + 0.5) / cuts;
    const std::optional<Extent> in_a = a.at(y), in_b = b.at(y);
    const double from = in_a ? std::max(in_a->to, right_most - retreat) : right_most - retreat,
                 to = in_b ? std::min(in_b->from, left_most + retreat) : left_most + retreat;
    sum += to - from;
  }
  return sum / cuts;
}

double geos_deepest_reach(const Outline& left, const Outline& right, const GapView& view, int cuts) {
  const GeosContext context;
  const Letter a(context.h, seen(left, view), flattening_of_joins),
      b(context.h, seen(right, view), flattening_of_joins);
  double best = -1e9;
  for (int i = 0; i < cuts; ++i) {
    const double y = view.low + (view.high - view.low) * (i + 0.5) / cuts;
    if (const std::optional<Extent> in_a = a.at(y), in_b = b.at(y); in_a && in_b)
      best = std::max(best, in_a->to - in_b->from);
  }
  return best;
}

double geos_distance(const Outline& a, const Outline& b) {
  const GeosContext context;
  GEOSGeometry* ga = geometry_of(context.h, {a}, flattening);
  GEOSGeometry* gb = geometry_of(context.h, {b}, flattening);
  double d = 0;
  GEOSDistance_r(context.h, ga, gb, &d);
  GEOSGeom_destroy_r(context.h, ga);
  GEOSGeom_destroy_r(context.h, gb);
  return d;
}

Box geos_overlap(const Outline& a, const Outline& b, const GapView& view) {
  const GeosContext context;
  GEOSContextHandle_t h = context.h;
  GEOSGeometry* ga = geometry_of(h, {seen(a, view)}, flattening_of_joins);
  GEOSGeometry* gb = geometry_of(h, {seen(b, view)}, flattening_of_joins);
  GEOSGeometry* both = checked(GEOSIntersection_r(h, ga, gb));
  Box box;
  double largest = 0;
  for (int i = 0; i < GEOSGetNumGeometries_r(h, both); ++i) {
    const GEOSGeometry* part = GEOSGetGeometryN_r(h, both, i);
    double area = 0;
    GEOSArea_r(h, part, &area);
    if (area <= largest)
      continue;
    largest = area;
    GEOSGeom_getXMin_r(h, part, &box.x0);
    GEOSGeom_getXMax_r(h, part, &box.x1);
    GEOSGeom_getYMin_r(h, part, &box.y0);
    GEOSGeom_getYMax_r(h, part, &box.y1);
  }
  for (GEOSGeometry* g : {ga, gb, both})
    GEOSGeom_destroy_r(h, g);
  return box;
}

} // namespace frelm::test
