// Kills the running program at random moments of editing, resting, saving, exporting and bringing back. What a write
// has promised is there; what was edited before a rest of 5 s is there; nothing half written is left.
// Some programs run side by side, each killed and started again on what it left. FRELM_KILLS=200 for the long run.
#include "document/job_file.h"
#include "document/recovery.h"
#include "support/fixtures.h"

#include <QDateTime>
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <QXmlStreamReader>
#include <cstdio>
#include <mutex>
#include <thread>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr std::int64_t rest = 5000; // ms; what is older than a rest of this is never lost

std::int64_t now() {
  return std::chrono::duration_cast<std::chrono::milliseconds>(std::chrono::steady_clock::now().time_since_epoch())
      .count();
}

struct Edit {
  int version = 0;
  std::int64_t at = 0;
};

// The newest version that must be there after a kill: of all edits and writes the program told of.
int promised(const std::vector<Edit>& edits, const std::vector<int>& held, std::int64_t killed) {
  int out = 0;
  for (const int version : held)
    out = std::max(out, version);
  for (std::size_t i = 0; i < edits.size(); ++i)
    if ((i + 1 < edits.size() ? edits[i + 1].at : killed) - edits[i].at >= rest)
      out = std::max(out, edits[i].version);
  return out;
}

struct Tally {
  int kills = 0, brought_back = 0, rests = 0, exports = 0, lost_edits = 0;
  std::int64_t oldest_lost = 0; // ms before the kill
};

// Killed between naming a part file and renaming it, a program leaves it whole, and a later write clears it. Anything
// else beside the known names is said.
QString left_over(const QDir& folder, const QStringList& known, DiskStorage& disk) {
  for (const QString& name : folder.entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot)) {
    if (known.contains(name))
      continue;
    const QString path = folder.filePath(name);
    const auto bytes = disk.read(path.toStdString());
    if (!name.startsWith(".frelm-part-") || !bytes.ok())
      return "left behind: " + name;
    QXmlStreamReader xml(QByteArray::fromStdString(*bytes));
    while (!xml.atEnd())
      xml.readNext();
    if (xml.hasError() && !read_job(*bytes).ok())
      return "left behind and not whole: " + name;
    {
      QFile file(path);
      if (!file.open(QIODevice::ReadWrite) ||
          !file.setFileTime(QDateTime::currentDateTime().addSecs(-120), QFileDevice::FileModificationTime))
        return "its time can't be set: " + name;
    }
    const std::string beside = folder.filePath("beside").toStdString();
    if (!disk.write(beside, "1").ok() || !disk.remove(beside).ok())
      return "the folder can't be written";
    if (QFile::exists(path))
      return "not cleared: " + name;
  }
  return {};
}

// One program, killed and started again; what fails is said.
QString chain(int number, int kills, Tally& tally) {
  auto random = random_source(20261125 + static_cast<unsigned>(number));
  QTemporaryDir dir;
  const QString job = dir.filePath("job.frelm"), out = dir.filePath("out.svg");
  const std::string folder = dir.filePath("recovery").toStdString();
  DiskStorage disk;
  Document first = circle_job("Marigold").document;
  first.sheet.width = 1000;
  if (!disk.write(job.toStdString(), write_job(first, bundled_faces())).ok())
    return "the job can't be written";
  int least = 1000;
  for (int round = 0; round < kills; ++round) {
    QProcess program;
    program.start(FRELM_KILL_TARGET, {job, dir.filePath("recovery"), QString::number(1000 * number + round)});
    if (!program.waitForStarted() || !program.waitForReadyRead(60'000))
      return "the program does not start: " + program.readAllStandardError();
    std::this_thread::sleep_for(std::chrono::milliseconds(random() % (round % 3 == 0 ? 400 : 12000)));
    const std::int64_t killed = now();
    program.kill();
    program.waitForFinished();
    std::vector<Edit> edits;
    std::vector<int> held;
    for (const QByteArray& line : program.readAllStandardOutput().split('\n')) {
      const QList<QByteArray> words = line.split(' ');
      if (words.size() == 3 && words[0] == "edit")
        edits.push_back({words[1].toInt(), words[2].toLongLong()});
      else if (words.size() == 2 && words[0] == "held")
        held.push_back(words[1].toInt());
    }
    least = std::max(least, promised(edits, held, killed));

    int found = 0;
    const auto bytes = disk.read(job.toStdString());
    const Result<Document> saved = bytes.ok() ? read_job(*bytes) : Result<Document>(bytes.error());
    if (!saved.ok())
      return "the saved job is damaged: " + QString::fromStdString(saved.error().text());
    found = static_cast<int>(saved->sheet.width);
    {
      Recovery next(folder, disk);
      for (const RecoveredJob& left : next.left_behind()) {
        const Result<Document> kept = read_job(left.bytes);
        if (!kept.ok() || QString::fromStdString(left.job_path) != job)
          return "a recovery file is damaged";
        found = std::max(found, static_cast<int>(kept->sheet.width));
        ++tally.brought_back;
      }
    }
    if (found < least)
      return QString("round %1: version %2 was promised, %3 is there").arg(round).arg(least).arg(found);
    if (QFile file(out); file.open(QIODevice::ReadOnly)) {
      QXmlStreamReader xml(&file);
      while (!xml.atEnd())
        xml.readNext();
      if (xml.hasError())
        return "the exported file is cut short: " + xml.errorString();
      ++tally.exports;
    }
    if (const QString wrong = left_over(QDir(dir.path()), {"job.frelm", "out.svg", "recovery"}, disk); !wrong.isEmpty())
      return wrong;
    ++tally.kills;
    tally.rests += promised(edits, {}, killed) > 0 ? 1 : 0;
    for (const Edit& e : edits)
      if (e.version > found) {
        ++tally.lost_edits;
        tally.oldest_lost = std::max(tally.oldest_lost, killed - e.at);
      }
  }
  return {};
}

} // namespace

class TestKill : public QObject {
  Q_OBJECT

private slots:
  void what_is_promised() {
    const std::vector<Edit> edits{{1, 0}, {2, 100}, {3, 5100}, {4, 5200}};
    QCOMPARE(promised(edits, {}, 5300), 2);   // 2 rested for 5 s
    QCOMPARE(promised(edits, {}, 10'199), 2); // 4 not yet
    QCOMPARE(promised(edits, {}, 10'200), 4);
    QCOMPARE(promised(edits, {3}, 5300), 3);
    QCOMPARE(promised({}, {}, 9000), 0);
  }

  void nothing_is_ever_lost() {
    constexpr int beside = 8;
    const int asked = qEnvironmentVariableIntValue("FRELM_KILLS");
    const int each = std::max(1, (asked > 0 ? asked : 40) / beside);
    std::vector<Tally> tallies(beside);
    std::vector<QString> failed(beside);
    {
      std::vector<std::jthread> threads;
      for (int i = 0; i < beside; ++i)
        threads.emplace_back([&, i] { failed[std::size_t(i)] = chain(i, each, tallies[std::size_t(i)]); });
    }
    Tally all;
    for (const Tally& t : tallies) {
      all.kills += t.kills, all.brought_back += t.brought_back, all.rests += t.rests, all.exports += t.exports;
      all.lost_edits += t.lost_edits;
      all.oldest_lost = std::max(all.oldest_lost, t.oldest_lost);
    }
    std::printf(
        "%d kills, %d with a rest of 5 s before; %d recovery files found, %d exports whole; %d edits lost, the oldest "
        "%.1f s old\n",
        all.kills, all.rests, all.brought_back, all.exports, all.lost_edits, double(all.oldest_lost) / 1000);
    for (const QString& f : failed)
      QVERIFY2(f.isEmpty(), qPrintable(f));
    QCOMPARE(all.kills, each * beside);
    QVERIFY(all.brought_back > 0 && all.rests > 0 && all.exports > 0);
  }
};

QTEST_GUILESS_MAIN(TestKill)
#include "test_kill.moc"
