// The Knife view by hand: play and scrub, what cuts it, the order by hand, sending with pause, fault and going on.
#include "document/edits.h"
#include "document/job_file.h"
#include "document/outline_edits.h"
#include "formats/export.h"
#include "send/cutter_process.h"
#include "support/drawn.h"
#include "window_fixture.h"

#include <QElapsedTimer>
#include <QListWidget>
#include <csignal>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

// Rings in a row, each an outer and an inner line.
Document rings(int n, const std::vector<Material>& materials = {}) {
  Document d;
  d.sheet = {600, 300};
  d.materials = materials;
  for (int i = 0; i < n; ++i) {
    Piece p;
    p.name = "Ring " + std::to_string(i + 1);
    p.content = OutlinePiece{
        std::make_shared<const Outline>(drawn(disc(40 + 45 * i, 150, 20) + disc(40 + 45 * i, 150, 10, true))),
        Finish{{}},
        nullptr,
        {}};
    d = add_piece(std::move(d), std::move(p)).document;
  }
  return d;
}

struct Bench : WindowFixture {
  explicit Bench(Document d) {
    session().apply("drawn", std::move(d), std::vector<PieceId>{});
    settle();
    QTest::keyClick(&window, Qt::Key_F9);
    (void)QTest::qWaitFor([&] { return knife().current() && knife().plan() != nullptr; }, 10'000);
    settle();
  }
  KnifePlan& knife() { return window.knife(); }
  TimeView& time() { return *window.time_strip().view(); }
  std::vector<std::string> order() {
    std::vector<std::string> out;
    for (const CutPath& p : knife().plan()->lines.order)
      out.push_back(knife().plan()->lines.sheet.pieces[p.piece].name + (p.depth > 0 ? " in" : ""));
    return out;
  }
  bool planned() {
    return QTest::qWaitFor([&] { return knife().current(); }, 10'000) && settle();
  }
  QPoint at(double seconds) { return {qRound(time().x_of(seconds)), time().height() / 2}; }
  void press(const QString& name) {
    auto* b = button(name);
    QVERIFY2(b != nullptr && b->isEnabled(), qPrintable(name));
    QTest::mouseClick(b, Qt::LeftButton);
  }
  void choose_cutter(const CutterProcess& cutter) {
    window.send_card().set_address(QString::fromStdString(cutter.address()));
    window.send_card().refresh();
  }
  bool sent() {
    return QTest::qWaitFor([&] { return !window.task().running() && !window.link().running(); }, 30'000);
  }
  QString told() {
    QString all;
    for (QLabel* l : window.send_card().findChildren<QLabel*>())
      if (l->isVisible())
        all += l->text() + "\n";
    return all;
  }
};

} // namespace

class TestKnifeWindow : public QObject {
  Q_OBJECT

private slots:
  void its_own_cards_and_line_of_time() {
    Bench f(rings(3));
    QVERIFY(f.window.time_strip().isVisible() && !f.window.strip().isVisible() && f.window.send_card().isVisible());
    QCOMPARE(f.knife().plan()->times.legs().size(), std::size_t{6});
    QVERIFY(f.window.time_strip().told().contains("6 paths") || f.window.time_strip().told().contains("knife up"));
    QTest::keyClick(&f.window, Qt::Key_F7);
    QVERIFY(!f.window.time_strip().isVisible() && f.window.strip().isVisible() && !f.window.send_card().isVisible());
    QVERIFY(f.knife().plan() == nullptr); // nothing is worked out that nobody sees
  }
  void play_and_scrub() {
    Bench f(rings(3));
    const double whole = f.knife().plan()->times.seconds();
    QCOMPARE(f.knife().time(), whole); // all is cut
    f.press("Play");
    QVERIFY(f.knife().playing() && f.knife().time() < whole / 2);
    const double before = f.knife().time();
    QTRY_VERIFY(f.knife().time() > before);
    f.press("Pause");
    const double held = f.knife().time();
    QTest::qWait(50);
    QVERIFY(!f.knife().playing() && f.knife().time() == held);
    // The hand takes it anywhere.
    QTest::mousePress(&f.time(), Qt::LeftButton, {}, f.at(whole / 4));
    QVERIFY(std::abs(f.knife().time() - whole / 4) < whole / 100);
    QMouseEvent move(QEvent::MouseMove, f.at(whole / 2), f.time().mapToGlobal(f.at(whole / 2)), Qt::NoButton,
                     Qt::LeftButton, {});
    QApplication::sendEvent(&f.time(), &move);
    QTest::mouseRelease(&f.time(), Qt::LeftButton, {}, f.at(whole / 2));
    QVERIFY(std::abs(f.knife().time() - whole / 2) < whole / 100);
    QVERIFY(f.knife().lit() == f.knife().plan()->times.at(whole / 2).path);
    // Keys: path by path, to the ends, and play.
    f.time().setFocus();
    QTest::keyClick(&f.time(), Qt::Key_Home);
    QCOMPARE(f.knife().time(), 0.0);
    for (const CutLeg& leg : f.knife().plan()->times.legs()) {
      QTest::keyClick(&f.time(), Qt::Key_Right);
      QCOMPARE(f.knife().time(), leg.down);
    }
    QTest::keyClick(&f.time(), Qt::Key_Left);
    QCOMPARE(f.knife().time(), f.knife().plan()->times.legs()[4].down);
    QTest::keyClick(&f.time(), Qt::Key_End);
    QCOMPARE(f.knife().time(), whole);
    QTest::keyClick(&f.time(), Qt::Key_Space);
    QVERIFY(f.knife().playing());
    f.knife().set_speed(1000);
    QTRY_VERIFY(!f.knife().playing()); // it ends by itself
    QCOMPARE(f.knife().time(), whole);
  }
  void the_canvas_shows_what_is_cut_by_now() {
    Bench f(rings(3));
    const auto dark = [&] { // px of what is cut
      const QImage shot = f.window.canvas().grab().toImage().convertToFormat(QImage::Format_RGB32);
      qsizetype n = 0;
      for (int y = 0; y < shot.height(); ++y)
        for (int x = 0; x < shot.width(); ++x)
          n += qGray(shot.pixel(x, y)) < 90 ? 1 : 0;
      return n;
    };
    const qsizetype all = dark();
    f.knife().set_time(0);
    const qsizetype none = dark();
    f.knife().set_time(f.knife().plan()->times.seconds() / 2);
    const qsizetype half = dark();
    QVERIFY2(none < half && half < all, fmt::format("{} {} {}", none, half, all).c_str());
    f.knife().set_time(0);
    QCOMPARE(dark(), none); // back again
  }
  void what_cuts_it_is_said_here() {
    Bench f(rings(2));
    f.choose("What cuts it", "Torch");
    QVERIFY(f.planned());
    const Material* m = material_of(f.document().materials, f.document().pieces[0]->colour);
    QVERIFY(m != nullptr && m->machine == Machine::Torch && m->tool == usual_tool(Machine::Torch));
    f.type_measure("Width of the kerf", "4");
    f.choose("The way in and out", "None");
    QVERIFY(f.planned());
    // Half of it outside: the outer line is as much longer.
    const double outer = f.knife().plan()->times.legs()[1].cut;
    QVERIFY2(std::abs(outer - 2 * pi * 22) < 0.05, fmt::format("{}", outer).c_str());
    f.choose("What cuts it", "Blade");
    f.type_measure("Distance of the blade's tip", "0.25");
    f.type_measure("Passes", "2");
    QVERIFY(f.planned());
    QVERIFY(f.document().materials.back().tool.tip == 0.25 && f.document().materials.back().tool.passes == 2);
    QVERIFY(f.knife().plan()->times.legs()[1].cut > 2 * 2 * pi * 20 - 0.1);
    const QString file = f.dir.filePath("job.frelm");
    QVERIFY(f.save(file));
    QVERIFY(f.window.open_file(file) && f.document().materials.back().tool.passes == 2);
    while (f.session().history().can_undo())
      f.session().undo();
  }
  void the_order_by_hand() {
    Bench f(rings(3));
    const std::vector<std::string> planned = f.order();
    QListWidget* list = f.window.order_card().list();
    QCOMPARE(list->count(), 6);
    // The last ring's outer line to the front: its inner one stays before it.
    QVERIFY(!planned[5].ends_with(" in"));
    list->setCurrentRow(5);
    while (f.button("Earlier")->isEnabled()) {
      const std::vector<std::string> before = f.order();
      f.press("Earlier");
      QVERIFY(f.planned());
      if (f.order() == before)
        break;
    }
    std::vector<std::string> got = f.order();
    QCOMPARE(got[0] + "," + got[1], planned[5] + " in," + planned[5]);
    QCOMPARE(list->currentRow(), 1); // still chosen
    QVERIFY(!f.document().order_by_hand.empty());
    // A file has that order.
    const CutPlan plan = cut_plan(*cut_sheet(f.document(), f.session().evaluator()), f.document().materials);
    QVERIFY(plan.sheet.pieces[plan.order[0].piece].name == got[1]);
    // Dragged: the model tells of the move.
    f.session().undo();
    QVERIFY(f.planned());
    const std::vector<std::string> before = f.order();
    list->model()->moveRow({}, 0, {}, 6);
    QApplication::processEvents();
    QVERIFY(f.planned());
    QVERIFY(f.order() != before);
    f.press("As planned");
    QVERIFY(f.planned());
    QVERIFY(f.order() == planned && f.document().order_by_hand.empty());
    // What is deleted goes out of it.
    list->setCurrentRow(5);
    f.press("Earlier");
    QVERIFY(f.planned());
    const PieceId gone = f.document().pieces[0]->id;
    f.session().apply("delete", remove_pieces(f.document(), {gone}).document);
    for (const CutTurn& t : f.document().order_by_hand)
      QVERIFY(t.piece != gone);
    QVERIFY(f.planned());
    QCOMPARE(f.order().size(), std::size_t{4});
  }
  void larger_than_its_roll() {
    Document d = rings(12);
    d.sheet = {1200, 600};
    for (const auto& p : Document(d).pieces)
      d = edit_nodes(d, p->id, [](const Outline& o) { return o.transformed(Affine::scaling(2, 2)); });
    d.materials = shipped_materials();
    d.materials.front().colour = d.pieces.front()->colour, d.materials.front().width = 60;
    std::erase_if(d.materials, [&](const Material& m) {
      return &m != &d.materials.front() && m.colour == d.materials.front().colour;
    });
    Bench f(d); // 1070 × 80 mm on a roll of 60 mm
    const auto panels = [&] { return f.knife().plan()->panels.size(); };
    QCOMPARE(panels(), std::size_t{0});
    QCOMPARE(f.session().check().findings.front().kind, FindingKind::TooLarge);
    f.type_measure("Overlap of panels", "5");
    QVERIFY(f.planned());
    QCOMPARE(panels(), std::size_t{2});
    const std::size_t all = f.knife().plan()->drive.plan.order.size();
    auto* which = f.find<QComboBox>("Which panel");
    which->setCurrentIndex(which->findText("2 of 2"));
    emit which->activated(which->currentIndex());
    QVERIFY(f.planned());
    QCOMPARE(f.knife().panel(), std::size_t{2});
    QVERIFY(f.knife().plan()->drive.plan.order.size() < all && panels() == 2);
    QVERIFY(f.button("Send panel 2") != nullptr);
    const QString file = f.dir.filePath("panels.frelm");
    QVERIFY(f.save(file) && f.window.open_file(file) && f.document().materials.front().panel_overlap == 5);
    QVERIFY(f.planned());
    f.type_measure("Overlap of panels", "0");
    QVERIFY(f.planned());
    QVERIFY(f.knife().panel() == 0 && panels() == 0); // nothing is left out for good
  }
  void a_path_under_the_hand_is_lit() {
    Bench f(rings(2));
    const QPoint on = f.px({60, 150}); // the first ring's outer line
    QMouseEvent move(QEvent::MouseMove, on, f.window.canvas().mapToGlobal(on), Qt::NoButton, Qt::NoButton, {});
    QApplication::sendEvent(&f.window.canvas(), &move);
    QVERIFY(f.knife().lit());
    const CutPath& path = f.knife().plan()->lines.order[*f.knife().lit()];
    QVERIFY(path.depth == 0 && path.piece == 0);
  }

  void send_pause_and_go_on() {
    Bench f(rings(8));
    CutterProcess cutter({}, "40");
    f.choose_cutter(cutter);
    f.press("Send all");
    QTRY_VERIFY(f.window.link().running() && f.window.link().state().path >= 2);
    f.press("Pause");
    QTRY_VERIFY(f.window.link().state().doing == SendDoing::Paused);
    const std::size_t at = f.window.link().state().path;
    QTest::qWait(200);
    QVERIFY(f.window.link().state().path == at && f.told().contains("Paused before path"));
    f.press("Go on");
    QVERIFY(f.sent());
    QVERIFY(!f.window.link().report().stopped);
    QVERIFY2(f.told().contains("All 16 paths are cut"), qPrintable(f.told()));
    QVERIFY(off(strokes_of(cutter.end_when_ready()), test::planned(*f.window.link().work())) <= 0.025);
    // The log has it.
    DiskStorage disk;
    const auto log = read_cut_log(disk, f.window.cut_log().toStdString());
    QVERIFY(log->size() == 1 && log->front().paths == 16 && log->front().ended.empty());
    f.press("Log…");
    QVERIFY(f.find<QTableWidget>("Cuts so far") != nullptr && f.find<QTableWidget>("Cuts so far")->rowCount() == 1);
  }
  void a_fault_and_the_rest_on_another() {
    Bench f(rings(8));
    {
      CutterProcess cutter({"--fault", "power-loss@300"}, "40");
      f.choose_cutter(cutter);
      f.press("Send all");
      QVERIFY(f.sent());
    }
    const std::size_t next = f.window.link().report().next;
    QVERIFY(next > 0 && next < 16 && f.told().contains("connection broke"));
    // The job is changed meanwhile; what was begun goes on as it was.
    f.session().apply("another", rings(1));
    QVERIFY(f.planned());
    CutterProcess cutter;
    f.choose_cutter(cutter);
    f.press(QString("Go on from path %1").arg(next + 1));
    QVERIFY(f.sent() && !f.window.link().report().stopped);
    std::vector<std::vector<Point>> rest = test::planned(*f.window.link().work());
    rest.erase(rest.begin(), rest.begin() + static_cast<std::ptrdiff_t>(next));
    QVERIFY(off(strokes_of(cutter.end_when_ready()), rest) <= 0.025);
  }
  void cancelled_and_nobody_there() {
    Bench f(rings(8));
    CutterProcess cutter({}, "20");
    f.choose_cutter(cutter);
    f.press("Send all");
    QTRY_VERIFY(f.window.link().running() && f.window.link().state().path >= 1);
    f.press("Cancel");
    QVERIFY(f.sent());
    QVERIFY2(f.told().contains("Cancelled"), qPrintable(f.told()));
    f.window.send_card().set_address("tcp:127.0.0.1:1");
    f.press("Send all");
    QVERIFY(f.sent());
    QVERIFY2(f.told().contains("nobody answers there"), qPrintable(f.told()));
    QVERIFY(f.window.bar().text().contains("nobody answers there"));
  }
  void the_practice_cutter_comes_by_itself() {
    Bench f(rings(1));
    f.window.send_card().set_address("practice");
    f.press("Send all");
    QTRY_VERIFY(f.window.link().running() && f.window.link().practice().state() == QProcess::Running);
    QVERIFY(f.sent() && !f.window.link().report().stopped);
  }
  void closed_while_it_sends() {
    CutterProcess cutter({}, "5");
    {
      Bench f(rings(8));
      f.choose_cutter(cutter);
      f.press("Send all");
      QTRY_VERIFY(f.window.link().running());
    } // the window goes, and the blade is lifted
    QVERIFY(strokes_of(cutter.end_when_ready()).size() < 16);
  }
  void nothing_to_cut() {
    Bench f(Document{});
    QVERIFY(f.knife().plan() != nullptr && f.knife().plan()->times.legs().empty());
    QVERIFY(!f.window.time_strip().play_button()->isEnabled() && !f.button("Send all")->isEnabled());
    f.knife().play(true);
    QVERIFY(!f.knife().playing());
  }
};

QTEST_MAIN(TestKnifeWindow)
#include "test_knife_window.moc"
