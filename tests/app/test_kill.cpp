// Kills the running program at random moments of editing and saving: a saved job is never lost, and what was not saved
// is recovered to within one autosave interval.
#include "document/job_file.h"
#include "document/recovery.h"
#include "support/fixtures.h"

#include <QElapsedTimer>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <cstdio>

using namespace frelm;
using namespace frelm::test;

class TestKill : public QObject {
  Q_OBJECT

private slots:
  void nothing_saved_is_ever_lost() {
    constexpr int rounds = 40;
    auto random = random_source(20261125);
    int recovered = 0, saves = 0;
    for (int round = 0; round < rounds; ++round) {
      QTemporaryDir dir;
      const QString job = dir.filePath("job.frelm");
      DiskStorage disk;
      Document first = circle_job("Marigold").document;
      first.sheet.width = 1000;
      QVERIFY(disk.write(job.toStdString(), write_job(first, bundled_faces())).ok());
      QProcess program;
      program.start(FRELM_KILL_TARGET, {job, dir.filePath("recovery"), QString::number(round)});
      QVERIFY(program.waitForStarted());
      QVERIFY(program.waitForReadyRead(20'000)); // it has saved once: the script is under way
      QTest::qWait(static_cast<int>(random() % 260));
      program.kill();
      program.waitForFinished();
      double promised = 1000;
      for (const QByteArray& line : program.readAllStandardOutput().split('\n'))
        if (line.startsWith("saved "))
          promised = 1000 + line.mid(6).toInt(), ++saves;

      const auto bytes = disk.read(job.toStdString());
      QVERIFY(bytes.ok());
      const Result<Document> saved = read_job(*bytes);
      QVERIFY2(saved.ok(), saved.ok() ? "" : saved.error().text().c_str());
      QVERIFY2(saved->sheet.width >= promised,
               qPrintable(QString("promised %1, found %2").arg(promised).arg(saved->sheet.width)));

      Recovery next(dir.filePath("recovery").toStdString(), disk);
      const auto left = next.left_behind();
      QVERIFY(left.size() <= 1);
      if (left.empty())
        continue;
      ++recovered;
      QCOMPARE(QString::fromStdString(left[0].job_path), job);
      const Result<Document> kept = read_job(left[0].bytes);
      QVERIFY(kept.ok());
      // At most one interval (40 ms) and one slow write behind the last save; a step of the script takes 3 ms or more.
      QVERIFY(kept->sheet.width >= promised - 200);
    }
    std::printf("%d kills, %d saves promised, recovery found %d times\n", rounds, saves, recovered);
    QVERIFY(recovered > 0);
  }
};

QTEST_GUILESS_MAIN(TestKill)
#include "test_kill.moc"
