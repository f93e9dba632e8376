// Copies on a sheet: nothing overlaps or breaks a margin (GEOS says so), and little is wasted.
#include "geom/offset.h"
#include "geom/path_data.h"
#include "geom/placing.h"
#include "reference/geos_gap.h"
#include "support/cases.h"
#include "support/compare.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QFile>
#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

// What of a shape counts: its outer lines.
Outline outer(const Outline& o) {
  Outline out;
  for (const Contour& c : o.contours)
    if (c.closed && c.area() > 0)
      out.contours.push_back(c);
  return out;
}
struct Set {
  std::vector<Outline> shapes;
  std::vector<std::size_t> counts;
};
// bench/cases/placing-NAME.txt: a path and how many of it, a line each.
Set set_of(const QString& name) {
  Set out;
  QFile file(QString(FRELM_SOURCE_DIR "/bench/cases/placing-%1.txt").arg(name));
  if (!file.open(QIODevice::ReadOnly))
    qFatal("no such set");
  for (const QByteArray& line : file.readAll().split('\n'))
    if (!line.isEmpty() && !line.startsWith('#')) {
      const qsizetype cut = line.indexOf(' ');
      out.counts.push_back(line.left(cut).toULongLong());
      out.shapes.push_back(drawn(QString::fromUtf8(line.mid(cut + 1))));
    }
  return out;
}
// Empty: all is well.
std::string wrong(const Set& set, const PlacingWish& wish, const PlacedShapes& made) {
  std::vector<std::size_t> counts(set.shapes.size(), 0);
  std::vector<Outline> placed;
  for (const PlacedCopy& c : made.copies) {
    ++counts[c.shape];
    placed.push_back(outer(set.shapes[c.shape]).transformed(c.place));
    if (std::abs(std::abs(c.place.determinant()) - 1) > 1e-9 || c.place.determinant() < 0)
      return "scaled or turned over";
    const Box b = placed.back().bounds();
    if (b.x0 < wish.margin - 1e-6 || b.x1 > wish.width - wish.margin + 1e-6 || b.y0 < wish.margin - 1e-6 ||
        b.y1 > (wish.length > 0 ? wish.length - wish.margin : made.used - wish.margin) + 1e-6)
      if (c.sheet + 1 == made.sheets || wish.length > 0)
        return fmt::format("beyond the margin: {} {} {} {} of {}", b.x0, b.y0, b.x1, b.y1, made.used);
  }
  if (counts != set.counts)
    return "not as many as wanted";
  for (std::size_t i = 0; i < placed.size(); ++i)
    for (std::size_t k = 0; k < i; ++k)
      if (const Box a = placed[i].bounds();
          made.copies[i].sheet == made.copies[k].sheet && a.grown(wish.apart).overlaps(placed[k].bounds()))
        if (const double gap = geos_distance(placed[i], placed[k]); gap < wish.apart - 0.01)
          return fmt::format("{} and {} only {} apart", i, k, gap);
  return {};
}

} // namespace

class TestPlacing : public QObject {
  Q_OBJECT

private slots:
  void nothing_overlaps_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<int>("turn");
    QTest::addColumn<double>("most"); // of what rows and columns need
    for (const char* name : {"triangles", "ls", "crescents"}) {
      QTest::addRow("%s, by quarters", name) << name << int(MayTurn::Quarter) << 0.85;
      QTest::addRow("%s, as they are", name) << name << int(MayTurn::No) << 1.0;
    }
    for (const char* name : {"boxes", "discs", "stars", "mixed", "names"})
      for (const MayTurn turn : {MayTurn::No, MayTurn::Quarter})
        QTest::addRow("%s %d", name, int(turn)) << name << int(turn) << 1.0;
    QTest::addRow("triangles, freely") << "triangles" << int(MayTurn::Free) << 0.85;
  }
  void nothing_overlaps() {
    QFETCH(QString, name);
    QFETCH(int, turn);
    QFETCH(double, most);
    const Set set = set_of(name);
    PlacingWish wish{.width = 300, .apart = 3, .margin = 8, .turn = MayTurn(turn)};
    const auto made = place_shapes(set.shapes, set.counts, wish);
    QVERIFY2(made.ok(), made.ok() ? "" : made.error().text().c_str());
    QCOMPARE(QString::fromStdString(wrong(set, wish, *made)), QString());
    QVERIFY(made->sheets == 1 && made->in_rows > 0);
    // Waste: what is used and not covered.
    double covered = 0;
    for (std::size_t i = 0; i < set.shapes.size(); ++i)
      covered += double(set.counts[i]) * std::abs(outer(set.shapes[i]).area());
    const double waste = made->used * wish.width - covered, plain = made->in_rows * wish.width - covered;
    QVERIFY2(waste <= most * plain + 1e-6, fmt::format("{} of {}: {}", waste, plain, waste / plain).c_str());
    // The same again.
    const auto again = place_shapes(set.shapes, set.counts, wish);
    for (std::size_t i = 0; i < made->copies.size(); ++i)
      QVERIFY(again->copies[i].place == made->copies[i].place);
  }
  void several_sheets() {
    const Set set{{drawn(box(0, 0, 90, 90)), drawn("M0 0H60L0 60Z")}, {7, 9}};
    const PlacingWish wish{.width = 210, .length = 210, .apart = 4, .margin = 5};
    const auto made = place_shapes(set.shapes, set.counts, wish);
    QVERIFY(made.ok());
    QCOMPARE(QString::fromStdString(wrong(set, wish, *made)), QString());
    QVERIFY(made->sheets >= 2 && made->sheets <= 3);
    for (const PlacedCopy& c : made->copies)
      QVERIFY(c.sheet < made->sheets);
  }
  void what_can_be_placed() {
    const Outline square = drawn(box(0, 0, 50, 50));
    const PlacingWish wish{.width = 100, .apart = 2, .margin = 5};
    QCOMPARE(place_shapes({square}, {1}, wish)->used, 60.0);
    QVERIFY(!place_shapes({}, {}, wish).ok() && !place_shapes({square}, {0}, wish).ok());
    QVERIFY(!place_shapes({square}, {5'001}, wish).ok());
    QVERIFY(!place_shapes({square}, {1}, {.width = 100, .length = 55, .margin = 5}).ok()); // too long
    QVERIFY(!place_shapes({square}, {1}, {.width = 100, .margin = 50}).ok());
    // Only upright it fits.
    PlacingWish half = wish;
    half.turn = MayTurn::No;
    const Outline wide = drawn(box(0, 0, 120, 20));
    QVERIFY(!place_shapes({wide}, {2}, half).ok());
    QVERIFY(!place_shapes({drawn(box(0, 0, 95, 95))}, {1}, wish).ok());
    QCOMPARE(place_shapes({wide}, {2}, wish)->used, 130.0);
    std::stop_source stop;
    stop.request_stop();
    PlacingWish stopped = wish;
    stopped.stop = stop.get_token();
    QCOMPARE(place_shapes({square}, {3}, stopped).error().code, ErrorCode::Cancelled);
  }
  void progress_and_many() {
    const Set set{{drawn("M0 0H20L10 18Z")}, {200}};
    double last = 0;
    PlacingWish wish{.width = 400, .apart = 2, .margin = 5};
    wish.progress = [&](double share) {
      QVERIFY(share >= last && share <= 1);
      last = share;
    };
    const auto made = place_shapes(set.shapes, set.counts, wish);
    QVERIFY(made.ok() && last == 1);
    QCOMPARE(QString::fromStdString(wrong(set, wish, *made)), QString());
  }
};

QTEST_APPLESS_MAIN(TestPlacing)
#include "test_placing.moc"
