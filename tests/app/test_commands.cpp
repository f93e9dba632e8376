// The table of commands: every one can be found, has one key and a reason when it can't be done; the field that finds
// them does them.
#include "app/window/find_page.h"
#include "window_fixture.h"

#include <QClipboard>
#include <QLineEdit>
#include <QMenuBar>
#include <QTreeWidget>

using namespace frelm;
using namespace frelm::test;

namespace {

// The menu bar's words over an action, or nothing.
QString menu_of(const QMenuBar& bar, const QAction* action) {
  const std::function<bool(const QMenu*)> has = [&](const QMenu* menu) {
    for (const QAction* a : menu->actions())
      if (a == action || (a->menu() != nullptr && has(a->menu())))
        return true;
    return false;
  };
  for (const QAction* a : bar.actions())
    if (has(a->menu()))
      return QString(a->text()).remove('&');
  return {};
}

QString shown_row(const FindPage& page, int row) {
  const QTreeWidgetItem* item = page.findChild<QTreeWidget*>()->topLevelItem(row);
  return item == nullptr ? QString() : item->text(0) + " | " + item->text(1) + " | " + item->text(2);
}

} // namespace

class TestCommands : public QObject {
  Q_OBJECT

private slots:
  void every_command_has_words_a_menu_and_a_key_of_its_own() {
    WindowFixture f;
    const auto& all = f.window.commands().all();
    QVERIFY(all.size() > 90);
    QSet<QString> ids, keys, places;
    for (const CommandTable::Entry& e : all) {
      QVERIFY2(!ids.contains(e.command.id), qPrintable(e.command.id));
      ids.insert(e.command.id);
      QVERIFY2(!e.words().isEmpty() && static_cast<bool>(e.command.run), qPrintable(e.command.id));
      QVERIFY2(!places.contains(e.menu + e.words()), qPrintable(e.menu + e.words())); // no two of one name in a menu
      places.insert(e.menu + e.words());
      QCOMPARE(menu_of(*f.window.menuBar(), e.action), e.menu.section(" › ", 0, 0));
      for (const QKeySequence& k : e.action->shortcuts()) {
        QVERIFY2(!keys.contains(k.toString()), qPrintable(k.toString()));
        keys.insert(k.toString());
      }
      QCOMPARE(f.window.commands().action(e.command.id), e.action);
    }
    QVERIFY(f.window.commands().action("no.such") == nullptr);
  }

  void what_cannot_be_done_says_why_data() {
    QTest::addColumn<QString>("id");
    QTest::addColumn<QString>("nothing"); // the reason with nothing selected, with a lettering, with a guide
    QTest::addColumn<QString>("lettering");
    QTest::addColumn<QString>("guide");
    const QString none = "Nothing is selected", lettering = "Select a lettering first";
    QTest::newRow("copy") << "edit.copy" << none << ""
                          << "";
    QTest::newRow("undo") << "edit.undo"
                          << ""
                          << ""
                          << "";
    QTest::newRow("redo") << "edit.redo"
                          << "Nothing to redo"
                          << "Nothing to redo"
                          << "Nothing to redo";
    QTest::newRow("release") << "lettering.release" << lettering << "" << lettering;
    QTest::newRow("even") << "lettering.even" << lettering << "" << lettering;
    QTest::newRow("level") << "lettering.level" << lettering << "" << lettering;
    QTest::newRow("reopen") << "lettering.reopen"
                            << "Select what was released from a lettering"
                            << "Select what was released from a lettering"
                            << "Select what was released from a lettering";
    QTest::newRow("weld") << "outline.weld"
                          << "Select a lettering, an outline or a shape that is cut"
                          << ""
                          << "Select a lettering, an outline or a shape that is cut";
    QTest::newRow("card") << "lettering.card.2"
                          << "The selection has no such card"
                          << ""
                          << "The selection has no such card";
    QTest::newRow("node") << "outline.node.0"
                          << "Take the Nodes tool first"
                          << "Take the Nodes tool first"
                          << "Take the Nodes tool first";
    QTest::newRow("open-gap") << "lettering.gap-open" << lettering << "Choose a gap first" << lettering;
    QTest::newRow("arc") << "lettering.arc" << lettering << "" << lettering;
    QTest::newRow("rails") << "lettering.rails"
                           << "Select a lettering or an outline"
                           << ""
                           << "Select a lettering or an outline";
    QTest::newRow("save") << "file.save"
                          << ""
                          << ""
                          << "";
  }
  void what_cannot_be_done_says_why() {
    QFETCH(QString, id);
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const PieceId run = f.selected().id;
    const auto& pieces = f.document().pieces;
    const PieceId guide =
        (*std::find_if(pieces.begin(), pieces.end(), [](const auto& p) { return p->guide() != nullptr; }))->id;
    for (const auto& [column, selection] :
         {std::pair<const char*, std::vector<PieceId>>{"nothing", {}}, {"lettering", {run}}, {"guide", {guide}}}) {
      f.session().select(selection);
      QApplication::processEvents();
      const QString reason = *static_cast<QString*>(QTest::qData(column, QMetaType::QString));
      const QAction* action = f.window.commands().action(id);
      QCOMPARE(action->isEnabled(), reason.isEmpty());
      if (!reason.isEmpty()) {
        QCOMPARE(action->toolTip(), reason);
        QCOMPARE(action->whatsThis(), reason); // for screen readers
      }
    }
  }

  // Qt switches what can be switched at every click; the job has the say.
  void what_is_on_stays_on_when_it_is_chosen_again() {
    WindowFixture f;
    const CommandTable& commands = f.window.commands();
    for (const char* id : {"edit.tool.guide", "view.lines", "view.inches", "view.dark", "view.light"}) {
      QAction* action = commands.action(id);
      for (int i = 0; i < 2; ++i) {
        action->trigger();
        QVERIFY2(action->isChecked(), id);
      }
    }
    QVERIFY(!commands.action("edit.tool.select")->isChecked() && !commands.action("view.ink")->isChecked());
    QVERIFY(!commands.action("view.mm")->isChecked() && !commands.action("view.dark")->isChecked());
  }

  void a_gap_that_is_chosen_can_be_opened() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const CommandTable& commands = f.window.commands();
    commands.action("lettering.gap-next")->trigger();
    QVERIFY(commands.action("lettering.gap-open")->isEnabled());
    commands.action("lettering.gap-open")->trigger();
    QVERIFY(!f.selected().lettering()->recipe.pairs.empty());
  }

  void a_word_finds_a_command_and_return_does_it() {
    WindowFixture f;
    QApplication::clipboard()->setText("The tide goes out");
    QTest::keyClick(&f.window.canvas(), Qt::Key_F, Qt::ControlModifier);
    auto* page = f.window.findChild<FindPage*>();
    QVERIFY(page != nullptr && page->field()->hasFocus());
    QTest::keyClicks(page->field(), "spir");
    QCOMPARE(shown_row(*page, 0).section(" | ", 0, 0), QString("Spiral"));
    QTest::keyClick(page->field(), Qt::Key_Down);
    QCOMPARE(page->list()->currentItem()->text(0), QString("Text on a spiral"));
    QTest::keyClick(page->field(), Qt::Key_Return);
    QVERIFY(f.settle());
    QVERIFY(std::any_of(f.document().pieces.begin(), f.document().pieces.end(),
                        [](const auto& p) { return p->lettering() != nullptr; }));
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    QVERIFY(f.window.findChild<FindPage*>() == nullptr); // and is gone
  }

  void one_that_cannot_be_done_is_shown_with_its_reason_and_not_done() {
    WindowFixture f;
    f.window.commands().action("help.find")->trigger();
    auto* page = f.window.findChild<FindPage*>();
    QTest::keyClicks(page->field(), "release out");
    QCOMPARE(shown_row(*page, 0), QString("Release to outlines | Select a lettering first | Ctrl+Return"));
    QTest::keyClick(page->field(), Qt::Key_Return);
    QVERIFY(page->isVisible() && !f.session().history().can_undo());
    page->field()->clear();
    QTest::keyClicks(page->field(), "no such word");
    QCOMPARE(page->list()->topLevelItemCount(), 1);
    QTest::keyClick(page->field(), Qt::Key_Return);
    QVERIFY(page->isVisible());
    page->field()->setText(QString(100'000, 'x')); // the absurd
    QTest::keyClick(page->field(), Qt::Key_Escape);
    QVERIFY(!page->isVisible());
    QVERIFY(f.window.canvas().hasFocus());
  }

  void the_mouse_does_them_too() {
    WindowFixture f;
    f.window.commands().action("help.find")->trigger();
    auto* page = f.window.findChild<FindPage*>();
    QTest::keyClicks(page->field(), "inch");
    const QTreeWidgetItem* row = page->list()->topLevelItem(0);
    QCOMPARE(row->text(0), QString("Inches"));
    QTest::mouseClick(page->list()->viewport(), Qt::LeftButton, {}, page->list()->visualItemRect(row).center());
    QCOMPARE(f.document().unit, Unit::Millimetre); // not inside the list's own event: it may be gone by then
    QApplication::processEvents();
    QCOMPARE(f.document().unit, Unit::Inch);
  }

  // A command that opens a page of its own from the page that finds it.
  // A badge from its words to outlines with no mouse.
  void a_badge_by_keyboard_alone() {
    WindowFixture f;
    const auto key = [&](Qt::Key k, Qt::KeyboardModifiers m = {}) {
      QTest::keyClick(QApplication::focusWidget() != nullptr ? QApplication::focusWidget() : &f.window, k, m);
      f.settle();
    };
    const auto type = [&](const QString& text) { QTest::keyClicks(QApplication::focusWidget(), text); };
    const auto command = [&](const QString& words) {
      key(Qt::Key_F, Qt::ControlModifier);
      type(words);
      key(Qt::Key_Return);
    };
    const auto tab_to = [&](const QString& name) {
      for (int i = 0; i < 80; ++i) {
        if (QApplication::focusWidget() != nullptr && QApplication::focusWidget()->accessibleName() == name)
          return true;
        key(Qt::Key_Tab);
      }
      return false;
    };
    type("Saltmarsh"); // the field has the keyboard from the first
    key(Qt::Key_Return);
    command("ride on a guide");
    QCOMPARE(f.selected().lettering()->recipe.bend.kind, BendKind::Guide);
    key(Qt::Key_2, Qt::AltModifier);
    QVERIFY(tab_to("Radius of the guide"));
    QTest::keyClick(QApplication::focusWidget(), Qt::Key_A, Qt::ControlModifier);
    type("120");
    key(Qt::Key_Return);
    QCOMPARE(circle_under(f.document(), *f.selected().lettering()).radius, 120.0);
    key(Qt::Key_L, Qt::ControlModifier);
    type("Upper Creek"); // over the words that are there, all chosen
    command("ride on a guide");
    key(Qt::Key_2, Qt::AltModifier);
    QVERIFY(tab_to("Tops: Outward") || tab_to("Tops: Inward"));
    key(Qt::Key_Right);
    key(Qt::Key_Space);
    QCOMPARE(f.selected().lettering()->recipe.bend.guide.tops, Tops::Inward);
    f.window.canvas().setFocus(); // where Esc leads as well
    key(Qt::Key_A, Qt::ControlModifier);
    key(Qt::Key_Return, Qt::ControlModifier);
    QVERIFY(QTest::qWaitFor([&] { return !f.window.task().running(); }, 10'000));
    std::size_t outlines = 0;
    for (const auto& p : f.document().pieces)
      outlines += p->outline() != nullptr;
    QCOMPARE(outlines, std::size_t{2});
  }

  // The same with no keyboard but for the words, which the badge brings along: buttons, handles, the mouse on the
  // sheet.
  void a_badge_by_pointer_alone() {
    WindowFixture f;
    QTest::mouseClick(f.button("Badge"), Qt::LeftButton);
    QVERIFY(f.settle());
    const PieceId last = f.selected().id;
    const Document badge = f.document();
    const Handle corner = f.handle(HandleKind::Corner);
    f.drag(corner.at, corner.at + Vec{6, 4});
    QVERIFY(f.settle());
    QVERIFY(!(f.document() == badge));
    for (QToolButton* b : f.window.findChildren<QToolButton*>("tool"))
      if (b->text() == "Undo")
        QTest::mouseClick(b, Qt::LeftButton);
    QVERIFY(f.document() == badge);
    f.click({5, 5});
    QVERIFY(f.session().selection().empty());
    f.drag({2, 2}, {598, 398}); // a rubber band round all
    QVERIFY(f.session().selection().size() >= 3);
    const QListView* list = f.window.findChild<PiecesPanel*>()->list();
    QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualRect(list->model()->index(0, 0)).center());
    QCOMPARE(f.selected().id, last);
    QVERIFY(f.settle());
    QTest::mouseClick(f.button("Release to outlines"), Qt::LeftButton);
    QVERIFY(QTest::qWaitFor([&] { return !f.window.task().running(); }, 10'000));
    QVERIFY(f.selected().outline() != nullptr);
  }

  void one_page_gives_way_to_the_next() {
    WindowFixture f;
    for (const char* word : {"settings", "keys", "find"}) {
      f.window.commands().action("help.find")->trigger();
      auto* page = f.window.findChild<FindPage*>();
      QTest::keyClicks(page->field(), word);
      QTest::keyClick(page->field(), Qt::Key_Return);
      QApplication::processEvents();
      QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
      QCOMPARE(f.window.findChildren<Page*>().size(), 1);
    }
  }
};

QTEST_MAIN(TestCommands)
#include "test_commands.moc"
