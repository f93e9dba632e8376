// Weld and the other booleans: shapes are grouped by touching boxes, so that the work grows with their number; a heap
// of shapes is united by halves, because Clipper's time grows with the square of its depth; each group goes through the
// engine of recover.cpp, whose error budget is the budget here. A shape that touches no other and surely doesn't cross
// itself (geom/sound) stays as it is.
#include "geom/weld.h"

#include "geom/boolean.h"
#include "geom/clipper_adapter.h"
#include "geom/close_gaps.h"
#include "geom/recover.h"
#include "geom/side_by_side.h"
#include "geom/sound.h"
#include "geom/winding.h"

#include <deque>
#include <iterator>
#include <numeric>
#include <optional>

namespace frelm {
namespace {

constexpr double box_slack = 1e-4;         // mm
constexpr double rough = 0.02;             // mm, of a flattening that only tells in from out
constexpr std::size_t worth_threads = 120; // nodes: a fraction of a millisecond's work
constexpr std::size_t heap = 12;           // shapes over each place from which the union goes by halves

// Do the shapes lie on top of one another, more than `heap` deep on average?
bool heaped(const std::vector<ClipShape>& shapes) {
  std::vector<Box> boxes;
  for (const ClipShape& s : shapes)
    boxes.push_back(s.outline->bounds());
  std::sort(boxes.begin(), boxes.end(), [](const Box& a, const Box& b) { return a.x0 < b.x0; });
  std::size_t pairs = 0;
  for (std::size_t i = 0; i < boxes.size(); ++i)
    for (std::size_t j = i + 1; j < boxes.size() && boxes[j].x0 <= boxes[i].x1; ++j)
      if (boxes[i].overlaps(boxes[j]) && ++pairs > heap * boxes.size())
        return true;
  return false;
}

// A heap costs Clipper the square of its depth and more; a balanced tree of unions swallows what is hidden early.
Result<Outline> weld_cluster(const std::vector<ClipShape>& shapes, const WeldOptions& options, WeldReport& report) {
  if (shapes.size() <= heap * 2 || !heaped(shapes))
    return clip_and_recover(shapes, {}, options, report);
  if (options.stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "weld")};
  const auto half = shapes.begin() + static_cast<std::ptrdiff_t>(shapes.size() / 2);
  Result<Outline> a = weld_cluster({shapes.begin(), half}, options, report);
  if (!a)
    return a.error();
  Result<Outline> b = weld_cluster({half, shapes.end()}, options, report);
  if (!b)
    return b.error();
  return clip_and_recover({{&*a}, {&*b}}, {}, options, report);
}

// One operand cluster: each side united on its own first where it is a heap.
Result<Outline> combine_cluster(std::vector<ClipShape> shapes, ClipOperation operation, const WeldOptions& options,
                                WeldReport& report) {
  if (operation.op == BooleanOp::Union && operation.rule == FillRule::Nonzero)
    return weld_cluster(shapes, options, report);
  if (operation.op == BooleanOp::ExclusiveOr) {
    // As a − b and b − a: lobes that meet in points, each a contour of its own. Taken at once they would come as the
    // union's boundary and the intersection's as a hole that touches it.
    operation.op = BooleanOp::Difference;
    Result<Outline> a = combine_cluster(shapes, operation, options, report);
    if (!a)
      return a.error();
    std::rotate(shapes.begin(), shapes.begin() + static_cast<std::ptrdiff_t>(operation.subjects), shapes.end());
    operation.subjects = shapes.size() - operation.subjects;
    const Result<Outline> b = combine_cluster(std::move(shapes), operation, options, report);
    if (!b)
      return b.error();
    a->append(*b);
    return std::move(*a);
  }
  if (shapes.size() <= heap * 2 || !heaped(shapes))
    return clip_and_recover(shapes, operation, options, report);
  const auto other = shapes.begin() + static_cast<std::ptrdiff_t>(operation.subjects);
  const Result<Outline> a = weld_cluster({shapes.begin(), other}, options, report);
  if (!a)
    return a.error();
  const Result<Outline> b = weld_cluster({other, shapes.end()}, options, report);
  if (!b)
    return b.error();
  operation.subjects = 1;
  return clip_and_recover({{&*a}, {&*b}}, operation, options, report);
}

// Closed contours ready to be combined; what is open apart.
struct Operands {
  std::vector<Outline> closed; // the first operand's shapes, then the other's
  std::vector<Box> boxes;
  Outline open;
  std::size_t subjects = 0;
};
// Has the shape a contour the wrong way round that lies outside its others, at least in part? The shape itself is
// filled there all the same (nonzero), but added to a neighbour's winding of +1 its −1 would cut a hole. Looked at in
// the nodes, roughly: uniting a shape by itself harms none.
bool cancels(const Outline& shape) {
  std::vector<std::vector<Point>> flat;
  for (std::size_t i = 0; i < shape.contours.size(); ++i) {
    const Contour& c = shape.contours[i];
    if (!(c.area() < 0))
      continue;
    if (flat.empty())
      for (const Contour& other : shape.contours)
        flat.push_back(flatten(other, rough));
    for (const Segment& s : c.segments) {
      int around = 0;
      for (std::size_t j = 0; j < flat.size(); ++j)
        around += j != i ? winding_of(flat[j], s.p0) : 0;
      if (around <= 0)
        return true;
    }
  }
  return false;
}

enum class Turning { Positive, AsTheyAre };
std::optional<Error> take(const std::vector<Outline>& shapes, Turning turning, bool keep_open, Operands& to,
                          WeldReport& report, const WeldOptions& options) {
  const Box reach{-clipper_reach_mm, -clipper_reach_mm, clipper_reach_mm, clipper_reach_mm};
  for (const Outline& shape : shapes) {
    Outline closed;
    for (const Contour& c : shape.contours)
      if (c.closed || keep_open)
        (c.closed ? closed : to.open).contours.push_back(c);
    Box box;
    for (const Contour& c : closed.contours)
      for (const Segment& s : c.segments) {
        if (!all_finite(s) || !reach.contains(s.control_box()))
          return bad_input(FRELM_WORDS("core", "a shape reaches more than 10 m from the origin; move or shrink it"),
                           FRELM_WORDS("core", "weld"));
        box.add(s.control_box());
      }
    report.nodes_in += shape.node_count();
    if (turning == Turning::Positive) {
      closed.make_area_positive();
      if (cancels(closed)) {
        Result<WeldResult> own = self_union(closed, FillRule::Nonzero, options);
        if (!own)
          return own.error();
        closed = std::move(own->outline);
      }
    }
    to.closed.push_back(std::move(closed));
    to.boxes.push_back(box.grown(box_slack));
  }
  return std::nullopt;
}

// Shapes that have to do with each other. as_it_is: a single one that needs no uniting.
struct Group {
  std::vector<ClipShape> shapes;
  std::size_t subjects = 0;
  bool as_it_is = false;
};

Result<WeldResult> combine_group(Group group, BooleanOp op, FillRule rule, const WeldOptions& options) {
  WeldResult result;
  ClipOperation operation{op, rule, group.subjects};
  // With one operand missing nothing has to be cut, but shapes of the other still have to be united.
  const bool alone = operation.subjects == 0 || operation.subjects == group.shapes.size();
  if (alone && (op == BooleanOp::Intersection || (op == BooleanOp::Difference && operation.subjects == 0)))
    return result;
  if (alone)
    operation.op = BooleanOp::Union, operation.subjects = group.shapes.size();
  result.report.clusters = 1;
  if (group.as_it_is) {
    result.outline = *group.shapes.front().outline;
    return result;
  }
  Result<Outline> combined = combine_cluster(std::move(group.shapes), operation, options, result.report);
  if (!combined)
    return combined.error();
  result.outline = std::move(*combined);
  return result;
}

// The operands' shapes by what comes near what; the coarse flattenings belong to `nears`.
std::vector<Group> groups_of(const Operands& operands, FillRule rule, std::deque<NearGroups>& nears) {
  std::vector<Group> out;
  for (std::vector<std::size_t> group : touching_groups(operands.boxes)) {
    std::sort(group.begin(), group.end());
    std::vector<ClipShape> shapes;
    std::vector<const Outline*> outlines;
    for (const std::size_t i : group)
      shapes.push_back({&operands.closed[i]}), outlines.push_back(&operands.closed[i]);
    NearGroups& near = nears.emplace_back();
    if (shapes.size() > heap * 2 && heaped(shapes)) { // in a heap nearly all are near others
      near.groups.emplace_back(shapes.size());
      std::iota(near.groups.front().begin(), near.groups.front().end(), std::size_t{0});
    } else {
      near = near_groups(outlines);
    }
    for (const std::vector<std::size_t>& members : near.groups) {
      Group& one = out.emplace_back();
      for (const std::size_t m : members) {
        one.shapes.push_back({shapes[m].outline, near.close.empty() ? nullptr : &near.close[m], near.coarse});
        one.subjects += group[m] < operands.subjects ? 1 : 0;
      }
      one.as_it_is =
          members.size() == 1 && rule == FillRule::Nonzero && !near.sound.empty() && near.sound[members.front()];
    }
  }
  return out;
}

Result<WeldResult> combine_operands(const Operands& operands, BooleanOp op, FillRule rule, const WeldOptions& options,
                                    WeldReport report) {
  std::deque<NearGroups> nears;
  std::vector<Group> groups = groups_of(operands, rule, nears);
  std::size_t nodes = 0;
  for (const Group& g : groups)
    for (const ClipShape& s : g.shapes)
      nodes += g.as_it_is ? 0 : s.outline->node_count();
  std::vector<std::optional<Result<WeldResult>>> parts(groups.size());
  side_by_side(groups.size(), nodes >= worth_threads, [&](std::size_t i) {
    if (!options.stop.stop_requested())
      parts[i] = combine_group(std::move(groups[i]), op, rule, options);
  });
  if (options.stop.stop_requested())
    return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), FRELM_WORDS("core", "weld")};
  WeldResult result;
  result.report = report;
  for (std::optional<Result<WeldResult>>& part : parts) {
    Result<WeldResult>& combined = part.value();
    if (!combined)
      return combined.error();
    WeldResult& done = *combined;
    std::move(done.outline.contours.begin(), done.outline.contours.end(), std::back_inserter(result.outline.contours));
    result.report.add(done.report);
  }
  result.outline.append(operands.open);
  result.report.nodes_out = result.outline.node_count();
  return result;
}

std::optional<Error> bad_options(const WeldOptions& options) {
  if (options.flattening > 0)
    return std::nullopt;
  return bad_input(FRELM_WORDS("core", "the flattening tolerance must be more than 0 mm"), FRELM_WORDS("core", "weld"));
}

} // namespace

void WeldReport::add(const WeldReport& other) {
  clusters += other.clusters;
  snapped_joins += other.snapped_joins;
  worst_move = std::max(worst_move, other.worst_move);
  polyline_contours += other.polyline_contours;
  small_loops += other.small_loops;
  closed_slits += other.closed_slits;
}

Result<WeldResult> weld(const std::vector<Outline>& shapes, const WeldOptions& options) {
  Result<WeldResult> united = combine(BooleanOp::Union, shapes, {}, options);
  if (!united)
    return united.error();
  WeldResult out = std::move(*united);
  std::vector<Outline> covered = slit_covers(out.outline);
  if (covered.empty())
    return out;
  out.report.closed_slits = covered.size();
  covered.push_back(std::move(out.outline));
  Result<WeldResult> closed = combine(BooleanOp::Union, covered, {}, options);
  if (!closed)
    return closed.error();
  out.outline = std::move(closed->outline);
  closed->report.clusters = 0; // counted already
  out.report.add(closed->report);
  out.report.nodes_out = closed->report.nodes_out;
  return out;
}

Result<WeldResult> combine(BooleanOp op, const std::vector<Outline>& a, const std::vector<Outline>& b,
                           const WeldOptions& options) {
  if (const auto e = bad_options(options))
    return *e;
  Operands operands;
  WeldReport report;
  if (const auto e = take(a, Turning::Positive, true, operands, report, options))
    return *e;
  operands.subjects = operands.closed.size();
  if (const auto e =
          take(b, Turning::Positive, op == BooleanOp::Union || op == BooleanOp::ExclusiveOr, operands, report, options))
    return *e;
  return combine_operands(operands, op, FillRule::Nonzero, options, report);
}

Result<WeldResult> self_union(const Outline& outline, FillRule rule, const WeldOptions& options) {
  if (const auto e = bad_options(options))
    return *e;
  Operands operands;
  WeldReport report;
  if (const auto e = take({outline}, Turning::AsTheyAre, true, operands, report, options))
    return *e;
  // Contours that touch no others wind around nothing else: each group of them is a shape of its own.
  const std::vector<Contour> contours = std::move(operands.closed.front().contours);
  std::vector<Box> boxes;
  for (const Contour& c : contours)
    boxes.push_back(c.bounds().grown(box_slack));
  operands.closed.clear(), operands.boxes.clear();
  for (const std::vector<std::size_t>& group : touching_groups(boxes)) {
    Outline shape;
    Box box;
    for (const std::size_t i : group)
      shape.contours.push_back(contours[i]), box.add(boxes[i]);
    operands.closed.push_back(std::move(shape)), operands.boxes.push_back(box);
  }
  operands.subjects = operands.closed.size();
  return combine_operands(operands, BooleanOp::Union, rule, options, report);
}

} // namespace frelm
