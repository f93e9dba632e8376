// 1. The outline is united (geom/boolean, self_union).
// 2. Each connected part and open line on its own: the raw offsets of its contours (geom/raw_offset), clipped by
// positive
//    winding (geom/recover). Inwards: the same on the reversed contours inside a rectangle, which is the outside
//    growing; then the rectangle is dropped and the rest turned around.
// 3. Outwards, the parts are welded where they have grown into each other.
// 3a. Each node of the clipped parts is looked at again: one that is nearer than the distance to the part's lines is
//    there because the winding about a place of the source is wrong (a loop or hook smaller than all that is looked
//    for). A disc about that place, which belongs to the offset whatever the winding, is added and the part clipped
//    once more. The report says how many.
// 4. Smooth stretches are refitted (geom/refit), and put back where they would cross (geom/redrawn).
//
// Error budget, in shares of the tolerance: raw cubics 0.005; a hop absorbed or a join snapped by the engine at most
// 2 x flattening = 0.3, near tangency only; the refit takes the rest. At a knife-edge tip of angle w two raw cubics
// cross at w, and the crossing is off by their error over sin w: 0.003 mm at 1 degree for a tolerance of 0.01 mm.
#include "geom/offset.h"

#include "geom/along.h"
#include "geom/arc_cubics.h"
#include "geom/boolean.h"
#include "geom/clipper_adapter.h"
#include "geom/components.h"
#include "geom/covered.h"
#include "geom/distance.h"
#include "geom/raw_offset.h"
#include "geom/recover.h"
#include "geom/rectangle.h"
#include "geom/refit.h"
#include "geom/side_by_side.h"

#include <optional>

namespace frelm {
namespace {

constexpr double raw_share = 0.005;
constexpr double flattening_share = 0.1;
constexpr double refit_share = 0.92;
constexpr double line_share = 0.5; // of the distance: a shorter line between round stretches is taken up by them
constexpr double node_share = 0.5; // of the tolerance: a node so much nearer than the distance is a fault
constexpr int most_mendings = 4;   // rounds
constexpr double coarse_share = 0.02, coarsest = 0.05; // of the distance, mm: flattening of what is covered
constexpr double coarse_margin = 2.5;                  // flattenings that it is covered by
constexpr int most_rings = 1000;

std::optional<Error> bad_options(double distance, const OffsetOptions& o) {
  if (!std::isfinite(distance) || std::abs(distance) * o.rings > clipper_reach_mm)
    return bad_input(FRELM_WORDS("core", "the distance must be a number of mm that keeps all rings within 10 m"),
                     FRELM_WORDS("core", "offset"));
  if (!(o.tolerance > 0))
    return bad_input(FRELM_WORDS("core", "the tolerance must be more than 0 mm"), FRELM_WORDS("core", "offset"));
  if (!(o.mitre_limit >= 1))
    return bad_input(FRELM_WORDS("core", "the mitre limit must be at least 1"), FRELM_WORDS("core", "offset"));
  if (o.rings < 1 || o.rings > most_rings)
    return bad_input(FRELM_WORDS("core", "choose 1 to 1000 rings"), FRELM_WORDS("core", "offset"));
  if (o.holes == HoleRule::DropSmall && !(o.hole_size >= 0))
    return bad_input(FRELM_WORDS("core", "the size of holes to drop must be 0 mm or more"),
                     FRELM_WORDS("core", "offset"));
  return std::nullopt;
}

std::vector<Segment> reversed(const std::vector<Segment>& segments) {
  std::vector<Segment> out;
  for (auto it = segments.rbegin(); it != segments.rend(); ++it)
    out.push_back(it->reversed());
  return out;
}

class Offsetter {
public:
  Offsetter(const Outline& united, const OffsetOptions& options, OffsetReport& report)
      : united_(united), options_(options), report_(report) {
    weld_.flattening = flattening_share * options.tolerance;
    weld_.stop = options.stop;
  }

  Result<Outline> ring(double distance) {
    const bool inwards = distance < 0;
    RawOffset raw{std::abs(distance), raw_share * options_.tolerance, weld_.flattening};
    raw.join = options_.join, raw.mitre_limit = options_.mitre_limit, raw.cap = options_.cap;
    std::vector<Outline> parts = components(united_);
    if (inwards)
      std::erase_if(parts, [](const Outline& part) { return !part.contours.front().closed; });
    std::vector<std::optional<Result<Clipped>>> clipped(parts.size());
    side_by_side(parts.size(), true, [&](std::size_t i) {
      if (!options_.stop.stop_requested())
        clipped[i] = clip(parts[i], raw, inwards);
    });
    if (options_.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "offset")};
    std::vector<Outline> grown;
    for (std::optional<Result<Clipped>>& part : clipped) {
      Result<Clipped>& done = part.value();
      if (!done)
        return done.error();
      report_.weld.add(done->report);
      report_.mended += done->mended;
      grown.push_back(std::move(done->outline));
    }
    Outline out;
    if (inwards) { // parts that were apart stay apart
      for (const Outline& o : grown)
        out.append(o);
    } else {
      Result<WeldResult> welded = weld(grown, weld_);
      if (!welded)
        return welded.error();
      welded->report.clusters = 0; // of the source only
      report_.weld.add(welded->report);
      out = std::move(welded->outline);
    }
    RefitOptions refitting;
    refitting.tolerance = refit_share * options_.tolerance;
    refitting.shortest_line = std::max(refitting.shortest_line, line_share * std::abs(distance));
    refitting.drop_under = 2 * weld_.flattening;
    RedrawnResult result = without_new_crossings(refit(out.contours, refitting), options_.stop);
    if (options_.stop.stop_requested())
      return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "offset")};
    return std::move(result.outline);
  }

private:
  struct Clipped {
    Outline outline;
    WeldReport report;
    std::size_t mended = 0;
  };
  Result<Clipped> clip(const Outline& part, RawOffset raw, bool inwards) const {
    Clipped out;
    Outline& done = out.outline;
    // At mitres and bevels, and at the ends of lines, not all of a disc belongs to the offset.
    const double coarse = std::min(coarse_share * raw.distance, coarsest);
    std::optional<Discs> discs;
    if (options_.join == JoinStyle::Round && part.contours.front().closed && coarse > weld_.flattening)
      discs.emplace(part, raw.distance, coarse_margin * coarse), raw.discs = &*discs, raw.coarse = coarse;
    Outline offsets;
    Box box;
    for (const Contour& c : part.contours) {
      offsets.contours.push_back(c.closed ? raw_offset(inwards ? reversed(c.segments) : c.segments, raw)
                                          : raw_stroke(c, raw));
      box.add(c.bounds());
      for (const Segment& s : offsets.contours.back().segments)
        box.add(s.control_box());
    }
    if (inwards)
      offsets.contours.push_back(rectangle(box.grown(1)));
    std::vector<bool> close;
    for (const Contour& c : offsets.contours)
      for (const Segment& s : c.segments)
        close.push_back(!discs || s.is_line() || !discs->cover(s));
    for (int round = 0; round <= most_mendings; ++round) {
      Result<Outline> clipped =
          clip_and_recover({{&offsets, &close, coarse}}, {BooleanOp::Union, FillRule::Positive}, weld_, out.report);
      if (!clipped)
        return clipped.error();
      done = std::move(*clipped);
      if (inwards)
        std::erase_if(done.contours, [&](const Contour& c) { return c.bounds().contains(box); });
      const std::vector<Point> wanting = too_near(part, raw.distance, done);
      for (const Point p : wanting) {
        Contour& disc = offsets.contours.emplace_back();
        disc.segments = arc_cubics(p, raw.distance, raw.distance, 0, 0, 2 * pi, raw.tolerance);
        connect(disc);
        close.insert(close.end(), disc.segments.size(), true);
      }
      out.mended += wanting.size();
      if (wanting.empty())
        break;
    }
    if (inwards)
      for (Contour& c : done.contours)
        c = c.reversed();
    return out;
  }

  // Places of the part's lines that are too near to a node, one for each run of such nodes.
  std::vector<Point> too_near(const Outline& part, double distance, const Outline& clipped) const {
    std::vector<Point> out;
    if (options_.join == JoinStyle::Bevel || !part.contours.front().closed) // those have nodes that are nearer
      return out;
    Boundary lines(part);
    const double least = distance - node_share * options_.tolerance;
    for (const Contour& c : clipped.contours)
      for (const Segment& s : c.segments)
        if (const auto p = lines.nearer_than(least, s.p0);
            p && (out.empty() || frelm::distance(out.back(), *p) > options_.tolerance))
          out.push_back(*p);
    return out;
  }

  const Outline& united_;
  const OffsetOptions& options_;
  OffsetReport& report_;
  WeldOptions weld_;
};

// Boxes of those contours of `before` of one sign that left nothing in `after`: a contour of `after` of that sign is
// left of the innermost one that it begins in, not of what lies about that.
std::vector<Box> without_trace(const Outline& before, const Outline& after, double sign) {
  struct Source {
    Outline line;
    Box box;
    double area;
    bool left = false;
  };
  std::vector<Source> sources;
  for (const Contour& c : before.contours)
    if (c.closed && !c.segments.empty())
      sources.push_back({{{c}}, c.bounds(), c.area()});
  for (const Contour& a : after.contours) {
    if (!a.closed || a.segments.empty() || !(a.area() * sign > 0))
      continue;
    const Point p = a.segments.front().p0;
    Source* innermost = nullptr;
    for (Source& s : sources)
      if (s.box.contains(p) && winding_number(s.line, p) != 0 &&
          (innermost == nullptr || std::abs(s.area) < std::abs(innermost->area)))
        innermost = &s;
    if (innermost != nullptr)
      innermost->left = true;
  }
  std::vector<Box> out;
  for (const Source& s : sources)
    if (!s.left && s.area * sign > 0)
      out.push_back(s.box);
  return out;
}

} // namespace

Result<OffsetResult> offset(const Outline& outline, double distance, const OffsetOptions& options) {
  if (auto e = bad_options(distance, options))
    return *e;
  WeldOptions uniting;
  uniting.flattening = std::min(uniting.flattening, flattening_share * options.tolerance);
  uniting.small_loops = SmallLoops::Turned;
  uniting.stop = options.stop;
  Outline positive = outline;
  positive.make_area_positive();
  Result<WeldResult> united = self_union(positive, FillRule::Nonzero, uniting);
  if (!united)
    return united.error();
  OffsetResult out;
  out.report.weld = united->report;
  out.report.weld.nodes_out = 0;
  for (const Contour& c : united->outline.contours)
    out.report.open_left_out += !c.closed && distance < 0 ? 1 : 0;
  for (int k = 1; k <= options.rings; ++k) {
    Result<Outline> ring =
        distance == 0 ? united->outline : Offsetter(united->outline, options, out.report).ring(distance * k);
    if (!ring)
      return ring.error();
    if (k == options.rings)
      (distance < 0 ? out.report.vanished : out.report.closed_holes) =
          without_trace(united->outline, *ring, distance < 0 ? 1 : -1);
    Outline kept = with_holes(*ring, options.holes, options.hole_size);
    out.report.dropped_holes += ring->contours.size() - kept.contours.size();
    out.report.weld.nodes_out += kept.node_count();
    out.rings.push_back(std::move(kept));
    if (options.progress)
      options.progress(static_cast<double>(k) / options.rings);
  }
  return out;
}

} // namespace frelm
