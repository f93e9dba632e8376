// Ruler lines and dimension marks: closed forms for places, crossings and catching; marks follow what they measure, and
// both are written and read.
#include "document/arrange.h"
#include "document/catching.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/marks.h"
#include "document/ruler_lines.h"
#include "document/validity.h"
#include "formats/proof.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

PieceId put(Document& d, const std::string& path) {
  Piece p;
  p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(path)), {}, nullptr, {}};
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}
bool near(Point a, Point b, double off = 1e-9) {
  return distance(a, b) <= off;
}

} // namespace

class TestBenchLines : public QObject {
  Q_OBJECT

private slots:
  void level_upright_and_slanted_data() {
    QTest::addColumn<double>("angle");
    QTest::addColumn<bool>("level");
    QTest::addColumn<bool>("upright");
    for (const double a : {0.0, 180.0, -180.0, 360.0})
      QTest::addRow("%g", a) << a << true << false;
    for (const double a : {90.0, -90.0, 270.0})
      QTest::addRow("%g", a) << a << false << true;
    for (const double a : {45.0, -45.0, 135.0, 0.001, 89.9999})
      QTest::addRow("%g", a) << a << false << false;
  }
  void level_upright_and_slanted() {
    QFETCH(double, angle);
    QFETCH(bool, level);
    QFETCH(bool, upright);
    const RulerLine line{{30, 70}, angle, false};
    QCOMPARE(level_at(line).has_value(), level);
    QCOMPARE(upright_at(line).has_value(), upright);
    // The foot of the perpendicular, by the angle's sine and cosine.
    const double c = std::cos(angle * pi / 180), s = std::sin(angle * pi / 180);
    const Point p{-20, 333};
    const double t = (p.x - 30) * c + (p.y - 70) * s;
    QVERIFY(near(foot_on(line, p), {30 + t * c, 70 + t * s}));
    // Both ends of what lies in a box are on its edge and on the line.
    const Box box{0, 0, 600, 400};
    const auto part = part_inside(line, box);
    QVERIFY(part);
    for (const Point end : {part->first, part->second}) {
      const double edge = std::min({std::abs(end.x), std::abs(end.y), std::abs(end.x - 600), std::abs(end.y - 400)});
      QVERIFY(edge < 1e-9 && near(foot_on(line, end), end));
    }
    QVERIFY(!part_inside({{30, 700}, 0, false}, box) && !part_inside({{-5, 0}, 90, false}, box));
  }

  void crossings() {
    const RulerLine level{{0, 40}, 0, false}, upright{{70, 0}, 90, false}, slanted{{0, 0}, 45, false};
    QVERIFY(near(*crossing_of(level, upright), {70, 40}));
    QVERIFY(near(*crossing_of(level, slanted), {40, 40}));
    QVERIFY(!crossing_of(level, {{9, 9}, 180, false}));
  }

  void the_hand_is_caught_by_lines_and_their_crossings() {
    Document d;
    d.ruler_lines = {{{0, 40}, 0, true}, {{70, 0}, 90, false}};
    const auto at = [&](Point p) { return catch_at(d, evaluator(), p, 3); };
    QVERIFY(at({71, 42}) && at({71, 42})->kind == CatchKind::Crossing && near(at({71, 42})->at, {70, 40}));
    QVERIFY(at({200, 42}) && at({200, 42})->kind == CatchKind::RulerLine && near(at({200, 42})->at, {200, 40}));
    QVERIFY(!at({200, 44}));
    // Where a line cuts a disc: x = 100 ± √(30² - 10²), the line 10 above its middle.
    put(d, "M130 50A30 30 0 0 1 70 50A30 30 0 0 1 130 50Z");
    const double x = 100 + std::sqrt(800.0);
    const auto on_disc = at({x + 1, 41});
    QVERIFY(on_disc && on_disc->kind == CatchKind::Crossing && on_disc->piece != 0);
    QVERIFY(near(on_disc->at, {x, 40}, 1e-3)); // the disc is cubics
    // A node wins over the lines.
    d.ruler_lines.push_back({{130.5, 0}, 90, false});
    QVERIFY(at({130.2, 50.1}) && at({130.2, 50.1})->kind == CatchKind::Node);
  }

  void marks_follow_what_they_measure() {
    Document d;
    const PieceId box = put(d, "M100 50h80v40h-80z");
    d.marks = {mark_of(d, {{100, 50}, {180, 50}}, evaluator())};
    QCOMPARE(d.marks[0].from.piece, box);
    const auto now = drawn(d, d.marks[0], evaluator());
    QVERIFY(now && std::abs(now->length - 80) < 1e-9 && now->angle == 0);
    QVERIFY(near(now->line_from, {100, 50 - mark_beside})); // outside: above what runs to the right
    QVERIFY(near(now->middle, {140, 50 - mark_beside}));
    const Document moved = move_pieces(d, {box}, {11, -7});
    QVERIFY(near(drawn(moved, d.marks[0], evaluator())->from, {111, 43}));
    const Document large = scale_piece(d, box, {}, 1.5, GuideScaling::Along);
    QVERIFY(std::abs(drawn(large, d.marks[0], evaluator())->length - 120) < 1e-9);
    // With its piece it goes; a free end stays where it is.
    QVERIFY(remove_pieces(d, {box}).document.marks.empty());
    d.marks = {mark_of(d, {{300, 300}, {300, 200}}, evaluator())};
    QVERIFY(remove_pieces(d, {box}).document.marks.size() == 1);
    const auto upright = drawn(d, d.marks[0], evaluator());
    QVERIFY(upright && std::abs(upright->angle + 90) < 1e-6 + 180); // never upside down
    QVERIFY(upright->angle > -90 - 1e-6 && upright->angle <= 90 + 1e-6);
    QCOMPARE(mark_at(d, upright->middle, 0.5, evaluator()), std::optional<std::size_t>(0));
    QVERIFY(!mark_at(d, upright->middle + Vec{3, 0}, 0.5, evaluator()));
    QVERIFY(std::abs(beside_through(*upright, upright->middle) - mark_beside) < 1e-9);
    // Nothing to measure: two ends in one place.
    d.marks[0].to = d.marks[0].from;
    QVERIFY(!drawn(d, d.marks[0], evaluator()));
  }

  // Live letters are measured by their own nodes, edges and extent; beside them one draws uncaught.
  void marks_of_words_follow_them() {
    Document d;
    Piece p;
    Lettering l;
    l.recipe.source = letters_of("HULL", {"Cabin", "Bold"}, 40);
    l.placement.at = {200, 150};
    p.content = std::move(l);
    Added added = add_piece(std::move(d), std::move(p));
    d = std::move(added.document);
    const auto box_of = [&](const Document& of) { return evaluator().piece(of, added.id, Depth::Seat)->ink; };
    const Box ink = box_of(d);
    // The first stem of the H: its left edge is the ink's, its right one a node of the letter.
    const Outline h = seated_outline(*evaluator().piece(d, added.id, Depth::Seat));
    const double foot = 150; // the U's reaches a little lower
    double stem = ink.x1;
    for (const Segment& s : h.contours[0].segments)
      if (s.p0.x > ink.x0 + 1)
        stem = std::min(stem, s.p0.x);
    const auto caught = catch_at(d, evaluator(), {stem - 0.3, foot + 0.2}, 1, {.letters = CatchLetters::Yes});
    QVERIFY(caught);
    QVERIFY(near(caught->at, {stem, foot}, 1e-9));
    QCOMPARE(caught->kind, CatchKind::Corner);
    const auto edge = catch_at(d, evaluator(), {ink.x0 - 0.3, ink.centre().y + 3}, 1, {.letters = CatchLetters::Yes});
    QVERIFY(edge && edge->kind == CatchKind::Edge && std::abs(edge->at.x - ink.x0) < 1e-6);
    QVERIFY(!catch_at(d, evaluator(), {stem - 0.3, foot + 0.2}, 1));
    d.marks = {mark_of(d, {{ink.x0, foot}, {stem, foot}}, evaluator()),
               mark_of(d, {{ink.x0, ink.y0}, {ink.x0, ink.y1}}, evaluator())};
    QCOMPARE(d.marks[0].from.piece, added.id);
    QCOMPARE(d.marks[0].to.piece, added.id);
    const double width = drawn(d, d.marks[0], evaluator())->length;
    const Document large = scale_piece(move_pieces(d, {added.id}, {31, 7}), added.id, {}, 1.5, GuideScaling::Along);
    QVERIFY(std::abs(drawn(large, d.marks[0], evaluator())->length - 1.5 * width) < 1e-6);
    QVERIFY(std::abs(drawn(large, d.marks[1], evaluator())->length - box_of(large).height()) < 1e-6);
    QVERIFY(remove_pieces(large, {added.id}).document.marks.empty());
  }

  void where_outlines_cross() {
    Document d;
    put(d, "M0 0L100 50L95 60L-5 10z"); // a slanted bar
    const PieceId level = put(d, "M0 30h120v10h-120z");
    // Its upper edge y = x/2 meets the level bar's upper edge at (60, 30), its lower edge y = 12.5 + x/2 at (35, 30).
    const auto at = [&](Point p) { return catch_at(d, evaluator(), p, 2); };
    for (const Point cross : {Point{60, 30}, Point{35, 30}, Point{80, 40}, Point{55, 40}}) {
      const auto caught = at(cross + Vec{0.6, -0.4});
      QVERIFY(caught && caught->kind == CatchKind::Crossing && near(caught->at, cross, 1e-6));
    }
    QVERIFY(at({90, 30.5}) && at({90, 30.5})->kind == CatchKind::Edge && at({90, 30.5})->piece == level);
    QVERIFY(at({0.3, 30.2}) && at({0.3, 30.2})->kind == CatchKind::Corner); // lines that go on are no crossing
  }

  // A line from a place to a disc: touching where the way has the length √(d² - r²), square to it on the way to its
  // middle; to a straight edge, the foot of the perpendicular.
  void touching_and_square() {
    Document d;
    put(d, "M130 50A30 30 0 0 1 70 50A30 30 0 0 1 130 50Z");
    put(d, "M300 0L400 100L390 110L290 10z");
    const Point from{0, 10}, middle{100, 50};
    const auto at = [&](Point p) { return catch_at(d, evaluator(), p, 2, {.from = from}); };
    const Vec way = middle - from;
    const double far = length(way), reach = std::sqrt(far * far - 900), turn = std::asin(30 / far);
    for (const double side : {turn, -turn}) {
      const Point touch = from + reach * direction(std::atan2(way.y, way.x) + side);
      const auto caught = at(touch + Vec{0.4, 0.3});
      QVERIFY(caught && caught->kind == CatchKind::Touch && near(caught->at, touch, 2e-3)); // the disc is cubics
    }
    for (const double r : {-30.0, 30.0}) {
      const Point square = middle + way * (r / far);
      const auto caught = at(square + Vec{0.3, 0.5});
      QVERIFY(caught && caught->kind == CatchKind::Square && near(caught->at, square, 2e-3));
    }
    const Point foot{295 + 10 - 10, 15 - 10 + 10}; // of (0, 10) on the edge x + y = 300 … not within it
    QVERIFY(!at(foot + Vec{9, 9}) || at(foot + Vec{9, 9})->kind != CatchKind::Square);
    const auto corner = catch_at(d, evaluator(), {350.3, 50.1}, 2, {.from = Point{450, -50}});
    QVERIFY(corner && corner->kind == CatchKind::Square && near(corner->at, {350, 50}, 1e-6));
    // Without a beginning there is only the edge.
    QCOMPARE(catch_at(d, evaluator(), {350.3, 50.1}, 2)->kind, CatchKind::Edge);
  }

  void along_an_edge() {
    Document d;
    put(d, "M0 0h100v60h-100z");
    put(d, "M300 100A50 50 0 0 1 200 100A50 50 0 0 1 300 100Z");
    put(d, "M0 200L30 240L70 240");
    const auto along = [&](Point a, Point b) { return along_curve(d, evaluator(), {a, b}); };
    const auto corner = along({20, 0}, {100, 60});
    QVERIFY(corner && std::abs(corner->length - 140) < 1e-9 && std::abs(*corner->other_way - 180) < 1e-9);
    const auto half = along({300, 100}, {200, 100});
    QVERIFY(half && std::abs(half->length - 50 * pi) < 1e-2 && std::abs(*half->other_way - 50 * pi) < 1e-2);
    const auto open = along({15, 220}, {50, 240});
    QVERIFY(open && std::abs(open->length - 45) < 1e-9 && !open->other_way);
    QVERIFY(!along({20, 0}, {300, 100}) && !along({20, 3}, {100, 60})); // not one edge; not on it
    QCOMPARE(along({20, 0}, {20, 0})->length, 0.0);
  }

  // The wanted number, by moving what the line ends on.
  void moved_to_a_measure() {
    Document d;
    const PieceId stays = put(d, "M0 0h40v40h-40z"), moves = put(d, "M100 0h30v40h-30z");
    const MeasuredLine line{{40, 20}, {100, 20}};
    const auto made = moved_to_measure(d, {}, line, 25, evaluator());
    QVERIFY(made.ok() && made->find(moves)->outline()->outline->bounds().x0 == 65 &&
            *made->find(stays) == *d.find(stays));
    // What is selected instead; and nearly on top of it.
    const auto other = moved_to_measure(d, {stays}, line, 25, evaluator());
    QVERIFY(other.ok() && other->find(stays)->outline()->outline->bounds().x0 == -35);
    QVERIFY(moved_to_measure(d, {}, line, 0, evaluator())->find(moves)->outline()->outline->bounds().x0 == 40);
    QVERIFY(!moved_to_measure(d, {}, {{40, 20}, {70, 70}}, 25, evaluator()).ok()); // ends on nothing
    QVERIFY(!moved_to_measure(d, {}, {{40, 20}, {40, 20}}, 25, evaluator()).ok());
    QVERIFY(!moved_to_measure(d, {}, line, -1, evaluator()).ok());
    const Document locked = edit_piece(d, moves, [](Piece& p) { p.locked = true; });
    QVERIFY(!moved_to_measure(locked, {}, line, 25, evaluator()).ok());
  }

  void across_a_stroke() {
    Document d;
    put(d, "M20 20h100v12h-100z"); // 12 wide
    put(d, "M200 100A50 50 0 0 1 100 100A50 50 0 0 1 200 100ZM190 100A40 40 0 0 0 110 100A40 40 0 0 0 190 100Z");
    const auto width = [&](Point p) -> double {
      const auto line = across_stroke(d, evaluator(), p);
      return line ? distance(line->from, line->to) : -1;
    };
    QVERIFY(std::abs(width({70, 25}) - 12) < 1e-6 && std::abs(width({33, 30}) - 12) < 1e-6);
    for (const double angle : {0.1, 1.3, 2.9, 4.4}) // of a ring, its outer radius less its inner one
      QVERIFY(std::abs(width({150 + 46 * std::cos(angle), 100 + 46 * std::sin(angle)}) - 10) < 0.02);
    QVERIFY(width({150, 100}) < 0 && width({70, 50}) < 0); // in its hole, beside
    // Live letters: the stem of an I is as wide as the letter.
    Piece p;
    Lettering l;
    l.recipe.source = letters_of("I", {"Lato", "Regular"}, 40);
    l.placement.at = {300, 300};
    p.content = std::move(l);
    Added added = add_piece(std::move(d), std::move(p));
    d = std::move(added.document);
    const Box ink = evaluator().piece(d, added.id, Depth::Seat)->ink;
    QVERIFY(std::abs(width({ink.x0 + 0.3 * ink.width(), ink.centre().y}) - ink.width()) < 1e-6);
  }

  void what_a_piece_measures() {
    Document d;
    const PieceId disc = put(d, "M130 50A30 30 0 0 1 70 50A30 30 0 0 1 130 50Z");
    const PieceId box = put(d, "M200 40h50v20h-50z"), inside = put(d, "M95 45h10v10h-10z");
    const auto result = [&](PieceId id) { return *evaluator().piece(d, id, Depth::Seat); };
    const PieceMeasures m = measures_of(result(disc));
    QVERIFY(std::abs(m.length - 60 * pi) < 0.02 && std::abs(m.area - 900 * pi) < 0.5);
    QVERIFY(std::abs(measures_of(result(box)).area - 1000) < 1e-6);
    QVERIFY(std::abs(*gap_between(result(disc), result(box)) - 70) < 1e-6);
    QCOMPARE(*gap_between(result(disc), result(inside)), 0.0); // it lies in it
  }

  void written_and_read() {
    Document d;
    const PieceId box = put(d, "M100 50h80v40h-80z");
    d.ruler_lines = {{{0, 40}, 0, true}, {{70, 1.0 / 3}, 27.5, false}};
    d.marks = {mark_of(d, {{100, 50}, {180, 50}}, evaluator()), {{0, {1, 2}}, {0, {3, 4}}, -5}};
    QVERIFY(*read_job(write_job(d, bundled_faces())) == d);
    QVERIFY(faults(d).empty());
    Document wrong = d;
    wrong.ruler_lines[0].angle = NAN;
    QCOMPARE(faults(wrong).front().place, std::string("ruler_lines"));
    wrong = d;
    wrong.marks[0].beside = 1e300;
    QCOMPARE(faults(wrong).front().place, std::string("marks"));
    QCOMPARE(d.marks[0].from.piece, box);
  }

  // The proof has one more number and its lines, and stands clear of the sizes.
  void marks_stand_on_the_proof() {
    Document d;
    put(d, "M100 50h80v40h-80z");
    const ProofForm form;
    const auto items = [&](const Document& of) { return proof_page(of, evaluator(), form)->items.size(); };
    const std::size_t without = items(d);
    d.marks = {mark_of(d, {{100, 50}, {180, 50}}, evaluator())};
    QCOMPARE(items(d), without + 6); // two lines to it, the line, its two ends, the number
  }
};

QTEST_APPLESS_MAIN(TestBenchLines)
#include "test_bench_lines.moc"
