// Outline commands, Snip and Take space in the real window: buttons, menus, pictures beforehand, the hand on the sheet.
#include "app/cards/outline_part.h"
#include "app/menus/add_menu.h"
#include "document/job_file.h"
#include "formats/svg.h"
#include "geom/path_data.h"
#include "window_fixture.h"

using namespace frelm;
using namespace frelm::test;

namespace {

struct LineBench : WindowFixture {
  PieceId add(const char* data, const char* name) {
    Piece p;
    p.name = name;
    p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(data)), Finish{{}}, {}, {}};
    Added added = add_piece(document(), std::move(p));
    session().apply("add", std::move(added.document));
    settle();
    return added.id;
  }
  // A plate with a disc in front of it.
  void plate_and_disc() {
    plate = add("M100 100H300V220H100Z", "plate");
    disc = add("M260 160A40 40 0 1 1 340 160A40 40 0 1 1 260 160Z", "disc");
    session().select({plate, disc});
    settle();
  }
  void take(ToolKind tool) {
    window.canvas().set_tool(tool);
    QVERIFY(QTest::qWaitFor([this] { return session().line_work() != nullptr; }, 5000));
    settle();
  }
  double area(PieceId id) { return std::abs(document().find(id)->outline()->outline->area()); }
  std::size_t pieces() { return document().pieces.size(); }
  QAction* command(OutlineCommand c) { return window.commands().action(outline_command_id(c)); }

  PieceId plate = 0, disc = 0;
};

} // namespace

class TestLinesWindow : public QObject {
  Q_OBJECT

private slots:
  void cut_away_by_button_with_a_picture_beforehand() {
    LineBench f;
    f.plate_and_disc();
    QPushButton* cut = f.button("Cut away");
    QVERIFY(cut != nullptr);
    const double plate = f.area(f.plate);
    const std::uint64_t step = f.session().history().current().id;
    // The focus rests on it: the picture, and nothing has changed.
    cut->setFocus();
    QVERIFY(QTest::qWaitFor([&] { return f.window.maker().picture().has_value(); }, 5000));
    const auto picture = *f.window.maker().picture();
    QVERIFY(picture.why_not.empty());
    QVERIFY(picture.stays->area() > 0.7 * plate && picture.stays->area() < plate);
    QVERIFY(std::abs(picture.goes->area() - pi * 1600) < 5);
    QCOMPARE(f.session().history().current().id, step);
    QTest::mouseClick(cut, Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(!f.window.maker().picture());
    QCOMPARE(f.pieces(), std::size_t{1});
    QVERIFY(std::abs(f.area(f.plate) - picture.stays->area()) < 1e-6);
    QCOMPARE(f.session().selection(), std::vector{f.plate});
    // What the file has.
    const auto svg = read_svg(write_svg(*cut_sheet(f.document(), f.session().evaluator())));
    QVERIFY(svg.ok() && svg->shapes.size() == 1);
    QVERIFY(std::abs(std::abs(svg->shapes[0].outline.area()) - f.area(f.plate)) < 0.01);
    f.session().undo();
    QCOMPARE(f.pieces(), std::size_t{2});
    QCOMPARE(f.area(f.plate), plate);
  }

  void what_cannot_be_done_is_said() {
    LineBench f;
    f.plate_and_disc();
    f.add("M400 10H420V30H400Z", "far");
    f.session().select({f.plate, f.document().pieces.back()->id});
    f.settle();
    f.button("Keep shared")->setFocus();
    QVERIFY(QTest::qWaitFor([&] { return f.window.maker().picture().has_value(); }, 5000));
    QVERIFY(!f.window.maker().picture()->why_not.empty());
    const std::uint64_t step = f.session().history().current().id;
    f.command(OutlineCommand::KeepShared)->trigger();
    f.settle();
    QCOMPARE(f.session().history().current().id, step);
    f.session().select({f.plate});
    f.settle();
    QVERIFY(!f.command(OutlineCommand::WeldTogether)->isEnabled());
    QVERIFY(f.command(OutlineCommand::OffsetAsPiece)->isEnabled());
  }

  void measures_and_menus() {
    LineBench f;
    f.plate_and_disc();
    f.type_measure("Offset", "5");
    f.command(OutlineCommand::OffsetAsPiece)->trigger();
    QVERIFY(f.settle());
    QCOMPARE(f.pieces(), std::size_t{3});
    const Box ring = f.document().pieces.front()->outline()->outline->bounds();
    QVERIFY(std::abs(ring.x0 - 95) < 0.01 && std::abs(ring.x1 - 345) < 0.01);
    // Resting on a menu's row shows the picture as well.
    f.session().select({f.plate, f.disc});
    f.settle();
    emit f.command(OutlineCommand::WeldTogether)->hovered();
    QVERIFY(QTest::qWaitFor([&] { return f.window.maker().picture().has_value(); }, 5000));
    f.session().select({f.plate}); // what is chosen changes: the picture goes
    QVERIFY(!f.window.maker().picture());
  }

  void live_letters_become_outlines_and_come_back() {
    LineBench f;
    letter_it(f.window.desk(), "Salty");
    f.settle();
    const PieceId word = f.selected().id;
    const Piece was = f.selected();
    const Box ink = f.session().selection_ink();
    f.add(QString("M%1 %2h%3v%4h-%3Z")
              .arg(ink.x0 - 10)
              .arg(ink.y0 - 10)
              .arg(ink.width() + 20)
              .arg(ink.height() + 20)
              .toUtf8()
              .constData(),
          "plate");
    const PieceId plate = f.document().pieces.back()->id;
    f.session().apply("behind", reorder_piece(f.document(), plate, 0));
    f.session().select({plate, word});
    f.settle();
    f.command(OutlineCommand::CutAway)->trigger();
    QVERIFY(f.settle());
    QCOMPARE(f.pieces(), std::size_t{1});
    f.window.commands().action("lettering.reopen")->trigger();
    f.settle();
    if (QPushButton* yes = f.button("Reopen without them"))
      QTest::mouseClick(yes, Qt::LeftButton);
    f.settle();
    QCOMPARE(f.pieces(), std::size_t{2});
    QVERIFY(f.document().find(word) != nullptr && *f.document().find(word) == was);
  }

  void finished_together_with_one_ring() {
    LineBench f;
    f.plate_and_disc();
    QTest::mouseClick(f.button("Finish together"), Qt::LeftButton);
    f.settle();
    const PieceId block = f.selected().id;
    f.window.commands().action("outline.add.border")->trigger();
    QVERIFY(f.settle());
    f.type_measure("Distance of ring 1", "6");
    QVERIFY(f.settle());
    const auto sheet = cut_sheet(f.document(), f.session().evaluator());
    QVERIFY(sheet.ok());
    QCOMPARE(sheet->pieces.size(), std::size_t{3}); // the ring, plate and disc
    const Box ring = sheet->pieces[0].outline.bounds();
    QVERIFY(std::abs(ring.x0 - 94) < 0.01 && std::abs(ring.x1 - 346) < 0.01);
    f.window.commands().action("lettering.apart")->trigger();
    QVERIFY(f.settle());
    QVERIFY(f.document().find(block) == nullptr);
    QVERIFY(f.document().find(f.plate)->visible && f.document().find(f.disc)->visible);
    f.session().undo();
    f.session().undo();
    f.settle();
    QVERIFY(f.document().find(block) != nullptr);
  }

  void snip_by_click_drag_and_escape() {
    LineBench f;
    f.plate_and_disc();
    f.session().select({});
    f.take(ToolKind::Snip);
    const double disc = f.document().find(f.disc)->outline()->outline->length();
    // The arc of the disc outside the plate.
    f.click({340, 160});
    QVERIFY(f.settle());
    const Outline& rest = *f.document().find(f.disc)->outline()->outline;
    QVERIFY(!rest.contours.at(0).closed && rest.length() < disc / 2 + 1);
    QCOMPARE(f.session().history().current().name, QString("Snip").toStdString());
    f.session().undo();
    QVERIFY(QTest::qWaitFor([&] { return f.session().line_work() != nullptr; }, 5000));
    // Broken off in the middle of a drag: nothing goes.
    f.press_and_move({340, 160}, {300, 160});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px({300, 160}));
    QVERIFY(f.document().find(f.disc)->outline()->outline->contours.at(0).closed);
    // A drag over two lines takes out both.
    QVERIFY(QTest::qWaitFor([&] { return f.session().line_work() != nullptr; }, 5000));
    Canvas* c = &f.window.canvas();
    QTest::mousePress(c, Qt::LeftButton, {}, f.px({340, 160}));
    for (const Point p : {Point{320, 160}, Point{300, 160}}) {
      const QPoint at = f.px(p);
      QMouseEvent move(QEvent::MouseMove, at, c->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
      QApplication::sendEvent(c, &move);
    }
    QTest::mouseRelease(c, Qt::LeftButton, {}, f.px({300, 160}));
    QVERIFY(f.settle());
    QVERIFY(!f.document().find(f.disc)->outline()->outline->contours.at(0).closed);
    QVERIFY(!f.document().find(f.plate)->outline()->outline->contours.at(0).closed);
    QTest::keyClick(c, Qt::Key_Escape);
    QCOMPARE(c->tool(), ToolKind::Select);
  }

  void take_space_by_click_and_shift() {
    LineBench f;
    f.plate_and_disc();
    f.session().select({});
    f.take(ToolKind::Space);
    f.click({280, 160}); // the lens of both
    QVERIFY(f.settle());
    QCOMPARE(f.pieces(), std::size_t{3});
    const PieceId space = f.document().pieces.back()->id;
    const double lens = f.area(space);
    QVERIFY(lens > 100 && lens < pi * 1600);
    QVERIFY(QTest::qWaitFor([&] { return f.session().line_work() != nullptr; }, 5000));
    f.click({320, 160}, Qt::ShiftModifier); // and the rest of the disc
    QVERIFY(f.settle());
    QCOMPARE(f.pieces(), std::size_t{3});
    QVERIFY2(std::abs(f.area(space) - pi * 1600) < 5, qPrintable(QString::number(f.area(space))));
    const auto back = read_job(write_job(f.document(), f.faces));
    QVERIFY(back.ok() && *back == f.document());
    // Where nothing is enclosed but the sheet is: up to its edges.
    QVERIFY(QTest::qWaitFor([&] { return f.session().line_work() != nullptr; }, 5000));
    f.click({30, 30});
    QVERIFY(f.settle());
    QCOMPARE(f.pieces(), std::size_t{4});
  }

  void sand_by_drag_escape_and_keys() {
    LineBench f;
    QString wobbly = "M100 200";
    for (int i = 1; i <= 100; ++i)
      wobbly += QString("L%1 %2").arg(100 + 2 * i).arg(200 + (i % 2 == 0 ? 0.25 : -0.25));
    const PieceId id = f.add((wobbly + "V260H100Z").toUtf8().constData(), "board");
    const auto nodes = [&] { return f.document().find(id)->outline()->outline->node_count(); };
    const std::size_t before = nodes();
    f.window.canvas().set_tool(ToolKind::Sand);
    f.settle();
    f.type_measure("Size of the brush", "12");
    f.type_measure("Wobbles that are evened out", "8");
    f.type_measure("Farthest that the line moves", "0.5");
    QCOMPARE(f.session().brush().radius, 6.0);
    // Broken off.
    f.press_and_move({120, 200}, {200, 200});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px({200, 200}));
    QCOMPARE(nodes(), before);
    f.drag({120, 200}, {280, 200});
    QVERIFY2(nodes() < before * 2 / 3, qPrintable(QString::number(nodes())));
    QCOMPARE(f.session().history().current().name, std::string("Sand"));
    // The corners far from the stroke are where they were.
    const frelm::Box box = f.document().find(id)->outline()->outline->bounds();
    QVERIFY(std::abs(box.x0 - 100) < 1e-9 && std::abs(box.y1 - 260) < 1e-9);
    f.session().undo();
    QCOMPARE(nodes(), before);
    // The same at chosen nodes, without the hand.
    f.session().select({id});
    f.window.canvas().set_tool(ToolKind::Nodes);
    f.session().choose_nodes({{0, 40}, {0, 44}});
    f.settle();
    QTest::mouseClick(f.button("Sand"), Qt::LeftButton);
    f.settle();
    QVERIFY(nodes() < before);
    f.session().undo();
    f.session().choose_nodes({{0, 10}, {0, 60}});
    f.settle();
    QTest::mouseClick(f.button("One line"), Qt::LeftButton);
    f.settle();
    QCOMPARE(nodes(), before - 49);
  }

  void openings_are_bridged_as_asked() {
    LineBench f;
    f.add("M100 100H200V200H100V102", "open");
    f.session().select({});
    f.take(ToolKind::Space);
    QVERIFY(f.session().line_work()->spaces.bridges().empty());
    f.type_measure("Widest opening that is bridged", "3");
    QVERIFY(QTest::qWaitFor([&] { return f.session().line_work() != nullptr; }, 5000));
    QCOMPARE(f.session().line_work()->spaces.bridges().size(), std::size_t{1});
    f.click({150, 150});
    QVERIFY(f.settle());
    QVERIFY(std::abs(f.area(f.document().pieces.back()->id) - 10000) < 1);
  }
};

QTEST_MAIN(TestLinesWindow)
#include "test_lines_window.moc"
