// Block and drop shades by hand, and against the definition: a place is in the sweep when the way back from it meets
// the outline. Boundaries are probed on both sides.
#include "geom/shade.h"

#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.01; // mm, docs/accuracy.md

Outline path(const char* data) {
  return *parse_outline(data);
}
class Sweep {
public:
  Sweep(const Outline& o, Vec way) : outline_(o), way_(way), rings_(rings_of(o, 1e-4)) {}
  bool contains(Point p) const {
    const Point q = p - way_;
    for (const Ring& r : rings_)
      for (std::size_t i = 0; i < r.size(); ++i) {
        const Point a = r[i], b = r[(i + 1) % r.size()];
        if ((cross(q - p, a - p) > 0) != (cross(q - p, b - p) > 0) &&
            (cross(b - a, p - a) > 0) != (cross(b - a, q - a) > 0))
          return true;
      }
    return winding_number(outline_, p, 1e-4) != 0;
  }

private:
  Outline outline_;
  Vec way_;
  std::vector<Ring> rings_;
};
// Probes `by` mm to both sides of an outline's boundary, a few on each segment.
std::vector<Point> probes(const Outline& o, double by) {
  std::vector<Point> out;
  for (const Contour& c : o.contours)
    for (const Segment& s : c.segments)
      for (const double t : {0.11, 0.37, 0.5, 0.74, 0.93})
        for (const double side : {by, -by})
          out.push_back(s.at(t) + up_of(unit(s.derivative(t))) * side);
  return out;
}

} // namespace

class TestShade : public QObject {
  Q_OBJECT

private slots:
  void areas_are_those_worked_out_by_hand_data() {
    QTest::addColumn<Outline>("source");
    QTest::addColumn<Vec>("way");
    QTest::addColumn<double>("area");
    QTest::addColumn<int>("nodes");
    const Outline square = path("M0 0H10V10H0Z"), disc{{circle_contour({}, 5)}};
    QTest::newRow("square-slanting") << square << Vec{4, 3} << 100.0 + 40 + 30 << 6;
    QTest::newRow("square-along-its-edge") << square << Vec{4, 0} << 140.0 << 4;
    QTest::newRow("square-backwards") << square << Vec{-4, -3} << 170.0 << 6;
    QTest::newRow("square-not-at-all") << square << Vec{} << 100.0 << 4;
    QTest::newRow("disc") << disc << Vec{6, 8} << pi * 25 + 100 << -1; // its width across the way, times the way
    // A hole 4 wide filled from one side: what is left of it is 1 wide.
    QTest::newRow("hole") << path("M0 0H20V20H0Z M8 8V12H12V8Z") << Vec{3, 0} << 400.0 + 60 - 4 << -1;
    QTest::newRow("hole-filled") << path("M0 0H20V20H0Z M8 8V12H12V8Z") << Vec{5, 0} << 500.0 << -1;
  }
  void areas_are_those_worked_out_by_hand() {
    QFETCH(Outline, source);
    QFETCH(Vec, way);
    QFETCH(double, area);
    QFETCH(int, nodes);
    const auto got = block_shade(source, way);
    QVERIFY(got.ok());
    QVERIFY2(closed_fault(got->outline).empty(), closed_fault(got->outline).c_str());
    QVERIFY2(std::abs(got->outline.area() - area) < 0.03, fmt::format("{}", got->outline.area()).c_str());
    QVERIFY(nodes < 0 || got->outline.node_count() == static_cast<std::size_t>(nodes));
  }

  void letters_match_the_definition_data() {
    QTest::addColumn<Outline>("source");
    QTest::addColumn<Vec>("way");
    for (const double angle : sanitized ? std::vector<double>{137} : std::vector<double>{30, 45, 137, 270}) {
      const Vec way = direction(radians(angle)) * 6;
      QTest::addRow("script-%g", angle) << straight_word("Rag&8", {"Dancing Script", "Bold"}, 40) << way;
      QTest::addRow("sans-%g", angle) << straight_word("Rag&8", {"Lato", "Regular"}, 40) << way;
    }
  }
  void letters_match_the_definition() {
    QFETCH(Outline, source);
    QFETCH(Vec, way);
    const auto got = block_shade(source, way);
    QVERIFY(got.ok());
    QVERIFY2(closed_fault(got->outline).empty(), closed_fault(got->outline).c_str());
    const Sweep sweep(source, way);
    // Both sides of the result's boundary, of the source's and of its copy's: result and definition agree.
    std::vector<Point> places = probes(got->outline, bound / 2);
    for (const Point p : probes(source, bound / 2))
      places.push_back(p), places.push_back(p + way);
    const BoundaryDistance to_result(rings_of(got->outline, 1e-4));
    for (const Point p : places)
      if (sweep.contains(p) != (winding_number(got->outline, p, 1e-4) != 0)) {
        const double off = to_result(p); // a probe may by chance lie right beside another stretch
        QVERIFY2(off < 0.002, fmt::format("({:.4f}, {:.4f}), {} mm from the boundary", p.x, p.y, off).c_str());
      }
    std::size_t inside = 0; // and the result's boundary parts what it should
    for (const Contour& c : got->outline.contours)
      for (const Segment& s : c.segments) {
        const Vec out = up_of(unit(s.derivative(0.5))) * (bound / 2);
        inside += sweep.contains(s.at(0.5) - out) && !sweep.contains(s.at(0.5) + out) ? 0 : 1;
      }
    QVERIFY2(inside <= got->outline.node_count() / 50,
             fmt::format("{} of {}", inside, got->outline.node_count()).c_str());
    // Nodes: at most 1.5 x the outline's, and the joins: crossings and ends of straight lines.
    std::size_t joins = 0;
    for (const Contour& c : got->outline.contours)
      for (std::size_t i = 0; i < c.segments.size(); ++i)
        joins += c.segments[i].is_line() ? 2 : 0;
    QVERIFY2(static_cast<double>(got->outline.node_count()) <=
                 1.5 * static_cast<double>(source.node_count()) + static_cast<double>(joins),
             fmt::format("{} of {} + {}", got->outline.node_count(), source.node_count(), joins).c_str());
  }

  void mirroring_and_turning_commute() {
    const Outline source = straight_word("Sea", {"Dancing Script", "Bold"}, 40);
    const Vec way{5, 3};
    const Outline plain = block_shade(source, way)->outline;
    for (const Affine& m : {Affine::scaling(-1, 1), Affine::rotation(0.9)}) {
      const Outline there = block_shade(source.transformed(m), m.linear(way))->outline;
      QVERIFY(boundary_distance(rings_of(there, 1e-3), rings_of(plain.transformed(m), 1e-3)) < 0.005);
    }
  }

  void shade_alone_is_what_the_letters_leave() {
    const Outline source = straight_word("Bay", {"Lato", "Regular"}, 40);
    const Vec way{4, 4};
    ShadeOptions alone;
    alone.part = ShadePart::Alone;
    for (const auto& f : {block_shade, drop_shade}) {
      const double whole = f(source, way, {})->outline.area(), shade = f(source, way, alone)->outline.area();
      QVERIFY(std::abs(whole - shade - source.area()) < 0.05);
    }
    alone.gap = 0.8;
    const Outline apart = block_shade(source, way, alone)->outline;
    const BoundaryDistance to_letters(rings_of(source, 1e-3));
    double nearest = 1e9;
    for (const Ring& r : rings_of(apart, 1e-3))
      for (const Point p : r)
        nearest = std::min(nearest, to_letters(p));
    QVERIFY2(std::abs(nearest - 0.8) < 0.012, fmt::format("{}", nearest).c_str());
  }
  void the_drop_shade_is_a_copy_aside() {
    const Outline square = path("M0 0H10V10H0Z");
    ShadeOptions alone;
    alone.part = ShadePart::Alone;
    QVERIFY(std::abs(drop_shade(square, {3, 3}, alone)->outline.area() - (100 - 49)) < 1e-3);
    QVERIFY(std::abs(drop_shade(square, {3, 3})->outline.area() - 151) < 1e-3);
    QVERIFY(std::abs(drop_shade(square, {30, 3}, alone)->outline.area() - 100) < 1e-3);
  }

  void bad_input_is_named() {
    QVERIFY(!block_shade(path("M0 0H10V10H0Z"), {std::nan(""), 0}).ok());
    ShadeOptions bad;
    bad.gap = -1;
    QVERIFY(!drop_shade(path("M0 0H10V10H0Z"), {1, 0}, bad).ok());
    QVERIFY(block_shade({}, {1, 0})->outline.empty());
    QVERIFY(block_shade(path("M0 0H10"), {1, 0})->outline.empty());
  }
};

QTEST_APPLESS_MAIN(TestShade)
#include "test_shade.moc"
