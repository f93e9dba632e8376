// Cut files cleaned: what is found, and that each of it is put right without touching anything else.
#include "document/clean_up.h"
#include "document/edits.h"
#include "document/validity.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;

namespace {

PieceId put(Document& d, const std::string& data, Colour colour = {0, 0, 0}) {
  Piece p;
  p.colour = colour;
  p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(data, EndsMeet::StaysOpen)), {}, nullptr, {}};
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}
const Outline& outline(const Document& d, PieceId id) {
  return *d.find(id)->outline()->outline;
}

} // namespace

class TestCleanUp : public QObject {
  Q_OBJECT

private slots:
  void ends_are_joined_by_colour() {
    Document d;
    const Colour red{0xff, 0, 0};
    const PieceId a = put(d, "M0 0H10"), b = put(d, "M10 10V0.004"), c = put(d, "M0 10H10"), e = put(d, "M0 0V10"),
                  other = put(d, "M0 0H-5", red), area = put(d, "M50 0H60V10Z");
    const std::vector<PieceId> all{a, b, c, e, other, area};
    QCOMPARE(line_faults(d, all).meeting, std::size_t{4});
    const Document after = ends_joined(d, all);
    QCOMPARE(after.pieces.size(), std::size_t{3});
    QVERIFY(outline(after, a).contours.at(0).closed);
    QVERIFY(std::abs(outline(after, a).area() - 100) < 0.05);
    QVERIFY(outline(after, other) == outline(d, other) && outline(after, area) == outline(d, area));
    QCOMPARE(line_faults(after, all), LineFaults{});
    QVERIFY(faults(after).empty());
    QVERIFY(ends_joined(after, all) == after);
  }

  void registration_marks_are_known() {
    const auto cross = [](double x, double y) {
      return std::vector<std::string>{"M" + std::to_string(x - 3) + " " + std::to_string(y) + "h6",
                                      "M" + std::to_string(x) + " " + std::to_string(y - 3) + "v6"};
    };
    const auto with = [&](const std::vector<Point>& places, const std::string& rest) {
      Document d;
      std::vector<PieceId> all, marks;
      for (const Point at : places)
        for (const std::string& line : cross(at.x, at.y))
          marks.push_back(put(d, line));
      all = marks;
      all.push_back(put(d, rest));
      all.push_back(put(d, "M50 40h4v4h-4z"));
      const std::vector<PieceId> found = line_faults(d, all).marks;
      return found.empty() ? 0 : found == marks ? 1 : 2;
    };
    const std::string kite = "M20 20L80 30L60 70Z";
    QCOMPARE(with({{0, 0}, {100, 0}, {100, 80}, {0, 80}}, kite), 1);
    QCOMPARE(with({{0, 0}, {100, 0}, {100, 80}}, kite), 1);
    QCOMPARE(with({{0, 0}, {50, 0}, {100, 0}, {0, 80}, {50, 80}, {100, 80}}, kite), 1);
    QCOMPARE(with({{0, 0}, {100, 0}}, kite), 0);                                                  // two
    QCOMPARE(with({{30, 30}, {70, 30}, {70, 50}, {30, 50}}, "M50 -20L110 40L50 100L-10 40Z"), 0); // holes of a plate
    QCOMPARE(with({{0, 0}, {50, 0}, {100, 0}, {0, 80}, {50, 80}, {100, 80}, {50, 60}}, kite), 0); // a pattern
    QCOMPARE(with({{0, 0}, {100, 0}, {100, 80}, {0, 80}}, "M-20 20L80 30L60 70Z"), 0); // something lies outside
  }

  void a_piece_of_several_lines_keeps_them() {
    Document d;
    const PieceId a = put(d, "M0 0H10 M30 0H40 M30 5H40"), b = put(d, "M10 0H20");
    const Document after = ends_joined(d, {a, b});
    double length = 0;
    for (const auto& p : after.pieces)
      length += p->outline()->outline->length();
    QVERIFY(std::abs(length - 40) < 1e-9);
    QCOMPARE(line_faults(after, {a, b}).meeting, std::size_t{0});
    QVERIFY(faults(after).empty());
  }

  void doubles_are_dropped_where_they_stand() {
    Document d;
    const PieceId a = put(d, "M0 0H10"), b = put(d, "M10 0H0"), c = put(d, "M0 0H10V5"),
                  other = put(d, "M0 0H10", {0xff, 0, 0});
    const std::vector<PieceId> all{a, b, c, other};
    QCOMPARE(line_faults(d, all).doubles, std::size_t{2});
    const Document after = doubles_dropped(d, all);
    QVERIFY(after.find(b) == nullptr && outline(after, a) == outline(d, a) &&
            outline(after, other) == outline(d, other));
    QCOMPARE(outline(after, c).length(), 5.0);
    QCOMPARE(line_faults(after, all).doubles, std::size_t{0});
    QVERIFY(faults(after).empty());
  }

  void frames_are_found_around_all_the_rest() {
    Document d;
    const PieceId frame = put(d, "M0 0H100V80H0Z"), a = put(d, "M10 10H20V20Z"), b = put(d, "M40 10H50V20Z");
    QCOMPARE(line_faults(d, {frame, a, b}).frames, std::vector<PieceId>{frame});
    QVERIFY(line_faults(d, {frame}).frames.empty());
    QVERIFY(line_faults(d, {a, b}).frames.empty());
    const PieceId beyond = put(d, "M90 10H120V20Z");
    QVERIFY(line_faults(d, {frame, a, beyond}).frames.empty());
  }

  void what_is_locked_hidden_or_gone_is_left_alone() {
    Document d;
    const PieceId a = put(d, "M0 0H10"), b = put(d, "M10 0H20"), c = put(d, "M20 0H30");
    d = edit_piece(std::move(d), b, [](Piece& p) { p.locked = true; });
    d = edit_piece(std::move(d), c, [](Piece& p) { p.visible = false; });
    QCOMPARE(line_faults(d, {a, b, c, PieceId{999}}), LineFaults{});
    QVERIFY(ends_joined(d, {a, b, c, PieceId{999}}) == d);
    QVERIFY(doubles_dropped(d, {a, b, c, PieceId{999}}) == d);
  }
};

QTEST_APPLESS_MAIN(TestCleanUp)
#include "test_clean_up.moc"
