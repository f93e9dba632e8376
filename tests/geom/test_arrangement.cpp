// Crossings in closed form; faces by hand, by Euler's formula and against the booleans.
#include "geom/arrangement.h"

#include "geom/boolean.h"
#include "geom/crossings.h"
#include "geom/path_data.h"
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
Outline disc(double r, Point centre = {}) {
  return {{circle_contour(centre, r)}};
}
Arrangement arranged(const std::vector<Outline>& outlines) {
  return *Arrangement::build(outlines);
}

} // namespace

class TestArrangement : public QObject {
  Q_OBJECT

private slots:
  void curves_cross_where_they_should_data() {
    QTest::addColumn<Segment>("a");
    QTest::addColumn<Segment>("b");
    QTest::addColumn<int>("count");
    const Segment arch = Segment::cubic({0, 0}, {0, 10}, {10, 10}, {10, 0});
    QTest::newRow("lines") << Segment::line({0, 0}, {10, 10}) << Segment::line({0, 10}, {10, 0}) << 1;
    QTest::newRow("lines-apart") << Segment::line({0, 0}, {4, 4}) << Segment::line({0, 10}, {10, 0}) << 0;
    QTest::newRow("lines-end-on-line") << Segment::line({0, 0}, {10, 0}) << Segment::line({5, 0}, {5, 9}) << 1;
    QTest::newRow("parallel") << Segment::line({0, 0}, {10, 0}) << Segment::line({0, 1}, {10, 1}) << 0;
    QTest::newRow("along-each-other") << Segment::line({0, 0}, {10, 0}) << Segment::line({4, 0}, {14, 0}) << 2;
    QTest::newRow("line-through-arch") << arch << Segment::line({-1, 5}, {11, 5}) << 2;
    QTest::newRow("line-touching-arch") << arch << Segment::line({-1, 7.5}, {11, 7.5}) << 1;
    QTest::newRow("the-same-curve") << arch << arch << 2;
    QTest::newRow("nine") << Segment::cubic({0, 0}, {30, 40}, {-20, 40}, {10, 0})
                          << Segment::cubic({-2, 4}, {40, 40}, {40, -12}, {-2, 24}) << -1;
  }
  void curves_cross_where_they_should() {
    QFETCH(Segment, a);
    QFETCH(Segment, b);
    QFETCH(int, count);
    const auto found = crossings(a, b);
    if (count >= 0)
      QCOMPARE(found.size(), static_cast<std::size_t>(count));
    for (const CurveCrossing& c : found)
      QVERIFY(distance(a.at(c.t), c.point) <= meet_distance && distance(b.at(c.u), c.point) <= meet_distance);
    // No change of side along a is missed: fine steps against the found parameters.
    std::size_t sides = 0;
    for (int i = 0; i < 3000 && count < 0; ++i) {
      const Point p = a.at(i / 3000.0), q = a.at((i + 1) / 3000.0);
      for (int k = 0; k < 3000; ++k) {
        const Point r = b.at(k / 3000.0), s = b.at((k + 1) / 3000.0);
        if ((cross(q - p, r - p) > 0) != (cross(q - p, s - p) > 0) &&
            (cross(s - r, p - r) > 0) != (cross(s - r, q - r) > 0))
          ++sides;
      }
    }
    QVERIFY(count >= 0 || sides == found.size());
  }
  void circles_cross_in_closed_form() {
    const Arrangement a = arranged({disc(10, {0, 0}), disc(8, {9, 0})});
    QCOMPARE(a.crossings().size(), std::size_t{2});
    const double x = (100 - 64 + 81) / 18.0, y = std::sqrt(100 - x * x);
    for (const Point p : a.crossings()) {
      QVERIFY(std::abs(p.x - x) < 0.002);
      QVERIFY(std::abs(std::abs(p.y) - y) < 0.002);
    }
    // The lens: two circular segments.
    const auto lens = a.face_at({6, 0});
    QVERIFY(lens.has_value());
    const double s1 = 2 * std::acos(x / 10), s2 = 2 * std::acos((9 - x) / 8);
    QVERIFY(std::abs(lens->area() - (50 * (s1 - std::sin(s1)) + 32 * (s2 - std::sin(s2)))) < 0.02);
    QVERIFY2(closed_fault(*lens).empty(), closed_fault(*lens).c_str());
    QVERIFY(!a.face_at({30, 0}).has_value());
  }

  void a_face_is_closed_by_several_open_lines() {
    // Four lines that overlap at their ends, and one that reaches in without dividing.
    const Arrangement a =
        arranged({path("M-2 0H12"), path("M10 -2V12"), path("M12 10H-2"), path("M0 12V-2"), path("M5 -3V4")});
    const auto face = a.face_at({8, 8});
    QVERIFY(face.has_value());
    QVERIFY(std::abs(face->area() - 100) < 1e-6);
    QCOMPARE(face->contours.size(), std::size_t{1});
    QVERIFY(!a.face_at({-1, 5}).has_value());
  }
  void islands_are_left_out() {
    const Arrangement a = arranged({disc(20), disc(4, {8, 0}), disc(3, {-8, 0}), disc(1, {8, 0})});
    const auto face = a.face_at({0, 10});
    QVERIFY(face.has_value());
    QCOMPARE(face->contours.size(), std::size_t{3});
    QVERIFY(std::abs(face->area() - pi * (400 - 16 - 9)) < 0.1);
    QVERIFY(std::abs(a.face_at({10, 0})->area() - pi * (16 - 1)) < 0.05);
    QVERIFY(std::abs(a.face_at({8, 0.5})->area() - pi) < 0.02);
  }
  void lines_drawn_twice_count_once() {
    const Arrangement a = arranged({path("M0 0H10V10H0Z"), path("M10 0H20V10H10Z"), path("M0 0H10V10H0Z")});
    QVERIFY(std::abs(a.face_at({5, 5})->area() - 100) < 1e-6);
    QVERIFY(std::abs(a.face_at({15, 5})->area() - 100) < 1e-6);
    QVERIFY(!a.face_at({25, 5}).has_value());
  }
  void a_curve_may_cross_itself() {
    const Arrangement a = arranged({path("M0 0C40 30 -30 30 10 0")});
    QCOMPARE(a.crossings().size(), std::size_t{1});
    QVERIFY(a.face_at({5, 18}).has_value());
    QVERIFY(!a.face_at({5, 0.5}).has_value());
  }

  void faces_agree_with_the_booleans() {
    // Random pairs: the faces at random places are a − b, b − a or a ∩ b, by area.
    constexpr std::uint64_t seed = 909;
    auto random = random_source(seed);
    for (int i = 0; i < 40; ++i) {
      const Outline a = self_union(random_blob(random, {}, 10, 6), FillRule::Nonzero)->outline;
      const Outline b = self_union(random_blob(random, {6, 3}, 9, 7), FillRule::Nonzero)->outline;
      const Arrangement arrangement = arranged({a, b});
      for (int k = 0; k < 20; ++k) {
        const Point p{uniform(random, -14, 18), uniform(random, -14, 16)};
        const bool in_a = winding_number(a, p) != 0, in_b = winding_number(b, p) != 0;
        const auto face = arrangement.face_at(p);
        const auto whole = in_a && in_b ? combine(BooleanOp::Intersection, {a}, {b})
                           : in_a       ? combine(BooleanOp::Difference, {a}, {b})
                                        : combine(BooleanOp::Difference, {b}, {a});
        if (!in_a && !in_b) // outside, or in a hollow that both enclose
          continue;
        QVERIFY2(face.has_value(), fmt::format("seed {} pair {}", seed, i).c_str());
        // The part of the boolean's result around p.
        double area = 0;
        for (const Contour& c : whole->outline.contours)
          if (c.area() > 0 && winding_number({{c}}, p) != 0)
            area = c.area();
        double outer = face->contours.front().area();
        QVERIFY2(std::abs(outer - area) < 0.01, fmt::format("seed {} pair {}: {} {}", seed, i, outer, area).c_str());
      }
    }
  }

  void the_stretch_between_two_crossings_is_found() {
    const Arrangement a = arranged({path("M0 0H30"), path("M10 -5V5"), path("M20 -5V5")});
    const auto middle = a.stretch_at({14, 1});
    QVERIFY(middle.has_value());
    QVERIFY(std::abs(middle->curve.length() - 10) < 1e-6);
    QVERIFY(!middle->whole);
    QCOMPARE(middle->from.outline, std::size_t{0});
    QVERIFY(std::abs(middle->from.t - 1.0 / 3) < 1e-6 && std::abs(middle->to.t - 2.0 / 3) < 1e-6);
    QVERIFY(std::abs(a.stretch_at({2, 1})->curve.length() - 10) < 1e-6);
    QVERIFY(std::abs(a.stretch_at({10.5, 4})->curve.length() - 5) < 1e-6);
    // On a closed contour it may go across the start.
    const Arrangement ring = arranged({path("M0 0H10V10H0Z"), path("M-2 5H12")});
    const auto top = ring.stretch_at({5, -1});
    QVERIFY(std::abs(top->curve.length() - 20) < 1e-6);
    QCOMPARE(top->curve.segments.size(), std::size_t{3});
    // A curve that nothing crosses is a stretch of its own.
    const auto alone = arranged({disc(5)}).stretch_at({5, 1});
    QVERIFY(alone->whole && alone->curve.closed);
  }
  void nothing_and_bad_input() {
    QVERIFY(!arranged({}).stretch_at({0, 0}).has_value());
    QVERIFY(!arranged({}).face_at({0, 0}).has_value());
    Outline broken = path("M0 0H10");
    broken.contours[0].segments[0].p0.x = std::nan("");
    QVERIFY(!Arrangement::build({broken}).ok());
    std::stop_source stop;
    stop.request_stop();
    QVERIFY(!Arrangement::build({disc(3)}, stop.get_token()).ok());
  }
};

QTEST_APPLESS_MAIN(TestArrangement)
#include "test_arrangement.moc"
