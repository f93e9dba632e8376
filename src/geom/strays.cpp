// Along one of both the distance can't grow quicker than the way, so that a place with room to `allowed` vouches for as
// much of the way on.
#include "geom/strays.h"

#include <algorithm>
#include <limits>

namespace frelm {
namespace {

constexpr double least_step = 0.02; // of what is allowed: between places that are measured

double distance_to(const Segment& s, Point p) {
  constexpr int places = 8;
  double best = std::numeric_limits<double>::infinity(), at = 0;
  for (int i = 0; i <= places; ++i) {
    const double t = static_cast<double>(i) / places;
    if (const double d = distance(s.at(t), p); d < best)
      best = d, at = t;
  }
  for (int k = 0; k < 6; ++k) {
    const Vec d = s.derivative(at);
    if (!(dot(d, d) > 0))
      break;
    at = std::clamp(at - dot(s.at(at) - p, d) / dot(d, d), 0.0, 1.0);
    best = std::min(best, distance(s.at(at), p));
  }
  return best;
}

Farthest one_way(std::span<const Segment> from, std::span<const Segment> to, bool loop, double allowed) {
  std::size_t k = 0;
  double nearest = std::numeric_limits<double>::infinity();
  for (std::size_t i = 0; loop && i < to.size(); ++i)
    if (const double d = distance_to(to[i], from.front().p0); d < nearest)
      nearest = d, k = i;
  Farthest worst;
  double vouched = 0;
  for (const Segment& s : from) {
    const double speed = 3 * std::max({distance(s.p0, s.p1), distance(s.p1, s.p2), distance(s.p2, s.p3)});
    double t = vouched / speed;
    while (t < 1) {
      const Point p = s.at(t);
      double best = distance_to(to[k], p);
      for (std::size_t looked = 0; looked < to.size() && (k + 1 < to.size() || loop); ++looked) {
        const std::size_t after = (k + 1) % to.size();
        const double next = distance_to(to[after], p);
        if (!(next < best))
          break;
        best = next, k = after;
      }
      worst.add(best, p);
      if (worst.off > allowed)
        return worst;
      vouched = std::max(allowed - best, least_step * allowed);
      t += vouched / speed;
    }
    vouched = (t - 1) * speed;
  }
  return worst;
}

} // namespace

Farthest worst_distance(std::span<const Segment> source, std::span<const Segment> result, bool loop, double allowed) {
  Farthest worst = one_way(source, result, loop, allowed);
  if (worst.off <= allowed)
    worst.add(one_way(result, source, loop, allowed));
  return worst;
}

} // namespace frelm
