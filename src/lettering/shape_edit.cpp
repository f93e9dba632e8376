// Handles and measures are lists in one order for each kind: a handle is drawn at its place, taken back into the
// shape's own upright coordinates when it is dragged, and set; a measure is read and written through the number it
// stands for.
#include "lettering/shape_edit.h"

#include "geom/cases.h"
#include "geom/said.h"

#include <functional>

namespace frelm {
namespace {

constexpr double least_size = 0.5;       // mm
constexpr double straight_share = 0.005; // of the chord: less of a rise is none

Point around(Point centre, double angle, double radius) {
  return centre + direction(radians(angle - 90)) * radius;
}
double angle_from(Point centre, Point p) { // degrees, 0 = top
  const Vec d = p - centre;
  return wrap_degrees(degrees(std::atan2(d.y, d.x)) + 90);
}
double size_to(Point centre, Point p) {
  return std::max(distance(centre, p), least_size);
}
// A point in the shape's own upright coordinates about its centre.
Vec own(Point centre, double turn, Point p) {
  return Affine::rotation(-radians(turn)).linear(p - centre);
}
Point placed(Point centre, double turn, Vec v) {
  return centre + Affine::rotation(radians(turn)).linear(v);
}
// Upright shapes of a width and a height, by the place of their lower right corner, or of where a rounded one begins.
template <class Shape> void set_size(Shape& g, Vec own) {
  g.width = std::max(2 * std::abs(own.x), least_size), g.height = std::max(2 * std::abs(own.y), least_size);
}
template <class Shape> void set_corner(Shape& g, Vec own) {
  g.corner = std::clamp(g.width / 2 - own.x, 0.0, std::min(g.width, g.height) / 2);
}
Point arc_point(const ArcGuide& g, double share) {
  return around(g.centre, g.start + g.sweep * share, g.radius);
}

using Handles = std::vector<ShapeHandle>;
constexpr auto move = ShapeHandleKind::Move;
constexpr auto size = ShapeHandleKind::Size;
constexpr auto turn_kind = ShapeHandleKind::Turn;
constexpr auto bend = ShapeHandleKind::Bend;

ShapeHandle plain(ShapeHandleKind kind, const char* name, Point at) {
  return {kind, name, at, at};
}

} // namespace

std::vector<ShapeHandle> shape_handles(const GuideShape& shape, double stalk) {
  return std::visit(
      Cases{
          [&](const CircleGuide& g) -> Handles {
            return {
                plain(move, "centre", g.centre),
                plain(size, "radius", around(g.centre, g.start + 90, g.radius)),
                {turn_kind, "start", around(g.centre, g.start, g.radius + stalk), around(g.centre, g.start, g.radius)}};
          },
          [&](const LineGuide& g) -> Handles {
            return {plain(move, "middle", lerp(g.from, g.to, 0.5)), plain(size, "start", g.from),
                    plain(size, "end", g.to)};
          },
          [&](const ArcGuide& g) -> Handles {
            return {plain(move, "centre", g.centre), plain(size, "start", arc_point(g, 0)),
                    plain(size, "end", arc_point(g, 1)), plain(bend, "pull", arc_point(g, 0.5))};
          },
          [&](const BandGuide& g) -> Handles {
            return {
                plain(move, "centre", g.centre),
                plain(size, "inner radius", around(g.centre, g.start + 90, g.inner)),
                plain(size, "outer radius", around(g.centre, g.start + 90, g.outer)),
                {turn_kind, "start", around(g.centre, g.start, g.outer + stalk), around(g.centre, g.start, g.outer)}};
          },
          [&](const EllipseGuide& g) -> Handles {
            Handles out{plain(move, "centre", g.centre),
                        plain(size, "half width", placed(g.centre, g.turn, {g.rx, 0})),
                        plain(size, "half height", placed(g.centre, g.turn, {0, g.ry})),
                        {turn_kind, "turn", placed(g.centre, g.turn, {0, -g.ry - stalk}),
                         placed(g.centre, g.turn, {0, -g.ry})}};
            if (std::abs(g.sweep) < 360)
              for (const auto& [name, a] : {std::pair{"start", g.start}, std::pair{"end", g.start + g.sweep}}) {
                const Vec d = direction(radians(a - 90));
                out.push_back(plain(bend, name, placed(g.centre, g.turn, {d.x * g.rx, d.y * g.ry})));
              }
            return out;
          },
          [&](const SpiralGuide& g) -> Handles {
            const double sense = g.winding == Winding::Clockwise ? 360 : -360;
            return {plain(move, "centre", g.centre), plain(bend, "inner end", around(g.centre, g.start, g.inner)),
                    plain(size, "pitch", around(g.centre, g.start, g.inner + g.pitch)),
                    plain(size, "outer end", around(g.centre, g.start + sense * g.turns, g.outer()))};
          },
          [&](const FrameGuide& g) -> Handles {
            return {plain(move, "centre", g.centre),
                    plain(size, "size", placed(g.centre, g.turn, {g.width / 2, g.height / 2})),
                    plain(bend, "corner", placed(g.centre, g.turn, {g.width / 2 - g.corner, -g.height / 2})),
                    {turn_kind, "turn", placed(g.centre, g.turn, {0, -g.height / 2 - stalk}),
                     placed(g.centre, g.turn, {0, -g.height / 2})}};
          },
          [&](const PolygonGuide& g) -> Handles {
            return {plain(move, "centre", g.centre), plain(size, "radius", around(g.centre, g.turn, g.radius))};
          },
          [&](const StarGuide& g) -> Handles {
            return {plain(move, "centre", g.centre), plain(size, "outer radius", around(g.centre, g.turn, g.outer)),
                    plain(bend, "inner radius",
                          around(g.centre, g.turn + 180.0 / static_cast<double>(std::max<std::uint64_t>(g.points, 1)),
                                 g.inner))};
          },
          [&](const HeartGuide& g) -> Handles {
            return {plain(move, "centre", g.centre),
                    plain(size, "size", placed(g.centre, g.turn, {g.width / 2, g.height / 2})),
                    {turn_kind, "turn", placed(g.centre, g.turn, {0, -g.height / 2 - stalk}),
                     placed(g.centre, g.turn, {0, -g.height / 2})}};
          },
          [&](const PlateGuide& g) -> Handles {
            return {plain(move, "centre", g.centre),
                    plain(size, "size", placed(g.centre, g.turn, {g.width / 2, g.height / 2})),
                    plain(bend, "corner", placed(g.centre, g.turn, {g.width / 2 - g.corner, -g.height / 2})),
                    {turn_kind, "turn", placed(g.centre, g.turn, {0, -g.height / 2 - stalk}),
                     placed(g.centre, g.turn, {0, -g.height / 2})},
                    plain(bend, "edge distance", placed(g.centre, g.turn, {-g.width / 2 + g.edge, 0}))};
          },
          // The line's own handles, a pull for a straight one too, and the width.
          [&](const RibbonGuide& g) -> Handles {
            const auto line = guide_line(ribbon_line(g));
            if (!line)
              return {};
            const Curve& curve = *(*line)->curve;
            const CurvePlace middle = curve.at(curve.length() / 2), quarter = curve.at(curve.length() / 4);
            Handles out{plain(move, "middle", middle.point)};
            if (!std::holds_alternative<PathGuide>(g.along)) {
              out.push_back(plain(size, "start", curve.at(0).point));
              out.push_back(plain(size, "end", curve.at(curve.length()).point));
            }
            const double side = oriented(**line, Tops::Outward).reversed ? -1 : 1;
            out.push_back(plain(size, "width", quarter.point + up_of(quarter.tangent) * (side * g.cut.width / 2)));
            if (!std::holds_alternative<PathGuide>(g.along))
              out.push_back(plain(bend, "pull", middle.point + up_of(middle.tangent) * (side * g.cut.width / 2)));
            return out;
          },
          [](const auto&) -> Handles { return {}; },
      },
      shape);
}

GuideShape with_handle(const GuideShape& shape, std::size_t i, Point to) {
  if (i == 0 && !shape_handles(shape, 0).empty())
    return transformed(shape, Similarity::move(to - shape_handles(shape, 0)[0].at));
  GuideShape out = shape;
  std::visit(Cases{
                 [&](CircleGuide& g) {
                   if (i == 1)
                     g.radius = size_to(g.centre, to);
                   else
                     g.start = angle_from(g.centre, to);
                 },
                 [&](LineGuide& g) { (i == 1 ? g.from : g.to) = to; },
                 [&](ArcGuide& g) {
                   const Point a = i == 1 ? to : arc_point(g, 0), b = i == 2 ? to : arc_point(g, 1);
                   Point through = i == 3 ? to : arc_point(g, 0.5);
                   if (i != 3) { // the pull keeps its share of the chord
                     const Point old_a = arc_point(g, 0), old_b = arc_point(g, 1);
                     const Vec chord = old_b - old_a, off = through - lerp(old_a, old_b, 0.5);
                     const double rise = dot(off, up_of(unit(chord))) / std::max(length(chord), 1e-9);
                     through = lerp(a, b, 0.5) + up_of(unit(b - a)) * (rise * distance(a, b));
                   }
                   if (const auto arc = arc_through(a, through, b))
                     g = *arc;
                 },
                 [&](BandGuide& g) {
                   if (i == 1)
                     g.inner = std::min(size_to(g.centre, to), g.outer - least_size);
                   else if (i == 2)
                     g.outer = std::max(size_to(g.centre, to), g.inner + least_size);
                   else
                     g.start = angle_from(g.centre, to);
                 },
                 [&](EllipseGuide& g) {
                   const Vec v = own(g.centre, g.turn, to);
                   if (i == 1)
                     g.rx = std::max(std::abs(v.x), least_size);
                   else if (i == 2)
                     g.ry = std::max(std::abs(v.y), least_size);
                   else if (i == 3)
                     g.turn = angle_from(g.centre, to);
                   else {
                     const double a = wrap_degrees(degrees(std::atan2(v.y / g.ry, v.x / g.rx)) + 90);
                     const double end = g.start + g.sweep;
                     if (i == 4)
                       g.start = a;
                     g.sweep = std::fmod((i == 4 ? end : a) - g.start + 720, 360);
                     g.sweep = g.sweep < 1 ? 1 : g.sweep;
                   }
                 },
                 [&](SpiralGuide& g) {
                   const double r = distance(g.centre, to);
                   if (i == 1) {
                     g.inner = r;
                     if (r > least_size)
                       g.start = angle_from(g.centre, to);
                   } else if (i == 2) {
                     g.pitch = std::max(r - g.inner, least_size);
                   } else { // turns with their part, so that the end follows the hand
                     const double sense = g.winding == Winding::Clockwise ? 1 : -1;
                     const double part = std::fmod(sense * (angle_from(g.centre, to) - g.start) / 360 + 2, 1.0);
                     const double whole = std::round((r - g.inner) / g.pitch - part);
                     g.turns = std::max(whole + part, 0.1);
                   }
                 },
                 [&](FrameGuide& g) {
                   const Vec v = own(g.centre, g.turn, to);
                   if (i == 1)
                     set_size(g, v);
                   else if (i == 2)
                     set_corner(g, v);
                   else
                     g.turn = angle_from(g.centre, to);
                 },
                 [&](PolygonGuide& g) { g.radius = size_to(g.centre, to), g.turn = angle_from(g.centre, to); },
                 [&](StarGuide& g) {
                   if (i == 1)
                     g.outer = size_to(g.centre, to), g.turn = angle_from(g.centre, to);
                   else
                     g.inner = size_to(g.centre, to);
                 },
                 [&](HeartGuide& g) {
                   const Vec v = own(g.centre, g.turn, to);
                   if (i == 1)
                     set_size(g, v);
                   else
                     g.turn = angle_from(g.centre, to);
                 },
                 [&](PlateGuide& g) {
                   const Vec v = own(g.centre, g.turn, to);
                   if (i == 1)
                     set_size(g, v);
                   else if (i == 2)
                     set_corner(g, v);
                   else if (i == 3)
                     g.turn = angle_from(g.centre, to);
                   else
                     g.edge = std::clamp(v.x + g.width / 2, g.hole / 2, g.width / 2);
                 },
                 [&](RibbonGuide& g) {
                   const bool path = std::holds_alternative<PathGuide>(g.along);
                   const Handles now = shape_handles(g, 0);
                   const GuideShape line = ribbon_line(g);
                   if (i == (path ? 1U : 3U)) {
                     if (const auto laid = guide_line(line)) {
                       const Curve& curve = *(*laid)->curve;
                       g.cut.width = std::max(2 * distance(curve.at(curve.nearest(to)).point, to), least_size);
                     }
                   } else if (i == 4) { // the line's middle goes with the hand; nearly straight is straight
                     const Point a = now[1].at, b = now[2].at, through = now[0].at + (to - now[4].at);
                     const auto arc = arc_through(a, through, b);
                     if (arc && std::abs(cross(unit(b - a), through - a)) > straight_share * distance(a, b))
                       g.along = *arc;
                     else
                       g.along = LineGuide{a, b};
                   } else if (const auto* straight = std::get_if<LineGuide>(&line)) {
                     g.along = i == 1 ? LineGuide{to, straight->to} : LineGuide{straight->from, to};
                   } else {
                     g.along = std::get<ArcGuide>(with_handle(line, i, to));
                   }
                 },
                 [](auto&) {},
             },
             out);
  return out;
}

namespace {

constexpr auto len = ShapeMeasureKind::Length;
constexpr auto ang = ShapeMeasureKind::Angle;
constexpr auto num = ShapeMeasureKind::Count;
constexpr double far_away = 1e5;

// One list for reading and writing: each measure with the number it stands for.
struct Bound {
  ShapeMeasure measure;
  double* value = nullptr;
  std::uint64_t* count = nullptr;
  double scale = 1;                     // shown for each one stored
  std::function<void(double)> set = {}; // for measures that are no number of the shape's own
};
using Bounds = std::vector<Bound>;

Bound length_of(Words name, double& v, double least = -far_away) {
  return {{name, len, v, least, far_away}, &v, nullptr};
}
Bound angle_of(Words name, double& v, double least = -360, double most = 360) {
  return {{name, ang, v, least, most}, &v, nullptr};
}
Bound number_of(Words name, std::uint64_t& v, double least, double most) {
  return {{name, num, static_cast<double>(v), least, most}, nullptr, &v};
}

Bounds bounds_of(GuideShape& shape) {
  return std::visit(
      Cases{
          [](CircleGuide& g) -> Bounds {
            return {
                length_of(FRELM_WORDS("core", "Radius"), g.radius, least_size),
                {{FRELM_WORDS("core", "Diameter"), len, 2 * g.radius, 2 * least_size, far_away}, &g.radius, nullptr, 2},
                length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                length_of(FRELM_WORDS("core", "Centre y"), g.centre.y),
                angle_of(FRELM_WORDS("core", "Start"), g.start)};
          },
          [](LineGuide& g) -> Bounds {
            const double length = distance(g.from, g.to);
            const Vec d = g.to - g.from;
            return {{{FRELM_WORDS("core", "Length"), len, length, least_size, far_away},
                     nullptr,
                     nullptr,
                     1,
                     [&g, d](double v) { g.to = g.from + unit(d) * v; }},
                    {{FRELM_WORDS("core", "Slope"), ang, degrees(std::atan2(d.y, d.x)), -360, 360},
                     nullptr,
                     nullptr,
                     1,
                     [&g, length](double v) { g.to = g.from + direction(radians(v)) * length; }},
                    length_of(FRELM_WORDS("core", "Start x"), g.from.x),
                    length_of(FRELM_WORDS("core", "Start y"), g.from.y),
                    length_of(FRELM_WORDS("core", "End x"), g.to.x),
                    length_of(FRELM_WORDS("core", "End y"), g.to.y)};
          },
          [](ArcGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Radius"), g.radius, least_size),
                    angle_of(FRELM_WORDS("core", "Start"), g.start), angle_of(FRELM_WORDS("core", "Sweep"), g.sweep),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](BandGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Inner radius"), g.inner, least_size),
                    length_of(FRELM_WORDS("core", "Outer radius"), g.outer, least_size),
                    length_of(FRELM_WORDS("core", "Margin"), g.margin, 0),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y),
                    angle_of(FRELM_WORDS("core", "Start"), g.start)};
          },
          [](EllipseGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Half width"), g.rx, least_size),
                    length_of(FRELM_WORDS("core", "Half height"), g.ry, least_size),
                    angle_of(FRELM_WORDS("core", "Turn"), g.turn),
                    angle_of(FRELM_WORDS("core", "Start"), g.start),
                    angle_of(FRELM_WORDS("core", "Sweep"), g.sweep),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](SpiralGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Inner radius"), g.inner, 0),
                    {{FRELM_WORDS("core", "Outer radius"), len, g.outer(), least_size, far_away},
                     nullptr,
                     nullptr,
                     1,
                     [&g](double v) { g.turns = std::clamp((v - g.inner) / g.pitch, 0.1, 1000.0); }},
                    length_of(FRELM_WORDS("core", "Pitch"), g.pitch, least_size),
                    {{FRELM_WORDS("core", "Turns"), num, g.turns, 0.1, 1000}, &g.turns, nullptr},
                    angle_of(FRELM_WORDS("core", "Start"), g.start),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](FrameGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Width"), g.width, least_size),
                    length_of(FRELM_WORDS("core", "Height"), g.height, least_size),
                    length_of(FRELM_WORDS("core", "Corner"), g.corner, 0),
                    angle_of(FRELM_WORDS("core", "Turn"), g.turn),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](PolygonGuide& g) -> Bounds {
            return {number_of(FRELM_WORDS("core", "Sides"), g.sides, 3, 200),
                    length_of(FRELM_WORDS("core", "Radius"), g.radius, least_size),
                    angle_of(FRELM_WORDS("core", "Turn"), g.turn),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](StarGuide& g) -> Bounds {
            return {number_of(FRELM_WORDS("core", "Points"), g.points, 3, 200),
                    length_of(FRELM_WORDS("core", "Outer radius"), g.outer, least_size),
                    length_of(FRELM_WORDS("core", "Inner radius"), g.inner, least_size),
                    angle_of(FRELM_WORDS("core", "Turn"), g.turn),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](HeartGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Width"), g.width, least_size),
                    length_of(FRELM_WORDS("core", "Height"), g.height, least_size),
                    angle_of(FRELM_WORDS("core", "Turn"), g.turn),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](RibbonGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Width"), g.cut.width, least_size),
                    length_of(FRELM_WORDS("core", "Notch"), g.cut.notch, 0),
                    length_of(FRELM_WORDS("core", "Tails"), g.cut.tail, least_size),
                    length_of(FRELM_WORDS("core", "Drop"), g.cut.drop),
                    length_of(FRELM_WORDS("core", "Gap"), g.cut.gap, 0)};
          },
          [](PlateGuide& g) -> Bounds {
            return {length_of(FRELM_WORDS("core", "Width"), g.width, least_size),
                    length_of(FRELM_WORDS("core", "Height"), g.height, least_size),
                    length_of(FRELM_WORDS("core", "Corner"), g.corner, 0),
                    length_of(FRELM_WORDS("core", "Hole"), g.hole, least_size),
                    length_of(FRELM_WORDS("core", "Edge distance"), g.edge, 0),
                    angle_of(FRELM_WORDS("core", "Turn"), g.turn),
                    length_of(FRELM_WORDS("core", "Centre x"), g.centre.x),
                    length_of(FRELM_WORDS("core", "Centre y"), g.centre.y)};
          },
          [](FreehandGuide& g) -> Bounds { return {length_of(FRELM_WORDS("core", "Smoothing"), g.smoothing, 0)}; },
          [](MidwayGuide& g) -> Bounds { return {length_of(FRELM_WORDS("core", "Margin"), g.margin, 0)}; },
          [](auto&) -> Bounds { return {}; },
      },
      shape);
}

} // namespace

std::vector<ShapeMeasure> shape_measures(const GuideShape& shape) {
  GuideShape copy = shape;
  std::vector<ShapeMeasure> out;
  for (const Bound& b : bounds_of(copy))
    out.push_back(b.measure);
  return out;
}

GuideShape with_measure(const GuideShape& shape, std::size_t index, double value) {
  GuideShape out = shape;
  const Bounds bounds = bounds_of(out);
  if (index >= bounds.size() || !std::isfinite(value))
    return shape;
  const Bound& b = bounds[index];
  value = std::clamp(value, b.measure.least, b.measure.most);
  if (b.set)
    b.set(value);
  else if (b.count != nullptr)
    *b.count = static_cast<std::uint64_t>(std::lround(value));
  else
    *b.value = value / b.scale;
  if (auto* band = std::get_if<BandGuide>(&out); band != nullptr && !(band->inner < band->outer))
    (index == 0 ? band->outer : band->inner) = index == 0 ? band->inner + least_size : band->outer - least_size;
  return out;
}

std::optional<std::size_t> measure_of_handle(const GuideShape& shape, std::size_t handle) {
  const auto handles = shape_handles(shape, 0);
  if (handle == 0 || handle >= handles.size())
    return std::nullopt;
  const std::string name = handles[handle].name;
  const std::vector<ShapeMeasure> measures = shape_measures(shape);
  const auto find = [&](const std::string& wanted) -> std::optional<std::size_t> {
    for (std::size_t i = 0; i < measures.size(); ++i) {
      std::string lower(measures[i].name.text);
      lower[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(lower[0])));
      if (lower == wanted)
        return i;
    }
    return std::nullopt;
  };
  if (name == "pull")
    return find("radius");
  if (name == "size")
    return find("width");
  if (name == "inner end")
    return find("inner radius");
  if (name == "outer end")
    return find("turns");
  return find(name);
}

GuideShape reversed(const GuideShape& shape) {
  GuideShape out = shape;
  std::visit(Cases{
                 [](LineGuide& g) { std::swap(g.from, g.to); },
                 [](ArcGuide& g) { g.start = wrap_degrees(g.start + g.sweep), g.sweep = -g.sweep; },
                 [](EllipseGuide& g) {
                   if (std::abs(g.sweep) < 360)
                     g.start = wrap_degrees(g.start + g.sweep), g.sweep = -g.sweep;
                 },
                 [](FreehandGuide& g) { std::reverse(g.points.begin(), g.points.end()); },
                 [](PathGuide& g) { g.contour = g.contour.reversed(); },
                 [](RibbonGuide& g) {
                   std::visit([](auto& l) { l = std::get<std::decay_t<decltype(l)>>(reversed(l)); }, g.along);
                 },
                 [](auto&) {},
             },
             out);
  return out;
}

std::optional<ArcGuide> arc_through(Point a, Point p, Point b) {
  const Vec u = p - a, v = b - a;
  const double d = 2 * cross(u, v);
  if (std::abs(d) < 1e-9 * (dot(u, u) + dot(v, v)))
    return std::nullopt;
  const Vec c{(v.y * dot(u, u) - u.y * dot(v, v)) / d, (u.x * dot(v, v) - v.x * dot(u, u)) / d};
  ArcGuide g;
  g.centre = a + c;
  g.radius = length(c);
  g.start = angle_from(g.centre, a);
  const auto on = [&](Point q) { return std::fmod(angle_from(g.centre, q) - g.start + 720, 360); };
  const double to_b = on(b);
  g.sweep = on(p) <= to_b ? to_b : to_b - 360;
  return g;
}

GuideShape drawn_shape(std::size_t kind, Point from, Point to) {
  const double r = std::max(distance(from, to), least_size);
  const Point middle = lerp(from, to, 0.5);
  const double w = std::max(std::abs(to.x - from.x), least_size), h = std::max(std::abs(to.y - from.y), least_size);
  const std::vector<GuideShape> shapes{
      CircleGuide{from, r, 0},
      LineGuide{from, to},
      arc_through(from, middle + up_of(unit(to - from)) * (r * 0.25), to).value_or(ArcGuide{from, r, -60, 120}),
      BandGuide{from, r * 0.75, r, r * 0.04, 0},
      EllipseGuide{middle, w / 2, h / 2, 0, 0, 360},
      SpiralGuide{from, r * 0.2, r * 0.8 / 3, 3, 0, Winding::Clockwise},
      FrameGuide{middle, w, h, 0, 0},
      PolygonGuide{from, r, 6, 0},
      StarGuide{from, r, r * 0.45, 5, 0},
      HeartGuide{middle, w, h, 0},
  };
  if (kind == GuideShape(PlateGuide{}).index()) {
    const double least = std::min(w, h), hole = std::min(5.0, least / 10);
    return PlateGuide{.centre = middle,
                      .width = w,
                      .height = h,
                      .corner = least / 12,
                      .hole = hole,
                      .edge = std::max(2 * hole, least / 12)};
  }
  if (kind == GuideShape(RibbonGuide{}).index()) {
    const double width = std::max(r / 8, least_size);
    return RibbonGuide{LineGuide{from, to}, RibbonCut{.width = width,
                                                      .notch = width * 0.4,
                                                      .tail = width,
                                                      .drop = width * 0.3,
                                                      .gap = std::clamp(width / 40, 0.3, 2.0)}};
  }
  return kind < shapes.size() ? shapes[kind] : GuideShape{LineGuide{from, to}};
}

std::optional<GuideShape> usual_shape(std::size_t kind, Point centre, double reach) {
  const auto is = [kind](const GuideShape& s) { return s.index() == kind; };
  const Vec side{reach, 0};
  if (is(LineGuide{}))
    return LineGuide{centre - side, centre + side};
  if (is(RibbonGuide{}))
    return drawn_shape(kind, centre - side, centre + side);
  if (is(ArcGuide{}))
    return *arc_through(centre - side, centre - Vec{0, 0.4 * reach}, centre + side);
  if (is(FreehandGuide{}) || is(PathGuide{}) || is(OutlineGuide{}) || is(MidwayGuide{}))
    return std::nullopt;
  const bool corner_to_corner = is(FrameGuide{}) || is(EllipseGuide{}) || is(HeartGuide{}) || is(PlateGuide{});
  const Vec corner{reach, 0.7 * reach};
  return corner_to_corner ? drawn_shape(kind, centre - corner, centre + corner)
                          : drawn_shape(kind, centre, centre + side);
}

} // namespace frelm
