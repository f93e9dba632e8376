// Guides, seats, nodes and single letters, worked with the mouse and the keyboard in the real window; then the document
// and the exported file are looked at.
#include "app/menus/add_menu.h"
#include "app/style/words.h"
#include "app/window_fixture.h"
#include "document/job_file.h"
#include "document/level.h"
#include "document/outline_edits.h"
#include "geom/nodes.h"
#include "geom/path_data.h"
#include "reference/svg_extents.h"

#include <QClipboard>
#include <QComboBox>
#include <QDropEvent>
#include <QJsonArray>
#include <QMenuBar>
#include <QMimeData>

using namespace frelm;
using namespace frelm::test;

namespace {

// Drawn as a hand does: pressed, moved through every place, let go.
void stroke(WindowFixture& f, const std::vector<Point>& points) {
  Canvas* c = &f.window.canvas();
  QTest::mousePress(c, Qt::LeftButton, {}, f.px(points.front()));
  for (const Point p : points) {
    const QPoint at = f.px(p);
    QMouseEvent move(QEvent::MouseMove, at, c->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(c, &move);
  }
  QTest::mouseRelease(c, Qt::LeftButton, {}, f.px(points.back()));
}
void guide_tool(WindowFixture& f, const QString& kind) {
  QTest::keyClick(&f.window.canvas(), Qt::Key_3);
  QToolButton* tile = nullptr;
  for (QToolButton* b : f.window.findChildren<QToolButton*>())
    if (b->accessibleName() == "Guide kind: " + kind)
      tile = b;
  QVERIFY2(tile != nullptr && tile->isVisible(), qPrintable(kind));
  QTest::mouseClick(tile, Qt::LeftButton);
  QCOMPARE(f.window.canvas().tool(), ToolKind::Guide);
}
QAction* menu_action(WindowFixture& f, const QString& text) {
  std::function<QAction*(const QList<QAction*>&)> in = [&](const QList<QAction*>& list) -> QAction* {
    for (QAction* a : list) {
      if (QString(a->text()).remove('&') == text)
        return a;
      if (a->menu() != nullptr)
        if (QAction* found = in(a->menu()->actions()))
          return found;
    }
    return nullptr;
  };
  return in(f.window.menuBar()->actions());
}
void letter_there(WindowFixture& f, Point at, const QString& words) {
  QTest::keyClick(&f.window.canvas(), Qt::Key_2);
  f.click(at);
  QPlainTextEdit* text = f.window.letters_card().text_edit();
  QVERIFY(text->hasFocus());
  text->selectAll();
  QTest::keyClicks(text, words);
  QVERIFY(f.settle());
}
const SeatedText& seated(WindowFixture& f) {
  return *f.session().seated(f.selected().id)->seated;
}
void combo(WindowFixture& f, const QString& name, int index) {
  auto* box = f.find<QComboBox>(name);
  QVERIFY2(box != nullptr && box->isVisible(), qPrintable(name));
  box->setCurrentIndex(index);
  emit box->activated(index);
}
void tick(WindowFixture& f, const QString& words) {
  for (QCheckBox* box : f.window.findChildren<QCheckBox*>())
    if (box->isVisible() && box->text() == words) {
      box->setFocus();
      QTest::keyClick(box, Qt::Key_Space);
      return;
    }
  QFAIL(qPrintable("no such box: " + words));
}
QJsonObject exported(WindowFixture& f) {
  const QString svg = f.dir.filePath("out.svg");
  f.window.export_to(svg);
  f.settle();
  return svg_extents(svg);
}
const char* const ribbon =
    "<svg xmlns='http://www.w3.org/2000/svg' width='400mm' height='200mm' viewBox='0 0 400 200'>"
    "<path d='M40 60C120 20 240 120 360 60V110C240 170 120 70 40 110Z'/><text>skipped</text></svg>";

} // namespace

class TestGuidesWindow : public QObject {
  Q_OBJECT

private slots:
  void a_stroke_drawn_from_right_to_left_carries_an_upright_word() {
    WindowFixture f;
    guide_tool(f, "Freehand");
    std::vector<Point> hand;
    for (int i = 0; i <= 60; ++i)
      hand.push_back({480 - 6.0 * i, 200 + 30 * std::sin(i * 0.09)});
    stroke(f, hand);
    QVERIFY(std::holds_alternative<FreehandGuide>(f.selected().guide()->shape));
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
    const auto line = f.session().evaluator().guide(f.document(), f.selected().id);
    QVERIFY((*line)->curve->at(0).point.x > (*line)->curve->at((*line)->curve->length()).point.x); // as drawn
    letter_there(f, hand[30], "Wake");
    QCOMPARE(f.selected().lettering()->recipe.bend.kind, BendKind::Guide);
    for (const PlacedLetter& l : seated(f).letters)
      QVERIFY(std::cos(l.angle) > 0.7);
    QVERIFY(seated(f).letters.front().origin.x < seated(f).letters.back().origin.x);
    QTest::keyClick(&f.window, Qt::Key_2, Qt::AltModifier);
    f.choose("Tops", "Turned over");
    QVERIFY(f.settle());
    for (const PlacedLetter& l : seated(f).letters)
      QVERIFY(std::cos(l.angle) < -0.7);
    f.choose("Tops", "Up");
    // Like a brush from end to end.
    f.choose("Stance", "Flow");
    tick(f, "Stretch from end to end");
    QVERIFY(f.settle());
    QVERIFY(f.selected().lettering()->recipe.bend.stretch);
    QVERIFY(seated(f).ink.width() > 340);
    QVERIFY(seated(f).fills_guide && f.handle(HandleKind::Bead).at == Point{});
  }

  void smoothing_stays_editable() {
    WindowFixture f;
    guide_tool(f, "Freehand");
    std::vector<Point> hand;
    for (int i = 0; i <= 80; ++i)
      hand.push_back({100 + 5.0 * i, 200 + (i % 2 == 0 ? 5.0 : -5.0)});
    stroke(f, hand);
    const PieceId id = f.selected().id;
    const auto length = [&] { return (*f.session().evaluator().guide(f.document(), id))->curve->length(); };
    const double before = length();
    const auto points = std::get<FreehandGuide>(f.selected().guide()->shape).points;
    f.type_measure("Smoothing", "40");
    QCOMPARE(std::get<FreehandGuide>(f.selected().guide()->shape).smoothing, 40.0);
    QVERIFY(length() < before);
    f.type_measure("Smoothing", "0");
    QVERIFY(length() > before);
    QVERIFY(std::get<FreehandGuide>(f.selected().guide()->shape).points == points); // raw as ever
  }

  void every_dragged_kind_is_drawn_measured_and_typed_data() {
    QTest::addColumn<QString>("kind");
    QTest::addColumn<QString>("field");
    QTest::newRow("line") << "Line"
                          << "To x";
    QTest::newRow("circle") << "Circle"
                            << "Radius";
    QTest::newRow("band") << "Band"
                          << "Outer radius";
    QTest::newRow("ellipse") << "Ellipse"
                             << "Half width";
    QTest::newRow("spiral") << "Spiral"
                            << "Pitch";
    QTest::newRow("frame") << "Frame"
                           << "Width";
    QTest::newRow("polygon") << "Polygon"
                             << "Radius";
    QTest::newRow("star") << "Star"
                          << "Outer radius";
    QTest::newRow("heart") << "Heart"
                           << "Width";
  }
  void every_dragged_kind_is_drawn_measured_and_typed() {
    QFETCH(QString, kind);
    QFETCH(QString, field);
    WindowFixture f;
    guide_tool(f, kind);
    f.press_and_move({220, 140}, {360, 250});
    QVERIFY(f.document().pieces.empty()); // only shown while the button is down
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px({360, 250}));
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QCOMPARE(core_words(shape_name(f.selected().guide()->shape)), kind);
    QCOMPARE(f.selected().destination, Destination::Guide);
    const GuideShape drawn = f.selected().guide()->shape;
    // Every measure has a field that sets it exactly.
    std::size_t typed = 0;
    const std::vector<ShapeMeasure> measures = shape_measures(drawn);
    for (std::size_t i = 0; i < measures.size(); ++i)
      for (MeasureField* m : f.window.findChildren<MeasureField*>())
        if (m->isVisible() && m->accessibleName().toLower() == core_words(measures[i].name).toLower()) {
          const int value = core_words(measures[i].name) == "Turns" ? 33 : 133; // a longer spiral can't be laid
          f.type_measure(m->accessibleName(), QString::number(value));
          QVERIFY2(std::abs(shape_measures(f.selected().guide()->shape)[i].value - value) < 1e-9,
                   measures[i].name.text.data());
          f.session().undo();
          ++typed;
          break;
        }
    QCOMPARE(typed, measures.size());
    QVERIFY(f.selected().guide()->shape == drawn);
    // Letters ride on it, and it is dragged by its handles with them on it.
    const PieceId guide = f.selected().id;
    QTest::keyClick(&f.window.canvas(), Qt::Key_2);
    f.click((*f.session().evaluator().guide(f.document(), guide))->curve->at(40).point);
    QVERIFY(f.settle());
    const PieceId lettering = f.selected().id;
    QCOMPARE(f.selected().lettering()->recipe.bend.guide.guide, guide);
    f.session().select({guide});
    const Box before = f.session().seated(lettering)->ink;
    f.window.canvas().zoom_by(0.6, QRectF(f.window.canvas().rect()).center()); // all handles clear of the rulers
    for (const Handle& h : handles_of(f.session(), 1.0 / f.px_per_mm()))
      if (h.kind == HandleKind::Shape) {
        f.drag(h.at, h.at + Vec{-18, 14}, Qt::ControlModifier);
        QVERIFY(f.settle());
        QVERIFY2(!(f.document().find(guide)->guide()->shape == drawn), shape_handles(drawn, 0)[h.index].name);
        f.session().undo();
        QVERIFY(f.document().find(guide)->guide()->shape == drawn);
      }
    QVERIFY(f.session().seated(lettering)->ink == before);
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Right, Qt::ShiftModifier);
    QVERIFY(std::abs(f.session().seated(lettering)->ink.x0 - before.x0 - 10) < 1e-6);
    // It is not cut.
    const auto sheet = cut_sheet(f.document(), f.session().evaluator());
    QCOMPARE(sheet->pieces.size(), std::size_t{1});
  }

  void a_ribbon_is_drawn_bent_folded_and_lettered() {
    WindowFixture f;
    guide_tool(f, "Ribbon");
    f.drag({100, 200}, {400, 200}, Qt::ControlModifier);
    QVERIFY(f.settle());
    const auto ribbon = [&] { return std::get<RibbonGuide>(f.selected().guide()->shape); };
    QVERIFY(f.selected().is_shape() && std::holds_alternative<LineGuide>(ribbon().along));
    f.type_measure("Width", "40");
    const auto parts = [&] { return cut_sheet(f.document(), f.session().evaluator())->pieces[0].outline; };
    QCOMPARE(parts().contours.size(), std::size_t{1});
    // Pulled it lies along an arc, let go where it was it is straight; broken off nothing has changed.
    const Handle pull = f.shape_handle("pull");
    f.press_and_move(pull.at, pull.at - Vec{0, 40}, Qt::ControlModifier);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px(pull.at));
    QVERIFY(std::holds_alternative<LineGuide>(ribbon().along));
    f.drag(pull.at, pull.at - Vec{0, 40}, Qt::ControlModifier);
    QVERIFY(f.settle());
    QVERIFY(std::holds_alternative<ArcGuide>(ribbon().along));
    const Handle wide = f.shape_handle("width");
    f.drag(wide.at, wide.at - Vec{0, 6}, Qt::ControlModifier);
    QVERIFY(ribbon().cut.width > 44);
    f.session().undo();
    tick(f, "Folded behind, with tails");
    QVERIFY(f.settle());
    QVERIFY(ribbon().cut.folds && parts().contours.size() >= 5);
    // The hand sees a sketch; what rests is what is cut.
    const Result<PieceResult>& shown = f.session().seated(f.selected().id);
    QVERIFY(shown.ok() && !shown->provisional() && *shown->outline == parts());
    f.type_measure("Drop", "-12");
    QVERIFY(f.settle());
    QVERIFY(ribbon().cut.drop == -12 && parts().contours.size() >= 5);
    // Words ride on its middle, and it stays a shape that is cut.
    auto* words = f.find<QLineEdit>("Words to ride on this guide");
    words->setFocus();
    QTest::keyClicks(words, "Regatta");
    QTest::keyClick(words, Qt::Key_Return);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    for (const Finding& finding : f.session().check().findings)
      QVERIFY(finding.kind != FindingKind::GuideCut);
    QCOMPARE(cut_sheet(f.document(), f.session().evaluator())->pieces.size(), std::size_t{2});
    // Its nodes: it stays a ribbon, along a pen curve.
    f.session().select({f.document().pieces[0]->id});
    const Result<Outline> nodes = nodes_of(f.document(), f.selected().id);
    QVERIFY(nodes.ok());
    Document moved = edit_nodes(f.document(), f.selected().id, [](Outline o) {
      o.contours[0].segments[0].p0 = o.contours[0].segments[0].p0 + Vec{0, 5};
      return o;
    });
    f.session().apply("node", moved);
    QVERIFY(std::holds_alternative<PathGuide>(ribbon().along) && ribbon().cut.folds);
    const auto back = read_job(write_job(f.document(), f.faces));
    QVERIFY(back.ok() && *back == f.document());
  }

  void a_click_lays_a_ribbon_along_a_line() {
    WindowFixture f;
    guide_tool(f, "Arc");
    f.click({120, 220}), f.click({420, 220}), f.click({270, 160});
    const PieceId arc = f.selected().id;
    guide_tool(f, "Ribbon");
    f.click((*f.session().evaluator().guide(f.document(), arc))->curve->at(60).point);
    QVERIFY(f.selected().id != arc);
    const auto* ribbon = std::get_if<RibbonGuide>(&f.selected().guide()->shape);
    QVERIFY(ribbon != nullptr &&
            std::get<ArcGuide>(ribbon->along) == std::get<ArcGuide>(f.document().find(arc)->guide()->shape));
  }

  void arcs_are_drawn_by_two_ends_and_a_pull() {
    WindowFixture f;
    guide_tool(f, "Arc");
    f.drag({200, 250}, {400, 250}, Qt::ControlModifier);
    QVERIFY(f.document().pieces.empty());
    f.click({300, 200}, Qt::ControlModifier);
    const auto& arc = std::get<ArcGuide>(f.selected().guide()->shape);
    // Chord 200, rise 50: r = h/2 + c²/(8h) (sagitta; Machinery's Handbook, from memory) = 125; a pixel is 0.9 mm.
    QVERIFY2(std::abs(arc.radius - 125) < 4, qPrintable(QString::number(arc.radius)));
  }

  void pen_curves_are_set_node_by_node_and_closed() {
    WindowFixture f;
    guide_tool(f, "Pen");
    for (const Point p : {Point{200, 200}, Point{300, 150}, Point{400, 200}})
      f.click(p, Qt::ControlModifier);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    QCOMPARE(std::get<PathGuide>(f.selected().guide()->shape).contour.segments.size(), std::size_t{2});
    QVERIFY(!std::get<PathGuide>(f.selected().guide()->shape).contour.closed);
    guide_tool(f, "Pen");
    f.drag({100, 300}, {120, 280}, Qt::ControlModifier);
    f.drag({200, 330}, {240, 330}, Qt::ControlModifier);
    f.click({220, 250}, Qt::ControlModifier);
    f.click({100, 300}, Qt::ControlModifier);
    const Contour& ring = std::get<PathGuide>(f.selected().guide()->shape).contour;
    QVERIFY(ring.closed);
    QCOMPARE(ring.segments.size(), std::size_t{3});
    QVERIFY(!ring.segments[0].is_line());
    // Given up half way: nothing is added.
    const std::size_t before = f.document().pieces.size();
    guide_tool(f, "Pen");
    f.click({50, 50});
    f.click({80, 50});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QCOMPARE(f.document().pieces.size(), before);
  }

  void a_pulled_node_takes_the_letters_with_it() {
    WindowFixture f;
    guide_tool(f, "Pen");
    f.drag({150, 220}, {190, 220}, Qt::ControlModifier);
    f.drag({300, 200}, {340, 200}, Qt::ControlModifier);
    f.click({450, 220}, Qt::ControlModifier);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    const PieceId guide = f.selected().id;
    letter_there(f, (*f.session().evaluator().guide(f.document(), guide))->curve->at(150).point, "Bridge");
    const PieceId lettering = f.selected().id;
    const Box before = f.session().seated(lettering)->ink;
    f.session().select({guide});
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_4);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Nodes);
    const auto contour = [&] { return std::get<PathGuide>(f.document().find(guide)->guide()->shape).contour; };
    const Point node = node_point(contour(), 1);
    f.press_and_move(node, node + Vec{0, -60}, Qt::ControlModifier);
    QVERIFY(f.session().seated(lettering)->ink.y0 < before.y0 - 25); // live, before the button is let go
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QVERIFY(f.session().seated(lettering)->ink == before);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px(node + Vec{0, -60}));
    f.drag(node, node + Vec{0, -60}, Qt::ControlModifier);
    QVERIFY(std::abs(node_point(contour(), 1).y - node.y + 60) < 1);
    QVERIFY(f.settle());
    // Its handle, its kind, one more node, one less.
    const auto handle = node_handle(contour(), 1, HandleSide::Out);
    QVERIFY(handle.has_value());
    f.drag(*handle, *handle + Vec{20, 25});
    QVERIFY(distance(*node_handle(contour(), 1, HandleSide::Out), *handle + Vec{20, 25}) < 2);
    QCOMPARE(node_kind(contour(), 1), NodeKind::Even);
    QTest::mouseClick(f.button("Corner"), Qt::LeftButton);
    QCOMPARE(node_kind(contour(), 1), NodeKind::Corner);
    QTest::mouseClick(f.button("Smooth"), Qt::LeftButton);
    QVERIFY(node_kind(contour(), 1) != NodeKind::Corner);
    const std::size_t count = node_count(contour());
    QTest::mouseClick(f.button("Add node"), Qt::LeftButton);
    QCOMPARE(node_count(contour()), count + 1);
    f.session().undo();
    f.click(node_point(contour(), 1));
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Delete);
    QCOMPARE(node_count(contour()), count - 1);
    while (f.session().history().can_undo())
      f.session().undo();
    QVERIFY(f.document().pieces.empty());
  }

  void nodes_of_a_drawing_are_edited_alike_and_ends_are_joined() {
    WindowFixture f;
    QApplication::clipboard()->setText(
        "<svg xmlns='http://www.w3.org/2000/svg' width='300mm' height='200mm' viewBox='0 0 300 200'>"
        "<path d='M20 20H120V90H20Z'/></svg>");
    QTest::keyClick(&f.window, Qt::Key_V, Qt::ControlModifier);
    QVERIFY(f.settle());
    const auto outline = [&] { return *f.document().pieces[0]->outline()->outline; };
    QCOMPARE(outline().contours[0].segments.size(), std::size_t{4});
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_4);
    f.click(node_point(outline().contours[0], 1), Qt::ControlModifier);
    QTest::mouseClick(f.button("Break"), Qt::LeftButton);
    QVERIFY(!outline().contours[0].closed);
    const Point end = node_point(outline().contours[0], 4);
    f.click(end, Qt::ControlModifier); // two ends lie there: take one away, then drop it onto the other
    f.drag(end, end + Vec{40, 5}, Qt::ControlModifier);
    const auto ends = [&] {
      return std::pair{node_point(outline().contours[0], 0), node_point(outline().contours[0], 4)};
    };
    QVERIFY(distance(ends().first, ends().second) > 30);
    f.drag(ends().second, ends().first);
    QVERIFY(outline().contours[0].closed);
    QCOMPARE(outline().contours[0].segments.size(), std::size_t{4});
  }

  void a_circle_midway_is_made_by_clicking_two_circles() {
    WindowFixture f;
    for (const double r : {60.0, 100.0}) {
      guide_tool(f, "Circle");
      f.drag({300, 200}, Point{300, 200} + Vec{r, 0}, Qt::ControlModifier);
    }
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    const auto radius = [&](std::size_t i) { return f.document().pieces[i]->guide()->circle()->radius; };
    const double first = radius(0), second = radius(1);
    guide_tool(f, "Midway");
    f.click({300, 200 - first});
    f.click({300, 200 - second});
    QVERIFY(std::holds_alternative<MidwayGuide>(f.selected().guide()->shape));
    const auto line = f.session().evaluator().guide(f.document(), f.selected().id);
    QVERIFY(std::abs((*line)->curve->length() - pi * (first + second)) < 1e-6);
  }

  void every_kind_of_the_menu_is_added_or_begun() {
    for (std::size_t kind = 0; kind < std::variant_size_v<GuideShape>; ++kind) {
      WindowFixture f;
      menu_action(f, kind == 0 ? "Circle guide" : guide_kind_name(kind))->trigger();
      if (const auto usual = usual_shape(kind, {}, 50)) {
        QCOMPARE(f.selected().guide()->shape.index(), kind);
        QVERIFY(f.session().evaluator().guide(f.document(), f.selected().id).ok());
      } else {
        QCOMPARE(f.window.canvas().tool(), ToolKind::Guide);
        QCOMPARE(f.window.canvas().guide_kind(), kind);
      }
    }
  }

  void a_ribbons_lower_edge_is_taken_with_one_click() {
    WindowFixture f;
    QApplication::clipboard()->setText(ribbon);
    QTest::keyClick(&f.window, Qt::Key_V, Qt::ControlModifier);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QVERIFY(f.window.came_in().isVisible()); // what was not taken is told
    QVERIFY(f.window.came_in().arrivals().at(0).left_out.at(0).what == Lost::Text);
    const Outline outline = *f.document().pieces[0]->outline()->outline;
    const Segment lower = outline.contours[0].segments[2];
    guide_tool(f, "Edge");
    f.click(lower.at(0.5));
    QVERIFY(std::holds_alternative<OutlineGuide>(f.selected().guide()->shape));
    const auto line = f.session().evaluator().guide(f.document(), f.selected().id);
    QVERIFY(std::abs((*line)->curve->length() - Curve({lower}).length()) < 1e-6);
    letter_there(f, lower.at(0.5), "Slow ahead");
    const PieceId lettering = f.selected().id;
    for (const PlacedLetter& l : seated(f).letters)
      QVERIFY(std::cos(l.angle) > 0);
    // The ribbon is moved: edge and letters go with it, and both are cut.
    const Box before = f.session().seated(lettering)->ink;
    f.session().select(
        {f.document().pieces[0]->outline() != nullptr ? f.document().pieces[0]->id : f.document().pieces[1]->id});
    QVERIFY(f.selected().outline() != nullptr);
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Down, Qt::ShiftModifier);
    QVERIFY(std::abs(f.session().seated(lettering)->ink.y0 - before.y0 - 10) < 1e-6);
    QCOMPARE(exported(f)["paths"].toInt(), 2);
  }

  void a_badge_is_made_in_one_go_and_its_band_is_one_control() {
    WindowFixture f;
    menu_action(f, "Badge")->trigger();
    QVERIFY(f.settle());
    QPlainTextEdit* text = f.window.letters_card().text_edit();
    QVERIFY(text->hasFocus());
    QTest::keyClicks(text, "Saltmarsh"); // the words are selected: typed over
    QVERIFY(f.settle());
    std::size_t letterings = 0;
    PieceId band = 0;
    for (const auto& p : f.document().pieces) {
      letterings += p->lettering() != nullptr ? 1 : 0;
      if (p->guide() != nullptr)
        band = p->id;
    }
    QCOMPARE(letterings, std::size_t{2});
    QCOMPARE(plain_text(f.selected().lettering()->recipe.letters()->text), U"Saltmarsh");
    const double cap = seated(f).spaced->set->cap_height;
    const PieceId upper = f.selected().id;
    f.session().select({band});
    const BandGuide before = std::get<BandGuide>(f.selected().guide()->shape);
    f.type_measure("Inner radius", QString::number(before.inner + 6));
    QVERIFY(f.settle());
    QVERIFY(std::abs(f.session().seated(upper)->seated->spaced->set->cap_height - cap + 6) < 1e-6);
    QVERIFY(f.session().check().to_look_at() == 0 ||
            QTest::qWaitFor([&] { return f.session().check().to_look_at() == 0; }, 3000));
  }

  void a_pasted_poem_becomes_a_spiral() {
    WindowFixture f;
    QApplication::clipboard()->setText("The tide comes in, the tide goes out,\nand boats go round the bay about,\n"
                                       "and what the water takes away\nit brings again another day");
    QTest::keyClick(&f.window, Qt::Key_V, Qt::ControlModifier);
    QVERIFY(f.settle());
    const PieceId poem = f.selected().id;
    menu_action(f, "Text on a spiral")->trigger();
    QVERIFY(f.settle());
    QCOMPARE(f.selected().id, poem); // the same lettering, now on the spiral
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    QCOMPARE(seated(f).overflow, 0.0);
    QVERIFY(std::abs(seated(f).letters.back().angle - seated(f).letters.front().angle) > 0.1);
    QVERIFY(seated(f).guide_length > 3 * 2 * pi * 24);
    (void)QTest::qWaitFor([&] { return f.session().check().to_look_at() == 0; }, 5000);
    for (const Finding& finding : f.session().check().findings)
      QVERIFY2(finding.weight == Weight::Note, qPrintable(words_of(finding.detail)));
    f.session().undo();
    QCOMPARE(f.selected().lettering()->recipe.bend.kind, BendKind::Straight);
  }

  void a_frame_is_filled_with_a_repeated_text() {
    WindowFixture f;
    guide_tool(f, "Frame");
    f.drag({150, 100}, {450, 300}, Qt::ControlModifier);
    letter_there(f, {300, 100}, "KEEP CLEAR");
    QTest::keyClick(&f.window, Qt::Key_1, Qt::AltModifier);
    f.type_measure("Letter size", "10");
    QTest::keyClick(&f.window, Qt::Key_3, Qt::AltModifier);
    f.choose("Spacing", "Repeat");
    QVERIFY(f.settle());
    QCOMPARE(f.selected().lettering()->recipe.spacing.mode, SpacingMode::Repeat);
    std::size_t copies = 0;
    for (const PlacedLetter& l : seated(f).letters)
      copies += l.first == 0 ? 1 : 0;
    QVERIFY(copies >= 8);
    auto* separator = f.find<QLineEdit>("Separator");
    QVERIFY(separator != nullptr && separator->isVisible());
    separator->selectAll();
    QTest::keyClicks(separator, " -- ");
    QTest::keyClick(separator, Qt::Key_Return);
    QCOMPARE(f.selected().lettering()->recipe.spacing.separator, U" -- ");
    QVERIFY(QTest::qWaitFor([&] { return f.session().check().to_look_at() == 0; }, 5000));
    const QJsonObject got = exported(f);
    QCOMPARE(got["contours"].toInt(), got["closed"].toInt());
  }

  void the_spacing_card_spreads_over_what_it_says() {
    WindowFixture f;
    f.letter_on_circle("SPREAD");
    QTest::keyClick(&f.window, Qt::Key_3, Qt::AltModifier);
    f.choose("Spacing", "Spread");
    f.choose("Spread over", "Length");
    f.type_measure("Length to spread over", "200");
    QVERIFY(f.settle());
    const auto& l = seated(f).letters;
    QVERIFY(std::abs(l.back().s + l.back().advance / 2 - l.front().s + l.front().advance / 2 - 200) < 1e-6);
  }

  void a_single_letter_is_chosen_turned_and_kept() {
    WindowFixture f;
    f.letter_on_circle("Creek");
    const PieceId id = f.selected().id;
    const auto middle = [&](std::size_t i) {
      const PlacedLetter& l = seated(f).letters[i];
      return l.shape->transformed(l.place).bounds().centre();
    };
    // On the ink of the k: its stem.
    const PlacedLetter& k = seated(f).letters[4];
    const Point stem = k.place({k.plain->bounds().x0 + 0.8, -k.plain->bounds().height() / 2});
    f.click(stem);
    f.click(stem);
    QVERIFY(f.session().letter() != 0);
    f.type_measure("Letter turn", "20");
    f.type_measure("Size of the letter", "120");
    QVERIFY(f.settle());
    const auto tweaks = [&] { return f.document().find(id)->lettering()->recipe.tweaks; };
    QCOMPARE(tweaks().size(), std::size_t{1});
    QCOMPARE(tweaks()[0].turn, 20.0);
    QVERIFY(std::abs(tweaks()[0].size - 1.2) < 1e-9);
    // Dragged on the canvas.
    const Point before = middle(4);
    const PlacedLetter& now = seated(f).letters[4];
    const Point grip = now.place({now.plain->bounds().x0 + 0.8, -now.plain->bounds().height() / 2});
    f.drag(grip, grip + up_of(direction(now.angle)) * 12.0);
    QVERIFY2(distance(middle(4), before) > 8, qPrintable(QString::number(distance(middle(4), before))));
    QVERIFY(tweaks()[0].raise > 0.1);
    // The text grows in front; the k keeps its turn.
    QTest::keyClick(&f.window, Qt::Key_1, Qt::AltModifier);
    QPlainTextEdit* text = f.window.letters_card().text_edit();
    text->moveCursor(QTextCursor::Start);
    QTest::keyClicks(text, "Upper ");
    QVERIFY(f.settle());
    QCOMPARE(tweaks()[0].turn, 20.0);
    QCOMPARE(f.selected().lettering()->recipe.letters()->text.back().id, tweaks()[0].id);
    // Taken out of the text: gone with it.
    text->moveCursor(QTextCursor::End);
    QTest::keyClick(text, Qt::Key_Backspace);
    QVERIFY(f.settle());
    QCOMPARE(plain_text(f.selected().lettering()->recipe.letters()->text), U"Upper Cree");
  }

  void level_and_place_are_set_from_the_bend_card() {
    WindowFixture f;
    guide_tool(f, "Pen");
    f.drag({120, 260}, {180, 160}, Qt::ControlModifier);
    f.drag({470, 250}, {520, 330}, Qt::ControlModifier);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Return);
    letter_there(f, (*f.session().evaluator().guide(f.document(), f.selected().id))->curve->at(120).point, "Creek");
    QTest::keyClick(&f.window, Qt::Key_2, Qt::AltModifier);
    f.type_measure("Share of the guide", "30");
    QCOMPARE(f.selected().lettering()->recipe.bend.guide.percent, 30.0);
    QTest::mouseClick(f.button("Level"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(std::abs(*tilt_of(seated(f))) <= 0.01);
    combo(f, "Measured by", static_cast<int>(AlongBy::Distance));
    combo(f, "Place along the guide", static_cast<int>(Anchor::StartsAt));
    f.type_measure("Distance along the guide", "25");
    QVERIFY(f.settle());
    QVERIFY(std::abs(seated(f).letters.front().s - seated(f).letters.front().advance / 2 - 25) < 1e-6);
  }

  void a_run_too_long_is_cured_with_one_click() {
    WindowFixture f;
    guide_tool(f, "Line");
    f.drag({250, 200}, {350, 200}, Qt::ControlModifier);
    letter_there(f, {300, 200}, "Saltmarsh Boatworks");
    QVERIFY(QTest::qWaitFor(
        [&] { return f.session().check().to_look_at() > 0 && f.button("Shrink letters") != nullptr; }, 5000));
    QVERIFY(seated(f).overflow > 0);
    QTest::mouseClick(f.button("Shrink letters"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(seated(f).overflow <= 1e-6);
    f.session().undo();
    QVERIFY(QTest::qWaitFor([&] { return f.button("Lengthen guide") != nullptr; }, 5000));
    QTest::mouseClick(f.button("Lengthen guide"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(seated(f).overflow <= 1e-6);
  }

  void letters_are_set_downwards() {
    WindowFixture f;
    letter_it(f.window.desk(), "BOAT");
    QVERIFY(f.settle());
    QTest::keyClick(&f.window, Qt::Key_1, Qt::AltModifier);
    tick(f, "Set downwards");
    QVERIFY(f.settle());
    QVERIFY(f.selected().lettering()->recipe.letters()->downwards);
    QVERIFY(seated(f).ink.height() > 2 * seated(f).ink.width());
  }

  void drawings_come_in_by_drop_and_open() {
    WindowFixture f;
    const QString path = f.dir.filePath("ribbon.svg");
    QFile file(path);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(ribbon);
    file.close();
    QVERIFY(f.window.open_file(path));
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QCOMPARE(f.document().sheet.width, 400.0);
    QVERIFY(std::abs(f.document().pieces[0]->outline()->outline->bounds().x0 - 40) < 1e-6);
    QMimeData mime;
    mime.setUrls({QUrl::fromLocalFile(path)});
    QDragEnterEvent enter({300, 300}, Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&f.window.canvas(), &enter);
    QVERIFY(enter.isAccepted());
    QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&f.window.canvas(), &drop);
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{2}); // added, not opened in its place
    // Several at once are one step; the one that can't be read is told.
    const QString bad = f.dir.filePath("broken.svg");
    QFile broken(bad);
    QVERIFY(broken.open(QIODevice::WriteOnly));
    broken.write("<svg><path d='M0 0");
    broken.close();
    mime.setUrls({QUrl::fromLocalFile(path), QUrl::fromLocalFile(bad), QUrl::fromLocalFile(path)});
    QDragEnterEvent again({300, 300}, Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&f.window.canvas(), &again);
    QDropEvent three(QPointF(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&f.window.canvas(), &three);
    QVERIFY(f.settle());
    QVERIFY2(f.document().pieces.size() == 4, qPrintable(f.window.bar().text()));
    QCOMPARE(f.session().selection().size(), std::size_t{2});
    QVERIFY(f.window.bar().text().contains("broken.svg"));
    f.session().undo();
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
  }

  void every_example_opens_is_clean_and_exports_data() {
    QTest::addColumn<QString>("file");
    for (const QString& name : QDir(data_folder("demo")).entryList({"*.frelm"}))
      QTest::newRow(qPrintable(name)) << name;
  }
  void every_example_opens_is_clean_and_exports() {
    QFETCH(QString, file);
    WindowFixture f;
    QVERIFY(f.window.open_file(data_folder("demo") + "/" + file));
    QVERIFY(f.settle());
    QVERIFY(!f.session().busy()); // the check is of this job
    for (const Finding& finding : f.session().check().findings)
      QVERIFY2(finding.weight == Weight::Note,
               qPrintable(core_words(finding_title(finding.kind)) + ": " + words_of(finding.detail)));
    Box shown;
    for (const auto& p : f.document().pieces)
      if (p->is_cut())
        for (const PieceLayer& l : layers_of(*p, *f.session().evaluator().piece(f.document(), p->id, Depth::Finish)))
          shown.add(l.outline->bounds());
    const QJsonObject got = exported(f);
    const QJsonArray box = got["box"].toArray();
    const double expected[]{shown.x0, shown.y0, shown.x1, shown.y1};
    for (int i = 0; i < 4; ++i)
      QVERIFY(std::abs(box[i].toDouble() - expected[i]) <= 0.001);
    QCOMPARE(got["contours"].toInt(), got["closed"].toInt());
  }
};

int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
    qputenv("QT_QPA_PLATFORM", "offscreen");
  QApplication app(argc, argv);
  prepare_application();
  TestGuidesWindow test;
  return QTest::qExec(&test, argc, argv);
}
#include "test_guides_window.moc"
