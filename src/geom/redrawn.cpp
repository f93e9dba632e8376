// All segments by ascending left ends of their boxes, so that only those whose boxes overlap are compared. A crossing
// puts back what is new of its two stretches; what was put back may cross others, so it is done until nothing changes.
#include "geom/redrawn.h"

#include "geom/along.h"
#include "geom/crossings.h"

#include <utility>

namespace frelm {
namespace {

constexpr double joint = 2 * meet_distance; // mm: segments that share a node meet there

struct Placed {
  Box box;
  const Segment* segment;
  std::size_t contour, stretch;
};

// Neighbours that lie on either side of a line through their node, control points and all.
bool parted(const Segment& a, const Segment& b) {
  const Vec across = a.end_tangent() + b.start_tangent();
  constexpr double enough = 1e-9;
  const auto beyond = [&](Point p) { return dot(p - a.p3, across); };
  return std::max({beyond(a.p0), beyond(a.p1), beyond(a.p2)}) <= enough &&
         std::min({beyond(b.p1), beyond(b.p2), beyond(b.p3)}) >= -enough;
}

bool cross_each_other(const Segment& a, const Segment& b) {
  if ((a.p3 == b.p0 && parted(a, b)) || (b.p3 == a.p0 && parted(b, a)))
    return false;
  for (const CurveCrossing& c : crossings(a, b)) {
    const auto at_node = [&](Point p, Point q) { return distance(p, q) < joint && distance(c.point, p) < 2 * joint; };
    if (!at_node(a.p3, b.p0) && !at_node(b.p3, a.p0) && !at_node(a.p0, b.p0) && !at_node(a.p3, b.p3))
      return true;
  }
  return false;
}

class Chooser {
public:
  explicit Chooser(const std::vector<RedrawnContour>& contours) : contours_(contours) {
    for (const RedrawnContour& c : contours)
      new_.emplace_back(c.stretches.size(), true);
  }

  void run(const std::stop_token& stop) {
    while (put_back_crossings(stop) && !stop.stop_requested()) {
    }
  }
  const std::vector<Segment>& chosen(std::size_t c, std::size_t k) const {
    const Redrawn& r = contours_[c].stretches[k];
    return new_[c][k] ? r.now : r.was;
  }
  bool is_new(std::size_t c, std::size_t k) const { return new_[c][k]; }

private:
  bool put_back_crossings(const std::stop_token& stop) {
    std::vector<Placed> all;
    for (std::size_t c = 0; c < contours_.size(); ++c)
      for (std::size_t k = 0; k < contours_[c].stretches.size(); ++k)
        for (const Segment& s : chosen(c, k))
          all.push_back({s.control_box(), &s, c, k});
    std::sort(all.begin(), all.end(), [](const Placed& a, const Placed& b) { return a.box.x0 < b.box.x0; });
    std::vector<std::pair<std::size_t, std::size_t>> back;
    for (std::size_t i = 0; i < all.size() && !stop.stop_requested(); ++i)
      for (std::size_t j = i + 1; j < all.size() && all[j].box.x0 <= all[i].box.x1; ++j) {
        const Placed &a = all[i], &b = all[j];
        const bool either_new = new_[a.contour][a.stretch] || new_[b.contour][b.stretch];
        if (!either_new || !a.box.overlaps(b.box) || !cross_each_other(*a.segment, *b.segment))
          continue;
        back.push_back({a.contour, a.stretch}), back.push_back({b.contour, b.stretch});
      }
    bool changed = false;
    for (const auto& [c, k] : back)
      changed = std::exchange(new_[c][k], false) || changed;
    return changed;
  }

  const std::vector<RedrawnContour>& contours_;
  std::vector<std::vector<char>> new_;
};

} // namespace

RedrawnResult without_new_crossings(const std::vector<RedrawnContour>& contours, const std::stop_token& stop) {
  Chooser chooser(contours);
  chooser.run(stop);
  RedrawnResult out;
  for (std::size_t c = 0; c < contours.size(); ++c) {
    Contour& contour = out.outline.contours.emplace_back();
    contour.closed = contours[c].closed;
    for (std::size_t k = 0; k < contours[c].stretches.size(); ++k) {
      const std::vector<Segment>& chosen = chooser.chosen(c, k);
      contour.segments.insert(contour.segments.end(), chosen.begin(), chosen.end());
      const Redrawn& r = contours[c].stretches[k];
      out.put_back += !chooser.is_new(c, k) && r.was != r.now ? 1 : 0;
    }
    connect(contour);
  }
  return out;
}

} // namespace frelm
