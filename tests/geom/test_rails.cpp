// Rails against closed forms and dense maps; the named cases with their node counts.
#include "geom/net.h"
#include "geom/rails.h"

#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"
#include "support/warp_case.h"

#include <QTest>
#include <cstdio>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double bound = 0.005; // mm, docs/accuracy.md

Curve curve(const char* data) {
  return *parse_curve(data);
}
std::vector<Ring> dense_image(const Outline& outline, const WarpMap& map, int places) {
  std::vector<Ring> rings;
  for (const Contour& c : outline.contours) {
    Ring ring;
    for (const Segment& s : c.segments)
      for (int i = 0; i < places; ++i)
        ring.push_back(map.at(s.at(static_cast<double>(i) / places)).point);
    rings.push_back(std::move(ring));
  }
  return rings;
}

} // namespace

class TestRails : public QObject {
  Q_OBJECT

private slots:
  void concentric_arcs_are_the_polar_map() {
    // Source 0 … 100 x 0 … 20 between arcs of r 80 and r 60 about (0, 0), from −1 to 1 radian about the top.
    const auto arc = [](double r) { return Curve({ArcPiece{{}, r, r, 0, -pi / 2 - 1, 2}}); };
    const auto map = rails_map({0, 0, 100, 20}, {arc(80), arc(60)});
    QVERIFY(map.ok());
    auto random = random_source(4);
    for (int i = 0; i < 200; ++i) {
      const Point p{uniform(random, 0, 100), uniform(random, 0, 20)};
      const double a = p.x / 50 - 1, r = 80 - p.y;
      const WarpPlace w = map->at(p);
      QVERIFY(distance(w.point, {r * std::sin(a), -r * std::cos(a)}) < 1e-6);
      QVERIFY(distance(w.dx, Vec{std::cos(a), std::sin(a)} * (r / 50)) < 1e-6);
      QVERIFY(distance(w.dy, {-std::sin(a), std::cos(a)}) < 1e-6);
    }
  }
  void straight_rails_are_the_identity_or_a_scale() {
    const Outline source = straight_word("Rag&8", {"Lato", "Regular"}, 40);
    const Box b = source.bounds();
    for (const Verticals v : {Verticals::Follow, Verticals::Kept}) {
      const auto map =
          rails_map(b, {Curve::line({b.x0, b.y0}, {b.x1, b.y0}), Curve::line({b.x0, b.y1}, {b.x1, b.y1}), v});
      const auto got = warp(source, *map);
      QCOMPARE(got->report.nodes_out, source.node_count());
      QVERIFY(boundary_distance(rings_of(got->outline, 1e-3), rings_of(source, 1e-3)) < 1e-6);
    }
  }
  void kept_verticals_stay_upright() {
    const auto map = rails_map(
        {0, 0, 100, 20}, {curve("M0 0C30 -20 60 20 100 0"), curve("M-10 40C40 60 60 30 110 40"), Verticals::Kept});
    QVERIFY(map.ok());
    for (const double x : {5.0, 33.0, 50.0, 97.0}) {
      QVERIFY(std::abs(map->at({x, 3}).point.x - map->at({x, 17}).point.x) < 1e-9);
      QCOMPARE(map->at({x, 3}).dy.x, 0.0);
      // The Jacobian against a difference quotient.
      const Vec step = (map->at({x + 1e-4, 9}).point - map->at({x - 1e-4, 9}).point) / 2e-4;
      QVERIFY(distance(step, map->at({x, 9}).dx) < 1e-5);
    }
  }
  void jacobians_match_difference_quotients() {
    const auto map = rails_map({0, 0, 100, 20}, {curve("M0 0C30 -50 60 20 100 0"), curve("M0 40C40 90 60 30 100 40")});
    for (const double x : {5.0, 33.0, 50.0, 97.0}) {
      const Vec along = (map->at({x + 1e-4, 9}).point - map->at({x - 1e-4, 9}).point) / 2e-4;
      const Vec down = (map->at({x, 9.0001}).point - map->at({x, 8.9999}).point) / 2e-4;
      QVERIFY(distance(along, map->at({x, 9}).dx) < 1e-4);
      QVERIFY(distance(down, map->at({x, 9}).dy) < 1e-6);
    }
  }

  void the_named_cases_keep_bound_and_nodes() {
    double worst = 0, share = 0;
    std::vector<WarpCase> cases = warp_cases();
    if (sanitized)
      cases.erase(cases.begin() + 1, cases.begin() + 7);
    for (const WarpCase& c : cases) {
      const auto got = warp(c.letters, c.map);
      QVERIFY(got.ok());
      QCOMPARE(got->report.folds, std::size_t{0});
      std::size_t lines = 0, straight = 0;
      for (const Contour& k : c.letters.contours)
        for (const Segment& s : k.segments)
          lines += s.is_line() ? 1 : 0;
      for (const Contour& k : got->outline.contours)
        for (const Segment& s : k.segments)
          straight += s.is_line() ? 1 : 0;
      const std::size_t bent = lines > straight ? lines - straight : 0;
      const double off = boundary_distance(rings_of(got->outline, 2e-4), dense_image(c.letters, c.map, 240));
      const double nodes = static_cast<double>(got->report.nodes_out),
                   source = static_cast<double>(got->report.nodes_in);
      worst = std::max(worst, off), share = std::max(share, (nodes - static_cast<double>(bent)) / source);
      std::printf("warp case %s: %.0f -> %.0f nodes, %zu bent lines, %.4f mm\n", c.name.c_str(), source, nodes, bent,
                  off);
      QVERIFY2(off <= bound, fmt::format("{}: {}", c.name, off).c_str());
      QVERIFY2(nodes <= 1.02 * source + static_cast<double>(bent), c.name.c_str());
    }
    std::printf("warp cases: worst %.4f mm, nodes less bent lines at most %.3f of the source\n", worst, share);
  }

  void a_rail_with_a_corner_breaks_the_outline_exactly_there() {
    const Outline bar = *parse_outline("M0 0H100V10H0Z");
    const auto map =
        rails_map(bar.bounds(), {curve("M0 0L50 -20L100 0"), curve("M0 10L50 -10L100 10"), Verticals::Kept});
    QCOMPARE(map->breaks.size(), std::size_t{1});
    const auto got = warp(bar, *map);
    QCOMPARE(got->report.nodes_out, std::size_t{6});
    QVERIFY(boundary_distance(rings_of(got->outline, 1e-4),
                              {{{0, 0}, {50, -20}, {100, 0}, {100, 10}, {50, -10}, {0, 10}}}) < 1e-6);
  }

  void strokes_are_measured() {
    // Twice as wide, half as high.
    const Outline bar = *parse_outline("M0 0H100V10H0Z");
    const auto map = rails_map(bar.bounds(), {Curve::line({0, 0}, {200, 0}), Curve::line({0, 5}, {200, 5})});
    const WarpStretch s = stretch_of(bar, *map);
    QVERIFY(std::abs(s.narrowest - 0.5) < 1e-9 && std::abs(s.widest - 2) < 1e-9 && s.steepest_shear < 1e-9);
    // Sheared by 45 degrees.
    const auto slanted = rails_map(bar.bounds(), {Curve::line({10, 0}, {110, 0}), Curve::line({0, 10}, {100, 10})});
    QVERIFY(std::abs(stretch_of(bar, *slanted).steepest_shear - pi / 4) < 1e-9);
  }

  void a_net_gives_affine_maps_back() {
    const Box box{10, 20, 110, 60};
    const Affine m{1.2, 0.3, -0.4, 0.8, 11, -5};
    const WarpMap affine{[m](Point q) { return WarpPlace{m(q), m.linear({1, 0}), m.linear({0, 1})}; }, {}};
    const auto map = net_map(box, net_from(affine, box, even_shares(3), even_shares(2)));
    QVERIFY(map.ok());
    QCOMPARE(map->breaks.size(), std::size_t{2});
    auto random = random_source(6);
    for (int i = 0; i < 100; ++i) {
      const Point p{uniform(random, 10, 110), uniform(random, 20, 60)};
      QVERIFY(distance(map->at(p).point, m(p)) < 1e-9);
      QVERIFY(distance(map->at(p).dx, m.linear({1, 0})) < 1e-9);
    }
    QVERIFY(!net_map(box, {even_shares(2), even_shares(2), {}}).ok());
  }
  void a_finer_net_changes_nothing() {
    // Pulled pegs; then twice as many columns and rows.
    const Box box{0, 0, 90, 40};
    const WarpMap identity{[](Point q) { return WarpPlace{q, {1, 0}, {0, 1}}; }, {}};
    Net net = net_from(identity, box, even_shares(3), even_shares(2));
    net.pegs[5].at += {6, -4};
    net.pegs[6].along = {60, 36};
    net.pegs[9].down = {-6, 50};
    const WarpMap coarse = *net_map(box, net),
                  fine = *net_map(box, net_from(coarse, box, even_shares(6), even_shares(4)));
    auto random = random_source(7);
    for (int i = 0; i < 400; ++i) {
      const Point p{uniform(random, 0, 90), uniform(random, 0, 40)};
      QVERIFY(distance(coarse.at(p).point, fine.at(p).point) < 1e-3);
      const Vec along = (coarse.at({p.x + 1e-4, p.y}).point - coarse.at({p.x - 1e-4, p.y}).point) / 2e-4;
      const Vec down = (coarse.at({p.x, p.y + 1e-4}).point - coarse.at({p.x, p.y - 1e-4}).point) / 2e-4;
      QVERIFY(distance(along, coarse.at(p).dx) < 1e-3 && distance(down, coarse.at(p).dy) < 1e-3);
    }
    // Smooth across columns and rows: the Jacobian doesn't jump.
    for (const Point p : {Point{30, 11}, Point{60, 33}, Point{17, 20}}) {
      QVERIFY(distance(coarse.at({p.x - 1e-7, p.y - 1e-7}).dx, coarse.at({p.x + 1e-7, p.y + 1e-7}).dx) < 1e-5);
      QVERIFY(distance(coarse.at({p.x - 1e-7, p.y - 1e-7}).dy, coarse.at({p.x + 1e-7, p.y + 1e-7}).dy) < 1e-5);
    }
    const Outline bar = *parse_outline("M0 0H90V40H0Z");
    const auto got = warp(bar, coarse);
    QVERIFY(boundary_distance(rings_of(got->outline, 1e-4), dense_image(bar, coarse, 4000)) < 0.005);
  }

  void bad_rails_are_named() {
    const Box box{0, 0, 100, 20};
    QVERIFY(!rails_map({}, {curve("M0 0H10"), curve("M0 9H10")}).ok());
    const auto back = rails_map(box, {curve("M0 0C80 0 20 -30 60 -30"), curve("M0 9H60"), Verticals::Kept});
    QVERIFY(!back.ok());
    QVERIFY(back.error().where().find("top rail") != std::string::npos);
    QVERIFY(!rails_map(box, {curve("M0 0H10"), curve("M20 9H30"), Verticals::Kept}).ok());
  }
};

QTEST_APPLESS_MAIN(TestRails)
#include "test_rails.moc"
