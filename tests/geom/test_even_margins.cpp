// Even margins in a shape: closed forms, and on blobs what nothing near is better than; distances by GEOS.
#include "geom/even_margins.h"
#include "geom/path_data.h"
#include "geom/rectangle.h"
#include "reference/geos_gap.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline drawn(const QString& path) {
  return *parse_outline(path.toStdString());
}
const char* const disc = "M100 50A50 50 0 0 1 0 50A50 50 0 0 1 100 50Z";
const char* const word = "M0 0h10v30h-10zM14 10h20v20h-20zM38 0h8v30h-8z"; // 46 × 30

Outline blob_of(std::uint64_t seed) {
  auto random = random_source(seed);
  Outline out = random_blob(random, {80, 60}, 60, 9);
  out.make_area_positive();
  return out;
}
// The distance to all that is outside of the shape.
double geos_margin(const Outline& item, const Outline& shape) {
  Outline outside{{rectangle(shape.bounds().grown(100))}};
  for (const Contour& c : shape.contours)
    outside.contours.push_back(c.reversed());
  return geos_distance(item, outside);
}

} // namespace

class TestEvenMargins : public QObject {
  Q_OBJECT

private slots:
  void closed_forms_data() {
    QTest::addColumn<QString>("shape");
    QTest::addColumn<QString>("item");
    QTest::addColumn<double>("margin"); // as large as it is
    QTest::addColumn<double>("asked");
    QTest::addColumn<double>("scale"); // with that margin
    QTest::addColumn<double>("x");     // where its middle stands; below 0: not unique
    QTest::addColumn<double>("y");
    QTest::newRow("bar in a bar") << "M0 0h100v50h-100z"
                                  << "M7 9h40v20h-40z" << 15.0 << 5.0 << 2.0 << 50.0 << 25.0;
    QTest::newRow("word in a much longer bar")
        << "M0 0h900v40h-900z" << word << 5.0 << 2.0 << 36.0 / 30 << 450.0 << 20.0;
    // The corners of a square of side a are a / √2 from its middle.
    QTest::newRow("square in a disc") << disc << "M0 0h20v20h-20z" << 50 - 20 / std::sqrt(2.0) << 5.0
                                      << 45 * std::sqrt(2.0) / 20 << 50.0 << 50.0;
    QTest::newRow("disc in a square") << "M0 0h100v100h-100z"
                                      << "M20 10A10 10 0 0 1 0 10A10 10 0 0 1 20 10Z" << 40.0 << 0.0 << 5.0 << 50.0
                                      << 50.0;
    // In an equilateral triangle of side 120 with its inscribed radius r = 120 / (2 √3), all sides moved in by m leave
    // one of side 120 (1 - m / r), in which an upright square has the side s h / (s + h), h = s √3 / 2.
    const double r = 120 / (2 * std::sqrt(3.0)), s = 120 * (1 - 6 / r), h = s * std::sqrt(3.0) / 2;
    QTest::newRow("square in a triangle")
        << "M0 0L120 0L60 103.92304845413264Z"
        << "M0 0h10v10h-10z" << -1.0 << 6.0 << s * h / (s + h) / 10 << 60.0 << 6 + s * h / (s + h) / 2;
    // A hole keeps it out: in a ring of 50 and 30 a disc of radius 4.
    QTest::newRow("disc in a ring")
        << "M100 50A50 50 0 0 1 0 50A50 50 0 0 1 100 50ZM80 50A30 30 0 0 0 20 50A30 30 0 0 0 80 50Z"
        << "M8 4A4 4 0 0 1 0 4A4 4 0 0 1 8 4Z" << 6.0 << 2.0 << 2.0 << -1.0 << -1.0;
  }
  void closed_forms() {
    QFETCH(QString, shape);
    QFETCH(QString, item);
    QFETCH(double, margin);
    QFETCH(double, asked);
    QFETCH(double, scale);
    QFETCH(double, x);
    QFETCH(double, y);
    const Outline in = drawn(shape), what = drawn(item);
    const double side = std::min(in.bounds().width(), in.bounds().height());
    if (margin >= 0) {
      const auto even = evenly_inside(what, in);
      QVERIFY(even && even->scale == 1);
      const Outline there = what.transformed(even->place());
      QVERIFY2(std::abs(even->margin - margin) < 0.005 * side, qPrintable(QString::number(even->margin)));
      if (x >= 0)
        QVERIFY2(distance(there.bounds().centre(), {x, y}) < 0.005 * side,
                 qPrintable(QString("%1 %2").arg(there.bounds().centre().x).arg(there.bounds().centre().y)));
    }
    const auto largest = largest_inside(what, in, asked);
    QVERIFY(largest);
    const Outline there = what.transformed(largest->place());
    QVERIFY2(std::abs(largest->scale / scale - 1) < 0.005, qPrintable(QString::number(largest->scale)));
    QVERIFY2(largest->margin > asked - 1e-9 && largest->margin < asked + 0.01,
             qPrintable(QString::number(largest->margin)));
    if (x >= 0)
      QVERIFY2(distance(there.bounds().centre(), {x, y}) < 0.01 * side,
               qPrintable(QString("%1 %2").arg(there.bounds().centre().x).arg(there.bounds().centre().y)));
  }

  // In blobs: what is reported is what GEOS measures, and nothing a little elsewhere has more room.
  void blobs() {
    for (unsigned seed = 1; seed <= 5; ++seed) {
      const Outline shape = blob_of(seed), what = drawn(word);
      const auto even = evenly_inside(what, shape);
      QVERIFY(even);
      const Outline here = what.transformed(even->place());
      QVERIFY2(std::abs(geos_margin(here, shape) - even->margin) < 0.01, qPrintable(QString::number(even->margin)));
      for (int i = 0; i < 64; ++i) {
        const double turn = radians(i * 45.0), far = 0.25 * std::pow(2, i / 8.0);
        const Vec by = Vec{std::cos(turn), std::sin(turn)} * far;
        QVERIFY(geos_margin(here.transformed(Affine::translation(by)), shape) <
                even->margin + 0.005 * shape.bounds().height());
      }
      const auto largest = largest_inside(what, shape, 4);
      QVERIFY(largest);
      const Outline there = what.transformed(largest->place());
      QVERIFY(std::abs(geos_margin(there, shape) - 4) < 0.02);
      const auto again = largest_inside(there, shape, 4); // finds itself
      QVERIFY2(again && std::abs(again->scale - 1) < 0.01, qPrintable(QString::number(again->scale)));
    }
  }

  void no_room() {
    const Outline bar = drawn("M0 0h100v50h-100z"), open = drawn("M0 0L100 0L100 50");
    QVERIFY(!evenly_inside(drawn("M0 0h101v5h-101z"), bar)); // wider
    QVERIFY(!evenly_inside(drawn("M0 0h10v10h-10z"), open)); // no area
    QVERIFY(!evenly_inside({}, bar) && !evenly_inside(bar, {}) && !largest_inside({}, bar, 0));
    QVERIFY(!largest_inside(drawn("M0 0h10v10h-10z"), bar, 25)); // no room is left
    QVERIFY(!largest_inside(drawn("M0 0h10v10h-10z"), bar, std::nan("")));
    // Only just.
    const double side = 2 * 49.9 / std::sqrt(2.0);
    const auto tight = evenly_inside(drawn(QString("M0 0h%1v%1h-%1z").arg(side, 0, 'f', 9)), drawn(disc));
    QVERIFY(tight && std::abs(tight->margin - 0.1) < 0.03);
    QVERIFY(!evenly_inside(drawn("M0 0h71v71h-71z"), drawn(disc))); // its half diagonal is 50.2
    const auto point = evenly_inside(Outline{{{{Segment::line({7, 7}, {7, 7})}, false}}}, bar);
    QVERIFY(point && std::abs(point->margin - 25) < 0.2);
    const auto line = largest_inside(drawn("M0 0L10 0"), bar, 5); // a line has a length
    QVERIFY(line && std::abs(line->scale - 9) < 0.05);
  }
};

QTEST_APPLESS_MAIN(TestEvenMargins)
#include "test_even_margins.moc"
