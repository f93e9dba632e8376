// A glyph under the nonzero rule: the union of its positive contours, less the union of its negative ones. That is the
// rule itself wherever no point is wound around by more than one positive contour of the same glyph inside a hole,
// which holds for the faces used in the tests.
#include "reference/geos_union.h"

#include <cstdarg>
#include <geos_c.h>
#include <stdexcept>

namespace frelm::test {
namespace {

void silent(const char*, ...) {}

struct Context {
  GEOSContextHandle_t h = GEOS_init_r();
  Context() { GEOSContext_setErrorHandler_r(h, silent); }
  ~Context() { GEOS_finish_r(h); }
};

GEOSGeometry* checked(GEOSGeometry* g) {
  if (g == nullptr)
    throw std::runtime_error("GEOS failed");
  return g;
}

// The union of rings, each repaired first (a ring of a script face may touch itself).
GEOSGeometry* unite_rings(GEOSContextHandle_t h, const std::vector<Ring>& rings) {
  std::vector<GEOSGeometry*> parts;
  for (const Ring& r : rings) {
    Ring clean;
    for (const Point p : r)
      if (clean.empty() || clean.back() != p)
        clean.push_back(p);
    while (clean.size() > 1 && clean.front() == clean.back())
      clean.pop_back();
    if (clean.size() < 3)
      continue;
    const unsigned n = static_cast<unsigned>(clean.size()) + 1;
    GEOSCoordSequence* seq = GEOSCoordSeq_create_r(h, n, 2);
    for (unsigned i = 0; i < n; ++i) {
      GEOSCoordSeq_setX_r(h, seq, i, clean[i % clean.size()].x);
      GEOSCoordSeq_setY_r(h, seq, i, clean[i % clean.size()].y);
    }
    GEOSGeometry* polygon = checked(GEOSGeom_createPolygon_r(h, GEOSGeom_createLinearRing_r(h, seq), nullptr, 0));
    if (GEOSisValid_r(h, polygon) != 1) {
      GEOSGeometry* valid = checked(GEOSBuffer_r(h, polygon, 0, 8));
      GEOSGeom_destroy_r(h, polygon);
      polygon = valid;
    }
    parts.push_back(polygon);
  }
  GEOSGeometry* all = checked(
      GEOSGeom_createCollection_r(h, GEOS_GEOMETRYCOLLECTION, parts.data(), static_cast<unsigned>(parts.size())));
  GEOSGeometry* united = checked(GEOSUnaryUnion_r(h, all));
  GEOSGeom_destroy_r(h, all);
  return united;
}

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

GEOSGeometry* geometry_of(GEOSContextHandle_t h, const std::vector<Outline>& shapes, double flattening) {
  std::vector<GEOSGeometry*> glyphs;
  for (const Outline& shape : shapes) {
    const std::vector<Ring> rings = rings_of(shape, flattening);
    const bool flip = total_area(rings) < 0;
    std::vector<Ring> solid, holes;
    for (const Ring& r : rings)
      ((ring_area(r) > 0) != flip ? solid : holes).push_back(r);
    GEOSGeometry* a = unite_rings(h, solid);
    GEOSGeometry* b = unite_rings(h, holes);
    glyphs.push_back(checked(GEOSDifference_r(h, a, b)));
    GEOSGeom_destroy_r(h, a);
    GEOSGeom_destroy_r(h, b);
  }
  GEOSGeometry* all = checked(
      GEOSGeom_createCollection_r(h, GEOS_GEOMETRYCOLLECTION, glyphs.data(), static_cast<unsigned>(glyphs.size())));
  GEOSGeometry* united = checked(GEOSUnaryUnion_r(h, all));
  GEOSGeom_destroy_r(h, all);
  return united;
}

} // namespace

std::vector<Ring> geos_union(const std::vector<Outline>& shapes, double flattening) {
  const Context context;
  GEOSGeometry* united = geometry_of(context.h, shapes, flattening);
  std::vector<Ring> out;
  collect(context.h, united, out);
  GEOSGeom_destroy_r(context.h, united);
  return out;
}

std::vector<Ring> geos_combine(char op, const std::vector<Outline>& a, const std::vector<Outline>& b, double flattening,
                               double grown) {
  const Context context;
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
  const Context context;
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
