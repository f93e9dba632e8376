// ∬ dA = ∮ x dy, ∬ x dA = ∮ x²/2 dy, ∬ y dA = -∮ y²/2 dx; the eight-point rule is exact up to degree 15.
#include "geom/area_centre.h"
#include "geom/quadrature.h"

namespace frelm {

std::optional<Point> area_centre(const Outline& outline) {
  const Point origin = outline.bounds().centre(); // rounding stays small far from the corner of the sheet
  double area = 0, across = 0, down = 0;
  for (const Contour& c : outline.contours) {
    const auto add = [&](const auto& at, const auto& slope) {
      area += gauss8([&](double t) { return at(t).x * slope(t).y; }, 0, 1);
      across += gauss8([&](double t) { return at(t).x * at(t).x / 2 * slope(t).y; }, 0, 1);
      down -= gauss8([&](double t) { return at(t).y * at(t).y / 2 * slope(t).x; }, 0, 1);
    };
    for (const Segment& s : c.segments)
      add([&](double t) { return s.at(t) - origin; }, [&](double t) { return s.derivative(t); });
    if (!c.segments.empty()) { // open ones as if closed
      const Point a = c.segments.back().p3, b = c.segments.front().p0;
      add([&](double t) { return lerp(a, b, t) - origin; }, [&](double) { return b - a; });
    }
  }
  const Box box = outline.bounds();
  constexpr double none = 1e-12; // of the box
  if (!(std::abs(area) > none * box.width() * box.height()))
    return std::nullopt;
  return origin + Vec{across / area, down / area};
}

} // namespace frelm
