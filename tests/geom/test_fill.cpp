// Shapes filled: edges met exactly, the inside smooth and without folds.
#include "geom/fill_map.h"
#include "support/compare.h"
#include "support/fill_shapes.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

FillTarget target_of(const char* path) {
  return *fill_target(shape_of(path));
}
// The word's outlines and their box.
struct Word {
  Outline outline;
  Box box;
};
Word word(const std::string& text) {
  const Outline o = straight_word(text, {"Cabin", "Bold"}, 40);
  return {o, o.bounds()};
}
// How far the direction of a level line turns at one place: across a step much shorter than the grid's cells.
double level_turn(const WarpMap& map, Point at, double step) {
  const Vec before = map.at({at.x - step, at.y}).dx, after = map.at({at.x + step, at.y}).dx;
  return std::abs(std::atan2(cross(before, after), dot(before, after))) * 180 / pi;
}

} // namespace

class TestFill : public QObject {
  Q_OBJECT

private slots:
  void shapes_are_filled_without_folds_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<bool>("inverse");
    QTest::newRow("half disc") << half_disc << false;
    QTest::newRow("ribbon") << ribbon << false;
    QTest::newRow("crescent") << crescent << false;
    QTest::newRow("blob of five nodes") << blob << false;
    QTest::newRow("notched") << notched << true;
    QTest::newRow("horseshoe") << horseshoe << false;
    QTest::newRow("rectangle, drawn the other way") << "M10 20V90H280V20Z" << false;
  }
  void shapes_are_filled_without_folds() {
    QFETCH(QString, path);
    QFETCH(bool, inverse);
    const Word w = word("SLOW WAKE");
    const FillTarget target = target_of(path.toUtf8().constData());
    const auto filled = fill_map(w.box, target);
    QVERIFY2(filled.ok(), filled.ok() ? "" : filled.error().text().c_str());
    QCOMPARE(filled->solved == FillSolve::Inverse, inverse);
    // The four sides of the box lie on the boundary, by its length.
    const Curve curve({target.boundary.segments.begin(), target.boundary.segments.end()}, true);
    const double whole = curve.length();
    const auto span = [&](std::size_t k) {
      const double d = std::fmod(target.corners[(k + 1) % 4] - target.corners[k] + whole, whole);
      return d > 0 ? d : d + whole;
    };
    for (int i = 0; i <= 60; ++i) {
      const double t = i / 60.0, x = w.box.x0 + t * w.box.width(), y = w.box.y0 + t * w.box.height();
      const std::pair<Point, double> places[]{
          {{x, w.box.y0}, target.corners[0] + t * span(0)},
          {{w.box.x1, y}, target.corners[1] + t * span(1)},
          {{w.box.x1 - t * w.box.width(), w.box.y1}, target.corners[2] + t * span(2)},
          {{w.box.x0, w.box.y1 - t * w.box.height()}, target.corners[3] + t * span(3)}};
      for (const auto& [from, s] : places)
        QVERIFY(distance(filled->map.at(from).point, curve.at(s).point) < 1e-8 * whole);
    }
    // The letters: sound, within the shape, their highest and lowest ink on its edge.
    const auto bent = warp(w.outline, filled->map);
    QCOMPARE(bent->report.folds, std::size_t{0});
    QVERIFY(bent->report.worst <= 0.005);
    const std::vector<Ring> edge = rings_of(Outline{{target.boundary}}, 0.001);
    const BoundaryDistance to_edge(edge);
    int reaching = 0;
    for (const Contour& c : w.outline.contours)
      for (const Segment& s : c.segments)
        if (s.is_line() && s.p0.y == s.p3.y && (s.p0.y == w.box.y0 || s.p0.y == w.box.y1))
          for (int i = 0; i <= 10; ++i, ++reaching)
            QVERIFY(to_edge(filled->map.at(s.at(i / 10.0)).point) < 0.01);
    for (const Ring& r : rings_of(bent->outline, 0.01))
      for (const Point p : r)
        QVERIFY(to_edge(p) < 0.02 || winding_number(Outline{{target.boundary}}, p) != 0);
    Q_UNUSED(reaching);
  }

  void a_rectangle_is_the_identity_up_to_scale() {
    const Word w = word("HOG");
    const auto filled = fill_map(w.box, target_of("M10 20H210V80H10Z"));
    for (int i = 0; i <= 20; ++i)
      for (int j = 0; j <= 20; ++j) {
        const WarpPlace p = filled->map.at({w.box.x0 + w.box.width() * i / 20, w.box.y0 + w.box.height() * j / 20});
        QVERIFY(distance(p.point, {10 + 10.0 * i, 20 + 3.0 * j}) < 1e-9);
        QVERIFY(distance(p.dx, {200 / w.box.width(), 0}) < 1e-9 && distance(p.dy, {0, 60 / w.box.height()}) < 1e-9);
      }
    const auto bent = warp(w.outline, filled->map);
    QCOMPARE(bent->report.nodes_out, bent->report.nodes_in);
  }

  // Corners typed a hair beside the sharp ones are meant to be those; sides with a kink cost just the nodes at it.
  void corners_beside_sharp_ones_are_those() {
    const double slanted = std::hypot(10, 50), whole = 400 + 4 * slanted;
    const Outline block = *parse_outline("M0 0H200V100H0ZM40 20V80H160V20Z");
    for (const double waist : {-10.0, 10.0}) {
      FillTarget target = target_of(qPrintable(QString("M0 0H200L%1 50L200 100H0L%2 50Z").arg(200 - waist).arg(waist)));
      std::optional<Outline> exact;
      for (const double off : {0.0, 6e-5, -0.02, 0.3}) {
        target.corners = {whole - std::max(0.0, off), 200 + off, 200 + 2 * slanted - off, 400 + 2 * slanted};
        if (target.corners[0] == whole)
          target.corners[0] = 0;
        const auto filled = fill_map({0, 0, 200, 100}, target);
        QVERIFY(filled.ok());
        const auto bent = warp(block, filled->map);
        QVERIFY(bent.ok());
        QCOMPARE(bent->report.folds, std::size_t{0});
        QCOMPARE(bent->outline.node_count(), block.node_count() + 2);
        if (!exact)
          exact = bent->outline;
        QVERIFY(boundary_distance(rings_of(bent->outline, 0.001), rings_of(*exact, 0.001)) < 1e-6);
      }
    }
  }

  // A sharp corner of the edge under the middle of an H: its bar stays smooth. Under the foot of an I: the foot shows
  // just that corner, and nothing above its lowest fifth does.
  void corners_of_the_edge_stay_at_the_edge() {
    const Box box{0, 0, 100, 40};
    const FillTarget target = target_of("M0 0H200V100L100 60L0 100Z"); // a roof of 21.8° on both sides from below
    const auto filled = fill_map(box, target);
    QVERIFY(filled.ok());
    constexpr double step = 1e-3;
    for (int k = 0; k <= 400; ++k) { // a bar from 40 to 60 % of the height, over all its length
      const double x = 100 * k / 400.0;
      for (const double y : {16.0, 24.0})
        if (x > step && x < 100 - step)
          QVERIFY2(level_turn(filled->map, {x, y}, step) < 0.5, qPrintable(QString("%1 %2").arg(x).arg(y)));
    }
    const double corner = 2 * std::atan2(40, 100) * 180 / pi;
    QVERIFY(std::abs(level_turn(filled->map, {50, 40}, step) - corner) < 0.1);
    for (double y = 0.5; y <= 32; y += 0.5)
      QVERIFY2(level_turn(filled->map, {50, y}, step) < 0.5, qPrintable(QString::number(y)));
  }

  void jacobians_are_the_difference_quotients() {
    const Box box{5, -40, 155, 10};
    for (const char* path : {half_disc, blob, horseshoe}) {
      const auto filled = fill_map(box, target_of(path));
      constexpr double h = 1e-5;
      for (int i = 1; i < 20; ++i)
        for (int j = 1; j < 10; ++j) {
          const Point p{box.x0 + box.width() * (i + 0.013) / 20, box.y0 + box.height() * (j + 0.021) / 10};
          const WarpPlace here = filled->map.at(p);
          const Vec dx = (filled->map.at({p.x + h, p.y}).point - filled->map.at({p.x - h, p.y}).point) / (2 * h),
                    dy = (filled->map.at({p.x, p.y + h}).point - filled->map.at({p.x, p.y - h}).point) / (2 * h);
          QVERIFY(distance(dx, here.dx) < 1e-4 * (1 + length(dx)) && distance(dy, here.dy) < 1e-4 * (1 + length(dy)));
          QVERIFY(here.determinant() > 0);
        }
    }
  }

  void corners_are_found_where_a_hand_would_put_them_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<QList<QPointF>>("corners");
    using List = QList<QPointF>;
    QTest::newRow("rectangle") << "M10 20H210V80H10Z" << List{{10, 20}, {210, 20}, {210, 80}, {10, 80}};
    QTest::newRow("anticlockwise, from another corner")
        << "M210 80V20H10V80Z" << List{{10, 20}, {210, 20}, {210, 80}, {10, 80}};
    QTest::newRow("horseshoe") << horseshoe << List{{0, 200}, {300, 200}, {220, 200}, {80, 200}};
    QTest::newRow("ribbon") << ribbon << List{{0, 40}, {300, 40}, {300, 110}, {0, 110}};
  }
  void corners_are_found_where_a_hand_would_put_them() {
    QFETCH(QString, path);
    QFETCH(QList<QPointF>, corners);
    const FillTarget target = target_of(path.toUtf8().constData());
    const Curve curve({target.boundary.segments.begin(), target.boundary.segments.end()}, true);
    for (std::size_t k = 0; k < 4; ++k) {
      const QPointF wanted = corners[static_cast<qsizetype>(k)];
      QVERIFY(distance(curve.at(target.corners[k]).point, {wanted.x(), wanted.y()}) < 1e-6);
    }
  }

  void shapes_that_cannot_be_filled_are_refused_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<QString>("says");
    QTest::newRow("open") << "M0 0H100V50"
                          << "open";
    QTest::newRow("no area") << "M0 0H100H0Z"
                             << "no area";
    QTest::newRow("crossing") << "M0 0L100 100H0L100 0Z"
                              << "crosses itself";
    QTest::newRow("loop") << "M0 0H100V60H40V-20H20V60H0Z"
                          << "crosses itself";
  }
  void shapes_that_cannot_be_filled_are_refused() {
    QFETCH(QString, path);
    QFETCH(QString, says);
    const auto target = fill_target(parse_outline(path.toStdString())->contours.front());
    QVERIFY(!target.ok());
    QVERIFY2(QString::fromStdString(target.error().text()).contains(says), target.error().text().c_str());
  }
  void corners_out_of_order_and_cancelling_are_errors() {
    FillTarget target = target_of(half_disc);
    std::swap(target.corners[1], target.corners[2]);
    QVERIFY(fill_map({0, 0, 10, 5}, target).error().text().find("clockwise") != std::string::npos);
    target.corners[2] = target.corners[1];
    QVERIFY(fill_map({0, 0, 10, 5}, target).error().text().find("too close") != std::string::npos);
    QCOMPARE(fill_map({}, target_of(half_disc)).error().where(), std::string("source"));
    std::stop_source stop;
    stop.request_stop();
    QCOMPARE(fill_map({0, 0, 10, 5}, target_of(half_disc), {std::nullopt, stop.get_token()}).error().code,
             ErrorCode::Cancelled);
  }
};

QTEST_APPLESS_MAIN(TestFill)
#include "test_fill.moc"
