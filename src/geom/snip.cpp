// A contour's places are counted as segment + t; what is taken out are intervals of that, of a closed contour also over
// its start, and what is left are the intervals between.
#include "geom/snip.h"

#include "geom/along.h"

#include <algorithm>
#include <map>

namespace frelm {
namespace {

constexpr double shortest_rest = 0.001; // mm

struct Interval {
  double from = 0, to = 0;
};

double place(const CurveAt& at) {
  return static_cast<double>(at.segment) + at.t;
}

// The contour from one place to another; to may go once beyond a closed contour's end.
Contour between(const Contour& contour, double from, double to) {
  Contour out;
  out.closed = false;
  const std::size_t n = contour.segments.size();
  for (double at = from; at < to;) {
    const double next = std::min(std::floor(at) + 1, to);
    const Segment& s = contour.segments[static_cast<std::size_t>(std::floor(at)) % n];
    const double t0 = at - std::floor(at), t1 = next - std::floor(at);
    const Segment part = t0 <= 0 && t1 >= 1 ? s : s.part(t0, t1);
    if (control_length(part) > 1e-9)
      out.segments.push_back(part);
    at = next;
  }
  connect(out);
  return out;
}

void add_rest(const Contour& contour, std::vector<Interval> gone, Outline& out) {
  const auto n = static_cast<double>(contour.segments.size());
  std::sort(gone.begin(), gone.end(), [](const Interval& a, const Interval& b) { return a.from < b.from; });
  std::vector<Interval> rest;
  const double begin = contour.closed ? gone.front().from : 0;
  double at = begin;
  for (const Interval& g : gone) {
    if (g.from > at)
      rest.push_back({at, g.from});
    at = std::max(at, g.to);
  }
  if (const double end = contour.closed ? begin + n : n; at < end)
    rest.push_back({at, end});
  for (const Interval& r : rest)
    if (Contour part = between(contour, r.from, r.to); !part.segments.empty() && part.length() > shortest_rest)
      out.contours.push_back(std::move(part));
}

} // namespace

Outline without_stretches(const Outline& outline, const std::vector<ArrangedStretch>& stretches) {
  std::map<std::size_t, std::vector<Interval>> gone;
  for (const ArrangedStretch& s : stretches) {
    if (s.from.contour >= outline.contours.size())
      continue;
    const auto n = static_cast<double>(outline.contours[s.from.contour].segments.size());
    Interval i{s.whole ? 0 : place(s.from), s.whole ? n : place(s.to)};
    if (i.to <= i.from && !s.whole) // over the start of a closed contour
      i.to += n;
    gone[s.from.contour].push_back(i);
  }
  Outline out;
  for (std::size_t c = 0; c < outline.contours.size(); ++c) {
    if (const auto it = gone.find(c); it != gone.end())
      add_rest(outline.contours[c], it->second, out);
    else
      out.contours.push_back(outline.contours[c]);
  }
  return out;
}

} // namespace frelm
