// Catching while pieces are moved: each kind within its reach, the nearest first, the stated order; many pieces.
#include "document/align_catch.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

const Sheet sheet{600, 400};
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
        const AlignCatch caught = align_catch(lines, moved, reach);
        QVERIFY(caught.across && caught.down);
        QVERIFY(std::abs(caught.across->by) <= std::abs(off) + 1e-9); // that, or one that is nearer still
        if (std::abs(caught.across->by + off) < 1e-9) {
          QCOMPARE(caught.across->line.piece, PieceId{7});
          QCOMPARE(static_cast<int>(caught.across->line.side), theirs);
          QCOMPARE(static_cast<int>(caught.across->side), mine);
        }
      }
    // Beyond its reach nothing catches.
    QVERIFY(!align_catch(lines, box(310, 180, 29, 17), 0.4).across);
  }

  void of_equally_near_ones_middles_then_pieces() {
    // As wide as the other: left on left, middle on middle, right on right, all as near.
    const AlignLines lines = align_lines(sheet, {{7, box(200, 100, 50, 30)}});
    const AlignCatch caught = align_catch(lines, box(201, 300, 50, 30), 3);
    QVERIFY(caught.across && caught.across->side == AlignSide::Middle && caught.across->line.side == AlignSide::Middle);
    QVERIFY(std::abs(caught.across->by + 1) < 1e-9);
    // The middle of a piece in the sheet's middle is that piece's.
    const AlignLines middle = align_lines(sheet, {{9, box(280, 180, 40, 40)}});
    const AlignCatch both = align_catch(middle, box(292, 10, 20, 20), 5);
    QVERIFY(both.across && both.across->line.piece == 9);
    QVERIFY(align_catch(align_lines(sheet, {}), box(292, 10, 20, 20), 5).across->line.piece == 0);
    QVERIFY(!align_catch(lines, Box{}, 5).across);
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
            nearest = std::min(nearest, std::abs(theirs - mine));
      const AlignCatch caught = align_catch(lines, moved, 2);
      QVERIFY(caught.across && std::abs(std::abs(caught.across->by) - nearest) < 2e-6);
    }
  }
};

QTEST_APPLESS_MAIN(TestAlignCatch)
#include "test_align_catch.moc"
