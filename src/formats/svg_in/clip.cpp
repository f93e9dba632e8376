#include "formats/svg_in/clip.h"

#include "formats/svg_in/shapes.h"
#include "geom/boolean.h"
#include "geom/crossings.h"

#include <algorithm>

namespace frelm {
namespace {

bool upright(const Segment& s) {
  return s.is_line() && (s.p0.x == s.p3.x || s.p0.y == s.p3.y);
}

} // namespace

ClipRegion region_of(Outline area) {
  ClipRegion out{std::move(area), {}};
  if (out.area.contours.size() == 1) {
    const std::vector<Segment>& s = out.area.contours.front().segments;
    constexpr std::size_t sides = 4;
    if (s.size() == sides && std::all_of(s.begin(), s.end(), upright) && std::abs(out.area.area()) > 0)
      out.rect = out.area.bounds();
  }
  return out;
}

Outline lines_within(const Outline& lines, const Outline& area) {
  Outline out;
  const auto inside = [&](const Segment& s) { return winding_number(area, s.at(0.5)) != 0; };
  for (const Contour& c : lines.contours) {
    std::vector<Contour> runs; // of segments that hang together
    bool before = false, all = true;
    for (const Segment& s : c.segments) {
      std::vector<double> cuts{0, 1};
      const Box box = s.bounds();
      for (const Contour& edge : area.contours)
        for (const Segment& e : edge.segments)
          if (e.control_box().overlaps(box))
            for (const CurveCrossing& x : crossings(s, e))
              cuts.push_back(x.t);
      std::sort(cuts.begin(), cuts.end());
      constexpr double same = 1e-9;
      for (std::size_t i = 0; i + 1 < cuts.size(); ++i) {
        if (cuts[i + 1] - cuts[i] <= same)
          continue;
        const bool whole = cuts[i] == 0 && cuts[i + 1] == 1;
        const Segment part = whole ? s : s.part(cuts[i], cuts[i + 1]);
        const bool in = inside(part);
        all = all && in;
        if (in) {
          if (!before)
            runs.push_back({{}, false});
          runs.back().segments.push_back(part);
          if (runs.back().segments.size() > 1)
            runs.back().segments.back().p0 = runs.back().segments[runs.back().segments.size() - 2].p3;
        }
        before = in;
      }
    }
    if (all) {
      out.contours.push_back(c);
      continue;
    }
    // What leads up to a closed line's start goes on from there.
    if (c.closed && runs.size() > 1 && before && runs.front().segments.front().p0 == c.segments.front().p0) {
      runs.back().segments.insert(runs.back().segments.end(), runs.front().segments.begin(),
                                  runs.front().segments.end());
      runs.erase(runs.begin());
    }
    for (Contour& run : runs)
      out.contours.push_back(std::move(run));
  }
  return out;
}

Result<Outline> clipped(const DrawnShape& shape, const ClipRegion& region, const std::stop_token& stop) {
  const Box box = shape.outline.bounds();
  constexpr double nothing = 1e-6; // mm
  if (!box.overlaps(region.area.bounds()))
    return Outline{};
  if (region.rect && region.rect->grown(nothing).contains(box))
    return shape.outline;
  if (is_tangled(shape.outline) || is_tangled(region.area))
    return bad_input(FRELM_WORDS("core", "too many lines cross; simplify the drawing"));
  if (shape.line_width > 0)
    return lines_within(shape.outline, region.area);
  WeldOptions options;
  options.stop = stop;
  Result<WeldResult> both = combine(BooleanOp::Intersection, {shape.outline}, {region.area}, options);
  if (!both)
    return both.error();
  return std::move(both->outline);
}

} // namespace frelm
