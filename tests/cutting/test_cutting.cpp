#include "cutting/check.h"
#include "cutting/cut_order.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

std::vector<std::string> titles(const Document& d) {
  std::vector<std::string> out;
  for (const Finding& f : check(d, evaluator()).findings)
    out.push_back(f.title);
  return out;
}
bool has(const std::vector<std::string>& list, const char* title) {
  return std::find(list.begin(), list.end(), title) != list.end();
}
Document drawn(const char* path) {
  Piece p;
  p.name = "drawing";
  p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(path)), Finish{{}}, nullptr, {}};
  return add_piece({}, p).document;
}

} // namespace

class TestCutting : public QObject {
  Q_OBJECT

private slots:
  void a_good_job_has_only_the_note_on_live_letters() {
    const CheckReport r = check(circle_job("Marigold").document, evaluator());
    QCOMPARE(r.to_look_at(), std::size_t{0});
    QCOMPARE(r.findings.size(), std::size_t{1});
    QCOMPARE(r.findings[0].weight, Weight::Note);
  }

  void overlaps_that_would_be_cut_are_found_counted_and_cured() {
    CircleJob job = circle_job("Marigold");
    job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
      p.lettering()->recipe.finish.steps[0].on = false;
    });
    const CheckReport r = check(job.document, evaluator());
    QCOMPARE(r.findings[0].title, std::string("Overlap would be cut"));
    QVERIFY(r.findings[0].detail.find("joins not welded") != std::string::npos);
    QVERIFY(!r.findings[0].where.empty());
    const Document better = cured(job.document, r.findings[0].piece, r.findings[0].cures.front(), evaluator());
    QCOMPARE(check(better, evaluator()).to_look_at(), std::size_t{0});
  }

  void pieces_of_one_colour_that_cross_are_found_data() {
    QTest::addColumn<QString>("other");
    QTest::addColumn<bool>("same_colour");
    QTest::addColumn<bool>("found");
    QTest::newRow("crossing") << "M40 40H90V90H40Z" << true << true;
    QTest::newRow("crossing-on-another-layer") << "M40 40H90V90H40Z" << false << false;
    QTest::newRow("inside") << "M20 20H30V30H20Z" << true << false;
    QTest::newRow("apart") << "M60 60H90V90H60Z" << true << false;
  }
  void pieces_of_one_colour_that_cross_are_found() {
    QFETCH(QString, other);
    QFETCH(bool, same_colour);
    QFETCH(bool, found);
    Document d = drawn("M10 10H50V50H10Z");
    Piece p = *drawn(qPrintable(other)).pieces[0];
    p.colour = same_colour ? d.pieces[0]->colour : Colour{1, 2, 3};
    d = add_piece(d, p).document;
    QCOMPARE(has(titles(d), "Pieces are cut into each other"), found);
  }

  void a_guide_set_to_the_knife_is_found_and_cured() {
    CircleJob job = circle_job("Marigold");
    job.document = edit_piece(job.document, job.guide, [](Piece& p) { p.destination = Destination::Knife; });
    const CheckReport r = check(job.document, evaluator());
    QCOMPARE(r.findings[0].title, std::string("Guide would be cut"));
    const auto sheet = cut_sheet(job.document, evaluator());
    QCOMPARE(sheet->pieces.size(), std::size_t{2});
    QCOMPARE(cut_sheet(cured(job.document, r.findings[0].piece, r.findings[0].cures.front(), evaluator()), evaluator())
                 ->pieces.size(),
             std::size_t{1});
  }

  void drawings_are_checked_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<QString>("title");
    QTest::newRow("open-line") << "M10 10H50V50"
                               << "Line is not closed";
    QTest::newRow("crossing-lines") << "M10 10H50V50H10ZM40 40H90V90H40Z"
                                    << "Overlap would be cut";
    QTest::newRow("outside-the-sheet") << "M-10 10H50V50H-10Z"
                                       << "Outside the sheet";
    QTest::newRow("fine-with-counter") << "M10 10H50V50H10ZM20 20V30H30V20Z"
                                       << "";
  }
  void drawings_are_checked() {
    QFETCH(QString, path);
    QFETCH(QString, title);
    const auto found = titles(drawn(qPrintable(path)));
    QCOMPARE(found.empty(), title.isEmpty());
    if (!title.isEmpty())
      QVERIFY(has(found, qPrintable(title)));
  }

  void pieces_outside_are_moved_onto_the_sheet() {
    const Document d = drawn("M-10 380H50V450H-10Z");
    const CheckReport r = check(d, evaluator());
    const Document better = cured(d, r.findings[0].piece, r.findings[0].cures.front(), evaluator());
    const Box ink = evaluator().piece(better, better.pieces[0]->id, Depth::Seat)->ink;
    QVERIFY(std::abs(ink.x0) < 1e-9 && std::abs(ink.y1 - 400) < 1e-9);
  }

  void letterings_that_do_not_fit_are_found() {
    CircleJob job = circle_job("Saltmarsh Boatworks at Upper Creek", 20);
    QVERIFY(has(titles(job.document), "Run meets its own start"));
    job = circle_job("Marigold", 25);
    job.document =
        edit_piece(job.document, job.lettering, [](Piece& p) { p.lettering()->recipe.bend.guide.tops = Tops::Inward; });
    QVERIFY(has(titles(job.document), "Circle is too small"));
    job = circle_job("A本");
    job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Bebas Neue", "Book"};
    });
    QVERIFY(has(titles(job.document), "Letters the face lacks"));
    job = circle_job("A");
    job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"No Face", "Here"};
    });
    QVERIFY(has(titles(job.document), "Face is missing"));
    QVERIFY(has(titles(circle_job(" ").document), "Nothing lettered yet"));
  }

  void hidden_and_switched_off_pieces_are_not_checked() {
    Document d = drawn("M10 10H50V50");
    const PieceId id = d.pieces[0]->id;
    QVERIFY(titles(edit_piece(d, id, [](Piece& p) { p.visible = false; })).empty());
    QVERIFY(titles(edit_piece(d, id, [](Piece& p) { p.destination = Destination::Off; })).empty());
  }

  void inner_lines_are_cut_before_outer_ones() {
    CutSheet sheet;
    sheet.frame = {0, 0, 100, 100};
    sheet.pieces.push_back({1,
                            "ring",
                            {},
                            Destination::Knife,
                            *parse_outline("M0 0H40V40H0ZM10 10V30H30V10ZM15 15H20V20H15ZM60 0H90V40H60Z")});
    const auto order = cut_order(sheet);
    QCOMPARE(order.size(), std::size_t{4});
    const auto at = [&](std::size_t contour) {
      return std::find_if(order.begin(), order.end(), [&](const CutPath& p) { return p.contour == contour; }) -
             order.begin();
    };
    QVERIFY(at(2) < at(1) && at(1) < at(0));
    QCOMPARE(order[static_cast<std::size_t>(at(2))].depth, std::size_t{2});
    QVERIFY(std::abs(at(3) - at(0)) >= 1 && (at(3) == 0 || at(3) == 3)); // a group is finished before the next
  }

  void every_contour_of_a_word_is_cut_once() {
    const auto sheet = cut_sheet(circle_job("Saltmarsh Boatworks").document, evaluator());
    const auto order = cut_order(*sheet);
    QCOMPARE(order.size(), sheet->pieces[0].outline.contours.size());
    std::vector<int> seen(order.size(), 0);
    for (const CutPath& p : order)
      ++seen.at(p.contour);
    for (const int n : seen)
      QCOMPARE(n, 1);
  }
};

QTEST_APPLESS_MAIN(TestCutting)
#include "test_cutting.moc"
