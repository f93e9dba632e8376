#include "geom/covered.h"

#include "geom/along.h"

namespace frelm {
namespace {

constexpr double spacing = 0.5; // of the radius, between places of one segment
constexpr int most_places = 64; // of one segment

} // namespace

Discs::Discs(const Outline& source, double radius, double margin) : radius_(radius - margin), cell_(radius) {
  for (const Contour& c : source.contours)
    for (const Segment& s : c.segments) {
      const int n = std::clamp(static_cast<int>(std::ceil(control_length(s) / (spacing * radius))), 1, most_places);
      for (int i = 0; i < n; ++i) {
        const Point p = s.at(static_cast<double>(i) / n);
        places_.push_back({index(p.x), index(p.y), p});
      }
    }
  std::sort(places_.begin(), places_.end(),
            [](const Place& a, const Place& b) { return a.column != b.column ? a.column < b.column : a.row < b.row; });
}

bool Discs::cover(const Segment& s, int halvings_left) const {
  const Point m = s.at(0.5);
  const std::int64_t column = index(m.x), row = index(m.y);
  for (std::int64_t c = column - 1; c <= column + 1; ++c) {
    const auto first = std::lower_bound(places_.begin(), places_.end(), std::pair(c, row - 1),
                                        [](const Place& a, const std::pair<std::int64_t, std::int64_t>& at) {
                                          return a.column != at.first ? a.column < at.first : a.row < at.second;
                                        });
    for (auto it = first; it != places_.end() && it->column == c && it->row <= row + 1; ++it)
      if (distance(it->p, s.p0) < radius_ && distance(it->p, s.p3) < radius_ && distance(it->p, s.p1) < radius_ &&
          distance(it->p, s.p2) < radius_)
        return true;
  }
  return halvings_left > 0 && cover(s.part(0, 0.5), halvings_left - 1) && cover(s.part(0.5, 1), halvings_left - 1);
}

} // namespace frelm
