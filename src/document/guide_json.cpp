// Guide shapes in the job file: an object with its kind and its measures, mm and degrees.
#include "document/job_json.h"

namespace frelm::job_json {

FRELM_NAMES(Winding, {Winding::Clockwise, "clockwise"}, {Winding::Counterclockwise, "counterclockwise"});
FRELM_NAMES(RibbonEnd, {RibbonEnd::Straight, "straight"}, {RibbonEnd::SwallowTail, "swallow-tail"});
FRELM_NAMES(PlateForm, {PlateForm::Rectangle, "rectangle"}, {PlateForm::Ellipse, "ellipse"});
FRELM_NAMES(PlateHoles, {PlateHoles::None, "none"}, {PlateHoles::Two, "two"}, {PlateHoles::Four, "four"});

namespace {

Json shape(const CircleGuide& g) {
  return {{"kind", "circle"}, {"centre", point(g.centre)}, {"radius", g.radius}, {"start", g.start}};
}
Json shape(const LineGuide& g) {
  return {{"kind", "line"}, {"from", point(g.from)}, {"to", point(g.to)}};
}
Json shape(const ArcGuide& g) {
  return {{"kind", "arc"}, {"centre", point(g.centre)}, {"radius", g.radius}, {"start", g.start}, {"sweep", g.sweep}};
}
Json shape(const BandGuide& g) {
  return {{"kind", "band"},   {"centre", point(g.centre)}, {"inner", g.inner},
          {"outer", g.outer}, {"margin", g.margin},        {"start", g.start}};
}
Json shape(const EllipseGuide& g) {
  return {{"kind", "ellipse"}, {"centre", point(g.centre)}, {"rx", g.rx},      {"ry", g.ry},
          {"turn", g.turn},    {"start", g.start},          {"sweep", g.sweep}};
}
Json shape(const SpiralGuide& g) {
  return {
      {"kind", "spiral"}, {"centre", point(g.centre)},    {"inner", g.inner}, {"pitch", g.pitch}, {"turns", g.turns},
      {"start", g.start}, {"winding", name_of(g.winding)}};
}
Json shape(const FrameGuide& g) {
  return {{"kind", "frame"},    {"centre", point(g.centre)}, {"width", g.width},
          {"height", g.height}, {"corner", g.corner},        {"turn", g.turn}};
}
Json shape(const PolygonGuide& g) {
  return {{"kind", "polygon"}, {"centre", point(g.centre)}, {"radius", g.radius}, {"sides", g.sides}, {"turn", g.turn}};
}
Json shape(const StarGuide& g) {
  return {{"kind", "star"},   {"centre", point(g.centre)}, {"outer", g.outer},
          {"inner", g.inner}, {"points", g.points},        {"turn", g.turn}};
}
Json shape(const HeartGuide& g) {
  return {{"kind", "heart"}, {"centre", point(g.centre)}, {"width", g.width}, {"height", g.height}, {"turn", g.turn}};
}
Json shape(const PlateGuide& g) {
  return {{"kind", "plate"},
          {"centre", point(g.centre)},
          {"width", g.width},
          {"height", g.height},
          {"form", name_of(g.form)},
          {"corner", g.corner},
          {"holes", name_of(g.holes)},
          {"hole", g.hole},
          {"edge", g.edge},
          {"turn", g.turn}};
}
Json shape(const RibbonGuide& g) {
  const RibbonCut& c = g.cut;
  return {{"kind", "ribbon"}, {"along", guide_shape(ribbon_line(g))},
          {"width", c.width}, {"end", name_of(c.end)},
          {"notch", c.notch}, {"folds", c.folds},
          {"tail", c.tail},   {"drop", c.drop},
          {"gap", c.gap}};
}
Json shape(const FreehandGuide& g) {
  Json points = Json::array();
  for (const Point p : g.points)
    points.push_back(point(p));
  return {{"kind", "freehand"}, {"points", points}, {"smoothing", g.smoothing}, {"closed", g.closed}};
}
Json shape(const PathGuide& g) {
  return {{"kind", "path"}, {"path", outline({{g.contour}})}};
}
Json shape(const OutlineGuide& g) {
  Json out = {{"kind", "edge"}, {"of", g.of}, {"contour", g.contour}};
  if (g.corner)
    out["corner"] = *g.corner;
  return out;
}
Json shape(const MidwayGuide& g) {
  return {{"kind", "midway"}, {"first", g.first}, {"second", g.second}, {"margin", g.margin}};
}

} // namespace

Json guide_shape(const GuideShape& s) {
  return std::visit([](const auto& g) { return shape(g); }, s);
}

GuideShape guide_shape(const At& at) {
  const std::string kind = at.has("kind") ? at["kind"].text() : "circle"; // version 1 named none
  const auto centre = [&] { return point(at["centre"]); };
  if (kind == "circle")
    return CircleGuide{centre(), at["radius"].positive(), at["start"].number()};
  if (kind == "line")
    return LineGuide{point(at["from"]), point(at["to"])};
  if (kind == "arc")
    return ArcGuide{centre(), at["radius"].positive(), at["start"].number(), at["sweep"].number()};
  if (kind == "band")
    return BandGuide{centre(), at["inner"].positive(), at["outer"].positive(), at["margin"].number(),
                     at["start"].number()};
  if (kind == "ellipse")
    return EllipseGuide{centre(),
                        at["rx"].positive(),
                        at["ry"].positive(),
                        at["turn"].number(),
                        at["start"].number(),
                        at["sweep"].number()};
  if (kind == "spiral")
    return SpiralGuide{centre(),
                       at["inner"].number(),
                       at["pitch"].positive(),
                       at["turns"].positive(),
                       at["start"].number(),
                       at["winding"].choice<Winding>()};
  if (kind == "ribbon") {
    const std::string along = at["along"]["kind"].text();
    if (along != "line" && along != "arc" && along != "path")
      at["along"]["kind"].refuse(FRELM_WORDS("core", "must be a line, an arc or a path"));
    const RibbonCut cut{at["width"].positive(), at["end"].choice<RibbonEnd>(), at["notch"].number(), at["folds"].flag(),
                        at["tail"].positive(),  at["drop"].number(),           at["gap"].number()};
    Result<RibbonGuide> g = along_line({LineGuide{}, cut}, guide_shape(at["along"]));
    if (!g)
      at["along"].refuse(g.error().what);
    return *g;
  }
  if (kind == "plate")
    return PlateGuide{centre(),
                      at["width"].positive(),
                      at["height"].positive(),
                      at["form"].choice<PlateForm>(),
                      at["corner"].number(),
                      at["holes"].choice<PlateHoles>(),
                      at["hole"].positive(),
                      at["edge"].number(),
                      at["turn"].number()};
  if (kind == "frame")
    return FrameGuide{centre(), at["width"].positive(), at["height"].positive(), at["corner"].number(),
                      at["turn"].number()};
  if (kind == "polygon")
    return PolygonGuide{centre(), at["radius"].positive(), at["sides"].whole(), at["turn"].number()};
  if (kind == "star")
    return StarGuide{centre(), at["outer"].positive(), at["inner"].positive(), at["points"].whole(),
                     at["turn"].number()};
  if (kind == "heart")
    return HeartGuide{centre(), at["width"].positive(), at["height"].positive(), at["turn"].number()};
  if (kind == "freehand") {
    FreehandGuide g;
    const At points = at["points"];
    for (std::size_t i = 0; i < points.size(); ++i)
      g.points.push_back(point(points.item(i)));
    g.smoothing = at["smoothing"].number();
    g.closed = at["closed"].flag();
    return g;
  }
  if (kind == "path") {
    const Outline o = outline(at["path"]);
    if (o.contours.size() != 1)
      at["path"].refuse(FRELM_WORDS("core", "must be one line"));
    return PathGuide{o.contours.front()};
  }
  if (kind == "edge") {
    OutlineGuide g{at["of"].whole(), at["contour"].whole(), {}};
    if (at.has("corner"))
      g.corner = at["corner"].whole();
    return g;
  }
  if (kind == "midway")
    return MidwayGuide{at["first"].whole(), at["second"].whole(), at["margin"].number()};
  at["kind"].refuse(say(FRELM_WORDS("core", "'%1' is not a guide this Frelm knows"), kind));
}

} // namespace frelm::job_json
