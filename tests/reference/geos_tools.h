// What the references made with GEOS share.
#pragma once

#include "geom/outline.h"

#include <geos_c.h>
#include <vector>

namespace frelm::test {

struct GeosContext {
  GEOSContextHandle_t h;
  GeosContext();
  ~GeosContext();
  GeosContext(const GeosContext&) = delete;
  GeosContext& operator=(const GeosContext&) = delete;
};

// Throws where GEOS failed.
GEOSGeometry* checked(GEOSGeometry* g);
// The union of the shapes, each flattened within `flattening` mm. The caller destroys it.
GEOSGeometry* geometry_of(GEOSContextHandle_t h, const std::vector<Outline>& shapes, double flattening);
// What one shape fills under the nonzero rule, whatever directions its contours have: its lines cut at each other and
// each face kept that is wound around. The caller destroys it.
GEOSGeometry* filled(GEOSContextHandle_t h, const Outline& shape, double flattening);
// The rings of an area, outer ones positive.
std::vector<std::vector<Point>> rings_of_area(GEOSContextHandle_t h, const GEOSGeometry* area);

} // namespace frelm::test
