// How machines move: the blade's tip on the outline, half the kerf beside it, leads that touch nothing that stays.
#include "cutting/check.h"
#include "cutting/cut_time.h"
#include "cutting/dragged_blade.h"
#include "cutting/driven.h"
#include "document/edits.h"
#include "document/material.h"
#include "geom/along.h"
#include "geom/offset.h"
#include "support/compare.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

CutPlan plan_of(const Outline& outline, std::vector<Material> materials = {}, Box frame = {0, 0, 400, 300}) {
  CutSheet sheet{frame, {}};
  sheet.pieces.push_back({1, "", {}, Destination::Knife, outline});
  return cut_plan(std::move(sheet), materials);
}
std::vector<Material> with_tool(const CutTool& tool) {
  Material m;
  m.tool = tool;
  return {m};
}
std::vector<Point> line_of(const CutPlan& plan, std::size_t path) {
  const CutPath& p = plan.order[path];
  const Contour& c = plan.sheet.pieces[p.piece].outline.contours[p.contour];
  std::vector<Point> out = flatten(c, 0.001);
  if (c.closed)
    out.push_back(out.front());
  return out;
}
// The tip pulled along behind the axis in steps of a hundredth of its distance: Euler's method on the tractrix, not the
// closed form of the core.
std::vector<Point> pulled_tip(const std::vector<Point>& axis, Point tip, double distance_kept) {
  std::vector<Point> out{tip};
  for (std::size_t i = 1; i < axis.size(); ++i) {
    const double l = distance(axis[i - 1], axis[i]);
    const int steps = std::max(1, static_cast<int>(l / (distance_kept / 100)));
    for (int k = 1; k <= steps; ++k) {
      const Point a = lerp(axis[i - 1], axis[i], double(k) / steps);
      tip = a - unit(a - tip) * distance_kept;
      if (k % 5 == 0 || k == steps)
        out.push_back(tip);
    }
  }
  return out;
}
double farthest_from(const std::vector<Point>& places, const std::vector<Point>& line, Point* where = nullptr) {
  double worst = 0;
  std::size_t beside = 0; // the chord that the place before was nearest to: neighbours are looked at first
  for (const Point p : places) {
    double best = 1e9;
    const std::size_t chords = line.size() - 1, from = beside;
    for (std::size_t k = 0; k < chords && best > worst; ++k) { // nearer than the worst it does not count
      const std::size_t i = (from + k) % chords;
      if (const double d = distance_to_chord(line[i], line[i + 1], p); d < best)
        best = d, beside = i;
    }
    if (best > worst && where != nullptr)
      *where = p;
    worst = std::max(worst, best);
  }
  return worst;
}

} // namespace

class TestDriven : public QObject {
  Q_OBJECT

private slots:
  void the_tip_follows_the_letters_data() {
    QTest::addColumn<QString>("family");
    QTest::addColumn<QString>("style");
    for (const auto& [family, style] :
         {std::pair{"Dancing Script", "Bold"}, {"Lobster Two", "Bold"}, {"Roboto Slab", "Bold"}})
      QTest::newRow(family) << family << style;
  }
  void the_tip_follows_the_letters() { // within 0.02 mm, a blade of 0.25 mm
    QFETCH(QString, family);
    QFETCH(QString, style);
    const std::vector<Material> blade = with_tool({.tip = 0.25, .swivel = 20, .overcut = 0.5});
    const CutPlan plan = plan_of(straight_word("Rag & 8%", {family.toStdString(), style.toStdString()}, 40), blade);
    QVERIFY(plan.order.size() >= 8);
    const auto drive = driven(plan, blade);
    QVERIFY(drive && drive->plan.order.size() == plan.order.size() && drive->gone.empty());
    Vec heading{1, 0};
    for (std::size_t i = 0; i < drive->plan.order.size(); ++i) {
      QCOMPARE(drive->of[i], i);
      const std::vector<Point> line = line_of(plan, i), axis = line_of(drive->plan, i);
      const std::vector<Point> tip = pulled_tip(axis, axis.front() - heading * 0.25, 0.25);
      Point where;
      const double off = farthest_from(tip, line, &where), missed = farthest_from(line, tip);
      QVERIFY2(off <= 0.02 && missed <= 0.02,
               fmt::format("path {}: {} off at {} {}, {} missed", i, off, where.x, where.y, missed).c_str());
      // The core's own tip is the same.
      QVERIFY(farthest_from(dragged_tip(axis, 0.25, drive->heading[i]), tip) < 0.005);
      heading = unit(axis.back() - tip.back());
    }
  }
  void without_its_own_way_a_dragged_blade_cuts_corners() { // what all this is for
    const std::vector<Point> square{{0, 0}, {20, 0}, {20, 20}, {0, 20}, {0, 0}};
    QVERIFY(farthest_from(square, pulled_tip(square, {-0.25, 0}, 0.25)) > 0.1);
  }
  void around_a_corner_the_tip_stands() {
    const auto drive = driven(plan_of(drawn("M10 10H50V40")), with_tool({.tip = 1}));
    QCOMPARE(drive->plan.order.size(), std::size_t{1});
    std::size_t on_arc = 0;
    for (const Point p : line_of(drive->plan, 0))
      on_arc += std::abs(distance(p, {50, 10}) - 1) < 1e-9 ? 1 : 0;
    QVERIFY(on_arc >= 9); // 90° in steps of 10°
    const std::vector<Point> line = line_of(drive->plan, 0);
    QVERIFY(distance(line.back(), {9, 10}) < 1e-9); // begun at the end that is nearer to the corner of the sheet
    // A turn under the angle is not gone around.
    const auto straight = driven(plan_of(drawn("M10 10H50L90 20")), with_tool({.tip = 1, .swivel = 30}));
    QVERIFY(line_of(straight->plan, 0).size() <= 6 + 18); // the beginning may be turned to
  }
  void overcut_and_passes() {
    const Outline square = drawn(box(100, 100, 20, 20));
    for (const auto& [overcut, passes] : {std::pair{0.0, 1}, {3.0, 1}, {0.0, 3}, {5.0, 2}}) {
      const auto drive = driven(plan_of(square), with_tool({.overcut = overcut, .passes = passes}));
      const CutTime time = cut_time(drive->plan, {});
      QVERIFY2(std::abs(time.cut - (80.0 * passes + overcut)) < 1e-6, fmt::format("{}", time.cut).c_str());
    }
    // Back and forth over an open line.
    const auto drive = driven(plan_of(drawn("M10 10H50")), with_tool({.passes = 2}));
    QVERIFY(distance(line_of(drive->plan, 0).front(), line_of(drive->plan, 0).back()) < 1e-9);
  }

  void half_the_kerf_lies_beside_what_stays_data() {
    QTest::addColumn<QString>("path");
    QTest::newRow("a ring") << disc(100, 100, 40) + disc(100, 100, 20, true);
    QTest::newRow("a star") << "M100 20L118 70L170 72L129 104L144 154L100 125L56 154L71 104L30 72L82 70Z";
    QTest::newRow("a heart") << "M100 160C20 100 40 40 80 40C95 40 100 55 100 60C100 55 105 40 120 40C160 40 180 100 "
                                "100 160Z";
    QTest::newRow("in a ring a disc") << disc(100, 100, 40) + disc(100, 100, 20, true) + disc(100, 100, 9);
  }
  void half_the_kerf_lies_beside_what_stays() { // within 0.01 mm of the offset of the whole
    QFETCH(QString, path);
    for (const double kerf : {0.2, 1.5, 4.0}) {
      const CutPlan plan = plan_of(drawn(path));
      const auto drive = driven(plan, with_tool({.kerf = kerf}));
      QVERIFY(drive && drive->gone.empty());
      Outline ours;
      for (std::size_t i = 0; i < drive->plan.order.size(); ++i) {
        Contour c{{}, true};
        const std::vector<Point> line = line_of(drive->plan, i);
        for (std::size_t k = 1; k < line.size(); ++k)
          c.segments.push_back(Segment::line(line[k - 1], line[k]));
        ours.contours.push_back(c);
      }
      const auto whole = offset(drawn(path), kerf / 2, {.tolerance = 0.001});
      const double off = boundary_distance(rings_of(ours, 0.001), rings_of(whole->rings.front(), 0.001));
      QVERIFY2(off <= 0.01, fmt::format("{} at {}", off, kerf).c_str());
    }
  }
  void what_is_lost_in_the_kerf_is_told() {
    const auto drive = driven(plan_of(drawn(box(10, 10, 80, 80) + disc(50, 50, 0.9, true))), with_tool({.kerf = 2}));
    QCOMPARE(drive->gone.size(), std::size_t{1});
    QCOMPARE(drive->plan.order.size(), std::size_t{1});
    QVERIFY(!drive->plan.order.front().inside);
  }

  void a_gap_under_the_kerf_is_told() {
    Document d;
    d.sheet = {300, 200};
    d.materials = {{"Tin", {}}};
    Piece p;
    p.content = OutlinePiece{
        std::make_shared<const Outline>(drawn(box(20, 20, 40, 40) + box(61, 20, 40, 40))), Finish{{}}, nullptr, {}};
    d = add_piece(std::move(d), std::move(p)).document;
    const auto told = [&] {
      const std::vector<Finding> all = check(d, evaluator()).findings;
      return std::any_of(all.begin(), all.end(), [](const Finding& f) { return f.kind == FindingKind::GapsThin; });
    };
    QVERIFY(!told());
    d.materials[0].tool.kerf = 0.8;
    QVERIFY(!told());
    d.materials[0].tool.kerf = 1.2; // the gap is 1 mm
    QVERIFY(told());
  }
  void what_the_kerf_closes_off_gets_its_lead_in_the_waste() {
    // A C with a mouth of 1 mm: its offset by half of 3 mm is closed there, and has a hole.
    const auto closed = driven(plan_of(drawn("M140 99.5A40 40 0 1 0 140 100.5H125A25 25 0 1 1 125 99.5Z")),
                               with_tool({.kerf = 3, .lead = Lead::Line, .lead_length = 4}));
    QCOMPARE(closed->plan.order.size(), std::size_t{2});
    QVERIFY(closed->without_lead.empty());
    for (std::size_t i = 0; i < 2; ++i) {
      const double from_middle = distance(line_of(closed->plan, i).front(), {100, 100});
      QVERIFY2(from_middle < 22 || from_middle > 43, fmt::format("{}", from_middle).c_str());
    }
  }

  void leads_touch_nothing_that_stays_data() {
    QTest::addColumn<int>("lead");
    QTest::addColumn<double>("kerf");
    for (const Lead lead : {Lead::Line, Lead::Arc})
      for (const double kerf : {0.0, 1.0, 3.0})
        QTest::addRow("%s, kerf %g", lead == Lead::Line ? "line" : "arc", kerf) << int(lead) << kerf;
  }
  void leads_touch_nothing_that_stays() { // sheets of rings and boxes, close together
    QFETCH(int, lead);
    QFETCH(double, kerf);
    std::mt19937_64 random = random_source(7);
    std::size_t led = 0, all = 0;
    for (int n = 0; n < (sanitized ? 6 : 20); ++n) {
      Outline sheet;
      std::vector<Box> boxes;
      for (int k = 0; k < 12; ++k) {
        const double x = uniform(random, 20, 320), y = uniform(random, 20, 220), s = uniform(random, 10, 60);
        const Box b{x, y, x + s, y + s};
        if (std::any_of(boxes.begin(), boxes.end(), [&](const Box& o) {
              return Box{o.x0 - kerf - 0.6, o.y0 - kerf - 0.6, o.x1 + kerf + 0.6, o.y1 + kerf + 0.6}.overlaps(b);
            }))
          continue;
        boxes.push_back(b);
        sheet.append(drawn(k % 2 == 0 ? box(x, y, s, s) + box_hole(x + s / 4, y + s / 4, s / 2, s / 2)
                                      : disc(x + s / 2, y + s / 2, s / 2) + disc(x + s / 2, y + s / 2, s / 4, true)));
      }
      const CutPlan plan = plan_of(sheet);
      const auto drive = driven(plan, with_tool({.kerf = kerf, .lead = Lead(lead), .lead_length = 6}));
      QVERIFY(drive);
      all += plan.order.size(), led += plan.order.size() - drive->without_lead.size();
      // All places of the kerf's middle lie outside of what stays, and half the kerf from its edge.
      const std::vector<std::vector<Point>> rings = rings_of(sheet, 0.01);
      for (std::size_t i = 0; i < drive->plan.order.size(); ++i) {
        const std::vector<Point> line = spaced_evenly(line_of(drive->plan, i), 100, false);
        for (const Point p : line) {
          double edge = 1e9;
          for (const auto& ring : rings)
            for (std::size_t k = 0; k < ring.size(); ++k)
              edge = std::min(edge, distance_to_chord(ring[k], ring[(k + 1) % ring.size()], p));
          const bool inside = winding_number(sheet, p) != 0;
          QVERIFY2((!inside || edge < 0.02) && edge >= kerf / 2 - 0.02,
                   fmt::format("sheet {} path {}: {} from the edge, {}", n, i, edge, inside).c_str());
        }
      }
    }
    QVERIFY2(double(led) >= 0.95 * double(all), fmt::format("{} of {}", led, all).c_str());
  }
  void a_lead_gets_shorter_where_there_is_little_room() {
    // A hole of 3 mm: a line of 10 mm has no room, one of 1.25 has.
    const auto drive = driven(plan_of(drawn(box(10, 10, 80, 80) + disc(50, 50, 1.5, true))),
                              with_tool({.lead = Lead::Line, .lead_length = 10}));
    QVERIFY(drive->without_lead.empty());
    const std::vector<Point> hole = line_of(drive->plan, 0);
    QVERIFY(distance(hole.front(), {50, 50}) < 1.4 && distance(hole.back(), {50, 50}) < 1.4);
    const auto none = driven(plan_of(drawn(box(10, 10, 80, 80) + disc(50, 50, 0.02, true))),
                             with_tool({.lead = Lead::Arc, .lead_length = 10}));
    QCOMPARE(none->without_lead.size(), std::size_t{1});
  }

  void seams_and_sides() {
    // A heart: its corners are the notch, which points into the part, and the tip.
    const Outline heart = drawn("M100 160C20 100 40 40 80 40C95 40 100 55 100 60C100 55 105 40 120 40C160 40 180 100 "
                                "100 160Z");
    QVERIFY(plan_of(heart, with_tool({.seam = Seam::Hidden})).order.front().start == (Point{100, 60}));
    QVERIFY(plan_of(heart, with_tool({})).order.front().start == (Point{100, 160})); // nearer to where the knife is
    const CutPlan round = plan_of(drawn(disc(100, 100, 30)), with_tool({.seam = Seam::Hidden}));
    QVERIFY(round.order.front().start.y > 129.9);
    for (const PartSide side : {PartSide::Left, PartSide::Right}) {
      const CutPlan ring = plan_of(drawn(disc(100, 100, 40) + disc(100, 100, 20, true)), with_tool({.side = side}));
      for (const CutPath& p : ring.order) {
        const Contour& c = ring.sheet.pieces[p.piece].outline.contours[p.contour];
        const Point beside = c.segments.front().p0 + up_of(c.segments.front().start_tangent()) * -1.0; // to the right
        const bool part_right = winding_number(drawn(disc(100, 100, 40) + disc(100, 100, 20, true)), beside) != 0;
        QCOMPARE(part_right, side == PartSide::Right);
        QVERIFY(p.heading == c.segments.front().start_tangent());
      }
    }
  }
  void by_hand_first_but_inner_before_outer() {
    CutSheet sheet{{0, 0, 400, 300}, {}};
    sheet.pieces.push_back({1, "", {}, Destination::Knife, drawn(disc(60, 60, 40) + disc(60, 60, 20, true))});
    sheet.pieces.push_back({2, "", {}, Destination::Knife, drawn(disc(200, 60, 40))});
    sheet.pieces.push_back({3, "", {}, Destination::Knife, drawn(disc(300, 200, 40))});
    sheet.order_by_hand = {{2, "", 0}, {1, "", 0}, {9, "", 0}, {2, "", 7}};
    const CutPlan plan = cut_plan(sheet, {});
    std::vector<CutTurn> got;
    for (const CutPath& p : plan.order)
      got.push_back(turn_of(plan.sheet, p));
    const std::vector<CutTurn> wanted{{2, "", 0}, {1, "", 1}, {1, "", 0}, {3, "", 0}};
    QVERIFY(got == wanted);
    QVERIFY(plan.order[1].inside == std::optional<std::size_t>(2));
  }
  void plain_tools_and_pens_change_nothing() {
    const CutPlan plan = plan_of(drawn(disc(100, 100, 40)));
    const auto plain = driven(plan, with_tool({}));
    QVERIFY(plain->plan.sheet.pieces.front().outline == plan.sheet.pieces.front().outline);
    CutSheet sheet = plan.sheet;
    sheet.pieces.front().destination = Destination::Pen;
    const CutPlan pen = cut_plan(sheet, {});
    QVERIFY(driven(pen, with_tool({.tip = 1, .overcut = 3}))->plan.sheet.pieces.front().outline ==
            pen.sheet.pieces.front().outline);
    std::stop_source stop;
    stop.request_stop();
    QCOMPARE(driven(plan, with_tool({.tip = 1}), stop.get_token()).error().code, ErrorCode::Cancelled);
    QVERIFY(driven(CutPlan{}, {})->plan.order.empty());
  }
};

QTEST_APPLESS_MAIN(TestDriven)
#include "test_driven.moc"
