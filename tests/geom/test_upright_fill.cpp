// Shapes filled upright: widths by the formula, verticals vertical, edges met; against a polygon of the shape, whose
// heights and integrals are worked out here on their own.
#include "geom/upright_fill.h"
#include "support/compare.h"
#include "support/fill_shapes.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr const char* herring = "M84 150C126 84 248 66 332 124C348 140 348 160 332 176C248 234 126 216 84 150Z";

} // namespace

class TestUprightFill : public QObject {
  Q_OBJECT

private slots:
  void widths_follow_heights_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("from");
    QTest::addColumn<double>("to");
    for (const auto& [name, path, from, to] : {std::tuple{"half disc", half_disc, 0.4, 0.3},
                                               {"ribbon", ribbon, 0.4, 0.4},
                                               {"crescent", crescent, 0.3, 0.5},
                                               {"blob", blob, 0.6, 0.5},
                                               {"notched", notched, 0.4, 0.4},
                                               {"herring", herring, 0.4, 0.4},
                                               {"herring, to its ends", herring, 0.03, 0.03},
                                               {"drawn the other way", "M10 20V90L280 120V20Z", 0.4, 0.4}})
      QTest::newRow(name) << QString(path) << from << to;
  }
  void widths_follow_heights() {
    QFETCH(const QString, path);
    QFETCH(const double, from);
    QFETCH(const double, to);
    const Contour shape = shape_of(path.toStdString());
    const ShapeEdges polygon(shape);
    const frelm::Box source{-20, 5, 230, 65};
    double greatest = 0;
    for (int i = 1; i < 2000; ++i)
      greatest = std::max(greatest, polygon.height(std::lerp(shape.bounds().x0, shape.bounds().x1, i / 2000.0)));
    std::vector<double> heights; // of the same places for every p
    for (const double p : {0.0, 0.5, 1.0}) {
      const auto filled = upright_fill(source, shape, {{from, to}, p});
      QVERIFY2(filled.ok(), filled.ok() ? "" : filled.error().text().c_str());
      // The ends stand where the shape is high enough, or at its own ends.
      for (const auto& [x, share] : {std::pair{filled->from, from}, {filled->to, to}}) {
        const bool at_end = std::abs(x - shape.bounds().x0) < 1e-6 || std::abs(x - shape.bounds().x1) < 1e-6;
        QVERIFY2(at_end || std::abs(polygon.height(x) / greatest - share) < 2e-3,
                 qPrintable(QString("%1: %2").arg(x).arg(polygon.height(x) / greatest)));
      }
      // G(X) by Simpson's rule over 6,000 steps.
      constexpr int steps = 6000;
      std::vector<double> g{0};
      const auto place = [&](double i) { return std::lerp(filled->from + 1e-9, filled->to - 1e-9, i / steps); };
      if (heights.empty())
        for (int i = 0; i <= 2 * steps; ++i)
          heights.push_back(polygon.height(place(i / 2.0)));
      const auto weight = [&](int i) { return std::pow(heights[static_cast<std::size_t>(i)], -p); };
      for (int i = 0; i < steps; ++i)
        g.push_back(g.back() + (weight(2 * i) + 4 * weight(2 * i + 1) + weight(2 * i + 2)) / 6);
      for (int i = 0; i <= 40; ++i) {
        const double u = i / 40.0;
        const auto above = std::lower_bound(g.begin(), g.end(), u * g.back());
        const std::ptrdiff_t k = std::clamp<std::ptrdiff_t>(above - g.begin(), 1, steps);
        const double rest = (u * g.back() - g[static_cast<std::size_t>(k - 1)]) /
                            (g[static_cast<std::size_t>(k)] - g[static_cast<std::size_t>(k - 1)]);
        const double x = std::lerp(place(static_cast<double>(k - 1)), place(static_cast<double>(k)), rest);
        const double sx = std::lerp(source.x0, source.x1, u);
        const WarpPlace top = filled->map.at({sx, source.y0}), bottom = filled->map.at({sx, source.y1}),
                        middle = filled->map.at({sx, 35});
        QVERIFY2(std::abs(top.point.x - x) < 0.005, qPrintable(QString("%1 %2").arg(top.point.x).arg(x)));
        QCOMPARE(middle.point.x, top.point.x); // upright
        QCOMPARE(middle.dy.x, 0.0);
        QVERIFY(middle.determinant() > 0);
        if (i > 0 && i < 40) {
          QVERIFY(std::abs(top.point.y - polygon.at(top.point.x).top) < 0.001);
          QVERIFY(std::abs(bottom.point.y - polygon.at(top.point.x).bottom) < 0.001);
          // The Jacobian against differences.
          const double d = 1e-4;
          const Vec along = (filled->map.at({sx + d, 35}).point - filled->map.at({sx - d, 35}).point) / (2 * d);
          QVERIFY(distance({along.x, along.y}, {middle.dx.x, middle.dx.y}) < 2e-3 * (1 + length(middle.dx)) ||
                  !filled->map.breaks.empty());
        }
      }
    }
  }

  void a_rectangle_is_the_identity_up_to_scale() {
    for (const double p : {0.0, 0.7, 1.0}) {
      const auto filled = upright_fill({0, 0, 100, 30}, shape_of("M10 20H210V80H10Z"), {{0.4, 0.4}, p});
      for (int i = 0; i <= 10; ++i)
        for (int j = 0; j <= 10; ++j)
          QVERIFY(distance(filled->map.at({10.0 * i, 3.0 * j}).point, {10 + 20.0 * i, 20 + 6.0 * j}) < 1e-9);
    }
  }

  void what_cannot_be_filled_says_where_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("end");
    QTest::addColumn<double>("proportion");
    QTest::addColumn<QString>("words");
    QTest::newRow("horseshoe: steps at its legs") << horseshoe << 0.1 << 0.5 << "step";
    QTest::newRow("a step") << "M0 0H100V40H200V100H0Z" << 0.1 << 0.5 << "step";
    QTest::newRow("hollow from the side") << "M0 0H200V30H40V70H200V100H0Z" << 0.1 << 0.5 << "turns back";
    QTest::newRow("an overhang") << "M0 50L100 0L80 40L200 60L100 120Z" << 0.1 << 0.5 << "turns back";
    QTest::newRow("crosses itself") << "M0 0L100 100H0L60 0Z" << 0.4 << 0.5 << "crosses itself";
    QTest::newRow("ends too small") << herring << 0.0 << 0.5 << "ends";
    QTest::newRow("ends beyond") << herring << 1.5 << 0.5 << "ends";
    QTest::newRow("no number") << herring << double(NAN) << 0.5 << "ends";
    QTest::newRow("proportion beyond") << herring << 0.4 << 1.5 << "proportion";
  }
  void what_cannot_be_filled_says_where() {
    QFETCH(const QString, path);
    QFETCH(const double, end);
    QFETCH(const double, proportion);
    QFETCH(const QString, words);
    const auto filled = upright_fill({0, 0, 100, 30}, shape_of(path.toStdString()), {{end, end}, proportion});
    QVERIFY(!filled.ok());
    QVERIFY2(QString::fromStdString(filled.error().text()).contains(words), filled.error().text().c_str());
  }

  // Taking its legs off makes the horseshoe one that can be filled.
  void ends_move_off_what_cannot() {
    const ShapeHeights shape(shape_of(horseshoe));
    QVERIFY(shape.greatest() > 80);
    QVERIFY(!ShapeHeights(shape_of("M0 0H200V100H0Z")).pointed());
    QVERIFY(ShapeHeights(shape_of(herring)).pointed());
    QVERIFY(!ShapeHeights(shape_of(ribbon)).pointed());
    QVERIFY(ShapeHeights(shape_of("M0 0L200 -40V140L0 100Z")).reaches(1, true) > 199);
  }
};

QTEST_APPLESS_MAIN(TestUprightFill)
#include "test_upright_fill.moc"
