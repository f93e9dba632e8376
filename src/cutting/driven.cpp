// Layer after layer: each path's line, or its offset by half the kerf, begun where its lead has room, gets its route
// (lead, rounds, overcut, lead), and the route its axis.
#include "cutting/driven.h"

#include "cutting/dragged_blade.h"
#include "cutting/leads.h"
#include "geom/curve.h"
#include "geom/offset.h"

#include <algorithm>

namespace frelm {
namespace {

constexpr std::size_t places_tried = 32; // to begin at, for a lead

std::size_t node_nearest(const Contour& c, Point p) {
  std::size_t out = 0;
  for (std::size_t i = 1; i < c.segments.size(); ++i)
    if (distance(c.segments[i].p0, p) < distance(c.segments[out].p0, p))
      out = i;
  return out;
}
// The first `length` mm of a closed line.
std::vector<Segment> beginning(const Contour& c, double length) {
  std::vector<CurvePiece> pieces(c.segments.begin(), c.segments.end());
  const Curve whole(std::move(pieces), true);
  if (length <= 0 || whole.length() <= 0)
    return {};
  return whole.part(0, std::min(length, whole.length())).contour(1e-4).segments;
}

class Driver {
public:
  Driver(const CutPlan& plan, std::size_t layer, const CutTool& tool, const std::stop_token& stop, DrivenPlan& out)
      : plan_(plan), tool_(tool), stop_(stop), out_(out) {
    for (std::size_t i = 0; i < plan.order.size(); ++i)
      if (plan.layer_of[plan.order[i].piece] == layer)
        paths_.push_back(i), lines_.push_back(&line(i));
    if (tool.lead != Lead::None)
      leads_.emplace(lines_, tool.kerf);
  }
  Result<Done> run() {
    for (const std::size_t i : paths_) {
      if (stop_.stop_requested())
        return Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
      const Result<std::vector<Contour>> contours = to_cut(i);
      if (!contours)
        return contours.error();
      if (contours->empty())
        out_.gone.push_back(i);
      for (const Contour& c : *contours)
        drive(i, c);
    }
    return Done{};
  }

private:
  const Contour& line(std::size_t path) const {
    const CutPath& p = plan_.order[path];
    return plan_.sheet.pieces[p.piece].outline.contours[p.contour];
  }
  bool is_outer(std::size_t path) const { return plan_.order[path].depth % 2 == 0; }

  // What the kerf's middle runs along.
  Result<std::vector<Contour>> to_cut(std::size_t path) const {
    const Contour& c = line(path);
    if (tool_.kerf == 0 || !c.closed)
      return std::vector{c};
    Outline area{{c}};
    area.make_area_positive();
    const Result<OffsetResult> grown =
        offset(area, is_outer(path) ? tool_.kerf / 2 : -tool_.kerf / 2, {.tolerance = 0.005, .stop = stop_});
    if (!grown)
      return grown.error();
    std::vector<Contour> out = grown->rings.front().contours;
    for (Contour& o : out) {
      if (c.area() < 0)
        o = o.reversed();
      o = begun_at(o, node_nearest(o, c.segments.front().p0));
    }
    return out;
  }

  void drive(std::size_t path, const Contour& c) {
    std::vector<Segment> route = c.closed ? closed_route(path, c) : open_route(c);
    const Vec heading = heading_;
    Contour axis;
    axis.closed = false;
    const std::vector<Point> at = axis_of(route, tool_.tip, tool_.swivel, heading_);
    for (std::size_t i = 1; i < at.size(); ++i)
      if (at[i] != at[i - 1])
        axis.segments.push_back(Segment::line(at[i - 1], at[i]));
    if (axis.segments.empty())
      return;
    const CutPath& from = plan_.order[path];
    CutPath to = from;
    Outline& outline = out_.plan.sheet.pieces[from.piece].outline;
    to.contour = outline.contours.size(), to.first = 0, to.reversed = false;
    to.start = axis.segments.front().p0, to.heading = axis.segments.front().start_tangent();
    outline.contours.push_back(std::move(axis));
    out_.plan.order.push_back(to);
    out_.of.push_back(path), out_.heading.push_back(heading);
  }

  std::vector<Segment> open_route(const Contour& c) const {
    std::vector<Segment> out;
    const Contour back = c.reversed();
    for (int pass = 0; pass < tool_.passes; ++pass) {
      const std::vector<Segment>& s = pass % 2 == 0 ? c.segments : back.segments;
      out.insert(out.end(), s.begin(), s.end());
    }
    return out;
  }

  // Nodes, and middles between them, the nearest to the line's beginning first.
  static std::vector<Contour> beginnings(const Contour& c) {
    struct Beginning {
      std::size_t segment = 0;
      bool middle = false;
      double off = 0;
    };
    std::vector<Beginning> places;
    const Point first = c.segments.front().p0;
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      places.push_back({i, false, distance(c.segments[i].p0, first)});
      places.push_back({i, true, distance(c.segments[i].at(0.5), first)});
    }
    std::stable_sort(places.begin(), places.end(),
                     [](const Beginning& a, const Beginning& b) { return a.off < b.off; });
    places.resize(std::min(places.size(), places_tried));
    std::vector<Contour> out;
    for (const Beginning& p : places) {
      Contour& begun = out.emplace_back(begun_at(c, p.segment));
      if (p.middle) {
        const Segment whole = begun.segments.front();
        begun.segments.front() = whole.part(0.5, 1), begun.segments.push_back(whole.part(0, 0.5));
        begun.segments.back().p3 = begun.segments.front().p0;
      }
    }
    return out;
  }

  std::vector<Segment> closed_route(std::size_t path, const Contour& whole) {
    // The part lies inside of an outer line, and so to the right where that runs clockwise on screen; also of the holes
    // that its offset may have, which run the other way.
    const bool waste_right = (line(path).area() > 0) != is_outer(path);
    Contour c = whole;
    std::optional<Segment> in;
    if (leads_) {
      for (const Contour& begun : beginnings(whole)) {
        in = leads_->in({begun.segments.front().p0, begun.segments.back().end_tangent(),
                         begun.segments.front().start_tangent(), waste_right},
                        tool_.lead, tool_.lead_length);
        if (!in)
          continue;
        c = begun;
        break;
      }
      if (!in)
        out_.without_lead.push_back(path);
    }
    std::vector<Segment> out;
    if (in)
      out.push_back(*in);
    for (int pass = 0; pass < tool_.passes; ++pass)
      out.insert(out.end(), c.segments.begin(), c.segments.end());
    const std::vector<Segment> over = beginning(c, tool_.overcut);
    out.insert(out.end(), over.begin(), over.end());
    if (in) {
      const Vec t = out.back().end_tangent(), next = over.empty() ? c.segments.front().start_tangent() : t;
      if (const auto away = leads_->out({out.back().p3, t, next, waste_right}, tool_.lead, tool_.lead_length))
        out.push_back(*away);
    }
    return out;
  }

  const CutPlan& plan_;
  const CutTool& tool_;
  std::stop_token stop_;
  DrivenPlan& out_;
  std::vector<std::size_t> paths_;
  std::vector<const Contour*> lines_;
  std::optional<LeadFinder> leads_;
  Vec heading_{1, 0};
};

} // namespace

Result<DrivenPlan> driven(const CutPlan& plan, const std::vector<Material>& materials, const std::stop_token& stop) {
  DrivenPlan out;
  out.plan.sheet = plan.sheet, out.plan.layers = plan.layers, out.plan.layer_of = plan.layer_of;
  for (CutPiece& p : out.plan.sheet.pieces)
    p.outline.contours.clear();
  for (std::size_t layer = 0; layer < plan.layers.size(); ++layer) {
    const Material* m = material_of(materials, plan.layers[layer].colour);
    CutTool tool = m != nullptr ? m->tool : CutTool{};
    if (plan.layers[layer].destination == Destination::Pen)
      tool = CutTool{};
    if (!tool.follows_line()) {
      Driver driver(plan, layer, tool, stop, out);
      if (const Result<Done> done = driver.run(); !done)
        return done.error();
      continue;
    }
    for (std::size_t i = 0; i < plan.order.size(); ++i) {
      const CutPath& p = plan.order[i];
      if (plan.layer_of[p.piece] != layer)
        continue;
      CutPath same = p;
      Outline& outline = out.plan.sheet.pieces[p.piece].outline;
      same.contour = outline.contours.size();
      outline.contours.push_back(plan.sheet.pieces[p.piece].outline.contours[p.contour]);
      out.plan.order.push_back(same);
      out.of.push_back(i), out.heading.push_back(p.heading);
    }
  }
  // What lies around what, by its new place.
  std::vector<std::optional<std::size_t>> place(plan.order.size());
  for (std::size_t k = 0; k < out.of.size(); ++k)
    place[out.of[k]] = k;
  for (CutPath& p : out.plan.order)
    p.inside = p.inside ? place[*p.inside] : std::nullopt;
  return out;
}

Result<JobDriven> job_driven(const Document& document, const DocumentEvaluator& evaluator, const PlanChoice& choice,
                             const std::stop_token& stop) {
  Result<CutPlan> lines = job_plan(document, evaluator, choice, stop);
  if (!lines)
    return lines.error();
  JobDriven out{std::move(*lines), {}};
  Result<DrivenPlan> drive = driven(out.lines, document.materials, stop);
  if (!drive)
    return drive.error();
  out.drive = std::move(*drive);
  return out;
}

} // namespace frelm
