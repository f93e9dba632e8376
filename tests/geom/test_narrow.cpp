// Widths of strokes and gaps by hand.
#include "geom/narrow.h"

#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline path(const char* data) {
  return *parse_outline(data);
}

} // namespace

class TestNarrow : public QObject {
  Q_OBJECT

private slots:
  void widths_are_those_of_the_drawing_data() {
    QTest::addColumn<Outline>("shape");
    QTest::addColumn<double>("size");
    QTest::addColumn<NarrowSide>("side");
    QTest::addColumn<int>("count");
    QTest::addColumn<double>("width");
    QTest::addColumn<double>("length");
    const Outline bar = path("M0 0H30V1H0Z"),
                  waist = path("M0 0C10 0 10 4 20 4S30 0 40 0V10C30 10 30 6 20 6S10 10 0 10Z");
    const Outline two = path("M0 0H10V10H0Z M10.7 0H20V10H10.7Z");
    Outline ring{{circle_contour({}, 10), circle_contour({0.4, 0}, 9).reversed()}};
    QTest::newRow("bar") << bar << 1.5 << NarrowSide::Strokes << 1 << 1.0 << 30.0;
    QTest::newRow("bar-wide-enough") << bar << 0.99 << NarrowSide::Strokes << 0 << 0.0 << 0.0;
    QTest::newRow("bar-has-no-gap") << bar << 1.5 << NarrowSide::Gaps << 0 << 0.0 << 0.0;
    QTest::newRow("waist") << waist << 3.0 << NarrowSide::Strokes << 1 << 2.0 << -1.0;
    QTest::newRow("gap-between-shapes") << two << 1.0 << NarrowSide::Gaps << 1 << 0.7 << 10.0;
    QTest::newRow("gap-wide-enough") << two << 0.69 << NarrowSide::Gaps << 0 << 0.0 << 0.0;
    QTest::newRow("ring-thinnest-at-one-side") << ring << 0.8 << NarrowSide::Strokes << 1 << 0.6 << -1.0;
    QTest::newRow("hole") << path("M0 0H20V20H0Z M5 5V15H5.5V5Z") << 1.0 << NarrowSide::Gaps << 1 << 0.5 << 10.0;
    QTest::newRow("blunt-corner-is-no-stroke")
        << path("M0 0H20L10 9Z") << 2.0 << NarrowSide::Strokes << 0 << 0.0 << 0.0;
    QTest::newRow("nothing") << Outline{} << 1.0 << NarrowSide::Gaps << 0 << 0.0 << 0.0;
    QTest::newRow("under-its-own-bound") << path("M0 0H9V0.0004H0Z") << 0.0005 << NarrowSide::Strokes << 0 << 0.0
                                         << 0.0;
    QTest::newRow("no-size") << bar << 0.0 << NarrowSide::Strokes << 0 << 0.0 << 0.0;
  }
  void widths_are_those_of_the_drawing() {
    QFETCH(Outline, shape);
    QFETCH(double, size);
    QFETCH(NarrowSide, side);
    QFETCH(int, count);
    QFETCH(double, width);
    QFETCH(double, length);
    const auto places = narrow_places(shape, size, side);
    QCOMPARE(places.size(), static_cast<std::size_t>(count));
    if (places.empty())
      return;
    QVERIFY2(std::abs(places[0].width - width) < 0.001, fmt::format("{}", places[0].width).c_str());
    QVERIFY2(length < 0 || std::abs(places[0].length - length) < size / 3 + 0.1,
             fmt::format("{}", places[0].length).c_str());
    QVERIFY(std::abs(distance(places[0].a, places[0].b) - width) < 0.001);
    QVERIFY(places[0].where.grown(1e-9).contains(places[0].a));
  }
  void a_sharp_wedge_is_thin_up_to_where_it_is_as_wide_as_the_size() {
    // 10 degrees: 2·x·sin 5° across the disc that touches both sides, x along the side.
    const Outline wedge = path("M0 0L60 0L59.0885 10.4189Z");
    const auto places = narrow_places(wedge, 2, NarrowSide::Strokes);
    QCOMPARE(places.size(), std::size_t{1});
    QVERIFY(std::abs(places[0].length - 2 / (2 * std::tan(radians(5)))) < 0.8);
  }
  void turning_changes_nothing() {
    const Outline word = straight_word("Sage", {"Dancing Script", "Bold"}, 40);
    const auto plain = narrow_places(word, 1.2, NarrowSide::Strokes);
    const auto turned = narrow_places(word.transformed(Affine::rotation(0.8)), 1.2, NarrowSide::Strokes);
    QVERIFY(!plain.empty());
    QCOMPARE(turned.size(), plain.size());
    for (std::size_t i = 0; i < plain.size(); ++i)
      QVERIFY(std::abs(plain[i].width - turned[i].width) < 0.01);
  }
  void every_reported_width_is_really_there() {
    const Outline word = straight_word("Rag&8", {"Dancing Script", "Bold"}, 40);
    for (const NarrowPlace& place : narrow_places(word, 1.5, NarrowSide::Strokes)) {
      QVERIFY(place.width <= 1.5);
      const Point middle = lerp(place.a, place.b, 0.5);
      QVERIFY(winding_number(word, middle) != 0 || place.width < 0.01);
    }
  }
};

QTEST_APPLESS_MAIN(TestNarrow)
#include "test_narrow.moc"
