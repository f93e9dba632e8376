#include "geom/net.h"

#include <array>
#include <memory>

namespace frelm {
namespace {

constexpr double twist_step = 1e-4; // of a row: how far apart `along` is taken for its change

// Cubic Hermite weights of both ends' values and slopes, and their derivatives.
struct Weights {
  std::array<double, 2> value, slope, value_d, slope_d;
};
Weights weights(double t) {
  const double u = 1 - t;
  return {{(1 + 2 * t) * u * u, t * t * (3 - 2 * t)},
          {t * u * u, -t * t * u},
          {-6 * t * u, 6 * t * u},
          {u * (1 - 3 * t), t * (3 * t - 2)}};
}

// The cell of a coordinate counted in cells, and the place in it; beyond the net the outer cell goes on.
std::pair<std::size_t, double> cell(double at, std::size_t count) {
  const double first = std::clamp(std::floor(at), 0.0, static_cast<double>(count - 1));
  return {static_cast<std::size_t>(first), at - first};
}

WarpPlace place_on(const Box& source, const Net& net, Point p) {
  const double per_x = static_cast<double>(net.columns) / source.width();
  const double per_y = static_cast<double>(net.rows) / source.height();
  const auto [column, u] = cell((p.x - source.x0) * per_x, net.columns);
  const auto [row, v] = cell((p.y - source.y0) * per_y, net.rows);
  const Weights a = weights(u), b = weights(v);
  WarpPlace out{};
  for (std::size_t j = 0; j < 2; ++j)
    for (std::size_t i = 0; i < 2; ++i) {
      const NetPeg& peg = net.pegs[(row + j) * (net.columns + 1) + column + i];
      const auto sum = [&](double value, double slope, double across_value, double across_slope) {
        return peg.at * (value * across_value) + peg.along * (slope * across_value) +
               peg.down * (value * across_slope) + peg.twist * (slope * across_slope);
      };
      out.point += sum(a.value[i], a.slope[i], b.value[j], b.slope[j]);
      out.dx += sum(a.value_d[i], a.slope_d[i], b.value[j], b.slope[j]) * per_x;
      out.dy += sum(a.value[i], a.slope[i], b.value_d[j], b.slope_d[j]) * per_y;
    }
  return out;
}

} // namespace

Result<WarpMap> net_map(const Box& source, const Net& net) {
  if (!(source.width() > 0) || !(source.height() > 0))
    return bad_input("there is nothing to bend: the outline has no width or no height", "net");
  if (net.columns < 1 || net.rows < 1 || net.pegs.size() != (net.columns + 1) * (net.rows + 1))
    return bad_input("the net's pegs do not fit its columns and rows", "net");
  for (const NetPeg& peg : net.pegs)
    if (!finite(peg.at) || !finite(peg.along) || !finite(peg.down) || !finite(peg.twist))
      return bad_input("a peg of the net has no place; move it back", "net");
  WarpMap map;
  for (std::size_t i = 1; i < net.columns; ++i)
    map.breaks.push_back(source.x0 + source.width() * static_cast<double>(i) / static_cast<double>(net.columns));
  map.at = [source, shared = std::make_shared<const Net>(net)](Point p) { return place_on(source, *shared, p); };
  return map;
}

Net net_from(const WarpMap& map, const Box& source, std::size_t columns, std::size_t rows) {
  Net net{std::max<std::size_t>(columns, 1), std::max<std::size_t>(rows, 1), {}};
  const double w = source.width() / static_cast<double>(net.columns),
               h = source.height() / static_cast<double>(net.rows);
  for (std::size_t j = 0; j <= net.rows; ++j)
    for (std::size_t i = 0; i <= net.columns; ++i) {
      const Point p{source.x0 + w * static_cast<double>(i), source.y0 + h * static_cast<double>(j)};
      const WarpPlace at = map.at(p);
      const Vec below = map.at({p.x, p.y + h * twist_step}).dx, above = map.at({p.x, p.y - h * twist_step}).dx;
      net.pegs.push_back({at.point, at.dx * w, at.dy * h, (below - above) * (w / (2 * twist_step))});
    }
  return net;
}

} // namespace frelm
