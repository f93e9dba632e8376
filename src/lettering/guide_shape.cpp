// Each kind builds its curve from what it is (arcs, ellipse pieces, spiral pieces, cubics of a heart) and reads its
// sense and centre off its kind, never off the way it was drawn.
#include "lettering/guide_shape.h"
#include "geom/said.h"

#include "geom/arc_cubics.h"
#include "geom/bisect.h"
#include "geom/cases.h"
#include "geom/freehand.h"

namespace frelm {
namespace {

constexpr double least_length = 1e-6; // mm: shorter guides carry no letters
constexpr double most_length = 1e6;   // mm
constexpr double most_sides = 200;
constexpr double freehand_tolerance = 1e-4; // of the stroke's length

std::optional<Error> not_positive(double v, Words what) {
  if (v > 0 && std::isfinite(v))
    return std::nullopt;
  return bad_input(say(FRELM_WORDS("core", "%1 must be more than 0 mm"), what), FRELM_WORDS("core", "Guide"));
}
std::optional<Error> first_error(std::initializer_list<std::optional<Error>> errors) {
  for (const auto& e : errors)
    if (e)
      return e;
  return std::nullopt;
}

double from_top(double angle) { // degrees, 0 = top → radians of the circle's own angle
  return radians(angle - 90);
}

Curve polygon_curve(Point centre, const std::vector<double>& radii, double turn) {
  std::vector<CurvePiece> pieces;
  const auto n = radii.size();
  const auto at = [&](std::size_t i) {
    return centre +
           direction(from_top(turn + 360.0 * static_cast<double>(i % n) / static_cast<double>(n))) * radii[i % n];
  };
  for (std::size_t i = 0; i < n; ++i)
    pieces.push_back(Segment::line(at(i), at(i + 1)));
  return Curve(std::move(pieces), true);
}

Curve frame_curve(const FrameGuide& f) {
  const double w = f.width / 2, h = f.height / 2, r = std::clamp(f.corner, 0.0, std::min(w, h)), q = pi / 2;
  std::vector<CurvePiece> pieces;
  const auto side = [&](Point a, Point b) { pieces.push_back(Segment::line(a, b)); };
  const auto corner = [&](Point c, double from) {
    if (r > 0)
      pieces.push_back(ArcPiece{c, r, r, 0, from, q});
  };
  side({-w + r, -h}, {w - r, -h});
  corner({w - r, -h + r}, -q);
  side({w, -h + r}, {w, h - r});
  corner({w - r, h - r}, 0);
  side({w - r, h}, {-w + r, h});
  corner({-w + r, h - r}, q);
  side({-w, h - r}, {-w, -h + r});
  corner({-w + r, -h + r}, 2 * q);
  return Curve(std::move(pieces), true).transformed_rigidly(radians(f.turn), f.centre);
}

Curve plate_curve(const PlateGuide& g) {
  if (g.form == PlateForm::Rectangle)
    return frame_curve({g.centre, g.width, g.height, g.corner, g.turn});
  return Curve({ArcPiece{g.centre, g.width / 2, g.height / 2, radians(g.turn), from_top(0), 2 * pi}}, true);
}

std::vector<Point> plate_holes(const PlateGuide& g) {
  const double x = g.width / 2 - g.edge, y = g.height / 2 - g.edge, r = g.hole / 2;
  const auto at = [&](double dx, double dy) {
    return g.centre + Affine::rotation(radians(g.turn)).linear(Vec{dx, dy});
  };
  if (g.holes == PlateHoles::None || !(g.edge > r))
    return {};
  std::vector<Point> out;
  if (g.holes == PlateHoles::Four && g.form == PlateForm::Rectangle) {
    if (x > r && y > r)
      out = {at(x, -y), at(x, y), at(-x, y), at(-x, -y)};
    return out;
  }
  if (x > r && g.height / 2 > r)
    out = {at(x, 0), at(-x, 0)};
  if (g.holes == PlateHoles::Four && y > r && std::hypot(x, y) > 2 * r)
    out.push_back(at(0, y)), out.push_back(at(0, -y));
  return out;
}

Contour heart_contour(const HeartGuide& g) {
  // One half, from the notch over the lobe and the side to the tip, in shares of width and height.
  const auto at = [&](double x, double y) { return Point{x * g.width, y * g.height}; };
  const std::vector<Segment> right{
      Segment::cubic(at(0, -0.27), at(0.03, -0.40), at(0.12, -0.5), at(0.25, -0.5)),
      Segment::cubic(at(0.25, -0.5), at(0.39, -0.5), at(0.5, -0.39), at(0.5, -0.22)),
      Segment::cubic(at(0.5, -0.22), at(0.5, 0.06), at(0.2, 0.27), at(0, 0.5)),
  };
  Contour c;
  c.segments = right;
  for (auto it = right.rbegin(); it != right.rend(); ++it)
    c.segments.push_back(it->transformed(Affine::scaling(-1, 1)).reversed());
  const Affine place = Affine::translation(g.centre) * Affine::rotation(radians(g.turn));
  for (Segment& s : c.segments)
    s = s.transformed(place);
  for (std::size_t i = 1; i < c.segments.size(); ++i)
    c.segments[i].p0 = c.segments[i - 1].p3;
  c.segments.back().p3 = c.segments.front().p0;
  return c;
}

Result<Contour> path_contour(const PathGuide& g) {
  for (const Segment& s : g.contour.segments)
    if (!finite(s.p0) || !finite(s.p1) || !finite(s.p2) || !finite(s.p3))
      return bad_input(FRELM_WORDS("core", "a node is not a number; draw the guide again"),
                       FRELM_WORDS("core", "Guide"));
  return g.contour;
}

Vec chord_of(const GuideLine& line) {
  return line.curve->at(line.curve->length()).point - line.curve->at(0).point;
}

Result<Curve> curve_of(const GuideShape& shape);

Curve curve_from(const Contour& c) {
  return Curve({c.segments.begin(), c.segments.end()}, c.closed);
}

Result<Curve> curve_of(const GuideShape& shape) {
  return std::visit(
      Cases{
          [](const CircleGuide& g) -> Result<Curve> {
            if (const auto e = not_positive(g.radius, FRELM_WORDS("core", "the circle's radius")))
              return *e;
            return Curve::circle(g.centre, g.radius, radians(g.start));
          },
          [](const LineGuide& g) -> Result<Curve> { return Curve::line(g.from, g.to); },
          [](const ArcGuide& g) -> Result<Curve> {
            if (const auto e = not_positive(g.radius, FRELM_WORDS("core", "the arc's radius")))
              return *e;
            if (g.sweep == 0 || !(std::abs(g.sweep) <= 360))
              return bad_input(FRELM_WORDS("core", "the arc's sweep must be between 0° and 360°"),
                               FRELM_WORDS("core", "Guide"));
            return Curve({ArcPiece{g.centre, g.radius, g.radius, 0, from_top(g.start), radians(g.sweep)}});
          },
          [](const BandGuide& g) -> Result<Curve> {
            if (const auto e = first_error({not_positive(g.inner, FRELM_WORDS("core", "the band's inner radius")),
                                            not_positive(g.outer - g.inner, FRELM_WORDS("core", "the band's height"))}))
              return *e;
            return Curve::circle(g.centre, (g.inner + g.outer) / 2, radians(g.start));
          },
          [](const EllipseGuide& g) -> Result<Curve> {
            if (const auto e = first_error({not_positive(g.rx, FRELM_WORDS("core", "the ellipse's half width")),
                                            not_positive(g.ry, FRELM_WORDS("core", "the ellipse's half height"))}))
              return *e;
            if (g.sweep == 0 || !(std::abs(g.sweep) <= 360))
              return bad_input(FRELM_WORDS("core", "the ellipse's sweep must be between 0° and 360°"),
                               FRELM_WORDS("core", "Guide"));
            return Curve({ArcPiece{g.centre, g.rx, g.ry, radians(g.turn), from_top(g.start), radians(g.sweep)}},
                         std::abs(g.sweep) == 360);
          },
          [](const SpiralGuide& g) -> Result<Curve> {
            if (const auto e =
                    first_error({not_positive(g.pitch, FRELM_WORDS("core", "the spiral's pitch")),
                                 not_positive(g.turns, FRELM_WORDS("core", "the number of turns")),
                                 not_positive(g.inner + 1, FRELM_WORDS("core", "the spiral's inner radius"))}))
              return *e;
            if (g.inner < 0 || g.turns > 1000)
              return bad_input(
                  FRELM_WORDS("core", "the spiral needs an inner radius of 0 or more and at most 1000 turns"),
                  FRELM_WORDS("core", "Guide"));
            const double sense = g.winding == Winding::Clockwise ? 1 : -1;
            return Curve({SpiralPiece{g.centre, g.inner, g.outer(), from_top(g.start), sense * 2 * pi * g.turns}});
          },
          [](const FrameGuide& g) -> Result<Curve> {
            if (const auto e = first_error({not_positive(g.width, FRELM_WORDS("core", "the frame's width")),
                                            not_positive(g.height, FRELM_WORDS("core", "the frame's height"))}))
              return *e;
            return frame_curve(g);
          },
          [](const PolygonGuide& g) -> Result<Curve> {
            if (const auto e = not_positive(g.radius, FRELM_WORDS("core", "the polygon's radius")))
              return *e;
            if (g.sides < 3 || static_cast<double>(g.sides) > most_sides)
              return bad_input(FRELM_WORDS("core", "a polygon has 3 to 200 sides"), FRELM_WORDS("core", "Guide"));
            return polygon_curve(g.centre, std::vector<double>(g.sides, g.radius), g.turn);
          },
          [](const StarGuide& g) -> Result<Curve> {
            if (const auto e = first_error({not_positive(g.outer, FRELM_WORDS("core", "the star's outer radius")),
                                            not_positive(g.inner, FRELM_WORDS("core", "the star's inner radius"))}))
              return *e;
            if (g.points < 3 || static_cast<double>(g.points) > most_sides)
              return bad_input(FRELM_WORDS("core", "a star has 3 to 200 points"), FRELM_WORDS("core", "Guide"));
            std::vector<double> radii;
            for (std::uint64_t i = 0; i < g.points; ++i)
              radii.push_back(g.outer), radii.push_back(g.inner);
            return polygon_curve(g.centre, radii, g.turn);
          },
          [](const HeartGuide& g) -> Result<Curve> {
            if (const auto e = first_error({not_positive(g.width, FRELM_WORDS("core", "the heart's width")),
                                            not_positive(g.height, FRELM_WORDS("core", "the heart's height"))}))
              return *e;
            return curve_from(heart_contour(g));
          },
          [](const FreehandGuide& g) -> Result<Curve> {
            if (!std::isfinite(g.smoothing))
              return bad_input(FRELM_WORDS("core", "the smoothing is not a number; type one"),
                               FRELM_WORDS("core", "Guide"));
            for (const Point p : g.points)
              if (!finite(p))
                return bad_input(FRELM_WORDS("core", "a point of the stroke is not a number; draw it again"),
                                 FRELM_WORDS("core", "Guide"));
            return curve_from(smooth_stroke(g.points, {g.smoothing, freehand_tolerance, g.closed}));
          },
          [](const PathGuide& g) -> Result<Curve> {
            const Result<Contour> c = path_contour(g);
            if (!c)
              return c.error();
            return curve_from(*c);
          },
          [](const OutlineGuide&) -> Result<Curve> {
            return bad_input(FRELM_WORDS("core", "the outline it follows is no longer there; choose another guide"),
                             FRELM_WORDS("core", "Guide"));
          },
          [](const MidwayGuide&) -> Result<Curve> {
            return bad_input(
                FRELM_WORDS("core", "the two circles it lies between are no longer there; choose another guide"),
                FRELM_WORDS("core", "Guide"));
          },
          [](const RibbonGuide& g) -> Result<Curve> {
            if (const auto e = first_error({not_positive(g.cut.width, FRELM_WORDS("core", "the ribbon's width")),
                                            not_positive(g.cut.tail, FRELM_WORDS("core", "the tails' length"))}))
              return *e;
            return curve_of(ribbon_line(g));
          },
          [](const PlateGuide& g) -> Result<Curve> {
            if (const auto e = first_error({not_positive(g.width, FRELM_WORDS("core", "the plate's width")),
                                            not_positive(g.height, FRELM_WORDS("core", "the plate's height")),
                                            not_positive(g.hole, FRELM_WORDS("core", "a screw hole's diameter"))}))
              return *e;
            return plate_curve(g);
          },
      },
      shape);
}

} // namespace

Words shape_name(const GuideShape& shape) {
  constexpr Words names[] = {FRELM_WORDS("core", "Circle"),
                             FRELM_WORDS("core", "Line"),
                             FRELM_WORDS("core", "Arc"),
                             FRELM_WORDS("core", "Band"),
                             FRELM_WORDS("core", "Ellipse"),
                             FRELM_WORDS("core", "Spiral"),
                             FRELM_WORDS("core", "Frame"),
                             FRELM_WORDS("core", "Polygon"),
                             FRELM_WORDS("core", "Star"),
                             FRELM_WORDS("core", "Heart"),
                             FRELM_WORDS("core", "Freehand"),
                             FRELM_WORDS("core", "Pen curve"),
                             FRELM_WORDS("core", "Edge of a piece"),
                             FRELM_WORDS("core", "Midway circle"),
                             FRELM_WORDS("core", "Plate"),
                             FRELM_WORDS("core", "Ribbon")};
  return names[shape.index()];
}

Result<std::shared_ptr<const GuideLine>> guide_line(Curve curve) {
  auto line = std::make_shared<GuideLine>();
  if (!std::isfinite(curve.length()) || curve.length() > most_length || !finite(curve.at(0).point))
    return bad_input(FRELM_WORDS("core", "the guide's measures are too large or not numbers; type smaller ones"),
                     FRELM_WORDS("core", "Guide"));
  if (curve.length() < least_length)
    return bad_input(FRELM_WORDS("core", "the guide has no length; draw it longer"), FRELM_WORDS("core", "Guide"));
  line->sense = curve.closed() ? GuideSense::Round : GuideSense::Open;
  const Contour drawn = curve.contour(0.1);
  line->centre = drawn.bounds().centre();
  line->clockwise = drawn.area() >= 0;
  if (const auto* spiral = std::get_if<SpiralPiece>(&curve.pieces().front()); spiral != nullptr)
    line->clockwise = spiral->sweep > 0;
  line->backward = std::make_shared<const Curve>(curve.reversed());
  line->curve = std::make_shared<const Curve>(std::move(curve));
  return std::shared_ptr<const GuideLine>(std::move(line));
}

Result<std::shared_ptr<const GuideLine>> guide_line(const GuideShape& shape) {
  Result<Curve> curve = curve_of(shape);
  if (!curve)
    return curve.error();
  const Result<std::shared_ptr<const GuideLine>> plain = guide_line(std::move(*curve));
  if (!plain)
    return plain.error();
  auto line = std::make_shared<GuideLine>(**plain);
  std::visit(Cases{
                 [&](const CircleGuide& g) { line->circle = g, line->centre = g.centre; },
                 [&](const BandGuide& g) {
                   line->circle = CircleGuide{g.centre, (g.inner + g.outer) / 2, g.start};
                   line->centre = g.centre;
                   line->fit = FitHeight{g.outer - g.inner - 2 * g.margin, FitBy::Capitals};
                 },
                 [&](const EllipseGuide& g) { line->centre = g.centre; },
                 [&](const SpiralGuide& g) {
                   constexpr double free_share = 0.12; // of the pitch, left between windings
                   line->sense = GuideSense::Round;
                   line->centre = g.centre;
                   line->fit = FitHeight{g.pitch * (1 - free_share), FitBy::FullHeight};
                 },
                 [&](const FrameGuide& g) { line->centre = g.centre; },
                 [&](const PolygonGuide& g) { line->centre = g.centre; },
                 [&](const StarGuide& g) { line->centre = g.centre; },
                 [&](const HeartGuide& g) { line->centre = g.centre; },
                 [&](const PlateGuide& g) { line->centre = g.centre; },
                 [&](const RibbonGuide& g) {
                   constexpr double free_share = 0.15; // of the width, on either side
                   line->fit = FitHeight{g.cut.width * (1 - 2 * free_share), FitBy::Capitals};
                 },
                 [](const auto&) {},
             },
             shape);
  return std::shared_ptr<const GuideLine>(std::move(line));
}

OrientedGuide oriented(const GuideLine& line, Tops tops) {
  bool forward = true;
  if (line.sense == GuideSense::Round) {
    forward = line.clockwise == (tops == Tops::Outward);
  } else {
    const Vec chord = chord_of(line);
    const bool sideways = std::abs(chord.x) > 1e-6 * std::max(1.0, std::abs(chord.y));
    forward = (!sideways || chord.x > 0) == (tops == Tops::Outward);
  }
  return forward ? OrientedGuide{line.curve, false} : OrientedGuide{line.backward, true};
}

OrientedGuide oriented_down(const GuideLine& line) {
  return chord_of(line).y >= 0 ? OrientedGuide{line.curve, false} : OrientedGuide{line.backward, true};
}

double length_at_angle(const GuideLine& line, const OrientedGuide& guide, double angle) {
  const double around = guide.curve->length();
  if (line.circle) {
    const double s = line.circle->radius * radians(angle - line.circle->start);
    return guide.reversed ? around - s : s;
  }
  // The ray's crossings with the curve, by sign changes of the cross product, then bisection; the outermost wins.
  const Vec ray = direction(from_top(angle));
  const auto side = [&](double s) { return cross(ray, guide.curve->at(s).point - line.centre); };
  const auto ahead = [&](double s) { return dot(ray, guide.curve->at(s).point - line.centre); };
  const int n = std::max(256, static_cast<int>(guide.curve->pieces().size()) * 16);
  double best = 0, farthest = -1;
  double before = side(0);
  for (int i = 1; i <= n; ++i) {
    const double s1 = around * i / n, after = side(s1);
    if ((before <= 0) != (after <= 0)) {
      const double s =
          bisect({around * (i - 1) / n, s1}, [&](double m) { return (side(m) <= 0) != (before <= 0); }).low;
      if (const double d = ahead(s); d > farthest)
        farthest = d, best = s;
    }
    before = after;
  }
  return best;
}

GuideShape transformed(const GuideShape& shape, const Similarity& by) {
  const Affine m = by.affine();
  GuideShape out = shape;
  std::visit(Cases{
                 [&](CircleGuide& g) {
                   g = {m(g.centre), g.radius * by.scale, wrap_degrees(g.start + by.angle)};
                 },
                 [&](LineGuide& g) {
                   g = {m(g.from), m(g.to)};
                 },
                 [&](ArcGuide& g) {
                   g.centre = m(g.centre), g.radius *= by.scale, g.start = wrap_degrees(g.start + by.angle);
                 },
                 [&](BandGuide& g) {
                   g = {m(g.centre), g.inner * by.scale, g.outer * by.scale, g.margin * by.scale,
                        wrap_degrees(g.start + by.angle)};
                 },
                 [&](EllipseGuide& g) {
                   g.centre = m(g.centre), g.rx *= by.scale, g.ry *= by.scale, g.turn = wrap_degrees(g.turn + by.angle);
                 },
                 [&](SpiralGuide& g) {
                   g.centre = m(g.centre), g.inner *= by.scale, g.pitch *= by.scale;
                   g.start = wrap_degrees(g.start + by.angle);
                 },
                 [&](FrameGuide& g) {
                   g = {m(g.centre), g.width * by.scale, g.height * by.scale, g.corner * by.scale,
                        wrap_degrees(g.turn + by.angle)};
                 },
                 [&](PolygonGuide& g) {
                   g.centre = m(g.centre), g.radius *= by.scale, g.turn = wrap_degrees(g.turn + by.angle);
                 },
                 [&](StarGuide& g) {
                   g.centre = m(g.centre), g.outer *= by.scale, g.inner *= by.scale;
                   g.turn = wrap_degrees(g.turn + by.angle);
                 },
                 [&](HeartGuide& g) {
                   g = {m(g.centre), g.width * by.scale, g.height * by.scale, wrap_degrees(g.turn + by.angle)};
                 },
                 [&](FreehandGuide& g) {
                   for (Point& p : g.points)
                     p = m(p);
                   g.smoothing *= by.scale;
                 },
                 [&](PathGuide& g) {
                   for (Segment& s : g.contour.segments)
                     s = s.transformed(m);
                 },
                 [](OutlineGuide&) {},
                 [](MidwayGuide&) {},
                 [&](RibbonGuide& g) {
                   RibbonCut& c = g.cut;
                   for (double* mm : {&c.width, &c.notch, &c.tail, &c.drop, &c.gap})
                     *mm *= by.scale;
                   std::visit([&](auto& l) { l = std::get<std::decay_t<decltype(l)>>(transformed(l, by)); }, g.along);
                 },
                 [&](PlateGuide& g) {
                   g.centre = m(g.centre), g.width *= by.scale, g.height *= by.scale, g.corner *= by.scale;
                   g.hole *= by.scale, g.edge *= by.scale, g.turn = wrap_degrees(g.turn + by.angle);
                 },
             },
             out);
  return out;
}

Point shape_centre(const GuideShape& shape) {
  return std::visit(Cases{
                        [](const LineGuide& g) { return lerp(g.from, g.to, 0.5); },
                        [](const FreehandGuide& g) {
                          Box box;
                          for (const Point p : g.points)
                            box.add(p);
                          return box.centre();
                        },
                        [](const PathGuide& g) { return g.contour.bounds().centre(); },
                        [](const RibbonGuide& g) { return shape_centre(ribbon_line(g)); },
                        [](const OutlineGuide&) { return Point{}; },
                        [](const MidwayGuide&) { return Point{}; },
                        [](const auto& g) { return g.centre; },
                    },
                    shape);
}

GuideShape ribbon_line(const RibbonGuide& ribbon) {
  return std::visit([](const auto& l) { return GuideShape(l); }, ribbon.along);
}

Result<RibbonGuide> along_line(RibbonGuide ribbon, const GuideShape& line) {
  if (const auto* straight = std::get_if<LineGuide>(&line))
    ribbon.along = *straight;
  else if (const auto* arc = std::get_if<ArcGuide>(&line))
    ribbon.along = *arc;
  else if (Result<Contour> drawn = shape_contour(line); drawn)
    ribbon.along = PathGuide{std::move(*drawn)};
  else
    return drawn.error();
  return ribbon;
}

Result<Outline> shape_outline(const GuideShape& shape, const GuideLine& line, ShapeWork work) {
  const auto hole = [](Point centre, double radius) { return circle_contour(centre, radius).reversed(); };
  Outline out;
  if (const auto* strip = std::get_if<RibbonGuide>(&shape)) {
    const Curve& along = *oriented(line, Tops::Outward).curve;
    return work == ShapeWork::Sketch ? ribbon_sketch(along, strip->cut) : ribbon_parts(along, strip->cut);
  }
  if (const auto* band = std::get_if<BandGuide>(&shape)) {
    out.contours = {circle_contour(band->centre, band->outer), hole(band->centre, band->inner)};
    return out;
  }
  out.contours.push_back(line.circle ? circle_contour(line.circle->centre, line.circle->radius)
                                     : line.curve->contour(default_arc_tolerance));
  if (const auto* plate = std::get_if<PlateGuide>(&shape))
    for (const Point p : plate_holes(*plate))
      out.contours.push_back(hole(p, plate->hole / 2));
  return out;
}

Result<Contour> shape_contour(const GuideShape& shape) {
  const auto line = guide_line(shape);
  if (!line)
    return line.error();
  return (*line)->curve->contour(default_arc_tolerance);
}

} // namespace frelm
