#include "geom/tab.h"

#include "geom/boolean.h"
#include "geom/nodes.h"

namespace frelm {
namespace {

constexpr double at_node = 1e-9; // of a segment's parameter

// Unit tangents just before and just after the place.
std::pair<Vec, Vec> tangents(const Contour& c, const NearestOnOutline& n) {
  const std::size_t count = c.segments.size();
  const Segment& s = c.segments[n.segment];
  if (n.t <= at_node)
    return {c.segments[(n.segment + count - 1) % count].end_tangent(), s.start_tangent()};
  if (n.t >= 1 - at_node)
    return {s.end_tangent(), c.segments[(n.segment + 1) % count].start_tangent()};
  const Vec along = s.part(0, n.t).end_tangent();
  return {along, along};
}

} // namespace

std::optional<EdgePlace> edge_nearest(const Outline& area, Point p) {
  Outline outer;
  for (const Contour& c : area.contours)
    if (c.closed && !c.segments.empty() && c.area() > 0)
      outer.contours.push_back(c);
  const auto nearest = nearest_on(outer, p);
  if (!nearest)
    return std::nullopt;
  const auto [before, after] = tangents(outer.contours[nearest->contour], *nearest);
  const Vec sum = up_of(before) + up_of(after);
  return EdgePlace{nearest->point, length(sum) > 1e-6 ? unit(sum) : before};
}

Point tab_centre(const EdgePlace& place, const TabRing& ring) {
  return place.at + place.out * (ring.outer / 2 - ring.depth);
}

Point tab_rim(const EdgePlace& place, const TabRing& ring) {
  return tab_centre(place, ring) + place.out * ((ring.outer + ring.inner) / 4);
}

Result<WeldResult> with_tab(const Outline& area, Point near, const TabRing& ring, const WeldOptions& options) {
  const auto place = edge_nearest(area, near);
  if (!place)
    return WeldResult{area, {}};
  const Point centre = tab_centre(*place, ring);
  Result<WeldResult> joined =
      combine(BooleanOp::Union, {area}, {Outline{{circle_contour(centre, ring.outer / 2)}}}, options);
  if (!joined || !(ring.inner > 0))
    return joined;
  Result<WeldResult> out =
      combine(BooleanOp::Difference, {joined->outline}, {Outline{{circle_contour(centre, ring.inner / 2)}}}, options);
  if (out)
    out->report.add(joined->report);
  return out;
}

} // namespace frelm
