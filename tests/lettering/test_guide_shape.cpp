// Every kind of guide: its length and places against independent quadrature and closed forms, its sense, its faults.
#include "lettering/guide_shape.h"

#include "geom/freehand.h"
#include "lettering/shape_edit.h"
#include "reference/path_length.h"
#include "support/every_guide.h"
#include "support/fixtures.h"

#include <QTest>
#include <cstdio>
#include <limits>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double share_bound = 1e-6; // of the length: docs/accuracy.md

double from_top(double degrees) {
  return radians(degrees - 90);
}
std::vector<PathPart> cubics(const Contour& c) {
  std::vector<PathPart> parts;
  for (const Segment& s : c.segments)
    parts.push_back(PathWalk::cubic(s.p0, s.p1, s.p2, s.p3));
  return parts;
}
std::vector<PathPart> polygon(Point centre, std::vector<double> radii, double turn) {
  std::vector<Point> at;
  for (std::size_t i = 0; i <= radii.size(); ++i)
    at.push_back(centre +
                 direction(from_top(turn + 360.0 * static_cast<double>(i) / static_cast<double>(radii.size()))) *
                     radii[i % radii.size()]);
  std::vector<PathPart> parts;
  for (std::size_t i = 1; i < at.size(); ++i)
    parts.push_back(PathWalk::line(at[i - 1], at[i]));
  return parts;
}

// What each shape means, written down a second time.
struct Meaning {
  std::vector<PathPart> operator()(const CircleGuide& g) const {
    return {PathWalk::arc(g.centre, g.radius, g.radius, 0, from_top(g.start), 2 * pi)};
  }
  std::vector<PathPart> operator()(const LineGuide& g) const { return {PathWalk::line(g.from, g.to)}; }
  std::vector<PathPart> operator()(const ArcGuide& g) const {
    return {PathWalk::arc(g.centre, g.radius, g.radius, 0, from_top(g.start), radians(g.sweep))};
  }
  std::vector<PathPart> operator()(const BandGuide& g) const {
    const double r = (g.inner + g.outer) / 2;
    return {PathWalk::arc(g.centre, r, r, 0, from_top(g.start), 2 * pi)};
  }
  std::vector<PathPart> operator()(const EllipseGuide& g) const {
    return {PathWalk::arc(g.centre, g.rx, g.ry, radians(g.turn), from_top(g.start), radians(g.sweep))};
  }
  std::vector<PathPart> operator()(const SpiralGuide& g) const {
    const double sense = g.winding == Winding::Clockwise ? 1 : -1;
    std::vector<PathPart> parts; // a turn at a time, since the quadrature divides every part evenly
    for (double t = 0; t < g.turns; t += 1) {
      const double n = std::min(1.0, g.turns - t);
      parts.push_back(PathWalk::spiral(g.centre, g.inner + g.pitch * t, g.inner + g.pitch * (t + n),
                                       from_top(g.start) + sense * 2 * pi * t, sense * 2 * pi * n));
    }
    return parts;
  }
  std::vector<PathPart> operator()(const FrameGuide& g) const {
    const double w = g.width / 2, h = g.height / 2, r = g.corner, turn = radians(g.turn);
    const auto at = [&](double x, double y) {
      return g.centre + Vec{x * std::cos(turn) - y * std::sin(turn), x * std::sin(turn) + y * std::cos(turn)};
    };
    std::vector<PathPart> parts;
    const double xs[] = {1, 1, -1, -1}, ys[] = {-1, 1, 1, -1};
    for (int i = 0; i < 4; ++i) {
      const bool level = i % 2 == 0;
      const int j = (i + 3) % 4;
      parts.push_back(PathWalk::line(at(xs[j] * (w - (level ? r : 0)), ys[j] * (h - (level ? 0 : r))),
                                     at(xs[i] * (w - (level ? r : 0)), ys[i] * (h - (level ? 0 : r)))));
      if (r > 0)
        parts.push_back(PathWalk::arc(at(xs[i] * (w - r), ys[i] * (h - r)), r, r, turn, -pi / 2 + i * pi / 2, pi / 2));
    }
    return parts;
  }
  std::vector<PathPart> operator()(const PlateGuide& g) const {
    if (g.form == PlateForm::Rectangle)
      return (*this)(FrameGuide{g.centre, g.width, g.height, g.corner, g.turn});
    return (*this)(EllipseGuide{g.centre, g.width / 2, g.height / 2, g.turn, 0, 360});
  }
  std::vector<PathPart> operator()(const RibbonGuide& g) const { return std::visit(*this, ribbon_line(g)); }
  std::vector<PathPart> operator()(const PolygonGuide& g) const {
    return polygon(g.centre, std::vector<double>(g.sides, g.radius), g.turn);
  }
  std::vector<PathPart> operator()(const StarGuide& g) const {
    std::vector<double> radii;
    for (std::uint64_t i = 0; i < g.points; ++i)
      radii.insert(radii.end(), {g.outer, g.inner});
    return polygon(g.centre, radii, g.turn);
  }
  // Shapes that are cubics by definition: the cubics themselves.
  std::vector<PathPart> operator()(const HeartGuide& g) const { return cubics(*shape_contour(g)); }
  std::vector<PathPart> operator()(const FreehandGuide& g) const {
    return cubics(smooth_stroke(g.points, {g.smoothing, 1e-4, g.closed}));
  }
  std::vector<PathPart> operator()(const PathGuide& g) const { return cubics(g.contour); }
  std::vector<PathPart> operator()(const OutlineGuide&) const { return {}; }
  std::vector<PathPart> operator()(const MidwayGuide&) const { return {}; }
};

void every_guide_as_rows() {
  QTest::addColumn<int>("index");
  int i = 0;
  for (const auto& guide : every_guide())
    QTest::newRow(guide.first) << i++;
}

double worst_length = 0, worst_place = 0, worst_tangent = 0;

} // namespace

class TestGuideShape : public QObject {
  Q_OBJECT

private slots:
  void cleanupTestCase() {
    std::printf("guides: length %.2g, place %.2g of the length, tangent %.2g degrees\n", worst_length, worst_place,
                worst_tangent);
  }

  void places_along_match_independent_quadrature_data() { every_guide_as_rows(); }
  void places_along_match_independent_quadrature() {
    QFETCH(int, index);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(index)].second;
    const PathWalk walk(std::visit(Meaning{}, shape));
    const auto line = line_of(shape);
    const Curve& curve = *line->curve;
    const double whole = walk.length();
    worst_length = std::max(worst_length, std::abs(curve.length() / whole - 1));
    QVERIFY2(std::abs(curve.length() / whole - 1) <= share_bound, qPrintable(QString::number(curve.length() - whole)));
    for (int i = 0; i <= 61; ++i) {
      const double s = whole * (i + 0.37) / 62.5;
      const PathWalk::Place expected = walk.at(s);
      const CurvePlace got = curve.at(s);
      const double off = distance(got.point, expected.point) / whole,
                   turn = std::abs(
                       degrees(std::atan2(cross(got.tangent, expected.tangent), dot(got.tangent, expected.tangent))));
      worst_place = std::max(worst_place, off), worst_tangent = std::max(worst_tangent, turn);
      QVERIFY2(off <= share_bound, qPrintable(QString("at %1 mm: %2 mm off").arg(s).arg(off * whole)));
      QVERIFY2(turn <= 0.005, qPrintable(QString("at %1 mm: %2 degrees off").arg(s).arg(turn)));
    }
  }

  void curvature_is_how_fast_the_tangent_turns_data() { every_guide_as_rows(); }
  void curvature_is_how_fast_the_tangent_turns() {
    QFETCH(int, index);
    const auto line = line_of(every_guide()[static_cast<std::size_t>(index)].second);
    const Curve& curve = *line->curve;
    const std::vector<double> joints = curve.joints();
    constexpr double step = 1e-3; // mm
    for (int i = 0; i < 50; ++i) {
      const double s = curve.length() * (i + 0.41) / 50.5;
      if (std::any_of(joints.begin(), joints.end(), [&](double j) { return std::abs(j - s) < 2 * step; }))
        continue;
      const Vec a = curve.at(s - step).tangent, b = curve.at(s + step).tangent;
      const double turning = std::atan2(cross(a, b), dot(a, b)) / (2 * step);
      QVERIFY2(std::abs(curve.at(s).curvature - turning) <= 1e-5 + 1e-4 * std::abs(turning),
               qPrintable(QString("at %1: %2 for %3").arg(s).arg(curve.at(s).curvature).arg(turning)));
    }
  }

  void lengths_match_closed_forms() {
    const auto length = [](const GuideShape& shape) { return line_of(shape)->curve->length(); };
    const auto close = [](double a, double b) { return std::abs(a / b - 1) <= 1e-9; };
    QVERIFY(close(length(CircleGuide{{0, 0}, 73, 0}), 2 * pi * 73));
    QVERIFY(close(length(ArcGuide{{0, 0}, 73, 10, -200}), radians(200) * 73));
    // Perimeter of an ellipse: 4 a E(k), k² = 1 − b²/a² (Abramowitz & Stegun, 17.3, from memory).
    for (const double b : {119.0, 60.0, 3.0})
      QVERIFY(close(length(EllipseGuide{{0, 0}, 120, b, 30, 12, 360}),
                    4 * 120 * std::comp_ellint_2(std::sqrt(1 - b * b / (120 * 120)))));
    QVERIFY(
        close(length(EllipseGuide{{0, 0}, 40, 120, 30, 12, 360}), length(EllipseGuide{{0, 0}, 120, 40, -60, 0, 360})));
    // Archimedean spiral r = b a: b/2 (a √(1 + a²) + asinh a) between the two angles (Lawrence, A Catalog of Special
    // Plane Curves, 1972, from memory).
    for (const double inner : {0.0, 24.0}) {
      const double pitch = 18, turns = 4.25, b = pitch / (2 * pi);
      const auto to = [&](double r) { return b / 2 * (r / b * std::sqrt(1 + r * r / (b * b)) + std::asinh(r / b)); };
      QVERIFY(close(length(SpiralGuide{{9, 9}, inner, pitch, turns, 77, Winding::Clockwise}),
                    to(inner + pitch * turns) - to(inner)));
    }
    QVERIFY(close(length(FrameGuide{{0, 0}, 300, 180, 0, 5}), 960));
    QVERIFY(close(length(FrameGuide{{0, 0}, 300, 180, 20, 5}), 960 - 160 + 40 * pi));
    QVERIFY(close(length(PolygonGuide{{0, 0}, 100, 6, 5}), 600));
  }

  void tops_turn_the_reading_direction_however_the_line_was_drawn_data() { every_guide_as_rows(); }
  void tops_turn_the_reading_direction_however_the_line_was_drawn() {
    QFETCH(int, index);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(index)].second;
    const auto drawn = line_of(shape);
    const auto backwards = *guide_line(drawn->curve->reversed());
    for (const Tops tops : {Tops::Outward, Tops::Inward}) {
      const OrientedGuide a = oriented(*drawn, tops);
      const double whole = a.curve->length();
      if (drawn->sense == GuideSense::Open) { // up reads from left to right
        const Vec chord = a.curve->at(whole).point - a.curve->at(0).point;
        QVERIFY((chord.x > 0) == (tops == Tops::Outward));
      }
      if (drawn->sense == GuideSense::Round && a.curve->closed())
        QVERIFY((a.curve->area() > 0) == (tops == Tops::Outward));
      if (std::get_if<SpiralGuide>(&shape) != nullptr)
        continue; // a bare curve does not know that it winds around
      const OrientedGuide b = oriented(*backwards, tops);
      for (int i = 0; i <= 10; ++i)
        QVERIFY(distance(a.curve->at(whole * i / 10).point, b.curve->at(whole * i / 10).point) < 1e-6);
    }
  }

  void a_spiral_reads_along_its_windings_with_the_tops_outward() {
    for (const Winding w : {Winding::Clockwise, Winding::Counterclockwise}) {
      const auto line = line_of(SpiralGuide{{0, 0}, 30, 18, 3, 25, w});
      for (const Tops tops : {Tops::Outward, Tops::Inward}) {
        const CurvePlace p = oriented(*line, tops).curve->at(200);
        QVERIFY((dot(up_of(p.tangent), unit(p.point)) > 0.9) == (tops == Tops::Outward));
        QVERIFY((dot(up_of(p.tangent), unit(p.point)) < -0.9) == (tops == Tops::Inward));
      }
    }
  }

  void angles_are_found_on_every_round_guide_data() { every_guide_as_rows(); }
  void angles_are_found_on_every_round_guide() {
    QFETCH(int, index);
    const auto line = line_of(every_guide()[static_cast<std::size_t>(index)].second);
    if (line->sense != GuideSense::Round || !line->curve->closed())
      return;
    for (const Tops tops : {Tops::Outward, Tops::Inward})
      for (const double angle : {-170.0, -90.0, 0.0, 3.0, 45.0, 133.0}) {
        const OrientedGuide guide = oriented(*line, tops);
        const Vec from = guide.curve->at(length_at_angle(*line, guide, angle)).point - line->centre;
        QVERIFY2(std::abs(wrap_degrees(degrees(std::atan2(from.x, -from.y)) - angle)) < 1e-6,
                 qPrintable(QString::number(angle)));
      }
  }

  void similar_shapes_have_similar_curves_data() { every_guide_as_rows(); }
  void similar_shapes_have_similar_curves() {
    QFETCH(int, index);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(index)].second;
    const Similarity by{1.7, 24, {40, -13}};
    const auto before = line_of(shape), after = line_of(transformed(shape, by));
    const Curve &a = *before->curve, &b = *after->curve;
    for (int i = 0; i <= 40; ++i) {
      const Point expected = by.affine()(a.at(a.length() * i / 40).point);
      const double off = distance(b.at(b.length() * i / 40).point, expected);
      QVERIFY2(off < 1e-6, qPrintable(QString::number(off)));
    }
    const auto* strip = std::get_if<RibbonGuide>(&shape);
    const GuideShape line = strip != nullptr ? ribbon_line(*strip) : shape;
    if (!std::holds_alternative<FreehandGuide>(line) && !std::holds_alternative<PathGuide>(line)) // held by their box
      QVERIFY(distance(shape_centre(transformed(shape, by)), by.affine()(shape_centre(shape))) < 1e-9);
  }

  void faults_are_named_and_nothing_hangs_data() {
    QTest::addColumn<int>("index");
    const double nan = std::numeric_limits<double>::quiet_NaN();
    faulty_ = {
        {"circle-radius-nought", CircleGuide{{0, 0}, 0, 0}},
        {"circle-radius-negative", CircleGuide{{0, 0}, -5, 0}},
        {"circle-radius-nan", CircleGuide{{0, 0}, nan, 0}},
        {"circle-centre-nan", CircleGuide{{nan, 0}, 10, 0}},
        {"circle-start-nan", CircleGuide{{0, 0}, 10, nan}},
        {"circle-radius-endless", CircleGuide{{0, 0}, 1e300, 0}},
        {"line-of-no-length", LineGuide{{5, 5}, {5, 5}}},
        {"line-to-nan", LineGuide{{5, 5}, {5, nan}}},
        {"arc-sweep-nought", ArcGuide{{0, 0}, 10, 0, 0}},
        {"arc-sweep-too-much", ArcGuide{{0, 0}, 10, 0, 361}},
        {"band-inside-out", BandGuide{{0, 0}, 50, 40, 1, 0}},
        {"ellipse-flat", EllipseGuide{{0, 0}, 100, 0, 0, 0, 360}},
        {"ellipse-turn-nan", EllipseGuide{{0, 0}, 100, 50, nan, 0, 360}},
        {"spiral-without-pitch", SpiralGuide{{0, 0}, 10, 0, 3, 0, Winding::Clockwise}},
        {"spiral-negative-inner", SpiralGuide{{0, 0}, -1, 10, 3, 0, Winding::Clockwise}},
        {"spiral-million-turns", SpiralGuide{{0, 0}, 0, 10, 1e6, 0, Winding::Clockwise}},
        {"frame-without-height", FrameGuide{{0, 0}, 100, 0, 0, 0}},
        {"frame-corner-nan", FrameGuide{{0, 0}, 100, 50, nan, 0}},
        {"polygon-of-two", PolygonGuide{{0, 0}, 100, 2, 0}},
        {"polygon-of-millions", PolygonGuide{{0, 0}, 100, 5000000, 0}},
        {"star-without-inner", StarGuide{{0, 0}, 100, 0, 5, 0}},
        {"plate-without-width", PlateGuide{.centre = {}, .width = 0}},
        {"plate-hole-nan", PlateGuide{.centre = {}, .hole = nan}},
        {"heart-without-width", HeartGuide{{0, 0}, 0, 100, 0}},
        {"freehand-of-nothing", FreehandGuide{{}, 5, false}},
        {"freehand-of-one-point", FreehandGuide{{{3, 3}, {3, 3}}, 5, false}},
        {"freehand-nan", FreehandGuide{{{0, 0}, {10, nan}, {20, 0}}, 5, false}},
        {"freehand-smoothing-nan", FreehandGuide{{{0, 0}, {10, 0}, {20, 0}}, nan, false}},
        {"pen-curve-of-nothing", PathGuide{}},
        {"pen-curve-coincident", PathGuide{{{Segment::cubic({1, 1}, {1, 1}, {1, 1}, {1, 1})}, false}}},
        {"pen-curve-nan", PathGuide{{{Segment::line({1, 1}, {nan, 1})}, false}}},
        {"edge-of-nothing", OutlineGuide{7, 0, {}}},
        {"midway-of-nothing", MidwayGuide{7, 8, 2}},
    };
    for (std::size_t i = 0; i < faulty_.size(); ++i)
      QTest::newRow(faulty_[i].first) << static_cast<int>(i);
  }
  void faults_are_named_and_nothing_hangs() {
    QFETCH(int, index);
    const auto line = guide_line(faulty_[static_cast<std::size_t>(index)].second);
    QVERIFY(!line.ok());
    QCOMPARE(line.error().where(), std::string("Guide"));
    QVERIFY(line.error().message().size() > 20);
  }

  void a_cusp_and_coincident_nodes_still_carry_letters() {
    for (const Segment& s : {Segment::cubic({0, 0}, {100, 60}, {0, 60}, {100, 0}), // a cusp at its middle
                             Segment::cubic({0, 0}, {0, 0}, {100, 0}, {100, 0})}) {
      const auto line = guide_line(PathGuide{{{s}, false}});
      QVERIFY(line.ok());
      for (int i = 0; i <= 200; ++i) {
        const CurvePlace p = (*line)->curve->at((*line)->curve->length() * i / 200);
        QVERIFY(finite(p.point) && std::abs(length(p.tangent) - 1) < 1e-9 && std::isfinite(p.curvature));
      }
    }
  }

  // Closed forms: a rectangle of rounded corners w h - (4 - π) r², an ellipse π a b, less the holes; a ring between two
  // circles.
  void shapes_that_are_cut_have_their_areas_data() {
    QTest::addColumn<int>("index");
    QTest::addColumn<double>("area");
    QTest::addColumn<int>("contours");
    const PlateGuide plate{
        .centre = {20, 30}, .width = 200, .height = 120, .corner = 8, .hole = 5, .edge = 10, .turn = 20};
    const double rounded = 200 * 120 - (4 - pi) * 64, hole = pi * 25 / 4, oval = pi * 100 * 60;
    const auto row = [&](const char* name, const GuideShape& shape, double area, int contours) {
      QTest::newRow(name) << static_cast<int>(cut_.size()) << area << contours;
      cut_.push_back(shape);
    };
    const auto with = [&](const std::function<void(PlateGuide&)>& change) {
      PlateGuide p = plate;
      change(p);
      return p;
    };
    row("four-holes", plate, rounded - 4 * hole, 5);
    row("two-holes", with([](PlateGuide& p) { p.holes = PlateHoles::Two; }), rounded - 2 * hole, 3);
    row("no-holes", with([](PlateGuide& p) { p.holes = PlateHoles::None; }), rounded, 1);
    row("oval", with([](PlateGuide& p) { p.form = PlateForm::Ellipse; }), oval - 4 * hole, 5);
    row("oval-two", with([](PlateGuide& p) { p.form = PlateForm::Ellipse, p.holes = PlateHoles::Two; }),
        oval - 2 * hole, 3);
    // Holes that don't fit are left out: over the edge, over one another, wider than the plate.
    row("over-the-edge", with([](PlateGuide& p) { p.edge = 2; }), rounded, 1);
    row("over-one-another", with([](PlateGuide& p) { p.edge = 59; }), rounded, 1);
    row("too-large", with([](PlateGuide& p) { p.hole = 130, p.edge = 66; }), rounded, 1);
    row("band", BandGuide{{5, 3}, 80, 110, 3, -15}, pi * (110 * 110 - 80 * 80), 2);
    row("star", StarGuide{{0, 0}, 100, 40, 5, 0}, 5 * 100 * 40 * std::sin(pi / 5), 1);
  }
  void shapes_that_are_cut_have_their_areas() {
    QFETCH(int, index);
    QFETCH(double, area);
    QFETCH(int, contours);
    const GuideShape& shape = cut_[static_cast<std::size_t>(index)];
    const Outline cut = *shape_outline(shape, *line_of(shape));
    QCOMPARE(cut.contours.size(), static_cast<std::size_t>(contours));
    QVERIFY2(std::abs(cut.area() - area) < 2e-5 * area, qPrintable(QString::number(cut.area() - area)));
    for (std::size_t i = 0; i < cut.contours.size(); ++i)
      QCOMPARE(cut.contours[i].area() > 0, i == 0);
  }

  void handles_do_what_they_say_data() { every_guide_as_rows(); }
  void handles_do_what_they_say() {
    QFETCH(int, index);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(index)].second;
    const std::vector<ShapeHandle> handles = shape_handles(shape, 20);
    for (std::size_t i = 0; i < handles.size(); ++i) {
      // Dragged to where it is: nothing changes; dragged a little: it is then near the hand, whatever it means.
      const ShapeHandle& h = handles[i];
      QVERIFY2(distance(shape_handles(with_handle(shape, i, h.at), 20)[i].at, h.at) < 1e-6, h.name);
      const Vec outward = h.kind == ShapeHandleKind::Turn ? Vec{} : unit(h.at - shape_centre(shape)) * 3.0;
      const GuideShape moved = with_handle(shape, i, h.at + outward);
      if (h.kind == ShapeHandleKind::Size || h.kind == ShapeHandleKind::Move)
        QVERIFY2(distance(shape_handles(moved, 20)[i].at, h.at + outward) < 3.01, h.name);
      QVERIFY2(guide_line(moved).ok(), h.name);
      // Into the centre: measures stay more than nothing.
      QVERIFY2(guide_line(with_handle(shape, i, shape_centre(shape) + Vec{0.01, 0.02})).ok(), h.name);
    }
  }

  void measures_are_set_exactly_data() { every_guide_as_rows(); }
  void measures_are_set_exactly() {
    QFETCH(int, index);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(index)].second;
    const std::vector<ShapeMeasure> measures = shape_measures(shape);
    for (std::size_t i = 0; i < measures.size(); ++i) {
      const double want = measures[i].kind == ShapeMeasureKind::Count ? measures[i].value + 1 : measures[i].value * 0.9;
      const GuideShape changed = with_measure(shape, i, want);
      QVERIFY2(std::abs(shape_measures(changed)[i].value - want) < 1e-9, measures[i].name.text.data());
      QVERIFY2(guide_line(changed).ok(), measures[i].name.text.data());
    }
  }

  void reversed_shapes_run_the_other_way_data() { every_guide_as_rows(); }
  void reversed_shapes_run_the_other_way() {
    QFETCH(int, index);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(index)].second, back = reversed(shape);
    if (back == shape)
      return; // closed: where it starts and which way it runs are set otherwise
    const auto a = line_of(shape), b = line_of(back);
    const double whole = a->curve->length();
    QVERIFY(std::abs(b->curve->length() - whole) < 1e-4 * whole);
    for (int i = 0; i <= 20; ++i)
      QVERIFY(distance(a->curve->at(whole * i / 20).point, b->curve->at(whole * (20 - i) / 20).point) < 2e-4 * whole);
    QCOMPARE(reversed(back).index(), shape.index());
  }

  void arcs_go_through_three_points() {
    // The circle through three points of a circle is that circle.
    const Point centre{30, -12};
    const auto on = [&](double angle) { return centre + direction(from_top(angle)) * 85; };
    for (const auto& [a, p, b] :
         {std::array{-60.0, 10.0, 75.0}, std::array{75.0, 10.0, -60.0}, std::array{-60.0, 180.0, 75.0}}) {
      const std::optional<ArcGuide> arc = arc_through(on(a), on(p), on(b));
      QVERIFY(arc.has_value());
      QVERIFY(distance(arc->centre, centre) < 1e-9 && std::abs(arc->radius - 85) < 1e-9);
      const auto line = line_of(*arc);
      const Curve& curve = *line->curve;
      QVERIFY(distance(curve.at(0).point, on(a)) < 1e-9);
      QVERIFY(distance(curve.at(curve.length()).point, on(b)) < 1e-9);
      QVERIFY(distance(curve.at(curve.nearest(on(p))).point, on(p)) < 1e-5);
    }
    QVERIFY(!arc_through({0, 0}, {5, 5}, {20, 20}));
  }

private:
  std::vector<std::pair<const char*, GuideShape>> faulty_;
  std::vector<GuideShape> cut_;
};

QTEST_APPLESS_MAIN(TestGuideShape)
#include "test_guide_shape.moc"
