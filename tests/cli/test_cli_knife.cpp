// plan, send and names on the command line, run as programs.
#include "cli/run.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/storage.h"
#include "send/cutter_process.h"
#include "support/fixtures.h"

#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

const QString badge = FRELM_SOURCE_DIR "/assets/demo/saltmarsh-badge.frelm";

QByteArray read(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}
QString written(const QTemporaryDir& dir, const QString& name, const QByteArray& bytes) {
  QFile file(dir.filePath(name));
  if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size())
    qFatal("no room for a test's file");
  return file.fileName();
}
QString job_of(const QTemporaryDir& dir, const std::string& text) {
  return written(dir, "job.frelm", QByteArray::fromStdString(write_job(circle_job(text).document, bundled_faces())));
}

} // namespace

class TestCliKnife : public QObject {
  Q_OBJECT

private slots:
  void plan_as_driven() {
    const QTemporaryDir dir;
    const Ran plain = run({"plan", badge});
    const Ran over = run({"plan", badge, "--overcut", "2", "-o", dir.filePath("o.json"), "--moves"});
    QCOMPARE(over.code, 0);
    const QJsonObject plan = QJsonDocument::fromJson(read(dir.filePath("o.json"))).object();
    const QJsonArray paths = plan["paths"].toArray();
    QCOMPARE(paths.size(), plain.json()["paths"].toInt());
    QVERIFY(std::abs(over.json()["cut_mm"].toDouble() - plain.json()["cut_mm"].toDouble() - 2 * double(paths.size())) <
            0.5);
    for (const QJsonValue& p : paths) {
      const QJsonArray moves = p["moves"].toArray();
      QVERIFY(p["closed"].toBool() && moves.size() > 4 && moves[0] != moves.last());
    }
    // A bit of 4 mm is too wide for counters of letters: told.
    const Ran router = run({"plan", badge, "--machine", "router", "--kerf", "4", "-o", dir.filePath("r.plt")});
    QVERIFY(router.code == 0 && router.json()["gone"].toInt() > 0 && QFile::exists(dir.filePath("r.plt")));
    QCOMPARE(run({"plan", badge, "--kerf", "-1"}).code, 2);
    QCOMPARE(run({"plan", badge, "--machine", "saw"}).code, 2);
  }
  void plan_in_panels() {
    const QTemporaryDir dir;
    const QString word = job_of(dir, "Saltmarsh Boatworks, Saltmarsh Boatworks");
    const Ran whole = run({"plan", word}), wide = run({"plan", word, "--panels", "10"});
    QCOMPARE(wide.json()["paths"].toInt(), whole.json()["paths"].toInt()); // it fits
    const Ran parted = run(
        {"plan", word, "--panels", "10", "--roll", "120", "-o", dir.filePath("p.svg"), "-o", dir.filePath("p.json")});
    QVERIFY(parted.code == 0 && parted.json()["paths"].toInt() > whole.json()["paths"].toInt());
    QVERIFY(read(dir.filePath("p.svg")).contains("panel 2 of "));
    run({"plan", word, "--panels", "10", "--roll", "120", "-o", dir.filePath("p.plt")});
    QVERIFY(read(dir.filePath("p.plt")).count("SP1;") == 1 && !read(dir.filePath("p.plt")).contains("SP2;"));
    int sum = 0;
    for (const char* panel : {"1", "2", "3", "4"})
      sum += run({"plan", word, "--panels", "10", "--roll", "120", "--panel", panel}).json()["paths"].toInt();
    QCOMPARE(sum, parted.json()["paths"].toInt());
    QCOMPARE(run({"plan", word, "--panels", "1000"}).code, 2);
  }
  void send_to_a_file_and_a_cutter() {
    const QTemporaryDir dir;
    const QString file = dir.filePath("b.plt");
    QCOMPARE(run({"send", badge, "--to", "file:" + file}).code, 0);
    QVERIFY(read(file).startsWith("IN;PA;\n") && read(file).endsWith("SP0;\n"));
    CutterProcess cutter;
    const QString log = dir.filePath("cuts.log");
    const Ran sent = run({"send", badge, "--to", QString::fromStdString(cutter.address()), "--log", log});
    QVERIFY2(sent.code == 0, sent.err.constData());
    const QJsonObject told = sent.json();
    QVERIFY(told["cut"].toInt() == told["paths"].toInt() && told["go_on_from"].isNull() && told["stopped"].isNull());
    const QJsonObject cut = cutter.end_when_ready();
    QCOMPARE(cut["strokes"].toArray().size(), told["paths"].toInt());
    QVERIFY(std::abs(cut["seconds"].toDouble() / told["estimated_seconds"].toDouble() - 1) < 0.03);
    QCOMPARE(read(log).count('\n'), 1);
  }
  void send_stops_and_goes_on() {
    int next = 0;
    {
      CutterProcess cutter({"--fault", "paper-out@1500"}, "300");
      const Ran sent = run({"send", badge, "--to", QString::fromStdString(cutter.address()), "--patience", "0.3"});
      QCOMPARE(sent.code, 2);
      QVERIFY2(sent.err.contains("no material at path"), sent.err.constData());
      next = sent.json()["go_on_from"].toInt();
      QVERIFY(next > 1 && !sent.json()["stopped"].isNull());
    }
    CutterProcess cutter;
    const Ran rest =
        run({"send", badge, "--to", QString::fromStdString(cutter.address()), "--from", QString::number(next)});
    QVERIFY(rest.code == 0);
    QCOMPARE(cutter.end_when_ready()["strokes"].toArray().size(), rest.json()["paths"].toInt() - next + 1);
    QCOMPARE(run({"send", badge, "--to", "tcp:127.0.0.1:1"}).code, 2);
    QCOMPARE(run({"send", badge, "--to", "nowhere"}).code, 2);
    const QTemporaryDir dir;
    const QString log = dir.filePath("cuts.log");
    QCOMPARE(run({"send", badge, "--to", "queue:no such queue", "--log", log}).code, 2);
    QVERIFY(read(log).contains("queue"));
    QCOMPARE(run({"send", badge, "--to", "file:/tmp/x.plt", "--from", "5000"}).code, 2);
  }
  void names_a_file_a_row() {
    const QTemporaryDir dir;
    const QString job = job_of(dir, "{name}");
    const QString list = written(dir, "l.csv", "name;berth\nMarigold;1\n;2\nTeal Heron;3\n");
    const Ran r = run({"names", job, list, "-o", dir.filePath("out")});
    QCOMPARE(r.code, 1); // a row failed
    QCOMPARE(r.json()["rows"].toInt(), 3);
    QCOMPARE(r.json()["written"].toInt(), 2);
    QCOMPARE(r.json()["failed"].toArray()[0].toObject()["row"].toInt(), 2);
    QCOMPARE(QDir(dir.filePath("out")).entryList(QDir::Files), (QStringList{"1-Marigold.svg", "3-Teal_Heron.svg"}));
    // In parts, by another format; the same files whatever the number of threads.
    int written_files = 0;
    for (const char* part : {"1/2", "2/2"})
      written_files += run({"names", job, list, "-o", dir.filePath("parts"), "--part", part, "--format", "dxf"})
                           .json()["written"]
                           .toInt();
    QCOMPARE(written_files, 2);
    run({"names", job, list, "-o", dir.filePath("one"), "--threads", "1"});
    for (const QString& f : QDir(dir.filePath("out")).entryList(QDir::Files))
      QCOMPARE(read(dir.filePath("one/" + f)), read(dir.filePath("out/" + f)));
    const Ran nest = run({"names", job, list, "-o", dir.filePath("nest"), "--nest", "--width", "900"});
    QVERIFY(nest.json()["sheets"].toInt() == 1 && QFile::exists(dir.filePath("nest/sheet-1.svg")));
    for (const QStringList& bad : {QStringList{"--part", "3/2"}, {"--part", "x"}, {"--format", "doc"}, {"--fit", "no"}})
      QCOMPARE(run(QStringList{"names", job, list, "-o", dir.filePath("bad")} + bad).code, 2);
    QCOMPARE(run({"names", badge, list, "-o", dir.filePath("bad")}).code, 2); // no places
    QCOMPARE(run({"names", job, dir.filePath("none.csv"), "-o", dir.filePath("bad")}).code, 2);
  }
};

QTEST_GUILESS_MAIN(TestCliKnife)
#include "test_cli_knife.moc"
