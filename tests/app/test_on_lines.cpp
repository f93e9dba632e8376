// Letters and lines brought together: what several selected pieces are offered, words typed for a guide, and straight
// letters dragged onto a line.
#include "app/menus/add_menu.h"
#include "window_fixture.h"

#include <QLineEdit>

using namespace frelm;
using namespace frelm::test;

namespace {

PieceId add_line(WindowFixture& f, GuideShape shape) {
  Added added = add_piece(f.document(), new_guide(std::move(shape)));
  f.session().apply("Add", std::move(added.document), std::vector<PieceId>{added.id});
  return added.id;
}
PieceId add_word(WindowFixture& f, const QString& word) {
  letter_it(f.window.desk(), word);
  f.settle();
  return f.selected().id;
}
QStringList offered(WindowFixture& f) {
  QStringList out;
  for (const char* words : {"Ride on it", "Between these", "Fill it", "Bend together"})
    if (f.button(words) != nullptr)
      out << words;
  return out;
}

} // namespace

class TestOnLines : public QObject {
  Q_OBJECT

private slots:
  void what_is_selected_decides_what_is_offered_data() {
    QTest::addColumn<int>("words");
    QTest::addColumn<int>("open");
    QTest::addColumn<int>("closed");
    QTest::addColumn<QStringList>("offers");
    QTest::newRow("word and line") << 1 << 1 << 0 << QStringList{"Ride on it"};
    QTest::newRow("word and circle") << 1 << 0 << 1 << QStringList{"Ride on it", "Fill it"};
    QTest::newRow("word and two lines") << 1 << 2 << 0 << QStringList{"Between these"};
    QTest::newRow("word, line and circle") << 1 << 1 << 1 << QStringList{};
    QTest::newRow("word and three lines") << 1 << 3 << 0 << QStringList{};
    QTest::newRow("two words") << 2 << 0 << 0 << QStringList{"Bend together"};
    QTest::newRow("two words and a line") << 2 << 1 << 0 << QStringList{"Bend together"};
    QTest::newRow("two circles") << 0 << 0 << 2 << QStringList{};
  }
  void what_is_selected_decides_what_is_offered() {
    QFETCH(const int, words);
    QFETCH(const int, open);
    QFETCH(const int, closed);
    QFETCH(const QStringList, offers);
    WindowFixture f;
    for (int i = 0; i < words; ++i)
      add_word(f, "Wake");
    for (int i = 0; i < open; ++i)
      add_line(f, LineGuide{{100, 100.0 + 60 * i}, {500, 120.0 + 60 * i}});
    for (int i = 0; i < closed; ++i)
      add_line(f, CircleGuide{{300, 200}, 80.0 + 30 * i, 0});
    f.window.commands().action("edit.select-all")->trigger();
    QVERIFY(f.settle());
    QCOMPARE(offered(f), offers);
    // What is not offered says why.
    for (const char* id :
         {"lettering.ride-on-it", "lettering.between-these", "lettering.fill-it", "lettering.together"}) {
      const CommandTable::Entry* e = f.window.commands().find(id);
      QCOMPARE(e->why_not().isEmpty(), offers.contains(e->words()));
      QCOMPARE(e->action->isEnabled(), offers.contains(e->words()));
    }
  }

  void offers_do_what_they_say() {
    WindowFixture f;
    const PieceId word = add_word(f, "Wake");
    const PieceId lower = add_line(f, LineGuide{{100, 260}, {500, 300}}),
                  upper = add_line(f, LineGuide{{100, 120}, {500, 100}});
    f.session().select({word, lower});
    QTest::mouseClick(f.button("Ride on it"), Qt::LeftButton);
    QCOMPARE(f.selected().id, word);
    QCOMPARE(f.selected().lettering()->recipe.bend.kind, BendKind::Guide);
    QCOMPARE(f.selected().lettering()->recipe.bend.guide.guide, lower);
    f.session().undo();
    f.session().select({lower, word, upper});
    QTest::mouseClick(f.button("Between these"), Qt::LeftButton);
    QVERIFY(f.settle());
    const RailsBend& rails = f.selected().lettering()->recipe.bend.rails;
    QCOMPARE(rails.top.guide, upper);
    QCOMPARE(rails.bottom.guide, lower);
    const frelm::Box ink = f.session().seated(word)->ink;
    QVERIFY2(ink.y0 < 130 && ink.y1 > 250, qPrintable(QString("%1 %2").arg(ink.y0).arg(ink.y1)));
    f.session().undo();
    const PieceId circle = add_line(f, CircleGuide{{300, 200}, 90, 0});
    f.session().select({word, circle});
    QTest::mouseClick(f.button("Fill it"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(f.selected().lettering()->recipe.bend.fills());
    QCOMPARE(f.selected().lettering()->recipe.bend.rails.fill.guide, circle);
    // A locked lettering stays as it is, and that is said.
    f.session().undo();
    f.session().edit("Lock", word, [](Piece& p) { p.locked = true; });
    f.session().select({word, circle});
    const Document before = f.document();
    for (const char* id : {"lettering.ride-on-it", "lettering.fill-it"}) {
      f.window.bar().tell("");
      f.window.commands().action(id)->trigger();
      QVERIFY(f.document() == before);
      QVERIFY(f.window.bar().text().contains("locked"));
    }
  }

  void a_guide_takes_words() {
    WindowFixture f;
    const PieceId line = add_line(f, LineGuide{{150, 250}, {450, 200}});
    auto* words = f.find<QLineEdit>("Words to ride on this guide");
    QVERIFY(words != nullptr && words->isVisible());
    QTest::keyClick(words, Qt::Key_Return); // nothing typed: nothing happens
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QTest::keyClicks(words, "Upper creek");
    QTest::keyClick(words, Qt::Key_Return);
    QCOMPARE(f.selected().lettering()->recipe.bend.guide.guide, line);
    QCOMPARE(plain_text(f.selected().lettering()->recipe.letters()->text), U"Upper creek");
    QVERIFY(words->text().isEmpty());
    f.session().undo(); // one step
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
  }

  // The line lights; with Ctrl the letters ride on it where the hand is, without they are only moved.
  void letters_dragged_onto_a_line() {
    for (const bool held : {false, true}) {
      WindowFixture f;
      const PieceId line = add_line(f, LineGuide{{100, 330}, {500, 330}});
      const PieceId word = add_word(f, "HHH");
      const PlacedLetter l = f.session().seated(word)->seated->letters[1];
      const frelm::Box ink = f.session().seated(word)->ink;
      const Point on{l.origin.x + l.advance / 2, ink.centre().y}, to{400, 330};
      QVERIFY(piece_at(f.session(), on, 1) == word);
      const Qt::KeyboardModifiers key = held ? Qt::ControlModifier : Qt::NoModifier;
      f.press_and_move(on, to);
      QVERIFY(f.session().shown().find(word)->lettering()->recipe.bend.kind == BendKind::Straight);
      QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, key, f.px(to));
      const Bend& bend = f.selected().lettering()->recipe.bend;
      QCOMPARE(bend.kind, held ? BendKind::Guide : BendKind::Straight);
      if (held) {
        QCOMPARE(bend.guide.guide, line);
        QVERIFY(std::abs(f.session().seated(word)->ink.centre().x - 400) < 3);
        f.session().undo();
        QCOMPARE(f.selected().lettering()->recipe.bend.kind, BendKind::Straight);
      }
      // Escape gives up the drag.
      const Document before = f.document();
      f.press_and_move(f.session().seated(word)->ink.centre(), to, Qt::ControlModifier);
      QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
      QVERIFY(f.document() == before && !f.session().dragging());
    }
  }
};

QTEST_MAIN(TestOnLines)
#include "test_on_lines.moc"
