#include "geom/curve.h"

#include "geom/curve_table.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>
#include <cmath>

using namespace frelm;
using namespace frelm::test;

namespace {

// Length by a plain midpoint sum over a million steps of the parameter: nothing shared with the code under test.
double dense_length(const Segment& s) {
  constexpr int n = 400000;
  double sum = 0;
  Point last = s.p0;
  for (int i = 1; i <= n; ++i) {
    const double t = static_cast<double>(i) / n, u = 1 - t;
    const Point p = s.p0 * (u * u * u) + s.p1 * (3 * u * u * t) + s.p2 * (3 * u * t * t) + s.p3 * (t * t * t);
    sum += distance(last, p);
    last = p;
  }
  return sum;
}

} // namespace

class TestCurve : public QObject {
  Q_OBJECT

private slots:
  void length_matches_closed_forms_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("length");
    QTest::newRow("line-3-4-5") << "M0 0L3 4" << 5.0;
    QTest::newRow("half-circle") << "M-10 0A10 10 0 0 1 10 0" << 10 * pi;
    QTest::newRow("full-circle-of-two-arcs") << "M-10 0A10 10 0 0 1 10 0A10 10 0 0 1 -10 0Z" << 20 * pi;
    QTest::newRow("rounded-square") << "M5 0H15A5 5 0 0 1 20 5V15A5 5 0 0 1 15 20H5A5 5 0 0 1 0 15V5A5 5 0 0 1 5 0Z"
                                    << 40 + 10 * pi;
    // Perimeter of an ellipse: 4 a E(k), k² = 1 − b²/a² (Abramowitz & Stegun 17.3, from memory).
    QTest::newRow("ellipse-30-10") << "M-30 0A30 10 0 0 1 30 0A30 10 0 0 1 -30 0Z"
                                   << 4 * 30 * std::comp_ellint_2(std::sqrt(1 - 1.0 / 9));
    // A parabola y = x² from 0 to 1 as a quadratic: (2√5 + asinh 2)/4.
    QTest::newRow("parabola") << "M0 0Q.5 0 1 1" << (2 * std::sqrt(5.0) + std::asinh(2.0)) / 4;
  }
  void length_matches_closed_forms() {
    QFETCH(QString, path);
    QFETCH(double, length);
    const Result<Curve> c = parse_curve(path.toStdString());
    QVERIFY(c.ok());
    QVERIFY2(std::abs(c->length() / length - 1) < 1e-9, qPrintable(QString::number(c->length(), 'g', 17)));
  }

  void length_of_random_cubics_matches_a_dense_sum() {
    auto random = random_source(5);
    for (int i = 0; i < 12; ++i) {
      const auto p = [&] { return Point{uniform(random, -80, 80), uniform(random, -80, 80)}; };
      const Segment s = Segment::cubic(p(), p(), p(), p());
      QVERIFY(std::abs(Curve({s}).length() / dense_length(s) - 1) < 1e-6);
    }
  }

  void places_divide_a_curve_into_equal_lengths_data() {
    QTest::addColumn<QString>("path");
    QTest::newRow("smooth-cubics") << "M0 0C40 80 90 -60 140 10S200 50 230 0";
    QTest::newRow("turned-ellipse") << "M230 0A60 20 15 1 0 300 40";
    QTest::newRow("loop") << "M0 0C120 90 -60 90 60 0";
  }
  void places_divide_a_curve_into_equal_lengths() {
    QFETCH(QString, path);
    const Curve c = *parse_curve(path.toStdString());
    constexpr int n = 50;
    for (int i = 0; i < n; ++i) {
      const double s0 = c.length() * i / n, s1 = c.length() * (i + 1) / n;
      double walked = 0;
      Point last = c.at(s0).point;
      for (int k = 1; k <= 400; ++k) {
        const Point p = c.at(s0 + (s1 - s0) * k / 400).point;
        walked += distance(last, p);
        last = p;
      }
      QVERIFY(std::abs(walked - (s1 - s0)) < 1e-5);
    }
  }

  void tangent_and_curvature_agree_with_differences() {
    const Curve c = *parse_curve("M0 0C40 80 90 -60 140 10A60 20 15 1 0 300 40");
    const double h = 1e-4;
    for (int i = 1; i < 60; ++i) {
      const double s = c.length() * i / 60;
      const CurvePlace p = c.at(s), a = c.at(s - h), b = c.at(s + h);
      if (distance(a.tangent, b.tangent) > 0.05)
        continue; // across the joint of the two pieces
      QVERIFY(distance(p.tangent, unit(b.point - a.point)) < 1e-5);
      const double turn = std::atan2(cross(a.tangent, b.tangent), dot(a.tangent, b.tangent)) / (2 * h);
      QVERIFY(std::abs(p.curvature - turn) < 1e-4 + 1e-4 * std::abs(turn));
    }
  }

  void circle_starts_at_the_top_and_runs_clockwise() {
    const Curve c = Curve::circle({10, 20}, 5);
    QVERIFY(distance(c.at(0).point, {10, 15}) < 1e-12);
    QVERIFY(distance(c.at(0).tangent, {1, 0}) < 1e-12);
    QVERIFY(distance(c.at(c.length() / 4).point, {15, 20}) < 1e-12);
    QVERIFY(std::abs(c.at(1).curvature - 0.2) < 1e-12);
    QVERIFY(distance(c.at(-c.length() / 4).point, {5, 20}) < 1e-12);
    QVERIFY(distance(c.at(c.length() * 1.25).point, {15, 20}) < 1e-9);
    QVERIFY(!c.at(-1).beyond);
    QVERIFY(distance(Curve::circle({0, 0}, 5, pi / 2).at(0).point, {5, 0}) < 1e-12);
  }

  void beyond_an_open_end_the_tangent_goes_on() {
    const Curve c = *parse_curve("M0 0C10 0 20 10 20 20");
    QVERIFY(c.at(-3).beyond && c.at(c.length() + 3).beyond && !c.at(1).beyond);
    QVERIFY(distance(c.at(-3).point, {-3, 0}) < 1e-9);
    QVERIFY(distance(c.at(c.length() + 3).point, {20, 23}) < 1e-9);
  }

  void reversed_runs_the_other_way() {
    const Curve c = *parse_curve("M0 0C40 80 90 -60 140 10A60 20 15 1 0 300 40L310 80"), r = c.reversed();
    QVERIFY(std::abs(c.length() - r.length()) < 1e-9);
    for (int i = 0; i <= 40; ++i) {
      const double s = c.length() * i / 40;
      QVERIFY(distance(c.at(s).point, r.at(r.length() - s).point) < 1e-7);
    }
    QVERIFY(distance(c.at(20).tangent, -r.at(r.length() - 20).tangent) < 1e-7);
  }

  void rigid_moves_carry_places_along() {
    const Curve c = *parse_curve("M0 0C40 80 90 -60 140 10A60 20 15 1 0 300 40"),
                m = c.transformed_rigidly(0.7, {3, -8});
    const Affine a = Affine::translation({3, -8}) * Affine::rotation(0.7);
    for (int i = 0; i <= 20; ++i)
      QVERIFY(distance(m.at(c.length() * i / 20).point, a(c.at(c.length() * i / 20).point)) < 1e-7);
  }

  void nearest_finds_the_foot() {
    const Curve c = Curve::circle({0, 0}, 50);
    for (int i = 0; i < 24; ++i) {
      const double angle = 2 * pi * (i + 0.37) / 24, s = 50 * angle;
      const Point p = direction(angle - pi / 2) * 61.0;
      QVERIFY(std::abs(c.nearest(p) - s) < 1e-4);
    }
  }

  // Tables against the curves they are made from: places, and directions against difference quotients.
  void a_table_gives_the_curve_s_places_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("bound");
    QTest::newRow("arc of r 60") << "M0 0A60 60 0 0 1 120 0" << 1e-6;
    QTest::newRow("arc of r 5") << "M0 0A5 5 0 0 1 10 0" << 2e-5;
    QTest::newRow("wave with a corner") << "M0 0C40 80 90 -60 140 10L200 90C220 40 300 60 320 0" << 1e-5;
    QTest::newRow("closed") << "M0 0C100 0 200 80 300 40V110C200 150 100 70 0 110Z" << 1e-5;
    QTest::newRow("jumps of curvature") << "M0 0H100A30 30 0 0 1 100 60H0" << 1e-6;
  }
  void a_table_gives_the_curve_s_places() {
    QFETCH(QString, path);
    QFETCH(double, bound);
    const Curve c = *parse_curve(path.toStdString());
    const CurveTable table(c);
    QCOMPARE(table.length(), c.length());
    auto random = random_source(21);
    for (int i = 0; i < 2000; ++i) {
      const double s = uniform(random, c.closed() ? -c.length() : -5, c.closed() ? 2 * c.length() : c.length() + 5);
      const CurvePlace exact = c.at(s);
      const CurveTable::Place p = table.at(s);
      QVERIFY2(distance(p.point, exact.point) < bound,
               qPrintable(QString("%1: %2").arg(s).arg(distance(p.point, exact.point))));
      QVERIFY2(distance(p.along, exact.tangent) < 1e-3,
               qPrintable(QString("%1: %2").arg(s).arg(distance(p.along, exact.tangent))));
    }
    QVERIFY(CurveTable(Curve()).at(3).along == (Vec{1, 0}));
  }

  void degenerate_curves_are_harmless() {
    QCOMPARE(Curve().length(), 0.0);
    QVERIFY(Curve().at(0).tangent == (Vec{1, 0}));
    QCOMPARE(Curve({Segment::line({1, 1}, {1, 1})}).length(), 0.0);
    const Curve cusp({Segment::cubic({0, 0}, {0, 0}, {10, 0}, {10, 0})});
    QVERIFY(std::abs(cusp.length() - 10) < 1e-9);
    QVERIFY(distance(cusp.at(0).tangent, {1, 0}) < 1e-9);
  }
};

QTEST_APPLESS_MAIN(TestCurve)
#include "test_curve.moc"
