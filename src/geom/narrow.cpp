// Only stretches of the boundary that come as near as the size to another one, or turn back within themselves, are
// looked at (`near_stretches`): they are sampled every size/6. For a sample p with the normal n into the side looked
// at, the disc that touches p and passes q has the diameter |q − p|² / n·(q − p); the least over the samples q that
// face p is the width at p. Neighbouring narrow samples, and those that face each other, are one place; its narrowest
// pair is then settled on the curves: each end in turn goes to the nearest place of the other's segment.
#include "geom/narrow.h"

#include "geom/along.h"
#include "geom/groups.h"
#include "geom/nodes.h"

#include <algorithm>
#include <cstdint>
#include <unordered_map>

namespace frelm {
namespace {

constexpr double samples_per_size = 6;
constexpr double settled = 1e-7; // mm
constexpr std::uint32_t none = static_cast<std::uint32_t>(-1);

struct Sample { // there may be many: as small as they can be
  Point p;
  Vec normal; // into the side looked at
  double step = 0;
  double width = std::numeric_limits<double>::infinity();
  std::uint32_t contour = 0, segment = 0, next = 0, partner = none;
};

std::uint64_t cell_key(long x, long y) {
  return static_cast<std::uint64_t>(x) * 0x9e3779b97f4a7c15ULL ^ static_cast<std::uint64_t>(y) * 0xc2b2ae3d27d4eb4fULL;
}

// A part of a segment, and the chord it lies along.
struct Stretch {
  std::uint32_t contour = 0, segment = 0, next = 0; // next: along the contour
  double t0 = 0, t1 = 1;
  Point a, b;
  double off = 0;  // mm, farthest from the chord
  double turn = 0; // radians that it turns through at most, and on to the next
  bool near = false;
};

double chord_distance(const Stretch& s, const Stretch& o) {
  const Vec u = s.b - s.a, v = o.b - o.a;
  const bool crosses = cross(u, o.a - s.a) * cross(u, o.b - s.a) < 0 && cross(v, s.a - o.a) * cross(v, s.b - o.a) < 0;
  return crosses ? 0
                 : std::min({distance_to_chord(s.a, s.b, o.a), distance_to_chord(s.a, s.b, o.b),
                             distance_to_chord(o.a, o.b, s.a), distance_to_chord(o.a, o.b, s.b)});
}

// Those that can have a narrow place: as near as the size to another that is not their neighbour, or turned back by
// nearly as much as facing sides are, with their neighbour.
class NearStretches {
public:
  NearStretches(const Outline& outline, double size, const NarrowOptions& options) : size_(size) {
    double reach = 0;
    for (const Contour& c : outline.contours)
      for (const Segment& s : c.segments)
        reach += control_length(s);
    longest_ = std::max(stretch_per_size * size, reach / most_stretches);
    for (std::size_t c = 0; c < outline.contours.size() && !options.stop.stop_requested(); ++c)
      if (outline.contours[c].closed)
        add(outline.contours[c], static_cast<std::uint32_t>(c));
    constexpr double nearly = 0.95;
    for (Stretch& s : stretches_)
      if (s.turn + stretches_[s.next].turn > nearly * options.facing)
        s.near = stretches_[s.next].near = true;
    find_near(options.stop);
  }
  const std::vector<Stretch>& all() const { return stretches_; }

private:
  void add(const Contour& contour, std::uint32_t index) {
    const auto first = static_cast<std::uint32_t>(stretches_.size());
    for (std::size_t k = 0; k < contour.segments.size(); ++k) {
      const Segment& s = contour.segments[k];
      const int n = std::max(1, static_cast<int>(std::ceil(control_length(s) / longest_)));
      for (int i = 0; i < n; ++i) {
        const double t0 = static_cast<double>(i) / n, t1 = (i + 1.0) / n;
        const Segment part = n == 1 ? s : s.part(t0, t1);
        Stretch out{
            index,  static_cast<std::uint32_t>(k), static_cast<std::uint32_t>(stretches_.size() + 1), t0, t1, part.p0,
            part.p3};
        out.off = std::max(distance_to_chord(part.p0, part.p3, part.p1), distance_to_chord(part.p0, part.p3, part.p2));
        out.turn = control_turn(part);
        stretches_.push_back(out);
      }
    }
    if (stretches_.size() == first)
      return;
    stretches_.back().next = first;
    for (std::size_t i = first; i < stretches_.size(); ++i) { // the corners between them
      Stretch& s = stretches_[i];
      const Stretch& after = stretches_[s.next];
      if (s.segment != after.segment)
        s.turn += std::abs(
            turn_between(contour.segments[s.segment].end_tangent(), contour.segments[after.segment].start_tangent()));
    }
  }

  void find_near(const std::stop_token& stop) {
    // Boxes of both grown by half the size and what they stand off their chords meet in a cell.
    const double cell = longest_ / 2;
    std::vector<std::pair<std::uint64_t, std::uint32_t>> cells;
    const auto each_cell = [&](const Stretch& s, const auto& visit) {
      Box box;
      box.add(s.a), box.add(s.b);
      box = box.grown(s.off + size_ / 2 + least_narrow);
      for (long y = std::lround(box.y0 / cell); y <= std::lround(box.y1 / cell); ++y)
        for (long x = std::lround(box.x0 / cell); x <= std::lround(box.x1 / cell); ++x)
          visit(cell_key(x, y));
    };
    for (std::uint32_t i = 0; i < stretches_.size(); ++i)
      each_cell(stretches_[i], [&](std::uint64_t key) { cells.emplace_back(key, i); });
    std::sort(cells.begin(), cells.end());
    for (std::size_t begin = 0, end = 0; begin < cells.size() && !stop.stop_requested(); begin = end) {
      while (end < cells.size() && cells[end].first == cells[begin].first)
        ++end;
      for (std::size_t i = begin; i < end; ++i)
        for (std::size_t j = begin; j < i; ++j)
          look(cells[i].second, cells[j].second);
    }
  }
  void look(std::uint32_t i, std::uint32_t j) {
    Stretch &a = stretches_[i], &b = stretches_[j];
    if (i == j || a.next == j || b.next == i || (a.near && b.near))
      return;
    if (chord_distance(a, b) <= size_ + a.off + b.off + least_narrow)
      a.near = b.near = true;
  }

  static constexpr double stretch_per_size = 8, most_stretches = 200'000;
  double size_, longest_ = 0; // mm
  std::vector<Stretch> stretches_;
};

class Narrow {
public:
  Narrow(const Outline& outline, double size, NarrowSide side, const NarrowOptions& options)
      : outline_(outline), size_(size), options_(options), cosine_(std::cos(options.facing)) {
    const NearStretches near(outline, size, options);
    double reach = 0;
    for (const Stretch& s : near.all())
      if (s.near)
        reach += distance(s.a, s.b) + 2 * s.off;
    apart_ = std::max(size / samples_per_size, reach / static_cast<double>(most_samples));
    sample(near.all(), side == NarrowSide::Strokes ? -1 : 1);
    cells_.reserve(samples_.size());
    for (std::uint32_t i = 0; i < samples_.size(); ++i)
      cells_.push_back({cell_key(cell(samples_[i].p.x), cell(samples_[i].p.y)), i});
    std::sort(cells_.begin(), cells_.end());
  }

  std::vector<NarrowPlace> places() {
    for (std::size_t i = 0; i < samples_.size() && !options_.stop.stop_requested(); ++i)
      measure(samples_[i]);
    if (options_.stop.stop_requested())
      return {};
    Groups groups(samples_.size());
    const auto narrow = [&](std::size_t i) { return samples_[i].width < size_; };
    for (std::size_t i = 0; i < samples_.size(); ++i) {
      if (!narrow(i))
        continue;
      groups.join(samples_[i].partner, i);
      if (narrow(samples_[i].next))
        groups.join(samples_[i].next, i);
    }
    std::unordered_map<std::size_t, std::size_t> narrowest; // of each root
    std::unordered_map<std::size_t, NarrowPlace> places;
    for (std::size_t i = 0; i < samples_.size(); ++i) {
      if (!narrow(i))
        continue;
      NarrowPlace& place = places[groups.first_of(i)];
      place.where.add(samples_[i].p), place.where.add(samples_[samples_[i].partner].p);
      place.length += samples_[i].step / 2;
      const auto [it, fresh] = narrowest.try_emplace(groups.first_of(i), i);
      if (!fresh && samples_[i].width < samples_[it->second].width)
        it->second = i;
    }
    std::vector<NarrowPlace> out;
    for (auto& [r, place] : places) {
      settle(samples_[narrowest[r]], place);
      out.push_back(place);
    }
    std::sort(out.begin(), out.end(), [](const NarrowPlace& a, const NarrowPlace& b) {
      return a.width != b.width ? a.width < b.width : a.a.x != b.a.x ? a.a.x < b.a.x : a.a.y < b.a.y;
    });
    return out;
  }

private:
  // A sample's next is the one after it on the contour, or itself where that is not looked at.
  void sample(const std::vector<Stretch>& stretches, double side) {
    std::vector<std::uint32_t> first(stretches.size(), none), last(stretches.size(), none);
    for (std::size_t k = 0; k < stretches.size() && !options_.stop.stop_requested(); ++k) {
      const Stretch& stretch = stretches[k];
      if (!stretch.near)
        continue;
      const Segment& s = outline_.contours[stretch.contour].segments[stretch.segment];
      const double share = stretch.t1 - stretch.t0;
      const int n = std::max(1, static_cast<int>(std::ceil(control_length(s) * share / apart_)));
      for (int i = 0; i < n; ++i) {
        const double t = stretch.t0 + share * (i + 0.5) / n;
        const Vec d = s.derivative(t);
        if (!(length(d) > 0))
          continue;
        const auto here = static_cast<std::uint32_t>(samples_.size());
        first[k] = std::min(first[k], here);
        if (last[k] != none)
          samples_[last[k]].next = here;
        last[k] = here;
        samples_.push_back({.p = s.at(t),
                            .normal = up_of(unit(d)) * side,
                            .step = length(d) * share / n,
                            .contour = stretch.contour,
                            .segment = stretch.segment,
                            .next = here});
      }
    }
    for (std::size_t k = 0; k < stretches.size(); ++k)
      if (last[k] != none && first[stretches[k].next] != none)
        samples_[last[k]].next = first[stretches[k].next];
  }

  long cell(double v) const { return std::lround(v / size_); }

  void measure(Sample& s) const {
    const Point middle = s.p + s.normal * (size_ / 2); // of the largest disc that matters
    for (long y = cell(middle.y - size_ / 2); y <= cell(middle.y + size_ / 2); ++y)
      for (long x = cell(middle.x - size_ / 2); x <= cell(middle.x + size_ / 2); ++x) {
        const std::uint64_t here = cell_key(x, y);
        for (auto it = std::lower_bound(cells_.begin(), cells_.end(), std::pair<std::uint64_t, std::uint32_t>{here, 0});
             it != cells_.end() && it->first == here; ++it) {
          const Sample& q = samples_[it->second];
          const Vec off = q.p - s.p;
          const double ahead = dot(off, s.normal);
          if (ahead <= 0 || dot(q.normal, s.normal) > cosine_)
            continue;
          if (const double width = dot(off, off) / ahead; width < s.width)
            s.width = width, s.partner = it->second;
        }
      }
  }

  void settle(const Sample& s, NarrowPlace& place) const {
    const Sample& q = samples_[s.partner];
    const Outline own{{{{outline_.contours[s.contour].segments[s.segment]}, false}}};
    const Outline other{{{{outline_.contours[q.contour].segments[q.segment]}, false}}};
    place.a = s.p, place.b = q.p;
    for (int round = 0; round < 40; ++round) {
      const Point b = nearest_on(other, place.a)->point, a = nearest_on(own, b)->point;
      const bool still = distance(a, place.a) < settled && distance(b, place.b) < settled;
      place.a = a, place.b = b;
      if (still)
        break;
    }
    place.width = distance(place.a, place.b);
    place.where.add(place.a), place.where.add(place.b);
  }

  const Outline& outline_;
  double size_;
  double apart_ = 0; // mm from sample to sample
  const NarrowOptions& options_;
  double cosine_;
  std::vector<Sample> samples_;
  std::vector<std::pair<std::uint64_t, std::uint32_t>> cells_; // sorted: cell and sample
};

} // namespace

std::vector<NarrowPlace> narrow_places(const Outline& outline, double size, NarrowSide side,
                                       const NarrowOptions& options) {
  if (!(size >= least_narrow) || !std::isfinite(size))
    return {};
  return Narrow(outline, size, side, options).places();
}

} // namespace frelm
