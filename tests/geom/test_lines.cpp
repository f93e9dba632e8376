// Stretches snipped and spaces taken, on hand-made drawings whose lengths and areas are known in closed form.
#include "geom/snip.h"
#include "geom/spaces.h"

#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline path(const QString& data) {
  return *parse_outline(data.toStdString());
}
QString circle(double x, double y, double r) {
  return QString("M%1 %2A%3 %3 0 1 1 %4 %2A%3 %3 0 1 1 %1 %2Z").arg(x - r).arg(y).arg(r).arg(x + r);
}
Outline snipped_at(const Outline& o, const std::vector<Point>& places) {
  const Arrangement lines = *Arrangement::build({o});
  std::vector<ArrangedStretch> gone;
  for (const Point p : places)
    gone.push_back(*lines.stretch_at(p));
  return without_stretches(o, gone);
}

} // namespace

class TestLines : public QObject {
  Q_OBJECT

private slots:
  void snipped_data() {
    QTest::addColumn<QString>("drawing");
    QTest::addColumn<QPointF>("at");
    QTest::addColumn<double>("left"); // mm of line
    QTest::addColumn<int>("contours");
    const double ring = 2 * pi * 10;
    QTest::newRow("cross") << "M0 10H20M10 0V20" << QPointF(15, 10) << 30.0 << 2;
    QTest::newRow("grid, the middle") << "M0 5H30M0 15H30M10 -5V25M20 -5V25" << QPointF(15, 5) << 110.0 << 5;
    QTest::newRow("ring cut by a line") << circle(0, 0, 10) + "M-20 0H20" << QPointF(0, -10) << ring / 2 + 40 << 2;
    QTest::newRow("the line in the ring") << circle(0, 0, 10) + "M-20 0H20" << QPointF(0, 0) << ring + 20 << 3;
    QTest::newRow("a line touches a ring") << circle(0, 0, 10) + "M-20 -10H20" << QPointF(15, -10) << ring + 20 << 2;
    QTest::newRow("arc of a lens") << circle(-6, 0, 10) + circle(6, 0, 10) << QPointF(4, 0)
                                   << 2 * ring - 20 * std::acos(0.6) << 2;
    QTest::newRow("loop of one line") << "M0 0H20V10H10V-10" << QPointF(20, 5) << 20.0 << 2;
    QTest::newRow("tail of that line") << "M0 0H20V10H10V-10" << QPointF(10, -8) << 50.0 << 1;
    QTest::newRow("nothing crosses a ring") << circle(0, 0, 10) + "M30 0H40" << QPointF(10, 0) << 10.0 << 1;
    QTest::newRow("nothing crosses a line") << "M0 0H20" << QPointF(3, 0) << 0.0 << 0;
    QTest::newRow("along each other") << "M0 0H20M10 0H30" << QPointF(15, 0) << 30.0 << 2;
    QTest::newRow("over the start of a square") << "M5 0H10V10H0V0ZM3 -5V15M7 -5V15" << QPointF(5, 0) << 76.0 << 3;
    QTest::newRow("a line ends on another") << "M0 0H20M10 0V10" << QPointF(15, 0) << 20.0 << 2;
    QTest::newRow("a line through a corner") << "M0 0H10V10H0ZM0 -10L20 10" << QPointF(0, 5) << std::hypot(20, 20) << 1;
    QTest::newRow("a wave over a line") << "M0 0C10 -20 20 20 30 0M0 0H30" << QPointF(7, 0) << -1.0 << 2;
  }
  void snipped() {
    QFETCH(QString, drawing);
    QFETCH(QPointF, at);
    QFETCH(double, left);
    QFETCH(int, contours);
    const Outline drawn = path(drawing);
    const Outline rest = snipped_at(drawn, {{at.x(), at.y()}});
    if (left >= 0)
      QVERIFY2(std::abs(rest.length() - left) < 0.02, fmt::format("{} {}", rest.length(), left).c_str());
    QCOMPARE(rest.contours.size(), static_cast<std::size_t>(contours));
    for (const Contour& c : rest.contours)
      for (std::size_t i = 1; i < c.segments.size(); ++i)
        QVERIFY(c.segments[i].p0 == c.segments[i - 1].p3);
    // What is left lies on what was.
    const BoundaryDistance from_drawn(rings_of(drawn, 0.0001));
    for (const Contour& c : rest.contours)
      for (const Point p : flatten(c, 0.001))
        QVERIFY(from_drawn(p) < 0.003);
  }

  void several_at_once_as_one_after_the_other() {
    const Outline grid = path("M0 5H30M0 15H30M10 -5V25M20 -5V25");
    const Outline both = snipped_at(grid, {{15, 5}, {25, 5}, {10, 10}});
    QVERIFY(std::abs(both.length() - (120 - 10 - 10 - 10)) < 1e-6);
    Outline one = snipped_at(grid, {{15, 5}});
    one = snipped_at(one, {{25, 5}});
    one = snipped_at(one, {{10, 10}});
    QVERIFY(std::abs(both.length() - one.length()) < 1e-6);
    QCOMPARE(both.contours.size(), one.contours.size());
    // Of a ring: two opposite quarters.
    const Outline ring = path(circle(0, 0, 10) + "M-20 0H20M0 -20V20");
    const Outline rest = snipped_at(ring, {{7, -7}, {-7, 7}});
    QVERIFY(std::abs(rest.length() - (10 * pi + 80)) < 0.02);
    QCOMPARE(rest.contours.size(), std::size_t{4});
  }
  void names_that_are_none_change_nothing() {
    const Outline line = path("M0 0H20");
    ArrangedStretch none;
    none.from.contour = 7;
    QVERIFY(without_stretches(line, {none}) == line);
    QVERIFY(without_stretches(line, {}) == line);
  }

  void spaces_data() {
    QTest::addColumn<QString>("drawing");
    QTest::addColumn<QPointF>("at");
    QTest::addColumn<double>("bridged");
    QTest::addColumn<double>("area"); // less than 0: no space
    const double disc = pi * 100, lens = 200 * std::acos(0.6) - 6 * 16;
    QTest::newRow("square") << "M0 0H10V10H0Z" << QPointF(5, 5) << 0.0 << 100.0;
    QTest::newRow("middle of a grid") << "M0 5H30M0 15H30M10 -5V25M20 -5V25" << QPointF(15, 10) << 0.0 << 100.0;
    QTest::newRow("open cell of a grid") << "M0 5H30M0 15H30M10 -5V25M20 -5V25" << QPointF(5, 10) << 0.0 << -1.0;
    QTest::newRow("lens") << circle(-6, 0, 10) + circle(6, 0, 10) << QPointF(0, 0) << 0.0 << lens;
    QTest::newRow("moon") << circle(-6, 0, 10) + circle(6, 0, 10) << QPointF(-12, 0) << 0.0 << disc - lens;
    QTest::newRow("with an island") << "M-15 -15H15V15H-15Z" + circle(0, 0, 10) << QPointF(-13, 0) << 0.0 << 900 - disc;
    QTest::newRow("corner beside a touching ring")
        << "M-10 -10H10V10H-10Z" + circle(0, 0, 10) << QPointF(-9.5, -9.5) << 0.0 << (400 - disc) / 4;
    QTest::newRow("loop of one line") << "M0 0H20V10H10V-10" << QPointF(15, 5) << 0.0 << 100.0;
    QTest::newRow("a hair that ends inside") << "M0 0H10V10H0ZM5 -5V5" << QPointF(7, 7) << 0.0 << 100.0;
    QTest::newRow("in the open") << "M0 0H10V10H0Z" << QPointF(15, 5) << 0.0 << -1.0;
    QTest::newRow("beside a shared edge") << "M0 0H10V10H0ZM10 0H20V10H10Z" << QPointF(5, 5) << 0.0 << 100.0;
    QTest::newRow("half disc") << circle(0, 0, 10) + "M-20 0H20" << QPointF(0, -5) << 0.0 << disc / 2;
    QTest::newRow("opening, not bridged") << "M0 0H10V10H0V.5" << QPointF(5, 5) << 0.0 << -1.0;
    QTest::newRow("opening just over the width") << "M0 0H10V10H0V.5" << QPointF(5, 5) << 0.49 << -1.0;
    QTest::newRow("opening just under the width") << "M0 0H10V10H0V.5" << QPointF(5, 5) << 0.51 << 100.0;
    QTest::newRow("end before a line, bridged") << "M0 0H10V10H0ZM5 0V9.6" << QPointF(2, 5) << 0.5 << 50.0;
    QTest::newRow("end before a line, too far") << "M0 0H10V10H0ZM5 0V9.6" << QPointF(2, 5) << 0.3 << 100.0;
    QTest::newRow("an end and its own line") << "M0 0H10V10H0V.3H5" << QPointF(5, 5) << 0.5 << 98.5;
    QTest::newRow("two corners apart") << "M.3 0H10V9.7M9.7 10H0V.3" << QPointF(5, 5) << 0.5 << 100 - 0.09;
    QTest::newRow("between rings that nearly touch")
        << circle(-10.1, 0, 10) + circle(10.1, 0, 10) + "M-12 -10H12" << QPointF(0, -6) << 0.25 << -2.0;
  }
  void spaces() {
    QFETCH(QString, drawing);
    QFETCH(QPointF, at);
    QFETCH(double, bridged);
    QFETCH(double, area);
    const Result<Spaces> found = Spaces::build({path(drawing)}, bridged);
    QVERIFY(found.ok());
    const std::optional<Outline> space = found->at({at.x(), at.y()});
    QCOMPARE(space.has_value(), area != -1);
    if (!space)
      return;
    QVERIFY2(closed_fault(*space).empty(), closed_fault(*space).c_str());
    if (area >= 0)
      QVERIFY2(std::abs(space->area() - area) < 0.02, fmt::format("{} {}", space->area(), area).c_str());
    else // by the strip's height less both segments of the rings, and the sliver beside the bridge
      QVERIFY(!found->bridges().empty() && space->area() > 20);
    for (const Bridge& b : found->bridges())
      QVERIFY(distance(b.from, b.to) <= bridged);
  }

  // Discs that touch a ring from outside or inside, or miss it or cut into it by less than what counts as meeting.
  void a_touching_disc_lets_nothing_through() {
    auto random = random_source(77);
    for (int i = 0; i < (sanitized ? 40 : 400); ++i) {
      const double way = uniform(random, 0, 2 * pi), off = uniform(random, -4e-4, 4e-4);
      const double radius = uniform(random, 20, 150), small = uniform(random, 1, 12);
      const bool inside = i % 2 == 0;
      const Point at = direction(way) * (inside ? radius - small + off : radius + small + off);
      Outline drawn{{circle_contour({}, radius), circle_contour(at, small)}};
      const auto space = Spaces::build({drawn}, 0)->at(direction(way + pi) * (radius / 2));
      QVERIFY2(space.has_value(), fmt::format("round {}", i).c_str());
      const double area = pi * (radius * radius - (inside ? small * small : 0));
      QVERIFY2(std::abs(space->area() - area) < 0.02 * radius,
               fmt::format("round {}: {} {}", i, space->area(), area).c_str());
    }
  }
  // A row of letters that stands on a circle, flat feet through it and round ones on it.
  void letters_on_a_circle_leave_its_inside_alone() {
    const Letters words = letters_of("SALTMARSH BOATWORKS", {"Bebas Neue", "Book"}, 34, SizeBy::Capitals);
    std::vector<Outline> drawn{{{circle_contour({}, 120)}}};
    for (const Outline& o : letter_outlines(on_circle(words, 120)))
      drawn.push_back(o);
    const auto spaces = Spaces::build(drawn, 0);
    QVERIFY(spaces.ok());
    const auto inside = spaces->at({0, 0});
    QVERIFY(inside.has_value() && std::abs(inside->area() - pi * 120 * 120) < 80);
    QVERIFY(!spaces->at({0, 150}).has_value());
  }

  void an_end_is_not_bridged_to_where_its_line_comes_anyway() {
    // A line that sticks out of a box on the left, and ends before a ring on the right.
    const auto spaces = Spaces::build({path("M10 0H40V40H10ZM0 20H60" + circle(80, 20, 15))}, 12);
    QVERIFY(spaces.ok());
    QCOMPARE(spaces->bridges().size(), std::size_t{1});
    QVERIFY(std::abs(spaces->bridges()[0].to.x - 65) < 0.01);
  }

  void refuses_widths_that_are_none() {
    QVERIFY(!Spaces::build({}, -1).ok());
    QVERIFY(!Spaces::build({}, std::nan("")).ok());
    std::stop_source stop;
    stop.request_stop();
    QCOMPARE(Spaces::build({path("M0 0H9")}, 1, stop.get_token()).error().code, ErrorCode::Cancelled);
  }

  // Whatever is drawn: the spaces tile what lines enclose, and a snipped line is never longer.
  void any_lines() {
    auto random = random_source(2027);
    for (int round = 0; round < (sanitized ? 5 : 60); ++round) {
      Outline drawn;
      for (int i = 0; i < 5; ++i) {
        Outline blob = random_blob(random, {uniform(random, 0, 30), uniform(random, 0, 30)}, uniform(random, 4, 12), 5);
        if (i % 2 == 0) {
          blob.contours[0].closed = false;
          blob.contours[0].segments.pop_back();
        }
        drawn.append(blob);
      }
      const Result<Spaces> spaces = Spaces::build({drawn}, uniform(random, 0, 2));
      QVERIFY(spaces.ok());
      Outline rest = drawn;
      for (int i = 0; i < 12 && !rest.empty(); ++i) {
        const Point p{uniform(random, -5, 35), uniform(random, -5, 35)};
        if (const auto space = spaces->at(p)) {
          QVERIFY2(closed_fault(*space).empty(), closed_fault(*space).c_str());
          QVERIFY(winding_number(*space, p, 1e-4) != 0 && space->area() > 0);
        }
        const auto stretch = Arrangement::build({rest})->stretch_at(p);
        const Outline less = without_stretches(rest, {*stretch});
        QVERIFY2(std::abs(less.length() + stretch->curve.length() - rest.length()) < 0.02,
                 fmt::format("round {}: {} + {} of {}", round, less.length(), stretch->curve.length(), rest.length())
                     .c_str());
        rest = less;
      }
    }
  }
};

QTEST_GUILESS_MAIN(TestLines)
#include "test_lines.moc"
