// Groups, ruler lines, dimension marks, handles of several, numbers typed under the hand, doing it again, and the
// steps: by mouse and keys in the real window.
#include "app/window_fixture.h"

#include "app/window/history_page.h"
#include "document/piece_groups.h"
#include "document/ruler_lines.h"
#include "formats/svg.h"
#include "geom/path_data.h"

#include <QAccessible>
#include <QClipboard>
#include <QImage>
#include <QListWidget>

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
  Box shown_box(PieceId id) { return session().shown().find(id)->outline()->outline->bounds(); }
  void key(int k, Qt::KeyboardModifiers m = {}) {
    QTest::keyClick(&window.canvas(), static_cast<Qt::Key>(k), m);
    settle();
  }
  void move_hand(Point to) {
    const QPoint at = px(to);
    QMouseEvent move(QEvent::MouseMove, at, window.canvas().mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(&window.canvas(), &move);
  }
  void let_go(Point at) { QTest::mouseRelease(&window.canvas(), Qt::LeftButton, {}, px(at)); }
  // From px to px on the canvas: the rulers are its edges.
  void drag_px(QPoint from, QPoint to) {
    Canvas* c = &window.canvas();
    QTest::mousePress(c, Qt::LeftButton, {}, from);
    for (int i = 1; i <= 4; ++i) {
      const QPoint at = from + (to - from) * i / 4;
      QMouseEvent move(QEvent::MouseMove, at, c->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
      QApplication::sendEvent(c, &move);
    }
    QTest::mouseRelease(c, Qt::LeftButton, {}, to);
    settle();
  }
  using Ids = std::vector<PieceId>;
  QAccessibleInterface* spoken() { return QAccessible::queryAccessibleInterface(&window.canvas()); }
};
using Ids = std::vector<PieceId>;

} // namespace

class TestBenchWindow : public QObject {
  Q_OBJECT

private slots:
  void a_click_takes_the_group_and_a_second_goes_inside() {
    Bench f;
    const PieceId a = f.put_box(50, 50, 60, 40), b = f.put_box(150, 50, 60, 40), c = f.put_box(300, 200, 60, 40);
    f.session().select({a, b});
    f.key(Qt::Key_G, Qt::ControlModifier);
    QCOMPARE(f.document().groups.size(), std::size_t{1});
    f.click({320, 220});
    QCOMPARE(f.session().selection(), Ids{c});
    f.click({80, 70});
    QCOMPARE(f.session().selection(), (Ids{a, b}));
    f.drag({80, 70}, {80, 117}); // as one
    QVERIFY(f.box(a).y0 > 90 && f.box(a).y0 == f.box(b).y0);
    f.session().undo();
    f.click({80, 70});
    QCOMPARE(f.session().selection(), Ids{a});
    f.click({180, 70});
    QCOMPARE(f.session().selection(), Ids{b});
    f.key(Qt::Key_Escape);
    QCOMPARE(f.session().selection(), (Ids{a, b}));
    f.key(Qt::Key_Escape);
    QVERIFY(f.session().selection().empty());
    // A box around one of two takes none of the group; leftwards what it touches, whole.
    f.drag({40, 40}, {120, 100});
    QVERIFY(f.session().selection().empty());
    f.drag({100, 100}, {90, 80});
    QCOMPARE(f.session().selection(), (Ids{a, b}));
    f.key(Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
    QVERIFY(f.document().groups.empty());
    QVERIFY(!f.window.commands().find("arrange.ungroup")->why_not().isEmpty());
  }

  void groups_fold_in_the_list_and_have_names() {
    Bench f;
    const PieceId a = f.put_box(50, 50, 60, 40), b = f.put_box(150, 50, 60, 40), c = f.put_box(300, 200, 60, 40);
    f.session().select({a, b});
    f.key(Qt::Key_G, Qt::ControlModifier);
    QListView* list = f.window.pieces_panel().list();
    QCOMPARE(list->model()->rowCount(), 2); // the group, folded, and c, which is in front
    const QModelIndex group = list->model()->index(1, 0);
    QCOMPARE(group.data(PiecesModel::NameRole).toString(), QString("Group of 2"));
    QVERIFY(list->selectionModel()->isSelected(group));
    const auto part = [&](int row, PiecesPanel::Part p) {
      QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, f.window.pieces_panel().part(row, p).center());
      f.settle();
    };
    part(1, PiecesPanel::Part::Fold);
    QCOMPARE(list->model()->rowCount(), 4);
    part(1, PiecesPanel::Part::Eye);
    QVERIFY(!f.document().find(a)->visible && !f.document().find(b)->visible && f.document().find(c)->visible);
    part(1, PiecesPanel::Part::Eye);
    part(1, PiecesPanel::Part::Lock);
    QVERIFY(f.document().find(a)->locked && !f.document().find(c)->locked);
    part(1, PiecesPanel::Part::Lock);
    // Named in the list, like any piece.
    list->model()->setData(list->model()->index(1, 0), "Badge", Qt::EditRole);
    QVERIFY(QTest::qWaitFor([&] { return f.document().groups.at(0).name == "Badge"; }, 1000));
    list->model()->setData(list->model()->index(0, 0), "Plate", Qt::EditRole);
    QVERIFY(QTest::qWaitFor([&] { return f.document().find(c)->name == "Plate"; }, 1000));
    // c dropped between a and b is in the group; above all it is out again.
    QMimeData* held = list->model()->mimeData({list->model()->index(0, 0)});
    list->model()->dropMimeData(held, Qt::MoveAction, 3, 0, {});
    QVERIFY(QTest::qWaitFor([&] { return f.document().find(c)->group != 0; }, 1000));
    delete held;
    const int row = static_cast<PiecesModel*>(list->model())->row_of(c);
    held = list->model()->mimeData({list->model()->index(row, 0)});
    list->model()->dropMimeData(held, Qt::MoveAction, 0, 0, {});
    QVERIFY(QTest::qWaitFor([&] { return f.document().find(c)->group == 0; }, 1000));
    delete held;
    QCOMPARE(f.document().pieces.back()->id, c);
    // A piece inside is shown when it is selected alone.
    part(1, PiecesPanel::Part::Fold);
    QCOMPARE(list->model()->rowCount(), 2);
    f.session().select({a});
    QCOMPARE(list->model()->rowCount(), 4);
  }

  void lines_come_out_of_the_rulers_and_catch() {
    Bench f;
    const PieceId a = f.put_box(50, 50, 60, 40);
    const QPoint at = f.px({200, 300});
    f.drag_px({at.x(), 8}, at); // out of the upper ruler: level
    f.drag_px({8, at.y()}, f.px({420, 100}));
    QCOMPARE(f.document().ruler_lines.size(), std::size_t{2});
    QVERIFY(level_at(f.document().ruler_lines[0]) && upright_at(f.document().ruler_lines[1]));
    QVERIFY(std::abs(f.document().ruler_lines[0].at.y - 300) < 2 / f.px_per_mm());
    // The sheet's middle caught the upright one on its way? It lies where the hand let go.
    QVERIFY(std::abs(f.document().ruler_lines[1].at.x - 420) < 2 / f.px_per_mm());
    // A piece's edge is caught by it.
    const double line = f.document().ruler_lines[1].at.x;
    f.session().select({a});
    f.press_and_move({80, 70}, {80 + line - 110 + 3 / f.px_per_mm(), 171});
    f.let_go({80 + line - 110 + 3 / f.px_per_mm(), 171});
    QVERIFY2(std::abs(f.box(a).x1 - line) < 1e-9, qPrintable(QString::number(f.box(a).x1 - line)));
    // By number, by hand, locked, and back on the ruler.
    f.session().select({});
    f.settle();
    f.type_measure("Down", "123.5");
    QCOMPARE(f.document().ruler_lines[0].at.y, 123.5);
    f.type_measure("Angle of the ruler line", "30");
    QCOMPARE(f.document().ruler_lines[0].angle, 30.0);
    f.session().undo();
    f.drag({520, 123.5}, {520, 160});
    QVERIFY(std::abs(f.document().ruler_lines[0].at.y - 160) < 2 / f.px_per_mm());
    f.drag_px(f.px({520, f.document().ruler_lines[0].at.y}), {f.px({520, 0}).x(), 6});
    QCOMPARE(f.document().ruler_lines.size(), std::size_t{1});
    f.window.commands().action("arrange.ruler-lines-lock")->trigger();
    QVERIFY(f.document().ruler_lines[0].locked);
    f.drag({line, 350}, {line + 40, 350});
    QCOMPARE(f.document().ruler_lines[0].at.x, line);
    // Escape in the middle of drawing one leaves none.
    QTest::mousePress(&f.window.canvas(), Qt::LeftButton, {}, {at.x(), 8});
    f.move_hand({200, 250});
    QCOMPARE(f.session().shown().ruler_lines.size(), std::size_t{2});
    f.key(Qt::Key_Escape);
    f.let_go({200, 250});
    QCOMPARE(f.document().ruler_lines.size(), std::size_t{1});
    QVERIFY(f.session().shown() == f.document());
  }

  void what_was_measured_stays_as_a_mark() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40);
    f.window.canvas().set_tool(ToolKind::Measure);
    f.drag({100, 100}, {180, 100});
    QPushButton* keep = f.button("Keep as a mark");
    QVERIFY(keep != nullptr);
    QTest::mouseClick(keep, Qt::LeftButton);
    f.settle();
    QCOMPARE(f.document().marks.size(), std::size_t{1});
    QCOMPARE(f.document().marks[0].from.piece, a);
    auto* list = f.find<QListWidget>("Dimension marks");
    QVERIFY(list->isVisible() && list->count() == 1 && list->item(0)->text().startsWith("80 mm"));
    f.session().apply("Size", scale_piece(f.document(), a, {}, 2, GuideScaling::Along));
    f.settle();
    QVERIFY(list->item(0)->text().startsWith("160 mm"));
    // Its line is dragged farther off, and back by Escape.
    const auto mark = [&] { return *drawn(f.document(), f.document().marks[0], f.session().evaluator()); };
    const Point line = mark().line_from + (mark().line_to - mark().line_from) * 0.25;
    f.drag(line, line + Vec{0, -22});
    QVERIFY2(std::abs(f.document().marks[0].beside - 30) < 1,
             qPrintable(QString::number(f.document().marks[0].beside)));
    QVERIFY(!f.session().measured());
    f.press_and_move(line + Vec{0, -22}, line + Vec{0, -60});
    f.key(Qt::Key_Escape);
    f.let_go(line);
    QVERIFY(std::abs(f.document().marks[0].beside - 30) < 1 && f.session().shown() == f.document());
    QTest::mouseClick(f.button("Remove mark"), Qt::LeftButton);
    QVERIFY(f.document().marks.empty() && !list->isVisible());
    f.session().undo();
    f.session().apply("Delete", remove_pieces(f.document(), {a}).document);
    QVERIFY(f.document().marks.empty());
  }

  void several_grow_and_turn_as_one() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40), b = f.put_box(220, 120, 40, 60);
    f.session().select({a, b});
    f.settle();
    const Handle corner = f.handle(HandleKind::Corner);
    QCOMPARE(corner.index, std::size_t{0});
    // The upper left corner half way to the lower right one, which stays.
    const Point fixed{260, 180};
    f.drag(corner.at, lerp(corner.at, fixed, 0.5), Qt::ControlModifier);
    QVERIFY(std::abs(f.box(a).width() - 40) < 1 && std::abs(f.box(b).x1 - 260) < 1e-9);
    QVERIFY(std::abs(f.box(b).width() / f.box(a).width() - 0.5) < 1e-9); // as they were to each other
    f.session().undo();
    // A quarter by its handle, with a number typed under the hand.
    const Handle turn = f.handle(HandleKind::Turn);
    f.press_and_move(turn.at, turn.at + Vec{-40, 0});
    QTest::keyClicks(&f.window.canvas(), "9");
    QTest::keyClicks(&f.window.canvas(), "0");
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    QVERIFY(!f.session().dragging());
    f.let_go(turn.at);
    QVERIFY(std::abs(f.box(a).width() - 40) < 1e-6 && std::abs(f.box(a).height() - 80) < 1e-6);
    f.session().undo();
    f.type_measure("Width", "80"); // of both: 160 before
    QVERIFY(std::abs(f.box(a).width() - 40) < 1e-9 && f.box(a).x0 == 100);
    f.session().undo();
    // Locked, there is nothing to hold.
    f.window.commands().action("arrange.lock")->trigger();
    QVERIFY(handles_of(f.session(), 1).empty());
  }

  void outlines_lean_by_their_upper_edge() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40), b = f.put_box(220, 120, 40, 60);
    f.session().select({a, b});
    f.settle();
    // Forty-five degrees: what is highest goes as far to the right as it is high above the lower edge, which stays.
    const Handle lean = f.handle(HandleKind::Lean);
    const double height = 180 - lean.at.y;
    f.drag(lean.at, lean.at + Vec{height, 0});
    QVERIFY(std::abs(f.box(b).x0 - 220) < 1e-9 && std::abs(f.box(b).x1 - 320) < 0.7);
    QVERIFY(std::abs(f.box(b).y0 - 120) < 1e-9 && std::abs(f.box(b).y1 - 180) < 1e-9);
    QCOMPARE(f.session().history().undo_name(), std::string("Lean"));
    f.session().undo();
    QVERIFY(std::abs(f.box(b).x1 - 260) < 1e-9);
    // Given up in the middle; then a number under the hand, which the keys for it hold within what leans.
    f.press_and_move(lean.at, lean.at + Vec{30, 0});
    QVERIFY(f.session().dragging());
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    f.let_go(lean.at);
    QVERIFY(std::abs(f.box(b).x1 - 260) < 1e-9);
    f.press_and_move(lean.at, lean.at + Vec{30, 0});
    QTest::keyClicks(&f.window.canvas(), "-45");
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    f.let_go(lean.at);
    QVERIFY(std::abs(f.box(b).x0 - (220 - 60)) < 1e-9 && std::abs(f.box(a).x0 - (100 - 80)) < 1e-9);
    // The same once more is the same lean again.
    f.window.commands().action("arrange.again")->trigger();
    QVERIFY(std::abs(f.box(b).x0 - (220 - 120)) < 1e-9);
    // No letterings, nothing locked, no level line.
    f.session().undo();
    f.window.commands().action("arrange.lock")->trigger();
    QVERIFY(handles_of(f.session(), 1).empty());
  }

  void numbers_hold_a_place_of_it() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40);
    f.session().select({a});
    QComboBox* held = nullptr;
    for (auto* box : f.window.findChildren<QComboBox*>())
      if (box->accessibleName() == "Held by" && box->isVisible())
        held = box;
    QVERIFY(held != nullptr);
    held->setFocus();
    QTest::keyClick(held, Qt::Key_End); // the lower right corner
    f.type_measure("Width", "40");
    QVERIFY(std::abs(f.box(a).x1 - 180) < 1e-9 && std::abs(f.box(a).y1 - 140) < 1e-9);
    QVERIFY(std::abs(f.box(a).height() - 20) < 1e-9);
    f.type_measure("Right", "300");
    f.type_measure("Bottom", "200");
    QVERIFY(std::abs(f.box(a).x1 - 300) < 1e-9 && std::abs(f.box(a).y1 - 200) < 1e-9);
    // Leant by 45° about its foot: as far to the right as it is high.
    f.type_measure("Lean by", "45");
    QVERIFY(std::abs(f.box(a).x1 - 320) < 1e-9 && std::abs(f.box(a).width() - 60) < 1e-9);
    QVERIFY(std::abs(f.document().find(a)->outline()->outline->area() - 800) < 1e-9);
    QTest::keyClick(held, Qt::Key_Home);
    f.session().undo();
    QVERIFY(std::abs(f.box(a).width() - 40) < 1e-9);
  }

  // A ring around a box: it keeps its measure when the box grows, or grows along.
  void rings_stay_or_grow() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40);
    f.session().apply("Ring", edit_piece(f.document(), a, [](Piece& p) {
                        p.outline()->finish.steps = {{BorderStep{.rings = {{.distance = 3}}}, true}};
                      }));
    f.session().select({a});
    const auto ring = [&] {
      return std::get<BorderStep>(f.document().find(a)->outline()->finish.steps[0].what).rings[0].distance;
    };
    f.type_measure("Width", "160");
    QCOMPARE(ring(), 3.0);
    QCheckBox* grows = nullptr;
    for (auto* box : f.window.findChildren<QCheckBox*>())
      if (box->text() == "Rings and shades grow along" && box->isVisible())
        grows = box;
    QVERIFY(grows != nullptr && grows->isVisible());
    QTest::mouseClick(grows, Qt::LeftButton, {}, QPoint(8, grows->height() / 2));
    QVERIFY(f.document().finish_grows);
    f.type_measure("Width", "80");
    QCOMPARE(ring(), 1.5);
    // By the hand as well.
    const Handle corner = f.handle(HandleKind::Corner);
    f.press_and_move(corner.at, corner.at + Vec{-30, -30});
    f.let_go(corner.at + Vec{-30, -30});
    const double k = f.box(a).width() / 80;
    QVERIFY(k > 1.1 && std::abs(ring() - 1.5 * k) < 1e-9);
  }

  void sizes_catch_those_of_others() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40), b = f.put_box(320, 200, 120, 33);
    f.session().select({a});
    const auto corner = [&] {
      for (const Handle& h : handles_of(f.session(), 1 / f.window.canvas().px_per_mm()))
        if (h.kind == HandleKind::Corner && h.index == 2)
          return h.at;
      return Point{};
    };
    const Point from = corner(), fixed{100, 100};
    f.press_and_move(from, fixed + (from - fixed) * 1.485);
    QVERIFY(std::abs(f.shown_box(a).width() - 120) < 1e-9); // as wide as the other
    f.let_go(fixed + (from - fixed) * 1.485);
    QVERIFY(std::abs(f.box(a).width() - 120) < 1e-9);
    f.session().undo();
    f.drag(from, fixed + (from - fixed) * 1.485, Qt::ControlModifier); // held off
    QVERIFY(std::abs(f.box(a).width() - 120) > 0.1);
    QCOMPARE(f.box(b).width(), 120.0);
  }

  void linked_copies_by_the_card() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 30, 20);
    f.session().select({a});
    f.window.commands().action("arrange.copies")->trigger();
    for (QCheckBox* box : f.window.findChildren<QCheckBox*>())
      if (box->text().startsWith("Linked") && box->isVisible())
        box->click();
    f.type_measure("How many copies", "4");
    QTest::mouseClick(f.button("Make copies"), Qt::LeftButton);
    QVERIFY(QTest::qWaitFor([&] { return f.document().pieces.size() == 5; }, 5000));
    f.session().select({a});
    QVERIFY(f.window.commands().find("arrange.free-linked")->why_not().isEmpty());
    // A node of one by hand: in all of them, while the hand moves.
    QTest::keyClick(&f.window.canvas(), Qt::Key_4);
    f.press_and_move({100, 100}, {90, 90}, Qt::ControlModifier);
    for (const auto& p : f.session().shown().pieces)
      QVERIFY(std::abs(f.shown_box(p->id).width() - 40) < 1);
    f.let_go({90, 90});
    for (const auto& p : f.document().pieces)
      QVERIFY(std::abs(f.box(p->id).width() - f.box(a).width()) < 1e-9 && f.box(a).width() > 35);
    f.session().undo(); // one step
    for (const auto& p : f.document().pieces)
      QCOMPARE(f.box(p->id).width(), 30.0);
    QTest::keyClick(&f.window.canvas(), Qt::Key_1);
    f.session().select({a});
    f.window.commands().action("arrange.select-linked")->trigger();
    QCOMPARE(f.session().selection().size(), std::size_t{5});
    f.session().select({a});
    f.window.commands().action("arrange.free-linked")->trigger();
    QVERIFY(!f.document().find(a)->link);
    QVERIFY(!f.window.commands().find("arrange.free-linked")->why_not().isEmpty());
  }

  void what_may_change_to_make_it_measure() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 40, 40), b = f.put_box(200, 100, 30, 40);
    QTest::keyClick(&f.window.canvas(), Qt::Key_8);
    f.drag({140, 120}, {200, 120});
    QVERIFY(f.session().measured() && std::abs(f.session().measured()->to.x - 200) < 1e-6);
    f.choose("What may change", "Place");
    f.type_measure("True length", "25");
    QVERIFY(std::abs(f.box(b).x0 - 165) < 1e-6 && f.box(a).x0 == 100 && f.box(b).width() == 30);
    // A click in a piece measures across it.
    f.click({120, 130});
    QVERIFY(f.session().measured());
    QVERIFY(std::abs(distance(f.session().measured()->from, f.session().measured()->to) - 40) < 1e-6);
  }

  void numbers_typed_while_the_hand_drags() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40);
    f.session().select({a});
    f.press_and_move({120, 120}, {147, 122});
    QTest::keyClicks(&f.window.canvas(), "37.5");
    QCOMPARE(f.shown_box(a).x0, 137.5); // to the right, where the hand goes, and level
    QCOMPARE(f.shown_box(a).y0, 100.0);
    f.move_hand({60, 122});
    QCOMPARE(f.shown_box(a).x0, 62.5); // and to the left
    QTest::keyClick(&f.window.canvas(), Qt::Key_Backspace);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Backspace);
    QCOMPARE(f.shown_box(a).x0, 63.0);
    QTest::keyClicks(&f.window.canvas(), ";1in");
    QVERIFY(std::abs(f.shown_box(a).x0 - 137) < 1e-9 && std::abs(f.shown_box(a).y0 - 125.4) < 1e-9);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    f.let_go({60, 122});
    QVERIFY(std::abs(f.box(a).x0 - 137) < 1e-9 && std::abs(f.box(a).y0 - 125.4) < 1e-9);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select); // no digit was a key of the window
    // Escape puts it back; what can't be read is the hand's own way.
    f.press_and_move({150, 140}, {190, 140});
    QTest::keyClicks(&f.window.canvas(), "7");
    f.key(Qt::Key_Escape);
    f.let_go({190, 140});
    QVERIFY(std::abs(f.box(a).x0 - 137) < 1e-9);
    f.press_and_move({150, 140}, {190, 140});
    QTest::keyClicks(&f.window.canvas(), "q/");
    QVERIFY(std::abs(f.shown_box(a).x0 - 177) < 3);
    f.let_go({190, 140});
  }

  // More than are laid anew at every step: the canvas carries their picture, and the document changes once.
  void hundreds_are_carried_as_a_picture() {
    Bench f;
    Document many;
    Ids ids;
    for (int i = 0; i < 400; ++i) {
      Piece p;
      p.content =
          OutlinePiece{std::make_shared<const Outline>(*parse_outline(
                           QString("M%1 %2h8v6h-8z").arg(20 + i % 25 * 20).arg(20 + i / 25 * 20).toStdString())),
                       {},
                       nullptr,
                       {}};
      Added added = add_piece(std::move(many), std::move(p));
      many = std::move(added.document);
      ids.push_back(added.id);
    }
    f.session().apply("Add", std::move(many), ids);
    f.settle();
    const PieceId first = ids.front();
    const std::uint64_t step = f.session().history().current().id;
    f.press_and_move({24, 23}, {54, 43}, Qt::ControlModifier);
    QVERIFY(f.session().history().current().id == step && f.session().shown() == f.document());
    QCOMPARE(f.box(first).x0, 20.0);
    QVERIFY(QTest::qWaitFor([&] { return !f.window.canvas().painting(); }, 5000));
    // What the hand holds is painted where it has it: nothing is left of the lower right piece at its place.
    const Point corner{20.0 + 24 * 20 + 4, 20.0 + 15 * 20 + 3};
    const auto ink_at = [&](Point mm) {
      const QImage image = f.window.canvas().grab().toImage();
      const QPoint at = f.px(mm) * image.devicePixelRatio();
      return QColor(image.pixel(at)).lightness() < 128;
    };
    QVERIFY(QTest::qWaitFor([&] { return ink_at(corner + Vec{30, 20}) && !ink_at(corner + Vec{0, 0}); }, 5000));
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, Qt::ControlModifier, f.px({54, 43}));
    QVERIFY(std::abs(f.box(first).x0 - 50) < 2 && std::abs(f.box(ids.back()).x0 - 530) < 2);
    QVERIFY(ink_at(corner + Vec{30, 20}) && !ink_at(corner)); // also before the new picture is there
    QVERIFY(QTest::qWaitFor([&] { return !f.window.canvas().painting(); }, 5000));
    QVERIFY(ink_at(corner + Vec{30, 20}) && !ink_at(corner));
    f.session().undo();
    QCOMPARE(f.box(first).x0, 20.0);
    f.settle();
    // A number; Escape; an undo from elsewhere in the middle.
    f.press_and_move({24, 23}, {54, 25});
    QTest::keyClicks(&f.window.canvas(), "12");
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    f.let_go({54, 25});
    QCOMPARE(f.box(first).x0, 32.0);
    f.press_and_move({36, 23}, {66, 25});
    f.key(Qt::Key_Escape);
    f.let_go({66, 25});
    QCOMPARE(f.box(first).x0, 32.0);
    f.press_and_move({36, 23}, {66, 25});
    f.session().undo();
    f.let_go({66, 25});
    QCOMPARE(f.box(first).x0, 20.0);
    QVERIFY(f.session().shown() == f.document() && !f.session().dragging());
  }

  void done_again_and_with_copies() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 20, 10);
    f.session().select({a});
    QVERIFY(!f.window.commands().find("arrange.again")->why_not().isEmpty());
    f.press_and_move({110, 105}, {140, 105});
    QTest::keyClicks(&f.window.canvas(), "30");
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    f.let_go({140, 105});
    f.key(Qt::Key_R);
    QCOMPARE(f.box(a).x0, 160.0);
    f.key(Qt::Key_R, Qt::ShiftModifier);
    f.key(Qt::Key_R, Qt::ShiftModifier);
    QCOMPARE(f.document().pieces.size(), std::size_t{3});
    QCOMPARE(f.box(a).x0, 160.0);
    QCOMPARE(f.box(f.session().selection().at(0)).x0, 220.0);
    f.window.commands().action("arrange.turn-right")->trigger();
    const PieceId last = f.session().selection()[0];
    QVERIFY(std::abs(f.box(last).width() - 10) < 1e-9);
    f.key(Qt::Key_R);
    QVERIFY(std::abs(f.box(last).width() - 20) < 1e-9);
    for (int i = 0; i < 6; ++i)
      f.session().undo();
    QVERIFY(f.document().pieces.size() == 1 && f.box(a).x0 == 100);
  }

  void any_step_is_a_click_away() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 20, 10);
    for (int i = 1; i <= 5; ++i)
      f.session().apply(QString("Move %1").arg(i), move_pieces(f.document(), {a}, {10, 0}));
    f.window.commands().action("edit.steps")->trigger();
    auto* list = f.find<QListWidget>("Steps, the newest first");
    QVERIFY(list != nullptr && list->isVisible() && list->count() == 7);
    QVERIFY(list->item(0)->text().contains("Move 5") && list->item(6)->text().contains("opened"));
    const auto go = [&](int row) {
      list->scrollToItem(list->item(row));
      QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(row)).center());
      f.settle();
    };
    go(3);
    QCOMPARE(f.box(a).x0, 120.0);
    QVERIFY(f.session().history().can_redo() && list->count() == 7);
    QVERIFY(list->item(3)->text().startsWith("●"));
    go(0);
    QCOMPARE(f.box(a).x0, 150.0);
    go(6);
    QVERIFY(f.document().pieces.empty());
    QVERIFY(QTest::qWaitFor([&] { return f.window.findChild<HistoryPage*>()->picture_shown(); }, 5000));
    go(1);
    f.session().apply("Other way", move_pieces(f.document(), {a}, {0, 5})); // with the page open
    QCOMPARE(list->count(), 7);
    QTest::keyClick(list, Qt::Key_Escape);
    QVERIFY(QTest::qWaitFor([&] { return f.window.findChild<HistoryPage*>() == nullptr; }, 1000));
  }

  void versions_stay_in_the_file() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 20, 10);
    QVERIFY(f.save(f.dir.filePath("job.frelm")) && f.session().saved());
    f.window.commands().action("edit.steps")->trigger();
    auto* name = f.find<QLineEdit>("Name of the version");
    auto* list = f.find<QListWidget>("Versions, the newest first");
    QTest::keyClick(name, Qt::Key_Return); // without a name
    QVERIFY(f.session().versions().empty());
    QTest::keyClicks(name, "As offered");
    QTest::keyClick(name, Qt::Key_Return);
    QCOMPARE(list->count(), 1);
    QVERIFY(list->item(0)->text().startsWith("As offered") && !f.session().saved() && f.window.isWindowModified());
    // Undone and redone, it stays; and through the file.
    f.session().apply("Move", move_pieces(f.document(), {a}, {50, 0}));
    f.session().undo();
    QCOMPARE(f.session().versions().size(), std::size_t{1});
    f.session().redo();
    QVERIFY(f.save(f.dir.filePath("job.frelm")) && f.session().saved());
    f.session().reset({});
    QVERIFY(f.session().versions().empty());
    QVERIFY(f.window.open_file(f.dir.filePath("job.frelm")) && f.session().saved());
    QCOMPARE(f.session().versions().at(0).name, std::string("As offered"));
    QCOMPARE(f.box(a).x0, 150.0);
    list->setCurrentRow(0);
    QTest::mouseClick(f.button("Go back to it"), Qt::LeftButton);
    QCOMPARE(f.box(a).x0, 100.0);
    f.session().undo();
    QCOMPARE(f.box(a).x0, 150.0);
    QTest::mouseClick(f.button("Remove"), Qt::LeftButton);
    QVERIFY(f.session().versions().empty() && !f.session().saved());
  }

  void a_job_that_is_open_twice_is_told() {
    Bench f;
    f.put_box(100, 100, 20, 10);
    QVERIFY(f.save(f.dir.filePath("job.frelm")));
    QVERIFY(f.window.bar().text().isEmpty());
    FaceLibrary faces(data_folder("faces").toStdString(), false);
    MainWindow other(faces, {f.dir.filePath("recovery"),
                             {},
                             f.dir.filePath("other.ini"),
                             data_folder("demo"),
                             std::make_shared<DiskStorage>()});
    QVERIFY(other.open_file(f.dir.filePath("job.frelm")));
    QVERIFY2(other.bar().text().contains("another window"), qPrintable(other.bar().text()));
    // In its own window a job may be opened again.
    QVERIFY(f.window.open_file(f.dir.filePath("job.frelm")));
    QVERIFY(!f.window.bar().text().contains("another window"));
    QVERIFY(!f.window.commands().find("file.new-window")->why_not().isEmpty()); // none to begin here
  }

  void copied_pieces_are_a_drawing_and_a_picture_for_others() {
    Bench f;
    const PieceId a = f.put_box(100, 100, 80, 40);
    f.put_box(300, 300, 10, 10);
    f.session().select({a});
    f.key(Qt::Key_C, Qt::ControlModifier);
    const QMimeData* mime = QApplication::clipboard()->mimeData();
    QVERIFY(mime->hasFormat("image/svg+xml") && mime->hasFormat("image/png"));
    const Result<Drawing> drawing = read_svg(mime->data("image/svg+xml").toStdString());
    QVERIFY(drawing.ok());
    Box ink;
    for (const DrawnShape& s : drawing->shapes)
      ink.add(s.outline.bounds());
    QVERIFY(std::abs(ink.width() - 80) < 1e-3 && std::abs(ink.height() - 40) < 1e-3 && std::abs(ink.x0) < 1e-3);
    const QImage picture = QImage::fromData(mime->data("image/png"), "PNG");
    QCOMPARE(picture.size(), QSize(1600, 800));
    QVERIFY(picture.pixelColor(800, 400).alpha() == 255);
    // What has no outline is neither.
    f.session().apply("Guide", add_piece({}, new_circle({50, 50}, 20)).document);
    f.session().select({f.document().pieces[0]->id});
    f.key(Qt::Key_C, Qt::ControlModifier);
    QVERIFY(QApplication::clipboard()->mimeData()->data("image/svg+xml").isEmpty());
  }

  void the_canvas_says_what_is_on_it() {
    Bench f;
    f.letter_on_circle("Tide");
    const PieceId a = f.put_box(100, 100, 80, 40);
    QAccessibleInterface* sheet = f.spoken();
    QVERIFY(sheet != nullptr && sheet->text(QAccessible::Name) == "Sheet");
    f.session().select({a});
    // Three pieces from the front, four corners, the turn and the lean.
    QCOMPARE(sheet->childCount(), 9);
    for (int i = 0; i < sheet->childCount(); ++i) {
      QAccessibleInterface* c = sheet->child(i);
      QVERIFY(c->isValid() && !c->text(QAccessible::Name).isEmpty() && !c->text(QAccessible::Description).isEmpty());
      QVERIFY(!c->rect().isEmpty() && c->parent() == sheet && sheet->indexOfChild(c) == i);
    }
    QVERIFY(sheet->child(0)->state().selected && !sheet->child(1)->state().selected);
    QCOMPARE(sheet->childAt(sheet->child(0)->rect().center().x(), sheet->child(0)->rect().center().y()),
             sheet->child(0));
    // The word with its letters; one is chosen by its action.
    QAccessibleInterface* word = nullptr;
    for (int i = 0; i < 3; ++i)
      if (sheet->child(i)->childCount() > 0)
        word = sheet->child(i);
    QVERIFY(word != nullptr && word->childCount() == 4);
    QCOMPARE(word->child(1)->text(QAccessible::Name), QString("i"));
    word->child(1)->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
    QVERIFY(f.session().letter() != 0 && word->child(1)->state().selected);
    // Nodes while they are worked on.
    f.session().select({a});
    f.window.canvas().set_tool(ToolKind::Nodes);
    QCOMPARE(sheet->childCount(), 7);
    QAccessibleInterface* node = sheet->child(4);
    QVERIFY2(node->text(QAccessible::Name).startsWith("Corner"), qPrintable(node->text(QAccessible::Name)));
    node->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
    QCOMPARE(f.session().nodes_chosen().size(), std::size_t{1});
    QVERIFY(node->state().selected);
    // What has gone says nothing.
    f.session().apply("Delete", remove_pieces(f.document(), {a}).document, Ids{});
    QVERIFY(!node->isValid() && node->text(QAccessible::Name).isEmpty() && node->rect().isEmpty());
  }

  // Every control of each main view has a name, as a screen reader walks the tree.
  void no_control_is_nameless() {
    Bench f;
    const auto walk = [](QAccessibleInterface* top) {
      QStringList nameless;
      std::function<void(QAccessibleInterface*, const QString&)> down = [&](QAccessibleInterface* i,
                                                                            const QString& path) {
        if (i == nullptr || !i->isValid() || i->state().invisible)
          return;
        const QAccessible::Role role = i->role();
        const bool control = role == QAccessible::Button || role == QAccessible::CheckBox ||
                             role == QAccessible::EditableText || role == QAccessible::ComboBox ||
                             role == QAccessible::RadioButton || role == QAccessible::SpinBox ||
                             role == QAccessible::List || role == QAccessible::Slider || role == QAccessible::Canvas;
        const QString name = i->text(QAccessible::Name);
        const QString type = i->object() != nullptr ? i->object()->metaObject()->className() : "child";
        const bool own = type != "QLineEdit" || !path.contains("QComboBox"); // a choice's own field
        if (control && own && name.isEmpty())
          nameless << path + "/" + type;
        for (int c = 0; c < i->childCount(); ++c)
          down(i->child(c), path + "/" + type);
      };
      down(top, {});
      return nameless;
    };
    QAccessibleInterface* top = QAccessible::queryAccessibleInterface(&f.window);
    QStringList nameless = walk(top);
    QVERIFY(f.window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm"));
    f.settle();
    for (const auto& p : f.document().pieces) {
      f.session().select({p->id});
      f.settle();
      nameless << walk(top);
    }
    f.key(Qt::Key_A, Qt::ControlModifier);
    nameless << walk(top);
    for (const int tool : {Qt::Key_3, Qt::Key_4, Qt::Key_5, Qt::Key_6, Qt::Key_7, Qt::Key_8}) {
      f.key(tool);
      nameless << walk(top);
    }
    for (const char* page :
         {"edit.steps", "edit.settings", "help.find", "help.keys", "arrange.materials", "file.export", "file.proof"})
      if (f.window.commands().find(page) != nullptr) {
        f.window.commands().action(page)->trigger();
        f.settle();
        nameless << walk(top);
      }
    nameless.removeDuplicates();
    QVERIFY2(nameless.isEmpty(), qPrintable(nameless.join("\n")));
  }
};

QTEST_MAIN(TestBenchWindow)
#include "test_bench_window.moc"
