// What the canvas leaves out or keeps while it paints makes no difference that can be seen.
#include "app/canvas/painter.h"
#include "app/canvas/seen_part.h"
#include "document/arrange.h"
#include "window_fixture.h"

using namespace frelm;
using namespace frelm::test;

namespace {

QImage painted(const QPainterPath& path, const QTransform& by = {}) {
  QImage image(400, 300, QImage::Format_RGB32);
  image.fill(Qt::white);
  QPainter painter(&image);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setTransform(by);
  painter.fillPath(path, Qt::black);
  return image;
}
// The largest difference of a channel.
int apart(const QImage& a, const QImage& b) {
  if (a.size() != b.size())
    return 255;
  int most = 0;
  for (int y = 0; y < a.height(); ++y)
    for (int x = 0; x < a.width(); ++x)
      for (int channel = 0; channel < 3; ++channel)
        most = std::max(most,
                        std::abs(int(a.pixel(x, y) >> 8 * channel & 255U) - int(b.pixel(x, y) >> 8 * channel & 255U)));
  return most;
}
QImage canvas_of(WindowFixture& f) {
  return f.window.canvas().grab().toImage().convertToFormat(QImage::Format_RGB32);
}

} // namespace

class TestPainting : public QObject {
  Q_OBJECT

private slots:
  void the_comparison_tells() {
    QPainterPath square;
    square.addRect(10, 10, 50, 50);
    QCOMPARE(apart(painted(square), painted(square)), 0);
    QVERIFY(apart(painted(square), painted(square.translated(0.2, 0))) > 40);
  }

  void what_is_seen_of_letters_looks_like_the_whole_data() {
    QTest::addColumn<double>("px_per_mm");
    QTest::addColumn<double>("angle");
    for (const double px_per_mm : {0.5, 3.0, 17.0, 90.0})
      for (const double angle : {0.0, 33.0})
        QTest::addRow("%g px per mm at %g°", px_per_mm, angle) << px_per_mm << angle;
  }
  void what_is_seen_of_letters_looks_like_the_whole() {
    QFETCH(double, px_per_mm);
    QFETCH(double, angle);
    const FaceLibrary faces(data_folder("faces").toStdString(), false);
    const auto face = faces.face({"Dancing Script", "Bold"});
    Outline word;
    double pen = 0;
    for (const ShapedCluster& c : (*face)->shape(U"Marigold", {})) {
      word.append((*face)->outline(c.glyphs.front().glyph)->transformed(Affine::translation({pen, 0})));
      pen += c.advance;
    }
    word = word.transformed({0.06, 0, 0, 0.06, 0, 0});
    const QPainterPath path = to_path(word);
    QTransform to_px;
    to_px.translate(200, 150).rotate(angle).scale(px_per_mm, px_per_mm).translate(-60, 20);
    const QPainterPath seen = seen_part(word, path, to_px, QRectF(0, 0, 400, 300));
    QVERIFY(seen.isEmpty() || QRectF(-1, -1, 402, 302).contains(seen.boundingRect()));
    // 0.05 px of an edge are at most a twentieth of its grey; the raster itself has 256 steps each way.
    QPainterPath fine; // Qt's own flattening is three times as rough as ours
    fine.setFillRule(Qt::WindingFill);
    for (const Contour& c : word.contours) {
      QPolygonF polygon;
      for (const Segment& s : c.segments)
        for (int i = 0; i < 200; ++i)
          polygon << to_px.map(QPointF(s.at(i / 200.0).x, s.at(i / 200.0).y));
      fine.addPolygon(polygon);
      fine.closeSubpath();
    }
    // 0.05 px of an edge are a twentieth of its grey.
    const int off = apart(painted(seen), painted(fine)), as_it_was = apart(painted(to_px.map(path)), painted(fine));
    QVERIFY2(off <= std::max(255 / 16, as_it_was), qPrintable(QString("%1, whole %2").arg(off).arg(as_it_was)));
  }
  void out_of_sight_nothing_is_left_and_inside_the_path_stays() {
    Outline line;
    line.contours.push_back(circle_contour({0, 0}, 10));
    const QPainterPath path = to_path(line);
    QVERIFY(seen_part(line, path, QTransform::fromTranslate(-300, 0), QRectF(0, 0, 400, 300)).isEmpty());
    QCOMPARE(seen_part(line, path, QTransform::fromTranslate(50, 50), QRectF(0, 0, 400, 300)), path.translated(50, 50));
    line.contours[0].closed = false; // an open line has no inside: it is given back whole
    QCOMPARE(seen_part(line, path, {}, QRectF(0, 0, 400, 300)), path);
  }

  // The same picture after a drag with pieces kept, as painted from nothing.
  void pieces_kept_while_others_move_look_as_painted_anew_data() {
    QTest::addColumn<int>("piece");
    for (int i = 0; i < 4; ++i)
      QTest::addRow("piece %d", i) << i;
  }
  void pieces_kept_while_others_move_look_as_painted_anew() {
    QFETCH(int, piece);
    WindowFixture f;
    f.window.open_file(data_folder("demo") + "/saltmarsh-badge.frelm");
    f.settle();
    f.session().select({f.document().pieces[static_cast<std::size_t>(piece)]->id});
    f.settle();
    const QImage at_first = canvas_of(f);
    for (int i = 0; i < 9; ++i) { // moved a little each frame, as a drag does
      f.session().preview(move_pieces(f.document(), f.session().selection(), {4.0 * i, 2.0 * i}));
      const QImage kept = canvas_of(f);
      f.window.canvas().set_view(View::Lines); // forgets what is kept
      f.window.canvas().set_view(View::Ink);
      const QImage anew = canvas_of(f);
      QVERIFY2(apart(kept, anew) <= 3, qPrintable(QString("%1: %2").arg(i).arg(apart(kept, anew))));
      QVERIFY(i == 0 || apart(anew, at_first) > 100);
      canvas_of(f);
      canvas_of(f); // kept again
    }
    f.session().cancel_preview();
  }
};

QTEST_MAIN(TestPainting)
#include "test_painting.moc"
