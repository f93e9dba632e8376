// Rails, filled shapes, nets and stacks worked in the real window by mouse and by keyboard; then the document and the
// exported file are looked at.
#include "app/cards/gallery.h"
#include "app/menus/add_menu.h"
#include "app/window_fixture.h"
#include "document/arrange.h"
#include "document/blocks.h"
#include "geom/path_data.h"
#include "reference/svg_extents.h"

#include <QComboBox>
#include <QJsonArray>
#include <QMenu>
#include <QMenuBar>

using namespace frelm;
using namespace frelm::test;

namespace {

void letter(WindowFixture& f, const QString& words, double size = 60) {
  letter_it(f.window.desk(), words);
  f.session().edit("Size", f.selected().id, [&](Piece& p) {
    p.lettering()->recipe.letters()->face = {"Bebas Neue", "Regular"};
    p.lettering()->recipe.letters()->size = size;
  });
  f.window.canvas().setFocus();
  QVERIFY(f.settle());
}
const Bend& bend(WindowFixture& f) {
  return f.selected().lettering()->recipe.bend;
}
const BentBlock& block(WindowFixture& f) {
  return *f.session().seated(f.selected().id)->bent;
}
Box ink(WindowFixture& f) {
  return f.session().seated(f.selected().id)->ink;
}
Handle block_handle(WindowFixture& f, BlockHandleKind kind, std::size_t index = 0, bool bottom = false) {
  for (const Handle& h : handles_of(f.session(), 1.0 / f.px_per_mm()))
    if (h.kind == HandleKind::Block && h.block.kind == kind && h.block.index == index && h.block.bottom == bottom)
      return h;
  qWarning("no such handle");
  return {};
}
void combo(WindowFixture& f, const QString& name, int index) {
  QApplication::processEvents(); // what has just come is laid out first
  auto* box = f.find<QComboBox>(name);
  QVERIFY2(box != nullptr && box->isVisible(), qPrintable(name));
  box->setCurrentIndex(index);
  emit box->activated(index);
}
void press(WindowFixture& f, const QString& name) {
  auto* b = f.find<QToolButton>(name);
  QVERIFY2(b != nullptr && b->isVisible(), qPrintable(name));
  b->setFocus();
  QTest::keyClick(b, Qt::Key_Space);
}
QJsonObject exported(WindowFixture& f) {
  const QString svg = f.dir.filePath("out.svg");
  f.window.export_to(svg);
  f.settle();
  return svg_extents(svg);
}
// The file's extents against the ink that is shown: outlines in the file, mm.
void file_matches(WindowFixture& f, const Box& shown) {
  const QJsonObject file = exported(f);
  const QJsonArray box = file["box"].toArray();
  QVERIFY(box.size() == 4);
  const double got[]{box[0].toDouble(), box[1].toDouble(), box[2].toDouble(), box[3].toDouble()};
  const double wanted[]{shown.x0, shown.y0, shown.x1, shown.y1};
  for (int i = 0; i < 4; ++i)
    QVERIFY2(std::abs(got[i] - wanted[i]) < 0.01,
             qPrintable(QString("%1: %2 %3, %4").arg(i).arg(got[i]).arg(wanted[i]).arg(block(f).sketch)));
}
PieceId add_guide_piece(WindowFixture& f, const GuideShape& shape) {
  Added a = add_piece(f.document(), new_guide(shape));
  f.session().apply("guide", std::move(a.document));
  return a.id;
}

} // namespace

class TestWarpWindow : public QObject {
  Q_OBJECT

private slots:
  void the_gallery_bends_the_word() {
    WindowFixture f;
    letter(f, "Slow Wake");
    f.choose("Bend", "Rails");
    QVERIFY(f.settle());
    QCOMPARE(bend(f).kind, BendKind::Rails);
    Gallery* gallery = f.window.bend_card().rails().gallery();
    QToolButton* opener = nullptr;
    for (QToolButton* b : f.window.bend_card().rails().findChildren<QToolButton*>())
      if (b->accessibleName().startsWith("Gallery, now"))
        opener = b;
    QVERIFY(opener != nullptr);
    QTest::mouseClick(opener, Qt::LeftButton);
    QVERIFY(gallery->isVisible());
    QVERIFY(QTest::qWaitFor([&] { return !gallery->tile(gallery->tiles() - 1)->icon().isNull(); }, 5000));
    // Every tile is a picture of its own.
    QSet<QByteArray> pictures;
    for (int i = 0; i < gallery->tiles(); ++i) {
      const QImage image = gallery->tile(i)->icon().pixmap(104, 48).toImage();
      pictures.insert(QByteArray(reinterpret_cast<const char*>(image.constBits()), image.sizeInBytes()));
    }
    QCOMPARE(pictures.size(), gallery->tiles());
    QToolButton* dip_under_arch = nullptr;
    for (int i = 0; i < gallery->tiles(); ++i)
      if (gallery->tile(i)->text() == "Dip under Arch")
        dip_under_arch = gallery->tile(i);
    QVERIFY(dip_under_arch != nullptr);
    QTest::mouseClick(dip_under_arch, Qt::LeftButton);
    QVERIFY(!gallery->isVisible());
    QCOMPARE(bend(f).rails.bottom.first.kind, ProfileKind::Dip);
    QVERIFY(opener->text() == "Dip under Arch");
    QCOMPARE(QString::fromStdString(f.session().history().undo_name()), QString("Dip under Arch"));
    QVERIFY(f.settle());
    file_matches(f, ink(f));
    f.session().undo();
    QCOMPARE(bend(f).rails.link, EdgeLink::Same);
  }

  void edges_are_pulled_by_mouse() {
    WindowFixture f;
    letter(f, "WAKE", 100);
    f.choose("Bend", "Rails");
    QVERIFY(f.settle());
    const double height = block(f).made.block.height();
    const double was = bend(f).rails.top.first.depth;
    const Handle top = block_handle(f, BlockHandleKind::Depth);
    f.drag(top.at, top.at + Vec{0, -20});
    QVERIFY2(std::abs(bend(f).rails.top.first.depth - (was + 2000 / height)) < 1.5,
             qPrintable(QString::number(bend(f).rails.top.first.depth)));
    QCOMPARE(QString::fromStdString(f.session().history().undo_name()), QString("Pull the top edge"));
    QVERIFY(f.settle());
    QVERIFY(!block(f).sketch); // refined after letting go
    // Through the straight edge an Arch becomes a Dip.
    const Handle again = block_handle(f, BlockHandleKind::Depth);
    const double mm = bend(f).rails.top.first.depth / 100 * height;
    f.drag(again.at, again.at + Vec{0, mm + 25});
    QCOMPARE(bend(f).rails.top.first.kind, ProfileKind::Dip);
    // While the hand is down the letters are live, and Esc gives the drag up.
    const Handle dip = block_handle(f, BlockHandleKind::Depth);
    const Bend before = bend(f);
    f.press_and_move(dip.at, dip.at + Vec{0, -15});
    QVERIFY(f.session().dragging());
    QVERIFY(bend(f).rails.top.first.depth != before.rails.top.first.depth);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QVERIFY(bend(f) == before);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px(dip.at));
    // Tapers at the corners.
    const Handle left = block_handle(f, BlockHandleKind::TaperAlong, 0);
    f.drag(left.at, left.at + Vec{0, 0.2 * height});
    QVERIFY(std::abs(bend(f).rails.taper_along - 40) < 1.5);
    const Handle foot = block_handle(f, BlockHandleKind::TaperAcross, 1);
    f.drag(foot.at, foot.at + Vec{-0.1 * block(f).made.block.width(), 0});
    QVERIFY(std::abs(bend(f).rails.taper_across - 20) < 1.5);
    QVERIFY(f.settle());
    file_matches(f, ink(f));
  }

  void edges_are_set_by_keyboard() {
    WindowFixture f;
    letter(f, "WAKE", 100);
    f.choose("Bend", "Rails");
    QVERIFY(f.settle());
    f.type_measure("Top edge, depth", "45");
    QCOMPARE(bend(f).rails.top.first.depth, 45.0);
    f.choose("Bottom edge", "Own");
    QCOMPARE(bend(f).rails.bottom.first.depth, 45.0); // as it stood
    combo(f, "Bottom edge", static_cast<int>(ProfileKind::Wave));
    f.type_measure("Bottom edge, depth", "12");
    f.type_measure("Bottom edge, periods", "2");
    f.type_measure("Bottom edge, phase", "90");
    QCOMPARE(bend(f).rails.bottom.first, (RailProfile{ProfileKind::Wave, 12, 2, 90}));
    combo(f, "Top edge, added to it", static_cast<int>(ProfileKind::Peak));
    f.type_measure("Top edge, place of the peak", "20");
    QCOMPARE(bend(f).rails.top.plus.phase, 20.0);
    // Depths in mm: the same edges, other numbers.
    const Box as_percent = ink(f);
    f.choose("Depth in", "mm");
    QVERIFY(f.settle());
    QVERIFY(std::abs(bend(f).rails.top.first.depth - 0.45 * block(f).made.block.height()) < 1e-6);
    QVERIFY(std::abs(ink(f).y0 - as_percent.y0) < 0.02);
    f.choose("Verticals", "Follow");
    QCOMPARE(bend(f).rails.verticals, Verticals::Follow);
    f.type_measure("Taper of the ends", "-30");
    QCOMPARE(bend(f).rails.taper_along, -30.0);
    QVERIFY(f.settle());
    file_matches(f, ink(f));
    // Ctrl+Z all the way back to straight letters.
    while (f.session().history().can_undo() && bend(f).kind == BendKind::Rails)
      f.session().undo();
    QCOMPARE(bend(f).kind, BendKind::Straight);
  }

  void an_edge_follows_a_guide() {
    WindowFixture f;
    const PieceId line = add_guide_piece(f, ArcGuide{{300, 400}, 250, -40, 80});
    letter(f, "HARBOUR");
    f.choose("Bend", "Rails");
    combo(f, "Top edge", static_cast<int>(ProfileKind::Guide));
    QCOMPARE(bend(f).rails.top.guide, line);
    QVERIFY(f.settle());
    QVERIFY(std::abs(ink(f).y0 - 150) < 1); // the arc's top
    // A guide drawn later can be followed as well.
    const PieceId later = add_guide_piece(f, LineGuide{{140, 260}, {460, 260}});
    f.choose("Bottom edge", "Own");
    combo(f, "Bottom edge", static_cast<int>(ProfileKind::Guide));
    auto* below = f.find<QComboBox>("Bottom edge, guide");
    QVERIFY(below != nullptr && below->count() == 2);
    combo(f, "Bottom edge, guide", 1);
    QCOMPARE(bend(f).rails.bottom.guide, later);
    f.choose("Bottom edge", "Same");
    QVERIFY(f.settle());
    // It moves with the letters, and letters move with it.
    const Box was = ink(f);
    f.session().apply("move", move_pieces(f.document(), {f.selected().id}, {10, 20}));
    QVERIFY(f.settle());
    QVERIFY(std::abs(ink(f).y0 - was.y0 - 20) < 0.01);
    QVERIFY(std::abs(std::get<ArcGuide>(f.document().find(line)->guide()->shape).centre.y - 420) < 1e-9);
  }

  void a_shape_is_picked_and_its_corners_moved() {
    WindowFixture f;
    const PieceId frame = add_guide_piece(f, FrameGuide{{300, 200}, 300, 140, 0, 0});
    letter(f, "MARIGOLD");
    f.choose("Bend", "Rails");
    f.choose("Rails", "Fill a shape");
    QCOMPARE(f.window.canvas().tool(), ToolKind::Shape); // none chosen yet: a click chooses it
    f.click({300, 250});
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
    QCOMPARE(bend(f).rails.fill.guide, frame);
    QVERIFY(f.settle());
    QVERIFY(std::abs(ink(f).x0 - 150) < 0.01 && std::abs(ink(f).x1 - 450) < 0.01);
    QVERIFY(std::abs(ink(f).y0 - 130) < 0.01 && std::abs(ink(f).y1 - 270) < 0.01);
    const Handle corner = block_handle(f, BlockHandleKind::Corner, 1);
    QVERIFY(distance(corner.at, {450, 130}) < 1e-6);
    f.drag(corner.at, {400, 130});
    QVERIFY(bend(f).rails.fill.corners.has_value());
    QVERIFY(f.settle());
    QVERIFY(distance(block_handle(f, BlockHandleKind::Corner, 1).at, {400, 130}) < 1.5);
    file_matches(f, ink(f));
    // By keyboard; corners keep their order.
    combo(f, "Corner of the shape", 1);
    const auto moved = bend(f).rails.fill.corners;
    f.type_measure("Place of the corner", "30");
    QCOMPARE((*bend(f).rails.fill.corners)[1], 0.3);
    f.type_measure("Place of the corner", "99");
    QCOMPARE((*bend(f).rails.fill.corners)[1], 0.3);
    QVERIFY(f.window.bar().text().contains("order"));
    f.session().undo();
    QVERIFY(bend(f).rails.fill.corners == moved);
    QTest::mouseClick(f.button("Find again"), Qt::LeftButton);
    QVERIFY(!bend(f).rails.fill.corners);
    f.choose("Height", "Natural");
    QVERIFY(f.settle());
    QVERIFY(ink(f).height() < 139);
    QVERIFY(std::abs(ink(f).width() - 300) < 0.01);
  }
  // A shape with pointed ends is filled upright from the first; its ends and the proportion by fields and by hand.
  void a_pointed_shape_is_filled_upright() {
    WindowFixture f;
    add_guide_piece(
        f, PathGuide{parse_outline("M150 200C210 100 390 100 450 200C390 300 210 300 150 200Z")->contours.front()});
    letter(f, "MARIGOLD");
    f.choose("Bend", "Rails");
    f.choose("Rails", "Fill a shape");
    f.click({300, 250});
    QVERIFY(f.settle());
    QCOMPARE(bend(f).rails.fill.style, FillStyle::Upright);
    QVERIFY(f.find<QComboBox>("Corner of the shape")->isHidden() ||
            !f.find<QComboBox>("Corner of the shape")->isVisible());
    const frelm::Box was = ink(f);
    f.type_measure("Letters begin at, of the greatest height", "70");
    QCOMPARE(bend(f).rails.fill.upright.ends[0], 0.7);
    QVERIFY(f.settle());
    QVERIFY(ink(f).x0 > was.x0 + 10 && std::abs(ink(f).x1 - was.x1) < 0.1);
    const Handle end = block_handle(f, BlockHandleKind::End, 1);
    f.drag(end.at, end.at - Vec{40, 0});
    QVERIFY(f.settle());
    QVERIFY(std::abs(ink(f).x1 - (end.at.x - 40)) < 1.5);
    const double right = bend(f).rails.fill.upright.ends[1];
    f.press_and_move(block_handle(f, BlockHandleKind::End, 1).at, {350, 200});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QCOMPARE(bend(f).rails.fill.upright.ends[1], right);
    f.type_measure("Proportion", "100");
    QCOMPARE(bend(f).rails.fill.upright.proportion, 1.0);
    QVERIFY(f.settle());
    file_matches(f, ink(f));
    f.choose("Letters in the shape", "Smooth");
    QVERIFY(f.settle());
    QVERIFY(f.find<QComboBox>("Corner of the shape")->isVisible());
    f.session().undo();
    QCOMPARE(bend(f).rails.fill.style, FillStyle::Upright);
    // The shape deleted: letters stay.
    const frelm::Box before = ink(f);
    const PieceId word = f.selected().id;
    f.session().select({bend(f).rails.fill.guide});
    f.window.commands().action("edit.delete")->trigger();
    f.session().select({word});
    QVERIFY(f.settle());
    QVERIFY(std::abs(ink(f).x0 - before.x0) < 0.01 && std::abs(ink(f).y1 - before.y1) < 0.01);
  }
  void a_space_between_lines_becomes_the_shape() {
    WindowFixture f;
    add_guide_piece(f, LineGuide{{100, 100}, {500, 100}});
    add_guide_piece(f, LineGuide{{100, 220}, {500, 260}});
    add_guide_piece(f, LineGuide{{150, 50}, {150, 350}});
    add_guide_piece(f, LineGuide{{450, 50}, {450, 350}});
    letter(f, "WAKE");
    f.choose("Bend", "Rails");
    f.choose("Rails", "Fill a shape");
    f.click({300, 150});
    QVERIFY(f.settle());
    const Piece* space = f.document().find(bend(f).rails.fill.guide);
    QVERIFY(space != nullptr && space->guide() != nullptr);
    QCOMPARE(space->destination, Destination::Guide);
    QVERIFY(std::abs(ink(f).x0 - 150) < 0.05 && std::abs(ink(f).x1 - 450) < 0.05 && std::abs(ink(f).y0 - 100) < 0.05);
    // Nothing encloses this place: said so, and still asking.
    f.window.bend_card().rails().pick_shape();
    f.click({560, 380});
    QCOMPARE(f.window.canvas().tool(), ToolKind::Shape);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
  }

  void a_net_is_pulled_straightened_and_evened() {
    WindowFixture f;
    letter(f, "HHHHHH", 80);
    f.choose("Bend", "Rails");
    QVERIFY(f.settle());
    const Box before = ink(f);
    f.choose("Bend", "Net");
    QVERIFY(f.settle());
    QCOMPARE(bend(f).net.base, BendKind::Rails);
    QVERIFY(std::abs(ink(f).y0 - before.y0) < 1e-6 &&
            std::abs(ink(f).x1 - before.x1) < 1e-6); // starting changes nothing
    press(f, "One column more");
    press(f, "One row more");
    QVERIFY(f.settle());
    QCOMPARE(bend(f).net.net.pegs.size(), std::size_t{18});
    QVERIFY(std::abs(ink(f).y0 - before.y0) < 1e-6);
    // A pull by mouse.
    const Handle peg = block_handle(f, BlockHandleKind::Peg, 2);
    f.drag(peg.at, peg.at + Vec{0, -18});
    QCOMPARE(QString::fromStdString(f.session().history().undo_name()), QString("Pull a peg"));
    QVERIFY(std::abs(block_handle(f, BlockHandleKind::Peg, 2).at.y - (peg.at.y - 18)) < 0.8);
    QVERIFY(std::abs(bend(f).net.net.peg(2, 1).at.y - -9) < 0.5); // the inner peg follows half
    f.session().undo();
    QVERIFY(std::abs(block_handle(f, BlockHandleKind::Peg, 2).at.y - peg.at.y) < 1e-9);
    f.session().redo();
    // Several pegs: chosen with Shift, moved by arrows; then a handle.
    f.click(block_handle(f, BlockHandleKind::Peg, 2).at);
    f.click(block_handle(f, BlockHandleKind::Peg, 3).at, Qt::ShiftModifier);
    QCOMPARE(chosen_pegs(f.session()).size(), std::size_t{2});
    const double third = block_handle(f, BlockHandleKind::Peg, 3).at.y;
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Up, Qt::ShiftModifier);
    QVERIFY(std::abs(block_handle(f, BlockHandleKind::Peg, 3).at.y - (third - 10)) < 1e-6);
    f.session().choose_nodes({{0, 0}});
    const Handle arm = block_handle(f, BlockHandleKind::PegAlong, 0);
    const Vec along = bend(f).net.net.pegs[0].along;
    f.drag(arm.at, arm.at + Vec{0, -12});
    QVERIFY(bend(f).net.net.pegs[0].along.y < along.y - 10);
    // The row straight, then even, by keyboard.
    for (const QString& name : {QString("Next peg"), QString("Next peg")})
      press(f, name);
    QCOMPARE(chosen_pegs(f.session()), std::vector<std::size_t>{2});
    QPushButton* straight = nullptr;
    QPushButton* even = nullptr;
    for (QPushButton* b : f.window.bend_card().net().findChildren<QPushButton*>())
      if (b->text() == "Row")
        (straight == nullptr ? straight : even) = b;
    straight->setFocus();
    QTest::keyClick(straight, Qt::Key_Space);
    QVERIFY(f.settle());
    const Point a = block_handle(f, BlockHandleKind::Peg, 0).at, b = block_handle(f, BlockHandleKind::Peg, 5).at;
    for (std::size_t k = 1; k < 5; ++k) {
      const Point p = block_handle(f, BlockHandleKind::Peg, k).at;
      QVERIFY(std::abs(cross(unit(b - a), p - a)) < 1e-6);
    }
    even->setFocus();
    QTest::keyClick(even, Qt::Key_Space);
    QCOMPARE(QString::fromStdString(f.session().history().undo_name()), QString("Even out row"));
    // Typed place, and all back.
    f.type_measure("Peg, y", "111");
    QVERIFY(std::abs(block_handle(f, BlockHandleKind::Peg, 2).at.y - 111) < 0.01);
    QVERIFY(f.settle());
    QCOMPARE(block(f).report.folds, std::size_t{0});
    file_matches(f, ink(f));
    QCOMPARE(block(f).report.folds, std::size_t{0});
    press(f, "One column less");
    QCOMPARE(bend(f).net.net.columns.size(), std::size_t{5});
    const auto told = [&] {
      for (const QLabel* label : f.window.bend_card().net().findChildren<QLabel*>())
        if (label->text().startsWith("Taken out"))
          return true;
      return false;
    };
    QVERIFY(told()); // what that changed, until the next change
    f.session().undo();
    QVERIFY(!told());
    f.session().redo();
    QTest::mouseClick(f.button("All back"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(std::abs(ink(f).y0 - before.y0) < 1e-6);
  }
  void mirrored_pulls_and_folds_that_are_refused() {
    WindowFixture f;
    letter(f, "WAKE", 80);
    f.choose("Bend", "Net");
    for (QCheckBox* box : f.window.bend_card().net().findChildren<QCheckBox*>())
      QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(8, box->height() / 2));
    QVERIFY(bend(f).net.mirror);
    QVERIFY(f.settle());
    const Handle left = block_handle(f, BlockHandleKind::Peg, 0);
    f.drag(left.at, left.at + Vec{-20, -10});
    const auto& pegs = bend(f).net.net.pegs;
    QVERIFY(distance(pegs[0].at, {-pegs[2].at.x, pegs[2].at.y}) < 1e-9 && pegs[0].at.x < -15);
    // Pulled below the lower edge the letters would fold: the drag stops before.
    const Handle top = block_handle(f, BlockHandleKind::Peg, 1);
    f.drag(top.at, top.at + Vec{0, 130});
    QVERIFY(f.settle());
    QCOMPARE(block(f).report.folds, std::size_t{0});
    QVERIFY(bend(f).net.net.pegs[1].at.y < 100);
    // Typed it is refused as well, with the place.
    f.session().choose_nodes({{0, 1}});
    const Bend before = bend(f);
    f.type_measure("Peg, y", QString::number(top.at.y + 150));
    QVERIFY(bend(f) == before);
    QVERIFY2(f.window.bar().text().contains("fold over") && f.window.bar().text().contains("x "),
             qPrintable(f.window.bar().text()));
  }

  void a_stack_is_bent_and_released_in_colours_and_reopened() {
    WindowFixture f;
    letter(f, "SALTMARSH\nBOAT\nWORKS", 40);
    f.session().edit("stack", f.selected().id, [](Piece& p) {
      p.lettering()->recipe.letters()->equal_width = true;
      p.lettering()->recipe.letters()->line_pitch = 1.1;
    });
    f.choose("Bend", "Rails");
    QVERIFY(f.settle());
    const Recipe live = f.selected().lettering()->recipe;
    const PieceId id = f.selected().id;
    QVERIFY(std::abs(ink(f).width() - block(f).made.block.width()) < 0.1);
    combo(f, "Release as", static_cast<int>(ReleaseAs::ByLine));
    auto* second = f.find<QToolButton>("Colour of line 2");
    QVERIFY(second != nullptr && second->isVisible());
    QTest::mouseClick(second, Qt::LeftButton);
    QMenu* menu = nullptr;
    for (QMenu* m : f.window.findChildren<QMenu*>())
      if (m->isVisible())
        menu = m;
    QVERIFY(menu != nullptr);
    menu->actions()[1]->trigger();
    menu->close();
    QVERIFY(f.settle());
    QTest::mouseClick(f.button("Release to outlines"), Qt::LeftButton);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{3});
    const Colour plain{}, madder{0x9b, 0x2f, 0x45};
    QVERIFY(f.document().pieces[0]->colour == plain && f.document().pieces[1]->colour == madder &&
            f.document().pieces[2]->colour == plain);
    for (const auto& p : f.document().pieces)
      QVERIFY(p->outline() != nullptr && p->outline()->outline->node_count() > 10);
    f.window.canvas().setFocus();
    QApplication::setActiveWindow(&f.window); // the menu has taken that away
    QTest::keyClick(&f.window, Qt::Key_Return, Qt::ControlModifier | Qt::ShiftModifier);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QVERIFY(f.document().find(id)->lettering()->recipe == live);
    // Saved and opened again, it is the same live warp.
    const QString path = f.dir.filePath("stack.frelm");
    QVERIFY(f.save(path));
    QVERIFY(f.settle());
    const Box shown = f.session().seated(id)->ink;
    QVERIFY(f.window.open_file(path));
    QVERIFY(f.settle());
    QVERIFY(f.document().find(id)->lettering()->recipe == live);
    QVERIFY(std::abs(f.session().seated(id)->ink.y0 - shown.y0) < 1e-9);
  }

  void outlines_and_several_pieces_are_bent_too() {
    WindowFixture f;
    // A drawn outline.
    Piece drawn;
    Contour bar;
    for (const auto& [a, b] : {std::pair{Point{100, 100}, Point{300, 100}},
                               {Point{300, 100}, Point{300, 120}},
                               {Point{300, 120}, Point{100, 120}},
                               {Point{100, 120}, Point{100, 100}}})
      bar.segments.push_back(Segment::line(a, b));
    drawn.content = OutlinePiece{std::make_shared<const Outline>(Outline{{bar}}), Finish{{}}, nullptr, {}};
    Added added = add_piece(f.document(), drawn);
    f.session().apply("Draw", std::move(added.document), std::vector<PieceId>{added.id});
    QVERIFY(f.settle());
    f.choose("Bend", "Rails");
    QVERIFY(f.settle());
    QVERIFY(std::holds_alternative<OutlineSource>(f.selected().lettering()->recipe.source));
    QVERIFY(std::abs(ink(f).y0 - (100 - 0.6 * 20)) < 0.01 && std::abs(ink(f).y1 - 120) < 0.01);
    file_matches(f, ink(f));
    // With a word over it: as one block.
    letter(f, "KEEL", 30);
    f.session().apply("Move", move_pieces(f.document(), f.session().selection(), {-100, -90}));
    const PieceId word = f.selected().id;
    f.session().select({added.id, word});
    QVERIFY(f.settle());
    QTest::mouseClick(f.button("Bend together"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(f.selected().id != word);
    QVERIFY(!f.document().find(word)->visible && !f.document().find(added.id)->visible);
    QVERIFY(block(f).report.nodes_out > 20);
    file_matches(f, ink(f)); // the sources themselves are not cut
    // The word changes, and the block with it.
    const double wide = ink(f).width();
    f.session().edit("Size", word, [](Piece& p) { p.lettering()->recipe.letters()->size = 120; });
    QVERIFY(f.settle());
    QVERIFY(ink(f).width() > wide + 10);
  }
};

QTEST_MAIN(TestWarpWindow)
#include "test_warp_window.moc"
