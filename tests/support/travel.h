// How far the knife goes lifted, from a place through all lines in their order.
#pragma once

#include "cutting/cut_order.h"

namespace frelm::test {

inline double travel(const CutSheet& sheet, const std::vector<CutPath>& order, Point from) {
  double out = 0;
  for (const CutPath& p : order) {
    const Contour cut = as_cut(sheet, p);
    out += distance(from, p.start);
    from = cut.segments.back().p3;
  }
  return out;
}

} // namespace frelm::test
