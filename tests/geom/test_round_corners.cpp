// Rounded corners against closed forms and, as what a disc that rolls along the area sweeps, against GEOS's buffers.
#include "geom/round_corners.h"

#include "geom/along.h"
#include "geom/path_data.h"
#include "reference/geos_union.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline path(const char* data) {
  return *parse_outline(data);
}
Outline polygon(double r, int n) {
  Contour c;
  for (int i = 0; i < n; ++i)
    c.segments.push_back(Segment::line(direction(2 * pi * i / n) * r, direction(2 * pi * ((i + 1) % n) / n) * r));
  return {{c}};
}
Outline as_outline(const std::vector<Ring>& rings) {
  Outline out;
  for (const Ring& r : rings) {
    Contour c;
    for (std::size_t i = 0; i < r.size(); ++i)
      if (r[i] != r[(i + 1) % r.size()])
        c.segments.push_back(Segment::line(r[i], r[(i + 1) % r.size()]));
    out.contours.push_back(c);
  }
  return out;
}
// What a disc of this radius sweeps inside the area, or leaves between when it rolls outside (mathematical morphology:
// opening and closing; Serra, Image analysis and mathematical morphology, 1982).
std::vector<Ring> opened(const Outline& o, double r) {
  return geos_buffer({as_outline(geos_buffer({o}, -r, 1e-4))}, r, 1e-4);
}
std::vector<Ring> closed(const Outline& o, double r) {
  return geos_buffer({as_outline(geos_buffer({o}, r, 1e-4))}, -r, 1e-4);
}

} // namespace

class TestRoundCorners : public QObject {
  Q_OBJECT

private slots:
  // A corner that opens by θ loses r² (cot(θ/2) − (π − θ)/2).
  void regular_polygons_by_the_formula_data() {
    QTest::addColumn<int>("sides");
    QTest::addColumn<double>("radius");
    for (const int n : {3, 4, 5, 6, 8})
      for (const double r : {0.01, 1.0, 5.0})
        QTest::addRow("%d, r %g", n, r) << n << r;
  }
  void regular_polygons_by_the_formula() {
    QFETCH(int, sides);
    QFETCH(double, radius);
    const Outline source = polygon(20, sides);
    const auto got = *round_corners(source, {.radius = radius});
    QCOMPARE(got.report.rounded, static_cast<std::size_t>(sides));
    QCOMPARE(got.report.smaller, std::size_t{0});
    QCOMPARE(got.report.left, std::size_t{0});
    QVERIFY(std::abs(got.report.least - radius) < 1e-9);
    QVERIFY2(closed_fault(got.outline).empty(), closed_fault(got.outline).c_str());
    QCOMPARE(corner_count(got.outline, 0.01), std::size_t{0});
    const double opens = pi - 2 * pi / sides;
    const double lost = sides * radius * radius * (1 / std::tan(opens / 2) - (pi - opens) / 2);
    QVERIFY2(std::abs(std::abs(source.area()) - std::abs(got.outline.area()) - lost) < 1e-3 * sides * radius,
             fmt::format("{} {}", source.area() - got.outline.area(), lost).c_str());
  }

  void outer_and_inner_as_a_disc_rolls_data() {
    QTest::addColumn<QString>("data");
    QTest::addColumn<double>("radius");
    QTest::newRow("star") << "M0 -30L7 -9L29 -9L11 4L18 25L0 12L-18 25L-11 4L-29 -9L-7 -9Z" << 1.0;
    QTest::newRow("L of lines") << "M0 0H30V10H10V30H0Z" << 3.0;
    QTest::newRow("frame with a hole") << "M0 0H40V30H0Z M10 10V20H30V10Z" << 2.0;
    QTest::newRow("the same the other way round") << "M0 0V30H40V0Z M10 10H30V20H10Z" << 2.0;
    QTest::newRow("half a disc") << "M-20 0A20 20 0 0 1 20 0Z" << 2.0;
    QTest::newRow("drop") << "M0 -30C10 -10 20 0 20 12A20 20 0 0 1 -20 12C-20 0 -10 -10 0 -30Z" << 3.0;
    QTest::newRow("lens") << "M-30 0A40 40 0 0 1 30 0A40 40 0 0 1 -30 0Z" << 4.0;
    QTest::newRow("notched disc") << "M20 0A20 20 0 1 1 0 -20L0 0Z" << 2.5;
  }
  void outer_and_inner_as_a_disc_rolls() {
    QFETCH(QString, data);
    QFETCH(double, radius);
    const Outline source = path(data.toUtf8().constData());
    for (const WhichCorners which : {WhichCorners::Outer, WhichCorners::Inner}) {
      const auto got = *round_corners(source, {.radius = radius, .which = which});
      QCOMPARE(got.report.smaller + got.report.left, std::size_t{0});
      const auto truth = which == WhichCorners::Outer ? opened(source, radius) : closed(source, radius);
      const double off = boundary_distance(rings_of(got.outline, 1e-4), truth);
      QVERIFY2(off < 0.003, fmt::format("{} off by {}", static_cast<int>(which), off).c_str());
      QVERIFY(std::abs(std::abs(got.outline.area()) - total_area(truth)) < 0.003 * total_length(truth));
    }
    // Both at once are each on their own.
    const auto all = *round_corners(source, {.radius = radius});
    const auto outer = *round_corners(source, {.radius = radius, .which = WhichCorners::Outer});
    const auto inner = *round_corners(source, {.radius = radius, .which = WhichCorners::Inner});
    QCOMPARE(all.report.rounded, outer.report.rounded + inner.report.rounded);
    QVERIFY(std::abs((all.outline.area() - source.area()) - (outer.outline.area() - source.area()) -
                     (inner.outline.area() - source.area())) < 1e-6);
  }

  // Of real letters: arcs touch both sides, nothing else moves, nothing crosses.
  void letters_data() {
    QTest::addColumn<QString>("family");
    QTest::addColumn<QString>("style");
    QTest::addColumn<double>("radius");
    for (const double r : {0.1, 0.4, 2.0}) {
      QTest::addRow("script, r %g", r) << "Dancing Script"
                                       << "Bold" << r;
      QTest::addRow("upright, r %g", r) << "Cabin"
                                        << "Bold" << r;
    }
  }
  void letters() {
    QFETCH(QString, family);
    QFETCH(QString, style);
    QFETCH(double, radius);
    const Outline word = straight_word("Wharf Eke", {family.toStdString(), style.toStdString()}, 40);
    const auto got = *round_corners(word, {.radius = radius});
    const RoundReport& r = got.report;
    QVERIFY2(closed_fault(got.outline).empty(), closed_fault(got.outline).c_str());
    QVERIFY(r.rounded > 20);
    QVERIFY(r.least >= least_rounding && r.least <= radius);
    QCOMPARE(got.outline.contours.size(), word.contours.size());
    const std::size_t sharp = corner_count(word, 30), still = corner_count(got.outline, 30);
    QVERIFY2(still <= r.left + 2 && sharp <= r.rounded + r.left + 2,
             fmt::format("{} corners, {} rounded, {} left, {} still", sharp, r.rounded, r.left, still).c_str());
    // Outer ones only take away, inner ones only add.
    const auto outer = *round_corners(word, {.radius = radius, .which = WhichCorners::Outer});
    const auto inner = *round_corners(word, {.radius = radius, .which = WhichCorners::Inner});
    QVERIFY(total_area(geos_combine('d', {outer.outline}, {word}, 1e-3)) < 1e-3 * word.length());
    QVERIFY(total_area(geos_combine('d', {word}, {inner.outline}, 1e-3)) < 1e-3 * word.length());
    // The area by GEOS is the signed area: no contour crosses itself or another.
    QVERIFY(std::abs(total_area(geos_union({got.outline}, 1e-3)) - got.outline.area()) < 1e-3 * word.length());
  }

  void where_there_is_no_room_arcs_are_smaller() {
    const auto square = *round_corners(path("M0 0H10V10H0Z"), {.radius = 8});
    QCOMPARE(square.report.smaller, std::size_t{4});
    QVERIFY(std::abs(square.report.least - 5) < 0.01);
    QVERIFY(std::abs(square.outline.area() - pi * 25) < 0.1);
    QVERIFY2(closed_fault(square.outline).empty(), closed_fault(square.outline).c_str());
    // One long and one short side: each corner gets its share of the short ones.
    const auto bar = *round_corners(path("M0 0H40V4H0Z"), {.radius = 100});
    QVERIFY(std::abs(bar.report.least - 2) < 0.01);
    // A bend tighter than the arc ends it: a wave whose crests are rounder than the arc would be.
    const auto wave = *round_corners(path("M0 0C4 0 4 6 8 6L8 20H0Z"), {.radius = 30});
    QCOMPARE(wave.report.rounded, std::size_t{4});
    QVERIFY(wave.report.least < 4.1);
  }

  void only_what_is_sharp_enough() {
    const Outline source = polygon(20, 5); // opens by 108°
    QCOMPARE(round_corners(source, {.radius = 1, .sharper_than = radians(107)}).value_or({}).report.rounded,
             std::size_t{0});
    QVERIFY(round_corners(source, {.radius = 1, .sharper_than = radians(107)}).value_or({}).outline == source);
    QCOMPARE(round_corners(source, {.radius = 1, .sharper_than = radians(109)}).value_or({}).report.rounded,
             std::size_t{5});
    // Smooth joints are none.
    QVERIFY(round_corners({{circle_contour({}, 9)}}, {.radius = 1, .sharper_than = pi}).value_or({}).outline ==
            Outline{{circle_contour({}, 9)}});
  }

  void open_lines_are_rounded_between_their_ends() {
    const auto got = *round_corners(path("M0 0H20V20H40"), {.radius = 5, .which = WhichCorners::Outer});
    QCOMPARE(got.report.rounded, std::size_t{2});
    const Contour& c = got.outline.contours.at(0);
    QVERIFY(!c.closed);
    QCOMPARE(c.segments.front().p0.x, 0.0);
    QCOMPARE(c.segments.back().p3.x, 40.0);
    QVERIFY(std::abs(c.length() - (60 - 4 * 5 + 2 * 5 * pi / 2)) < 0.01);
  }

  void what_would_cross_stays() {
    // A hole in the very tip that an arc would cut off.
    const Outline tip = path("M0 0L30 -6V6Z M5 0L8 .5V-.5Z");
    const auto got = *round_corners(tip, {.radius = 4, .which = WhichCorners::Outer, .sharper_than = radians(40)});
    QVERIFY(std::abs(total_area(geos_union({got.outline}, 1e-3)) - std::abs(got.outline.area())) < 0.01);
    QVERIFY(got.report.left >= 1);
  }

  void refuses_what_makes_no_sense_data() {
    QTest::addColumn<double>("radius");
    QTest::addColumn<double>("sharper");
    QTest::newRow("no radius") << 0.0 << 1.0;
    QTest::newRow("less than nothing") << -1.0 << 1.0;
    QTest::newRow("no number") << std::nan("") << 1.0;
    QTest::newRow("endless") << std::numeric_limits<double>::infinity() << 1.0;
    QTest::newRow("no angle") << 1.0 << 0.0;
    QTest::newRow("more than straight") << 1.0 << 3.2;
  }
  void refuses_what_makes_no_sense() {
    QFETCH(double, radius);
    QFETCH(double, sharper);
    const auto got = round_corners(polygon(10, 4), {.radius = radius, .sharper_than = sharper});
    QVERIFY(!got);
    QCOMPARE(got.error().code, ErrorCode::BadInput);
  }
  void ends_when_asked() {
    std::stop_source stop;
    stop.request_stop();
    const auto got = round_corners(polygon(10, 4), {.stop = stop.get_token()});
    QVERIFY(!got);
    QCOMPARE(got.error().code, ErrorCode::Cancelled);
  }
};

QTEST_GUILESS_MAIN(TestRoundCorners)
#include "test_round_corners.moc"
