// Fewer nodes for a machine, and curves as arcs.
#include "geom/biarcs.h"
#include "geom/few_nodes.h"
#include "support/compare.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

// A word, or a blob of points with noise, as a scan gives them.
Outline subject(const QString& name) {
  if (name == "word")
    return straight_word("Mussel", {"Dancing Script", "Bold"}, 60);
  if (name == "serif")
    return straight_word("Rye", {"Roboto Slab", "Bold"}, 60);
  std::mt19937_64 random = random_source(11);
  Outline blob = random_blob(random, {0, 0}, 60, 8);
  blob.make_area_positive();
  if (name == "curves")
    return blob;
  Outline out;
  for (const Contour& c : blob.contours) {
    Contour& rough = out.contours.emplace_back();
    std::vector<Point> p;
    for (const Segment& s : c.segments)
      for (int i = 0; i < 80; ++i)
        p.push_back(s.at(i / 80.0) + Vec{uniform(random, -0.02, 0.02), uniform(random, -0.02, 0.02)});
    for (std::size_t i = 0; i < p.size(); ++i)
      rough.segments.push_back(Segment::line(p[i], p[(i + 1) % p.size()]));
  }
  return out;
}

} // namespace

class TestFewNodes : public QObject {
  Q_OBJECT

private slots:
  void as_few_as_asked_at_the_least_cost_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<double>("per_100");
    for (const char* name : {"word", "serif", "curves", "points"})
      for (const double per_100 : {40.0, 20.0, 8.0, 4.0})
        QTest::newRow(fmt::format("{} {}", name, per_100).c_str()) << QString(name) << per_100;
  }
  void as_few_as_asked_at_the_least_cost() {
    QFETCH(QString, name);
    QFETCH(double, per_100);
    const Outline was = subject(name);
    const auto got = few_nodes(was, {.per_100 = per_100, .most_off = 1});
    QVERIFY(got.ok());
    const NodeDensity now = node_density(got->outline);
    QCOMPARE(got->reached, now.per_100 <= per_100);
    QVERIFY(got->outline.node_count() <= was.node_count());
    QCOMPARE(got->report.nodes_out, got->outline.node_count());
    // What it says that it cost is what it cost.
    const double off = boundary_distance(rings_of(got->outline, 0.001), rings_of(was, 0.001));
    QVERIFY2(off <= got->report.worst + 0.003 && off <= 1.003,
             fmt::format("{} said {}", off, got->report.worst).c_str());
    // No cheaper: within half the tolerance that it took there are too many.
    if (got->reached && got->report.worst > 0.02)
      QVERIFY(node_density(thin(was, {.tolerance = got->report.worst / 2})->outline).per_100 > per_100);
    if (!got->reached) // nor are there fewer within all that may be spent
      QVERIFY(thin(was, {.tolerance = 1})->outline.node_count() >= got->outline.node_count());
    for (const Contour& c : got->outline.contours)
      QCOMPARE(closed_fault({{c}}), std::string());
  }
  void what_is_few_enough_stays() {
    const Outline was = drawn(disc(0, 0, 50) + box(-10, -10, 20, 20));
    const auto got = few_nodes(was, {.per_100 = 50, .apart = 5});
    QVERIFY(got->reached && got->outline == was && got->report.worst == 0);
  }
  void nodes_come_to_stand_apart_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("apart");
    QTest::addColumn<int>("nodes");
    QTest::newRow("a bevel") << "M0 0H40L40.3 0.3V30H0Z" << 1.0 << 4;
    QTest::newRow("a doubled node") << "M0 0H20L20.02 0H40V30H0Z" << 1.0 << 4;
    QTest::newRow("a step") << "M0 0H20V0.2H40V30H0Z" << 1.0 << 5;
    QTest::newRow("nothing to do") << "M0 0H40V30H0Z" << 1.0 << 4;
    QTest::newRow("a curve with a short piece") << "M0 0C10 -10 30 -10 40 0L40.1 0.1V30H0Z" << 0.5 << 4;
  }
  void nodes_come_to_stand_apart() {
    QFETCH(QString, path);
    QFETCH(double, apart);
    QFETCH(int, nodes);
    const auto got = few_nodes(drawn(path), {.apart = apart, .most_off = 0.5});
    QVERIFY(got->reached);
    QCOMPARE(int(got->outline.node_count()), nodes);
    QVERIFY(node_density(got->outline).apart >= apart);
    QVERIFY(boundary_distance(rings_of(got->outline, 0.001), rings_of(drawn(path), 0.001)) <=
            got->report.worst + 0.002);
    QVERIFY(got->report.worst <= 0.5);
  }
  void what_costs_too_much_stays() {
    const Outline teeth = drawn("M0 0H5V2H6V0H7V2H8V0H40V30H0Z");
    const auto got = few_nodes(teeth, {.apart = 3, .most_off = 0.2});
    QVERIFY(!got->reached);
    QVERIFY(boundary_distance(rings_of(got->outline, 0.001), rings_of(teeth, 0.001)) <= 0.201);
  }
  void absurd_targets_end() {
    for (const NodeTarget& t : {NodeTarget{.per_100 = 1e-6}, NodeTarget{.apart = 1e6},
                                NodeTarget{.per_100 = 1e-6, .apart = 1e6, .most_off = 1e4}}) {
      const auto got = few_nodes(subject("word"), t);
      QVERIFY(got.ok() && !got->reached && got->outline.node_count() > 0);
    }
    QVERIFY(few_nodes({}, {.per_100 = 5})->reached);
    QVERIFY(!few_nodes(subject("word"), {.per_100 = 5, .most_off = 0}).ok());
  }

  void curves_become_arcs_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<double>("tolerance");
    for (const char* name : {"word", "serif", "curves"})
      for (const double tolerance : {0.1, 0.01, 0.001})
        QTest::newRow(fmt::format("{} {}", name, tolerance).c_str()) << QString(name) << tolerance;
  }
  void curves_become_arcs() {
    QFETCH(QString, name);
    QFETCH(double, tolerance);
    const Outline o = subject(name);
    Outline drawn_by_arcs;
    for (const Contour& c : o.contours) {
      const auto view = as_arcs(c, tolerance);
      // As many points of each arc as show it, its own formula; ends meet exactly.
      Contour& line = drawn_by_arcs.contours.emplace_back();
      const auto start_of = [](const ViewPiece& p) {
        return std::holds_alternative<ArcStretch>(p) ? std::get<ArcStretch>(p).from : std::get<LineStretch>(p).from;
      };
      Point at = start_of(view.front()); // of a closed line, any of its nodes
      for (const ViewPiece& piece : view) {
        if (const auto* arc = std::get_if<ArcStretch>(&piece)) {
          QVERIFY(arc->from == at);
          QVERIFY(std::abs(distance(arc->centre, arc->to) - arc->radius) < 1e-6 * std::max(1.0, arc->radius));
          const Vec r = arc->from - arc->centre;
          const int n = std::max(2, static_cast<int>(std::abs(arc->sweep) * std::sqrt(arc->radius / (8 * 1e-4))));
          for (int i = 1; i <= n; ++i) {
            const double a = arc->sweep * i / n;
            const Point next = i == n ? arc->to
                                      : arc->centre + Vec{r.x * std::cos(a) - r.y * std::sin(a),
                                                          r.x * std::sin(a) + r.y * std::cos(a)};
            line.segments.push_back(Segment::line(at, next));
            at = next;
          }
        } else {
          const auto& l = std::get<LineStretch>(piece);
          QVERIFY(l.from == at);
          line.segments.push_back(Segment::line(at, l.to));
          at = l.to;
        }
      }
      QVERIFY(distance(at, start_of(view.front())) < 1e-9);
    }
    const double off = boundary_distance(rings_of(drawn_by_arcs, 0.0005), rings_of(o, 0.0002));
    QVERIFY2(off <= 1.1 * tolerance + 0.0005, fmt::format("{}", off).c_str());
  }
  // An eighth of the tolerance takes twice the arcs: the error of an arc spline goes with the cube of its pieces'
  // length (Meek, Walton, Approximating smooth planar curves by arc splines, 1995; from memory).
  void an_eighth_of_the_tolerance_takes_twice_the_arcs() {
    const Outline o = subject("curves");
    const auto arcs = [&](double tolerance) {
      std::size_t n = 0;
      for (const Contour& c : o.contours)
        n += as_arcs(c, tolerance).size();
      return double(n);
    };
    for (const double t : {0.02, 0.005}) {
      const double more = arcs(t / 8) / arcs(t);
      QVERIFY2(more > 1.5 && more < 2.6, fmt::format("{}", more).c_str());
    }
  }
  void circles_and_lines_stay_what_they_are() {
    QCOMPARE(as_arcs(drawn(disc(0, 0, 20)).contours[0], 0.01).size(), std::size_t{2});
    const auto square = as_arcs(drawn(box(0, 0, 9, 9)).contours[0], 0.01);
    QCOMPARE(square.size(), std::size_t{4});
    QVERIFY(std::all_of(square.begin(), square.end(),
                        [](const ViewPiece& p) { return std::holds_alternative<LineStretch>(p); }));
    // A cusp, handles of no length, and an S are borne.
    for (const char* path :
         {"M0 0C30 20 -10 20 20 0", "M0 0C0 0 20 10 20 10", "M0 0C40 0 -20 20 20 20", "M0 0C0 0 0 0 0 0"})
      for (const Contour& c : drawn(path).contours)
        QVERIFY(as_arcs(c, 0.01).size() < 500);
  }
};

QTEST_APPLESS_MAIN(TestFewNodes)
#include "test_few_nodes.moc"
