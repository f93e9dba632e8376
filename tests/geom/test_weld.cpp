// Weld against GEOS on finely flattened letters (bounds: docs/accuracy.md), and its algebra.
#include "geom/boolean.h"
#include "geom/sound.h"
#include "geom/weld.h"

#include "geom/path_data.h"
#include "reference/geos_union.h"
#include "support/fixtures.h"

#include <QTest>
#include <cstdio>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double fine = 2e-5; // mm, flattening of the reference

Outline path(const char* text) {
  return *parse_outline(text);
}
std::vector<Outline> word_on_circle(const std::string& text, double radius) {
  return letter_outlines(on_circle(letters_of(text), radius));
}

// The stretches of source segments that lie on the union's boundary, counted without any code of the weld: each
// source segment is sampled and a sample is on the boundary when the reference boundary passes within 0.0005 mm.
std::size_t surviving_stretches(const std::vector<Outline>& shapes, const std::vector<Ring>& reference) {
  std::size_t stretches = 0;
  const BoundaryDistance to_boundary(reference);
  for (const Outline& shape : shapes)
    for (const Contour& c : shape.contours)
      for (const Segment& s : c.segments) {
        constexpr int samples = 400;
        bool inside_run = false;
        for (int i = 0; i < samples; ++i) {
          const Point p = s.at((i + 0.5) / samples);
          const bool on = to_boundary(p) < 0.0005;
          if (on && !inside_run)
            ++stretches;
          inside_run = on;
        }
      }
  return stretches;
}

} // namespace

class TestWeld : public QObject {
  Q_OBJECT

private slots:
  // Each shape is filled by itself, whichever way its contours run: the reference has every contour turned the right
  // way round, as a shape of its own.
  void contours_the_wrong_way_round_cancel_nothing() {
    auto random = random_source(20261128);
    int mixed_ones = 0;
    for (int round = 0; round < 40; ++round) {
      std::vector<Outline> mixed, turned;
      double perimeter = 0;
      for (int shape = 0; shape < 4; ++shape) {
        Outline one;
        for (int k = 0; k < 3; ++k) { // apart from each other, over the other shapes'
          Outline blob = random_blob(random, {30.0 * k + uniform(random, -5, 5), uniform(random, -5, 5)}, 7, 6);
          blob.make_area_positive();
          turned.push_back(blob);
          perimeter += blob.length();
          one.contours.push_back(random() % 3 == 0 ? blob.contours[0].reversed() : blob.contours[0]);
        }
        mixed_ones += one.contours[0].area() * one.contours[1].area() < 0 ? 1 : 0;
        mixed.push_back(std::move(one));
      }
      const auto welded = weld(mixed);
      QVERIFY(welded.ok());
      const std::vector<Ring> reference = geos_union(turned, fine);
      QVERIFY2(std::abs(welded->outline.area() - total_area(reference)) < 5e-4 * perimeter,
               qPrintable(QString::number(round)));
      const auto both = combine(BooleanOp::Intersection, {mixed[0]}, {mixed[1]}),
                 either = combine(BooleanOp::Union, {mixed[0]}, {mixed[1]});
      QVERIFY(std::abs(both->outline.area() + either->outline.area() - weld({mixed[0]})->outline.area() -
                       weld({mixed[1]})->outline.area()) < 5e-4 * perimeter);
    }
    QVERIFY(mixed_ones > 20);
  }

  void matches_geos_on_a_script_word_on_a_circle_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<double>("radius");
    QTest::newRow("marigold-120") << "Marigold" << 120.0;
    QTest::newRow("marigold-60-crowded") << "Marigold" << 60.0;
    QTest::newRow("saltmarsh-lane-120") << "Saltmarsh Lane" << 120.0;
  }
  void matches_geos_on_a_script_word_on_a_circle() {
    QFETCH(QString, text);
    QFETCH(double, radius);
    const std::vector<Outline> letters = word_on_circle(text.toStdString(), radius);
    const Result<WeldResult> welded = weld(letters);
    QVERIFY(welded.ok());
    const std::vector<Ring> reference = geos_union(letters, fine);
    const std::vector<Ring> ours = rings_of(welded->outline, fine);
    double perimeter = 0;
    for (const Outline& l : letters)
      perimeter += l.length();

    QCOMPARE(closed_fault(welded->outline), std::string());
    const double apart = boundary_distance(ours, reference);
    QVERIFY2(apart <= 0.002, qPrintable(QString("boundary %1 mm").arg(apart)));
    const double area = std::abs(welded->outline.area() - total_area(reference));
    QVERIFY2(area <= 5e-4 * perimeter, qPrintable(QString("area %1 mm2").arg(area)));
    QCOMPARE(ring_count(ours, 0.004), ring_count(reference, 0.004));
    QCOMPARE(welded->report.polyline_contours, std::size_t{0});
    for (const Contour& c : welded->outline.contours)
      for (const Segment& s : c.segments)
        QVERIFY(distance(s.p0, s.p3) >= 0.004 || !s.is_line());
    std::printf("%s r %g: boundary %.6f mm, area %.6f mm2, %zu -> %zu nodes\n", qPrintable(text), radius, apart, area,
                welded->report.nodes_in, welded->report.nodes_out);
  }

  void node_count_is_that_of_the_surviving_stretches() {
    const std::vector<Outline> letters = word_on_circle("Marigold", 120);
    const Result<WeldResult> welded = weld(letters);
    const std::size_t stretches = surviving_stretches(letters, geos_union(letters, fine));
    QVERIFY2(static_cast<double>(welded->report.nodes_out) <= 1.02 * static_cast<double>(stretches),
             qPrintable(QString("%1 nodes for %2 stretches").arg(welded->report.nodes_out).arg(stretches)));
  }

  void smooth_joints_stay_smooth() {
    // Every joint of the result that is not a crossing is a source node; crossings are few. So corners of the result
    // are at most the source's corners and one for each crossing.
    const std::vector<Outline> letters = word_on_circle("Marigold", 120);
    const Result<WeldResult> welded = weld(letters);
    std::vector<Point> smooth;
    for (const Outline& l : letters)
      for (const Contour& c : l.contours)
        for (std::size_t i = 0; i < c.segments.size(); ++i) {
          const Vec a = c.segments[i].end_tangent(), b = c.segments[(i + 1) % c.segments.size()].start_tangent();
          if (std::abs(cross(a, b)) < 1e-6 && dot(a, b) > 0)
            smooth.push_back(c.segments[i].p3);
        }
    std::size_t met = 0;
    for (const Contour& c : welded->outline.contours)
      for (std::size_t i = 0; i < c.segments.size(); ++i) {
        const Point node = c.segments[i].p3;
        if (std::find(smooth.begin(), smooth.end(), node) == smooth.end())
          continue;
        ++met;
        const Vec a = c.segments[i].end_tangent(), b = c.segments[(i + 1) % c.segments.size()].start_tangent();
        QVERIFY(std::abs(cross(a, b)) < 1e-6 && dot(a, b) > 0);
      }
    QVERIFY(met > 50);
  }

  void simple_shapes_data() {
    QTest::addColumn<QString>("a");
    QTest::addColumn<QString>("b");
    QTest::addColumn<double>("area");
    QTest::addColumn<int>("contours");
    QTest::addColumn<int>("nodes");
    QTest::newRow("apart") << "M0 0H10V10H0Z"
                           << "M20 0H30V10H20Z" << 200.0 << 2 << 8;
    QTest::newRow("corner-overlap") << "M0 0H10V10H0Z"
                                    << "M5 5H15V15H5Z" << 175.0 << 1 << 8;
    QTest::newRow("shared-edge") << "M0 0H10V10H0Z"
                                 << "M10 0H20V10H10Z" << 200.0 << 1 << 4;
    QTest::newRow("identical") << "M0 0H10V10H0Z"
                               << "M0 0H10V10H0Z" << 100.0 << 1 << 4;
    QTest::newRow("inside") << "M0 0H10V10H0Z"
                            << "M3 3H6V6H3Z" << 100.0 << 1 << 4;
    QTest::newRow("opposite-directions") << "M0 0H10V10H0Z"
                                         << "M5 5V15H15V5Z" << 175.0 << 1 << 8;
    QTest::newRow("counter-kept") << "M0 0H10V10H0ZM2 2V8H8V2Z"
                                  << "M20 0H30V10H20Z" << 164.0 << 3 << 12;
    QTest::newRow("counter-closed-by-other") << "M0 0H10V10H0ZM2 2V8H8V2Z"
                                             << "M1 1H9V9H1Z" << 100.0 << 1 << 4;
    QTest::newRow("corner-touch") << "M0 0H10V10H0Z"
                                  << "M10 10H20V20H10Z" << 200.0 << 2 << 8;
    QTest::newRow("t-touch") << "M0 0H10V10H0Z"
                             << "M10 3H20V7H10Z" << 140.0 << 1 << 8;
  }
  void simple_shapes() {
    QFETCH(QString, a);
    QFETCH(QString, b);
    QFETCH(double, area);
    QFETCH(int, contours);
    QFETCH(int, nodes);
    const Result<WeldResult> w = weld({path(qPrintable(a)), path(qPrintable(b))});
    QVERIFY(w.ok());
    QVERIFY(std::abs(w->outline.area() - area) < 1e-6);
    QCOMPARE(static_cast<int>(w->outline.contours.size()), contours);
    QCOMPARE(static_cast<int>(w->outline.node_count()), nodes);
    QCOMPARE(closed_fault(w->outline), std::string());
  }

  // A circle as points in a row: what one line replaces stays within the grid of it.
  void lines_in_a_row_do_not_drift() {
    constexpr double r = 100, step = 0.002;
    constexpr int n = static_cast<int>(2 * pi * r / step);
    Contour c;
    for (int i = 0; i < n; ++i)
      c.segments.push_back(Segment::line(direction(2 * pi * i / n) * r, direction(2 * pi * ((i + 1) % n) / n) * r));
    const auto got = weld({{{c}}, {{circle_contour({0, -r}, 1)}}});
    QVERIFY(got.ok());
    double worst = 0;
    for (const Segment& s : got->outline.contours.front().segments)
      if (s.is_line())
        worst = std::max(worst, r - length(lerp(s.p0, s.p3, 0.5)));
    QVERIFY2(worst < 1e-4 && got->outline.node_count() < 10'000, fmt::format("{} mm", worst).c_str());
  }

  // Two blocks side by side, turned: edges that are one but for rounding.
  void edges_that_meet_but_for_rounding_are_one_data() {
    QTest::addColumn<double>("gap");
    QTest::addColumn<int>("contours");
    QTest::newRow("rounding") << 0.0 << 1;
    QTest::newRow("a-grid-unit") << 1e-5 << 1;
    QTest::newRow("just-under") << 0.0019 << 1;
    QTest::newRow("over") << 0.003 << 2;
  }
  void edges_that_meet_but_for_rounding_are_one() {
    QFETCH(double, gap);
    QFETCH(int, contours);
    for (const double turn : {0.0, 0.1, 0.7, 2.9}) {
      const Affine m = Affine::rotation(turn);
      const Outline a = parse_outline("M0 0H7V9H0Z")->transformed(m);
      const Outline b = parse_outline("M0 2H5V7H0Z")->transformed(m * Affine::translation({7 + gap, 0}));
      const auto got = weld({a, b});
      QCOMPARE(got->outline.contours.size(), static_cast<std::size_t>(contours));
      QVERIFY(std::abs(got->outline.area() - 88) < 0.02);
      QVERIFY(contours == 2 || got->outline.node_count() == 8);
      QVERIFY(contours == 1 || got->report.closed_slits == 0);
    }
  }

  void two_circles_meet_at_the_closed_form_crossing() {
    // Radius 10, centres 12 apart: crossings at x = 6, y = ±8; lens area 2 r² acos(d/2r) − d/2 √(4r² − d²).
    const Outline a{{circle_contour({0, 0}, 10)}}, b{{circle_contour({12, 0}, 10)}};
    const Result<WeldResult> w = weld({a, b});
    bool upper = false, lower = false;
    for (const Segment& s : w->outline.contours.at(0).segments) {
      upper = upper || distance(s.p0, {6, -8}) < 0.001;
      lower = lower || distance(s.p0, {6, 8}) < 0.001;
    }
    QVERIFY(upper && lower);
    const double lens = 2 * 100 * std::acos(0.6) - 6 * std::sqrt(400.0 - 144.0);
    QVERIFY(std::abs(w->outline.area() - (200 * pi - lens)) < 0.02);
  }

  void welding_twice_changes_nothing_and_copies_vanish() {
    const std::vector<Outline> letters = word_on_circle("Marigold", 120);
    const Outline once = weld(letters)->outline;
    const Outline twice = weld({once})->outline;
    QCOMPARE(twice.node_count(), once.node_count());
    QVERIFY(std::abs(twice.area() - once.area()) < 1e-6);
    const Outline copies = weld({once, once})->outline;
    QCOMPARE(copies.node_count(), once.node_count());
    QVERIFY(boundary_distance(rings_of(copies, 0.001), rings_of(once, 0.001)) < 0.002);
  }

  void moving_mirroring_and_reordering_do_the_same_to_the_result() {
    std::vector<Outline> letters = word_on_circle("Lane", 80);
    const Outline plain = weld(letters)->outline;
    const Affine moved = Affine::translation({31.7, -12.3}) * Affine::scaling(-1, 1);
    std::vector<Outline> other;
    for (auto it = letters.rbegin(); it != letters.rend(); ++it)
      other.push_back(it->transformed(moved));
    const Outline result = weld(other)->outline;
    QCOMPARE(result.node_count(), plain.node_count());
    QVERIFY(boundary_distance(rings_of(result, 0.001), rings_of(plain.transformed(moved), 0.001)) < 0.002);
  }

  void random_blobs_match_geos() {
    // 300 unions of two to five blobs, many of them nearly tangent; flattened at 0.0002 mm here.
    for (std::uint64_t seed = 1; seed <= (sanitized ? 60 : 300); ++seed) {
      auto random = random_source(seed);
      std::vector<Outline> shapes;
      const int n = 2 + static_cast<int>(random() % 4);
      for (int i = 0; i < n; ++i)
        shapes.push_back(random_blob(random, {uniform(random, 0, 25), uniform(random, 0, 25)}, uniform(random, 4, 14),
                                     4 + static_cast<int>(random() % 5)));
      const Result<WeldResult> w = weld(shapes);
      QVERIFY2(w.ok(), qPrintable(QString("seed %1").arg(seed)));
      const std::vector<Ring> reference = geos_union(shapes, 2e-4), ours = rings_of(w->outline, 2e-4);
      double perimeter = 0;
      for (const Outline& s : shapes)
        perimeter += s.length();
      const QString where = QString("seed %1: boundary %2, area %3, rings %4 and %5, polylines %6")
                                .arg(seed)
                                .arg(boundary_distance(ours, reference))
                                .arg(std::abs(w->outline.area() - total_area(reference)))
                                .arg(ring_count(ours, 0.004))
                                .arg(ring_count(reference, 0.004))
                                .arg(w->report.polyline_contours);
      QCOMPARE(closed_fault(w->outline), std::string());
      QVERIFY2(std::abs(w->outline.area() - total_area(reference)) <= 5e-4 * perimeter, qPrintable(where));
      QVERIFY2(boundary_distance(ours, reference) <= 0.0045, qPrintable(where));
      QVERIFY2(ring_count(ours, 0.004) == ring_count(reference, 0.004), qPrintable(where));
      QVERIFY2(w->report.polyline_contours == 0, qPrintable(where));
    }
  }

  void a_heap_of_letters_matches_geos() {
    // 120 letters within 12 mm: the union goes by halves.
    auto random = random_source(41);
    const auto letters = word_on_circle("Marigold", 120);
    std::vector<Outline> shapes;
    for (int i = 0; i < 120; ++i) {
      const Outline& l = letters[random() % letters.size()];
      const Point c = l.bounds().centre();
      shapes.push_back(l.transformed(Affine::translation(Vec{uniform(random, 0, 12), uniform(random, 0, 12)} - c)));
    }
    const Result<WeldResult> w = weld(shapes);
    QVERIFY(w.ok());
    const std::vector<Ring> reference = geos_union(shapes, 2e-4), ours = rings_of(w->outline, 2e-4);
    QCOMPARE(closed_fault(w->outline), std::string());
    QVERIFY(std::abs(w->outline.area() - total_area(reference)) <= 5e-4 * total_length(reference));
    QVERIFY2(boundary_distance(ours, reference) <= 0.0045,
             qPrintable(QString::number(boundary_distance(ours, reference))));
    QCOMPARE(ring_count(ours, 0.004), ring_count(reference, 0.004));
  }

  void refuses_what_it_cannot_do() {
    Outline bad = path("M0 0H10V10H0Z");
    bad.contours[0].segments[0].p1.x = std::numeric_limits<double>::quiet_NaN();
    QVERIFY(!weld({bad}).ok());
    QVERIFY(!weld({path("M0 0H20000V10H0Z")}).ok());
    QVERIFY(weld({}).ok());
    QVERIFY(weld({})->outline.empty());
    std::stop_source stop;
    stop.request_stop();
    WeldOptions options;
    options.stop = stop.get_token();
    const Result<WeldResult> stopped = weld({path("M0 0H10V10H0Z")}, options);
    QVERIFY(!stopped.ok() && stopped.error().code == ErrorCode::Cancelled);
  }

  void open_contours_pass_through() {
    const Result<WeldResult> w = weld({path("M0 0H10V10H0Z"), path("M2 2L30 30")});
    QCOMPARE(w->outline.contours.size(), std::size_t{2});
    QVERIFY(!w->outline.contours[1].closed);
  }

  void only_what_is_certain_counts_as_sound_data() {
    QTest::addColumn<Outline>("shape");
    QTest::addColumn<bool>("sound");
    const auto path = [](const char* data) { return *parse_outline(data); };
    Outline ring{{circle_contour({}, 10), circle_contour({}, 6).reversed()}};
    QTest::newRow("square") << path("M0 0H10V10H0Z") << true;
    QTest::newRow("backwards") << path("M0 0V10H10V0Z") << false;
    QTest::newRow("ring") << ring << true;
    QTest::newRow("hole-outside") << Outline{{circle_contour({}, 10), circle_contour({30, 0}, 6).reversed()}} << false;
    QTest::newRow("island-wound-twice") << Outline{{circle_contour({}, 10), circle_contour({}, 6)}} << false;
    QTest::newRow("hole-touches") << Outline{{circle_contour({}, 10), circle_contour({4, 0}, 6).reversed()}} << false;
    QTest::newRow("eight") << path("M0 0L10 10H0L10 0Z") << false;
    QTest::newRow("looped-cubic") << path("M0 0C40 30 -30 30 10 0Z") << false;
    QTest::newRow("crossing-at-a-joint") << path("M0 0C20 2 20 -2 10 0.5C20 -4 20 4 0 10Z") << false;
    QTest::newRow("tip") << path("M0 0C10 1 20 1 30 0C20 -3 10 -3 0 0Z") << false; // inside out: its area is negative
    QTest::newRow("tip-the-right-way") << path("M0 0C10 -3 20 -3 30 0C20 1 10 1 0 0Z") << true;
    QTest::newRow("tip-that-crosses") << path("M0 0C10 3 20 -3 30 0C20 1 10 1 0 0Z") << false;
    QTest::newRow("spike-there-and-back") << path("M0 0H10V10H5V30V10H0Z") << false;
    QTest::newRow("nothing") << Outline{} << false;
  }
  void only_what_is_certain_counts_as_sound() {
    QFETCH(Outline, shape);
    QFETCH(bool, sound);
    QCOMPARE(near_groups({&shape}).sound.front(), sound);
  }
  void only_near_shapes_are_clipped_together() {
    const auto disc = [](double x, double y, double r) { return Outline{{circle_contour({x, y}, r)}}; };
    const Outline a = disc(0, 0, 5), b = disc(9, 9, 5), c = disc(8, 0, 5), d = disc(0, 0, 1);
    Outline ring{{circle_contour({40, 0}, 10), circle_contour({40, 0}, 6).reversed()}};
    const Outline island = disc(40, 0, 3);
    const NearGroups g = near_groups({&a, &b, &c, &d, &ring, &island});
    // b's box overlaps a's and c's, and it comes near c only; d lies in a; the island lies in the open of the ring.
    const std::vector<std::vector<std::size_t>> expected{{0, 1, 2, 3}, {4}, {5}};
    QCOMPARE(g.groups, expected);
    const NearGroups apart = near_groups({&a, &b});
    QCOMPARE(apart.groups.size(), std::size_t{2});
  }
  void sound_shapes_are_what_clipping_makes_of_them() {
    // Random blobs, many crossing themselves: where they count as sound, GEOS's union is the shape itself.
    constexpr std::uint64_t seed = 404;
    auto random = random_source(seed);
    std::size_t sound = 0;
    for (int i = 0; i < 300; ++i) {
      Outline blob = random_blob(random, {}, uniform(random, 3, 12), 3 + i % 6);
      blob.make_area_positive();
      if (!near_groups({&blob}).sound.front())
        continue;
      ++sound;
      const auto truth = geos_union({blob}, 2e-4);
      QCOMPARE(truth.size(), std::size_t{1});
      QVERIFY(std::abs(total_area(truth) - blob.area()) < 2e-4 * blob.length());
    }
    QVERIFY2(sound > 20, qPrintable(QString::number(sound)));
  }
};

QTEST_APPLESS_MAIN(TestWeld)
#include "test_weld.moc"
