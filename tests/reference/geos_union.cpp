#include "reference/geos_union.h"

#include "reference/geos_tools.h"

namespace frelm::test {
namespace {

void collect(GEOSContextHandle_t h, const GEOSGeometry* g, std::vector<Ring>& out) {
  const auto add = [&](const GEOSGeometry* line, bool outer) {
    const GEOSCoordSequence* seq = GEOSGeom_getCoordSeq_r(h, line);
    unsigned n = 0;
    GEOSCoordSeq_getSize_r(h, seq, &n);
    Ring ring;
    for (unsigned i = 0; i + 1 < n; ++i) {
      Point p;
      GEOSCoordSeq_getX_r(h, seq, i, &p.x);
      GEOSCoordSeq_getY_r(h, seq, i, &p.y);
      ring.push_back(p);
    }
    if ((ring_area(ring) > 0) != outer)
      std::reverse(ring.begin(), ring.end());
    out.push_back(std::move(ring));
  };
  if (GEOSGeomTypeId_r(h, g) == GEOS_POLYGON) {
    if (GEOSisEmpty_r(h, g) == 1)
      return;
    add(GEOSGetExteriorRing_r(h, g), true);
    for (int i = 0; i < GEOSGetNumInteriorRings_r(h, g); ++i)
      add(GEOSGetInteriorRingN_r(h, g, i), false);
    return;
  }
  for (int i = 0; i < GEOSGetNumGeometries_r(h, g); ++i)
    if (const GEOSGeometry* part = GEOSGetGeometryN_r(h, g, i); part != g)
      collect(h, part, out);
}

} // namespace

std::vector<Ring> rings_of_area(GEOSContextHandle_t h, const GEOSGeometry* area) {
  std::vector<Ring> out;
  collect(h, area, out);
  return out;
}

std::vector<Ring> geos_union(const std::vector<Outline>& shapes, double flattening) {
  const GeosContext context;
  GEOSGeometry* united = geometry_of(context.h, shapes, flattening);
  std::vector<Ring> out;
  collect(context.h, united, out);
  GEOSGeom_destroy_r(context.h, united);
  return out;
}

std::vector<Ring> geos_combine(char op, const std::vector<Outline>& a, const std::vector<Outline>& b, double flattening,
                               double grown) {
  const GeosContext context;
  const GEOSContextHandle_t h = context.h;
  GEOSGeometry *first = geometry_of(h, a, flattening), *second = geometry_of(h, b, flattening);
  if (grown != 0) {
    GEOSGeometry* buffered = checked(GEOSBuffer_r(h, second, grown, 4));
    GEOSGeom_destroy_r(h, second);
    second = buffered;
  }
  GEOSGeometry* done = checked(op == 'u'   ? GEOSUnion_r(h, first, second)
                               : op == 'd' ? GEOSDifference_r(h, first, second)
                               : op == 'i' ? GEOSIntersection_r(h, first, second)
                                           : GEOSSymDifference_r(h, first, second));
  std::vector<Ring> out;
  collect(h, done, out);
  for (GEOSGeometry* g : {first, second, done})
    GEOSGeom_destroy_r(h, g);
  return out;
}

std::vector<Ring> geos_buffer(const std::vector<Outline>& shapes, double d, double flattening) {
  const GeosContext context;
  GEOSGeometry* united = geometry_of(context.h, shapes, flattening);
  const double step = 2 * std::acos(1 - std::min(flattening / std::max(std::abs(d), 1e-9), 1.0));
  const int quadrant = std::max(2, static_cast<int>(std::ceil(pi / 2 / step)));
  GEOSGeometry* grown = checked(GEOSBuffer_r(context.h, united, d, quadrant));
  std::vector<Ring> out;
  collect(context.h, grown, out);
  GEOSGeom_destroy_r(context.h, united);
  GEOSGeom_destroy_r(context.h, grown);
  return out;
}

} // namespace frelm::test
