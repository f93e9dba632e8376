#include "lettering/block_bend.h"

#include "geom/crossings.h"
#include "geom/offset.h"

#include <fmt/format.h>

namespace frelm {
namespace {

constexpr std::size_t pieces_per_edge = 64; // of an edge that is no line or arc, and again for each period of a wave
constexpr double arc_tolerance = 0.0005;    // mm, of a shape's boundary

double in_mm(const RailProfile& p, DepthIn depth_in, double height) {
  return depth_in == DepthIn::Percent ? p.depth / 100 * height : p.depth;
}

// Height and slope of a profile at a share of the width; mm, and mm per share.
struct Rise {
  double height = 0, slope = 0;
};
Rise rise_of(const RailProfile& p, double depth, double width, double share) {
  switch (p.kind) {
  case ProfileKind::Straight:
  case ProfileKind::Guide:
    break;
  case ProfileKind::Dip:
  case ProfileKind::Arch: {
    const double d = p.kind == ProfileKind::Dip ? -depth : depth, rise = std::abs(d);
    if (!(rise > 1e-9 * width))
      break;
    const double r = rise / 2 + width * width / (8 * rise), x = (share - 0.5) * width; // r = h/2 + c²/(8h)
    const double up = std::sqrt(std::max(r * r - x * x, 0.0));
    const double sign = d < 0 ? -1 : 1;
    return {sign * (up - (r - rise)), up > 0 ? -sign * x / up * width : 0};
  }
  case ProfileKind::Wave: {
    const double w = 2 * pi * p.periods, a = w * share + radians(p.phase);
    return {depth * std::sin(a), depth * w * std::cos(a)};
  }
  case ProfileKind::Peak: {
    const double c = peak_share(p);
    return share < c ? Rise{depth * share / c, depth / c} : Rise{depth * (1 - share) / (1 - c), -depth / (1 - c)};
  }
  case ProfileKind::Ramp:
    return {depth * share, depth};
  }
  return {};
}

// An edge as a function of the share of the width.
class EdgeHeight {
public:
  EdgeHeight(const RailEdge& edge, DepthIn depth_in, double width, double height, double sense)
      : first_(edge.first), plus_(edge.plus), depth_(sense * in_mm(edge.first, depth_in, height)),
        more_(sense * in_mm(edge.plus, depth_in, height)), width_(width) {}
  Rise at(double share) const {
    const Rise a = rise_of(first_, depth_, width_, share), b = rise_of(plus_, more_, width_, share);
    return {a.height + b.height, a.slope + b.slope};
  }
  // Shares where it has a corner.
  std::vector<double> corners() const {
    std::vector<double> out;
    for (const auto& [p, depth] : {std::pair{&first_, depth_}, std::pair{&plus_, more_}})
      if (p->kind == ProfileKind::Peak && depth != 0)
        out.push_back(peak_share(*p));
    std::sort(out.begin(), out.end());
    return out;
  }
  // From `from` along the unit vector `along`, heights towards up_of(along).
  Curve curve(Point from, Vec along) const {
    const Vec up = up_of(along);
    const auto point = [&](double u) { return from + along * (u * width_) + up * at(u).height; };
    const auto flat = [](const RailProfile& p) {
      return p.kind == ProfileKind::Straight || p.kind == ProfileKind::Ramp || p.kind == ProfileKind::Guide;
    };
    if (flat(first_) && flat(plus_))
      return Curve::line(point(0), point(1));
    if ((first_.kind == ProfileKind::Arch || first_.kind == ProfileKind::Dip) && plus_.kind == ProfileKind::Straight) {
      const double d = first_.kind == ProfileKind::Dip ? -depth_ : depth_, rise = std::abs(d);
      if (!(rise > 1e-9 * width_))
        return Curve::line(point(0), point(1));
      const double r = rise / 2 + width_ * width_ / (8 * rise), sign = d < 0 ? -1 : 1;
      const Point centre = from + along * (width_ / 2) + up * (d - sign * r);
      const Vec a = point(0) - centre, b = point(1) - centre;
      return Curve({ArcPiece{centre, r, r, 0, std::atan2(a.y, a.x), std::atan2(cross(a, b), dot(a, b))}});
    }
    std::vector<double> stops{0};
    for (const double c : corners())
      stops.push_back(c);
    stops.push_back(1);
    double periods = 0;
    for (const RailProfile* p : {&first_, &plus_})
      if (p->kind == ProfileKind::Wave)
        periods = std::max(periods, p->periods);
    const bool straight = first_.kind == ProfileKind::Peak && flat(plus_);
    const std::size_t per_side = straight ? 1 : pieces_per_edge * static_cast<std::size_t>(std::ceil(1 + periods));
    std::vector<CurvePiece> pieces;
    for (std::size_t s = 0; s + 1 < stops.size(); ++s)
      for (std::size_t i = 0; i < per_side; ++i) {
        const double a = std::lerp(stops[s], stops[s + 1], static_cast<double>(i) / static_cast<double>(per_side)),
                     b = std::lerp(stops[s], stops[s + 1], static_cast<double>(i + 1) / static_cast<double>(per_side));
        if (!(b > a))
          continue;
        constexpr double inside = 1e-9; // slopes on the piece's own side of a corner
        const auto way = [&](double u) { return (along * width_ + up * at(u).slope) * ((b - a) / 3); };
        const Point p0 = point(a), p3 = point(b);
        pieces.push_back(straight ? Segment::line(p0, p3)
                                  : Segment::cubic(p0, p0 + way(a + inside), p3 - way(b - inside), p3));
      }
    return Curve(std::move(pieces));
  }

private:
  RailProfile first_, plus_;
  double depth_, more_, width_;
};

std::optional<Error> fault_of(const RailEdge& edge, DepthIn depth_in, double width, double height, Words where) {
  double arched = 0;
  for (const RailProfile* p : {&edge.first, &edge.plus}) {
    if (!std::isfinite(p->depth) || !std::isfinite(p->phase) || !std::isfinite(p->periods) || !(p->periods > 0) ||
        p->periods > 50)
      return bad_input(
          FRELM_WORDS("core", "a measure is not a number or out of range (periods: more than 0, at most 50)"), where);
    if (p->kind == ProfileKind::Arch || p->kind == ProfileKind::Dip)
      arched = std::max(arched, std::abs(in_mm(*p, depth_in, height)));
  }
  if (arched > deepest_arch * width)
    return bad_input(
        say(FRELM_WORDS("core", "an arch can't be deeper than half its width, %1 mm here; make it less deep"),
            fmt::format("{:.1f}", width / 2)),
        where);
  return std::nullopt;
}

// The edge with a guide, from left to right.
Result<Curve> guide_edge(const std::shared_ptr<const GuideLine>& line, Words where) {
  if (line == nullptr)
    return bad_input(FRELM_WORDS("core", "choose a guide for this edge"), where);
  if (line->curve->closed())
    return bad_input(FRELM_WORDS("core", "an edge needs an open line; for a closed one use Fill a shape"), where);
  const Vec chord = line->curve->at(line->curve->length()).point - line->curve->at(0).point;
  return chord.x < 0 ? *line->backward : *line->curve;
}

// Shares of the block are tapered before they are mapped.
struct Taper {
  double along = 0, across = 0; // shares, within ±0.9
  struct Place {
    double u, v;
    double u_u, u_v, v_u, v_v; // derivatives
  };
  Place at(double u, double v) const {
    const double k = along >= 0 ? 1 - along * (1 - u) : 1 + along * u, k_u = along,
                 q = across >= 0 ? 1 - across * v : 1 + across * (1 - v), q_v = -across;
    return {0.5 + (u - 0.5) * q, 0.5 + (v - 0.5) * k, q, (u - 0.5) * q_v, (v - 0.5) * k_u, k};
  }
  bool none() const { return along == 0 && across == 0; }
};

WarpMap tapered(WarpMap under, const Box& block, Taper taper) {
  if (taper.none())
    return under;
  WarpMap map;
  map.breaks = under.breaks; // a taper across moves them; pieces are then halved until they fit
  map.at = [block, taper, at = std::move(under.at)](Point p) {
    const double w = block.width(), h = block.height();
    const Taper::Place t = taper.at((p.x - block.x0) / w, (p.y - block.y0) / h);
    const WarpPlace m = at({block.x0 + t.u * w, block.y0 + t.v * h});
    return WarpPlace{m.point, m.dx * t.u_u + m.dy * (t.v_u * h / w), m.dx * (t.u_v * w / h) + m.dy * t.v_v};
  };
  return map;
}

Result<BlockMap> rails(const Bend& bend, const Box& block, const BendGuides& guides) {
  const RailsBend& r = bend.rails;
  const RailEdge bottom_edge = r.link == EdgeLink::Free ? r.bottom : r.top;
  const double sense = r.link == EdgeLink::Mirrored ? -1 : 1;
  BlockMap out{block, {}, 1, {}, {}, {}, {}, {1, 0}};
  double w = block.width(), h = block.height();
  if (!std::isfinite(r.taper_along) || !std::isfinite(r.taper_across) || std::abs(r.taper_along) > most_taper ||
      std::abs(r.taper_across) > most_taper)
    return bad_input(FRELM_WORDS("core", "tapers go from -90 to 90 %"), FRELM_WORDS("core", "Rails"));
  const bool top_guide = r.top.first.kind == ProfileKind::Guide,
             bottom_guide = bottom_edge.first.kind == ProfileKind::Guide;
  std::optional<Curve> top, bottom;
  if (top_guide) {
    Result<Curve> c = guide_edge(guides.top, FRELM_WORDS("core", "Rails, top edge"));
    if (!c)
      return c.error();
    top = std::move(*c);
  }
  if (bottom_guide) {
    Result<Curve> c =
        guide_edge(r.link == EdgeLink::Free ? guides.bottom : guides.top, FRELM_WORDS("core", "Rails, bottom edge"));
    if (!c)
      return c.error();
    bottom = std::move(*c);
  }
  Point from{block.x0, block.y0};
  Vec along{1, 0};
  if (top_guide || bottom_guide) {
    const Curve& known = top_guide ? *top : *bottom;
    const Point a = known.at(0).point, b = known.at(known.length()).point;
    if (!(distance(a, b) > 1e-6))
      return bad_input(FRELM_WORDS("core", "the guide's ends lie on one another; an edge needs them apart"),
                       FRELM_WORDS("core", "Rails"));
    along = out.along = unit(b - a);
    out.scale = distance(a, b) / w;
    h *= out.scale, w *= out.scale;
    from = top_guide ? a : a + up_of(along) * h;
  }
  // A guide that is both edges: the bottom one stands a block's height below.
  if (top_guide && bottom_guide && r.link != EdgeLink::Free)
    bottom = top->transformed_rigidly(0, -up_of(along) * h);
  for (const auto& [edge, name, own] : {std::tuple{&r.top, FRELM_WORDS("core", "Rails, top edge"), top_guide},
                                        {&bottom_edge, FRELM_WORDS("core", "Rails, bottom edge"), bottom_guide}})
    if (const std::optional<Error> fault = own ? std::nullopt : fault_of(*edge, r.depth_in, w, h, name))
      return *fault;
  const EdgeHeight over(r.top, r.depth_in, w, h, 1), under(bottom_edge, r.depth_in, w, h, sense);
  WarpMap map;
  if (!top && !bottom && r.verticals == Verticals::Kept) {
    for (const EdgeHeight* e : {&over, &under})
      for (const double c : e->corners())
        map.breaks.push_back(block.x0 + c * w);
    std::sort(map.breaks.begin(), map.breaks.end());
    map.breaks.erase(std::unique(map.breaks.begin(), map.breaks.end()), map.breaks.end());
    map.at = [block, over, under, same = r.link == EdgeLink::Same](Point p) {
      const double wide = block.width(), high = block.height();
      const double u = (p.x - block.x0) / wide, v = (p.y - block.y0) / high;
      const Rise t = over.at(u), b = same ? t : under.at(u);
      const double yt = block.y0 - t.height, yb = block.y1 - b.height;
      return WarpPlace{{p.x, std::lerp(yt, yb, v)}, {1, -std::lerp(t.slope, b.slope, v) / wide}, {0, (yb - yt) / high}};
    };
  } else {
    if (!top)
      top = over.curve(from, along);
    if (!bottom)
      bottom = under.curve(from - up_of(along) * h, along);
    Result<WarpMap> made = rails_map(block, {*top, *bottom, r.verticals});
    if (!made)
      return made.error();
    map = std::move(*made);
  }
  out.map = tapered(std::move(map), block, {r.taper_along / 100, r.taper_across / 100});
  return out;
}

// What a margin leaves of a shape: its largest part.
Result<Contour> inside(const Contour& shape, double margin, const std::stop_token& stop) {
  OffsetOptions options;
  options.stop = stop;
  const Result<OffsetResult> made = offset(Outline{{shape}}, -margin, options);
  if (!made)
    return Error{made.error().code, made.error().what, FRELM_WORDS("core", "Rails")};
  const Contour* largest = nullptr;
  for (const Contour& c : made->rings.front().contours)
    if (largest == nullptr || c.area() > largest->area())
      largest = &c;
  if (largest == nullptr)
    return bad_input(FRELM_WORDS("core", "the margin leaves nothing of the shape to fill; make it smaller"),
                     FRELM_WORDS("core", "Rails"));
  return *largest;
}

// What is solved once for each set of measures.
Result<std::shared_ptr<const FillMap>> solved(FillKey key, const BlockEffort& effort,
                                              const std::function<Result<FillMap>()>& solve) {
  std::shared_ptr<const FillMap> made = effort.fills != nullptr ? effort.fills->find(key) : nullptr;
  if (made != nullptr)
    return made;
  Result<FillMap> fresh = solve();
  if (!fresh)
    return placed_within(FRELM_WORDS("core", "Rails"), fresh.error());
  made = std::make_shared<const FillMap>(std::move(*fresh));
  return effort.fills != nullptr ? effort.fills->store(std::move(key), made) : made;
}

Result<BlockMap> fill_upright(const UprightFill& options, const Box& ink, Contour shape, double margin,
                              const BlockEffort& effort) {
  if (shape.area() < 0)
    shape = shape.reversed();
  Contour room = shape;
  if (margin > 0) {
    if (crosses_itself(shape))
      return bad_input(FRELM_WORDS("core", "the shape to fill crosses itself; choose one that doesn't"),
                       FRELM_WORDS("core", "Rails"));
    Result<Contour> inner = inside(shape, margin, effort.stop);
    if (!inner)
      return inner.error();
    room = std::move(*inner);
  }
  const auto made = solved({ink, room, {}, false, {}, options}, effort, [&]() -> Result<FillMap> {
    Result<UprightMap> upright = upright_fill(ink, room, options);
    if (!upright)
      return upright.error();
    return FillMap{std::move(upright->map)};
  });
  if (!made)
    return made.error();
  const WarpMap& map = (*made)->map;
  const double width = map.at({ink.x1, ink.y0}).point.x - map.at({ink.x0, ink.y0}).point.x;
  return BlockMap{ink, map, width / ink.width(), {}, std::move(shape), std::move(room), {}};
}

Result<BlockMap> fill(const Bend& bend, const Box& ink, const BendGuides& guides, const BlockEffort& effort) {
  if (guides.line == nullptr)
    return bad_input(FRELM_WORDS("core", "choose a closed shape to fill: click one on the sheet"),
                     FRELM_WORDS("core", "Rails"));
  if (!guides.line->curve->closed())
    return bad_input(
        FRELM_WORDS("core", "the shape to fill is open; close it, or take the space that several lines enclose"),
        FRELM_WORDS("core", "Rails"));
  const ShapeFill& f = bend.rails.fill;
  if (!(f.margin >= 0) || !std::isfinite(f.margin))
    return bad_input(FRELM_WORDS("core", "the margin can't be negative"), FRELM_WORDS("core", "Rails"));
  if (f.style == FillStyle::Upright)
    return fill_upright(f.upright, ink, guides.line->curve->contour(arc_tolerance), f.margin, effort);
  const auto named = [](const Error& e) { return Error{e.code, e.what, FRELM_WORDS("core", "Rails")}; };
  Result<FillTarget> target = fill_target(guides.line->curve->contour(arc_tolerance));
  if (!target)
    return named(target.error());
  const Contour shape = target->boundary;
  if (f.margin > 0) {
    const Result<Contour> inner = inside(shape, f.margin, effort.stop);
    if (!inner)
      return inner.error();
    target = fill_target(*inner);
    if (!target)
      return named(target.error());
  }
  if (f.corners) {
    const Curve whole({shape.segments.begin(), shape.segments.end()}, true),
        edge({target->boundary.segments.begin(), target->boundary.segments.end()}, true);
    for (std::size_t k = 0; k < 4; ++k) {
      const double s = (*f.corners)[k] * whole.length();
      target->corners[k] = f.margin > 0 ? edge.nearest(whole.at(s).point) : s;
    }
  }
  const FillMeasure room = fill_measure(*target);
  // Natural: the part of the shape that the letters take up is as high as they are when they are as wide as it.
  Box block = ink;
  if (f.height == FillHeight::Natural && room.height > 0) {
    const Point c = ink.centre();
    const double w = std::max(ink.width(), ink.height() * room.width / room.height), h = w * room.height / room.width;
    block = {c.x - w / 2, c.y - h / 2, c.x + w / 2, c.y + h / 2};
  }
  const auto made = solved({block, target->boundary, target->corners, effort.sketch, effort.only, {}}, effort, [&] {
    return fill_map(block, *target, {effort.only, effort.stop, effort.sketch});
  });
  if (!made)
    return made.error();
  const double scale = block.width() > 0 ? room.width / block.width() : 1;
  return BlockMap{block, (*made)->map, scale, std::move(*target), shape, {}, (*made)->solved};
}

WarpMap framed(WarpMap map, const Affine& frame) {
  if (frame == Affine{})
    return map;
  WarpMap out;
  out.breaks = std::move(map.breaks), out.level_breaks = std::move(map.level_breaks);
  out.at = [frame, at = std::move(map.at)](Point p) {
    const WarpPlace w = at(p);
    return WarpPlace{frame(w.point), frame.linear(w.dx), frame.linear(w.dy)};
  };
  return out;
}

// The map of what an affine map makes of a place. Its breaks are of no use here.
WarpMap after(const Affine& first, const WarpMap& map) {
  return {[first, &map](Point p) {
            const WarpPlace w = map.at(first(p));
            return WarpPlace{w.point, w.linear(first.linear({1, 0})), w.linear(first.linear({0, 1}))};
          },
          {},
          {}};
}

WarpMap standing() {
  return {[](Point p) { return WarpPlace{p, {1, 0}, {0, 1}}; }, {}, {}};
}

} // namespace

std::vector<const GuideRef*> Bend::followed() const {
  if (rides())
    return {&guide};
  if (laid_by() != BendKind::Rails)
    return {};
  if (rails.into == RailsInto::Shape)
    return {&rails.fill};
  std::vector<const GuideRef*> out;
  if (rails.top.first.kind == ProfileKind::Guide)
    out.push_back(&rails.top);
  if (rails.link == EdgeLink::Free && rails.bottom.first.kind == ProfileKind::Guide)
    out.push_back(&rails.bottom);
  return out;
}

double peak_share(const RailProfile& profile) {
  return std::clamp(0.5 + profile.phase / 100, 0.02, 0.98);
}

double profile_height(const RailEdge& edge, DepthIn depth_in, double width, double height, double share) {
  return EdgeHeight(edge, depth_in, width, height, 1).at(share).height;
}

Affine block_frame(const Bend& bend, const Placement& placement) {
  return bend.placed_by_guides() ? Affine{}
                                 : Affine::translation(placement.at) * Affine::rotation(radians(placement.angle));
}

Result<BlockMap> block_map(const Bend& bend, const Box& block, const Placement& placement, const BendGuides& guides,
                           const BlockEffort& effort) {
  if (!(block.width() > 0) || !(block.height() > 0))
    return bad_input(FRELM_WORDS("core", "there is nothing to bend yet; type some letters first"),
                     FRELM_WORDS("core", "Bend"));
  Result<BlockMap> made = bend.laid_by() != BendKind::Rails     ? BlockMap{block, standing(), 1, {}, {}, {}, {}, {1, 0}}
                          : bend.rails.into == RailsInto::Shape ? fill(bend, block, guides, effort)
                                                                : rails(bend, block, guides);
  if (!made)
    return made.error();
  if (bend.kind == BendKind::Net) {
    Result<WarpMap> moved = displaced(std::move(made->map), made->block, bend.net.net);
    if (!moved)
      return moved.error();
    made->map = std::move(*moved);
  }
  made->map = framed(std::move(made->map), block_frame(bend, placement));
  return std::move(*made);
}

Result<BentOutlines> bend_block(const Bend& bend, const std::vector<Outline>& outlines, const Placement& placement,
                                const BendGuides& guides, const BlockEffort& effort,
                                const std::function<void(double)>& progress) {
  Box ink;
  std::vector<Box> boxes;
  std::vector<Outline> raised; // only where something is done before
  for (std::size_t i = 0; i < effort.before.size(); ++i)
    raised.push_back(outlines[i].transformed(effort.before[i]));
  const std::vector<Outline>& block = raised.empty() ? outlines : raised;
  for (const Outline& o : block) {
    boxes.push_back(o.bounds());
    ink.add(boxes.back());
  }
  Result<BlockMap> made = block_map(bend, ink, placement, guides, effort);
  if (!made)
    return made.error();
  BentOutlines out;
  WarpOptions options;
  options.sketch = effort.sketch, options.stop = effort.stop;
  bool first = true;
  for (std::size_t i = 0; i < outlines.size(); ++i) {
    Result<WarpResult> bent = warp(block[i], made->map, options);
    if (!bent)
      return placed_within(FRELM_WORDS("core", "Bend"), bent.error());
    WarpReport& sum = out.block.report;
    sum.nodes_in += bent->report.nodes_in, sum.nodes_out += bent->report.nodes_out;
    sum.worst = std::max(sum.worst, bent->report.worst);
    sum.folds += bent->report.folds;
    sum.fold_box.add(bent->report.fold_box);
    if (const Box& b = boxes[i]; !b.empty() && !effort.sketch) { // nobody reads figures while the hand moves
      const double x = b.centre().x;
      out.block.heights.push_back(distance(made->map.at({x, b.y0}).point, made->map.at({x, b.y1}).point));
      const WarpMap both = effort.before.empty() ? made->map : after(effort.before[i], made->map);
      const WarpStretch s = stretch_of(outlines[i], both);
      WarpStretch& all = out.block.stretch;
      if (first || s.narrowest < all.narrowest)
        all.narrowest = s.narrowest, all.narrowest_at = both.at(s.narrowest_at).point;
      if (first || s.widest > all.widest)
        all.widest = s.widest, all.widest_at = both.at(s.widest_at).point;
      if (first || s.steepest_shear > all.steepest_shear)
        all.steepest_shear = s.steepest_shear, all.steepest_at = both.at(s.steepest_at).point;
      first = false;
    }
    out.outlines.push_back(std::move(bent->outline));
    if (progress)
      progress(static_cast<double>(i + 1) / static_cast<double>(outlines.size()));
  }
  // A shape that the letters fold in one way is solved the other way, if that is better.
  if (out.block.report.folds > 0 && made->solved == FillSolve::Forward && !effort.only) {
    BlockEffort other = effort;
    other.only = FillSolve::Inverse;
    Result<BentOutlines> again = bend_block(bend, outlines, placement, guides, other, progress);
    if (again && again->block.report.folds < out.block.report.folds)
      return std::move(*again);
  }
  out.block.stretch.narrowest /= made->scale, out.block.stretch.widest /= made->scale;
  out.block.sketch = effort.sketch;
  out.block.made = std::move(*made);
  return out;
}

} // namespace frelm
