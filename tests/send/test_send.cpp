// Sending to the practice cutter, a process of its own: what it draws, its faults, and how the sender goes on.
#include "cutter_process.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/material.h"
#include "send/cut_log.h"
#include "send/print_queue.h"
#include "send/send_job.h"
#include "send/send_to.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QDir>
#include <QElapsedTimer>
#include <csignal>
#include <fmt/format.h>
#include <thread>

using namespace frelm;
using namespace frelm::test;

namespace {

Document demo(const QString& name) {
  const Result<std::string> bytes =
      DiskStorage().read((QString(FRELM_SOURCE_DIR "/assets/demo/") + name).toStdString());
  return *read_job(*bytes);
}
// Boxes in a row: as many paths, of 80 mm each.
Document boxes(int n) {
  Document d;
  d.sheet = {600, 300};
  Outline all;
  for (int i = 0; i < n; ++i)
    all.append(drawn(box(10 + 25 * i, 200, 20, 20)));
  Piece p;
  p.content = OutlinePiece{std::make_shared<const Outline>(all), Finish{{}}, nullptr, {}};
  return add_piece(std::move(d), std::move(p)).document;
}
ToSend work_of(const Document& d) {
  return *to_send(d, evaluator(), {});
}
} // namespace

class TestSend : public QObject {
  Q_OBJECT

private slots:
  void what_is_drawn_is_the_plan_data() {
    QTest::addColumn<QString>("job");
    for (const QString& name : QDir(FRELM_SOURCE_DIR "/assets/demo").entryList({"*.frelm"}))
      QTest::newRow(qPrintable(name)) << name;
  }
  void what_is_drawn_is_the_plan() { // within 0.025 mm, its buffer never overrun
    QFETCH(QString, job);
    const Result<ToSend> work = to_send(demo(job), evaluator(), {});
    QVERIFY2(work.ok(), work.ok() ? "" : work.error().text().c_str());
    CutterProcess cutter({"--size", "5000x5000"});
    const auto wire = open_wire(cutter.address());
    const SendReport report = send_program(work->program, 0, **wire);
    QVERIFY2(!report.stopped, report.stopped ? report.stopped->text().c_str() : "");
    QCOMPARE(report.next, work->program.paths.size());
    QVERIFY(std::abs(report.cut - work->cut) < 1e-6);
    const QJsonObject cut = cutter.end_when_ready();
    const double worst = off(strokes_of(cut), planned(*work));
    QVERIFY2(worst <= 0.025, fmt::format("{}", worst).c_str());
    QCOMPARE(cut["lost_bytes"].toInt(), 0);
    QVERIFY(cut["most_in_buffer"].toInt() <= 1024 && cut["troubles"].toArray().isEmpty());
  }

  void the_time_is_as_estimated_data() {
    QTest::addColumn<QString>("job");
    for (const char* name : {"saltmarsh-badge", "marigold-transom", "tide-spiral", "yard-stack", "mussel-plate"})
      QTest::newRow(name) << QString(name) + ".frelm";
  }
  void the_time_is_as_estimated() { // within 3 % of the cutter's, each with its own planning ahead
    QFETCH(QString, job);
    const ToSend work = work_of(demo(job));
    CutterProcess cutter({"--size", "5000x5000"});
    const auto wire = open_wire(cutter.address());
    QVERIFY(!send_program(work.program, 0, **wire).stopped);
    const double took = cutter.end_when_ready()["seconds"].toDouble();
    QVERIFY2(std::abs(took / work.time.seconds - 1) <= 0.03, fmt::format("{} of {}", took, work.time.seconds).c_str());
  }
  void a_tool_is_sent_with_its_speed() {
    Document d = boxes(3);
    d.materials = {{"Tin", {}}};
    d.materials[0].tool = {.tip = 0.25, .overcut = 0.5, .speed = 40, .acceleration = 500};
    const ToSend work = work_of(d);
    QVERIFY(work.program.paths.front().bytes.find("VS4;\nAS0.05099;\n") != std::string::npos);
    CutterProcess cutter;
    const auto wire = open_wire(cutter.address());
    QVERIFY(!send_program(work.program, 0, **wire).stopped);
    const QJsonObject cut = cutter.end_when_ready();
    QVERIFY(off(strokes_of(cut), planned(work)) <= 0.025);
    QVERIFY(std::abs(cut["seconds"].toDouble() / work.time.seconds - 1) <= 0.03);
  }
  void small_buffers_are_not_overrun() {
    for (const char* bytes : {"64", "200", "5000"}) {
      const ToSend work = work_of(boxes(8));
      CutterProcess cutter({"--buffer", bytes});
      const auto wire = open_wire(cutter.address());
      const SendReport report = send_program(work.program, 0, **wire);
      QVERIFY2(!report.stopped, report.stopped ? report.stopped->text().c_str() : "");
      const QJsonObject cut = cutter.end_when_ready();
      QVERIFY(cut["lost_bytes"].toInt() == 0 && cut["most_in_buffer"].toInt() <= QString(bytes).toInt());
      QVERIFY(off(strokes_of(cut), planned(work)) <= 0.025);
    }
  }
  void over_a_serial_line() {
    const ToSend work = work_of(boxes(6));
    CutterProcess cutter({"--serial"});
    const auto wire = open_wire(cutter.address());
    QVERIFY2(wire.ok(), cutter.address().c_str());
    const SendReport report = send_program(work.program, 0, **wire);
    QVERIFY2(!report.stopped, report.stopped ? report.stopped->text().c_str() : "");
    QVERIFY(off(strokes_of(cutter.end_when_ready()), planned(work)) <= 0.025);
  }

  // Each fault: what is told, that nothing before it is sent again, and that the rest cut later is the rest.
  void faults_are_told_and_gone_on_from_data() {
    QTest::addColumn<QString>("fault");
    QTest::addColumn<QString>("told");
    QTest::newRow("unknown command") << "unknown-command@200"
                                     << "did not understand path";
    QTest::newRow("out of bounds") << "out-of-bounds@200"
                                   << "reaches farther than the cutter";
    QTest::newRow("stall") << "stall@200"
                           << "stopped answering in path";
    QTest::newRow("noise") << "noise@200"
                           << "garbled in path";
    QTest::newRow("no material") << "paper-out@200"
                                 << "no material at path";
    QTest::newRow("blade lifted") << "blade-lifted@200"
                                  << "blade was not down in path";
    QTest::newRow("paused there") << "pause@200"
                                  << "was paused at path";
    QTest::newRow("power") << "power-loss@200"
                           << "connection broke";
  }
  void faults_are_told_and_gone_on_from() {
    QFETCH(QString, fault);
    QFETCH(QString, told);
    const ToSend work = work_of(boxes(12));
    SendReport report;
    std::vector<std::vector<Point>> before;
    {
      CutterProcess cutter({"--fault", fault}, "60");
      const auto wire = open_wire(cutter.address());
      SendWatch watch;
      watch.patience = Milliseconds(300);
      QElapsedTimer timer;
      timer.start();
      report = send_program(work.program, 0, **wire, watch);
      QVERIFY(timer.elapsed() < 10'000); // no hang
      before = strokes_of(cutter.end());
    }
    QVERIFY(report.stopped);
    QVERIFY2(QString::fromStdString(report.stopped->text()).contains(told), report.stopped->text().c_str());
    QVERIFY(report.next >= 1 && report.next < 12);
    // What it says is cut is cut.
    QVERIFY(before.size() >= report.next);
    before.resize(report.next);
    std::vector<std::vector<Point>> all = planned(work), first = all;
    first.resize(report.next);
    QVERIFY(off(before, first) <= 0.025);
    // The rest on a machine that works.
    CutterProcess next;
    const auto wire = open_wire(next.address());
    const SendReport rest = send_program(work.program, report.next, **wire);
    QVERIFY(!rest.stopped && rest.next == 12);
    QVERIFY(off(strokes_of(next.end_when_ready()), all, report.next) <= 0.025);
    QVERIFY(std::abs(report.cut + rest.cut - work.cut) < 1e-6);
  }
  void a_pause_that_ends_is_waited_for_data() {
    QTest::addColumn<QString>("fault");
    QTest::addColumn<int>("doing");
    QTest::newRow("paused there") << "pause@200" << int(SendDoing::PausedThere);
    QTest::newRow("no material") << "paper-out@200" << int(SendDoing::NoMaterial);
  }
  void a_pause_that_ends_is_waited_for() {
    QFETCH(QString, fault);
    QFETCH(int, doing);
    const ToSend work = work_of(boxes(12));
    CutterProcess cutter({"--fault", fault}, "60");
    const auto wire = open_wire(cutter.address());
    bool seen = false;
    SendWatch watch;
    watch.progress = [&](const SendState& s) {
      if (!seen && int(s.doing) == doing) // material is loaded
        seen = true, ::kill(static_cast<pid_t>(cutter.id()), SIGUSR1);
    };
    const SendReport report = send_program(work.program, 0, **wire, watch);
    QVERIFY(seen && !report.stopped);
    QVERIFY(off(strokes_of(cutter.end_when_ready()), planned(work)) <= 0.025);
  }
  void pause_and_go_on() {
    const ToSend work = work_of(boxes(12));
    CutterProcess cutter({}, "60");
    const auto wire = open_wire(cutter.address());
    std::atomic<bool> pause = false;
    int held = 0;
    SendWatch watch;
    watch.pause = &pause;
    double last = -1;
    bool forwards = true;
    watch.progress = [&](const SendState& s) {
      forwards = forwards && s.cut >= last;
      last = s.cut;
      if (s.path >= 3 && held == 0)
        pause = true;
      if (s.doing == SendDoing::Paused && ++held == 20)
        pause = false;
    };
    const SendReport report = send_program(work.program, 0, **wire, watch);
    QVERIFY(!report.stopped && held >= 20 && forwards);
    QVERIFY(off(strokes_of(cutter.end_when_ready()), planned(work)) <= 0.025);
  }
  void cancelled_lifts_the_blade() {
    const ToSend work = work_of(boxes(12));
    CutterProcess cutter({}, "60");
    const auto wire = open_wire(cutter.address());
    std::stop_source stop;
    SendWatch watch;
    watch.stop = stop.get_token();
    watch.progress = [&](const SendState& s) {
      if (s.path >= 3)
        stop.request_stop();
    };
    const SendReport report = send_program(work.program, 0, **wire, watch);
    QVERIFY(report.stopped && report.stopped->code == ErrorCode::Cancelled && report.next >= 3 && report.next < 12);
    const QJsonObject cut = cutter.end_when_ready();
    QVERIFY(strokes_of(cut).size() <= report.next + 6); // what was in its buffer is forgotten
  }
  void nobody_there_and_the_wrong_port() {
    for (const auto& [address, told] : {std::pair{"tcp:127.0.0.1:1", "nobody answers there"},
                                        {"tcp:127.0.0.1", "address and a port"},
                                        {"serial:/dev/no-such-line", "can't be opened"},
                                        {"serial:/dev/null:fast", "device is wanted"},
                                        {"badge.plt", "tcp:HOST:PORT"}}) {
      const auto wire = open_wire(address);
      QVERIFY2(!wire.ok() && QString::fromStdString(wire.error().text()).contains(told), address);
    }
    CutterProcess deaf({"--fault", "stall"}); // something listens, and says nothing
    const auto wire = open_wire(deaf.address());
    const SendReport report = send_program(work_of(boxes(2)).program, 0, **wire);
    QVERIFY(report.stopped && report.next == 0);
    QVERIFY(QString::fromStdString(report.stopped->text()).contains("does not answer as a cutter does"));
  }
  // lp and lpstat as their callers see them (POSIX.1-2017, lp; lpstat -e is common practice, no source): a stand-in
  // that keeps what it is given.
  void to_a_printer_queue() {
    const QTemporaryDir folder;
    const auto program = [&](const QString& name, const QByteArray& does) {
      QFile file(folder.filePath(name));
      QVERIFY(file.open(QIODevice::WriteOnly));
      file.write("#!/bin/sh\n" + does);
      file.close();
      file.setPermissions(QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
    };
    const QByteArray path = qgetenv("PATH");
    const ToSend work = work_of(boxes(4));
    qputenv("PATH", folder.path().toUtf8()); // nothing there
    QVERIFY(print_queues().empty());
    SendReport report = queue_program(work.program, 0, "roll");
    QVERIFY(report.stopped && report.next == 0 && report.cut == 0);
    QVERIFY(QString::fromStdString(report.stopped->text()).contains("no printer queues"));
    qputenv("PATH", (folder.path() + ":").toUtf8() + path);
    program("lpstat", "echo roll\necho 'sheet cutter'\n");
    program("lp", QByteArray("[ \"$2\" = roll ] || exit 1\necho \"$@\" > ") + folder.path().toUtf8() +
                      "/asked\ncat > " + folder.path().toUtf8() + "/taken\n");
    QVERIFY(print_queues() == (std::vector<std::string>{"roll", "sheet cutter"}));
    report = send_to("queue:roll", work.program, 0);
    QVERIFY(report.handed_over && ended_now({}, report, 4).ended == "handed to a printer queue");
    QVERIFY(!report.stopped && report.next == 4 && std::abs(report.cut - 4 * 80) < 1e-6);
    QFile taken(folder.filePath("taken")), asked(folder.filePath("asked"));
    QVERIFY(taken.open(QIODevice::ReadOnly) && asked.open(QIODevice::ReadOnly));
    QCOMPARE(taken.readAll().toStdString(), program_text(work.program));
    QCOMPARE(asked.readAll(), QByteArray("-d roll -o raw -s\n"));
    // From the third path on; a queue that is not there; what would be an option; cancelled.
    QVERIFY(std::abs(queue_program(work.program, 2, "roll").cut - 2 * 80) < 1e-6);
    QVERIFY(queue_program(work.program, 0, "none").stopped->code == ErrorCode::NotFound);
    QVERIFY(queue_program(work.program, 0, "-x").stopped->code == ErrorCode::BadInput);
    program("lp", "sleep 30\n");
    std::stop_source stop;
    std::jthread later([&] {
      std::this_thread::sleep_for(Milliseconds(200));
      stop.request_stop();
    });
    QElapsedTimer clock;
    clock.start();
    QVERIFY(queue_program(work.program, 0, "roll", stop.get_token()).stopped->code == ErrorCode::Cancelled);
    QVERIFY(clock.elapsed() < 5000);
    qputenv("PATH", path);
  }
  void nothing_that_is_cut() {
    const auto nothing = to_send(Document{}, evaluator(), {});
    QVERIFY(!nothing.ok() && nothing.error().code == ErrorCode::BadInput);
  }
  void the_log_keeps_what_was_cut() {
    const QTemporaryDir folder;
    const std::string path = folder.filePath("cuts.log").toStdString();
    DiskStorage storage;
    QVERIFY(read_cut_log(storage, path)->empty());
    const CutLogEntry one{time_now(), "badge.frelm", "Madder", "tcp:127.0.0.1:1", 3, 12, 240.5, 8.25, "stopped"};
    QVERIFY(add_to_cut_log(storage, path, one).ok());
    QVERIFY(add_to_cut_log(storage, path, {}).ok());
    const std::string bytes = *storage.read(path);
    QVERIFY(storage.write(path, bytes + "{\"half a li").ok());
    QVERIFY(*read_cut_log(storage, path) == (std::vector<CutLogEntry>{one, {}}));
  }
};

QTEST_GUILESS_MAIN(TestSend)
#include "test_send.moc"
