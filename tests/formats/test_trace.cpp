// Pictures made by cairo and by hand, traced back.
#include "formats/png.h"
#include "formats/png_read.h"
#include "geom/trace.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

GreyPicture picture(int width, int height, const std::function<bool(double, double)>& ink) {
  GreyPicture p{width, height, {}};
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x)
      p.grey.push_back(ink(x + 0.5, y + 0.5) ? 0 : 255);
  return p;
}
ThinResult traced(const GreyPicture& p, double width) {
  TraceOptions options;
  options.width = width;
  return *trace(p, options);
}

} // namespace

class TestTrace : public QObject {
  Q_OBJECT

private slots:
  void a_square_comes_back_with_four_nodes() {
    const ThinResult got =
        traced(picture(100, 80, [](double x, double y) { return x > 20 && x < 60 && y > 10 && y < 50; }), 200);
    QCOMPARE(got.outline.contours.size(), std::size_t{1});
    const Box b = got.outline.bounds();
    QVERIFY(std::abs(b.x0 - 40) < 0.5 && std::abs(b.x1 - 120) < 0.5 && std::abs(b.y0 - 20) < 0.5 &&
            std::abs(b.y1 - 100) < 0.5);
    QVERIFY(got.outline.area() > 0);
    QVERIFY2(got.outline.node_count() == 4, fmt::format("{}", got.outline.node_count()).c_str());
  }
  void a_ring_has_a_hole_and_is_round() {
    const auto ring = [](double x, double y) {
      const double r = std::hypot(x - 200, y - 200);
      return r < 150 && r > 90;
    };
    const ThinResult got = traced(picture(400, 400, ring), 100); // 4 pixels to the mm
    QCOMPARE(got.outline.contours.size(), std::size_t{2});
    QVERIFY(std::abs(got.outline.area() - pi * (37.5 * 37.5 - 22.5 * 22.5)) < 10);
    for (const Contour& c : got.outline.contours) {
      const double radius = c.area() > 0 ? 37.5 : 22.5;
      for (const Segment& s : c.segments)
        for (const double t : {0.0, 0.3, 0.7})
          QVERIFY(std::abs(distance(s.at(t), {50, 50}) - radius) < 0.25 * (0.5 + 0.25) + 0.02);
      QVERIFY2(c.segments.size() <= 12, fmt::format("{}", c.segments.size()).c_str());
    }
  }
  void letters_survive_picture_and_tracing() {
    const Outline word =
        straight_word("Sea", {"Dancing Script", "Bold"}, 40).transformed(Affine::translation({10, 40}));
    const CutSheet sheet{{0, 0, 100, 60}, {{1, "word", {}, Destination::Knife, word}}};
    const auto png = write_png(sheet, 2000, ExportInk::Areas); // 0.05 mm a pixel
    const auto grey = read_png(*png);
    QVERIFY(grey.ok());
    QCOMPARE(grey->width, 2000);
    const ThinResult got = traced(*grey, 100);
    QCOMPARE(got.outline.contours.size(), word.contours.size());
    const double off = boundary_distance(rings_of(got.outline, 1e-3), rings_of(word, 1e-3));
    QVERIFY2(off < 0.15, fmt::format("{} mm", off).c_str());
    QVERIFY2(got.outline.node_count() < 2 * word.node_count() + 20,
             fmt::format("{}", got.outline.node_count()).c_str());
  }
  void speckles_and_light_ink() {
    const auto dots =
        picture(60, 60, [](double x, double y) { return (x < 2 && y < 2) || (x > 20 && x < 40 && y > 20 && y < 40); });
    QCOMPARE(traced(dots, 60).outline.contours.size(), std::size_t{1});
    TraceOptions options;
    options.width = 60, options.speckle = 0;
    QCOMPARE(trace(dots, options)->outline.contours.size(), std::size_t{2});
    options.light_ink = true;
    QVERIFY(std::abs(trace(dots, options)->outline.area() - (3600 - 400 - 4)) < 12);
  }
  void bad_input_is_named() {
    TraceOptions options;
    QVERIFY(!trace({}, options).ok());
    QVERIFY(!trace({3, 3, {0, 0}}, options).ok());
    options.width = 0;
    QVERIFY(!trace(picture(3, 3, [](double, double) { return true; }), options).ok());
    QVERIFY(!read_png("not a picture").ok());
    QVERIFY(!read_png("").ok());
    QVERIFY(traced(picture(9, 9, [](double, double) { return false; }), 10).outline.empty());
  }
};

QTEST_APPLESS_MAIN(TestTrace)
#include "test_trace.moc"
