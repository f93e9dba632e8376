#include "geom/distance.h"

#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline path(const QString& text) {
  return *parse_outline(text.toStdString());
}

// Every sample of one against every sample of the other.
double brute_force(const Outline& a, const Outline& b, int steps) {
  std::vector<Point> pa, pb;
  for (const auto& [o, out] : {std::pair{&a, &pa}, std::pair{&b, &pb}})
    for (const Contour& c : o->contours)
      for (const Segment& s : c.segments)
        for (int i = 0; i < steps; ++i)
          out->push_back(s.at(static_cast<double>(i) / steps));
  double best = 1e300;
  for (const Point p : pa)
    for (const Point q : pb)
      best = std::min(best, distance(p, q));
  return best;
}

} // namespace

class TestDistance : public QObject {
  Q_OBJECT

private slots:
  void closed_forms_data() {
    QTest::addColumn<QString>("a");
    QTest::addColumn<QString>("b");
    QTest::addColumn<double>("distance");
    QTest::addColumn<bool>("overlapping");
    const QString square = "M0 0H10V10H0Z", disc = "M-10 0A10 10 0 0 1 10 0A10 10 0 0 1 -10 0Z";
    QTest::newRow("side-by-side") << square << "M13 0H20V10H13Z" << 3.0 << false;
    QTest::newRow("corner-to-corner") << square << "M13 14H20V20H13Z" << 5.0 << false;
    QTest::newRow("corner-to-slanted-edge") << square << "M20 0L20 20L0 20Z" << 0.0 << true;
    QTest::newRow("slanted-edge-beyond") << square << "M24 0L24 24L0 24Z" << 4 / std::sqrt(2.0) << false;
    QTest::newRow("crossing") << square << "M5 5H15V15H5Z" << 0.0 << true;
    QTest::newRow("inside") << square << "M4 4H6V6H4Z" << 0.0 << true;
    QTest::newRow("in-the-counter") << "M0 0H10V10H0ZM2 2V8H8V2Z"
                                    << "M4 4H6V6H4Z" << 2.0 << false;
    QTest::newRow("disc-and-square") << disc << "M14 -5H20V5H14Z" << 4.0 << false;
    QTest::newRow("two-discs") << disc << "M20 0A10 10 0 0 1 40 0A10 10 0 0 1 20 0Z" << 10.0 << false;
    QTest::newRow("touching-edges") << square << "M10 2H20V8H10Z" << 0.0 << true;
  }
  void closed_forms() {
    QFETCH(QString, a);
    QFETCH(QString, b);
    QFETCH(double, distance);
    QFETCH(bool, overlapping);
    for (const auto& [x, y] : {std::pair{a, b}, std::pair{b, a}}) {
      const Closest c = closest(path(x), path(y));
      QVERIFY2(std::abs(c.distance - distance) <= 0.001, qPrintable(QString::number(c.distance)));
      QCOMPARE(c.overlapping, overlapping);
      if (!overlapping)
        QVERIFY(std::abs(frelm::distance(c.on_a, c.on_b) - c.distance) < 1e-9);
    }
  }

  void random_curves_match_brute_force() {
    auto random = random_source(23);
    for (int i = 0; i < 60; ++i) {
      const Outline a = random_blob(random, {0, 0}, 10, 6),
                    b = random_blob(random, {uniform(random, 22, 40), uniform(random, -10, 10)}, 9, 6);
      const double reference = brute_force(a, b, 250);
      const Closest c = closest(a, b);
      if (c.overlapping)
        continue;
      QVERIFY2(c.distance <= reference + 0.001 && c.distance > reference - 0.02,
               qPrintable(QString("%1 %2").arg(c.distance).arg(reference)));
    }
  }

  void empty_is_infinitely_far() {
    QVERIFY(std::isinf(closest({}, path("M0 0H1V1Z")).distance));
    QVERIFY(!closest({}, {}).overlapping);
  }

  void boundaries_of_nested_outlines_are_apart() {
    const Closest c = closest_boundaries(path("M0 0H10V10H0Z"), path("M4 4H6V6H4Z"));
    QVERIFY(!c.overlapping);
    QVERIFY(std::abs(c.distance - 4) < 1e-9);
  }

  void lines_meet_when_the_closest_distance_is_0() {
    auto random = random_source(24);
    int met = 0;
    for (int i = 0; i < 200; ++i) {
      const Outline a = random_blob(random, {0, 0}, 10, 6),
                    b = random_blob(random, {uniform(random, -25, 25), uniform(random, -10, 10)}, 5, 5);
      Boundary of_a(a), of_b(b);
      const auto at = of_a.meets(of_b);
      QCOMPARE(at.has_value(), closest_boundaries(a, b).overlapping);
      if (at) {
        ++met;
        const Outline there{{Contour{{Segment::line(*at, *at + Vec{1e-9, 0})}, false}}};
        QVERIFY(closest_boundaries(a, there).distance < 0.002 && closest_boundaries(b, there).distance < 0.002);
      }
      QCOMPARE(of_b.meets(of_a).has_value(), at.has_value()); // what it has learnt changes nothing
    }
    QVERIFY(met > 20 && met < 180);
  }
};

QTEST_APPLESS_MAIN(TestDistance)
#include "test_distance.moc"
