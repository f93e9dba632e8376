// What falls apart when an outline is cut: drawings whose parts, counters, contacts and necks are worked out by hand
// beside them, and random ones counted by GEOS.
#include "geom/contacts.h"
#include "geom/cut_parts.h"
#include "geom/weak_link.h"
#include "reference/geos_union.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.005; // mm

} // namespace

class TestCutParts : public QObject {
  Q_OBJECT

private slots:
  void parts_and_counters_data() {
    QTest::addColumn<QString>("paths");
    QTest::addColumn<int>("parts");
    QTest::addColumn<int>("counters");
    QTest::addColumn<double>("largest"); // mm²; 0: not looked at
    QTest::addColumn<double>("smallest");
    const auto row = [](const char* name, const QString& paths, int parts, int counters, double largest = 0,
                        double smallest = 0) {
      QTest::newRow(name) << paths << parts << counters << largest << smallest;
    };
    row("a square", box(0, 0, 40, 40), 1, 0, 1600, 1600);
    row("a ring", disc(50, 50, 40) + disc(50, 50, 30, true), 1, 1, 700 * pi, 700 * pi);
    row("an eye in a ring", disc(50, 50, 40) + disc(50, 50, 30, true) + disc(50, 50, 10), 2, 1, 700 * pi, 100 * pi);
    row("rings in rings",
        disc(0, 0, 50) + disc(0, 0, 40, true) + disc(0, 0, 30) + disc(0, 0, 20, true) + disc(0, 0, 10), 3, 2, 900 * pi,
        100 * pi);
    row("a dot over a stem", box(0, 20, 10, 50) + "|" + disc(5, 8, 6), 2, 0, 500, 36 * pi);
    row("a dot that reaches the stem", box(0, 12, 10, 50) + "|" + disc(5, 8, 6), 1, 0);
    row("two bars that cross", box(0, 40, 100, 10) + "|" + box(45, 0, 10, 90), 1, 0, 1800, 1800);
    row("a frame of four bars",
        box(0, 0, 100, 10) + "|" + box(0, 60, 100, 10) + "|" + box(0, 0, 10, 70) + "|" + box(90, 0, 10, 70), 1, 1, 3000,
        3000); // 100·70 - 80·50
    row("with a gap of 0.1 mm",
        box(0, 0, 100, 10) + "|" + box(0, 60, 100, 10) + "|" + box(0, 0, 10, 70) + "|" + box(90, 10.1, 10, 49.8), 2, 0,
        2500 + 0, 498);
    row("a grille", box(0, 0, 90, 90) + box_hole(10, 10, 20, 70) + box_hole(40, 10, 20, 70) + box_hole(65, 10, 20, 70),
        1, 3, 3900, 3900);
    row("letters side by side", box(0, 0, 10, 40) + "|" + box(15, 0, 10, 40) + "|" + box(30, 0, 10, 40), 3, 0, 400,
        400);
    row("edge to edge", box(0, 0, 10, 40) + "|" + box(10, 0, 10, 40), 1, 0, 800, 800);
    row("corner on corner", box(0, 0, 10, 10) + "|" + box(10.5, 10.5, 10, 10), 2, 0, 100, 100);
    row("a plate with a dropped letter in its hole", box(0, 0, 90, 60) + box_hole(20, 10, 50, 40) + box(30, 20, 30, 20),
        2, 1, 3400, 600);
    row("three loose dots", box(0, 0, 100, 20) + "|" + disc(20, 30, 4) + "|" + disc(50, 30, 4) + "|" + disc(80, 30, 4),
        4, 0, 2000, 16 * pi);
  }
  void parts_and_counters() {
    QFETCH(QString, paths);
    QFETCH(int, parts);
    QFETCH(int, counters);
    QFETCH(double, largest);
    QFETCH(double, smallest);
    const Outline area = welded(paths);
    const std::vector<CutPart> found = cut_parts(area), loose = loose_stock(area);
    QCOMPARE(static_cast<int>(found.size()), parts);
    QCOMPARE(static_cast<int>(loose.size()), counters);
    if (largest > 0) { // discs are cubics: 3e-4 of their area
      QVERIFY(std::abs(found.front().area - largest) < 1e-6 + 4e-4 * largest);
      QVERIFY(std::abs(found.back().area - smallest) < 1e-6 + 4e-4 * smallest);
    }
    for (const CutPart& p : found)
      QVERIFY(winding_number(p.outline, p.at) == 1);
    for (const CutPart& p : loose)
      QVERIFY(winding_number(area, p.at) == 0);
  }

  void links_data() {
    QTest::addColumn<QString>("paths");
    QTest::addColumn<double>("width"); // 0: none
    const auto row = [](const char* name, const QString& paths, double width) {
      QTest::newRow(name) << paths << width;
    };
    const auto dumbbell = [](double bar) {
      return box(0, 0, 40, 40) + "|" + box(60, 0, 40, 40) + "|" + box(30, 20 - bar / 2, 40, bar);
    };
    for (const double bar : {0.5, 3.0, 12.0, 30.0})
      row(qPrintable(QString("two squares and a bar of %1").arg(bar)), dumbbell(bar), bar);
    row("two discs that overlap", disc(20, 20, 20) + "|" + disc(52, 20, 20), 24); // 2 √(20² - 16²)
    row("three in a row: the narrower of two",
        box(0, 0, 40, 40) + "|" + box(60, 0, 40, 40) + "|" + box(120, 0, 40, 40) + "|" + box(30, 18, 40, 4) + "|" +
            box(90, 19, 40, 2.5),
        2.5);
    row("two bars side by side: the wider one",
        box(0, 0, 40, 40) + "|" + box(60, 0, 40, 40) + "|" + box(30, 5, 40, 3) + "|" + box(30, 30, 40, 5), 5);
    row("a waist between two notches", "M0 0H50L55 14L60 0H110V40H60L55 30L50 40H0z", 16);
    row("a slanted bar", box(0, 0, 40, 40) + "|" + box(60, 40, 40, 40) + "|M38 30L72 64L70 66L36 32z", std::sqrt(8.0));
    row("an hourglass of arcs", "M0 0H60A40 40 0 0 0 60 64H0A40 40 0 0 0 0 0z", 28); // 60 - 2 (40 - √(40² - 32²))
    row("a square alone", box(0, 0, 40, 40), 0);
    row("a disc alone", disc(0, 0, 30), 0);
    row("a bar alone", box(0, 0, 90, 6), 0);
    row("a light end does not count", box(0, 0, 60, 60) + "|" + box(55, 29, 20, 2) + "|" + disc(77, 30, 3), 0);
  }
  void links() {
    QFETCH(QString, paths);
    QFETCH(double, width);
    const Outline area = welded(paths);
    QCOMPARE(cut_parts(area).size(), std::size_t{1});
    const auto link = weakest_link(area);
    if (width == 0) {
      QVERIFY2(!link, qPrintable(link ? QString::number(link->width) : QString()));
      return;
    }
    QVERIFY(link);
    QVERIFY2(std::abs(link->width - width) < bound, qPrintable(QString::number(link->width)));
    QVERIFY(std::abs(distance(link->a, link->b) - width) < bound);
    QVERIFY(winding_number(area, lerp(link->a, link->b, 0.5)) == 1);
    // Turned, it is as wide.
    const auto turned = weakest_link(area.transformed(Affine::rotation(0.4)));
    QVERIFY(turned && std::abs(turned->width - width) < bound);
  }

  void contacts_between_two_data() {
    QTest::addColumn<QString>("a");
    QTest::addColumn<QString>("b");
    QTest::addColumn<QList<double>>("widths");
    QTest::addColumn<double>("shared"); // of the widest; less than 0: not looked at
    using W = QList<double>;
    const auto row = [](const char* name, const QString& a, const QString& b, const W& widths, double shared = -1) {
      QTest::newRow(name) << a << b << widths << shared;
    };
    const QString ring = box(0, 0, 200, 100) + box_hole(10, 10, 180, 80);
    row("a stem into a frame", box(60, 5, 6, 50), ring, W{6}, 16);
    row("a stem across a frame, above and below", box(60, 5, 6, 90), ring, W{6, 6}, 16);
    row("a stem through the frame", box(60, -20, 6, 70), ring, W{6}, 20); // it comes out on the other side
    row("a slanted stem", "M60 5L80 40L75 42.857142857L55 7.857142857z", ring, W{0});
    row("stems of three widths", "M20 5H24V60H40V5H48V60H70V5H71V70H20z", ring, W{8, 4, 1});
    row("apart", box(30, 30, 20, 20), ring, W{});
    row("edge to edge", box(30, 10, 20, 20), ring, W{20}, 20);
    row("edge to edge twice", "M30 10H50V20H70V10H75V40H30z", ring, W{20, 5}, 20);
    row("half of an edge", box(50, 0, 30, 30), box(20, 0, 30, 12), W{12}, 12);
    row("two discs", disc(0, 0, 20), disc(32, 0, 20), W{24});
    row("two discs that touch", disc(0, 0, 20), disc(40, 0, 20), W{0});
    row("one in the other", box(20, 20, 10, 6), box(0, 0, 90, 60), W{6}, 32);
    row("a corner in a square", box(30, 30, 40, 40), box(0, 0, 40, 40), W{std::sqrt(200.0)}, 20);
    row("a cross", box(0, 40, 100, 10), box(45, 0, 12, 90), W{10}, 24);
    row("a point on an edge", "M50 10L60 40H40z", ring, W{0});
  }
  void contacts_between_two() {
    QFETCH(QString, a);
    QFETCH(QString, b);
    QFETCH(QList<double>, widths);
    QFETCH(double, shared);
    const auto found = contacts(drawn(a), drawn(b));
    QVERIFY(found.ok());
    const std::string name = QTest::currentDataTag();
    if (name == "a slanted stem") { // across it is √(25 + 2.857²), and it enters the level edge at a slant
      QCOMPARE(found->size(), std::size_t{1});
      const double across = std::hypot(5, 2.857142857), slant = std::hypot(20, 35) / 35;
      QVERIFY(std::abs((*found)[0].width - across * slant) < bound);
      return;
    }
    QCOMPARE(static_cast<int>(found->size()), static_cast<int>(widths.size()));
    for (int i = 0; i < widths.size(); ++i) {
      const Contact& c = (*found)[static_cast<std::size_t>(i)];
      // One that lies in the other is as wide as the largest circle in it, which is found within 1.5 %.
      const double off = name == "one in the other" ? 0.015 * widths[i] : bound;
      QVERIFY2(std::abs(c.width - widths[i]) < off, qPrintable(QString::number(c.width)));
    }
    if (shared >= 0)
      QVERIFY2(std::abs((*found)[0].shared - shared) < bound, qPrintable(QString::number((*found)[0].shared)));
    // Seen from the other, the same widths.
    const auto back = contacts(drawn(b), drawn(a));
    QVERIFY(back.ok() && back->size() == found->size());
    for (std::size_t i = 0; i < found->size(); ++i)
      QVERIFY(std::abs((*back)[i].width - (*found)[i].width) < bound);
  }

  // Heaps of blobs and bars: as many parts and counters as GEOS finds in their union, unless it finds others itself
  // when the shapes are grown or shrunk by as much as its flattening is off.
  void random_drawings_as_geos_counts_them() {
    const int trials = sanitized ? 20 : 500;
    int sure = 0;
    for (int n = 0; n < trials; ++n) {
      auto random = random_source(static_cast<std::uint64_t>(n) + 1);
      std::vector<Outline> shapes;
      const int count = 2 + static_cast<int>(random() % 9);
      for (int i = 0; i < count; ++i) {
        const Point at{uniform(random, 0, 160), uniform(random, 0, 110)};
        shapes.push_back(random() % 3 == 0 ? drawn(box(at.x, at.y, uniform(random, 5, 70), uniform(random, 3, 12)))
                                           : random_blob(random, at, uniform(random, 6, 24), 6));
      }
      const auto counts = [](const std::vector<Ring>& rings) {
        std::pair<int, int> out{0, 0};
        for (const Ring& r : rings)
          (ring_area(r) > 0 ? out.first : out.second)++;
        return out;
      };
      constexpr double flattening = 1e-4, off = 0.004;
      const auto truth = counts(geos_union(shapes, flattening));
      if (counts(geos_buffer(shapes, off, flattening)) != truth ||
          counts(geos_buffer(shapes, -off, flattening)) != truth)
        continue;
      ++sure;
      const Outline area = weld(shapes)->outline;
      const std::pair<int, int> found{static_cast<int>(cut_parts(area).size()),
                                      static_cast<int>(loose_stock(area).size())};
      QVERIFY2(found == truth, qPrintable(QString("seed %1: %2 parts, %3 counters, GEOS %4, %5")
                                              .arg(n + 1)
                                              .arg(found.first)
                                              .arg(found.second)
                                              .arg(truth.first)
                                              .arg(truth.second)));
    }
    QVERIFY(sure >= trials * 8 / 10);
  }
};

QTEST_APPLESS_MAIN(TestCutParts)
#include "test_cut_parts.moc"
