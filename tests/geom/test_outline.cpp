#include "geom/outline.h"

#include "geom/arc_cubics.h"
#include "geom/path_data.h"
#include "geom/quadrature.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

class TestOutline : public QObject {
  Q_OBJECT

private slots:
  void area_of_a_cubic_is_that_of_its_dense_polyline() {
    // The closed form is checked against a polyline of 20,000 points.
    auto random = random_source(7);
    for (int i = 0; i < 50; ++i) {
      const Outline blob = random_blob(random, {uniform(random, -50, 50), 10}, uniform(random, 2, 30), 6);
      Contour dense;
      std::vector<Point> points;
      for (const Segment& s : blob.contours[0].segments)
        for (int k = 0; k < 3000; ++k)
          points.push_back(s.at(k / 3000.0));
      double area = 0;
      for (std::size_t k = 0; k < points.size(); ++k)
        area += cross(points[k], points[(k + 1) % points.size()]) / 2;
      QVERIFY(std::abs(blob.area() - area) < 1e-4);
    }
  }

  void bounds_hold_every_point_and_touch_each_side() {
    auto random = random_source(11);
    for (int i = 0; i < 200; ++i) {
      const auto p = [&] { return Point{uniform(random, -9, 9), uniform(random, -9, 9)}; };
      const Segment s = Segment::cubic(p(), p(), p(), p());
      const Box exact = s.bounds();
      Box seen;
      for (int k = 0; k <= 2000; ++k)
        seen.add(s.at(k / 2000.0));
      QVERIFY(exact.grown(1e-9).contains(seen));
      QVERIFY(seen.grown(1e-4).contains(exact));
    }
  }

  void part_is_the_same_curve() {
    const Segment s = Segment::cubic({0, 0}, {10, 30}, {40, -20}, {50, 5});
    const Segment part = s.part(0.2, 0.7), back = s.part(0.7, 0.2);
    for (int k = 0; k <= 10; ++k) {
      const double u = k / 10.0, t = 0.2 + 0.5 * u;
      QVERIFY(distance(part.at(u), s.at(t)) < 1e-12);
      QVERIFY(distance(back.at(1 - u), s.at(t)) < 1e-12);
    }
    QVERIFY(s.part(0, 1) == s);
    QVERIFY(s.part(1, 0) == s.reversed());
  }

  void flat_steps_keep_the_tolerance_data() {
    QTest::addColumn<double>("tolerance");
    QTest::newRow("coarse") << 0.1;
    QTest::newRow("preview") << 0.01;
    QTest::newRow("weld") << 0.002;
    QTest::newRow("reference") << 2e-5;
  }
  void flat_steps_keep_the_tolerance() {
    QFETCH(double, tolerance);
    auto random = random_source(3);
    for (int i = 0; i < 40; ++i) {
      const auto p = [&] { return Point{uniform(random, -20, 20), uniform(random, -20, 20)}; };
      const Segment s = Segment::cubic(p(), p(), p(), p());
      const int n = s.flat_steps(tolerance);
      double worst = 0;
      for (int k = 0; k < n; ++k) {
        const Point a = s.at(static_cast<double>(k) / n), b = s.at(static_cast<double>(k + 1) / n);
        const Point m = s.at((k + 0.5) / n);
        worst = std::max(worst, std::abs(cross(b - a, m - a)) / std::max(distance(a, b), 1e-12));
      }
      QVERIFY(worst <= tolerance * 1.0001);
    }
  }

  void a_quadratic_becomes_the_same_cubic() {
    const Point a{1, 2}, b{7, -3}, c{9, 8};
    const Segment s = Segment::quadratic(a, b, c);
    for (double t : {0.1, 0.35, 0.5, 0.9}) {
      const Point q = a * ((1 - t) * (1 - t)) + b * (2 * t * (1 - t)) + c * (t * t);
      QVERIFY(distance(s.at(t), q) < 1e-12);
    }
  }

  void tangents_of_vanishing_handles_come_from_the_next_point() {
    const Segment s = Segment::cubic({0, 0}, {0, 0}, {5, 5}, {10, 5});
    QVERIFY(distance(s.start_tangent(), unit({5, 5})) < 1e-12);
    QVERIFY(distance(s.reversed().end_tangent(), unit({-5, -5})) < 1e-12);
    QVERIFY(Segment::line({1, 1}, {1, 1}).start_tangent() == (Vec{1, 0}));
  }

  void arcs_as_cubics_keep_half_a_micrometre_data() {
    QTest::addColumn<double>("radius");
    QTest::addColumn<double>("sweep");
    for (const double r : {0.5, 10.0, 120.0, 3000.0})
      for (const double sweep : {0.3, 2.0, -4.0, 2 * pi})
        QTest::addRow("r%g-sweep%g", r, sweep) << r << sweep;
  }
  void arcs_as_cubics_keep_half_a_micrometre() {
    QFETCH(double, radius);
    QFETCH(double, sweep);
    double worst = 0;
    for (const Segment& s : arc_cubics({3, 4}, radius, radius, 0.2, 0.7, sweep, default_arc_tolerance))
      for (int k = 0; k <= 50; ++k)
        worst = std::max(worst, std::abs(distance(s.at(k / 50.0), {3, 4}) - radius));
    QVERIFY2(worst <= default_arc_tolerance, qPrintable(QString::number(worst)));
  }

  void winding_tells_inside_counter_and_outside() {
    const Outline ring = *parse_outline("M0 0H10V10H0ZM3 3V7H7V3Z");
    QCOMPARE(winding_number(ring, {1, 1}), 1);
    QCOMPARE(winding_number(ring, {5, 5}), 0);
    QCOMPARE(winding_number(ring, {15, 5}), 0);
    QCOMPARE(winding_number({{ring.contours[0], ring.contours[0]}}, {1, 1}), 2);
  }

  void affine_composes_in_the_order_of_its_product() {
    const Affine m = Affine::translation({5, 0}) * Affine::rotation(pi / 2) * Affine::scaling(2, 3);
    QVERIFY(distance(m({1, 0}), {5, 2}) < 1e-12);
    QVERIFY(distance(Affine::scaling_about({4, 4}, 2, 2)({4, 4}), {4, 4}) < 1e-12);
    QVERIFY(std::abs(m.determinant() - 6) < 1e-12);
  }

  void empty_values_are_harmless() {
    QVERIFY(Outline{}.bounds().empty());
    QCOMPARE(Outline{}.area(), 0.0);
    QCOMPARE(Box{}.width(), 0.0);
    QVERIFY(!Box{}.overlaps(Box{0, 0, 1, 1}));
    QVERIFY((Box{0, 0, 1, 1}.contains(Box{})));
    QCOMPARE((Box{0, 0, 1, 1}.distance_to({4, 5, 6, 7})), 5.0);
    QVERIFY(std::abs(wrap_degrees(-190) - 170) < 1e-12);
    QVERIFY(std::abs(wrap_degrees(540) - 180) < 1e-12);
  }
};

QTEST_APPLESS_MAIN(TestOutline)
#include "test_outline.moc"
