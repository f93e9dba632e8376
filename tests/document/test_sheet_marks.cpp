// Boxes and lines to weed by, and register marks: where they lie, and that they cut no letter.
#include "document/edits.h"
#include "document/sheet_marks.h"
#include "document/validity.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Piece outline(const QString& path, Colour colour = {}) {
  Piece p;
  p.colour = colour;
  p.content = OutlinePiece{std::make_shared<const Outline>(drawn(path)), Finish{{}}, nullptr, {}};
  return p;
}
std::vector<PieceId> all_of(const Document& d) {
  std::vector<PieceId> out;
  for (const auto& p : d.pieces)
    out.push_back(p->id);
  return out;
}
const Outline& of(const Marked& m, std::size_t i) {
  return *m.document.find(m.ids.at(i))->outline()->outline;
}

} // namespace

class TestSheetMarks : public QObject {
  Q_OBJECT

private slots:
  void a_box_for_each_material() {
    Document d = add_piece({}, outline(box(100, 50, 30, 20))).document;
    d = add_piece(std::move(d), outline(disc(300, 100, 10), {200, 1, 1})).document;
    Piece guide = new_circle({50, 50}, 40);
    d = add_piece(std::move(d), std::move(guide)).document;
    const auto made = with_weeding_box(d, all_of(d), evaluator(), 10);
    QVERIFY(made.ok() && made->ids.size() == 2 && faults(made->document).empty());
    QVERIFY(of(*made, 0).bounds() == (Box{90, 40, 140, 80}));
    QVERIFY(of(*made, 1).bounds().x0 < 280.01 && of(*made, 1).contours.front().closed);
    QVERIFY(made->document.find(made->ids[1])->colour == (Colour{200, 1, 1}));
    QVERIFY(!with_weeding_box(d, {d.pieces.back()->id}, evaluator()).ok()); // a guide
    QVERIFY(!with_weeding_box(d, {}, evaluator()).ok());
  }
  void lines_between_lines_of_letters() {
    Document d;
    for (int i = 0; i < 3; ++i) {
      Piece l = new_lettering(d, U"HAMLET", {200, 100.0 + 60 * i});
      d = add_piece(std::move(d), std::move(l)).document;
    }
    const auto made = with_weeding_lines(d, all_of(d), evaluator());
    QVERIFY(made.ok() && made->ids.size() == 1);
    QCOMPARE(of(*made, 0).contours.size(), std::size_t{2});
    for (const Contour& line : of(*made, 0).contours) {
      QVERIFY(!line.closed);
      for (const PieceId id : all_of(d)) {
        const Box ink = evaluator().piece(d, id, Depth::Finish)->ink;
        const double y = line.segments.front().p0.y;
        QVERIFY(y < ink.y0 - least_weeding_room / 2 + 1e-9 || y > ink.y1 + least_weeding_room / 2 - 1e-9);
      }
    }
    // Within a weeding box they run from side to side of it.
    const auto boxed = with_weeding_box(d, all_of(d), evaluator(), 15);
    const auto lined = with_weeding_lines(boxed->document, all_of(boxed->document), evaluator());
    QVERIFY(of(*lined, 0).contours.size() == 2 && of(*lined, 0).bounds().x0 == of(*boxed, 0).bounds().x0 &&
            of(*lined, 0).bounds().x1 == of(*boxed, 0).bounds().x1);
    // Letters that reach into the next line leave no room, which is told.
    Document tight = add_piece({}, outline("M0 0H100V30H0Z")).document;
    tight = add_piece(std::move(tight), outline("M0 20H100V60H0Z")).document;
    QVERIFY(!with_weeding_lines(tight, all_of(tight), evaluator()).ok());
  }
  void marks_at_the_same_places() {
    Document d = add_piece({}, outline(box(100, 50, 30, 20))).document;
    d = add_piece(std::move(d), outline(box(200, 90, 30, 20), {200, 1, 1})).document;
    const auto made = with_register_marks(d, all_of(d), evaluator(), 8, 10);
    QVERIFY(made.ok() && made->ids.size() == 2);
    QVERIFY(of(*made, 0) == of(*made, 1) && of(*made, 0).contours.size() == 8);
    QVERIFY(of(*made, 0).bounds() == (Box{86, 36, 244, 124}));
    QVERIFY(made->document.find(made->ids[0])->colour != made->document.find(made->ids[1])->colour);
  }
};

QTEST_APPLESS_MAIN(TestSheetMarks)
#include "test_sheet_marks.moc"
