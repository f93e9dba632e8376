#include "geom/nodes.h"

#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Outline path(const char* data) {
  return *parse_outline(data);
}
const char* const blob = "M0 0C0 -30 60 -30 60 0S0 30 0 0Z";
const char* const open_wave = "M0 0C20 -40 50 40 80 0S120 -30 140 0L180 10";

double change(const Outline& a, const Outline& b) {
  return boundary_distance(rings_of(a, 1e-4), rings_of(b, 1e-4));
}
std::string joints_fault(const Outline& o) {
  for (const Contour& c : o.contours)
    for (std::size_t i = 1; i < c.segments.size(); ++i)
      if (!(c.segments[i].p0 == c.segments[i - 1].p3))
        return "segments do not join";
  Outline closed;
  for (const Contour& c : o.contours)
    if (c.closed)
      closed.contours.push_back(c);
  return closed_fault(closed);
}

} // namespace

class TestNodes : public QObject {
  Q_OBJECT

private slots:
  void one_line_between_two_nodes_data() {
    QTest::addColumn<QString>("data");
    QTest::addColumn<int>("a");
    QTest::addColumn<int>("b");
    QTest::addColumn<int>("nodes");
    QTest::addColumn<double>("length");
    QTest::newRow("open, in the middle") << "M0 0H10V10H20V0" << 1 << 3 << 4 << 20 + std::hypot(10, 10);
    QTest::newRow("open, other order") << "M0 0H10V10H20V0" << 3 << 1 << 4 << 20 + std::hypot(10, 10);
    QTest::newRow("open, all of it") << "M0 0H10V10H20V0" << 0 << 4 << 2 << 20.0;
    QTest::newRow("closed, the shorter way")
        << "M0 0H30V10H20V20H0Z" << 1 << 3 << 5 << 80 - 20 + std::hypot(10, 10) + 20.0;
    QTest::newRow("closed, over the start") << "M20 20H0V0H30V10H20Z" << 3 << 0 << 4 << 70.0 + std::hypot(10, 20);
    QTest::newRow("the same node") << "M0 0H10V10H20V0" << 2 << 2 << 5 << 40.0;
    QTest::newRow("no such node") << "M0 0H10V10H20V0" << 2 << 9 << 5 << 40.0;
  }
  void one_line_between_two_nodes() {
    QFETCH(QString, data);
    QFETCH(int, a);
    QFETCH(int, b);
    QFETCH(int, nodes);
    QFETCH(double, length);
    const Outline got = one_line(*parse_outline(data.toStdString()), {0, static_cast<std::size_t>(a)},
                                 {0, static_cast<std::size_t>(b)});
    QCOMPARE(static_cast<int>(node_count(got.contours.at(0))), nodes);
    QVERIFY2(std::abs(got.length() - length) < 1e-9, qPrintable(QString::number(got.length())));
    const Contour& c = got.contours.at(0);
    for (std::size_t i = 1; i < c.segments.size(); ++i)
      QVERIFY(c.segments[i].p0 == c.segments[i - 1].p3);
    QVERIFY(!c.closed || c.segments.back().p3 == c.segments.front().p0);
  }

  void adding_leaves_the_shape_exactly_as_it_is_data() {
    QTest::addColumn<QString>("data");
    QTest::newRow("closed-curve") << blob;
    QTest::newRow("open-with-line") << open_wave;
    QTest::newRow("square") << "M0 0H40V40H0Z";
  }
  void adding_leaves_the_shape_exactly_as_it_is() {
    QFETCH(QString, data);
    const Outline before = path(qPrintable(data));
    for (std::size_t s = 0; s < before.contours[0].segments.size(); ++s)
      for (const double t : {0.1, 0.5, 0.83}) {
        const Outline after = add_node(before, 0, s, t);
        QCOMPARE(after.node_count(), before.node_count() + 1);
        for (int i = 0; i <= 100; ++i) { // every old place is a place of the new outline
          const Point p = before.contours[0].segments[s].at(i / 100.0);
          QVERIFY(nearest_on(after, p)->distance < 1e-6);
        }
        QVERIFY(distance(node_point(after.contours[0], s + 1), before.contours[0].segments[s].at(t)) < 1e-12);
        // Taken away again: the curve as it was.
        const double off = change(delete_nodes(after, {{0, s + 1}}), before);
        QVERIFY2(off < 1e-3, qPrintable(QString("segment %1 at %2: %3 mm").arg(s).arg(t).arg(off)));
      }
  }

  void deleting_keeps_the_shape_as_near_as_it_can() {
    // A circle of eight nodes keeps within a thousandth of its radius with every other one gone.
    Outline eight{{circle_contour({0, 0}, 50)}};
    while (eight.contours[0].segments.size() < 8)
      for (std::size_t i = eight.contours[0].segments.size(); i-- > 0;)
        eight = add_node(eight, 0, i, 0.5);
    std::vector<NodeAt> odd;
    for (std::size_t i = 1; i < eight.contours[0].segments.size(); i += 2)
      odd.push_back({0, i});
    const Outline four = delete_nodes(eight, odd);
    QCOMPARE(four.contours[0].segments.size(), eight.contours[0].segments.size() - odd.size());
    QVERIFY2(change(four, eight) < 0.05, qPrintable(QString::number(change(four, eight))));
    QCOMPARE(corner_count(four, 1), std::size_t{0});
  }

  void deleting_ends_and_too_many_leaves_whole_contours() {
    const Outline wave = path(open_wave);
    const Outline shorter = delete_nodes(wave, {{0, 0}});
    QCOMPARE(shorter.contours[0].segments.size(), std::size_t{2});
    QCOMPARE(shorter.contours[0].segments[0].p0, Point({80, 0}));
    QVERIFY(delete_nodes(wave, {{0, 0}, {0, 1}, {0, 2}, {0, 3}}).empty());
    const Outline two = path("M0 0H40V40ZM100 0H140V40Z");
    QCOMPARE(delete_nodes(two, {{0, 0}, {0, 1}, {0, 2}}).contours.size(), std::size_t{1});
    QVERIFY(delete_nodes(two, {{7, 0}, {0, 9}}) == two);
  }

  void moving_takes_the_handles_along_and_lines_stay_lines() {
    const Outline before = path(open_wave);
    const Outline after = move_nodes(before, {{0, 1}, {0, 2}}, {3, -4});
    const auto &a = before.contours[0].segments, &b = after.contours[0].segments;
    QCOMPARE(b[0].p0, a[0].p0);
    QCOMPARE(b[0].p1, a[0].p1);
    QCOMPARE(b[0].p2, a[0].p2 + Vec({3, -4}));
    QCOMPARE(b[1].p0, a[1].p0 + Vec({3, -4}));
    QCOMPARE(b[1].p3, a[1].p3 + Vec({3, -4}));
    QVERIFY(b[2].is_line() && b[2] == Segment::line(a[2].p0 + Vec{3, -4}, a[2].p3));
    QVERIFY(joints_fault(after).empty());
    const Outline ring = move_nodes(path(blob), {{0, 0}}, {5, 5}); // where a closed contour begins and ends
    QVERIFY2(joints_fault(ring).empty(), joints_fault(ring).c_str());
  }

  void handles_of_smooth_and_even_nodes_move_together() {
    const Outline before = path(open_wave);
    QCOMPARE(node_kind(before.contours[0], 1), NodeKind::Even); // S mirrors the handle
    Outline even = move_handle(before, {0, 1}, HandleSide::Out, {95, -25});
    const Point node = node_point(even.contours[0], 1), out = *node_handle(even.contours[0], 1, HandleSide::Out),
                in = *node_handle(even.contours[0], 1, HandleSide::In);
    QCOMPARE(out, Point({95, -25}));
    QVERIFY(distance(in, node - (out - node)) < 1e-9);
    const Outline corner = set_node_kind(before, {0, 1}, NodeKind::Corner);
    QCOMPARE(node_kind(corner.contours[0], 1), NodeKind::Corner);
    QVERIFY(change(corner, before) < 0.3);
    const Outline pulled = move_handle(corner, {0, 1}, HandleSide::Out, {95, -25});
    QCOMPARE(*node_handle(pulled.contours[0], 1, HandleSide::In), *node_handle(corner.contours[0], 1, HandleSide::In));
  }

  void kinds_are_what_they_are_set_to_data() {
    QTest::addColumn<QString>("data");
    QTest::addColumn<int>("node");
    QTest::newRow("curves") << open_wave << 1;
    QTest::newRow("curve-and-line") << open_wave << 2;
    QTest::newRow("lines") << "M0 0H40V40H0Z" << 1;
    QTest::newRow("start-of-a-ring") << blob << 0;
  }
  void kinds_are_what_they_are_set_to() {
    QFETCH(QString, data);
    QFETCH(int, node);
    for (const NodeKind kind : {NodeKind::Smooth, NodeKind::Even, NodeKind::Corner, NodeKind::Smooth}) {
      const Outline got = set_node_kind(path(qPrintable(data)), {0, static_cast<std::size_t>(node)}, kind);
      const NodeKind is = node_kind(got.contours[0], static_cast<std::size_t>(node));
      QVERIFY(is == kind || (kind == NodeKind::Smooth && is == NodeKind::Even));
      QVERIFY(joints_fault(got).empty());
    }
  }

  void segments_become_straight_and_curved() {
    const Outline wave = path(open_wave);
    const Outline straight = set_straight(wave, {{0, 0}});
    QVERIFY(straight.contours[0].segments[0] == Segment::line({0, 0}, {80, 0}));
    const Outline curved = set_curved(straight, {{0, 0}});
    QVERIFY(!curved.contours[0].segments[0].is_line());
    QVERIFY(change(curved, straight) < 1e-9);
  }

  void rings_open_and_open_lines_fall_into_two() {
    const Outline ring = path("M0 0H40V40H0Z");
    const Outline opened = break_at(ring, {0, 2});
    QVERIFY(!opened.contours[0].closed);
    QCOMPARE(opened.contours[0].segments.front().p0, Point({40, 40}));
    QCOMPARE(opened.contours[0].segments.back().p3, Point({40, 40}));
    const Outline two = break_at(path(open_wave), {0, 1});
    QCOMPARE(two.contours.size(), std::size_t{2});
    QCOMPARE(two.contours[1].segments.front().p0, Point({80, 0}));
    // Joined again: the same line.
    const Outline whole = join_ends(two, {0, 1}, {1, 0});
    QCOMPARE(whole.contours.size(), std::size_t{1});
    QVERIFY(whole.contours[0].segments == path(open_wave).contours[0].segments);
    QVERIFY(break_at(path(open_wave), {0, 0}) == path(open_wave)); // an end is broken already
  }

  void ends_meet_halfway_and_contours_run_on_whichever_ends_they_are_data() {
    QTest::addColumn<int>("a");
    QTest::addColumn<int>("b");
    QTest::newRow("end-to-start") << 1 << 0;
    QTest::newRow("start-to-start") << 0 << 0;
    QTest::newRow("end-to-end") << 1 << 1;
    QTest::newRow("start-to-end") << 0 << 1;
  }
  void ends_meet_halfway_and_contours_run_on_whichever_ends_they_are() {
    QFETCH(int, a);
    QFETCH(int, b);
    const Outline two = path("M0 0L40 0M50 10L90 10");
    const NodeAt first{0, static_cast<std::size_t>(a)}, second{1, static_cast<std::size_t>(b)};
    const Point middle = lerp(node_point(two.contours[0], first.node), node_point(two.contours[1], second.node), 0.5);
    const Outline one = join_ends(two, first, second);
    QCOMPARE(one.contours.size(), std::size_t{1});
    QCOMPARE(one.contours[0].segments.size(), std::size_t{2});
    QVERIFY(joints_fault(one).empty());
    QVERIFY(distance(node_point(one.contours[0], 1), middle) < 1e-12);
  }

  void closing_reversing_and_starting_elsewhere() {
    const Outline closed = close_contour(path(open_wave), 0);
    QVERIFY(closed.contours[0].closed && closed_fault(closed).empty());
    QCOMPARE(closed.contours[0].segments.size(), std::size_t{4});
    const Outline itself = join_ends(path(open_wave), {0, 0}, {0, 3});
    QVERIFY(itself.contours[0].closed);
    QCOMPARE(itself.contours[0].segments.size(), std::size_t{3});
    const Outline back = reverse_contour(path(open_wave), 0);
    QCOMPARE(back.contours[0].segments.front().p0, Point({180, 10}));
    QVERIFY(reverse_contour(back, 0) == path(open_wave));
    const Outline started = set_start(path("M0 0H40V40H0Z"), {0, 2});
    QCOMPARE(started.contours[0].segments.front().p0, Point({40, 40}));
    QVERIFY(closed_fault(started).empty());
  }

  void the_nearest_place_is_found() {
    const Outline o = path("M0 0H40V40H0ZM100 0C130 0 130 40 100 40Z");
    const auto near = nearest_on(o, {20, -3});
    QCOMPARE(near->contour, std::size_t{0});
    QCOMPARE(near->segment, std::size_t{0});
    QVERIFY(distance(near->point, {20, 0}) < 1e-6 && std::abs(near->t - 0.5) < 1e-6);
    QCOMPARE(nearest_on(o, {130, 20})->contour, std::size_t{1});
    QVERIFY(!nearest_on({}, {0, 0}));
  }

  void nothing_named_changes_nothing() {
    const Outline o = path(blob);
    QVERIFY(add_node(o, 3, 0, 0.5) == o);
    QVERIFY(move_nodes(o, {{0, 9}}, {1, 1}) == o);
    QVERIFY(move_handle(o, {4, 0}, HandleSide::In, {1, 1}) == o);
    QVERIFY(set_node_kind(o, {0, 9}, NodeKind::Smooth) == o);
    QVERIFY(break_at(o, {1, 0}) == o);
    QVERIFY(join_ends(o, {0, 0}, {0, 1}) == o); // closed already
    QVERIFY(close_contour(o, 2) == o && reverse_contour(o, 2) == o && set_start(o, {0, 9}) == o);
  }
};

QTEST_APPLESS_MAIN(TestNodes)
#include "test_nodes.moc"
