// What happens while a hand holds something, on a disk that fails or is slow, and after the program was killed.
#include "app/check/check_panel.h"
#include "app/menus/add_menu.h"
#include "app/menus/edit_menu.h"
#include "app/menus/lettering_menu.h"
#include "app/window/recovery_list.h"
#include "app/window/safe_application.h"
#include "window_fixture.h"

#include "document/job_file.h"
#include "document/outline_edits.h"
#include "document/piece_name.h"

#include <QListView>

using namespace frelm;
using namespace frelm::test;

namespace {

// A disk on which every nth save fails, or all writes, or each takes a while.
class BadDisk final : public Storage {
public:
  Result<std::string> read(const std::string& path) override { return disk_.read(path); }
  Result<Done> write(const std::string& path, const std::string& bytes) override {
    std::this_thread::sleep_for(std::chrono::milliseconds(slow_ms.load()));
    const bool counts = fail_each == 1 || path.find("recovery") == std::string::npos; // the others come when they like
    if (fail_each > 0 && counts && ++writes % fail_each == 0)
      return Error{ErrorCode::Unwritable,
                   as_it_is("the file can't be written: No space left on device; free some space"), as_it_is(path)};
    return disk_.write(path, bytes);
  }
  Result<Done> remove(const std::string& path) override { return disk_.remove(path); }
  std::atomic<int> fail_each = 0, slow_ms = 0, writes = 0;

private:
  DiskStorage disk_;
};

PieceId circle_at(WindowFixture& f, Point at, double radius) {
  Added added = add_piece(f.document(), new_circle(at, radius));
  f.session().apply("circle", added.document, std::vector<PieceId>{added.id});
  return added.id;
}

} // namespace

class TestOtherHands : public QObject {
  Q_OBJECT

private slots:
  void saving_during_a_drag_writes_what_was_before_it() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    QVERIFY(f.settle());
    const Document before = f.document();
    f.press_and_move(f.handle(HandleKind::Bead).at, {500, 300});
    QVERIFY(f.session().dragging());
    const QString path = f.dir.filePath("job.frelm");
    f.window.save_to(path);
    QVERIFY(QTest::qWaitFor([&] { return !f.window.saving(); }, 5000));
    QVERIFY(f.session().dragging()); // the hand goes on
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    DiskStorage disk;
    QVERIFY(*read_job(*disk.read(path.toStdString())) == before);
    QVERIFY(f.document() == before && !f.window.isWindowModified());
  }

  void what_changes_the_job_during_a_drag_ends_the_drag_first_data() {
    QTest::addColumn<QString>("what");
    for (const char* w : {"undo", "delete", "select-all", "edit", "open"})
      QTest::newRow(w) << w;
  }
  void what_changes_the_job_during_a_drag_ends_the_drag_first() {
    QFETCH(QString, what);
    WindowFixture f;
    const PieceId circle = circle_at(f, {200, 200}, 60);
    const Document before = f.document();
    f.window.canvas().set_tool(ToolKind::Nodes);
    f.settle();
    const Point node{200, 140};
    f.press_and_move(node, {200, 100});
    QVERIFY(f.session().dragging());
    if (what == "undo")
      f.session().undo(); // past the making of what is held
    if (what == "delete")
      f.session().apply("Delete", remove_pieces(f.document(), {circle}).document, std::vector<PieceId>{});
    if (what == "select-all")
      f.session().select({});
    if (what == "edit")
      f.session().edit("Rename", circle, [](Piece& p) { p.name = "Ring"; });
    if (what == "open")
      f.session().reset({});
    QVERIFY(!f.session().dragging() && !f.window.canvas().hand_down());
    const Document then = f.document();
    // The hand does not know yet: it moves on and lets go.
    const QPoint at = f.px({230, 90});
    QMouseEvent move(QEvent::MouseMove, at, f.window.canvas().mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(&f.window.canvas(), &move);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, at);
    QVERIFY(f.document() == then && !f.session().dragging());
    if (what == "undo" || what == "delete" || what == "open")
      QVERIFY(f.document().find(circle) == nullptr);
    else
      QVERIFY(f.document().find(circle)->guide()->shape == before.find(circle)->guide()->shape);
  }

  void a_finding_of_a_piece_that_is_gone_does_nothing() {
    WindowFixture f;
    const PieceId circle = circle_at(f, {10, 200}, 60); // reaches past the edge
    f.session().edit("knife", circle, [](Piece& p) { p.destination = Destination::Knife; });
    QVERIFY(QTest::qWaitFor([&] { return f.session().check().to_look_at() == 1; }, 5000));
    Finding old = f.session().check().findings.front();
    f.session().apply("Delete", remove_pieces(f.document(), {circle}).document, std::vector<PieceId>{});
    auto* panel = f.window.findChild<CheckPanel*>();
    emit panel->look_at(old);
    QVERIFY(f.session().selection().empty());
    delete_selected(f.window.desk());
    emit panel->cure({circle}, Cure::MoveOntoSheet);
    QVERIFY(f.settle());
    QVERIFY(f.window.bar().text().contains("no longer there"));
  }

  void edits_that_no_file_could_hold_are_refused_and_told() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const Document before = f.document();
    f.session().edit("Change size", f.selected().id, [](Piece& p) { p.lettering()->recipe.letters()->size = NAN; });
    QVERIFY(f.document() == before);
    QVERIFY(f.window.bar().text().contains("size") && f.window.bar().text().contains("nothing was changed"));
    f.window.open_card(&f.window.bend_card()); // a field that let it through goes back to what holds
    auto* offset = f.find<MeasureField>("Base offset");
    QVERIFY(offset != nullptr);
    const QString was = offset->text();
    offset->set_range(-1e9, 1e9);
    f.type_measure("Base offset", "20000000");
    QVERIFY(f.document() == before);
    QCOMPARE(offset->text(), was);
    Document tiny = f.document(); // a badge has no room on a sheet of 1 mm
    tiny.sheet = {1, 1};
    f.session().apply("sheet", tiny);
    add_badge(f.window.desk());
    QVERIFY(f.window.bar().text().contains("band"));
  }

  void hundreds_of_findings_are_one_row_that_unfolds_steps_and_is_cured_at_once() {
    WindowFixture f;
    Document d;
    constexpr int many = 300;
    for (int i = 0; i < many; ++i) {
      Piece ring = new_circle({-5, 4 + 1.3 * i}, 0.5); // beside the sheet
      ring.destination = Destination::Knife;
      d = add_piece(std::move(d), std::move(ring)).document;
    }
    f.session().apply("rings", d, std::vector<PieceId>{});
    QVERIFY(QTest::qWaitFor([&] { return f.session().check().to_look_at() == many; }, 20'000));
    auto* panel = f.window.findChild<CheckPanel*>();
    const QAbstractItemModel& rows = *panel->list()->model();
    QCOMPARE(rows.rowCount(), 1);
    panel->step(1);
    QCOMPARE(rows.rowCount(), many + 1);
    const std::vector<PieceId> first = f.session().selection();
    panel->step(1);
    QVERIFY(f.session().selection() != first && f.session().selection().size() == 1);
    panel->step(-2);
    panel->list()->setCurrentIndex(rows.index(0, 0));
    QVERIFY(QTest::qWaitFor([&] { return f.button("Move onto the sheet") != nullptr; }, 5000));
    QTest::mouseClick(f.button("Move onto the sheet"), Qt::LeftButton);
    QVERIFY(QTest::qWaitFor([&] { return f.session().check().to_look_at() == 0 && !f.session().busy(); }, 20'000));
    QCOMPARE(f.session().history().undo_name(), std::string("Move onto the sheet"));
    f.session().undo();
    QVERIFY(f.document() == d);
  }

  void a_disk_that_fails_now_and_then_loses_nothing_and_is_told_once() {
    auto disk = std::make_shared<BadDisk>();
    WindowFixture f(disk);
    f.letter_on_circle("Marigold");
    disk->fail_each = 1; // full
    f.window.autosave().keep_now();
    QVERIFY(QTest::qWaitFor([&] { return f.window.bar().text().contains("No space left"); }, 5000));
    f.window.bar().dismiss();
    QVERIFY(!f.save(f.dir.filePath("job.frelm")));
    QVERIFY(f.window.isWindowModified());
    disk->fail_each = 0; // room again, and nothing edited since: it is tried again by itself
    QVERIFY(QTest::qWaitFor([&] { return QFile::exists(f.dir.filePath("recovery/0.frelm")); }, 8000));
    disk->fail_each = 2;
    int saved = 0;
    for (int i = 0; i < 6; ++i) {
      f.session().edit("Move", f.document().pieces.back()->id, [&](Piece& p) { p.name = std::to_string(i); });
      const bool well = f.save(f.dir.filePath("job.frelm"));
      saved += well;
      QCOMPARE(!f.window.isWindowModified(), well);
      if (well)
        QVERIFY(*read_job(*disk->read(f.dir.filePath("job.frelm").toStdString())) == f.document());
    }
    QVERIFY(saved > 0 && saved < 6);
  }

  void a_slow_disk_holds_nothing_up_and_saves_in_order() {
    auto disk = std::make_shared<BadDisk>();
    WindowFixture f(disk);
    f.letter_on_circle("Marigold");
    disk->slow_ms = 400;
    const QString path = f.dir.filePath("job.frelm");
    f.window.save_to(path);
    QVERIFY(f.window.saving());
    for (int i = 0; i < 5; ++i) { // edits and further saves meanwhile
      f.session().edit("Name", f.document().pieces.back()->id, [&](Piece& p) { p.name = "v" + std::to_string(i); });
      f.window.save_to(path);
    }
    QVERIFY(QTest::qWaitFor([&] { return !f.window.saving() && !f.window.isWindowModified(); }, 10'000));
    QVERIFY(*read_job(*disk->read(path.toStdString())) == f.document());
  }

  void several_jobs_left_behind_are_listed_and_bringing_back_asks_first() {
    QTemporaryDir dir;
    DiskStorage disk;
    FaceLibrary faces(data_folder("faces").toStdString(), false);
    const std::string folder = dir.filePath("recovery").toStdString();
    std::vector<Document> jobs(2);
    {
      Recovery a(folder, disk), b(folder, disk); // two programs that were killed
      for (int i = 0; i < 2; ++i) {
        Piece p = new_lettering(jobs[i], i == 0 ? U"Kite" : U"Wake", {200, 200});
        jobs[i] = add_piece(std::move(jobs[i]), std::move(p)).document;
      }
      QVERIFY(a.keep("/jobs/kite\nand more.frelm", write_job(jobs[0], faces)).ok());
      QVERIFY(b.keep("", write_job(jobs[1], faces)).ok());
    }
    MainWindow window(faces, {dir.filePath("recovery"), {}, dir.filePath("settings.ini"), data_folder("demo")});
    window.resize(1280, 800);
    window.show();
    letter_it(window.desk(), "Mine");
    window.offer_recovery();
    RecoveryList* list = window.recovery_list();
    QVERIFY(list != nullptr && list->count() == 2);
    Recovery other(folder, disk); // another program at once is not offered them
    QVERIFY(other.left_behind().empty());
    QVERIFY(QTest::qWaitFor(
        [&] {
          const auto pictures = list->findChildren<QLabel*>("picture");
          return std::all_of(pictures.begin(), pictures.end(), [](QLabel* l) { return !l->pixmap().isNull(); });
        },
        10'000));
    QPushButton* back = nullptr;
    for (QPushButton* b : list->findChildren<QPushButton*>())
      if (b->accessibleName().startsWith("Bring back kite"))
        back = b;
    QVERIFY(back != nullptr);
    QTest::mouseClick(back, Qt::LeftButton);
    // What is in the window is not saved: it asks, and nothing has changed yet.
    QVERIFY(window.bar().isVisible());
    QCOMPARE(window.session().document().pieces.size(), std::size_t{1});
    QVERIFY(display_name(*window.session().document().pieces[0], Unit::Millimetre) == "Mine");
    for (QPushButton* b : window.bar().findChildren<QPushButton*>())
      if (b->text() == "Give up the changes")
        QTest::mouseClick(b, Qt::LeftButton);
    QVERIFY(*window.session().document().pieces[0] == *jobs[0].pieces[0]);
    QCOMPARE(window.path(), QString("/jobs/kite\nand more.frelm"));
    // Forgotten only when it is safe again.
    QVERIFY(QTest::qWaitFor([&] { return !QFile::exists(QString::fromStdString(folder) + "/0.frelm"); }, 5000) ||
            QFile::exists(QString::fromStdString(folder) + "/2.frelm"));
    QCOMPARE(list->count(), std::size_t{1});
  }

  void a_job_with_a_bad_piece_opens_with_the_rest_and_is_not_saved_over_unasked() {
    WindowFixture f;
    Document d;
    d = add_piece(std::move(d), new_circle({100, 100}, 50)).document;
    d = add_piece(std::move(d), new_circle({200, 100}, 40)).document;
    std::string bytes = write_job(d, f.faces);
    bytes.replace(bytes.find("40.0"), 4, "-4.0");
    DiskStorage disk;
    const QString path = f.dir.filePath("hurt.frelm");
    QVERIFY(disk.write(path.toStdString(), bytes).ok());
    QVERIFY(f.window.open_file(path));
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QVERIFY(f.window.bar().text().contains("piece 2") && f.window.bar().text().contains("radius"));
    QTest::keyClick(&f.window, Qt::Key_S, Qt::ControlModifier);
    QVERIFY(!f.window.saving() && f.window.bar().text().contains("gives them up"));
    QCOMPARE(*disk.read(path.toStdString()), bytes);
    QVERIFY(QTest::qWaitFor([&] { return f.button("Save over it") != nullptr; }, 5000));
    QTest::mouseClick(f.button("Save over it"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(*read_job(*disk.read(path.toStdString())) == f.document());
  }

  void exports_are_what_their_name_says() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    QVERIFY(f.settle());
    DiskStorage disk;
    const std::pair<const char*, const char*> begins[]{{"b.PNG", "\x89PNG"}, {"b.svg", "<?xml"}, {"b.dxf", "999"},
                                                       {"b.pdf", "%PDF"},    {"b.eps", "%!PS"},  {"b.plt", "IN;"}};
    for (const auto& [name, first] : begins) {
      f.window.export_to(f.dir.filePath(name));
      QVERIFY(f.settle());
      QVERIFY2(disk.read(f.dir.filePath(name).toStdString())->starts_with(first), name);
    }
    f.window.export_to(f.dir.filePath("b.doc"));
    QVERIFY(f.settle());
    QVERIFY(!QFile::exists(f.dir.filePath("b.doc")) && f.window.bar().text().contains(".svg"));
  }

  void what_is_thrown_in_a_handler_is_told_and_changes_nothing() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const Document before = f.document();
    auto* app = qobject_cast<SafeApplication*>(qApp);
    QVERIFY(app != nullptr);
    connect(app, &SafeApplication::thrown, &f.window, &MainWindow::went_wrong);
    QTimer::singleShot(0, &f.window,
                       [] { (void)sure(Result<int>(bad_input(as_it_is("no number"))), "there is a number"); });
    QTest::qWait(20);
    QVERIFY2(f.window.bar().text().contains("there is a number"), qPrintable(f.window.bar().text()));
    QVERIFY(f.document() == before);
  }

  void nodes_changed_since_a_release_are_told_before_they_go() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    release_selected(f.window.desk(), ReleaseAs::OnePiece, GuideAfter::Gone);
    QVERIFY(f.settle());
    const PieceId id = f.selected().id;
    f.session().apply("nodes", edit_nodes(f.document(), id, [](Outline o) {
                        return move_nodes(std::move(o), {{0, 0}}, {1, 1});
                      }));
    reopen_selected(f.window.desk());
    QVERIFY(f.document().find(id) != nullptr && f.window.bar().text().contains("Nodes were changed"));
    QVERIFY(QTest::qWaitFor([&] { return f.button("Reopen without them") != nullptr; }, 5000));
    QTest::mouseClick(f.button("Reopen without them"), Qt::LeftButton);
    QVERIFY(f.document().find(id) == nullptr && f.selected().lettering() != nullptr);
  }
};

int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
    qputenv("QT_QPA_PLATFORM", "offscreen");
  SafeApplication app(argc, argv);
  prepare_application();
  TestOtherHands test;
  return QTest::qExec(&test, argc, argv);
}
#include "test_other_hands.moc"
