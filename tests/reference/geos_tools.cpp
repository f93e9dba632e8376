// A glyph under the nonzero rule: the union of its positive contours, less the union of its negative ones. That is the
// rule itself wherever no point is wound around by more than one positive contour of the same glyph inside a hole,
// which holds for the faces used in the tests.
#include "reference/geos_tools.h"

#include "support/compare.h"

#include <cstdarg>
#include <stdexcept>

namespace frelm::test {
namespace {

constexpr double hair = 1e-7; // mm

void silent(const char*, ...) {}

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

// How often the rings wind around p: edges crossed by the ray from p towards +x, down as 1 and up as -1.
int windings(const std::vector<Ring>& rings, Point p) {
  int around = 0;
  for (const Ring& r : rings)
    for (std::size_t i = 0; i < r.size(); ++i) {
      const Point a = r[i], b = r[(i + 1) % r.size()];
      if ((a.y > p.y) != (b.y > p.y) && a.x + (p.y - a.y) * (b.x - a.x) / (b.y - a.y) > p.x)
        around += b.y > a.y ? 1 : -1;
    }
  return around;
}

} // namespace

GeosContext::GeosContext() : h(GEOS_init_r()) {
  GEOSContext_setErrorHandler_r(h, silent);
}
GeosContext::~GeosContext() {
  GEOS_finish_r(h);
}

GEOSGeometry* checked(GEOSGeometry* g) {
  if (g == nullptr)
    throw std::runtime_error("GEOS failed");
  return g;
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

GEOSGeometry* filled(GEOSContextHandle_t h, const Outline& shape, double flattening) {
  const std::vector<Ring> rings = rings_of(shape, flattening);
  std::vector<GEOSGeometry*> lines;
  for (const Ring& r : rings) {
    const unsigned n = static_cast<unsigned>(r.size()) + 1;
    GEOSCoordSequence* seq = GEOSCoordSeq_create_r(h, n, 2);
    for (unsigned i = 0; i < n; ++i) {
      GEOSCoordSeq_setX_r(h, seq, i, r[i % r.size()].x);
      GEOSCoordSeq_setY_r(h, seq, i, r[i % r.size()].y);
    }
    lines.push_back(checked(GEOSGeom_createLineString_r(h, seq)));
  }
  GEOSGeometry* all =
      checked(GEOSGeom_createCollection_r(h, GEOS_MULTILINESTRING, lines.data(), static_cast<unsigned>(lines.size())));
  GEOSGeometry* noded = checked(GEOSUnaryUnion_r(h, all));
  GEOSGeometry* faces = checked(GEOSPolygonize_r(h, &noded, 1));
  std::vector<GEOSGeometry*> kept;
  for (int i = 0; i < GEOSGetNumGeometries_r(h, faces); ++i) {
    const GEOSGeometry* face = GEOSGetGeometryN_r(h, faces, i);
    double area = 0, length = 0;
    GEOSArea_r(h, face, &area), GEOSLength_r(h, face, &length);
    if (area < hair * length) // between a way out and the same way back, rounded apart
      continue;
    GEOSGeometry* inside = GEOSPointOnSurface_r(h, face);
    Point p;
    if (inside != nullptr && GEOSGeomGetX_r(h, inside, &p.x) == 1 && GEOSGeomGetY_r(h, inside, &p.y) == 1 &&
        windings(rings, p) != 0)
      kept.push_back(GEOSGeom_clone_r(h, face));
    if (inside != nullptr)
      GEOSGeom_destroy_r(h, inside);
  }
  GEOSGeometry* area =
      checked(GEOSGeom_createCollection_r(h, GEOS_GEOMETRYCOLLECTION, kept.data(), static_cast<unsigned>(kept.size())));
  GEOSGeometry* united = checked(GEOSUnaryUnion_r(h, area));
  for (GEOSGeometry* g : {all, noded, faces, area})
    GEOSGeom_destroy_r(h, g);
  return united;
}

} // namespace frelm::test
