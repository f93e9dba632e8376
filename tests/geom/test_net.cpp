// Nets of pegs: what a line more or less does, pulls, straight and even lines.
#include "geom/net.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

const Box box{0, 0, 90, 40};
const WarpMap standing{[](Point q) { return WarpPlace{q, {1, 0}, {0, 1}}; }, {}, {}};

// The largest difference of two nets as maps.
double apart(const Net& a, const Net& b) {
  const WarpMap x = *displaced(standing, box, a), y = *displaced(standing, box, b);
  double most = 0;
  for (int i = 0; i <= 90; ++i)
    for (int j = 0; j <= 40; ++j)
      most = std::max(most, distance(x.at({i * 1.0, j * 1.0}).point, y.at({i * 1.0, j * 1.0}).point));
  return most;
}
Net random_net(std::uint64_t seed, std::size_t columns, std::size_t rows) {
  auto random = random_source(seed);
  Net net = flat_net(columns, rows);
  for (NetPeg& p : net.pegs) {
    for (Vec* v : {&p.at, &p.along, &p.down, &p.twist})
      *v = {uniform(random, -4, 4), uniform(random, -4, 4)};
  }
  return net;
}

} // namespace

class TestNet : public QObject {
  Q_OBJECT

private slots:
  void a_line_more_changes_nothing() {
    const Net net = random_net(11, 3, 2);
    Net finer = net;
    for (const double share : {0.5, 0.1, 0.9, 0.1001})
      finer = with_line(with_line(finer, NetLine::Column, share), NetLine::Row, share);
    QCOMPARE(finer.columns.size(), std::size_t{8});
    QVERIFY2(apart(net, finer) < 1e-9, qPrintable(QString::number(apart(net, finer))));
    QVERIFY(with_line(net, NetLine::Column, 1.0 / 3) == net); // one is there already
    QVERIFY(with_line(net, NetLine::Column, 0) == net);
    QCOMPARE(widest_middle(flat_net(2, 1), NetLine::Row), 0.5);
    QCOMPARE(widest_middle(with_line(flat_net(1, 1), NetLine::Column, 0.4), NetLine::Column), 0.7);
  }
  void a_line_less_takes_the_nearest() {
    // A line that says nothing of its own goes without a change.
    const Net net = random_net(12, 2, 2);
    const Net finer = with_line(net, NetLine::Column, 0.3);
    const auto less = without_line(finer, NetLine::Column);
    QVERIFY(less.has_value());
    QCOMPARE(less->line, std::size_t{1});
    QVERIFY2(less->largest < 1e-6, qPrintable(QString::number(less->largest)));
    QVERIFY(apart(less->net, net) < 1e-6);
    // One that does changes something, and says how much.
    const auto harder = without_line(random_net(13, 4, 2), NetLine::Row);
    QVERIFY(harder->largest > 0.1);
    QVERIFY(std::abs(harder->largest - apart(random_net(13, 4, 2), harder->net)) < 0.3);
    QVERIFY(!without_line(flat_net(1, 1), NetLine::Column));
  }
  void inner_pegs_follow_the_sides_until_touched() {
    const Net flat = flat_net(2, 2);
    const Net up = pulled(flat, {{1, {0, -8}}}); // middle of the top edge
    QCOMPARE(up.pegs[1].at, (Point{0, -8}));
    QVERIFY(distance(up.pegs[4].at, {0, -4}) < 1e-12); // halfway between the sides
    QCOMPARE(up.pegs[7].at, Point{});
    QVERIFY(!up.pegs[4].touched);
    const Net touched = pulled(flat, {{4, {3, 0}}});
    QVERIFY(touched.pegs[4].touched);
    QVERIFY(distance(pulled(touched, {{1, {0, -8}}}).pegs[4].at, {3, 0}) < 1e-12);
  }
  void pulls_add_up_and_stay_smooth() {
    const Net flat = flat_net(3, 2);
    const Net both = pulled(pulled(flat, {{1, {0, -8}}}), {{2, {5, 3}}});
    QVERIFY(apart(both, pulled(flat, {{1, {0, -8}}, {2, {5, 3}}})) < 1e-9);
    QVERIFY(apart(pulled(both, {{1, {0, 8}}, {2, {-5, -3}}}), flat) < 1e-9); // and back
    const WarpMap map = *displaced(standing, box, both);
    for (const Point p : {Point{30, 11}, Point{60, 33}, Point{17, 20}})
      QVERIFY(distance(map.at({p.x - 1e-7, p.y - 1e-7}).dx, map.at({p.x + 1e-7, p.y + 1e-7}).dx) < 1e-5);
    QCOMPARE(map.level_breaks.size(), std::size_t{1});
    // A pull of all pegs alike moves the block.
    std::vector<NetPull> all;
    for (std::size_t i = 0; i < flat.pegs.size(); ++i)
      all.push_back({i, {2, 7}});
    QVERIFY(distance(displaced(standing, box, pulled(flat, all))->at({12, 34}).point, {14, 41}) < 1e-9);
  }
  void mirrored_pegs_stand_on_the_other_side() {
    const Net net = flat_net(3, 1);
    QCOMPARE(mirrored_peg(net, 0), std::optional<std::size_t>(3));
    QCOMPARE(mirrored_peg(net, 5), std::optional<std::size_t>(6));
    QVERIFY(!mirrored_peg(with_line(net, NetLine::Column, 0.2), 1));
  }
  void lines_are_straightened_and_evened_out() {
    const Net bent = pulled(flat_net(3, 1), {{1, {9, -9}}, {2, {0, 6}}, {3, {0, -5}}});
    const auto map = [](const Net& n) { return *displaced(standing, box, n); };
    QVERIFY(bend_of_line(map(bent), box, bent, NetLine::Row, 0) > 3);
    const Net straight = straightened(bent, standing, box, NetLine::Row, 0);
    QVERIFY(bend_of_line(map(straight), box, straight, NetLine::Row, 0) < 1e-9);
    QVERIFY(distance(straight.pegs[0].at, bent.pegs[0].at) < 1e-9 &&
            distance(straight.pegs[3].at, bent.pegs[3].at) < 1e-9);
    const Net even = evened_out(straight, standing, box, NetLine::Row, 0);
    const Point a{even.pegs[0].at}, b = Point{90, 0} + even.pegs[3].at;
    for (std::size_t i = 1; i < 3; ++i)
      QVERIFY(distance(Point{30.0 * static_cast<double>(i), 0} + even.pegs[i].at,
                       lerp(a, b, static_cast<double>(i) / 3)) < 1e-9);
    // A column too.
    const Net sideways = pulled(flat_net(2, 2), {{4, {7, 0}}});
    const Net upright = straightened(sideways, standing, box, NetLine::Column, 1);
    QVERIFY(bend_of_line(map(upright), box, upright, NetLine::Column, 1) < 1e-9);
  }
  void nets_that_make_no_sense_are_refused() {
    Net net = flat_net(2, 1);
    net.columns[1] = 1.5;
    QVERIFY(!net_map(box, net).ok());
    QVERIFY(!net_map({}, flat_net(1, 1)).ok());
    net = flat_net(2, 1);
    net.pegs[2].at.x = std::numeric_limits<double>::quiet_NaN();
    QVERIFY(!displaced(standing, box, net).ok());
  }
};

QTEST_APPLESS_MAIN(TestNet)
#include "test_net.moc"
