// The boundary is sampled every size/6. For a sample p with the normal n into the side looked at, the disc that touches
// p and passes q has the diameter |q − p|² / n·(q − p); the least over the samples q that face p is the width at p.
// Neighbouring narrow samples, and those that face each other, are one place; its narrowest pair is then settled on the
// curves: each end in turn goes to the nearest place of the other's segment.
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

class Narrow {
public:
  Narrow(const Outline& outline, double size, NarrowSide side, const NarrowOptions& options)
      : outline_(outline), size_(size), options_(options), cosine_(std::cos(options.facing)) {
    double reach = 0;
    for (const Contour& c : outline.contours)
      for (const Segment& s : c.segments)
        reach += control_length(s);
    apart_ = std::max(size / samples_per_size, reach / static_cast<double>(most_samples));
    samples_.reserve(std::min(most_samples, static_cast<std::size_t>(reach / apart_)) + outline.node_count());
    for (std::size_t c = 0; c < outline.contours.size() && !options.stop.stop_requested(); ++c)
      if (outline.contours[c].closed)
        add(c, side == NarrowSide::Strokes ? -1 : 1);
    cells_.reserve(samples_.size());
    for (std::uint32_t i = 0; i < samples_.size(); ++i)
      cells_.push_back({key(cell(samples_[i].p.x), cell(samples_[i].p.y)), i});
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
  void add(std::size_t contour, double side) {
    const std::size_t first = samples_.size();
    const Contour& c = outline_.contours[contour];
    for (std::size_t k = 0; k < c.segments.size(); ++k) {
      const Segment& s = c.segments[k];
      const double reach = control_length(s);
      const int n = std::max(1, static_cast<int>(std::ceil(reach / apart_)));
      for (int i = 0; i < n; ++i) {
        const double t = (i + 0.5) / n;
        const Vec d = s.derivative(t);
        if (length(d) > 0)
          samples_.push_back({.p = s.at(t),
                              .normal = up_of(unit(d)) * side,
                              .step = length(d) / n,
                              .contour = static_cast<std::uint32_t>(contour),
                              .segment = static_cast<std::uint32_t>(k),
                              .next = static_cast<std::uint32_t>(samples_.size() + 1)});
      }
    }
    if (samples_.size() > first)
      samples_.back().next = static_cast<std::uint32_t>(first);
  }

  long cell(double v) const { return std::lround(v / size_); }
  static std::uint64_t key(long x, long y) {
    return static_cast<std::uint64_t>(x) * 0x9e3779b97f4a7c15ULL ^
           static_cast<std::uint64_t>(y) * 0xc2b2ae3d27d4eb4fULL;
  }

  void measure(Sample& s) const {
    const Point middle = s.p + s.normal * (size_ / 2); // of the largest disc that matters
    for (long y = cell(middle.y - size_ / 2); y <= cell(middle.y + size_ / 2); ++y)
      for (long x = cell(middle.x - size_ / 2); x <= cell(middle.x + size_ / 2); ++x) {
        const std::uint64_t here = key(x, y);
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
