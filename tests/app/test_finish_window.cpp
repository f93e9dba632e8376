// Borders and shades in the real window: added, measured, dragged, switched, released; the letters stay live.
#include "app/cards/finish_part.h"
#include "app/menus/add_menu.h"
#include "app/menus/lettering_menu.h"
#include "app/menus/outline_menu.h"
#include "document/job_file.h"
#include "formats/svg.h"
#include "window_fixture.h"

using namespace frelm;
using namespace frelm::test;

namespace {

// A script word on the sheet with the Finish card open.
struct Decal : WindowFixture {
  explicit Decal(const QString& words = "Salty") {
    letter_it(window.desk(), words);
    settle();
    session().edit("face", selected().id, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
    });
    settle();
    QTest::keyClick(&window, Qt::Key_4, Qt::AltModifier);
  }
  void add(const QString& step) {
    window.commands().action("outline.add." + step)->trigger();
    settle();
  }
  const Finish& finish() { return *selected().finish(); }
  template <class Step> const Step& step(std::size_t i) { return std::get<Step>(finish().steps.at(i).what); }
  QString layers() {
    settle();
    const Session::LayersShown now = session().layers(selected().id);
    QStringList out;
    if (now.finished != nullptr && now.current)
      for (const Layer& l : now.finished->layers)
        out << QString::fromStdString(layer_id(l.role, l.number));
    return out.join(" ");
  }
};

} // namespace

class TestFinishWindow : public QObject {
  Q_OBJECT

private slots:
  void a_layered_decal_with_two_rings() {
    Decal f;
    QVERIFY(f.window.commands().action("outline.add.border")->isEnabled());
    f.add("border");
    QCOMPARE(f.layers(), QString("ring-1 letters"));
    f.type_measure("Distance of ring 1", "2");
    QCOMPARE(f.step<BorderStep>(1).rings[0].distance, 2.0);
    QTest::mouseClick(f.button("Add a ring"), Qt::LeftButton);
    f.settle();
    f.type_measure("Distance of ring 2", "5");
    f.choose("Corners of the rings", "Mitred");
    f.choose("Under what lies on it", "Taken out");
    f.type_measure("Overlap of layers laid side by side", "0.3");
    const BorderStep& border = f.step<BorderStep>(1);
    QCOMPARE(border.rings.size(), std::size_t{2});
    QCOMPARE(border.rings[1].distance, 5.0);
    QVERIFY(border.join == JoinStyle::Mitre && border.taken_out && border.overlap == 0.3);
    QCOMPARE(f.layers(), QString("ring-2 ring-1 letters"));
    // Absurd measures are kept in their range.
    for (const char* odd : {"-4", "0", "1e300"}) {
      f.type_measure("Distance of ring 2", odd);
      QVERIFY(f.step<BorderStep>(1).rings[1].distance >= least_ring);
      QVERIFY(f.step<BorderStep>(1).rings[1].distance <= most_distance);
    }
    f.type_measure("Distance of ring 2", "5");
    // The file has the layers, and they come back with their colours.
    QVERIFY(f.settle());
    const auto sheet = cut_sheet(f.document(), f.session().evaluator());
    QVERIFY(sheet.ok());
    QCOMPARE(sheet->pieces.size(), std::size_t{3});
    const auto svg = read_svg(write_svg(*sheet));
    QVERIFY(svg.ok());
    QCOMPARE(svg->shapes.size(), std::size_t{3});
    QVERIFY(svg->shapes[0].colour == border.rings[1].colour);
    // Saved, opened, copied: the same steps.
    const auto back = read_job(write_job(f.document(), f.faces));
    QVERIFY(back.ok() && *back == f.document());
  }

  void the_shade_follows_the_hand_and_the_words() {
    Decal f;
    f.add("border");
    f.add("block-shade");
    QCOMPARE(f.layers(), QString("shade ring-1 letters"));
    const ShadeStep was = f.step<ShadeStep>(2);
    const Handle h = f.handle(HandleKind::Shade);
    // Broken off: nothing has changed.
    f.press_and_move(h.at, h.at + Vec{15, -4});
    QVERIFY(f.step<ShadeStep>(2) != was); // as shown
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px(h.at));
    QVERIFY(f.step<ShadeStep>(2) == was);
    f.drag(h.at, h.at + Vec{15, -4});
    QVERIFY(f.step<ShadeStep>(2).depth > was.depth && f.step<ShadeStep>(2).angle < was.angle);
    const double depth = f.step<ShadeStep>(2).depth;
    const Handle ring = f.handle(HandleKind::RingDistance);
    const double distance = f.step<BorderStep>(1).rings[0].distance;
    f.drag(ring.at, ring.at + Vec{-3, 0});
    QVERIFY(std::abs(f.step<BorderStep>(1).rings[0].distance - distance - 3) < 0.6);
    // Another word, and all layers with it.
    QVERIFY(f.settle());
    const double before = f.session().layers(f.selected().id).finished->bounds().width();
    Document typed = f.document();
    std::uint64_t next = typed.next_id;
    typed = edit_piece(std::move(typed), f.selected().id, [&](Piece& p) {
      TypedText& text = p.lettering()->recipe.letters()->text;
      text = retyped(text, U"Salty dog", next);
    });
    typed.next_id = next;
    f.session().apply("type", std::move(typed));
    QCOMPARE(f.layers(), QString("shade ring-1 letters"));
    const double after = f.session().layers(f.selected().id).finished->bounds().width();
    QVERIFY2(after > before * 1.3, qPrintable(QString("%1 %2").arg(before).arg(after)));
    QCOMPARE(f.step<ShadeStep>(2).depth, depth);
    f.session().undo();
    QCOMPARE(f.layers(), QString("shade ring-1 letters"));
    QVERIFY(std::abs(f.session().layers(f.selected().id).finished->bounds().width() - before) < 1e-6);
  }

  void a_tab_is_dropped_on_an_edge() {
    Decal f;
    f.add("border");
    f.add("tab");
    QCOMPARE(f.layers(), QString("ring-1 letters"));
    const auto ring = [&] { return *f.session().layers(f.selected().id).finished->layers[0].outline; };
    const std::size_t holes = ring().contours.size();
    const TabStep was = f.step<TabStep>(2);
    const Box ink = f.session().selection_ink();
    const Handle h = f.handle(HandleKind::Tab);
    QVERIFY(h.at.y < ink.centre().y && std::abs(h.at.x - ink.centre().x) < ink.width() / 4);
    const Vec to_the_left = Point{ink.x0 - 10, (ink.y0 + ink.y1) / 2} - h.at;
    f.press_and_move(h.at, h.at + to_the_left);
    QVERIFY(f.step<TabStep>(2) != was);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px(h.at));
    QVERIFY(f.step<TabStep>(2) == was);
    f.drag(h.at, h.at + to_the_left);
    QVERIFY(f.step<TabStep>(2).across < 0 && f.step<TabStep>(2).down > 0.2);
    QCOMPARE(f.layers(), QString("ring-1 letters"));
    QVERIFY(f.handle(HandleKind::Tab).at.x < ink.x0);
    QCOMPARE(ring().contours.size(), holes);
    f.type_measure("Diameter of its hole", "0");
    f.layers();
    QCOMPARE(ring().contours.size(), holes - 1);
    f.session().undo();
    // Another word keeps it on its side, and off is as if it weren't there.
    f.layers();
    const double area = ring().area();
    f.session().edit("off", f.selected().id, [](Piece& p) { p.finish()->steps[2].on = false; });
    f.layers();
    QCOMPARE(ring().contours.size(), holes - 1);
    QVERIFY(ring().area() < area);
    f.session().undo();
    const auto back = read_job(write_job(f.document(), f.faces));
    QVERIFY(back.ok() && *back == f.document());
  }

  void a_shape_is_cut_with_a_finish_of_its_own() {
    WindowFixture f;
    f.window.commands().action(QString("add.guide.%1").arg(GuideShape(PlateGuide{}).index()))->trigger();
    QVERIFY(f.settle());
    QVERIFY(f.selected().is_shape());
    f.choose("Screw holes", "Two");
    f.window.commands().action("outline.add.border")->trigger();
    QVERIFY(f.settle());
    const auto sheet = [&] { return *cut_sheet(f.document(), f.session().evaluator()); };
    QCOMPARE(sheet().pieces.size(), std::size_t{2});
    QCOMPARE(sheet().pieces[1].outline.contours.size(), std::size_t{3});
    // What its steps make of it is what the canvas shows.
    f.window.commands().action("outline.add.round")->trigger();
    QVERIFY(f.settle());
    const Picture picture = picture_of(f.session(), QTransform(), 1, View::Ink);
    QVERIFY(picture.pieces[0].outline == f.session().finished(f.selected().id));
    QVERIFY(*picture.pieces[0].outline == sheet().pieces[1].outline);
    f.session().undo();
    QVERIFY(f.settle());
    f.choose("Form", "Ellipse");
    QVERIFY(f.settle());
    QCOMPARE(f.session().layers(f.selected().id).finished->layers.size(), std::size_t{2});
    // As a guide its steps rest, and come back.
    f.choose("Use", "Guide");
    QVERIFY(f.settle());
    QVERIFY(sheet().pieces.empty() && f.selected().finish() == nullptr);
    QVERIFY(!f.window.commands().action("outline.add.border")->isEnabled());
    f.choose("Use", "Shape");
    QVERIFY(f.settle());
    QCOMPARE(sheet().pieces.size(), std::size_t{2});
    const auto back = read_job(write_job(f.document(), f.faces));
    QVERIFY(back.ok() && *back == f.document());
  }

  // Four hundred letters with rings and a shade: the row says how far it is, Cancel ends it, the next change begins it
  // again, and what is shown meanwhile is never passed off as finished.
  void long_work_is_told_and_can_be_cancelled() {
    WindowFixture f;
    QString words;
    for (int line = 0; line < 20; ++line)
      words += (line > 0 ? "\n" : "") + QString("the tide comes in again");
    letter_it(f.window.desk(), words);
    QVERIFY(f.settle());
    const PieceId id = f.selected().id;
    const auto add = [&] {
      f.session().edit("finish", id, [](Piece& p) {
        p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
        p.lettering()->recipe.letters()->size =
            p.lettering()->recipe.letters()->size == 12 ? 12.1 : 12; // not yet known
        p.finish()->steps = {FinishStep{}};
        p.finish()->steps.emplace_back().what = BorderStep{.rings = {{.distance = 1.1}, {.distance = 2.2}}};
        p.finish()->steps.emplace_back().what = ShadeStep{.depth = 4};
      });
    };
    QPushButton* cancel = nullptr;
    for (QPushButton* b : f.window.findChildren<QPushButton*>())
      if (b->text() == "Cancel" && b->objectName() == "flat")
        cancel = b;
    QVERIFY(cancel != nullptr && !cancel->isVisible());
    add();
    QVERIFY(f.session().busy() && !f.session().layers(id).current);
    if (!QTest::qWaitFor([&] { return cancel->isVisible() || !f.session().busy(); }, 10'000))
      QFAIL("neither done nor told");
    if (f.session().busy()) { // quick machines are done before there is anything to cancel
      QTest::mouseClick(cancel, Qt::LeftButton);
      QVERIFY(!f.session().busy() && f.session().stopped());
      QTest::qWait(50);
      QVERIFY(!f.session().layers(id).current && !cancel->isVisible());
    }
    add();
    QVERIFY(QTest::qWaitFor([&] { return !f.session().busy(); }, 60'000));
    QVERIFY(f.session().layers(id).current && !f.session().stopped());
    QCOMPARE(f.session().layers(id).finished->layers.size(), std::size_t{4});
  }

  void steps_are_moved_by_hand_and_by_keys() {
    Decal f;
    f.add("border");
    f.add("block-shade");
    f.add("thin"); // weld, border, shade, fewer nodes
    const auto order = [&] {
      QString out;
      for (const FinishStep& s : f.finish().steps)
        out += QString::number(s.what.index());
      return out;
    };
    const auto heading = [&](const QString& name) {
      for (QToolButton* b : f.window.findChildren<QToolButton*>())
        if (b->isVisible() && b->text() == name && b->objectName() == "flat")
          return b;
      return static_cast<QToolButton*>(nullptr);
    };
    const QString was = order();
    const auto hand = [&](QToolButton* b, int dy, bool escape = false) {
      const QPoint at = b->rect().center(), on = b->mapToGlobal(at);
      QTest::mousePress(b, Qt::LeftButton, {}, at);
      for (int i = 1; i <= 4; ++i) {
        QMouseEvent move(QEvent::MouseMove, at, on + QPoint(0, dy * i / 4), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(b, &move);
      }
      if (escape)
        QTest::keyClick(b, Qt::Key_Escape);
      const QPoint end = on + QPoint(0, dy);
      QMouseEvent up(QEvent::MouseButtonRelease, b->mapFromGlobal(end), end, Qt::LeftButton, Qt::NoButton, {});
      QApplication::sendEvent(b, &up);
      f.settle();
    };
    hand(heading("Fewer nodes"), -300); // above all
    QCOMPARE(order(), was.right(1) + was.left(3));
    f.session().undo();
    f.settle();
    QCOMPARE(order(), was);
    hand(heading("Border"), 90, true); // given up
    QCOMPARE(order(), was);
    hand(heading("Border"), 1); // a click: it opens
    QCOMPARE(order(), was);
    QTest::keyClick(heading("Border"), Qt::Key_Up, Qt::AltModifier);
    f.settle();
    QCOMPARE(order(), QString(was[1]) + was[0] + was[2] + was[3]);
    QTest::keyClick(heading("Border"), Qt::Key_Up, Qt::AltModifier); // the first already
    QCOMPARE(order(), QString(was[1]) + was[0] + was[2] + was[3]);
    QVERIFY(heading("Border")->hasFocus());
  }

  void steps_are_switched_moved_and_removed() {
    Decal f;
    f.add("block-shade");
    f.add("border");
    f.add("thin");
    QCOMPARE(f.layers(), QString("shade ring-1 letters"));
    const auto on = [&](const QString& name) {
      for (QCheckBox* c : f.window.findChildren<QCheckBox*>())
        if (c->isVisible() && c->accessibleName() == name)
          return c;
      return static_cast<QCheckBox*>(nullptr);
    };
    const Finish all = f.finish();
    QTest::mouseClick(on("Block shade on"), Qt::LeftButton, {}, QPoint(8, 8));
    QCOMPARE(f.layers(), QString("ring-1 letters"));
    QVERIFY(!f.finish().steps[1].on);
    QTest::mouseClick(on("Block shade on"), Qt::LeftButton, {}, QPoint(8, 8));
    QVERIFY(f.finish() == all);
    const auto menu_of = [&](const QString& name) { return f.find<QToolButton>(name + ": move or remove")->menu(); };
    menu_of("Border")->actions()[0]->trigger(); // earlier
    f.settle();
    QVERIFY(std::holds_alternative<BorderStep>(f.finish().steps[1].what));
    menu_of("Border")->actions()[2]->trigger();
    QCOMPARE(f.finish().steps.size(), std::size_t{3});
    QCOMPARE(f.layers(), QString("shade letters"));
    f.session().undo();
    f.session().undo();
    QVERIFY(f.finish() == all);
    while (f.window.commands().action("outline.add.weld")->isEnabled())
      f.add("weld");
    QCOMPARE(f.finish().steps.size(), most_finish_steps);
  }

  void released_layers_are_pieces_and_reopen_as_they_were() {
    Decal f;
    f.add("border");
    f.add("block-shade");
    f.add("mirror");
    QVERIFY(f.settle());
    const Piece lettering = f.selected();
    const double middle = f.session().layers(lettering.id).finished->bounds().centre().x;
    const auto sheet = cut_sheet(f.document(), f.session().evaluator());
    release_selected(f.window.desk(), ReleaseAs::OnePiece, GuideAfter::Kept);
    QVERIFY(QTest::qWaitFor([&] { return f.document().pieces.size() == 3; }, 5000));
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces[0]->colour, std::get<ShadeStep>(lettering.finish()->steps[2].what).colour);
    for (std::size_t i = 0; i < 3; ++i) {
      QVERIFY(*f.document().pieces[i]->outline()->outline == sheet->pieces[i].outline); // as cut: from behind
      QVERIFY(std::abs(sheet->pieces[0].outline.bounds().centre().x - middle) < 1e-6);
    }
    f.session().select({f.document().pieces[1]->id});
    reopen_selected(f.window.desk());
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QVERIFY(*f.document().pieces[0] == lettering);
  }

  void a_ring_past_the_edge_is_found_and_cured() {
    Decal f;
    f.session().edit("place", f.selected().id, [](Piece& p) { p.lettering()->placement.at.y = 60; });
    QVERIFY(f.settle());
    const Box ink = f.session().selection_ink();
    f.session().edit("to the edge", f.selected().id, [&](Piece& p) { p.lettering()->placement.at.y -= ink.y0 - 1; });
    QVERIFY(f.settle());
    const auto outside = [&] {
      const auto& found = f.session().check().findings;
      return std::any_of(found.begin(), found.end(),
                         [](const Finding& x) { return x.kind == FindingKind::OutsideSheet; });
    };
    QVERIFY(QTest::qWaitFor([&] { return !f.session().check().findings.empty() && !outside(); }, 5000));
    f.add("border");
    f.session().edit("wide", f.selected().id,
                     [](Piece& p) { std::get<BorderStep>(p.finish()->steps[1].what).rings[0].distance = 4; });
    QVERIFY(QTest::qWaitFor([&] { return outside(); }, 5000));
    QTest::mouseClick(f.button("Move onto the sheet"), Qt::LeftButton);
    QVERIFY(QTest::qWaitFor([&] { return f.settle() && !outside(); }, 5000));
    QVERIFY(f.session().layers(f.selected().id).finished->bounds().y0 > -0.01);
  }

  void outlines_have_a_finish_too() {
    Decal f;
    release_selected(f.window.desk(), ReleaseAs::OnePiece, GuideAfter::Kept);
    QVERIFY(QTest::qWaitFor([&] { return f.document().pieces[0]->outline() != nullptr; }, 5000));
    f.settle();
    f.session().select({f.document().pieces[0]->id});
    f.add("border");
    f.add("drop-shade");
    QCOMPARE(f.layers(), QString("shade ring-1 letters"));
    f.drag(f.handle(HandleKind::Shade).at, f.handle(HandleKind::Shade).at + Vec{5, 5});
    QCOMPARE(f.layers(), QString("shade ring-1 letters"));
  }
};

QTEST_MAIN(TestFinishWindow)
#include "test_finish_window.moc"
