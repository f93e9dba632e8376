// What caches and history hold is bounded and said honestly. Resident memory is read from the system, in a program of
// its own.
#include "document/arrange.h"
#include "document/edits.h"
#include "document/history.h"
#include "support/fixtures.h"

#include <QFile>
#include <QTest>
#include <malloc.h>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double mb = 1024 * 1024;

double resident() { // bytes
  QFile status("/proc/self/statm");
  (void)status.open(QIODevice::ReadOnly);
  return status.readAll().split(' ').value(1).toDouble() * 4096;
}

} // namespace

class TestMemory : public QObject {
  Q_OBJECT

private slots:
  void a_size_dragged_a_thousand_times_stays_small() {
    CircleJob job = circle_job("Marigold on the slow tide at Saltmarsh Boatworks landing", 300);
    const DocumentEvaluator evaluator(bundled_faces(), 120, DocumentEvaluator::Warps::Sketched);
    const int sizes = sanitized ? 60 : 1000;
    for (int i = 0; i < sizes; ++i) {
      const Document d = edit_piece(job.document, job.lettering, [&](Piece& p) {
        p.lettering()->recipe.letters()->size = 10 + 0.01 * i;
        p.lettering()->recipe.spacing.mode = SpacingMode::KeepJoined;
      });
      QVERIFY(evaluator.seat_now(d, job.lettering).ok());
    }
    qInfo("%d sizes: resident %.0f MB, held by caches %.1f MB", sizes, resident() / mb,
          static_cast<double>(evaluator.memory().bytes()) / mb);
    if (!sanitized) // which keeps what was freed
      QVERIFY(resident() < 120 * mb);
  }

  void what_caches_say_they_hold_is_what_they_hold_and_at_most_the_budget() {
    CircleJob job = circle_job("Slow tide", 120);
    for (const std::size_t limit : {std::size_t{4} << 20, std::size_t{24} << 20}) {
      malloc_trim(0);
      const double before = resident();
      const DocumentEvaluator evaluator(bundled_faces(), 120, DocumentEvaluator::Warps::Exact, limit);
      for (int i = 0; i < (sanitized ? 40 : 700); ++i) {
        const Document d = edit_piece(job.document, job.lettering, [&](Piece& p) {
          Recipe& r = p.lettering()->recipe;
          r.letters()->size = 12 + 0.02 * i;
          r.bend.stance = i % 2 == 0 ? Stance::Flow : Stance::Turn;
          r.spacing.mode = i % 3 == 0 ? SpacingMode::KeepJoined : SpacingMode::EvenGaps;
        });
        QVERIFY(evaluator.piece(d, job.lettering, Depth::Seat).ok());
        QVERIFY(evaluator.memory().bytes() <= limit + limit / 8); // it is looked at every sixteenth of it
      }
      const double held = static_cast<double>(evaluator.memory().bytes()), grown = resident() - before;
      qInfo("limit %.0f MB: held %.1f MB, resident grew by %.1f MB", static_cast<double>(limit) / mb, held / mb,
            grown / mb);
      if (!sanitized)
        QVERIFY2(grown < 1.6 * held + 12 * mb, "caches hold more than they say");
    }
  }

  void the_oldest_steps_go_when_there_is_no_room() {
    auto random = random_source(7);
    Document d;
    Piece p;
    p.content =
        OutlinePiece{std::make_shared<const Outline>(random_blob(random, {100, 100}, 50, 2000)), Finish{{}}, {}, {}};
    d = add_piece(d, p).document;
    const std::size_t limit = std::size_t{8} << 20;
    History h(d, limit);
    for (int i = 0; i < 400; ++i) {
      d = move_pieces(d, {1}, {1, 0});
      h.push("Move", d, {1});
      QVERIFY(h.bytes() <= limit);
    }
    QVERIFY(h.let_go() > 0 && h.steps() + h.let_go() == 400);
    QVERIFY(h.steps() > 20);
    std::size_t back = 0;
    while (h.can_undo())
      h.undo(), ++back;
    QCOMPARE(back, h.steps());
    while (h.can_redo())
      h.redo();
    QVERIFY(h.current().document == d);
    // A single step larger than all the room still can be undone.
    History small(d, 1);
    small.push("Move", move_pieces(d, {1}, {0, 1}), {1});
    QVERIFY(small.can_undo());
  }
};

QTEST_APPLESS_MAIN(TestMemory)
#include "test_memory.moc"
