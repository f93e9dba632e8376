// Rails and nets in the job file.
#include "document/job_json.h"

namespace frelm::job_json {

FRELM_NAMES(ProfileKind, {ProfileKind::Straight, "straight"}, {ProfileKind::Arch, "arch"}, {ProfileKind::Dip, "dip"},
            {ProfileKind::Wave, "wave"}, {ProfileKind::Peak, "peak"}, {ProfileKind::Ramp, "ramp"},
            {ProfileKind::Guide, "guide"});
FRELM_NAMES(EdgeLink, {EdgeLink::Free, "free"}, {EdgeLink::Same, "same"}, {EdgeLink::Mirrored, "mirrored"});
FRELM_NAMES(DepthIn, {DepthIn::Percent, "percent"}, {DepthIn::Millimetre, "mm"});
FRELM_NAMES(Verticals, {Verticals::Follow, "follow"}, {Verticals::Kept, "kept"});
FRELM_NAMES(RailsInto, {RailsInto::Edges, "edges"}, {RailsInto::Shape, "shape"});
FRELM_NAMES(FillStyle, {FillStyle::Smooth, "smooth"}, {FillStyle::Upright, "upright"});
FRELM_NAMES(FillHeight, {FillHeight::Stretched, "stretched"}, {FillHeight::Natural, "natural"});

namespace {

Json profile(const RailProfile& p) {
  return {{"profile", name_of(p.kind)}, {"depth", p.depth}, {"periods", p.periods}, {"phase", p.phase}};
}
RailProfile profile(const At& at) {
  return {at["profile"].choice<ProfileKind>(), at["depth"].number(), at["periods"].positive(), at["phase"].number()};
}

void write_ref(Json& out, const GuideRef& ref) {
  out["guide"] = ref.guide;
  if (ref.own)
    out["own"] = guide_shape(*ref.own);
}
void read_ref(const At& at, GuideRef& ref) {
  ref.guide = at["guide"].whole();
  if (at.has("own"))
    ref.own = guide_shape(at["own"]);
}

Json edge(const RailEdge& e) {
  Json out = {{"first", profile(e.first)}, {"plus", profile(e.plus)}};
  write_ref(out, e);
  return out;
}
RailEdge edge(const At& at) {
  RailEdge e;
  read_ref(at, e);
  e.first = profile(at["first"]), e.plus = profile(at["plus"]);
  return e;
}

std::vector<double> shares(const At& at) {
  std::vector<double> out;
  for (std::size_t i = 0; i < at.size(); ++i)
    out.push_back(at.item(i).number());
  if (out.size() < 2 || out.size() > 200 || out.front() != 0 || out.back() != 1 ||
      !std::is_sorted(out.begin(), out.end(), std::less_equal<>()))
    at.refuse(FRELM_WORDS("core", "must go from 0 to 1, upwards"));
  return out;
}

} // namespace

Json rails(const RailsBend& r) {
  Json fill = {{"style", name_of(r.fill.style)},
               {"ends", r.fill.upright.ends},
               {"proportion", r.fill.upright.proportion},
               {"height", name_of(r.fill.height)},
               {"margin", r.fill.margin}};
  write_ref(fill, r.fill);
  if (r.fill.corners)
    fill["corners"] = *r.fill.corners;
  return {{"into", name_of(r.into)},
          {"top", edge(r.top)},
          {"bottom", edge(r.bottom)},
          {"link", name_of(r.link)},
          {"depth_in", name_of(r.depth_in)},
          {"verticals", name_of(r.verticals)},
          {"taper_along", r.taper_along},
          {"taper_across", r.taper_across},
          {"fill", fill}};
}
RailsBend rails(const At& at) {
  RailsBend r;
  r.into = at["into"].choice<RailsInto>();
  r.top = edge(at["top"]), r.bottom = edge(at["bottom"]);
  r.link = at["link"].choice<EdgeLink>();
  r.depth_in = at["depth_in"].choice<DepthIn>();
  r.verticals = at["verticals"].choice<Verticals>();
  r.taper_along = at["taper_along"].number(), r.taper_across = at["taper_across"].number();
  const At fill = at["fill"];
  read_ref(fill, r.fill);
  r.fill.height = fill["height"].choice<FillHeight>();
  r.fill.margin = fill["margin"].number();
  if (fill.has("style")) { // since version 6
    r.fill.style = fill["style"].choice<FillStyle>();
    const At ends = fill["ends"];
    if (ends.size() != 2)
      ends.refuse(FRELM_WORDS("core", "must be two shares"));
    r.fill.upright = {{ends.item(0).number(), ends.item(1).number()}, fill["proportion"].number()};
  }
  if (fill.has("corners")) {
    const At corners = fill["corners"];
    if (corners.size() != 4)
      corners.refuse(FRELM_WORDS("core", "must be four places"));
    r.fill.corners.emplace();
    for (std::size_t k = 0; k < 4; ++k)
      (*r.fill.corners)[k] = corners.item(k).number();
  }
  return r;
}

Json net(const NetBend& n, const char* base) {
  Json pegs = Json::array();
  for (const NetPeg& p : n.net.pegs)
    pegs.push_back(Json::array(
        {p.at.x, p.at.y, p.along.x, p.along.y, p.down.x, p.down.y, p.twist.x, p.twist.y, p.touched ? 1 : 0}));
  return {{"base", base}, {"columns", n.net.columns}, {"rows", n.net.rows}, {"mirror", n.mirror}, {"pegs", pegs}};
}
NetBend net(const At& at, BendKind base) {
  NetBend n;
  n.base = base;
  if (n.base == BendKind::Net)
    at["base"].refuse(FRELM_WORDS("core", "can't be a net"));
  n.mirror = at["mirror"].flag();
  n.net = {shares(at["columns"]), shares(at["rows"]), {}};
  const At pegs = at["pegs"];
  if (pegs.size() != n.net.columns.size() * n.net.rows.size())
    pegs.refuse(FRELM_WORDS("core", "do not fit the net's columns and rows"));
  for (std::size_t i = 0; i < pegs.size(); ++i) {
    const At p = pegs.item(i);
    if (p.size() != 9)
      p.refuse(FRELM_WORDS("core", "must be nine numbers"));
    const auto vec = [&](std::size_t k) { return Vec{p.item(k).number(), p.item(k + 1).number()}; };
    n.net.pegs.push_back({vec(0), vec(2), vec(4), vec(6), p.item(8).number() != 0});
  }
  return n;
}

} // namespace frelm::job_json
