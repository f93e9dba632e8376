// Session, background, tasks and autosave beside each other, hurried through some hundred edits: at the end they agree
// with the document. Also built with the thread sanitizer, which sees what no end result shows.
#include "app/session/autosave.h"
#include "app/session/task.h"
#include "document/job_file.h"
#include "document/level.h"
#include "formats/svg.h"
#include "support/fixtures.h"

#include <QDir>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

std::vector<Document> jobs() {
  std::vector<Document> out{circle_job("Marigold of Saltmarsh").document};
  for (const char* name : {"slow-wake", "creek-plaque", "herring-tag"}) {
    QFile file(QString(FRELM_SOURCE_DIR "/assets/demo/%1.frelm").arg(name));
    if (file.open(QIODevice::ReadOnly))
      if (const Result<Document> d = read_job(file.readAll().toStdString()); d.ok())
        out.push_back(*d);
  }
  return out;
}

void change_letters(Piece& p, std::mt19937_64& random) {
  Lettering* l = p.lettering();
  if (l == nullptr || l->recipe.letters() == nullptr)
    return;
  l->recipe.letters()->size *= uniform(random, 0.97, 1.03);
  if (random() % 4 == 0)
    l->recipe.spacing.mode = static_cast<SpacingMode>(random() % 3);
}

} // namespace

class TestThreads : public QObject {
  Q_OBJECT

private slots:
  void all_agree_in_the_end() {
    const std::vector<Document> all = jobs();
    QCOMPARE(all.size(), std::size_t{4});
    auto random = random_source(20261127);
    QTemporaryDir dir;
    DiskStorage disk;
    FaceLibrary faces(faces_directory(), false);
    Session session(faces);
    Task task;
    int tasks = 0, done = 0;
    {
      Autosave autosave(session, disk, dir.filePath("recovery"), {5, 20});
      const int steps = qEnvironmentVariableIntValue("FRELM_THREAD_STEPS") > 0
                            ? qEnvironmentVariableIntValue("FRELM_THREAD_STEPS")
                            : 300;
      for (int i = 0; i < steps; ++i) {
        if (i % 60 == 0) {
          session.reset(all[static_cast<std::size_t>(i / 60) % all.size()]);
          autosave.saved();
        }
        const auto& pieces = session.document().pieces;
        const PieceId id = pieces[random() % pieces.size()]->id;
        switch (random() % 9) {
        case 0:
          session.select({id});
          break;
        case 1:
          session.undo();
          break;
        case 2:
          session.redo();
          break;
        case 3:
          (void)session.level_catch(id);
          break;
        case 4: // a drag, half of them broken off by the next edit
          session.begin_drag();
          for (int k = 0; k < 3; ++k) {
            session.preview(edit_piece(session.document(), id, [&](Piece& p) { change_letters(p, random); }));
            (void)session.seated(id).ok();
          }
          if (random() % 2 == 0)
            session.commit_preview("Drag");
          break;
        case 5:
          if (task.start<Done>(
                  "Exporting",
                  [&, document = session.document()](std::stop_token stop) -> Result<Done> {
                    const Result<CutSheet> sheet = cut_sheet(document, session.evaluator(), stop);
                    if (!sheet)
                      return sheet.error();
                    return disk.write(dir.filePath("out.svg").toStdString(), write_svg(*sheet));
                  },
                  [&](const Result<Done>&) { ++done; }))
            ++tasks;
          else
            task.cancel();
          break;
        case 6:
          autosave.keep_now();
          break;
        default:
          session.edit("Edit", id, [&](Piece& p) { change_letters(p, random); });
          (void)session.seated(id).ok();
        }
        if (random() % 3 == 0)
          QTest::qWait(static_cast<int>(random() % 12));
      }
      session.abandon_drag();
      session.edit("Last", session.document().pieces.back()->id, [](Piece& p) { p.name = "last"; });
      QVERIFY(QTest::qWaitFor([&] { return !session.busy() && !task.running(); }, 120'000));
      QVERIFY(tasks > 0 && done == tasks);
      autosave.keep_now();
    } // what waits is still written
    const DocumentEvaluator alone(faces);
    for (const auto& p : session.document().pieces) {
      const auto exact = alone.piece(session.document(), p->id, Depth::Finish);
      const auto shown = session.finished(p->id);
      if (exact.ok() && exact->outline != nullptr && p->guide() == nullptr) {
        QVERIFY(shown != nullptr);
        QVERIFY(*shown == *exact->outline);
      }
    }
    Recovery next(dir.filePath("recovery").toStdString(), disk);
    const auto left = next.left_behind();
    QCOMPARE(left.size(), std::size_t{1});
    const Result<Document> kept = read_job(left[0].bytes);
    QVERIFY(kept.ok() && *kept == session.document());
  }
};

QTEST_GUILESS_MAIN(TestThreads)
#include "test_threads.moc"
