// Each segment is parted where it turns back in x or y; between two such places it meets a level once.
#include "geom/clip_line.h"

#include "geom/bisect.h"

#include <algorithm>
#include <cmath>

namespace frelm {
namespace {

// Where a cubic with these coordinates turns back, in (0, 1).
void add_turns(double a, double b, double c, double d, std::vector<double>& out) {
  // Its derivative over 3: u (1−t)² + 2 v t (1−t) + w t².
  const double u = b - a, v = c - b, w = d - c;
  const double p = u - 2 * v + w, q = v - u; // p t² + 2 q t + u
  const double root = q * q - p * u;
  if (root < 0)
    return;
  const double h = -(q + std::copysign(std::sqrt(root), q)); // without cancellation
  for (const double t : {p != 0 ? h / p : -1, h != 0 ? u / h : -1})
    if (t > 0 && t < 1)
      out.push_back(t);
}

// Places in (0, 1), in order, between which the segment is on one side of every edge.
std::vector<double> crossings(const Segment& s, const Box& box) {
  std::vector<double> turns{0, 1}, out;
  if (!s.is_line()) {
    add_turns(s.p0.x, s.p1.x, s.p2.x, s.p3.x, turns);
    add_turns(s.p0.y, s.p1.y, s.p2.y, s.p3.y, turns);
    std::sort(turns.begin(), turns.end());
  }
  const struct {
    double Point::*coordinate;
    double level;
  } edges[]{{&Point::x, box.x0}, {&Point::x, box.x1}, {&Point::y, box.y0}, {&Point::y, box.y1}};
  for (std::size_t i = 0; i + 1 < turns.size(); ++i)
    for (const auto& e : edges) {
      const auto above = [&](double t) { return s.at(t).*e.coordinate > e.level; };
      const bool from = above(turns[i]);
      if (from != above(turns[i + 1]))
        out.push_back(bisect({turns[i], turns[i + 1]}, [&](double t) { return above(t) != from; }).high);
    }
  std::erase_if(out, [](double t) { return t <= 0 || t >= 1; });
  std::sort(out.begin(), out.end());
  return out;
}

} // namespace

std::vector<Contour> clip_line(const Contour& line, const Box& box) {
  std::vector<Contour> out;
  bool going = false; // the stretch before reaches to here
  for (const Segment& s : line.segments) {
    std::vector<double> t = crossings(s, box);
    t.insert(t.begin(), 0), t.push_back(1);
    for (std::size_t i = 0; i + 1 < t.size(); ++i) {
      if (t[i + 1] <= t[i])
        continue;
      if (!box.contains(s.at((t[i] + t[i + 1]) / 2))) {
        going = false;
        continue;
      }
      const Segment piece = t[i] == 0 && t[i + 1] == 1 ? s : s.part(t[i], t[i + 1]);
      if (!going)
        out.push_back({{}, false});
      out.back().segments.push_back(piece);
      if (out.back().segments.size() > 1) // they join exactly
        out.back().segments.back().p0 = out.back().segments[out.back().segments.size() - 2].p3;
      going = true;
    }
  }
  return out;
}

} // namespace frelm
