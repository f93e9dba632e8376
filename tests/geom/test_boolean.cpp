// Booleans against GEOS on random and nearly degenerate pairs, and the properties they must have.
//
// The long run: FRELM_BOOLEAN_RUNS=20000 build/release/tests/test_boolean near_degenerate_pairs_match_geos
#include "geom/boolean.h"

#include "geom/path_data.h"
#include "reference/geos_union.h"
#include "support/fixtures.h"

#include <QTest>
#include <cstdio>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double boundary_bound = 0.0045;     // mm: 0.004 near tangency, and what GEOS is flattened at
constexpr double area_bound = 5e-4;           // mm² for each mm of the inputs' perimeter
constexpr double at_the_edge = 1.5;           // of thin: whether such a contour stays is a matter of the last digit
constexpr double thin = 0.004;                // mm mean width: contours that either side may drop
constexpr double reference_flattening = 2e-4; // mm

const std::pair<char, BooleanOp> all_ops[] = {{'u', BooleanOp::Union},
                                              {'d', BooleanOp::Difference},
                                              {'i', BooleanOp::Intersection},
                                              {'x', BooleanOp::ExclusiveOr}};

Outline path(const char* data) {
  return *parse_outline(data);
}
Outline resplit(std::mt19937_64& random, Outline o) {
  for (Contour& c : o.contours) {
    std::vector<Segment> out;
    for (const Segment& s : c.segments) {
      const double t = uniform(random, 0.2, 0.8);
      Segment a = s.part(0, t), b = s.part(t, 1);
      b.p0 = a.p3;
      out.push_back(a), out.push_back(b);
    }
    c.segments = std::move(out);
  }
  return o;
}
Outline mirrored(const Outline& o) {
  return o.transformed(Affine::scaling(-1, 1));
}
double power(std::mt19937_64& random, double low, double high) { // even on a logarithmic scale
  return std::exp(uniform(random, std::log(low), std::log(high)));
}

struct Pair {
  const char* kind;
  Outline a, b;
};
Pair pair_of(std::uint64_t seed) {
  auto random = random_source(seed);
  const Point centre{uniform(random, 0, 20), uniform(random, 0, 20)};
  const Outline a = random_blob(random, centre, uniform(random, 5, 14), 4 + static_cast<int>(random() % 5));
  const Vec way = direction(uniform(random, 0, 2 * pi));
  switch (seed % 10) {
  case 0:
    return {"identical", a, a};
  case 1:
    return {"shifted", a, a.transformed(Affine::translation(way * power(random, 1e-6, 1e-2)))};
  case 2:
    return {"rotated", a,
            a.transformed(Affine::translation(centre) * Affine::rotation(power(random, 1e-6, 1e-3)) *
                          Affine::translation(-centre))};
  case 3:
    return {"resplit", a, resplit(random, a)};
  case 4: { // a rectangle along one of its boxes' edges, exactly or nearly
    const Box box = a.bounds();
    const double off = random() % 2 == 0 ? 0 : power(random, 1e-6, 1e-2);
    Contour c;
    const Point p[] = {{box.x1 + off, box.y0}, {box.x1 + 10, box.y0}, {box.x1 + 10, box.y1}, {box.x1 + off, box.y1}};
    for (int i = 0; i < 4; ++i)
      c.segments.push_back(Segment::line(p[i], p[(i + 1) % 4]));
    return {"touching-box", a, {{c}}};
  }
  case 5: { // node on node
    Outline b = random_blob(random, centre + way * 12.0, 9, 6);
    return {"node-on-node", a,
            b.transformed(Affine::translation(a.contours[0].segments[1].p0 - b.contours[0].segments[0].p0))};
  }
  case 6: { // circles that touch from inside or outside
    const double r = uniform(random, 3, 9), R = uniform(random, 10, 20), off = power(random, 1e-6, 1e-2);
    const double apart = (random() % 2 == 0 ? R + r : R - r) + (random() % 2 == 0 ? off : -off);
    return {"tangent", {{circle_contour(centre, R)}}, {{circle_contour(centre + way * apart, r)}}};
  }
  case 7: {
    const Affine far = Affine::translation({7000 + uniform(random, 0, 1), -6000});
    return {"far-away", a.transformed(far),
            random_blob(random, centre + way * uniform(random, 0, 15), 9, 7).transformed(far)};
  }
  case 8: { // a sliver through it
    const double w = power(random, 1e-2, 0.5);
    Contour c;
    const Vec n = up_of(way);
    const Point p[] = {centre - way * 30.0, centre + way * 30.0, centre + way * 30.0 + n * w,
                       centre - way * 30.0 + n * w};
    for (int i = 0; i < 4; ++i)
      c.segments.push_back(Segment::line(p[i], p[(i + 1) % 4]));
    return {"sliver", a, {{c}}};
  }
  default:
    return {"any", a, random_blob(random, centre + way * uniform(random, 0, 18), uniform(random, 4, 14), 7)};
  }
}

double mean_width(const Ring& r) {
  return 2 * std::abs(ring_area(r)) / std::max(ring_length(r), 1e-12);
}
std::vector<Ring> wider(std::vector<Ring> rings, double width) {
  std::erase_if(rings, [&](const Ring& r) { return mean_width(r) < width; });
  return rings;
}

// The boundary distance both ways, leaving out places where the two inputs run within the bound of each other: there
// the tip of a wedge lies wherever the last digit puts it.
double apart_beyond_tangency(const Pair& pair, const std::vector<Ring>& x, const std::vector<Ring>& y) {
  const BoundaryDistance to_x(x), to_y(y), to_a(rings_of(pair.a, reference_flattening)),
      to_b(rings_of(pair.b, reference_flattening));
  double worst = 0;
  for (const auto& [rings, to] : {std::pair{&x, &to_y}, std::pair{&y, &to_x}})
    for (const Ring& ring : *rings)
      for (const Point p : ring)
        if (const double d = (*to)(p); d > worst && (to_a(p) > boundary_bound || to_b(p) > boundary_bound))
          worst = d;
  return worst;
}

// Slivers of a mean width under `thin` may be missing on either side; those near that width count either way.
QString fault(const Pair& pair, char name, BooleanOp op) {
  const Result<WeldResult> got = combine(op, {pair.a}, {pair.b});
  if (!got)
    return QString::fromStdString(got.error().text());
  if (const std::string open = closed_fault(got->outline); !open.empty())
    return QString::fromStdString(open);
  const std::vector<Ring> reference = geos_combine(name, {pair.a}, {pair.b}, reference_flattening),
                          ours = rings_of(got->outline, reference_flattening);
  const double perimeter = pair.a.length() + pair.b.length();
  double slivers = 0;
  for (const Ring& r : reference)
    if (mean_width(r) < at_the_edge * thin)
      slivers += std::abs(ring_area(r));
  const double off = std::abs(got->outline.area() - total_area(reference));
  if (off > area_bound * perimeter + slivers)
    return QString("area %1 off").arg(off);
  const std::size_t count = ring_count(ours, thin);
  std::size_t least = ring_count(reference, thin * at_the_edge), most = ring_count(reference, thin / at_the_edge);
  const bool firm = least == most && ring_count(ours, thin * at_the_edge) == ring_count(ours, thin / at_the_edge);
  if (count < least || count > most) // does GEOS itself waver?
    for (const double grown : {-thin, -thin / 2, thin / 2, thin}) {
      const std::size_t n = ring_count(geos_combine(name, {pair.a}, {pair.b}, reference_flattening, grown), thin);
      least = std::min(least, n), most = std::max(most, n);
    }
  if (count < least || count > most)
    return QString("%1 contours for %2 to %3").arg(count).arg(least).arg(most);
  if (firm && count > 0 && count == ring_count(reference, thin))
    if (const double apart = apart_beyond_tangency(pair, wider(ours, thin), wider(reference, thin));
        apart > boundary_bound)
      return QString("boundary %1 off").arg(apart);
  return {};
}

} // namespace

class TestBoolean : public QObject {
  Q_OBJECT

private slots:
  void squares_are_combined_as_by_hand_data() {
    QTest::addColumn<int>("op");
    QTest::addColumn<double>("area");
    QTest::addColumn<int>("contours");
    QTest::addColumn<int>("nodes");
    // Two squares of 10 that share a square of 5.
    QTest::newRow("union") << 0 << 175.0 << 1 << 8;
    QTest::newRow("difference") << 1 << 75.0 << 1 << 6;
    QTest::newRow("intersection") << 2 << 25.0 << 1 << 4;
    QTest::newRow("exclusive-or") << 3 << 150.0 << 2 << 12;
  }
  void squares_are_combined_as_by_hand() {
    QFETCH(int, op);
    QFETCH(double, area);
    QFETCH(int, contours);
    QFETCH(int, nodes);
    const auto r = combine(static_cast<BooleanOp>(op), {path("M0 0H10V10H0Z")}, {path("M5 5H15V15H5Z")});
    QVERIFY(std::abs(r->outline.area() - area) < 1e-9);
    QCOMPARE(static_cast<int>(r->outline.contours.size()), contours);
    QCOMPARE(static_cast<int>(r->outline.node_count()), nodes);
  }

  void curves_are_kept() {
    // A circle with a bite: what is left is stretches of the two circles themselves.
    const Outline a{{circle_contour({0, 0}, 20)}}, b{{circle_contour({18, 4}, 9)}};
    for (const auto& [name, op] : all_ops) {
      const auto r = combine(op, {a}, {b});
      for (const Contour& c : r->outline.contours)
        for (const Segment& s : c.segments)
          for (int i = 0; i <= 20; ++i) {
            const Point p = s.at(i / 20.0);
            const double off = std::min(std::abs(length(p) - 20), std::abs(distance(p, {18, 4}) - 9));
            QVERIFY2(off < 0.0006, qPrintable(QString("%1: %2").arg(name).arg(off)));
          }
      QVERIFY(r->report.nodes_out <= 2 * (a.node_count() + b.node_count()) + 4);
      QCOMPARE(r->report.polyline_contours, std::size_t{0});
    }
  }

  void near_degenerate_pairs_match_geos() {
    const int runs =
        qEnvironmentVariableIsSet("FRELM_BOOLEAN_RUNS") ? qEnvironmentVariableIntValue("FRELM_BOOLEAN_RUNS") : 300;
    std::size_t wrong = 0, done = 0;
    for (std::uint64_t seed = 1; done < static_cast<std::size_t>(runs); ++seed) {
      const Pair pair = pair_of(seed);
      for (const auto& [name, op] : all_ops) {
        ++done;
        if (const QString bad = fault(pair, name, op); !bad.isEmpty()) {
          ++wrong;
          std::printf("seed %llu, %s, %c: %s\n", static_cast<unsigned long long>(seed), pair.kind, name,
                      qPrintable(bad));
        }
      }
    }
    std::printf("booleans: %zu done, %zu wrong\n", done, wrong);
    QCOMPARE(wrong, std::size_t{0});
  }

  void areas_add_up() {
    for (std::uint64_t seed = 1; seed <= 60; ++seed) {
      const Pair p = pair_of(seed);
      const auto area = [&](BooleanOp op) { return combine(op, {p.a}, {p.b})->outline.area(); };
      const double a = std::abs(p.a.area()), b = std::abs(p.b.area()),
                   allowed = area_bound * (p.a.length() + p.b.length());
      const double both = area(BooleanOp::Intersection);
      QVERIFY(std::abs(area(BooleanOp::Union) + both - a - b) <= 2 * allowed);
      QVERIFY(std::abs(area(BooleanOp::Difference) + both - a) <= 2 * allowed);
      QVERIFY(std::abs(area(BooleanOp::ExclusiveOr) + 2 * both - a - b) <= 3 * allowed);
    }
  }

  void mirroring_moving_and_starting_elsewhere_commute() {
    for (std::uint64_t seed = 9; seed <= 120;
         seed += 10) { // plain pairs: no near-coincidences that may break either way
      const Pair p = pair_of(seed);
      Outline turned = p.a;
      std::rotate(turned.contours[0].segments.begin(), turned.contours[0].segments.begin() + 2,
                  turned.contours[0].segments.end());
      Outline backwards{{p.b.contours[0].reversed()}};
      for (const auto& [name, op] : all_ops) {
        const auto plain = combine(op, {p.a}, {p.b});
        const auto mirror = combine(op, {mirrored(p.a)}, {mirrored(p.b)});
        const auto other = combine(op, {turned}, {backwards});
        if (plain->outline.empty())
          continue;
        QVERIFY(boundary_distance(rings_of(mirrored(plain->outline), 0.001), rings_of(mirror->outline, 0.001)) < 0.004);
        QVERIFY(boundary_distance(rings_of(plain->outline, 0.001), rings_of(other->outline, 0.001)) < 0.004);
        QCOMPARE(other->outline.node_count(), plain->outline.node_count());
      }
    }
  }

  void one_operand_alone() {
    const Outline a = path("M0 0H10V10H0Z"), far = path("M50 0H60V10H50Z");
    QVERIFY(combine(BooleanOp::Intersection, {a}, {})->outline.empty());
    QVERIFY(combine(BooleanOp::Intersection, {a}, {far})->outline.empty());
    QCOMPARE(combine(BooleanOp::Difference, {a}, {far})->outline.contours.size(), std::size_t{1});
    QCOMPARE(combine(BooleanOp::ExclusiveOr, {a}, {far})->outline.contours.size(), std::size_t{2});
    QVERIFY(combine(BooleanOp::Difference, {}, {a})->outline.empty());
    QVERIFY(combine(BooleanOp::Difference, {a}, {a})->outline.empty());
    const Outline open = path("M2 2L30 30");
    QCOMPARE(combine(BooleanOp::Difference, {a, open}, {far})->outline.contours.size(), std::size_t{2});
    QCOMPARE(combine(BooleanOp::Difference, {a}, {far, open})->outline.contours.size(), std::size_t{1});
  }

  void own_crossings_are_resolved_by_either_rule() {
    // A five-pointed star drawn in one go: nonzero fills its middle, even-odd leaves it out.
    std::string data;
    for (int i = 0; i < 5; ++i) {
      const Point p = direction(-pi / 2 + 2 * 2 * pi * i / 5) * 50;
      data += fmt::format("{}{} {} ", i > 0 ? 'L' : 'M', p.x, p.y);
    }
    const Outline star = path(fmt::format("{}Z", data).c_str());
    const auto filled = self_union(star, FillRule::Nonzero), hollow = self_union(star, FillRule::EvenOdd);
    QCOMPARE(filled->outline.contours.size(), std::size_t{1});
    QCOMPARE(filled->outline.node_count(), std::size_t{10});
    QCOMPARE(hollow->outline.contours.size(), std::size_t{5});
    // Pentagon in the middle of a pentagram of circumradius R: r = R/φ², area 5/2 r² sin 72° (elementary geometry).
    const double phi = (1 + std::sqrt(5.0)) / 2, r = 50 / (phi * phi), pentagon = 2.5 * r * r * std::sin(2 * pi / 5);
    QVERIFY(std::abs(filled->outline.area() - hollow->outline.area() - pentagon) < 0.01);
  }
};

QTEST_APPLESS_MAIN(TestBoolean)
#include "test_boolean.moc"
