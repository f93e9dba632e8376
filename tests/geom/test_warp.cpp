// The warp and the cubic fitter against dense maps: points of the source mapped one by one, nothing fitted.
#include "geom/warp.h"

#include "geom/cubic_fit.h"
#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <cstdio>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.005; // mm, docs/accuracy.md

// (x, y) → the place at arc length x of a circle of radius r about (0, r), raised by −y.
WarpMap onto_circle(double r) {
  return {[r](Point q) {
            const double a = q.x / r, h = r - q.y;
            const Vec along{std::cos(a), std::sin(a)}, up{std::sin(a), -std::cos(a)};
            return WarpPlace{Point{0, r} + up * h, along * (h / r), -up};
          },
          {}};
}
// A strong wave with stretching, as an envelope's edges make it.
WarpMap wave(double depth) {
  return {[depth](Point q) {
            const double k = 2 * pi / 90, lift = depth * std::sin(k * q.x), slope = depth * k * std::cos(k * q.x);
            const double share = 1 + 0.4 * std::sin(k * q.x / 2), dshare = 0.2 * k * std::cos(k * q.x / 2);
            return WarpPlace{{q.x, q.y * share + lift}, {1, q.y * dshare + slope}, {0, share}};
          },
          {}};
}
WarpMap affine(const Affine& m) {
  return {[m](Point q) { return WarpPlace{m(q), m.linear({1, 0}), m.linear({0, 1})}; }, {}};
}

// The exact image as rings of many points.
std::vector<Ring> dense_image(const Outline& outline, const WarpMap& map) {
  std::vector<Ring> rings;
  for (const Contour& c : outline.contours) {
    Ring ring;
    for (const Segment& s : c.segments)
      for (int i = 0; i < 400; ++i)
        ring.push_back(map.at(s.at(i / 400.0)).point);
    rings.push_back(std::move(ring));
  }
  return rings;
}

Outline word(const FaceName& face, const char* text, double size) {
  Outline out;
  for (const Outline& letter : straight_letters(text, face, size))
    out.append(letter);
  return out;
}

double worst_seen = 0;

} // namespace

class TestWarp : public QObject {
  Q_OBJECT

private slots:
  void cleanupTestCase() { std::printf("warp: worst %.2g mm both ways\n", worst_seen); }

  void the_identity_gives_the_source_back() {
    const Outline source = word({"Lato", "Regular"}, "Rag&8", 40);
    const auto got = warp(source, affine({}));
    QVERIFY(got.ok());
    QCOMPARE(got->report.nodes_out, source.node_count());
    QVERIFY(boundary_distance(rings_of(got->outline, 0.001), rings_of(source, 0.001)) < 1e-9);
    QCOMPARE(got->report.folds, std::size_t{0});
  }

  void an_affine_map_adds_no_node_and_maps_control_points() {
    const Outline source = word({"Dancing Script", "Bold"}, "Qgy", 40);
    const Affine m{1.2, 0.3, -0.4, 0.8, 11, -5};
    const auto got = warp(source, affine(m));
    QCOMPARE(got->report.nodes_out, source.node_count());
    const Outline expected = source.transformed(m);
    for (std::size_t c = 0; c < expected.contours.size(); ++c)
      for (std::size_t s = 0; s < expected.contours[c].segments.size(); ++s) {
        const Segment &a = got->outline.contours[c].segments[s], &b = expected.contours[c].segments[s];
        QCOMPARE(a.kind, b.kind);
        QVERIFY(distance(a.p1, b.p1) < 1e-6 && distance(a.p2, b.p2) < 1e-6 && distance(a.p3, b.p3) < 1e-9);
      }
  }

  void images_are_within_the_bound_both_ways_data() {
    QTest::addColumn<FaceName>("face");
    QTest::addColumn<int>("map");
    for (const FaceName& face :
         {FaceName{"Lato", "Bold"}, FaceName{"Dancing Script", "Bold"}, FaceName{"Bebas Neue", "Book"}})
      for (const char* map : {"circle-120", "circle-60", "wave-8", "wave-24"})
        QTest::addRow("%s-%s", face.family.c_str(), map) << face << (map[0] == 'c' ? atoi(map + 7) : -atoi(map + 5));
  }
  void images_are_within_the_bound_both_ways() {
    QFETCH(FaceName, face);
    QFETCH(int, map);
    const Outline source = word(face, "Saltmarsh", 40);
    const WarpMap m = map > 0 ? onto_circle(map) : wave(-map);
    const auto got = warp(source, m);
    QVERIFY(got.ok());
    QVERIFY2(closed_fault(got->outline).empty(), closed_fault(got->outline).c_str());
    const double worst = boundary_distance(rings_of(got->outline, 2e-4), dense_image(source, m));
    worst_seen = std::max(worst_seen, worst);
    QVERIFY2(worst <= bound, qPrintable(QString::number(worst)));
    QVERIFY(got->report.worst <= bound);
    QCOMPARE(got->report.nodes_out, got->outline.node_count());
    // Few nodes: a letter's bent lines and strongly stretched curves may be halved, no more.
    QVERIFY2(got->report.nodes_out <= source.node_count() * 3 / 2,
             qPrintable(QString("%1 of %2").arg(got->report.nodes_out).arg(source.node_count())));
  }

  void smooth_joints_stay_smooth_and_corners_stay_corners() {
    const Outline source = word({"Lato", "Regular"}, "Bogs", 40);
    QCOMPARE(corner_count(warp(source, wave(10))->outline, 2), corner_count(source, 2));
  }

  void lines_stay_lines_where_the_map_keeps_them_straight() {
    const auto got = warp(*parse_outline("M0 0H40V-30H0Z"), onto_circle(100));
    std::size_t lines = 0;
    for (const Segment& s : got->outline.contours[0].segments)
      lines += s.is_line() ? 1 : 0;
    QCOMPARE(lines, std::size_t{2}); // the two that point at the centre
  }

  void a_map_with_a_break_is_split_there() {
    WarpMap bend{[](Point q) { // folded along x = 20: level to the left of it, rising to the right
                   return q.x < 20 ? WarpPlace{q, {1, 0}, {0, 1}} : WarpPlace{{q.x, q.y - (q.x - 20)}, {1, -1}, {0, 1}};
                 },
                 {20}};
    const auto got = warp(*parse_outline("M0 0H40V-10H0Z"), bend);
    QCOMPARE(got->report.nodes_out, std::size_t{6});
    QVERIFY(boundary_distance(rings_of(got->outline, 1e-4),
                              {{{0, 0}, {20, 0}, {40, -20}, {40, -30}, {20, -10}, {0, -10}}}) < 1e-6);
  }

  void folding_over_is_reported_with_its_place() {
    const auto got = warp(*parse_outline("M0 0H40V30H0Z"), onto_circle(20)); // 10 mm beyond the centre
    QVERIFY(got.ok());
    QVERIFY(got->report.folds > 0);
    QVERIFY(!got->report.fold_box.empty());
    QCOMPARE(warp(*parse_outline("M0 0H40V15H0Z"), onto_circle(20))->report.folds, std::size_t{0});
  }

  void images_that_are_no_numbers_are_refused_and_stopping_stops() {
    const Outline source = *parse_outline("M0 0H40V30H0Z");
    const WarpMap none{[](Point q) { return WarpPlace{{q.x / 0.0 * 0, q.y}, {1, 0}, {0, 1}}; }, {}};
    QVERIFY(!warp(source, none).ok());
    std::stop_source stop;
    stop.request_stop();
    const auto stopped = warp(source, affine({}), {.stop = stop.get_token()});
    QVERIFY(!stopped.ok() && stopped.error().code == ErrorCode::Cancelled);
    QVERIFY(warp({}, affine({}))->outline.empty());
  }

  void a_cubic_is_found_again_from_its_points() {
    auto random = random_source(11);
    for (int i = 0; i < 40; ++i) {
      const Point p0{0, 0}, p3{uniform(random, 60, 120), uniform(random, -40, 40)};
      const double a = uniform(random, -1.0, 1.0), b = uniform(random, -1.0, 1.0);
      const Segment s = Segment::cubic(p0, p0 + direction(a) * uniform(random, 15, 50),
                                       p3 - direction(b) * uniform(random, 15, 50), p3);
      std::vector<Point> targets;
      std::vector<double> t;
      for (int k = 1; k < 16; ++k)
        targets.push_back(s.at(k / 16.0)), t.push_back(k / 16.0);
      const CubicFit fit = fit_cubic(p0, direction(a), direction(b), p3, targets, t, 30, 30, {1e-7});
      QVERIFY2(fit.worst < 1e-4, qPrintable(QString("%1: %2 mm").arg(i).arg(fit.worst)));
    }
  }

  void a_quarter_circle_fits_as_well_as_one_cubic_can() {
    // Best one-cubic quarter of a circle: 1.96e-4 of the radius (Riškus, Approximation of a cubic Bézier curve by
    // circular arcs and vice versa, 2006, from memory); tangents given, so a little more is allowed.
    const auto quarter = [](double t) {
      const double a = t * pi / 2;
      return FitPlace{{100 * std::sin(a), -100 * std::cos(a)}, {std::cos(a), std::sin(a)}};
    };
    const std::vector<Segment> one = fit_cubics(quarter, 1, 0.03);
    QCOMPARE(one.size(), std::size_t{1});
    const std::vector<Segment> fine = fit_cubics(quarter, 1, 0.001);
    QVERIFY(fine.size() == 2);
    for (const Segment& s : fine)
      for (int i = 0; i <= 100; ++i)
        QVERIFY(std::abs(length(s.at(i / 100.0)) - 100) <= 0.001);
  }
};

QTEST_APPLESS_MAIN(TestWarp)
#include "test_warp.moc"
