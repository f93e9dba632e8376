#include "geom/along.h"

namespace frelm {

double row_length(const std::vector<Point>& points, bool closed) {
  double sum = closed && points.size() > 1 ? distance(points.back(), points.front()) : 0;
  for (std::size_t i = 1; i < points.size(); ++i)
    sum += distance(points[i - 1], points[i]);
  return sum;
}

std::vector<Point> spaced_evenly(std::vector<Point> points, std::size_t count, bool closed) {
  if (closed)
    points.push_back(points.front());
  std::vector<double> along{0};
  for (std::size_t i = 1; i < points.size(); ++i)
    along.push_back(along.back() + distance(points[i - 1], points[i]));
  std::vector<Point> out;
  std::size_t i = 0;
  for (std::size_t k = 0; k + (closed ? 1 : 0) <= count; ++k) {
    const double s = along.back() * static_cast<double>(k) / static_cast<double>(count);
    while (i + 2 < along.size() && along[i + 1] < s)
      ++i;
    const double part = along[i + 1] - along[i];
    out.push_back(lerp(points[i], points[i + 1], part > 0 ? std::clamp((s - along[i]) / part, 0.0, 1.0) : 0));
  }
  return out;
}

} // namespace frelm
