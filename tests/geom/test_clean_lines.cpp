// Lines made ready to cut, by what must hold whatever they are: nothing is lost, nothing moves by more than the
// tolerance, order and sense don't matter.
#include "geom/clean_lines.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>
#include <random>

using namespace frelm;

namespace {

double length_of(const std::vector<Contour>& contours) {
  double sum = 0;
  for (const Contour& c : contours)
    sum += c.length();
  return sum;
}

std::vector<Contour> contours(const std::string& data) {
  return parse_outline(data, EndsMeet::StaysOpen)->contours;
}

// A closed shape in pieces of one segment each, in any order and sense, with ends off by up to `off`.
std::vector<Contour> broken(const Contour& whole, std::mt19937& random, double off) {
  std::uniform_real_distribution<double> by(-off / 3, off / 3);
  std::vector<Contour> out;
  for (const Segment& s : whole.segments) {
    Segment part = random() % 2 == 0 ? s : s.reversed();
    part.p0 += {by(random), by(random)}, part.p3 += {by(random), by(random)};
    if (part.is_line())
      part = Segment::line(part.p0, part.p3);
    out.push_back({{part}, false});
  }
  std::shuffle(out.begin(), out.end(), random);
  return out;
}

} // namespace

class TestCleanLines : public QObject {
  Q_OBJECT

private slots:
  void what_was_broken_is_whole_again() {
    std::mt19937 random(11);
    for (int trial = 0; trial < 200; ++trial) {
      Contour whole;
      const int n = 3 + trial % 40;
      for (int i = 0; i < n; ++i) {
        const Point a = (20 + 5.0 * (i % 3)) * direction(2 * pi * i / n),
                    b = (20 + 5.0 * ((i + 1) % n % 3)) * direction(2 * pi * (i + 1) / n);
        whole.segments.push_back(i % 2 == 0 ? Segment::line(a, b)
                                            : Segment::cubic(a, lerp(a, b, 0.3) * 1.1, lerp(a, b, 0.7) * 1.1, b));
      }
      const double off = trial % 2 == 0 ? 0 : 0.009;
      const LinesCleaned back = joined(broken(whole, random, off), 0.01);
      QCOMPARE(back.contours.size(), std::size_t{1});
      QVERIFY(back.contours[0].closed);
      QCOMPARE(back.contours[0].segments.size(), whole.segments.size());
      QCOMPARE(back.joined, whole.segments.size());
      QVERIFY(std::abs(std::abs(back.contours[0].area()) - std::abs(whole.area())) < 1e-9 + 300 * off);
      for (std::size_t i = 1; i < back.contours[0].segments.size(); ++i)
        QVERIFY(back.contours[0].segments[i].p0 == back.contours[0].segments[i - 1].p3);
      QVERIFY(back.contours[0].segments.back().p3 == back.contours[0].segments.front().p0);
    }
  }

  void ends_further_apart_stay_apart() {
    const auto lines = contours("M0 0H10 M10.011 0H20");
    QCOMPARE(joined(lines, 0.01).contours.size(), std::size_t{2});
    QCOMPARE(joined(lines, 0.02).contours.size(), std::size_t{1});
    // A chain that is as short as the tolerance does not close on itself.
    QVERIFY(!joined(contours("M0 0L0.005 0"), 0.01).contours.at(0).closed);
    QVERIFY(joined({}, 0.01).contours.empty());
  }

  void where_three_meet_the_straightest_go_on() {
    const LinesCleaned out = joined(contours("M0 0L10 0 M10 0L20 1 M10 0L11 10"), 0.01);
    QCOMPARE(out.contours.size(), std::size_t{2});
    double longest = 0;
    for (const Contour& c : out.contours)
      longest = std::max(longest, c.bounds().width());
    QCOMPARE(longest, 20.0);
    // A grid of lines: none is lost.
    std::vector<Contour> grid;
    for (int i = 0; i < 6; ++i)
      for (int j = 0; j < 5; ++j) {
        grid.push_back({{Segment::line({double(i), double(j)}, {double(i), j + 1.0})}, false});
        grid.push_back({{Segment::line({double(j), double(i)}, {j + 1.0, double(i)})}, false});
      }
    QVERIFY(std::abs(length_of(joined(grid, 0.01).contours) - 60) < 1e-9);
    QVERIFY(joined(grid, 0.01).contours.size() <= 14);
  }

  void doubles_go_once_data() {
    QTest::addColumn<QString>("data");
    QTest::addColumn<int>("doubles");
    QTest::addColumn<double>("length");
    QTest::addColumn<int>("left");
    const auto row = [](const char* name, const char* data, int doubles, double length, int left) {
      QTest::newRow(name) << data << doubles << length << left;
    };
    row("none", "M0 0H10 M0 1H10", 0, 20, 2);
    row("the same", "M0 0H10 M0 0H10", 1, 10, 1);
    row("the other way", "M0 0H10 M10 0H0", 1, 10, 1);
    row("within the tolerance", "M0 0H10 M0 0.0005H10", 1, 10, 1);
    row("beyond it", "M0 0H10 M0 0.0015H10", 0, 20, 2);
    row("three times", "M0 0H10 M0 0H10 M0 0H10", 2, 10, 1);
    row("the middle of a line", "M0 0H10 M-5 0L0 0H10L20 0", 1, 25, 3);
    row("a closed one stays whole", "M0 0H10V10H0Z M10 0V10", 1, 40, 1);
    row("which comes first or not", "M10 0V10 M0 0H10V10H0Z", 1, 40, 1);
    row("a closed one twice", "M0 0H10V10H0Z M0 0H10V10H0Z", 4, 40, 1);
    row("two that share an edge", "M0 0H10V10H0Z M10 0H20V10H10Z", 0, 80, 2);
    row("a curve", "M0 0C3 5 7 5 10 0 M10 0C7 5 3 5 0 0", 1, -1, 1);
    row("another with the same ends", "M0 0C3 5 7 5 10 0 M0 0C3 4 7 4 10 0", 0, -1, 2);
  }
  void doubles_go_once() {
    QFETCH(QString, data);
    QFETCH(int, doubles);
    QFETCH(double, length);
    QFETCH(int, left);
    const auto given = contours(data.toStdString());
    const LinesCleaned out = without_doubles(given, 0.001);
    QCOMPARE(static_cast<int>(out.doubles), doubles);
    QCOMPARE(static_cast<int>(out.contours.size()), left);
    QCOMPARE(out.from.size(), out.contours.size());
    if (length >= 0)
      QVERIFY2(std::abs(length_of(out.contours) - length) < 1e-9, qPrintable(QString::number(length_of(out.contours))));
    QCOMPARE(without_doubles(out.contours, 0.001).doubles, std::size_t{0});
  }

  void shapes_have_their_holes() {
    // A ring with an island in it, beside a square; turned round and shuffled.
    auto given = contours("M0 0H40V40H0Z M10 10V30H30V10Z M15 15H25V25H15Z M50 0H60V10H50Z M70 0H80");
    std::mt19937 random(5);
    for (int trial = 0; trial < 50; ++trial) {
      std::shuffle(given.begin(), given.end(), random);
      for (Contour& c : given)
        if (random() % 2 == 0)
          c = c.reversed();
      const std::vector<Outline> shapes = nested(given);
      QCOMPARE(shapes.size(), std::size_t{4});
      QCOMPARE(shapes[0].contours.size(), std::size_t{2});
      QCOMPARE(shapes[0].area(), 1600.0 - 400.0);
      QVERIFY(shapes[0].contours[0].area() > 0 && shapes[0].contours[1].area() < 0);
      QCOMPARE(shapes[1].area() + shapes[2].area(), 200.0);
      QVERIFY(!shapes[3].contours[0].closed);
    }
  }

  void ten_thousand_lines() {
    std::vector<Contour> many;
    for (int i = 0; i < 100; ++i)
      for (int j = 0; j < 100; ++j)
        many.push_back({{Segment::line({double(j), double(i)}, {j + 1.0, double(i)})}, false});
    many.insert(many.end(), many.begin(), many.begin() + 500);
    LinesCleaned once = without_doubles(many, 0.001);
    QCOMPARE(once.doubles, std::size_t{500});
    const LinesCleaned rows = joined(once.contours, 0.01);
    QCOMPARE(rows.contours.size(), std::size_t{100});
    QCOMPARE(nested(rows.contours).size(), std::size_t{100});
  }
};

QTEST_APPLESS_MAIN(TestCleanLines)
#include "test_clean_lines.moc"
