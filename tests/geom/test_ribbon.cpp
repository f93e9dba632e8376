// Ribbons: areas by closed forms, parts that never touch.
#include "geom/ribbon.h"

#include "geom/path_data.h"
#include "geom/winding.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

Curve line_of(const char* path) {
  const Contour c = parse_outline(path)->contours[0];
  return Curve({c.segments.begin(), c.segments.end()}, c.closed);
}
Curve arc(double radius, double sweep) {
  return Curve({ArcPiece{{0, 0}, radius, radius, 0, -pi / 2 - sweep / 2, sweep}});
}
// The least distance between two contours' flattened places.
double apart(const Contour& a, const Contour& b) {
  double least = 1e9;
  for (const Ring& ra : rings_of({{a}}, 0.01))
    for (const Ring& rb : rings_of({{b}}, 0.01))
      for (const Point p : ra)
        for (const Point q : rb)
          least = std::min(least, distance(p, q));
  return least;
}

} // namespace

class TestRibbon : public QObject {
  Q_OBJECT

private slots:
  // A band has the area length x width, around an arc of less than half a turn as well (Pappus's second theorem); each
  // swallow's tail takes the triangle width x notch / 2 from it.
  void bands_have_the_area_of_their_length_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("radius");
    QTest::addColumn<double>("sweep");
    QTest::newRow("straight") << "M10 20L210 60" << 0.0 << 0.0;
    QTest::newRow("arc") << "" << 150.0 << 1.1;
    QTest::newRow("arc-other-way") << "" << 90.0 << -2.4;
  }
  void bands_have_the_area_of_their_length() {
    QFETCH(QString, path);
    QFETCH(double, radius);
    QFETCH(double, sweep);
    const Curve line = radius > 0 ? arc(radius, sweep) : line_of(qPrintable(path));
    const double area = line.length() * 24;
    const auto plain = ribbon_parts(line, {.width = 24, .end = RibbonEnd::Straight});
    QVERIFY(plain.ok());
    QVERIFY2(std::abs(plain->area() - area) < 0.01 * line.length(), qPrintable(QString::number(plain->area() - area)));
    QCOMPARE(plain->contours.size(), std::size_t{1});
    const auto tails = ribbon_parts(line, {.width = 24, .notch = 9});
    QVERIFY(tails.ok() && closed_fault(*tails).empty());
    // On a straight one exactly the two triangles; on an arc the corners lie on the normals at its ends.
    const double lost = plain->area() - tails->area();
    QVERIFY2(std::abs(lost - 24 * 9) < (radius > 0 ? 24 * 9 * 0.05 : 0.01), qPrintable(QString::number(lost)));
  }

  void folded_parts_are_apart_by_the_gap_data() {
    QTest::addColumn<double>("drop");
    QTest::addColumn<double>("gap");
    for (const double drop : {8.0, -11.0, 30.0})
      for (const double gap : {0.4, 2.0})
        QTest::addRow("%g-%g", drop, gap) << drop << gap;
  }
  void folded_parts_are_apart_by_the_gap() {
    QFETCH(double, drop);
    QFETCH(double, gap);
    for (const Curve& line :
         {line_of("M0 0H200"), arc(240, 0.9), arc(240, -0.9), line_of("M0 0C60 -40 140 40 200 0")}) {
      const RibbonCut cut{.width = 30, .folds = true, .tail = 35, .drop = drop, .gap = gap};
      const auto made = ribbon_parts(line, cut);
      QVERIFY(made.ok() && closed_fault(*made).empty());
      QVERIFY2(made->contours.size() >= 5, qPrintable(QString::number(made->contours.size()))); // front, folds, tails
      for (std::size_t i = 0; i < made->contours.size(); ++i)
        for (std::size_t j = 0; j < i; ++j) {
          const double between = apart(made->contours[i], made->contours[j]);
          QVERIFY2(between > gap - 0.02, qPrintable(QString("%1 and %2: %3").arg(j).arg(i).arg(between)));
        }
      // Both ends alike on a line that is its own mirror image.
      if (line.at(0).curvature == line.at(line.length()).curvature) {
        const Box b = made->bounds();
        QVERIFY(std::abs(b.centre().x - line.at(line.length() / 2).point.x) < 0.01);
      }
      // Without a gap it is the same ribbon in one piece, larger by what lay between.
      const auto whole = ribbon_parts(line, {.width = 30, .folds = true, .tail = 35, .drop = drop, .gap = 0});
      QVERIFY(whole.ok() && closed_fault(*whole).empty());
      QCOMPARE(whole->contours.size(), std::size_t{1});
      QVERIFY(whole->area() > made->area());
      const Box a = whole->bounds(), b = made->bounds();
      QVERIFY(std::abs(a.x0 - b.x0) < 0.01 && std::abs(a.x1 - b.x1) < 0.01);
    }
  }

  // The hand's picture has the extents of what is cut, within what a few hundred places miss of a curve.
  void a_sketch_lies_where_the_ribbon_does() {
    for (const bool folds : {false, true})
      for (const Curve& line : {line_of("M0 0H200"), arc(240, 0.9), line_of("M0 0C60 -40 140 40 200 0")}) {
        const RibbonCut cut{.width = 30, .folds = folds, .tail = 35};
        const auto made = ribbon_parts(line, cut);
        const Outline sketch = ribbon_sketch(line, cut);
        QVERIFY(made.ok() && closed_fault(sketch).empty());
        const Box a = made->bounds(), b = sketch.bounds();
        QVERIFY(std::max({std::abs(a.x0 - b.x0), std::abs(a.y0 - b.y0), std::abs(a.x1 - b.x1), std::abs(a.y1 - b.y1)}) <
                0.05);
        if (!folds)
          QVERIFY(std::abs(made->area() - sketch.area()) < 0.002 * made->area());
      }
  }

  void closed_lines_make_rings() {
    const auto made = ribbon_parts(Curve::circle({10, 20}, 80), {.width = 20, .folds = true});
    QVERIFY(made.ok());
    QCOMPARE(made->contours.size(), std::size_t{2});
    QVERIFY(std::abs(made->area() - 2 * pi * 80 * 20) < 0.01 * 2 * pi * 160);
  }

  // Tighter than wide, crossing itself, tiny, notched deeper than long: always closed contours, or nothing.
  void odd_ribbons_are_closed() {
    auto random = random_source(26);
    for (int i = 0; i < (sanitized ? 20 : 200); ++i) {
      std::vector<CurvePiece> pieces;
      Point at{0, 0};
      for (int k = 0; k < 3; ++k) {
        const auto near = [&] { return at + Vec{uniform(random, -60, 90), uniform(random, -60, 60)}; };
        const Point to = near();
        pieces.emplace_back(Segment::cubic(at, near(), near(), to));
        at = to;
      }
      const RibbonCut cut{.width = uniform(random, 0.5, 60),
                          .notch = uniform(random, 0, 80),
                          .folds = i % 2 == 0,
                          .tail = uniform(random, 0.5, 80),
                          .drop = uniform(random, -40, 40),
                          .gap = i % 3 == 0 ? 0 : uniform(random, 0, 4)};
      const auto made = ribbon_parts(Curve(std::move(pieces)), cut);
      QVERIFY2(made.ok(), made.ok() ? "" : made.error().text().c_str());
      QVERIFY2(closed_fault(*made).empty(), qPrintable(QString("%1: ").arg(i) + closed_fault(*made).c_str()));
    }
  }
};

QTEST_APPLESS_MAIN(TestRibbon)
#include "test_ribbon.moc"
