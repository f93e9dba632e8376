// Freehand strokes and parallels.
#include "geom/freehand.h"
#include "geom/parallel.h"

#include "geom/path_data.h"
#include "support/compare.h"
#include "support/every_guide.h"
#include "support/fixtures.h"

#include <QTest>
#include <limits>

using namespace frelm;
using namespace frelm::test;

namespace {

// A quarter wave as a hand draws it: points 2 mm apart with noise.
std::vector<Point> noisy_arc(std::mt19937_64& random, double noise) {
  std::vector<Point> out;
  for (int i = 0; i <= 120; ++i) {
    const double a = pi + pi * i / 120;
    const Vec n = direction(a);
    out.push_back(n * (80 + uniform(random, -noise, noise)));
  }
  return out;
}
double roughness(const Contour& c) { // turning that is not needed, radians
  double sum = 0;
  for (const Segment& s : c.segments)
    for (int i = 1; i <= 20; ++i) {
      const Vec a = s.derivative((i - 1) / 20.0), b = s.derivative(i / 20.0);
      sum += std::abs(std::atan2(cross(a, b), dot(a, b)));
    }
  return sum;
}

} // namespace

class TestFreehand : public QObject {
  Q_OBJECT

private slots:
  void noise_goes_and_the_stroke_stays() {
    auto random = random_source(21);
    const std::vector<Point> points = noisy_arc(random, 0.4);
    const Contour smooth = smooth_stroke(points, {12, 2e-4, false});
    for (const Segment& s : smooth.segments)
      for (int i = 0; i <= 20; ++i) // a Gaussian of width w shortens a radius by about w²/(2r): under 1 mm here
        QVERIFY(std::abs(length(s.at(i / 20.0)) - 80) < 1.2);
    QVERIFY2(smooth.segments.size() <= 16, qPrintable(QString::number(smooth.segments.size())));
    QVERIFY(roughness(smooth) < pi * 1.3);
    QCOMPARE(corner_count(Outline{{smooth}}, 2), std::size_t{0});
  }

  void more_smoothing_gives_a_calmer_line_with_the_same_ends() {
    const std::vector<Point> points = hand_stroke(200);
    double before = std::numeric_limits<double>::infinity();
    for (const double smoothing : {0.5, 3.0, 10.0, 40.0}) {
      const Contour c = smooth_stroke(points, {smoothing, 5e-5, false});
      QVERIFY(distance(c.segments.front().p0, points.front()) < 1e-9);
      QVERIFY(distance(c.segments.back().p3, points.back()) < 1e-9);
      QVERIFY(roughness(c) <= before + 0.02);
      before = roughness(c);
    }
  }

  void without_smoothing_the_points_are_followed() {
    std::vector<Point> points;
    for (int i = 0; i <= 60; ++i)
      points.push_back({i * 3.0, 25 * std::sin(i * 0.12)});
    const Contour c = smooth_stroke(points, {0, 1e-4, false});
    for (const Point p : points) {
      double nearest = 1e9;
      for (const Segment& s : c.segments)
        for (int i = 0; i <= 200; ++i)
          nearest = std::min(nearest, distance(s.at(i / 200.0), p));
      QVERIFY2(nearest < 0.15, qPrintable(QString::number(nearest)));
    }
  }

  void closed_strokes_close_smoothly() {
    std::vector<Point> ring;
    for (int i = 0; i < 90; ++i)
      ring.push_back(direction(2 * pi * i / 90) * (60 + 5 * std::sin(6 * pi * i / 90)));
    const Contour c = smooth_stroke(ring, {4, 1e-4, true});
    QVERIFY(c.closed);
    QVERIFY(closed_fault(Outline{{c}}).empty());
    QCOMPARE(corner_count(Outline{{c}}, 2), std::size_t{0});
  }

  void strokes_of_nothing_give_nothing() {
    const double nan = std::numeric_limits<double>::quiet_NaN();
    QVERIFY(smooth_stroke({}).segments.empty());
    QVERIFY(smooth_stroke({{1, 1}}).segments.empty());
    QVERIFY(smooth_stroke({{1, 1}, {1, 1}, {1, 1}}).segments.empty());
    QVERIFY(smooth_stroke({{1, 1}, {nan, 1}}).segments.empty());
    QCOMPARE(smooth_stroke({{0, 0}, {50, 0}}).segments.size(), std::size_t{1});
  }

  void parallels_are_as_long_as_closed_forms_say_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("distance");
    QTest::addColumn<double>("length");
    // Clockwise round shapes: up is outward, every full turn adds 2π a millimetre; corners add nothing.
    QTest::newRow("circle-outward") << "M0 -50A50 50 0 0 1 0 50A50 50 0 0 1 0 -50Z" << 12.0 << 2 * pi * 62;
    QTest::newRow("circle-inward") << "M0 -50A50 50 0 0 1 0 50A50 50 0 0 1 0 -50Z" << -12.0 << 2 * pi * 38;
    QTest::newRow("square") << "M0 0H40V40H0Z" << 7.0 << 160.0;
    QTest::newRow("rounded-corner") << "M0 0H40A10 10 0 0 1 50 10V60" << 5.0 << 90 + 15 * pi / 2;
    QTest::newRow("half-ellipse-of-any-kind") << "M-60 0A60 30 0 0 1 60 0" << 4.0 << 0.0;
  }
  void parallels_are_as_long_as_closed_forms_say() {
    QFETCH(QString, path);
    QFETCH(double, distance);
    QFETCH(double, length);
    const auto curve = std::make_shared<const Curve>(*parse_curve(path.toStdString()));
    const Result<Parallel> p = Parallel::make(curve, distance);
    QVERIFY(p.ok());
    if (length == 0) // Steiner: length + distance times the angle turned through, for any convex curve
      length = curve->length() + distance * pi;
    QVERIFY2(std::abs(p->length() - length) < 1e-5, qPrintable(QString::number(p->length(), 'g', 12)));
    for (int i = 0; i <= 20; ++i) {
      const double sigma = p->length() * i / 20.5;
      QVERIFY(std::abs(p->from_curve(p->to_curve(sigma)) - sigma) < 1e-6);
    }
    // Steps along it are as long as they say.
    for (int i = 0; i < 20; ++i) {
      const auto place = [&](double sigma) {
        const CurvePlace c = p->at(sigma).on_curve;
        return c.point + up_of(c.tangent) * distance;
      };
      const double sigma = p->length() * (i + 0.3) / 20.7, step = 1e-3;
      const double walked = frelm::distance(place(sigma), place(sigma + step));
      if (std::abs(walked - step) > 1e-6) // only over a corner
        QVERIFY2(walked > 1, qPrintable(QString::number(walked)));
    }
  }

  void parallels_that_turn_back_are_refused() {
    const auto circle = std::make_shared<const Curve>(Curve::circle({0, 0}, 20));
    QVERIFY(Parallel::make(circle, -19).ok());
    const Result<Parallel> back = Parallel::make(circle, -21);
    QVERIFY(!back.ok() && back.error().message().size() > 20);
  }
};

QTEST_APPLESS_MAIN(TestFreehand)
#include "test_freehand.moc"
