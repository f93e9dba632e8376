// Room on the screen: the canvas's share, and nothing outside, clipped or overlapping on small screens and with large
// text, whatever is shown.
#include "app/window/page.h"
#include "room.h"
#include "window_fixture.h"

#include <QScrollArea>
#include <QScrollBar>

using namespace frelm;
using namespace frelm::test;

namespace {

double share(MainWindow& window) {
  return static_cast<double>(window.canvas().width()) * window.canvas().height() / (window.width() * window.height());
}

void select_first(WindowFixture& f, const std::function<bool(const Piece&)>& wanted) {
  for (const auto& p : f.document().pieces)
    if (wanted(*p)) {
      f.session().select({p->id});
      return;
    }
  QFAIL("no such piece");
}
bool is_lettering(const Piece& p) {
  return p.lettering() != nullptr;
}

} // namespace

class TestRoom : public QObject {
  Q_OBJECT

private slots:
  void the_comparer_sees_what_does_not_fit() {
    QWidget window;
    window.resize(200, 100);
    auto* out = new QLabel("out", &window);
    out->setGeometry(150, 10, 100, 20);
    auto* clipped = new QLabel("a rather long text", &window);
    clipped->setGeometry(10, 50, 20, 20);
    auto* over = new QWidget(&window);
    over->setGeometry(12, 52, 10, 10);
    window.show();
    QCOMPARE(what_does_not_fit(window, {}).size(), 3);
    QCOMPARE(what_does_not_fit(window, {over}).size(), 2);
    out->hide(), clipped->setGeometry(10, 50, 180, 20);
    QVERIFY(what_does_not_fit(window, {over}).isEmpty());
  }

  void the_canvas_gets_its_share() {
    WindowFixture f;
    QVERIFY(f.window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm"));
    QVERIFY(f.settle());
    QVERIFY(f.window.strip().folded()); // nothing is selected
    QVERIFY2(share(f.window) >= 0.52, qPrintable(QString::number(share(f.window))));
    select_first(f, is_lettering);
    QVERIFY(f.settle());
    QVERIFY(!f.window.strip().folded());
    QVERIFY2(share(f.window) >= 0.44, qPrintable(QString::number(share(f.window))));
  }

  // Selecting opens and folds the strip; what is on the sheet stays where it is, and nothing that was seen is covered.
  void a_selection_moves_nothing() {
    WindowFixture f;
    QVERIFY(f.window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm"));
    QVERIFY(f.settle());
    const QPointF place = f.window.canvas().to_screen({300, 200});
    const Box seen = f.window.canvas().visible();
    select_first(f, is_lettering);
    QVERIFY(f.settle());
    QVERIFY((f.window.canvas().to_screen({300, 200}) - place).manhattanLength() < 1.5);
    Box ink;
    for (const auto& p : f.document().pieces)
      ink.add(f.session().seated(p->id)->ink);
    QVERIFY(f.window.canvas().visible().contains(ink));
    f.session().select({});
    QVERIFY(f.settle());
    QVERIFY((f.window.canvas().to_screen({300, 200}) - place).manhattanLength() < 1.5);
    QVERIFY(std::abs(f.window.canvas().visible().y1 - seen.y1) < 2);
    // As the user last wanted it for letterings.
    select_first(f, is_lettering);
    f.window.commands().action("view.fold-strip")->trigger();
    f.session().select({});
    select_first(f, is_lettering);
    QVERIFY(f.window.strip().folded());
    f.window.commands().action("view.fold-strip")->trigger();
    QVERIFY(!f.window.strip().folded());
  }

  // The cards' bar comes and goes with a window made lower pixel by pixel; they keep their width, and the layout ends.
  void cards_keep_their_width_at_every_height() {
    WindowFixture f;
    QVERIFY(f.window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm"));
    select_first(f, is_lettering);
    QVERIFY(f.settle());
    QScrollArea* cards = nullptr;
    for (QWidget* at = &f.window.letters_card(); at != nullptr && cards == nullptr; at = at->parentWidget())
      cards = qobject_cast<QScrollArea*>(at);
    QVERIFY(cards != nullptr);
    std::set<int> widths;
    const auto scrolls_at = [&](int height) {
      f.window.resize(1280, height);
      QApplication::processEvents();
      widths.insert(cards->viewport()->width());
      return cards->verticalScrollBar()->maximum() > 0;
    };
    int low = 500, high = 4000;
    QTest::keyClick(&f.window, Qt::Key_1, Qt::AltModifier);
    QVERIFY(f.settle());
    QVERIFY(scrolls_at(low) && !scrolls_at(high));
    while (high - low > 1) {
      const int middle = (low + high) / 2;
      (scrolls_at(middle) ? low : high) = middle;
    }
    for (int height = high + 40; height > high - 40; --height)
      scrolls_at(height);
    QCOMPARE(widths.size(), std::size_t{1});
  }

  // The strip waits until the hand has let go: a drag that begins with the click goes on undisturbed.
  void the_strip_waits_for_the_hand() {
    WindowFixture f;
    f.letter_on_circle("Wake");
    const PieceId id = f.selected().id;
    f.session().select({});
    QVERIFY(f.settle());
    Canvas& canvas = f.window.canvas();
    const Box ink = f.session().seated(id)->ink;
    Point on = ink.centre();
    for (double x = ink.x0; x < ink.x1 && piece_at(f.session(), on, 0.5) != id; x += 0.5)
      on = {x, ink.y0 + ink.height() / 2};
    const QPoint at = canvas.to_screen(on).toPoint();
    QTest::mousePress(&canvas, Qt::LeftButton, {}, at);
    QCOMPARE(f.session().selection(), std::vector<PieceId>{id});
    QVERIFY(f.window.strip().folded());
    QTest::mouseRelease(&canvas, Qt::LeftButton, {}, at);
    QVERIFY(!f.window.strip().folded());
  }

  void nothing_is_out_of_reach_data() {
    QTest::addColumn<QSize>("size");
    QTest::addColumn<double>("text");
    QTest::addColumn<bool>("tabs");
    QTest::newRow("1280 x 800") << QSize(1280, 800) << 100.0 << false;
    QTest::newRow("1280 x 800, 150 %") << QSize(1280, 800) << 150.0 << true;
    QTest::newRow("1280 x 800, 200 %") << QSize(1280, 800) << 200.0 << true;
    QTest::newRow("1024 x 700") << QSize(1024, 700) << 100.0 << true;
    QTest::newRow("1366 x 768, 125 %") << QSize(1366, 768) << 125.0 << false;
  }
  void nothing_is_out_of_reach() {
    QFETCH(const QSize, size);
    QFETCH(const double, text);
    QFETCH(const bool, tabs);
    const Text enlarged(text);
    WindowFixture f;
    f.window.resize(size);
    QVERIFY(f.settle());
    QCOMPARE(f.window.size(), size);
    QCOMPARE(f.window.columns().tabbed(), tabs);
    QStringList faults;
    const auto look = [&](const QString& when) {
      QVERIFY(f.settle());
      QList<const QWidget*> over{&f.window.bar()};
      for (const Page* page : f.window.findChildren<Page*>())
        over << page;
      QStringList found; // a card's first layout takes two rounds
      (void)QTest::qWaitFor([&] { return (found = what_does_not_fit(f.window, over)).isEmpty(); }, 1000);
      for (const QString& fault : found)
        faults << when + ": " + fault;
      QCOMPARE(f.window.size(), size);
    };
    look("nothing");
    QVERIFY(f.window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm"));
    select_first(f, is_lettering);
    for (const char* card : {"1", "2", "3", "4"}) {
      f.window.commands().action(QString("lettering.card.") + card)->trigger();
      look(QString("card ") + card);
    }
    f.window.columns().show_tab(Columns::Tab::Pieces), look("pieces");
    f.window.columns().show_tab(Columns::Tab::Check), look("check");
    f.window.columns().show_tab(Columns::Tab::Cards);
    for (const BendKind kind : {BendKind::Straight, BendKind::Arc, BendKind::Rails, BendKind::Net}) {
      f.window.bend_card().choose(kind);
      f.window.open_card(&f.window.bend_card());
      look("bend " + QString::number(static_cast<int>(kind)));
    }
    select_first(f, [](const Piece& p) { return p.guide() != nullptr; });
    look("guide");
    f.window.canvas().set_tool(ToolKind::Nodes), look("nodes");
    f.window.canvas().set_tool(ToolKind::Guide), look("kinds of guides");
    f.window.canvas().set_tool(ToolKind::Select);
    f.window.commands().action("edit.select-all")->trigger(), look("several");
    f.window.bar().ask("A question that is rather long, as questions about files with long names and many pieces are.",
                       {{"Save it first of all", {}}, {"Give up all of the changes", {}}});
    look("question");
    f.window.bar().dismiss();
    for (const char* page : {"edit.settings", "arrange.materials", "help.keys", "help.find"}) {
      f.window.commands().action(page)->trigger();
      look(page);
      f.window.close_page();
    }
    QVERIFY2(faults.isEmpty(), qPrintable("\n" + faults.join("\n")));
  }

  // Tabs hold what the right column held, and the way to the Cut check opens its tab.
  void tabs_and_back() {
    WindowFixture f;
    f.window.resize(1000, 700);
    QVERIFY(f.settle());
    QVERIFY(f.window.columns().tabbed());
    auto* pieces = f.window.findChild<PiecesPanel*>();
    auto* check = f.window.findChild<CheckPanel*>();
    QVERIFY(!pieces->isVisible());
    f.window.commands().action("view.to-check")->trigger();
    QVERIFY(check->isVisible() && !pieces->isVisible());
    f.letter_on_circle("Wake");
    f.window.open_card(&f.window.bend_card());
    QVERIFY(!check->isVisible() && f.window.bend_card().isVisible());
    f.window.resize(1400, 800);
    QVERIFY(f.settle());
    QVERIFY(!f.window.columns().tabbed() && pieces->isVisible() && check->isVisible());
  }
};

QTEST_MAIN(TestRoom)
#include "test_room.moc"
