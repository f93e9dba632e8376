// Contours seen as arcs, and smoothing under a brush.
#include "geom/arc_view.h"
#include "geom/smooth_brush.h"

#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

Contour contour(const char* data) {
  return parse_outline(data)->contours.front();
}
std::string kinds(const std::vector<ViewPiece>& view) {
  std::string out;
  for (const ViewPiece& p : view)
    out += "LAC"[p.index()];
  return out;
}
// Points of the view, by the arcs' own formula.
std::vector<Point> points_of(const std::vector<ViewPiece>& view) {
  std::vector<Point> out;
  for (const ViewPiece& piece : view)
    for (int i = 0; i <= 50; ++i) {
      const double u = i / 50.0;
      if (const auto* l = std::get_if<LineStretch>(&piece))
        out.push_back(lerp(l->from, l->to, u));
      else if (const auto* a = std::get_if<ArcStretch>(&piece)) {
        const Vec r = a->from - a->centre;
        out.push_back(a->centre + direction(std::atan2(r.y, r.x) + a->sweep * u) * a->radius);
      } else
        out.push_back(std::get<CubicStretch>(piece).cubic.at(u));
    }
  return out;
}
Contour wobbly_line() { // 60 long, waves of 1 mm length and 0.1 mm height
  Contour c;
  c.closed = false;
  for (int i = 0; i < 600; ++i) {
    const auto at = [](int k) { return Point{k * 0.1, 0.1 * std::sin(2 * pi * k * 0.1)}; };
    c.segments.push_back(Segment::line(at(i), at(i + 1)));
  }
  return c;
}

} // namespace

class TestViews : public QObject {
  Q_OBJECT

private slots:
  void arcs_are_recognised_data() {
    QTest::addColumn<Contour>("source");
    QTest::addColumn<QString>("expected");
    QTest::newRow("circle") << circle_contour({3, 4}, 12) << "AA";
    QTest::newRow("stadium") << contour("M0 0H20A5 5 0 0 1 20 10H0A5 5 0 0 1 0 0Z") << "ALAL";
    QTest::newRow("rounded-square")
        << contour("M2 0H18A2 2 0 0 1 20 2V18A2 2 0 0 1 18 20H2A2 2 0 0 1 0 18V2A2 2 0 0 1 2 0Z") << "ALALALAL";
    QTest::newRow("square") << contour("M0 0H10V10H0Z") << "LLLL";
    QTest::newRow("s-bend") << contour("M0 0A10 10 0 0 0 20 0A10 10 0 0 1 40 0") << "AA";
    QTest::newRow("no-arc") << contour("M0 0C10 30 20 -30 40 5") << "C";
    QTest::newRow("straight-cubic") << contour("M0 0C10 0 20 0 40 0") << "L";
    QTest::newRow("three-quarters") << contour("M0 0A10 10 0 1 1 10 10") << "A";
  }
  void arcs_are_recognised() {
    QFETCH(Contour, source);
    QFETCH(QString, expected);
    const auto view = arc_view(source);
    QCOMPARE(QString::fromStdString(kinds(view)), expected);
    const BoundaryDistance to_source(rings_of({{source}}, 1e-4));
    for (const Point p : points_of(view))
      QVERIFY(to_source(p) < 0.0022);
  }

  void the_brush_calms_what_it_touches_and_nothing_else() {
    const Outline source{{wobbly_line()}};
    BrushOptions brush;
    brush.radius = 8;
    const Outline got = smooth_under(source, {30, 0}, brush);
    double calm = 0, far = 0;
    for (const Segment& s : got.contours[0].segments)
      for (const double t : {0.0, 0.25, 0.5, 0.75}) {
        const Point p = s.at(t);
        if (std::abs(p.x - 30) < 2)
          calm = std::max(calm, std::abs(p.y));
        if (std::abs(p.x - 30) > 8.2)
          far = std::max(far, std::abs(p.y));
      }
    QVERIFY2(calm < 0.03, fmt::format("{}", calm).c_str());
    QVERIFY2(std::abs(far - 0.1) < 0.006, fmt::format("{}", far).c_str());
    QCOMPARE(got.contours[0].segments.front(), source.contours[0].segments.front());
    QCOMPARE(got.contours[0].segments.back(), source.contours[0].segments.back());
    for (std::size_t i = 1; i < got.contours[0].segments.size(); ++i)
      QCOMPARE(got.contours[0].segments[i].p0, got.contours[0].segments[i - 1].p3);
  }
  void the_brush_never_drifts_further_than_told() {
    const Outline square{{contour("M0 0H40V40H0Z")}};
    for (const double drift : {0.0, 0.2, 1.0}) {
      BrushOptions brush;
      brush.most_drift = drift, brush.wavelength = 6;
      const Outline got = smooth_under(square, {40, 40}, brush);
      QVERIFY2(closed_fault(got).empty(), closed_fault(got).c_str());
      const double off = boundary_distance(rings_of(got, 1e-3), rings_of(square, 1e-3));
      QVERIFY2(off <= drift + brush.tolerance + 1e-3, fmt::format("{} of {}", off, drift).c_str());
      QVERIFY(drift == 0 || off > drift / 2);
    }
  }
  void a_whole_small_contour_fits_under_the_brush() {
    BrushOptions brush;
    brush.radius = 20;
    const Outline got = smooth_under({{circle_contour({}, 4)}}, {0, 0}, brush);
    QVERIFY2(closed_fault(got).empty(), closed_fault(got).c_str());
    QVERIFY(std::abs(got.area() - 16 * pi) < 3);
    QCOMPARE(smooth_under({{circle_contour({}, 4)}}, {100, 0}, brush), (Outline{{circle_contour({}, 4)}}));
  }

  // A stroke of many dabs: the nodes fall, and no place ends farther from where it was than set.
  void a_stroke_of_the_brush_stays_near_data() {
    QTest::addColumn<double>("drift");
    for (const double drift : {0.0, 0.05, 0.4})
      QTest::addRow("%g", drift) << drift;
  }
  void a_stroke_of_the_brush_stays_near() {
    QFETCH(double, drift);
    auto random = random_source(9);
    Contour wobbly;
    const int n = 200;
    std::vector<Point> points;
    for (int i = 0; i < n; ++i)
      points.push_back(direction(2 * pi * i / n) * (30 + uniform(random, -0.2, 0.2)));
    for (std::size_t i = 0; i < points.size(); ++i)
      wobbly.segments.push_back(Segment::line(points[i], points[(i + 1) % points.size()]));
    const Outline was{{wobbly}};
    const BrushOptions brush{.radius = 5, .wavelength = 4, .most_drift = drift, .tolerance = 0.01};
    Outline now = was;
    for (int i = 0; i < 60; ++i)
      now = sanded(was, now, direction(0.06 * i) * 30, brush);
    now = with_few_nodes(was, now, brush);
    QVERIFY2(closed_fault(now).empty(), closed_fault(now).c_str());
    const double off = one_way_distance(rings_of(now, 0.001), rings_of(was, 0.001));
    QVERIFY2(off < drift + 0.05, qPrintable(QString::number(off)));
    if (drift > 0.3)
      QVERIFY2(now.node_count() < was.node_count() * 2 / 3, qPrintable(QString::number(now.node_count())));
  }

  // Far from the brush nothing is looked at closely: a very fine one on a long line is done, and stays local.
  void a_fine_brush_on_a_long_line_is_local() {
    Contour c;
    c.closed = false;
    for (int i = 0; i < 400; ++i)
      c.segments.push_back(Segment::line({5.0 * i, i % 2 * 0.02}, {5.0 * (i + 1), (i + 1) % 2 * 0.02}));
    const Outline was{{c}};
    const BrushOptions brush{.radius = 0.1, .wavelength = 0.05, .most_drift = 0.1, .tolerance = 0.001};
    const Outline got = smooth_under(was, {1000, 0}, brush);
    QVERIFY(got != was);
    QVERIFY(boundary_distance(rings_of(got, 1e-4), rings_of(was, 1e-4)) < 0.1);
    std::size_t same = 0;
    for (const Segment& s : got.contours.at(0).segments)
      same += std::find(c.segments.begin(), c.segments.end(), s) != c.segments.end() ? 1 : 0;
    QVERIFY2(same >= 398, qPrintable(QString::number(same)));
  }
};

QTEST_APPLESS_MAIN(TestViews)
#include "test_views.moc"
