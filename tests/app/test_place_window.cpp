// Pieces placed by each other and copied in order, by the buttons of the cards, by keys and menus.
#include "app/window_fixture.h"

#include "document/edits.h"
#include "geom/path_data.h"

using namespace frelm;
using namespace frelm::test;

namespace {

struct Bench : WindowFixture {
  PieceId put_box(double x, double y, double w, double h) {
    Piece p;
    p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(
                                 QString("M%1 %2h%3v%4h-%3z").arg(x).arg(y).arg(w).arg(h).toStdString())),
                             {},
                             nullptr,
                             {}};
    Added added = add_piece(document(), std::move(p));
    session().apply("Add", std::move(added.document));
    return added.id;
  }
  Box box(PieceId id) { return document().find(id)->outline()->outline->bounds(); }
  void press(const QString& name) {
    auto* b = find<QPushButton>(name);
    QVERIFY2(b != nullptr && b->isVisible() && b->isEnabled(), qPrintable(name));
    QTest::mouseClick(b, Qt::LeftButton);
    settle();
  }
  QString why_not(const QString& command) { return window.commands().find(command)->why_not(); }
};

} // namespace

class TestPlaceWindow : public QObject {
  Q_OBJECT

private slots:
  void lined_up_to_what_was_picked_last() {
    Bench f;
    const PieceId a = f.put_box(10, 10, 40, 20), b = f.put_box(100, 60, 20, 30), c = f.put_box(250, 200, 60, 40);
    f.session().select({a, b, c});
    f.press("Line up left edges");
    QVERIFY(f.box(a).x0 == 250 && f.box(b).x0 == 250 && f.box(c).x0 == 250 && f.box(a).y0 == 10);
    f.session().undo();
    QVERIFY(f.box(a).x0 == 10);
    f.choose("What stays", "Sheet");
    f.press("Line up lower edges");
    QVERIFY(std::abs(f.box(a).y1 - f.document().sheet.height) < 1e-9);
    f.session().undo();
    f.choose("What stays", "All");
    f.press("Line up upper edges");
    QVERIFY(f.box(c).y0 == 10 && f.box(b).y0 == 10);
    f.session().undo();
    f.press("Spread across, gaps alike");
    QVERIFY(std::abs((f.box(b).x0 - f.box(a).x1) - (f.box(c).x0 - f.box(b).x1)) < 1e-9);
    f.choose("What stays", "Last");
    // One key centres on the last, whatever order they lie in.
    f.session().select({c, b, a});
    QTest::keyClick(&f.window.canvas(), Qt::Key_M);
    QVERIFY(distance(f.box(c).centre(), f.box(a).centre()) < 1e-9 &&
            distance(f.box(b).centre(), f.box(a).centre()) < 1e-9);
    f.press("As wide as the last picked");
    QVERIFY(std::abs(f.box(b).width() - 40) < 1e-9 && std::abs(f.box(c).width() - 40) < 1e-9);
  }

  void edges_and_middles_catch_while_a_piece_is_moved() {
    Bench f;
    const PieceId a = f.put_box(50, 50, 60, 40), b = f.put_box(300, 200, 100, 80);
    const double px = 1 / f.px_per_mm();
    f.session().select({a});
    // Near the middle of the other, up and down; across it is free.
    f.drag({80, 70}, {180, 240 + 4 * px});
    QVERIFY2(std::abs(f.box(a).centre().y - 240) < 1e-9, qPrintable(QString::number(f.box(a).centre().y)));
    f.session().undo();
    // Its left edge, and what is told of it.
    f.press_and_move({80, 70}, {330 - 3 * px, 120});
    QVERIFY(f.document().find(b) != nullptr);
    QVERIFY(std::abs(f.session().shown().find(a)->outline()->outline->bounds().x0 - 300) < 1e-9);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px({330, 120}));
    QVERIFY(f.box(a).x0 == 50);
    // With Ctrl nothing catches; the sheet's middle does where no piece is.
    f.drag({80, 70}, {180, 240 + 4 * px}, Qt::ControlModifier);
    QVERIFY(std::abs(f.box(a).centre().y - 240) > px);
    f.session().undo();
    f.drag({80, 70}, {300 + 4 * px, 350});
    QVERIFY(std::abs(f.box(a).centre().x - 300) < 1e-9);
  }

  void what_lies_below_and_what_the_box_touches() {
    Bench f;
    const PieceId low = f.put_box(100, 100, 100, 80), high = f.put_box(140, 120, 100, 80);
    f.click({170, 150});
    QCOMPARE(f.session().selection(), std::vector<PieceId>{high});
    f.click({170, 150}, Qt::ControlModifier);
    QCOMPARE(f.session().selection(), std::vector<PieceId>{low});
    f.click({170, 150}, Qt::ControlModifier);
    QCOMPARE(f.session().selection(), std::vector<PieceId>{high});
    // Rightwards what it holds, leftwards what it touches.
    f.drag({90, 90}, {210, 190});
    QCOMPARE(f.session().selection(), std::vector<PieceId>{low});
    f.drag({120, 210}, {80, 150});
    QCOMPARE(f.session().selection(), std::vector<PieceId>{low});
    f.drag({260, 210}, {190, 110});
    QCOMPARE(f.session().selection(), (std::vector<PieceId>{low, high}));
    f.drag({90, 250}, {260, 210}); // beside both
    QVERIFY(f.session().selection().empty());
  }

  void what_can_not_be_done_says_why() {
    Bench f;
    const PieceId a = f.put_box(10, 10, 40, 20), b = f.put_box(100, 60, 20, 30);
    f.session().select({a});
    QVERIFY(!f.why_not("arrange.line-up.left").isEmpty() && !f.why_not("arrange.as-wide").isEmpty());
    f.session().set_place_choice({PlaceBy::Ink, PlaceTo::Sheet});
    QVERIFY(f.why_not("arrange.line-up.left").isEmpty() && f.why_not("arrange.spread-across").isEmpty());
    f.session().set_place_choice({});
    f.session().select({a, b});
    QVERIFY(f.why_not("arrange.line-up.left").isEmpty());
    QVERIFY(f.why_not("arrange.spread-across").contains("three"));
    auto* spread = f.find<QPushButton>("Spread across, gaps alike");
    QVERIFY(spread->isVisible() && !spread->isEnabled() && spread->toolTip().contains("three"));
    const Document before = f.document();
    f.press("Capitals as high as those picked last"); // neither has any
    QVERIFY(f.document() == before && f.window.bar().text().contains("letters"));
  }

  void set_into_a_shape() {
    Bench f;
    const PieceId board = f.put_box(100, 50, 200, 100), plate = f.put_box(10, 10, 40, 10);
    f.session().select({plate, board});
    f.press("Even margins in the last picked");
    QTRY_VERIFY(distance(f.box(plate).centre(), {200, 100}) < 0.5);
    QVERIFY(f.box(plate).width() == 40 && f.box(board).x0 == 100);
    f.type_measure("Margin inside", "15");
    f.press("Largest inside the last picked");
    QTRY_VERIFY(std::abs(f.box(plate).width() - 170) < 0.02); // 15 on either side, more above and below
    QVERIFY(std::abs(f.box(plate).height() - 42.5) < 0.02 && std::abs(f.box(plate).x0 - 115) < 0.02);
    f.type_measure("Margin inside", "60"); // more than there is
    const Document before = f.document();
    f.press("Largest inside the last picked");
    QTRY_VERIFY(f.window.bar().text().contains("no room with that margin"));
    QVERIFY(f.document() == before);
    f.session().undo();
    QVERIFY(f.box(plate).width() == 40);
    f.session().select({plate});
    QVERIFY(!f.why_not("arrange.largest-inside").isEmpty());
  }

  void turned_mirrored_and_put_aside() {
    Bench f;
    const PieceId a = f.put_box(10, 10, 40, 20), b = f.put_box(100, 60, 20, 30);
    f.session().select({a, b});
    const Box both = f.session().selection_ink();
    f.type_measure("Turn all by", "90");
    QVERIFY(f.settle());
    QVERIFY(std::abs(f.box(a).width() - 20) < 1e-9 &&
            distance(f.session().selection_ink().centre(), both.centre()) < 1e-9);
    QVERIFY(f.find<MeasureField>("Turn all by")->text() == "0");
    f.window.commands().action("arrange.turn-left")->trigger();
    QVERIFY(std::abs(f.box(a).x0 - 10) < 1e-9 && std::abs(f.box(b).y0 - 60) < 1e-9);
    f.window.commands().action("arrange.mirror-across")->trigger();
    QVERIFY(std::abs(f.box(a).x1 - both.x1) < 1e-9 && std::abs(f.box(b).x0 - both.x0) < 1e-9);
    QTest::keyClick(&f.window.canvas(), Qt::Key_P);
    QCOMPARE(f.document().pieces.size(), std::size_t{4});
    QCOMPARE(f.session().selection(), (std::vector<PieceId>{a, b}));
    f.session().select({a});
    f.window.commands().action("edit.select-destination")->trigger();
    QCOMPARE(f.session().selection(), (std::vector<PieceId>{a, b}));
    f.letter_on_circle("Marsh");
    QVERIFY(f.why_not("arrange.mirror-down").contains("Finish"));
    // A locked piece: told, and it stays.
    f.session().edit("Lock", a, [](Piece& p) { p.locked = true; });
    f.session().select({a});
    const Document before = f.document();
    f.window.commands().action("arrange.turn-right")->trigger();
    QVERIFY(f.document() == before && f.window.bar().text().contains("locked"));
  }

  void copies_by_the_card() {
    Bench f;
    const PieceId a = f.put_box(10, 10, 40, 20);
    QVERIFY(!f.why_not("arrange.copies").isEmpty());
    f.session().select({a});
    f.window.commands().action("arrange.copies")->trigger();
    QVERIFY(f.find<MeasureField>("How many copies") != nullptr && f.find<MeasureField>("How many copies")->isVisible());
    f.type_measure("How many copies", "5");
    f.type_measure("Step across", "45");
    f.type_measure("Step down", "0");
    // They are seen before they are made.
    const QImage seen = f.window.canvas().grab().toImage();
    QVERIFY(seen.pixelColor(f.px({10 + 45 * 5 + 20, 20})) != seen.pixelColor(f.px({10 + 45 * 5 + 20, 60})));
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QTest::mouseClick(f.button("Make copies"), Qt::LeftButton);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{6});
    QCOMPARE(f.session().selection().size(), std::size_t{6});
    QVERIFY(std::abs(f.box(f.session().selection().back()).x0 - 235) < 1e-9);
    f.session().undo();
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QCOMPARE(f.session().selection(), std::vector<PieceId>{a});
    QVERIFY(!f.find<MeasureField>("How many copies")->isVisible()); // it is done
    f.window.commands().action("arrange.copies")->trigger();
    f.choose("Order of the copies", "In rows");
    f.type_measure("Columns", "4");
    f.type_measure("Rows", "3");
    QTest::mouseClick(f.button("Make copies"), Qt::LeftButton);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{12});
    f.session().undo();
    f.window.commands().action("arrange.copies")->trigger();
    f.choose("Order of the copies", "Around");
    f.type_measure("How many around", "6");
    QTest::mouseClick(f.button("Make copies"), Qt::LeftButton);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{6});
    f.session().undo();
    f.window.commands().action("arrange.copies")->trigger();
    // More than there may be: told.
    f.type_measure("How many around", "5000");
    f.session().select({a, f.put_box(300, 300, 5, 5)});
    QTest::mouseClick(f.button("Make copies"), Qt::LeftButton);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    QVERIFY(f.window.bar().text().contains("5000"));
    QTest::mouseClick(f.find<QPushButton>("Close the copies"), Qt::LeftButton);
    QVERIFY(!f.find<MeasureField>("How many around")->isVisible());
    // Nothing selected: nothing to copy.
    f.window.commands().action("arrange.copies")->trigger();
    f.session().select({});
    QVERIFY(!f.find<MeasureField>("How many around")->isVisible());
  }

  void copies_along_the_line_that_was_picked_last() {
    Bench f;
    const PieceId a = f.put_box(10, 10, 20, 6);
    Added line = add_piece(f.document(), new_circle({300, 200}, 80));
    f.session().apply("Add", std::move(line.document), std::vector<PieceId>{a, line.id});
    f.window.commands().action("arrange.copies")->trigger();
    f.choose("Order of the copies", "Along");
    QVERIFY(f.find<MeasureField>("How many along the line")->isVisible() &&
            !f.find<MeasureField>("How many around")->isVisible());
    f.type_measure("How many along the line", "5");
    QTest::mouseClick(f.button("Make copies"), Qt::LeftButton);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{7});
    QVERIFY(f.box(a).x0 == 10);
  }

  void a_word_around_a_plate_in_few_actions() {
    Bench f;
    f.letter_on_circle("Marsh");
    const std::size_t before = f.document().pieces.size();
    f.window.commands().action("arrange.copies")->trigger();
    f.choose("Order of the copies", "Around");
    f.type_measure("How many around", "3");
    QTest::mouseClick(f.button("Make copies"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(f.document().pieces.size() > before);
    QCOMPARE(f.session().selection().size(), std::size_t{3});
  }
};

QTEST_MAIN(TestPlaceWindow)
#include "test_place_window.moc"
