// Offsets against values worked out by hand, against the definition (every place that far away, and no nearer) sampled
// densely, and against GEOS's buffer for areas and contour counts.
#include "geom/offset.h"

#include "geom/boolean.h"
#include "geom/components.h"
#include "geom/covered.h"
#include "geom/distance.h"
#include "geom/path_data.h"
#include "lettering/seat.h"
#include "reference/geos_union.h"
#include "reference/offset_truth.h"
#include "reference/outline_trials.h"
#include "support/fixtures.h"

#include <QTest>
#include <cstdio>
#include <fmt/format.h>
#include <random>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.01; // mm both ways, docs/accuracy.md

Outline path(const char* data) {
  Outline o = *parse_outline(data);
  return o;
}
Outline disc(double r, Point centre = {}) {
  return {{circle_contour(centre, r)}};
}
Outline ring_shape(double outer, double inner) {
  return {{circle_contour({}, outer), circle_contour({}, inner).reversed()}};
}
Outline one(const Outline& o, double d, const OffsetOptions& options = {}) {
  const auto r = offset(o, d, options);
  if (!r.ok() || r->rings.empty())
    return {};
  return r->rings.front();
}
OffsetOptions joined(JoinStyle join, double limit = 4) {
  OffsetOptions o;
  o.join = join, o.mitre_limit = limit;
  return o;
}
std::string fault_against_truth(const Outline& source, double d, const Outline& got, double* worst = nullptr) {
  if (const std::string f = closed_fault(got); !f.empty())
    return f;
  const auto truth = offset_boundary(source, d);
  const auto result = rings_of(got, 2e-4);
  if (truth.empty() || result.empty())
    return truth.empty() && result.empty() ? "" : fmt::format("{} truth, {} result", truth.size(), result.size());
  const double there = one_way_distance(result, truth), back = one_way_distance(truth, result);
  if (worst != nullptr)
    *worst = std::max({*worst, there, back});
  return std::max(there, back) <= bound ? "" : fmt::format("{:.5f} mm there, {:.5f} mm back", there, back);
}
double worst_seen = 0;

} // namespace

class TestOffset : public QObject {
  Q_OBJECT

private slots:
  void cleanupTestCase() { std::printf("offset: worst %.2g mm both ways\n", worst_seen); }

  void areas_are_those_worked_out_by_hand_data() {
    QTest::addColumn<Outline>("source");
    QTest::addColumn<double>("distance");
    QTest::addColumn<OffsetOptions>("options");
    QTest::addColumn<double>("area");
    QTest::addColumn<int>("contours");
    const Outline square = path("M0 0H10V10H0Z");
    const auto row = [](const char* name, const Outline& o, double d, const OffsetOptions& options, double area,
                        int contours) { QTest::newRow(name) << o << d << options << area << contours; };
    row("circle-out", disc(10), 3, {}, pi * 169, 1);
    row("circle-in", disc(10), -3, {}, pi * 49, 1);
    row("circle-in-past-centre", disc(10), -10.5, {}, 0, 0);
    row("square-out-round", square, 1, {}, 100 + 40 + pi, 1);
    row("square-out-mitre", square, 1, joined(JoinStyle::Mitre), 144, 1);
    row("square-out-mitre-beyond-limit", square, 1, joined(JoinStyle::Mitre, 1.41), 142, 1); // √2 > 1.41: bevelled
    row("square-out-mitre-within-limit", square, 1, joined(JoinStyle::Mitre, 1.42), 144, 1);
    row("square-out-bevel", square, 1, joined(JoinStyle::Bevel), 142, 1);
    row("square-in", square, -1, {}, 64, 1);
    row("square-in-bevel-stays-sharp", square, -1, joined(JoinStyle::Bevel), 64, 1);
    row("square-inset-past-centre", square, -5.01, {}, 0, 0);
    row("distance-nothing", square, 0, {}, 100, 1);
    row("ring-out", ring_shape(10, 4), 1, {}, pi * (121 - 9), 2);
    row("ring-in", ring_shape(10, 4), -1, {}, pi * (81 - 25), 2);
    row("hole-just-under", ring_shape(10, 1.99), 2, {}, pi * 144, 1);
    row("hole-just-over", ring_shape(10, 2.02), 2, {}, pi * (144 - 0.02 * 0.02), 2);
    row("ring-in-gone", ring_shape(10, 4), -3.01, {}, 0, 0);
    // Two squares 1 apart grow into one: each 12 wide, rounded at the outside; at the gap both arcs of radius 1 meet at
    // half the gap, sqrt(1 − 1/4) above the squares' sides. Area: the box 21 x 10, sides 2·21·1 and 2·10·1, four
    // quarter discs, less the two dips over the gap: 2 (1 − 2 ∫₀^½ √(1−u²) du).
    {
      const double quarter = (0.5 * std::sqrt(0.75) + std::asin(0.5)) / 2;
      row("squares-grow-together", path("M0 0H10V10H0Z M11 0H21V10H11Z"), 1, {},
          210 + 42 + 20 + pi - 2 * (1 - 2 * quarter), 1);
    }
    // A slot 1 wide, 6 deep from the top of a 20 x 10 block closes at 0.6; over its mouth two arcs dip.
    {
      const double r = 0.6, u = 0.5, half = (u * std::sqrt(r * r - u * u) + r * r * std::asin(u / r)) / 2;
      row("slot-narrower-than-twice", path("M0 0H9.5V6H10.5V0H20V10H0Z"), r, {},
          200 + 60 * r + pi * r * r - (r - 2 * half), 1);
    }
    // A slot 2 wide, 6 deep stays open at 0.6: what is left of it is 0.8 x 5.4 with sharp corners at its foot, and
    // above it, between two quarter arcs, 1.2 x 0.6 less twice a quarter disc.
    row("slot-wider-than-twice", path("M0 0H9V6H11V0H20V10H0Z"), 0.6, {},
        200 + 36 + 0.36 * pi - 0.8 * 5.4 - (1.2 - 0.18 * pi), 1);
  }
  void areas_are_those_worked_out_by_hand() {
    QFETCH(Outline, source);
    QFETCH(double, distance);
    QFETCH(OffsetOptions, options);
    QFETCH(double, area);
    QFETCH(int, contours);
    const auto got = offset(source, distance, options);
    QVERIFY(got.ok());
    const Outline& ring = got->rings.front();
    QCOMPARE(ring.contours.size(), static_cast<std::size_t>(contours));
    QVERIFY2(ring.empty() || closed_fault(ring).empty(), closed_fault(ring).c_str());
    // Within the bound all along the boundary; lines and corners are better than that.
    const double allowed = 0.5 * bound * ring.length() + 1e-9;
    QVERIFY2(std::abs(ring.area() - area) <= allowed, fmt::format("{} mm², {} expected", ring.area(), area).c_str());
  }

  void knife_edge_tips_lie_where_trigonometry_says_data() {
    QTest::addColumn<double>("apex");
    for (const double a : {0.5, 1.0, 2.0, 5.0, 20.0})
      QTest::addRow("%g-degrees", a) << a;
  }
  void knife_edge_tips_lie_where_trigonometry_says() {
    // An isosceles wedge, its apex at the origin, 100 long: inwards by d the tip lies d / sin(apex/2) along its axis,
    // and the whole is a smaller copy, 1 − d/inradius as large. Outwards with round joins: a disc around the apex.
    QFETCH(double, apex);
    const double half = radians(apex) / 2, w = 100 * std::tan(half);
    Outline wedge;
    const Point p[] = {{0, 0}, {100, w}, {100, -w}};
    wedge.contours.resize(1);
    for (std::size_t i = 0; i < 3; ++i)
      wedge.contours[0].segments.push_back(Segment::line(p[i], p[(i + 1) % 3]));
    wedge.make_area_positive();
    const double area = wedge.area(), inradius = 2 * area / wedge.length(), d = inradius / 3;
    const Outline in = one(wedge, -d);
    QCOMPARE(in.contours.size(), std::size_t{1});
    QVERIFY2(std::abs(in.bounds().x0 - d / std::sin(half)) < bound, fmt::format("{}", in.bounds().x0).c_str());
    QVERIFY(std::abs(in.area() - area * 4 / 9) < 1e-3);
    QCOMPARE(in.node_count(), std::size_t{3});
    const Outline out = one(wedge, 2);
    QVERIFY(std::abs(out.bounds().x0 + 2) < bound);
    QVERIFY(std::abs(out.area() - (area + 2 * wedge.length() + 4 * pi)) < 0.2 * bound * wedge.length());
    // Mitred with a limit high enough: the tip sticks out by d / sin(apex/2).
    const Outline mitred = one(wedge, 0.1, joined(JoinStyle::Mitre, 1000));
    QVERIFY(std::abs(mitred.bounds().x0 + 0.1 / std::sin(half)) < bound);
    const Outline bevelled = one(wedge, 0.1, joined(JoinStyle::Mitre, 4));
    QVERIFY(std::abs(bevelled.bounds().x0 + (apex > 29 ? 0 : 0.1 * std::sin(half))) < bound);
  }

  void curved_knife_edges_are_exact() {
    // A crescent of two circular arcs: inwards both arcs keep their centres, so the tips are where circles of known
    // radii cross. r 50 about (0, 0) and r 51 about (0, 8): horns of a few degrees.
    const auto tip_y = [](double r, double R, double apart) { return (r * r - R * R + apart * apart) / (2 * apart); };
    const double r = 50, R = 50.5, apart = 3;
    const double y0 = tip_y(r, R, apart), x0 = std::sqrt(r * r - y0 * y0);
    const auto data = fmt::format("M{0} {1}A{2} {2} 0 0 0 {3} {1}A{4} {4} 0 0 1 {0} {1}Z", x0, y0, r, -x0, R);
    Outline crescent = *parse_outline(data);
    crescent.make_area_positive();
    QVERIFY(crescent.area() > 100);
    for (const double d : {-0.05, -0.2, -0.6}) {
      const double y = tip_y(r + d, R - d, apart), x = std::sqrt((r + d) * (r + d) - y * y);
      const Outline got = one(crescent, d);
      QCOMPARE(got.contours.size(), std::size_t{1});
      QVERIFY2(std::abs(got.bounds().x1 - x) < bound, fmt::format("{}: {} {}", d, got.bounds().x1, x).c_str());
      QVERIFY2(std::abs(got.bounds().x0 + x) < bound, fmt::format("{}: {} {}", d, got.bounds().x0, -x).c_str());
    }
  }

  void letters_match_the_definition_data() {
    QTest::addColumn<Outline>("source");
    QTest::addColumn<double>("distance");
    const std::pair<const char*, FaceName> faces[] = {
        {"script", {"Dancing Script", "Bold"}}, {"serif", {"Roboto Slab", "Regular"}}, {"sans", {"Lato", "Regular"}}};
    for (const auto& [name, face] : faces)
      for (const double d : sanitized ? std::vector<double>{2.5, -0.9} : std::vector<double>{2.5, -0.3, -0.9, 8.0})
        QTest::addRow("%s-%g", name, d) << straight_word(sanitized ? "8y" : "Ra&8y", face, 40) << d;
  }
  void letters_match_the_definition() {
    QFETCH(Outline, source);
    QFETCH(double, distance);
    const auto got = offset(source, distance);
    QVERIFY(got.ok());
    QCOMPARE(got->report.weld.polyline_contours, std::size_t{0});
    const std::string fault = fault_against_truth(source, distance, got->rings.front(), &worst_seen);
    QVERIFY2(fault.empty(), fault.c_str());
  }

  void blobs_and_sharp_curves_match_the_definition_data() {
    QTest::addColumn<Outline>("source");
    QTest::addColumn<double>("distance");
    constexpr std::uint64_t seed = 71;
    auto random = random_source(seed);
    for (int i = 0; i < 15; ++i) {
      const Outline blob = random_blob(random, {}, uniform(random, 5, 14), 4 + i % 5);
      Outline sound = self_union(blob, FillRule::Nonzero)->outline;
      sound.make_area_positive();
      QTest::addRow("seed-%llu-%d", static_cast<unsigned long long>(seed), i) << sound << uniform(random, -3, 5);
    }
    const char* dent = "M0 0C10 0 18 10 20 0C22 10 30 0 40 0V20H0Z";                 // cusps
    const char* handles = "M0 0C0 0 20 -10 20 0C20 5 20 10 20 10C20 10 10 12 0 10Z"; // handles on their nodes
    const char* tight = "M0 0H9C9.4 0 9.5 0.2 9.6 3C9.7 6 10.3 6 10.4 3C10.5 0.2 10.6 0 11 0H20V10H0Z"; // a narrow bay
    for (const double d : {1.0, 0.3, -0.5, -2.0}) {
      QTest::addRow("cusps-%g", d) << path(dent) << d;
      QTest::addRow("handles-on-nodes-%g", d) << path(handles) << d;
      QTest::addRow("narrow-bay-%g", d) << path(tight) << d;
    }
    QTest::addRow("far-from-the-origin") << disc(20, {8000, -7000}) << 1.5;
  }
  void blobs_and_sharp_curves_match_the_definition() {
    QFETCH(Outline, source);
    QFETCH(double, distance);
    const std::string fault = fault_against_truth(source, distance, one(source, distance), &worst_seen);
    QVERIFY2(fault.empty(), fault.c_str());
  }

  void areas_and_contours_match_geos() {
    // GEOS simplifies concave stretches of its input by up to a hundredth of the distance (its documentation calls the
    // buffer an approximation), so areas are compared within that along the boundary.
    for (const double d : {2.5, 0.4, -0.4}) {
      const Outline source = straight_word("Saltmarsh", {"Dancing Script", "Bold"}, 40);
      const std::vector<Ring> theirs = geos_buffer({source}, d, 0.0005);
      const Outline ours = one(source, d);
      QCOMPARE(ours.contours.size(), ring_count(theirs, 0.004));
      QVERIFY(std::abs(ours.area() - total_area(theirs)) < 0.01 * std::abs(d) * ours.length());
    }
  }

  void what_vanishes_and_what_closes_is_reported() {
    const Outline two = path("M0 0H10V10H0Z M20 0H21V10H20Z");
    const auto thinner = offset(two, -0.6);
    QCOMPARE(thinner->report.vanished.size(), std::size_t{1});
    QVERIFY(std::abs(thinner->report.vanished[0].x0 - 20) < 1e-6);
    const auto fatter = offset(ring_shape(10, 2), 2.1);
    QCOMPARE(fatter->report.closed_holes.size(), std::size_t{1});
    QVERIFY(offset(ring_shape(10, 2), 1.9)->report.closed_holes.empty());
    // What lies inside them is not what is left of them: a thin ring about a disc, a narrow hole about a ring.
    Outline framed = ring_shape(7, 6.5);
    framed.append(disc(5, {}));
    const auto frame = offset(framed, -0.5);
    QCOMPARE(frame->report.vanished.size(), std::size_t{1});
    QVERIFY(std::abs(frame->report.vanished[0].width() - 14) < 1e-3);
    QVERIFY(offset(framed, -0.2)->report.vanished.empty());
    Outline target = ring_shape(20, 10);
    target.append(ring_shape(8, 4));
    const auto wide = offset(target, 1.5);
    QCOMPARE(wide->report.closed_holes.size(), std::size_t{1});
    QVERIFY(std::abs(wide->report.closed_holes[0].width() - 20) < 1e-3);
    QVERIFY(offset(target, 0.9)->report.closed_holes.empty());
  }

  void holes_follow_their_rule() {
    Outline o = path("M0 0H30V20H0Z");
    o.append(disc(4, {8, 10}).transformed({1, 0, 0, -1, 0, 20})); // mirrored: a hole
    o.append(disc(1, {8, 10}));                                   // an island in it
    o.append(disc(2, {22, 10}).transformed({1, 0, 0, -1, 0, 20}));
    OffsetOptions options;
    QCOMPARE(one(o, 0.5, options).contours.size(), std::size_t{4});
    options.holes = HoleRule::Drop;
    QCOMPARE(one(o, 0.5, options).contours.size(), std::size_t{1});
    options.holes = HoleRule::DropSmall;
    options.hole_size = 3.1; // the smaller hole is 3 across now
    const auto small = offset(o, 0.5, options);
    QCOMPARE(small->rings[0].contours.size(), std::size_t{3});
    QCOMPARE(small->report.dropped_holes, std::size_t{1});
    options.hole_size = 2.9;
    QCOMPARE(one(o, 0.5, options).contours.size(), std::size_t{4});
  }

  // What is said to be covered is nearer to the source than the radius, wherever it is looked at.
  void covered_stretches_lie_within_the_distance() {
    const Outline letters = weld(letter_outlines(on_circle(letters_of("Saltmarsh"), 120)))->outline;
    const Box box = letters.bounds();
    Boundary lines(letters);
    const double radius = 2, margin = 0.1;
    const Discs discs(letters, radius, margin);
    std::mt19937 random(7);
    const auto place = [&](const Box& b) {
      return Point{std::uniform_real_distribution(b.x0, b.x1)(random),
                   std::uniform_real_distribution(b.y0, b.y1)(random)};
    };
    std::size_t covered = 0;
    for (int i = 0; i < 4000; ++i) {
      const Point at = place(box.grown(3));
      const Box near{at.x - 1, at.y - 1, at.x + 1, at.y + 1};
      const Segment s = Segment::cubic(place(near), place(near), place(near), place(near));
      if (!discs.cover(s))
        continue;
      ++covered;
      for (int k = 0; k <= 20; ++k)
        QVERIFY(lines.nearer_than(radius - margin + 0.001, s.at(k / 20.0)).has_value());
    }
    QVERIFY(covered > 400 && covered < 3600);
    QVERIFY(!Discs(Outline{}, radius, margin).cover(Segment::line({0, 0}, {0, 0})));
  }

  // Found in a face: the first node of a hole lies on the contour around it.
  void holes_that_touch_what_is_around_them() {
    // Two roundings of the crossing: the hole begins a hair outside.
    const std::vector<Outline> parts = components(path("M0 0H10V10H0ZM5 -0.000001L4 3H6Z"));
    QCOMPARE(parts.size(), std::size_t{1});
    QCOMPARE(parts.front().contours.size(), std::size_t{2});
    for (const char* data : {"M0 0H10V10H0Z M5 0L6 3H4Z", "M0 0H10V10H0Z M6 3H4L5 0Z", "M0 0H10V10H0Z M5 0L4 3H6Z"}) {
      const Outline source = self_union(path(data), FillRule::EvenOdd, {})->outline;
      for (const double d : {-1.0, -0.2, 0.5}) {
        const std::string fault = offset_fault(source, d, one(source, d));
        QVERIFY2(fault.empty(), fmt::format("{} {}: {}", data, d, fault).c_str());
      }
      OffsetOptions without;
      without.holes = HoleRule::Drop;
      QCOMPARE(one(source, 0.1, without).contours.size(), std::size_t{1});
    }
  }

  void rings_are_offsets_of_the_source() {
    OffsetOptions options;
    options.rings = 3;
    std::vector<double> shares;
    options.progress = [&](double share) { shares.push_back(share); };
    const auto got = offset(disc(5), 2, options);
    QCOMPARE(got->rings.size(), std::size_t{3});
    for (std::size_t k = 0; k < 3; ++k)
      QVERIFY(std::abs(got->rings[k].bounds().x1 - (5 + 2 * static_cast<double>(k + 1))) < bound);
    QCOMPARE(shares.size(), std::size_t{3});
    QCOMPARE(shares.back(), 1.0);
  }

  void open_lines_get_a_width_data() {
    QTest::addColumn<Outline>("source");
    QTest::addColumn<OffsetOptions>("options");
    QTest::addColumn<double>("area");
    const Outline line = path("M0 0H10"), corner = path("M0 0H10V10");
    const auto capped = [](CapStyle cap, JoinStyle join = JoinStyle::Round) {
      OffsetOptions o;
      o.cap = cap, o.join = join;
      return o;
    };
    QTest::newRow("line-round") << line << capped(CapStyle::Round) << 20 + pi;
    QTest::newRow("line-flat") << line << capped(CapStyle::Flat) << 20.0;
    QTest::newRow("line-square") << line << capped(CapStyle::Square) << 24.0;
    QTest::newRow("corner-flat-mitre") << corner << capped(CapStyle::Flat, JoinStyle::Mitre) << 40.0;
    QTest::newRow("corner-flat-bevel") << corner << capped(CapStyle::Flat, JoinStyle::Bevel) << 39.5;
    QTest::newRow("corner-flat-round") << corner << capped(CapStyle::Flat) << 39 + pi / 4;
    QTest::newRow("half-circle-flat") << path("M-10 0A10 10 0 0 1 10 0") << capped(CapStyle::Flat) << pi * 20;
  }
  void open_lines_get_a_width() {
    QFETCH(Outline, source);
    QFETCH(OffsetOptions, options);
    QFETCH(double, area);
    const Outline got = one(source, 1, options);
    QCOMPARE(got.contours.size(), std::size_t{1});
    QVERIFY2(std::abs(got.area() - area) < 0.2 * bound * got.length(), fmt::format("{}", got.area()).c_str());
    const auto inwards = offset(source, -1, options);
    QVERIFY(inwards->rings[0].empty());
    QCOMPARE(inwards->report.open_left_out, std::size_t{1});
  }
  void open_curves_match_the_definition() {
    for (const char* data : {"M0 0C10 20 20 -20 30 0", "M0 0C40 30 -10 30 30 0", "M0 0C1 8 2 8 3 0S5 -8 6 0"}) {
      const Outline line = path(data);
      const std::string fault = fault_against_truth(line, 1.2, one(line, 1.2), &worst_seen);
      QVERIFY2(fault.empty(), fault.c_str());
    }
  }

  void a_smooth_convex_shape_comes_back() {
    const Outline egg = path("M0 0C0 -12 16 -15 24 -8S36 12 22 16S0 12 0 0Z");
    const Outline back = one(one(egg, 3), -3);
    QVERIFY(boundary_distance(rings_of(back, 1e-3), rings_of(egg, 1e-3)) < 2 * bound);
  }
  void start_order_turning_and_mirroring_change_nothing() {
    const Outline source = straight_word("Sage", {"Dancing Script", "Bold"}, 40);
    const Outline plain = one(source, 1.5);
    const auto same = [&](const Outline& other, const char* what) {
      const double off = boundary_distance(rings_of(other, 1e-3), rings_of(plain, 1e-3));
      const auto nodes = static_cast<double>(plain.node_count());
      // Each is within the bound of the same exact offset, so they are within twice that of each other.
      if (off > 2 * bound || std::abs(static_cast<double>(other.node_count()) - nodes) > 2 + 0.03 * nodes)
        return fmt::format("{}: {} mm, {} and {} nodes", what, off, other.node_count(), plain.node_count());
      return std::string();
    };
    Outline restarted = source;
    for (Contour& c : restarted.contours)
      std::rotate(c.segments.begin(), c.segments.begin() + static_cast<std::ptrdiff_t>(c.segments.size() / 2),
                  c.segments.end());
    std::reverse(restarted.contours.begin(), restarted.contours.end());
    Outline reversed = source;
    for (Contour& c : reversed.contours)
      c = c.reversed();
    const Affine mirror = Affine::scaling(-1, 1), turn = Affine::rotation(0.7);
    const Affine back = Affine::rotation(-0.7);
    for (const std::string& fault : {same(one(restarted, 1.5), "restarted"), same(one(reversed, 1.5), "reversed"),
                                     same(one(source.transformed(mirror), 1.5).transformed(mirror), "mirrored"),
                                     same(one(source.transformed(turn), 1.5).transformed(back), "turned")})
      QVERIFY2(fault.empty(), fault.c_str());
  }

  void nodes_stay_few() {
    // 14 letters, + 2.5 mm (numbers: at most 130 nodes); smooth joints of the source stay smooth.
    std::vector<Outline> letters = letter_outlines(on_circle(letters_of("Saltmarsh Lane"), 120));
    const Outline source = weld(letters)->outline;
    const Outline got = one(source, 2.5);
    std::printf("offset: 14 letters +2.5 mm: %zu nodes\n", got.node_count());
    QVERIFY2(got.node_count() <= 130, fmt::format("{} nodes", got.node_count()).c_str());
    QVERIFY(one(disc(10), 3).node_count() <= 6);
  }

  void bad_input_is_named() {
    const Outline square = path("M0 0H10V10H0Z");
    OffsetOptions options;
    options.tolerance = 0;
    QVERIFY(!offset(square, 1, options).ok());
    options = {};
    options.mitre_limit = 0.5;
    QVERIFY(!offset(square, 1, options).ok());
    options = {};
    options.rings = 0;
    QVERIFY(!offset(square, 1, options).ok());
    QVERIFY(!offset(square, std::nan("")).ok());
    QVERIFY(!offset(path("M0 0H99999V10H0Z"), 1).ok());
    QVERIFY(offset({}, 1)->rings.front().empty());
    std::stop_source stop;
    stop.request_stop();
    options = {};
    options.stop = stop.get_token();
    const auto cancelled = offset(square, 1, options);
    QVERIFY(!cancelled.ok());
    QCOMPARE(static_cast<int>(cancelled.error().code), static_cast<int>(ErrorCode::Cancelled));
  }
};

QTEST_APPLESS_MAIN(TestOffset)
#include "test_offset.moc"
