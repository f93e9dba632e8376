// Where there is most room in an area: closed forms, and a grid over blobs.
#include "geom/distance.h"
#include "geom/free_circle.h"
#include "geom/nodes.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

class TestFreeCircle : public QObject {
  Q_OBJECT

private slots:
  void closed_forms_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("radius");
    QTest::addColumn<bool>("anywhere"); // its centre is free along a line
    QTest::addColumn<double>("x");
    QTest::addColumn<double>("y");
    QTest::newRow("square") << "M0 0h40v40h-40z" << 20.0 << false << 20.0 << 20.0;
    QTest::newRow("bar") << "M0 0h90v12h-90z" << 6.0 << false << 45.0 << 6.0; // of as many as there are the middle
    QTest::newRow("disc") << "M60 50A30 30 0 0 1 0 50A30 30 0 0 1 60 50Z" << 30.0 << false << 30.0 << 50.0;
    // Of a right triangle with legs a, b and hypotenuse c: r = (a + b - c) / 2.
    QTest::newRow("triangle 3-4-5") << "M0 0h40v30z" << 10.0 << false << 30.0 << 10.0;
    // Of a ring half the difference of the radii.
    QTest::newRow("ring") << "M100 50A50 50 0 0 1 0 50A50 50 0 0 1 100 50ZM80 50A30 30 0 0 0 20 50A30 30 0 0 0 80 50Z"
                          << 10.0 << true << 0.0 << 0.0;
    // An L of arms 20 wide: as far from both sides as from the inner corner, (20 - r) √2 = r.
    QTest::newRow("L") << "M0 0h60v20h-40v40h-20z" << 20 * std::sqrt(2.0) / (1 + std::sqrt(2.0)) << false
                       << 20 * std::sqrt(2.0) / (1 + std::sqrt(2.0)) << 20 * std::sqrt(2.0) / (1 + std::sqrt(2.0));
    QTest::newRow("much longer than wide") << "M0 0h9000v2h-9000z" << 1.0 << false << 4500.0 << 1.0;
  }
  void closed_forms() {
    QFETCH(QString, path);
    QFETCH(double, radius);
    QFETCH(bool, anywhere);
    QFETCH(double, x);
    QFETCH(double, y);
    const auto found = free_circle(*parse_outline(path.toStdString()));
    QVERIFY(found);
    QVERIFY2(found->radius > 0.985 * radius && found->radius < radius * 1.001,
             qPrintable(QString::number(found->radius))); // discs are cubics
    if (!anywhere)
      QVERIFY(distance(found->centre, {x, y}) < 0.06 * radius);
  }

  void nothing_to_find() {
    QVERIFY(!free_circle({}));
    QVERIFY(!free_circle(*parse_outline("M0 0L50 50", EndsMeet::StaysOpen)));
  }

  void no_grid_place_has_more_room() {
    for (std::uint64_t seed = 1; seed <= (sanitized ? 2U : 8U); ++seed) {
      auto random = random_source(seed);
      const Outline blob = random_blob(random, {50, 50}, 40, 9);
      const auto found = free_circle(blob);
      QVERIFY(found);
      const auto inside = [&](Point p) {
        return winding_number(blob, p, 0.01) != 0 ? nearest_on(blob, p)->distance : -1;
      };
      QVERIFY2(std::abs(inside(found->centre) - found->radius) < 0.01 * found->radius,
               qPrintable(QString::number(seed)));
      const Box box = blob.bounds();
      for (double gx = box.x0; gx < box.x1; gx += 4)
        for (double gy = box.y0; gy < box.y1; gy += 4)
          QVERIFY(inside({gx, gy}) <= found->radius / 0.985 + 0.01);
    }
  }
};

QTEST_APPLESS_MAIN(TestFreeCircle)
#include "test_free_circle.moc"
