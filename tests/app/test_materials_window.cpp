// Materials in the real window: the page, the colours that go along, pieces by material with their layers, one material
// by itself in the Knife view, the colour of another piece.
#include "app/menus/add_menu.h"
#include "app/menus/lettering_menu.h"
#include "app/pieces/pieces_panel.h"
#include "app/style/words.h"
#include "app/window/materials_page.h"
#include "document/job_file.h"
#include "formats/export.h"
#include "window_fixture.h"

using namespace frelm;
using namespace frelm::test;

namespace {

using Part = PiecesPanel::Part;

struct Bench : WindowFixture {
  Bench() {
    window.open_file(data_folder("demo") + "/tide-decal.frelm"); // cream letters, a madder ring and one of ink
    settle();
  }
  PiecesPanel& panel() { return *window.findChild<PiecesPanel*>(); }
  QStringList rows() {
    QStringList out;
    const QAbstractItemModel& m = *panel().list()->model();
    for (int i = 0; i < m.rowCount(); ++i)
      out << m.index(i, 0).data(PiecesModel::NameRole).toString();
    return out;
  }
  void press(int row, Part part) {
    QApplication::processEvents();
    QTest::mouseClick(panel().list()->viewport(), Qt::LeftButton, {}, panel().part(row, part).center());
  }
  // From the menu that is open.
  void take(const QString& words) {
    auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    QVERIFY(menu != nullptr);
    for (QAction* a : menu->actions())
      if (a->text() == words) {
        a->trigger();
        menu->close();
        return;
      }
    QFAIL(qPrintable("no " + words));
  }
  Colour of(const char* name) {
    for (const Material& m : document().materials)
      if (m.name == name)
        return m.colour;
    return {1, 2, 3};
  }
  MaterialsPage& page() {
    if (window.findChild<MaterialsPage*>() == nullptr)
      window.commands().action("arrange.materials")->trigger();
    return *window.findChild<MaterialsPage*>();
  }
};

} // namespace

class TestMaterialsWindow : public QObject {
  Q_OBJECT

private slots:
  void layers_unfold_under_their_piece() {
    Bench f;
    QCOMPARE(f.rows(), QStringList{"Low Tide"});
    f.press(0, Part::Fold);
    QCOMPARE(f.rows(), (QStringList{"Low Tide", "Ring 1", "Ring 2"}));
    // A layer's colour and where it goes are its own.
    f.press(1, Part::Colour);
    f.take("Moss");
    const auto ring = [&](std::size_t i) {
      return std::get<BorderStep>(f.document().pieces[0]->finish()->steps.back().what).rings[i];
    };
    QVERIFY(ring(0).colour == f.of("Moss") && ring(1).colour == f.of("Ink"));
    QVERIFY(f.document().pieces[0]->colour == f.of("Cream"));
    f.session().undo();
    QVERIFY(ring(0).colour == f.of("Madder"));
    // A layer stands for its piece when it is selected.
    QTest::mouseClick(f.panel().list()->viewport(), Qt::LeftButton, {},
                      f.panel().list()->visualRect(f.panel().list()->model()->index(2, 0)).center() - QPoint(20, 0));
    QCOMPARE(f.session().selection(), std::vector<PieceId>{f.document().pieces[0]->id});
    f.press(0, Part::Fold);
    QCOMPARE(f.rows(), QStringList{"Low Tide"});
    // Without a finish there is nothing to unfold.
    f.session().edit("none", f.document().pieces[0]->id, [](Piece& p) { p.finish()->steps.clear(); });
    f.press(0, Part::Fold);
    QCOMPARE(f.rows(), QStringList{"Low Tide"});
  }

  void one_sheet_a_colour() {
    Bench f;
    QToolButton* by_material = nullptr;
    for (QToolButton* b : f.panel().findChildren<QToolButton*>())
      if (b->text() == "By material")
        by_material = b;
    QVERIFY(by_material != nullptr);
    QTest::mouseClick(by_material, Qt::LeftButton);
    QCOMPARE(f.rows(), (QStringList{"Ink", "Ring 2 · Low Tide", "Madder", "Ring 1 · Low Tide", "Cream", "Low Tide"}));
    const auto about = [&](int row) { return f.panel().list()->model()->index(row, 0).data(PiecesModel::AboutRole); };
    QVERIFY(about(0).toString().contains("×"));
    // One by itself in the Knife view, and all again.
    QVERIFY(!f.session().only_material());
    f.press(2, Part::Eye);
    QVERIFY(f.session().only_material() == f.of("Madder"));
    f.window.canvas().set_view(View::Knife);
    const auto marks = [&] {
      const QImage shot = f.window.canvas().grab().toImage().convertToFormat(QImage::Format_RGB32);
      const QRgb brick = scheme().brick.rgb();
      qsizetype n = 0;
      for (int y = 0; y < shot.height(); ++y)
        for (int x = 0; x < shot.width(); ++x)
          n += shot.pixel(x, y) == brick ? 1 : 0;
      return n;
    };
    // Numbered as the files are written.
    QTRY_VERIFY(f.settle() && f.window.knife().current());
    CutPlan plan = cut_plan(*cut_sheet(f.document(), f.session().evaluator()), f.document().materials,
                            {f.of("Madder"), {}, true, true});
    const std::vector<CutPath>& shown = f.window.knife().plan()->lines.order;
    QCOMPARE(shown.size(), plan.order.size());
    for (std::size_t i = 0; i < plan.order.size(); ++i)
      QVERIFY(shown[i].start == plan.order[i].start && shown[i].colour == plan.order[i].colour);
    const qsizetype one = marks();
    f.press(2, Part::Eye);
    QVERIFY(!f.session().only_material());
    QTRY_VERIFY(f.window.knife().plan()->lines.order.size() > plan.order.size());
    QVERIFY(one > 0 && marks() > one);
    // A colour that is not cut any more is not the only one.
    f.press(2, Part::Eye);
    f.session().edit("off", f.document().pieces[0]->id, [](Piece& p) { p.finish()->steps.back().on = false; });
    QVERIFY(f.settle());
    QVERIFY(!f.session().only_material());
    QCOMPARE(f.rows(), (QStringList{"Cream", "Low Tide"}));
    // The heading of a material selects all that is cut from it.
    f.session().undo();
    QTest::mouseClick(f.panel().list()->viewport(), Qt::LeftButton, {},
                      f.panel().list()->visualRect(f.panel().list()->model()->index(0, 0)).center());
    QCOMPARE(f.session().selection(), std::vector<PieceId>{f.document().pieces[0]->id});
  }

  void the_list_is_edited_undone_and_kept() {
    Bench f;
    const Document was = f.document();
    f.page();
    auto* name = f.find<QLineEdit>("Name of Madder");
    QVERIFY(name != nullptr);
    name->setFocus();
    name->selectAll();
    QTest::keyClicks(name, "Brick & Co");
    QTest::keyClick(name, Qt::Key_Return);
    f.type_measure("Width of Brick & Co", "12 in");
    f.type_measure("Least stroke of Brick & Co", "1.2");
    f.type_measure("Least gap of Brick & Co", "-4"); // kept in its range
    const Material& m = f.document().materials[1];
    QCOMPARE(m.name, std::string("Brick & Co"));
    QVERIFY(std::abs(m.width - 304.8) < 1e-9 && m.least_stroke == 1.2 && m.least_gap >= 0);
    QTest::mouseClick(f.find<QCheckBox>("Brick & Co mirrored"), Qt::LeftButton);
    QVERIFY(f.document().materials[1].mirrored);
    QTest::mouseClick(f.find<QToolButton>("Colour of Brick & Co"), Qt::LeftButton);
    f.take("Ink"); // another one has it
    QVERIFY(f.document().materials[1].colour == was.materials[1].colour);
    QTest::mouseClick(f.button("Add a material"), Qt::LeftButton);
    QCOMPARE(f.document().materials.size(), was.materials.size() + 1);
    QTest::mouseClick(f.find<QToolButton>("Remove Tan"), Qt::LeftButton);
    QCOMPARE(f.document().materials.size(), was.materials.size());
    QVERIFY(f.find<QToolButton>("Remove Tan") == nullptr || !f.find<QToolButton>("Remove Tan")->isVisible());
    const auto back = read_job(write_job(f.document(), f.faces));
    QVERIFY(back.ok() && *back == f.document());
    QTest::mouseClick(f.button("Keep as my own list"), Qt::LeftButton);
    const std::vector<Material> mine = f.document().materials;
    while (f.session().history().can_undo())
      f.session().undo();
    QVERIFY(f.document() == was);
    f.window.commands().action("file.new")->trigger();
    QVERIFY(f.document().materials == mine);
    f.window.close_page();
  }

  // What cuts a material, below the list, of the row that was last worked in; the check asks for its nodes, Fewer nodes
  // begins with them, and a DXF is offered with arcs.
  void a_torch_asks_for_few_nodes() {
    Bench f;
    QVERIFY(!usual_options(f.document()).dxf.curves_as_arcs);
    f.page();
    f.find<QLineEdit>("Name of Madder")->setFocus();
    QApplication::processEvents();
    auto* machine = f.find<QComboBox>("What cuts Madder");
    QVERIFY(machine != nullptr && machine->isVisible() && machine->currentIndex() == 0);
    machine->setFocus();
    QTest::keyClick(machine, Qt::Key_Down);
    QTest::keyClick(machine, Qt::Key_Down);
    const auto madder = [&] { return *material_of(f.document().materials, f.of("Madder")); };
    QVERIFY(madder().machine == Machine::Torch);
    f.type_measure("Nodes in 100 mm of Madder", "3");
    QCOMPARE(madder().nodes_per_100, 3.0);
    f.find<QLineEdit>("Name of Ink")->setFocus();
    QApplication::processEvents();
    QVERIFY(f.find<QComboBox>("What cuts Ink")->currentIndex() == 0);
    f.window.close_page();
    const auto found = [&] {
      return std::count_if(f.session().check().findings.begin(), f.session().check().findings.end(),
                           [](const Finding& x) { return x.kind == FindingKind::NodesDense; });
    };
    QVERIFY(QTest::qWaitFor([&] { return found() == 1; }, 10'000)); // the madder ring
    QVERIFY(usual_options(f.document()).dxf.curves_as_arcs);        // for the ring, though a blade cuts the letters
    const PieceId id = f.document().pieces[0]->id;
    f.session().edit("colour", id, [&](Piece& p) { p.colour = f.of("Madder"); });
    f.session().select({id});
    QVERIFY(usual_options(f.document()).dxf.curves_as_arcs);
    f.window.commands().action("outline.add.thin")->trigger();
    QVERIFY(f.settle());
    const auto& thin = std::get<ThinStep>(f.selected().finish()->steps.back().what);
    QVERIFY(thin.aim == NodeAim::Machine && thin.per_100 == 3);
  }

  void the_colour_of_another_piece() {
    Bench f;
    letter_it(f.window.desk(), "Ebb");
    QVERIFY(f.settle());
    const PieceId ebb = f.selected().id;
    const PieceId tide = f.document().pieces[0]->id;
    f.session().edit("aside", ebb, [](Piece& p) { p.lettering()->placement.at = {60, 190}; });
    QVERIFY(f.settle());
    // A place on the outer ring alone: just inside its left end.
    const Session::LayersShown layers = f.session().layers(tide);
    QVERIFY(layers.current);
    std::optional<Point> on_ring;
    const Box b = layers.finished->bounds();
    for (double x = b.x0; x < b.x0 + 10 && !on_ring; x += 0.5)
      for (double y = b.y0; y < b.y1 && !on_ring; y += 1)
        if (colour_at(f.session(), {x, y}) == f.of("Ink") && colour_at(f.session(), {x + 1, y}) == f.of("Ink"))
          on_ring = Point{x + 0.5, y};
    QVERIFY(on_ring.has_value());
    f.session().edit("cream", ebb, [&](Piece& p) { p.colour = f.of("Moss"); });
    f.window.commands().action("arrange.colour-as")->trigger();
    QVERIFY(f.session().picking_colour());
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QVERIFY(!f.session().picking_colour() && f.document().find(ebb)->colour == f.of("Moss"));
    f.window.commands().action("arrange.colour-as")->trigger();
    f.click({2, 2}); // beside everything: asked once more
    QVERIFY(f.session().picking_colour());
    f.click(*on_ring);
    QVERIFY(!f.session().picking_colour());
    QVERIFY(f.document().find(ebb)->colour == f.of("Ink"));
    QCOMPARE(f.selected().id, ebb); // the click selected nothing else
    // What was to be coloured has gone meanwhile.
    f.window.commands().action("arrange.colour-as")->trigger();
    f.session().apply("gone", remove_pieces(f.document(), {ebb}).document);
    const Document now = f.document();
    f.click(*on_ring);
    QVERIFY(f.document() == now);
  }

  void disc_star_and_arched_word_in_three_materials() {
    Bench f;
    f.window.commands().action("file.new")->trigger();
    const auto shape = [&](std::size_t kind) {
      f.window.commands().action(kind == 0 ? QString("add.circle") : QString("add.guide.%1").arg(kind))->trigger();
      f.choose("Use", "Shape");
      QVERIFY(f.selected().is_shape());
    };
    shape(GuideShape(CircleGuide{}).index());
    shape(GuideShape(StarGuide{}).index());
    letter_it(f.window.desk(), "Regatta");
    QVERIFY(f.settle());
    f.choose("Bend", "Arc");
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{3});
    const char* const materials[]{"Harbour", "Ochre", "White"}; // from the back
    for (std::size_t i = 0; i < 3; ++i) {
      f.session().select({f.document().pieces[i]->id});
      f.window.commands().action("arrange.centre")->trigger();
      f.press(2 - static_cast<int>(i), Part::Colour);
      f.take(materials[i]);
    }
    QVERIFY(f.settle());
    for (const auto& p : f.document().pieces) {
      const Point c = f.session().seated(p->id)->ink.centre();
      QVERIFY(std::abs(c.x - 300) < 0.01 && std::abs(c.y - 200) < 0.01);
    }
    const CutSheet sheet = *cut_sheet(f.document(), f.session().evaluator());
    QCOMPARE(sheet.pieces.size(), std::size_t{3});
    for (std::size_t i = 0; i < 3; ++i)
      QVERIFY(sheet.pieces[i].colour == f.of(materials[i]));
    for (const Finding& finding : f.session().check().findings)
      QVERIFY2(finding.weight != Weight::MustFix, qPrintable(words_of(finding.detail)));
    QCOMPARE(used_materials(sheet, f.document().materials).size(), std::size_t{3});
  }

  void a_mirrored_material_shows_so_in_the_knife_view_only() {
    Bench f;
    Document d = f.document();
    for (Material& m : d.materials)
      m.mirrored = true;
    const auto shot = [&] { return f.window.canvas().grab().toImage(); };
    f.window.canvas().zoom_to_sheet();
    f.session().edit("aside", d.pieces[0]->id, [](Piece& p) { p.lettering()->placement.at.x -= 20; });
    QVERIFY(f.settle());
    const QImage ink = shot();
    f.window.canvas().set_view(View::Knife);
    const QImage knife = shot();
    d = f.document();
    for (Material& m : d.materials)
      m.mirrored = true;
    f.session().apply("mirror", d);
    QVERIFY(f.settle());
    QVERIFY(shot() != knife);
    f.window.canvas().set_view(View::Ink);
    QVERIFY(shot() == ink);
  }
};

QTEST_MAIN(TestMaterialsWindow)
#include "test_materials_window.moc"
