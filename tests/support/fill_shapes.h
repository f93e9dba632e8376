// Shapes to fill, as path data, and the upper and lower edge of a shape worked out apart from the product.
#pragma once

#include "geom/path_data.h"
#include "support/fixtures.h"

namespace frelm::test {

inline constexpr const char* half_disc = "M0 150A150 150 0 0 1 300 150Z";
inline constexpr const char* ribbon = "M0 40C100 0 200 80 300 40V110C200 150 100 70 0 110Z";
inline constexpr const char* crescent = "M0 0C80 60 220 60 300 0C320 170 -20 170 0 0Z";
inline constexpr const char* blob =
    "M20 60C40 -20 160 0 180 30C220 10 300 40 290 90C280 150 200 130 170 120C140 160 0 150 20 60Z";
inline constexpr const char* notched = "M0 0H130L150 40L170 0H300V100H0Z";
inline constexpr const char* horseshoe = "M0 200V150A150 150 0 0 1 300 150V200H220V150A70 70 0 0 0 80 150V200Z";

inline Contour shape_of(const std::string& path) {
  return parse_outline(path)->contours.front();
}

// Of a finely drawn polygon of the shape (1e-4 mm).
class ShapeEdges {
public:
  explicit ShapeEdges(const Contour& shape) : points_(rings_of(Outline{{shape}}, 1e-4).front()) {}
  struct Edges {
    double top = 1e9, bottom = -1e9;
  };
  Edges at(double x) const {
    Edges out;
    for (std::size_t i = 0; i < points_.size(); ++i) {
      const Point a = points_[i], b = points_[(i + 1) % points_.size()];
      if ((a.x - x) * (b.x - x) > 0 || a.x == b.x)
        continue;
      const double y = std::lerp(a.y, b.y, (x - a.x) / (b.x - a.x));
      out.top = std::min(out.top, y), out.bottom = std::max(out.bottom, y);
    }
    return out;
  }
  double height(double x) const { return at(x).bottom - at(x).top; }

private:
  Ring points_;
};

} // namespace frelm::test
