// The comparers' own tests: near misses must be told apart.
#include "support/compare.h"

#include "geom/path_data.h"
#include "reference/geos_union.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {
Outline path(const char* text) {
  return *parse_outline(text);
}
} // namespace

class TestCompare : public QObject {
  Q_OBJECT

private slots:
  void boundary_distance_sees_a_shift_and_a_bump() {
    const auto a = rings_of(path("M0 0H10V10H0Z"), 0.001);
    QCOMPARE(boundary_distance(a, a), 0.0);
    QVERIFY(std::abs(boundary_distance(a, rings_of(path("M0.003 0H10.003V10H0.003Z"), 0.001)) - 0.003) < 1e-9);
    // Only one of both: seen from that side.
    const auto bump = rings_of(path("M0 0H4L5 -0.05L6 0H10V10H0Z"), 0.001);
    QVERIFY(one_way_distance(a, bump) < 0.05 && boundary_distance(a, bump) > 0.049);
    const auto extra = rings_of(path("M0 0H10V10H0ZM20 20H21V21Z"), 0.001);
    QVERIFY(one_way_distance(a, extra) < 1e-9 && one_way_distance(extra, a) > 10);
  }
  void ring_count_leaves_slivers_out() {
    const auto rings = rings_of(path("M0 0H10V10H0ZM0 20H10V20.003H0ZM0 30H10V30.01H0Z"), 0.001);
    QCOMPARE(ring_count(rings, 0.004), std::size_t{2});
    QCOMPARE(ring_count(rings, 0), std::size_t{3});
  }
  void closed_fault_finds_gaps_of_one_bit() {
    Outline o = path("M0 0H10V10H0Z");
    QCOMPARE(closed_fault(o), std::string());
    o.contours[0].segments[1].p0.x = std::nextafter(10.0, 11.0);
    QVERIFY(!closed_fault(o).empty());
    QVERIFY(!closed_fault(path("M0 0H10V10")).empty());
  }
  void corners_are_counted() {
    QCOMPARE(corner_count(path("M0 0H10V10H0Z"), 5), std::size_t{4});
    QCOMPARE(corner_count({{circle_contour({0, 0}, 10)}}, 5), std::size_t{0});
  }
  void the_reference_union_is_right_on_squares() {
    const auto rings = geos_union({path("M0 0H10V10H0Z"), path("M5 5H15V15H5Z")}, 0.001);
    QVERIFY(std::abs(total_area(rings) - 175) < 1e-9);
    const auto ring = geos_union({path("M0 0H10V10H0ZM2 2V8H8V2Z")}, 0.001);
    QVERIFY(std::abs(total_area(ring) - 64) < 1e-9);
    QCOMPARE(ring.size(), std::size_t{2});
  }
};

QTEST_APPLESS_MAIN(TestCompare)
#include "test_compare.moc"
