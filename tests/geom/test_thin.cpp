// Thinning against the clean curve behind noisy points, and on drawn outlines.
#include "geom/thin.h"

#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"
#include "support/noisy_blob.h"

#include <QTest>
#include <chrono>
#include <cstdio>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline path(const char* data) {
  return *parse_outline(data);
}
Outline as_polygon(double r, int n) {
  Contour c;
  for (int i = 0; i < n; ++i)
    c.segments.push_back(Segment::line(direction(2 * pi * i / n) * r, direction(2 * pi * ((i + 1) % n) / n) * r));
  return {{c}};
}
Outline fine_circle(double r, int n) { // many exact pieces
  Contour c;
  for (const Segment& s : circle_contour({}, r).segments)
    for (int i = 0; i < n; ++i)
      c.segments.push_back(s.part(static_cast<double>(i) / n, static_cast<double>(i + 1) / n));
  for (std::size_t i = 0; i < c.segments.size(); ++i)
    c.segments[i].p3 = c.segments[(i + 1) % c.segments.size()].p0;
  return {{c}};
}
Outline letter(const char* text) {
  Outline out;
  for (const Outline& o : letter_outlines(on_circle(letters_of(text), 1e5)))
    out.append(o);
  return out;
}
// The outline as a polyline of equal steps with noise along and across.
Outline as_points(const Outline& o, double step, double noise, std::mt19937_64& random) {
  Outline out;
  for (const Contour& c : o.contours) {
    std::vector<Point> p;
    for (const Segment& s : c.segments) {
      const int n = std::max(1, static_cast<int>(Contour{{s}, false}.length() / step));
      for (int i = 0; i < n; ++i)
        p.push_back(s.at(static_cast<double>(i) / n) +
                    Vec{uniform(random, -noise, noise), uniform(random, -noise, noise)});
    }
    Contour q;
    for (std::size_t i = 0; i < p.size(); ++i)
      q.segments.push_back(Segment::line(p[i], p[(i + 1) % p.size()]));
    out.contours.push_back(q);
  }
  return out;
}
double one_way(const std::vector<Point>& points, const Outline& o) {
  const BoundaryDistance to(rings_of(o, 1e-4));
  double worst = 0;
  for (const Point p : points)
    worst = std::max(worst, to(p));
  return worst;
}
double nearest_corner(const Outline& o, Point p) {
  double best = std::numeric_limits<double>::infinity();
  for (const Contour& c : o.contours)
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      const Vec a = c.segments[i].end_tangent(), b = c.segments[(i + 1) % c.segments.size()].start_tangent();
      if (degrees(std::abs(std::atan2(cross(a, b), dot(a, b)))) > 2)
        best = std::min(best, distance(c.segments[i].p3, p));
    }
  return best;
}

} // namespace

class TestThin : public QObject {
  Q_OBJECT

private slots:
  void the_noisy_blob_becomes_few_cubics() {
    const NoisyBlob blob = noisy_blob();
    QCOMPARE(blob.corners.size(), std::size_t{7});
    const auto got = thin(blob.outline(), {0.05});
    QVERIFY(got.ok());
    double corner = 0;
    for (const Point c : blob.corners)
      corner = std::max(corner, nearest_corner(got->outline, c));
    const double to_points = one_way(blob.points, got->outline), to_clean = one_way(blob.clean, got->outline);
    std::vector<Ring> clean{blob.clean};
    const double back = one_way_distance(rings_of(got->outline, 1e-3), clean);
    std::printf("thin: blob %zu nodes, %.4f mm from the points (reported %.4f), %.4f / %.4f mm from the clean curve, "
                "corners %.4f mm, %zu of them\n",
                got->report.nodes_out, to_points, got->report.worst, to_clean, back, corner,
                corner_count(got->outline, 2));
    QVERIFY(got->report.nodes_out <= 40);
    QVERIFY(to_points <= 0.05);
    QVERIFY(std::abs(got->report.worst - to_points) < 0.002);
    QVERIFY(std::max(to_clean, back) <= 0.03);
    QVERIFY(corner <= 0.05);
    QCOMPARE(corner_count(got->outline, 1), std::size_t{7});
    QVERIFY2(closed_fault(got->outline).empty(), closed_fault(got->outline).c_str());
  }

  void noisy_shapes_keep_their_corners_data() {
    QTest::addColumn<Outline>("shape");
    QTest::addColumn<int>("corners");
    QTest::addColumn<int>("lines");
    QTest::addColumn<int>("most");
    QTest::newRow("square") << path("M0 0H40V40H0Z") << 4 << 4 << 4;
    QTest::newRow("triangle") << path("M0 0L60 0L20 40Z") << 3 << 3 << 3;
    QTest::newRow("circle") << Outline{{circle_contour({50, 50}, 30)}} << 0 << 0 << 6;
    QTest::newRow("half-disc") << path("M0 0A30 30 0 0 1 60 0Z") << 2 << 1 << 5;
    QTest::newRow("small-bend") << path("M0 0H40V38A2 2 0 0 1 38 40H0Z") << -1 << -1
                                << 9; // its ends may become corners
    QTest::newRow("drop") << path("M0 0C20 -20 50 -20 50 5C50 25 20 20 0 0Z") << 1 << 0 << 8;
  }
  void noisy_shapes_keep_their_corners() {
    QFETCH(Outline, shape);
    QFETCH(int, corners);
    QFETCH(int, lines);
    QFETCH(int, most);
    auto random = random_source(5);
    const Outline points = as_points(shape, 0.08, 0.012, random);
    const auto got = thin(points, {0.05});
    QVERIFY(got.ok());
    std::size_t straight = 0;
    for (const Segment& s : got->outline.contours[0].segments)
      straight += s.is_line() ? 1 : 0;
    const auto seen = fmt::format("{} nodes, {} corners, {} lines, worst {:.4f}", got->report.nodes_out,
                                  corner_count(got->outline, 8), straight, got->report.worst);
    QVERIFY2(corners < 0 || corner_count(got->outline, 8) == static_cast<std::size_t>(corners), seen.c_str());
    QVERIFY2(lines < 0 || straight == static_cast<std::size_t>(lines), seen.c_str());
    QVERIFY2(got->report.nodes_out <= static_cast<std::size_t>(most), seen.c_str());
    QVERIFY2(boundary_distance(rings_of(got->outline, 1e-3), rings_of(shape, 1e-3)) <= 0.05, seen.c_str());
    QVERIFY(got->report.worst <= 0.05);
  }

  void drawn_outlines_lose_only_what_they_can_spare_data() {
    QTest::addColumn<Outline>("source");
    QTest::addColumn<int>("most");
    QTest::newRow("square-with-nodes-on-its-edges") << path("M0 0H10H20H40V15V40H0V20Z") << 4;
    QTest::newRow("chords-of-a-circle") << as_polygon(30, 90) << 5; // 2.1 mm chords, 0.018 mm rise
    QTest::newRow("octagon") << as_polygon(30, 8) << 8;
    QTest::newRow("fine-circle") << fine_circle(30, 40) << 4;
    QTest::newRow("letters") << letter("Rag") << 1000;
  }
  void drawn_outlines_lose_only_what_they_can_spare() {
    QFETCH(Outline, source);
    QFETCH(int, most);
    const auto got = thin(source, {0.05});
    QVERIFY(got.ok());
    QVERIFY(got->report.nodes_out <= source.node_count());
    QVERIFY2(got->report.nodes_out <= static_cast<std::size_t>(most), fmt::format("{}", got->report.nodes_out).c_str());
    const double off = boundary_distance(rings_of(got->outline, 1e-3), rings_of(source, 1e-3));
    QVERIFY2(off <= 0.0505, fmt::format("{}", off).c_str());
    QVERIFY2(closed_fault(got->outline).empty(), closed_fault(got->outline).c_str());
    QCOMPARE(corner_count(got->outline, 20), corner_count(source, 20));
  }
  void thinning_again_changes_nothing_much() {
    const auto once = thin(noisy_blob().outline(), {0.05});
    const auto twice = thin(once->outline, {0.05});
    QVERIFY(twice->report.nodes_out <= once->report.nodes_out);
    QVERIFY(boundary_distance(rings_of(once->outline, 1e-3), rings_of(twice->outline, 1e-3)) <= 0.05);
  }
  void open_lines_keep_their_ends() {
    auto random = random_source(8);
    Outline points = as_points(path("M0 0C20 30 40 -30 60 0"), 0.1, 0.015, random);
    points.contours[0].segments.pop_back();
    points.contours[0].closed = false;
    const auto got = thin(points, {0.05});
    const auto &before = points.contours[0].segments, &after = got->outline.contours[0].segments;
    QVERIFY(after.size() <= 6);
    QCOMPARE(after.front().p0, before.front().p0);
    QCOMPARE(after.back().p3, before.back().p3);
  }
  void bad_input_is_named() {
    QVERIFY(!thin({}, {0}).ok());
    Outline broken = path("M0 0H40V40H0Z");
    broken.contours[0].segments[1].p3.x = std::nan("");
    QVERIFY(!thin(broken).ok());
    QVERIFY(thin({})->outline.empty());
    std::stop_source stop;
    stop.request_stop();
    ThinOptions options;
    options.stop = stop.get_token();
    QVERIFY(!thin(path("M0 0H40V40H0Z"), options).ok());
  }
};

QTEST_APPLESS_MAIN(TestThin)
#include "test_thin.moc"
