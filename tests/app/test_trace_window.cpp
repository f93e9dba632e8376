// A picture traced in the real window: live over it, by ink and by colours, a part of it, made into pieces that are
// worked on.
#include "app/cards/trace_card.h"
#include "document/job_file.h"
#include "formats/picture_trace.h"
#include "window_fixture.h"

#include <QCheckBox>
#include <QImage>
#include <QPainter>
#include <QPainterPath>

using namespace frelm;
using namespace frelm::test;

namespace {

struct TraceBench : WindowFixture {
  // 10 px a mm: a fish, its eye, two specks, and a red float beside it.
  QString fish() {
    QImage image(1600, 800, QImage::Format_RGB32);
    image.fill(Qt::white);
    QPainter p(&image);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(Qt::NoPen);
    QPainterPath body(QPointF(150, 400));
    body.cubicTo(350, 100, 700, 120, 950, 380);
    body.lineTo(1150, 220);
    body.lineTo(1130, 580);
    body.lineTo(950, 420);
    body.cubicTo(700, 680, 350, 700, 150, 400);
    p.fillPath(body, QColor("#20303a"));
    p.setBrush(Qt::white);
    p.drawEllipse(QPointF(320, 360), 30, 30);
    p.setBrush(QColor("#20303a"));
    p.drawEllipse(QPointF(80, 80), 2, 2);
    p.drawEllipse(QPointF(1300, 80), 2, 2);
    p.setBrush(QColor("#c03028"));
    p.drawEllipse(QPointF(1350, 400), 90, 90);
    p.end();
    image.setDotsPerMeterX(10000), image.setDotsPerMeterY(10000);
    image.save(dir.filePath("fish.png"));
    return dir.filePath("fish.png");
  }
  bool open_and_trace() {
    if (!window.open_file(fish()))
      return false;
    if (!settle() || document().backings.size() != 1)
      return false;
    window.commands().action("outline.trace")->trigger();
    return traced();
  }
  bool traced() {
    QApplication::processEvents();
    return QTest::qWaitFor(
        [&] {
          const QPushButton* make = button("Make outlines");
          return make != nullptr && make->isEnabled();
        },
        10'000);
  }
  QString told() {
    for (const QLabel* l : window.findChild<TraceCard*>()->findChildren<QLabel*>())
      if (l->text().contains("nodes"))
        return l->text();
    return {};
  }
  void make() {
    QTest::mouseClick(button("Make outlines"), Qt::LeftButton);
    settle();
  }
  const Outline& outline(std::size_t i) { return *document().pieces.at(i)->outline()->outline; }
  QCheckBox* box(const QString& text) {
    for (QCheckBox* b : window.findChildren<QCheckBox*>())
      if (b->text() == text && b->isVisible())
        return b;
    return nullptr;
  }
};

} // namespace

class TestTraceWindow : public QObject {
  Q_OBJECT

private slots:
  void a_picture_becomes_outlines_at_its_size() {
    TraceBench f;
    QAction* trace = f.window.commands().action("outline.trace");
    QVERIFY(!trace->isEnabled() && trace->toolTip().contains("picture"));
    QVERIFY(f.open_and_trace());
    QVERIFY2(f.told().startsWith("3 outlines"), qPrintable(f.told())); // body, eye, float; no specks
    // What would come of it is seen, and nothing is done yet.
    QVERIFY(f.document().pieces.empty());
    const QImage with = f.window.canvas().grab().toImage();
    QTest::mouseClick(f.button("Close"), Qt::LeftButton);
    QVERIFY(f.window.canvas().grab().toImage() != with && f.button("Make outlines") == nullptr);
    QTest::mouseClick(f.button("Trace…"), Qt::LeftButton);
    QVERIFY(f.traced());
    f.make();
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    const frelm::Box b = f.outline(0).bounds();
    QVERIFY2(std::abs(b.x0 - 15) < 0.1 && std::abs(b.x1 - 144) < 0.1, qPrintable(QString("%1 %2").arg(b.x0).arg(b.x1)));
    QVERIFY(f.outline(0).node_count() < 24);
    QVERIFY(f.selected().id == f.document().pieces[0]->id && f.selected().name == "fish");
    QCOMPARE(f.document().backings.size(), std::size_t{1});
    // Saved, opened, taken back.
    QVERIFY(f.save(f.dir.filePath("fish.frelm")));
    const auto back = read_job(*DiskStorage().read(f.dir.filePath("fish.frelm").toStdString()));
    QVERIFY(back.ok() && *back == f.document());
    f.session().undo();
    QVERIFY(f.document().pieces.empty() && f.document().backings.size() == 1);
  }

  void measures_change_what_is_found() {
    TraceBench f;
    QVERIFY(f.open_and_trace());
    f.type_measure("Specks up to", "0");
    QVERIFY(f.traced());
    QVERIFY2(f.told().startsWith("5 outlines"), qPrintable(f.told()));
    f.type_measure("Threshold", "20"); // the float is lighter than that
    QVERIFY(f.traced());
    QVERIFY2(f.told().startsWith("4 outlines"), qPrintable(f.told()));
    f.type_measure("Curves within", "3");
    QVERIFY(f.traced());
    const QString coarse = f.told();
    f.type_measure("Curves within", "0.02");
    QVERIFY(f.traced());
    QVERIFY(f.told() != coarse);
    QTest::mouseClick(f.button("Usual"), Qt::LeftButton);
    QVERIFY(f.traced());
    QVERIFY2(f.told().startsWith("3 outlines"), qPrintable(f.told()));
    // Nothing to be found, and said so; the button rests.
    f.type_measure("Specks up to", "50");
    f.type_measure("Threshold", "1");
    QVERIFY(QTest::qWaitFor([&] { return !f.button("Make outlines")->isEnabled(); }, 5000));
    f.choose("What becomes outlines", "Light");
    QVERIFY(f.traced());
    // A size that is typed goes with it.
    QTest::mouseClick(f.button("Usual"), Qt::LeftButton);
    f.choose("What becomes outlines", "Dark");
    f.type_measure("Specks up to", "2");
    f.type_measure("Width of the backing", "320");
    QVERIFY(f.traced());
    f.make();
    QVERIFY(std::abs(f.outline(0).bounds().width() - 258) < 0.3);
  }

  void colours_come_as_a_group_and_the_picture_may_go() {
    TraceBench f;
    QVERIFY(f.open_and_trace());
    f.choose("What becomes outlines", "Colours");
    QVERIFY(f.traced());
    QVERIFY(f.find<MeasureField>("How many colours")->isVisible() && !f.find<MeasureField>("Threshold")->isVisible());
    f.box("Keep the picture under them")->click();
    f.make();
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    QVERIFY(f.document().backings.empty() && f.document().groups.size() == 1);
    QVERIFY(alike(f.document().pieces[0]->colour, Colour{0x20, 0x30, 0x3a}));
    QVERIFY(alike(f.document().pieces[1]->colour, Colour{0xc0, 0x30, 0x28}));
    QVERIFY(std::abs(f.outline(1).area() - pi * 81) < 1);
    QVERIFY(f.button("Make outlines") == nullptr); // there is nothing to trace
    f.session().undo();
    QCOMPARE(f.document().backings.size(), std::size_t{1});
  }

  void only_a_part_that_is_drawn() {
    TraceBench f;
    QVERIFY(f.open_and_trace());
    QTest::mouseClick(f.button("Draw a part"), Qt::LeftButton);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Part);
    QVERIFY(f.button("Make outlines") != nullptr);
    // Broken off, then drawn.
    f.press_and_move({120, 25}, {150, 55});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px({150, 55}));
    QCOMPARE(f.window.canvas().tool(), ToolKind::Part);
    f.drag({120, 25}, {150, 55});
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
    QVERIFY(f.traced());
    QVERIFY2(f.told().startsWith("1 outline "), qPrintable(f.told()));
    QTest::mouseClick(f.button("All of it"), Qt::LeftButton);
    QVERIFY(f.traced());
    QVERIFY2(f.told().startsWith("3 outlines"), qPrintable(f.told()));
    // Beside the picture.
    QTest::mouseClick(f.button("Draw a part"), Qt::LeftButton);
    f.window.canvas().zoom_to({-60, -60, 200, 140});
    f.drag({-50, -50}, {-20, -20});
    QVERIFY(QTest::qWaitFor([&] { return !f.button("Make outlines")->isEnabled(); }, 5000));
    // The backing goes while it is traced.
    f.session().apply("Remove", without_backing(f.document(), 0));
    QVERIFY(f.settle() && f.button("Make outlines") == nullptr);
    f.session().undo();
    QVERIFY(f.traced());
  }

  // A silhouette as a customer sends it: traced, evened out, thinned, with a border.
  void a_silhouette_is_sanded_thinned_and_bordered() {
    TraceBench f;
    QVERIFY(f.open_and_trace());
    f.type_measure("Curves within", "0.02");
    QVERIFY(f.traced());
    f.make();
    const auto shape = [&] { return f.document().pieces.at(0)->outline()->outline; };
    const auto was = shape();
    f.window.canvas().set_tool(ToolKind::Sand);
    f.settle();
    f.type_measure("Size of the brush", "10");
    f.drag({40, 25}, {70, 18});
    QVERIFY(f.settle() && *shape() != *was);
    f.window.canvas().set_tool(ToolKind::Select);
    f.session().select({f.document().pieces[0]->id});
    f.settle();
    for (const char* step : {"outline.add.thin", "outline.add.border"}) {
      f.window.commands().action(step)->trigger();
      QVERIFY(f.settle());
    }
    QCOMPARE(f.selected().finish()->steps.size(), std::size_t{2});
    QVERIFY(QTest::qWaitFor([&] { return f.session().layers(f.selected().id).current; }, 10'000));
    const auto layers = f.session().layers(f.selected().id).finished->layers;
    QCOMPARE(layers.size(), std::size_t{2});
    QVERIFY(layers[1].outline->node_count() <= shape()->node_count());
    QVERIFY(layers[0].outline->bounds().width() > shape()->bounds().width() + 1);
    QVERIFY(std::none_of(f.session().check().findings.begin(), f.session().check().findings.end(),
                         [](const Finding& x) { return x.kind == FindingKind::PictureOnly; }));
  }
};

QTEST_MAIN(TestTraceWindow)
#include "test_trace_window.moc"
