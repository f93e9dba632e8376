// Help and the first walk: every tool, card and panel has its page, links and pictures lead somewhere, the commands
// that pages name are there; found by words, opened by F1 for what one is at.
#include "app/canvas/tool_table.h"
#include "app/cards/small_cards.h"
#include "app/window/help_page.h"
#include "app/window/walk.h"
#include "window_fixture.h"

#include <QRegularExpression>

using namespace frelm;
using namespace frelm::test;

class TestHelp : public QObject {
  Q_OBJECT

private slots:
  void pages_are_whole() {
    const std::vector<HelpText> texts = help_texts();
    QVERIFY(texts.size() > 30);
    std::set<QString> ids;
    for (const HelpText& t : texts)
      ids.insert(t.id);
    QVERIFY(std::count_if(ids.begin(), ids.end(), [](const QString& id) { return id.startsWith("how-"); }) >= 10);
    static const QRegularExpression link("\\]\\(([^)]*)\\)");
    for (const HelpText& t : texts) {
      QVERIFY2(!t.title.isEmpty() && !t.words.isEmpty() && t.text.size() > 100, qPrintable(t.id));
      for (auto m = link.globalMatch(t.text); m.hasNext();) {
        const QFileInfo to(m.next().captured(1));
        if (to.suffix() == "md")
          QVERIFY2(ids.count(to.completeBaseName()) == 1, qPrintable(t.id + ": " + to.fileName()));
        else
          QVERIFY2(QFile::exists(QString(FRELM_SOURCE_DIR) + "/docs/screenshots/" + to.fileName()),
                   qPrintable(t.id + ": " + to.fileName()));
      }
    }
    for (const ToolRow& row : tool_table())
      if (*row.icon != '\0')
        QVERIFY2(ids.count(row.icon) == 1, row.icon);
  }

  // "**Arrange → Place → Spread as wide as the last picked**": as the menus have it.
  void the_commands_they_name_are_there() {
    WindowFixture f;
    QStringList known;
    for (const CommandTable::Entry& e : f.window.commands().all())
      known << QString(e.menu + " › " + e.words()).replace(" › ", " → ");
    static const QRegularExpression named("\\*\\*([^*]*→[^*]*)\\*\\*");
    int n = 0;
    for (const HelpText& t : help_texts())
      for (auto m = named.globalMatch(t.text); m.hasNext(); ++n) {
        const QString command = m.next().captured(1).simplified();
        QVERIFY2(known.contains(command), qPrintable(t.id + ": " + command));
      }
    QVERIFY(n > 15);
  }

  void every_card_and_panel_has_a_page() {
    WindowFixture f;
    std::set<QString> ids;
    for (const HelpText& t : help_texts())
      ids.insert(t.id);
    const auto cards = f.window.findChildren<Card*>();
    QVERIFY(cards.size() > 12);
    for (const Card* card : cards) {
      const QString page = help_about(card, {});
      QVERIFY2(ids.count(page) == 1, card->metaObject()->className());
    }
    QCOMPARE(help_about(&f.window.strip(), {}), QString("gap-strip"));
    QCOMPARE(help_about(&f.window.canvas(), "tool-select"), QString("tool-select"));
  }

  void f1_helps_with_what_one_is_at() {
    WindowFixture f;
    const auto opened = [&] {
      f.window.commands().action("help.pages")->trigger();
      QApplication::processEvents();
      auto* page = f.window.findChild<HelpPage*>();
      const QString id = page != nullptr ? page->shown() : QString();
      QTest::keyClick(page, Qt::Key_Escape);
      (void)QTest::qWaitFor([&] { return f.window.findChild<HelpPage*>() == nullptr; }, 2000);
      return id;
    };
    f.window.canvas().setFocus();
    QCOMPARE(opened(), QString("tool-select"));
    QTest::keyClick(&f.window.canvas(), Qt::Key_8);
    QCOMPARE(opened(), QString("tool-measure"));
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    f.letter_on_circle("Tide");
    f.window.letters_card().text_edit()->setFocus();
    QCOMPARE(opened(), QString("card-letters"));
  }

  void found_by_words_and_followed_by_links() {
    WindowFixture f;
    f.window.commands().action("help.pages")->trigger();
    auto* page = f.window.findChild<HelpPage*>();
    QVERIFY(page != nullptr && page->field()->hasFocus());
    const int all = page->list()->count();
    QTest::keyClicks(page->field(), "kerning");
    QVERIFY(page->list()->count() > 0 && page->list()->count() < all);
    QCOMPARE(page->shown(), page->list()->item(0)->data(Qt::UserRole).toString());
    QTest::keyClick(page->field(), Qt::Key_Down);
    QCOMPARE(page->shown(), page->list()->item(1)->data(Qt::UserRole).toString());
    page->field()->setText("qqqq");
    QCOMPARE(page->list()->count(), 1); // that there is none
    page->field()->clear();
    page->show_text("how-badge");
    emit page->text()->anchorClicked(QUrl("page-export.md"));
    QCOMPARE(page->shown(), QString("page-export"));
    QVERIFY(page->text()->toPlainText().contains("HP-GL"));
    // Its picture comes with it.
    const QVariant image =
        page->text()->loadResource(QTextDocument::ImageResource, QUrl("../../docs/screenshots/export.png"));
    QVERIFY(!image.value<QImage>().isNull());
  }

  void a_walk_of_six_steps() {
    WindowFixture f;
    f.window.commands().action("help.walk")->trigger();
    auto* walk = f.window.findChild<Walk*>();
    QVERIFY(walk != nullptr && walk->isVisible());
    QCOMPARE(walk->count(), std::size_t{6});
    const auto press = [&](const QString& words) {
      for (QPushButton* b : walk->findChildren<QPushButton*>())
        if (b->text() == words)
          QTest::mouseClick(b, Qt::LeftButton);
    };
    for (std::size_t i = 0; i < 5; ++i) {
      QCOMPARE(walk->step(), i);
      QVERIFY(f.window.rect().contains(walk->geometry()));
      press("Next");
    }
    press("Back");
    QCOMPARE(walk->step(), std::size_t{4});
    // Nothing is locked meanwhile.
    f.letter_on_circle("Tide");
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    f.window.resize(1024, 700);
    QApplication::processEvents();
    QVERIFY(f.window.rect().contains(walk->geometry()));
    press("Next");
    press("Done");
    QVERIFY(QTest::qWaitFor([&] { return f.window.findChild<Walk*>() == nullptr; }, 2000));
    QSettings kept(f.dir.filePath("settings.ini"), QSettings::IniFormat);
    QVERIFY(kept.value("walk/shown").toBool());
    f.window.commands().action("help.walk")->trigger();
    QTest::keyClick(f.window.findChild<Walk*>(), Qt::Key_Escape);
    QVERIFY(QTest::qWaitFor([&] { return f.window.findChild<Walk*>() == nullptr; }, 2000));
  }
};

QTEST_MAIN(TestHelp)
#include "test_help.moc"
