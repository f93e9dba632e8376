// Catching while pieces are moved: each kind within its reach, the nearest first, the stated order; many pieces.
#include "document/align_catch.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

const Document sheet; // 600 x 400 mm
Box box(double x, double y, double w, double h) {
  return {x, y, x + w, y + h};
}

} // namespace

class TestAlignCatch : public QObject {
  Q_OBJECT

private slots:
  void each_side_by_each_side_data() {
    QTest::addColumn<int>("mine");
    QTest::addColumn<int>("theirs");
    for (int mine = 0; mine < 3; ++mine)
      for (int theirs = 0; theirs < 3; ++theirs)
        QTest::addRow("%d on %d", mine, theirs) << mine << theirs;
  }
  void each_side_by_each_side() {
    QFETCH(int, mine);
    QFETCH(int, theirs);
    const Box other = box(200, 100, 71, 33), held = box(0, 0, 29, 17);
    const AlignLines lines = align_lines(sheet, {{7, other}});
    for (const double reach : {0.5, 2.0, 8.0}) // three zooms
      for (const double off : {-0.9 * reach, 0.4 * reach}) {
        const double at = other.x0 + other.width() * theirs / 2.0, down = other.y0 + other.height() * theirs / 2.0;
        const Box moved = box(at + off - held.width() * mine / 2.0, down + off - held.height() * mine / 2.0, 29, 17);
        const AlignCatch caught = align_catch(lines, {0, moved}, reach);
        QVERIFY(caught.across && caught.down);
        QVERIFY(std::abs(caught.across->by) <= std::abs(off) + 1e-9); // that, or one that is nearer still
        if (std::abs(caught.across->by + off) < 1e-9) {
          QCOMPARE(caught.across->line.piece, PieceId{7});
          QCOMPARE(static_cast<int>(caught.across->line.side), theirs);
          QCOMPARE(static_cast<int>(caught.across->side), mine);
        }
      }
    // Beyond its reach nothing catches.
    QVERIFY(!align_catch(lines, {0, box(310, 180, 29, 17)}, 0.4).across);
  }

  void of_equally_near_ones_middles_then_pieces() {
    // As wide as the other: left on left, middle on middle, right on right, all as near.
    const AlignLines lines = align_lines(sheet, {{7, box(200, 100, 50, 30)}});
    const AlignCatch caught = align_catch(lines, {0, box(201, 300, 50, 30)}, 3);
    QVERIFY(caught.across && caught.across->side == AlignSide::Middle && caught.across->line.side == AlignSide::Middle);
    QVERIFY(std::abs(caught.across->by + 1) < 1e-9);
    // The middle of a piece in the sheet's middle is that piece's.
    const AlignLines middle = align_lines(sheet, {{9, box(280, 180, 40, 40)}});
    const AlignCatch both = align_catch(middle, {0, box(292, 10, 20, 20)}, 5);
    QVERIFY(both.across && both.across->line.piece == 9);
    QVERIFY(align_catch(align_lines(sheet, {}), {0, box(292, 10, 20, 20)}, 5).across->line.piece == 0);
    QVERIFY(!align_catch(lines, {}, 5).across);
  }

  void ruler_lines_before_all_else() {
    Document d;
    d.ruler_lines = {{{120, 0}, 90, false}, {{0, 77}, 0, true}, {{50, 50}, 30, false}};
    const AlignLines lines = align_lines(d, {{7, box(118, 75, 40, 40)}});
    const AlignCatch caught = align_catch(lines, {0, box(119, 76, 20, 20)}, 3);
    QVERIFY(caught.across && caught.across->line.to == AlignTo::RulerLine); // both edges are 1 mm away
    QVERIFY(std::abs(caught.across->by - 1) < 1e-12);
    QVERIFY(caught.down && caught.down->line.to == AlignTo::RulerLine && std::abs(caught.down->by - 1) < 1e-12);
    // A slanted one is no edge's.
    d.ruler_lines = {{{50, 50}, 30, false}};
    QCOMPARE(align_lines(d, {}).across.size(), std::size_t{3});
  }

  void baselines_and_cap_lines_by_their_own_kind() {
    PlacedBox other{7, box(300, 100, 80, 30), {125}, {104}}; // descenders reach below the baseline
    const AlignLines lines = align_lines(sheet, {other});
    PlacedBox moved{0, box(20, 103, 60, 27), {126.5}, {110}};
    const AlignCatch caught = align_catch(lines, moved, 2);
    QVERIFY(caught.down && caught.down->side != AlignSide::EqualGap);
    // The lower edge is 0 mm from the other's: nearer than the baseline.
    QVERIFY(caught.down->side == AlignSide::High && std::abs(caught.down->by) < 1e-12);
    moved.box.y1 = 133; // with the edges out of reach the baselines meet
    moved.box.y0 = 106;
    const AlignCatch on_baseline = align_catch(lines, moved, 2);
    QVERIFY(on_baseline.down && on_baseline.down->line.side == AlignSide::Baseline);
    QVERIFY(std::abs(on_baseline.down->by + 1.5) < 1e-12);
    moved.baselines = {};
    moved.cap_lines = {104.25};
    const AlignCatch on_caps = align_catch(lines, moved, 2);
    QVERIFY(on_caps.down && on_caps.down->line.side == AlignSide::CapLine && std::abs(on_caps.down->by + 0.25) < 1e-12);
  }

  // One line of each kind, and something to be caught by it; the reaches are those of a hand at three zooms.
  void each_kind_within_its_strength_data() {
    QTest::addColumn<Document>("document");
    QTest::addColumn<PlacedBox>("other");
    QTest::addColumn<PlacedBox>("held");
    QTest::addColumn<AlignLine>("by"); // `at`, `side`, `to` of what catches it upright
    const PlacedBox far{7, box(9000, 9000, 10, 10), {}, {}};
    Document ruled, plain;
    plain.sheet = ruled.sheet = {8000, 8000};
    ruled.ruler_lines = {{{0, 5000}, 0, false}};
    const PlacedBox held{0, box(100, 0, 30, 20), {17}, {3}};
    const auto line = [](double at, AlignSide side, AlignTo to) { return AlignLine{at, side, to, 0, {}}; };
    const PlacedBox word{7, box(4000, 2000, 300, 114), {2081}, {2033}};
    QTest::newRow("ruler line") << ruled << far << held << line(5000, AlignSide::Low, AlignTo::RulerLine);
    QTest::newRow("sheet") << plain << far << held << line(4000, AlignSide::Middle, AlignTo::Sheet);
    QTest::newRow("edge") << plain << word << held << line(2000, AlignSide::Low, AlignTo::Piece);
    QTest::newRow("middle") << plain << word << held << line(2057, AlignSide::Middle, AlignTo::Piece);
    QTest::newRow("baseline") << plain << word << held << line(2081, AlignSide::Baseline, AlignTo::Piece);
    QTest::newRow("cap line") << plain << word << held << line(2033, AlignSide::CapLine, AlignTo::Piece);
  }
  void each_kind_within_its_strength() {
    QFETCH(Document, document);
    QFETCH(PlacedBox, other);
    QFETCH(PlacedBox, held);
    QFETCH(AlignLine, by);
    const AlignLines lines = align_lines(document, {other});
    const bool letters = by.side == AlignSide::Baseline || by.side == AlignSide::CapLine;
    const double mine = by.side == AlignSide::Baseline  ? held.baselines[0]
                        : by.side == AlignSide::CapLine ? held.cap_lines[0]
                                                        : held.box.centre().y; // clear of everything else
    for (const double reach : {0.2, 0.9, 2.8})
      for (const double off : {-0.99 * reach, 0.5 * reach, 0.99 * reach, 1.01 * reach}) {
        PlacedBox moved = held;
        const double down = by.at + off - mine;
        moved.box.y0 += down, moved.box.y1 += down;
        for (std::vector<double>* own : {&moved.baselines, &moved.cap_lines})
          for (double& y : *own)
            y += down;
        const auto caught = align_catch(lines, moved, reach).down;
        if (off > reach) {
          QVERIFY(!caught || std::abs(caught->line.at - by.at) > 1e-9);
          continue;
        }
        QVERIFY(caught);
        QCOMPARE(caught->line.to, by.to);
        QCOMPARE(caught->line.side, by.side);
        QVERIFY(std::abs(caught->by + off) < 1e-9);
        QCOMPARE(caught->side == AlignSide::Baseline || caught->side == AlignSide::CapLine, letters);
      }
  }

  void sizes_of_others() {
    const std::vector<PlacedBox> others{{7, box(0, 0, 120, 33), {}, {}}, {8, box(0, 0, 81, 90), {}, {}}};
    const Box mine = box(500, 500, 80, 40);
    for (const double reach : {0.5, 2.0, 6.0}) {
      const auto wide = size_catch(others, mine, (120 - 0.9 * reach) / 80, reach);
      QVERIFY(wide && wide->piece == 7 && wide->wide && std::abs(wide->scale - 1.5) < 1e-12);
      QVERIFY(!size_catch(others, mine, (120 + 1.1 * reach) / 80, reach));
      const auto high = size_catch(others, mine, 90.2 / 40, reach);
      QVERIFY(high && high->piece == 8 && !high->wide && std::abs(high->scale - 2.25) < 1e-12);
    }
    QVERIFY(!size_catch({}, mine, 1, 5) && !size_catch(others, {}, 1, 5));
  }

  void equal_gaps_data() {
    QTest::addColumn<double>("at"); // left edge of what is moved, 30 wide
    QTest::newRow("between the two") << 138.0;
    QTest::newRow("after two") << 292.5;
    QTest::newRow("before two") << -22.0;
  }
  void equal_gaps() {
    QFETCH(double, at);
    const QByteArray row = QTest::currentDataTag();
    const std::vector<PlacedBox> two =
        row == "between the two" ? std::vector<PlacedBox>{{1, box(60, 50, 58, 30)}, {2, box(190, 55, 60, 30)}}
                                 : std::vector<PlacedBox>{{1, box(46, 50, 72, 30)}, {2, box(158, 55, 92, 30)}};
    const AlignLines lines = align_lines(sheet, two);
    const AlignCatch caught = align_catch(lines, {0, box(at, 60, 30, 11)}, 3);
    QVERIFY(caught.across && caught.across->line.side == AlignSide::EqualGap);
    QCOMPARE(caught.across->equal.size(), std::size_t{2});
    QVERIFY(std::abs(caught.across->equal[0].width() - caught.across->equal[1].width()) < 1e-9);
    QVERIFY(caught.across->equal[0].width() > 0);
    const double left = at + caught.across->by;
    // Worked out again from the boxes: what stands left and right of each gap.
    std::vector<Box> all{two[0].box, two[1].box, box(left, 60, 30, 11)};
    std::sort(all.begin(), all.end(), [](const Box& a, const Box& b) { return a.x0 < b.x0; });
    QVERIFY(std::abs((all[1].x0 - all[0].x1) - (all[2].x0 - all[1].x1)) < 1e-9);
    // What stands in another row is no neighbour.
    QVERIFY(!align_catch(lines, {0, box(at, 300, 30, 11)}, 0.4).across);
  }

  // Against every line, one by one.
  void the_nearest_of_thousands() {
    auto random = random_source(3);
    std::vector<PlacedBox> others;
    for (PieceId id = 1; id <= 5000; ++id)
      others.push_back({id, box(uniform(random, 0, 5000), uniform(random, 0, 5000), uniform(random, 1, 50), 10)});
    const AlignLines lines = align_lines(sheet, others);
    for (int i = 0; i < 200; ++i) {
      const Box moved = box(uniform(random, 0, 5000), uniform(random, 0, 5000), 33, 21);
      double nearest = 1e9;
      for (const PlacedBox& o : others)
        for (const double theirs : {o.box.x0, o.box.centre().x, o.box.x1})
          for (const double mine : {moved.x0, moved.centre().x, moved.x1})
            nearest = std::min(nearest, std::abs(theirs - mine)); // equal gaps may be nearer still
      const AlignCatch caught = align_catch(lines, {0, moved}, 2);
      QVERIFY(caught.across && (caught.across->line.side == AlignSide::EqualGap
                                    ? std::abs(caught.across->by) < nearest + 2e-6
                                    : std::abs(std::abs(caught.across->by) - nearest) < 2e-6));
    }
  }
};

QTEST_APPLESS_MAIN(TestAlignCatch)
#include "test_align_catch.moc"
