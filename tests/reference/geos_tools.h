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

} // namespace frelm::test
