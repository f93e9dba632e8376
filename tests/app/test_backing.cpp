// Pictures under the drawing: dropped, pasted, opened; by hand and by number; the Measure tool and lengths that are
// known.
#include "app/window_fixture.h"

#include "document/job_file.h"

#include <QBuffer>
#include <QClipboard>
#include <QImage>
#include <QMimeData>
#include <QPainter>

using namespace frelm;
using namespace frelm::test;

namespace {

struct Photos : WindowFixture {
  // A red picture of 10 px a mm, so many mm large.
  QString photo(const QString& name, int width, int height, QColor colour = Qt::red) {
    QImage image(10 * width, 10 * height, QImage::Format_RGB32);
    image.fill(colour);
    image.setDotsPerMeterX(10000), image.setDotsPerMeterY(10000);
    image.save(dir.filePath(name));
    return dir.filePath(name);
  }
  bool drop(const QStringList& paths, Point at) {
    QMimeData mime;
    QList<QUrl> urls;
    for (const QString& p : paths)
      urls << QUrl::fromLocalFile(p);
    mime.setUrls(urls);
    QDragEnterEvent enter(px(at), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&window.canvas(), &enter);
    QDropEvent event(QPointF(px(at)), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&window.canvas(), &event);
    return settle();
  }
  const Backing& backing(std::size_t i = 0) { return document().backings.at(i); }
  QColor colour_seen(Point mm) { return window.canvas().grab().toImage().pixelColor(px(mm)); }
};

} // namespace

class TestBacking : public QObject {
  Q_OBJECT

private slots:
  void a_dropped_picture_lies_under_the_drawing() {
    Photos f;
    QVERIFY(f.drop({f.photo("wall.png", 120, 80)}, {300, 200}));
    QVERIFY2(f.document().backings.size() == 1, qPrintable(f.window.bar().text()));
    QVERIFY(distance(backing_centre(f.backing()), {300, 200}) < 1);
    QVERIFY(std::abs(backing_width(f.backing()) - 120) < 0.01);
    QVERIFY(f.document().pieces.empty());
    auto* width = f.find<MeasureField>("Width of the backing");
    QVERIFY(width != nullptr && width->isVisible() && width->text() == "120");
    const QColor half = f.colour_seen({300, 200});
    QVERIFY2(half.red() > 200 && half.green() > 90 && half.green() < 190, qPrintable(half.name())); // at half strength
    f.type_measure("Strength of the backing", "100");
    QVERIFY(f.colour_seen({300, 200}).green() < 60);
    auto* show = [&]() -> QCheckBox* {
      for (QCheckBox* b : f.window.findChildren<QCheckBox*>())
        if (b->text() == "Show" && b->isVisible())
          return b;
      return nullptr;
    }();
    QVERIFY(show != nullptr);
    show->click();
    QVERIFY(!f.backing().visible);
    QVERIFY(f.colour_seen({300, 200}).green() > 200);
    // Nothing of it is cut, nothing found fault with.
    QVERIFY(f.settle() && f.session().materials_used().empty() && f.session().check().to_look_at() == 0);
    while (f.session().history().can_undo())
      f.session().undo();
    QVERIFY(f.document().backings.empty() && !f.find<MeasureField>("Strength of the backing")->isVisible());
  }

  void by_number() {
    Photos f;
    QVERIFY(f.drop({f.photo("wall.png", 120, 80)}, {300, 200}));
    f.type_measure("Width of the backing", "60");
    QVERIFY(std::abs(backing_height(f.backing()) - 40) < 0.01);
    QVERIFY(distance(backing_centre(f.backing()), {300, 200}) < 1);
    f.type_measure("Left edge of the backing", "10");
    f.type_measure("Top edge of the backing", "20");
    QVERIFY(std::abs(bounds_of(f.backing()).x0 - 10) < 1e-6 && std::abs(bounds_of(f.backing()).y0 - 20) < 1e-6);
    f.type_measure("Turn of the backing", "90");
    QVERIFY(std::abs(bounds_of(f.backing()).width() - 40) < 0.01);
    f.type_measure("Width of the backing", "0"); // the least there is
    QVERIFY(backing_width(f.backing()) > 0);
    f.type_measure("Width of the backing", "100000");
    QVERIFY(f.settle());
    QVERIFY(std::abs(backing_width(f.backing()) - 100000) < 1);
  }

  void by_hand_with_escape_and_undo() {
    Photos f;
    QVERIFY(f.drop({f.photo("wall.png", 120, 80), f.photo("door.png", 40, 60, Qt::blue)}, {300, 200}));
    QCOMPARE(f.document().backings.size(), std::size_t{2});
    auto* hand = f.button("By hand");
    QVERIFY(hand != nullptr);
    QTest::mouseClick(hand, Qt::LeftButton);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Backing);
    const Document before = f.document();
    f.drag({300, 200}, {400, 250}); // the one in front
    const Point there = backing_centre(f.backing(1));
    QVERIFY2(distance(there, backing_centre(before.backings[1]) + Vec{100, 50}) < 2 / f.px_per_mm(),
             qPrintable(QString("%1 %2").arg(there.x).arg(there.y)));
    QVERIFY(f.backing(0) == before.backings[0]);
    f.session().undo();
    QVERIFY(f.document() == before);
    // By a corner, about the one across.
    const std::vector<Point> corners = backing_corners(before.backings[1]);
    f.drag(corners[2], corners[0] + 2.0 * (corners[2] - corners[0]));
    QVERIFY(std::abs(backing_width(f.backing(1)) - 80) < 1);
    QVERIFY(distance(backing_corners(f.backing(1))[0], corners[0]) < 1e-6);
    // Escape in the middle of a drag.
    const Document sized = f.document();
    QTest::mousePress(&f.window.canvas(), Qt::LeftButton, {}, f.px({300, 200}));
    QTest::mouseMove(&f.window.canvas(), f.px({350, 210}));
    QTest::mouseMove(&f.window.canvas(), f.px({380, 240}));
    QVERIFY(f.session().dragging());
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px({380, 240}));
    QVERIFY(!f.session().dragging() && f.document() == sized);
    // Arrows and Delete; Escape leaves.
    QTest::keyClick(&f.window.canvas(), Qt::Key_Right);
    QVERIFY(backing_centre(f.backing(1)).x > backing_centre(sized.backings[1]).x);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Delete);
    QCOMPARE(f.document().backings.size(), std::size_t{1});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Delete);
    QVERIFY(f.document().backings.empty());
    const QImage bare = f.window.canvas().grab().toImage(); // nothing of its frame is left
    QCOMPARE(bare.pixelColor(f.px({250, 150})), bare.pixelColor(f.px({250, 152})));
    for (const Point corner : backing_corners(before.backings[0]))
      QVERIFY(bare.pixelColor(f.px(corner)) != QColor("#0f6e73"));
    f.drag({300, 200}, {320, 220}); // there is none
    QVERIFY(f.window.bar().text().contains("no backing"));
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
  }

  void a_length_that_is_known() {
    Photos f;
    QVERIFY(f.drop({f.photo("wall.png", 120, 80)}, {300, 200}));
    QTest::mouseClick(f.button("Known length"), Qt::LeftButton);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Measure);
    f.drag({260, 200}, {340, 200}, Qt::ControlModifier);
    QVERIFY(f.session().measured());
    const double drawn = distance(f.session().measured()->from, f.session().measured()->to);
    QVERIFY(std::abs(drawn - 80) < 1);
    f.type_measure("True length", "400");
    QVERIFY(std::abs(backing_width(f.backing()) - 120 * 400 / drawn) < 0.1);
    QVERIFY(std::abs(distance(f.session().measured()->from, f.session().measured()->to) - 400) < 1e-6);
    const auto red_near = [&](Point mm) { // the line is seen where it is now, before the hand moves
      const QImage seen = f.window.canvas().grab().toImage();
      bool found = false;
      for (int y = -3; y <= 3; ++y) {
        const QColor c = seen.pixelColor(f.px(mm) + QPoint(0, y)), line("#992c45");
        found = found || (std::abs(c.red() - line.red()) < 60 && std::abs(c.green() - line.green()) < 60 &&
                          std::abs(c.blue() - line.blue()) < 60);
      }
      return found;
    };
    QVERIFY(red_near({450, 200}));
    f.session().undo();
    QVERIFY(std::abs(backing_width(f.backing()) - 120) < 0.01);
    // Its end can be dragged on; a click beside it changes nothing.
    f.session().set_measured(MeasuredLine{{260, 200}, {340, 200}});
    f.drag({340, 200}, {300, 240}, Qt::ControlModifier);
    QVERIFY(distance(f.session().measured()->from, {260, 200}) < 1e-6 &&
            distance(f.session().measured()->to, {300, 240}) < 1);
    const auto line = f.session().measured();
    QTest::mouseClick(&f.window.canvas(), Qt::LeftButton, {}, f.px({400, 300}));
    QVERIFY(f.session().measured() == line);
    // With Shift, level.
    f.drag({100, 100}, {180, 108}, Qt::ShiftModifier | Qt::ControlModifier);
    QVERIFY(std::abs(f.session().measured()->from.y - f.session().measured()->to.y) < 1e-9);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
    // Another job: nothing of this one is measured there.
    QVERIFY(f.window.open_file(data_folder("demo") + "/tide-decal.frelm"));
    QVERIFY(!f.session().measured() && f.document().backings.empty());
  }

  void opened_pasted_saved_and_opened_again() {
    Photos f;
    QVERIFY(f.window.open_file(f.photo("plan.jpg", 200, 100)));
    QVERIFY(std::abs(f.document().sheet.width - 200) < 2 && f.document().backings.size() == 1);
    QVERIFY(f.window.path().isEmpty()); // the picture is not overwritten by the job
    QImage image(50, 40, QImage::Format_RGB32);
    image.fill(Qt::green);
    QApplication::clipboard()->setImage(image);
    f.window.commands().action("edit.paste")->trigger();
    QVERIFY(f.settle());
    QCOMPARE(f.document().backings.size(), std::size_t{2});
    const Document before = f.document();
    QVERIFY(f.save(f.dir.filePath("plan.frelm")));
    f.window.commands().action("file.new")->trigger();
    QVERIFY(f.settle() && f.document().backings.empty());
    QVERIFY(f.window.open_file(f.dir.filePath("plan.frelm")));
    QVERIFY(f.document() == before);
    // One that is damaged is told, and nothing is added.
    QFile bad(f.dir.filePath("bad.png"));
    QVERIFY(bad.open(QIODevice::WriteOnly));
    bad.write("\x89PNG\r\n\x1a\nnot at all");
    bad.close();
    QVERIFY(f.drop({bad.fileName()}, {50, 50}));
    QVERIFY(f.document() == before && f.window.bar().text().contains("bad.png"));
  }
};

QTEST_MAIN(TestBacking)
#include "test_backing.moc"
