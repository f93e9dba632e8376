// Handles stand where the warp takes their places of the block. A drag is read in the frame of the edge, the side or
// the peg that it pulls, divided by how far that place moves for each unit of the number, and becomes a change of the
// bend.
#include "lettering/block_edit.h"
#include "geom/said.h"

namespace frelm {
namespace {

constexpr int places_on_line = 64;
constexpr double aside = 0.1; // of the width: a second handle that would lie on the first

double share_on(const RailProfile& p) {
  switch (p.kind) {
  case ProfileKind::Wave: { // its first crest
    const double crest = (0.25 - p.phase / 360) / p.periods, period = 1 / p.periods;
    return std::min(crest - std::floor(crest / period) * period, 1.0);
  }
  case ProfileKind::Peak:
    return peak_share(p);
  case ProfileKind::Ramp:
    return 1;
  default:
    return 0.5;
  }
}

// Height per mm of depth at a share of the width.
double leverage(const RailProfile& p, const Box& block, double share) {
  RailProfile one = p;
  if (p.kind == ProfileKind::Straight)
    return 1;
  one.depth = p.depth != 0 ? std::abs(p.depth) : 1;
  const double h = profile_height({{}, one, {}}, DepthIn::Millimetre, block.width(), block.height(), share);
  return std::abs(h) > 0.05 * one.depth ? h / one.depth : 1;
}

bool arched(const RailProfile& p) {
  return p.kind == ProfileKind::Arch || p.kind == ProfileKind::Dip;
}
// The same edge downwards, of the same depth for an arch or a dip.
RailProfile upside_down(RailProfile p) {
  if (arched(p))
    p.kind = p.kind == ProfileKind::Arch ? ProfileKind::Dip : ProfileKind::Arch;
  else
    p.depth = -p.depth;
  return p;
}

double snapped(double v, double step, bool snap) {
  return snap ? std::round(v / step) * step : v;
}

// Pulls of pegs with those mirrored to them.
std::vector<NetPull> pulls_of(const NetBend& net, const std::vector<std::size_t>& pegs, Vec by) {
  std::vector<NetPull> out;
  const auto pulled_already = [&](std::size_t peg) {
    return std::any_of(out.begin(), out.end(), [&](const NetPull& p) { return p.peg == peg; });
  };
  for (const std::size_t peg : pegs)
    if (peg < net.net.pegs.size())
      out.push_back({peg, by});
  if (net.mirror)
    for (const std::size_t peg : pegs)
      if (const auto other = peg < net.net.pegs.size() ? mirrored_peg(net.net, peg) : std::nullopt) {
        if (*other == peg)
          for (NetPull& p : out)
            p.by.x = p.peg == peg ? 0 : p.by.x; // on the middle line it stays there
        else if (!pulled_already(*other))
          out.push_back({*other, {-by.x, by.y}});
      }
  return out;
}

// How wide the cell beside a line is, towards `way`.
double cell_beside(const std::vector<double>& lines, std::size_t line, double way) {
  if (way > 0)
    return line + 1 < lines.size() ? lines[line + 1] - lines[line] : 0;
  return line > 0 ? lines[line] - lines[line - 1] : 0;
}

RailEdge& edge_of(RailsBend& rails, bool bottom) {
  return bottom && rails.link == EdgeLink::Free ? rails.bottom : rails.top;
}

void drag_profile(RailsBend& rails, const Box& block, const BlockHandle& handle, Vec by, bool snap) {
  RailEdge& edge = edge_of(rails, handle.bottom);
  RailProfile& p = handle.kind == BlockHandleKind::More ? edge.plus : edge.first;
  const double sense = handle.bottom && rails.link == EdgeLink::Mirrored ? -1 : 1;
  const double per_mm = rails.depth_in == DepthIn::Percent ? 100 / block.height() : 1;
  if (p.kind == ProfileKind::Straight)
    p = {ProfileKind::Arch, 0, 1, 0};
  const double share = share_on(p);
  if (p.kind == ProfileKind::Wave)
    p.phase = snapped(wrap_degrees(p.phase - 360 * p.periods * by.x / block.width()), 5, snap);
  if (p.kind == ProfileKind::Peak)
    p.phase = std::clamp(snapped(p.phase + 100 * by.x / block.width(), 1, snap), -48.0, 48.0);
  p.depth += sense * -by.y / leverage(p, block, share) * per_mm;
  p.depth = snapped(p.depth, rails.depth_in == DepthIn::Percent ? 1 : 0.5, snap);
  if (arched(p)) {
    if (p.depth < 0)
      p = upside_down(p), p.depth = -p.depth;
    p.depth = std::min(p.depth, deepest_arch * block.width() * per_mm);
  }
}

} // namespace

RailsBend with_link(RailsBend rails, EdgeLink link) {
  if (link == EdgeLink::Free && rails.link != EdgeLink::Free) {
    rails.bottom = rails.top;
    if (rails.top.first.kind == ProfileKind::Guide)
      rails.bottom = {};
    else if (rails.link == EdgeLink::Mirrored)
      rails.bottom.first = upside_down(rails.bottom.first), rails.bottom.plus = upside_down(rails.bottom.plus);
  }
  rails.link = link;
  return rails;
}

RailsBend with_depth_in(RailsBend rails, DepthIn depth_in, double height) {
  if (rails.depth_in == depth_in || !(height > 0))
    return rails;
  const double k = depth_in == DepthIn::Millimetre ? height / 100 : 100 / height;
  for (RailEdge* e : {&rails.top, &rails.bottom})
    e->first.depth *= k, e->plus.depth *= k;
  rails.depth_in = depth_in;
  return rails;
}

RailsBend with_profiles(RailsBend rails, const RailsBend& chosen, double height) {
  const RailsBend like = with_depth_in(chosen, rails.depth_in, height);
  rails.top.first = like.top.first, rails.top.plus = like.top.plus;
  rails.bottom.first = like.bottom.first, rails.bottom.plus = like.bottom.plus;
  rails.link = like.link;
  return rails;
}

NetBend with_more(NetBend net, NetLine line) {
  const double at = widest_middle(net.net, line);
  net.net = with_line(net.net, line, at);
  if (line == NetLine::Column && net.mirror)
    net.net = with_line(net.net, line, 1 - at);
  return net;
}

double share_nearest(const BlockMap& made, Point at) {
  const Curve whole({made.shape.segments.begin(), made.shape.segments.end()}, true);
  return whole.nearest(at) / whole.length();
}

std::array<double, 4> corner_shares(const BlockMap& made) {
  const Curve edge({made.target->boundary.segments.begin(), made.target->boundary.segments.end()}, true),
      whole({made.shape.segments.begin(), made.shape.segments.end()}, true);
  std::array<double, 4> out{};
  for (std::size_t k = 0; k < 4; ++k)
    out[k] = whole.nearest(edge.at(made.target->corners[k]).point) / whole.length();
  return out;
}

bool corners_in_order(const std::array<double, 4>& corners) {
  double around = 0;
  for (std::size_t k = 0; k < 4; ++k) {
    const double d = std::fmod(corners[(k + 1) % 4] - corners[k] + 2, 1.0);
    if (d < 0.012)
      return false;
    around += d;
  }
  return std::abs(around - 1) < 1e-6;
}

std::vector<BlockHandle> block_handles(const Bend& bend, const BlockMap& made, const std::vector<std::size_t>& chosen) {
  std::vector<BlockHandle> out;
  const Box& b = made.block;
  const auto at = [&](double u, double v) { return made.map.at({b.x0 + u * b.width(), b.y0 + v * b.height()}).point; };
  if (bend.kind == BendKind::Net) {
    const Net& net = bend.net.net;
    for (std::size_t k = 0; k < net.pegs.size(); ++k) {
      const std::size_t i = k % net.columns.size(), j = k / net.columns.size();
      const Point peg = at(net.columns[i], net.rows[j]);
      if (chosen.size() == 1 && chosen.front() == k) {
        const WarpPlace w = made.map.at({b.x0 + net.columns[i] * b.width(), b.y0 + net.rows[j] * b.height()});
        for (const double way : {1.0, -1.0}) {
          const Vec along = w.dx * (way * b.width() * cell_beside(net.columns, i, way) / 3),
                    down = w.dy * (way * b.height() * cell_beside(net.rows, j, way) / 3);
          if (length(along) > 0)
            out.push_back({BlockHandleKind::PegAlong, false, k, way, peg + along, peg});
          if (length(down) > 0)
            out.push_back({BlockHandleKind::PegDown, false, k, way, peg + down, peg});
        }
      }
      out.push_back({BlockHandleKind::Peg, false, k, 1, peg, peg});
    }
    return out;
  }
  if (bend.fills() && made.upright) {
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
      out.push_back({BlockHandleKind::End, false, side, 1, at(static_cast<double>(side), 0.5),
                     at(static_cast<double>(side), 0.5)});
    return out;
  }
  if (bend.fills()) {
    if (!made.target)
      return out;
    constexpr std::array<Point, 4> corners{Point{0, 0}, Point{1, 0}, Point{1, 1}, Point{0, 1}};
    for (std::size_t k = 0; k < 4; ++k) {
      const Point p = at(corners[k].x, corners[k].y);
      out.push_back({BlockHandleKind::Corner, false, k, 1, p, p});
    }
    return out;
  }
  const RailsBend& r = bend.rails;
  for (const bool bottom : {false, true}) {
    const RailEdge& edge = bottom && r.link == EdgeLink::Free ? r.bottom : r.top;
    if (edge.first.kind == ProfileKind::Guide)
      continue;
    const double v = bottom ? 1 : 0, first = share_on(edge.first);
    if (edge.plus.kind != ProfileKind::Straight) {
      double more = share_on(edge.plus);
      if (std::abs(more - first) < aside)
        more += more > 0.5 ? -aside : aside;
      out.push_back({BlockHandleKind::More, bottom, 0, 1, at(more, v), at(more, v)});
    }
    out.push_back({BlockHandleKind::Depth, bottom, 0, 1, at(first, v), at(first, v)});
  }
  if (!bend.between_guides())
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}}) {
      const double u = static_cast<double>(side);
      out.push_back({BlockHandleKind::TaperAlong, false, side, 1, at(u, 0), at(u, 0)});
      out.push_back({BlockHandleKind::TaperAcross, false, side, 1, at(u, 1), at(u, 1)});
    }
  return out;
}

Bend with_block_handle(const Bend& bend, const BlockMap& made, const Placement& placement, const BlockHandle& handle,
                       const BlockDrag& drag) {
  Bend out = bend;
  const Affine back = Affine::rotation(-radians(bend.placed_by_guides() ? 0 : placement.angle));
  const Vec by = back.linear(drag.to - drag.from);
  const Box& b = made.block;
  const auto taper = [&](double& value, double change) {
    value = std::clamp(snapped(value + change, 1, drag.snap), -most_taper, most_taper);
  };
  switch (handle.kind) {
  case BlockHandleKind::Depth:
  case BlockHandleKind::More:
    // An edge's own frame lies along the chord of the guide that the other one follows, and is as large as that.
    drag_profile(out.rails, {b.x0, b.y0, b.x0 + b.width() * made.scale, b.y0 + b.height() * made.scale}, handle,
                 {dot(by, made.along), dot(by, -up_of(made.along))}, drag.snap);
    break;
  case BlockHandleKind::TaperAlong:
    taper(out.rails.taper_along, (handle.index == 0 ? 200 : -200) * by.y / b.height());
    break;
  case BlockHandleKind::TaperAcross:
    taper(out.rails.taper_across, (handle.index == 0 ? 200 : -200) * by.x / b.width());
    break;
  case BlockHandleKind::Corner: {
    if (!made.target)
      break;
    std::array<double, 4> corners = corner_shares(made);
    corners[handle.index] = share_nearest(made, drag.to);
    if (corners_in_order(corners))
      out.rails.fill.corners = corners;
    break;
  }
  case BlockHandleKind::End: {
    if (!made.upright)
      break;
    const ShapeHeights shape(*made.upright);
    const double x = std::clamp(handle.at.x + drag.to.x - drag.from.x, shape.left(), shape.right());
    const double share = shape.greatest() > 0 ? shape.at(x) / shape.greatest() : 0;
    double& end = out.rails.fill.upright.ends[handle.index];
    end = std::clamp(snapped(100 * share, 1, drag.snap) / 100, least_end, 1.0);
    break;
  }
  case BlockHandleKind::Peg:
    out = with_pegs_moved(bend, placement, drag.chosen.empty() ? std::vector{handle.index} : drag.chosen,
                          drag.to - drag.from);
    break;
  case BlockHandleKind::PegAlong:
  case BlockHandleKind::PegDown: {
    Net& net = out.net.net;
    const bool along = handle.kind == BlockHandleKind::PegAlong;
    const std::size_t i = handle.index % net.columns.size(), j = handle.index / net.columns.size();
    const double cell = along ? cell_beside(net.columns, i, handle.way) : cell_beside(net.rows, j, handle.way);
    const Vec change = by * (3 * handle.way / cell);
    NetPeg& peg = net.pegs[handle.index];
    (along ? peg.along : peg.down) += change;
    peg.touched = true;
    if (const auto other = out.net.mirror ? mirrored_peg(net, handle.index) : std::nullopt;
        other && *other != handle.index) {
      NetPeg& twin = net.pegs[*other];
      (along ? twin.along : twin.down) += along ? Vec{change.x, -change.y} : Vec{-change.x, change.y};
      twin.touched = true;
    }
    break;
  }
  }
  return out;
}

Bend with_pegs_moved(const Bend& bend, const Placement& placement, const std::vector<std::size_t>& pegs, Vec by) {
  Bend out = bend;
  const Vec local = Affine::rotation(-radians(bend.placed_by_guides() ? 0 : placement.angle)).linear(by);
  out.net.net = pulled(bend.net.net, pulls_of(bend.net, pegs, local));
  return out;
}

Result<Bend> with_net_line(const Bend& bend, const BlockMap& made, const Placement& placement, std::size_t peg,
                           NetLine line, bool straight) {
  const Net& net = bend.net.net;
  if (bend.kind != BendKind::Net || peg >= net.pegs.size())
    return bad_input(FRELM_WORDS("core", "choose a peg of the net"), FRELM_WORDS("core", "Net"));
  Result<WarpMap> moves = displaced({[](Point) { return WarpPlace{}; }, {}, {}}, made.block, net);
  if (!moves)
    return moves.error();
  // The bend under the net: what is seen, taken back into the net's frame, less the displacement.
  const Affine frame = block_frame(bend, placement);
  const Affine back = Affine::rotation(-std::atan2(frame.b, frame.a)) * Affine::translation({-frame.e, -frame.f});
  const WarpMap base{
      [&](Point p) {
        const WarpPlace whole = made.map.at(p), by = moves->at(p);
        return WarpPlace{back(whole.point) - by.point, back.linear(whole.dx) - by.dx, back.linear(whole.dy) - by.dy};
      },
      {},
      {}};
  const std::size_t number = line == NetLine::Row ? peg / net.columns.size() : peg % net.columns.size();
  Bend out = bend;
  out.net.net =
      straight ? straightened(net, base, made.block, line, number) : evened_out(net, base, made.block, line, number);
  return out;
}

std::vector<BlockLine> block_lines(const Bend& bend, const BlockMap& made) {
  std::vector<BlockLine> out;
  const Box& b = made.block;
  const auto line = [&](BlockLineKind kind, Point from, Point to) {
    BlockLine l{kind, {}};
    for (int i = 0; i <= places_on_line; ++i)
      l.points.push_back(made.map.at(lerp(from, to, static_cast<double>(i) / places_on_line)).point);
    out.push_back(std::move(l));
  };
  const bool net = bend.kind == BendKind::Net;
  const std::vector<double> ends{0, 1};
  const std::vector<double>&columns = net ? bend.net.net.columns : ends, &rows = net ? bend.net.net.rows : ends;
  for (std::size_t j = 0; j < rows.size(); ++j) {
    const double y = b.y0 + rows[j] * b.height();
    line(j == 0 || j + 1 == rows.size() ? BlockLineKind::Edge : BlockLineKind::Inner, {b.x0, y}, {b.x1, y});
  }
  for (std::size_t i = 0; i < columns.size(); ++i) {
    const double x = b.x0 + columns[i] * b.width();
    line(i == 0 || i + 1 == columns.size() ? BlockLineKind::Side : BlockLineKind::Inner, {x, b.y0}, {x, b.y1});
  }
  return out;
}

Words profile_name(ProfileKind kind) {
  constexpr Words names[]{FRELM_WORDS("core", "Straight"), FRELM_WORDS("core", "Arch"), FRELM_WORDS("core", "Dip"),
                          FRELM_WORDS("core", "Wave"),     FRELM_WORDS("core", "Peak"), FRELM_WORDS("core", "Ramp"),
                          FRELM_WORDS("core", "Guide")};
  return names[static_cast<std::size_t>(kind)];
}

Said rails_words(const RailsBend& rails) {
  if (rails.into == RailsInto::Shape)
    return say(FRELM_WORDS("core", "Filled shape"));
  const auto edge = [](const RailEdge& e) {
    return e.plus.kind != ProfileKind::Straight && e.first.kind != ProfileKind::Guide
               ? say(FRELM_WORDS("core", "%1 and %2"), say(profile_name(e.first.kind)), say(profile_name(e.plus.kind)))
               : say(profile_name(e.first.kind));
  };
  if (rails.link == EdgeLink::Same)
    return edge(rails.top);
  if (rails.link == EdgeLink::Mirrored)
    return say(FRELM_WORDS("core", "%1, mirrored"), edge(rails.top));
  return say(FRELM_WORDS("core", "%1 under %2"), edge(rails.bottom), edge(rails.top));
}

double fitting_depth(double percent, double width, double height) {
  constexpr double most = 0.22; // of the width
  return width > 0 && height > 0 ? std::min(percent, std::max(std::floor(100 * most * width / height), 1.0)) : percent;
}

std::vector<RailsBend> rails_gallery(double width, double height) {
  std::vector<RailsBend> out;
  const auto add = [&](EdgeLink link, RailProfile top, RailProfile bottom = {}, RailProfile plus = {}) {
    RailsBend r;
    for (RailProfile* p : {&top, &bottom, &plus})
      p->depth = p->kind == ProfileKind::Straight ? p->depth : fitting_depth(p->depth, width, height);
    r.link = link;
    r.top = {{}, top, plus};
    r.bottom = {{}, bottom, {}};
    out.push_back(std::move(r));
  };
  using enum ProfileKind;
  const RailProfile straight{};
  add(EdgeLink::Same, {Arch, 60});
  add(EdgeLink::Same, {Dip, 60});
  add(EdgeLink::Same, {Wave, 22});
  add(EdgeLink::Same, {Peak, 60});
  add(EdgeLink::Free, {Arch, 70}, straight);
  add(EdgeLink::Free, straight, {Dip, 70});
  add(EdgeLink::Free, {Arch, 45}, {Dip, 45});
  add(EdgeLink::Free, {Dip, 30}, {Arch, 30});
  add(EdgeLink::Free, {Dip, 45}, straight);
  add(EdgeLink::Free, {Peak, 70}, straight);
  add(EdgeLink::Free, {Wave, 25}, straight);
  add(EdgeLink::Mirrored, {Wave, 20, 1.5});
  add(EdgeLink::Same, {Ramp, 70});
  add(EdgeLink::Free, {Ramp, 70}, straight);
  add(EdgeLink::Mirrored, {Ramp, 60});
  add(EdgeLink::Same, {Arch, 60}, straight, {Wave, 10, 3});
  return out;
}

} // namespace frelm
