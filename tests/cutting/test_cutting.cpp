#include "cutting/check.h"
#include "cutting/cut_order.h"
#include "cutting/legibility.h"
#include "geom/path_data.h"
#include "reference/hb_shape.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

std::vector<std::string> titles(const Document& d) {
  std::vector<std::string> out;
  for (const Finding& f : check(d, evaluator()).findings)
    out.emplace_back(finding_title(f.kind));
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
  void layers_of_one_colour_over_one_another_are_found() {
    CircleJob job = circle_job("Tide");
    const Colour own = job.document.find(job.lettering)->colour, other{0x99, 0x2c, 0x45};
    const auto with = [&](const FinishAction& what) {
      const auto found = titles(edit_piece(job.document, job.lettering, [&](Piece& p) {
        p.finish()->steps.push_back({what, true});
      }));
      return std::count(found.begin(), found.end(), finding_title(FindingKind::PiecesCross).text);
    };
    QCOMPARE(with(BorderStep{.rings = {{.distance = 2, .colour = own}}}), 1);
    QCOMPARE(with(BorderStep{.rings = {{.distance = 2, .colour = own}}, .taken_out = true, .overlap = 0.3}), 1);
    QCOMPARE(with(BorderStep{.rings = {{.distance = 2, .colour = other}}}), 0);
    QCOMPARE(with(ShadeStep{.depth = 4, .apart = true, .gap = 1, .colour = own}), 0); // clear of the letters
  }

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
    QCOMPARE(std::string(finding_title(r.findings[0].kind)), std::string("Overlap would be cut"));
    QVERIFY(english(r.findings[0].detail).find("joins not welded") != std::string::npos);
    QVERIFY(!r.findings[0].where.empty());
    const Document better = *cured(job.document, r.findings[0].piece, r.findings[0].cures.front(), evaluator());
    QCOMPARE(check(better, evaluator()).to_look_at(), std::size_t{0});
  }

  void joins_that_come_apart_are_found_and_kept_in_one_action() {
    CircleJob job = circle_job("Tidewater", 66);
    job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
      p.lettering()->recipe.letters()->size = 22;
    });
    const CheckReport r = check(job.document, evaluator());
    QCOMPARE(std::string(finding_title(r.findings[0].kind)), std::string("Joins come apart"));
    QVERIFY(english(r.findings[0].detail).find("e–w") != std::string::npos);
    QCOMPARE(r.findings[0].cures.front(), Cure::KeepJoined);
    const Document better = *cured(job.document, job.lettering, Cure::KeepJoined, evaluator());
    QCOMPARE(check(better, evaluator()).to_look_at(), std::size_t{0});
    // Capitals driven together inside a circle are evened.
    CircleJob inside = circle_job("LOW TIDE CREEK", 88);
    inside.document = edit_piece(inside.document, inside.lettering, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Cabin", "Bold"};
      p.lettering()->recipe.letters()->size = 22;
      p.lettering()->recipe.bend.guide.tops = Tops::Inward;
    });
    const CheckReport crowded = check(inside.document, evaluator());
    QCOMPARE(std::string(finding_title(crowded.findings[0].kind)), std::string("Letters run into each other"));
    QCOMPARE(crowded.findings[0].cures.front(), Cure::EvenGaps);
    QCOMPARE(check(*cured(inside.document, inside.lettering, Cure::EvenGaps, evaluator()), evaluator()).to_look_at(),
             std::size_t{0});
  }

  void gaps_under_the_least_one_are_found() {
    CircleJob job = circle_job("HIDE", 120);
    const auto with_least = [&](double mm) {
      return titles(
          edit_piece(job.document, job.lettering, [&](Piece& p) { p.lettering()->recipe.spacing.least_gap = mm; }));
    };
    QVERIFY(!has(with_least(0.5), "Gaps too narrow to weed"));
    QVERIFY(has(with_least(9), "Gaps too narrow to weed"));
    job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
      Letters& l = *p.lettering()->recipe.letters();
      std::uint64_t next = 900;
      l.text = retyped(l.text, U"HIDE\nHIDE", next);
      l.line_pitch = 1.1;
      p.lettering()->recipe.bend.lines = LinesGo::Above;
    });
    QVERIFY(has(with_least(5), "Lines or windings too close to weed"));
    QVERIFY(!has(with_least(2), "Lines or windings too close to weed"));
  }

  // Widths and heights of I and O by hb-shape; the other figures by hand.
  void legibility_compares_with_the_standard() {
    const FaceName name{"Cabin", "Regular"};
    const QString font = QString::fromStdString(face_file("cabin/Cabin-Regular.otf"));
    const auto i = hb_extents(font, "I"), o = hb_extents(font, "O");
    Recipe r;
    Letters letters = letters_of("HIH\nHI", name, 40, SizeBy::Capitals);
    letters.line_pitch = 1.5;
    r.source = letters;
    const auto e = evaluate(r, {}, nullptr, bundled_faces(), {Depth::Seat, nullptr, {}});
    const std::vector<Gap> gaps = measure_gaps(*e->seated);
    const auto list = legibility(letters, *e->seated, gaps, **bundled_faces().face(name));
    QCOMPARE(list.size(), std::size_t{5});
    QVERIFY(std::abs(list[0].low - o.width / i.height) < 1e-6);
    QVERIFY(std::abs(list[1].low - i.width / i.height) < 1e-6); // a bar all the way
    const double height = 40 * i.height / hb_extents(font, "H").height;
    QVERIFY(std::abs(list[2].low - std::min(gaps[0].closest.distance, gaps[2].closest.distance) / height) < 1e-9);
    QVERIFY(std::abs(list[3].low - 60 / height) < 1e-6);
    QVERIFY(std::abs(list[4].low - height / 25.4 * 3048) < 0.01); // an inch for ten feet
    for (const LegibilityReading& reading : list)
      QVERIFY(reading.holds());
    // A light narrow face spaced tight on a wide pitch holds none of the four.
    letters.face = {"Bebas Neue", "Light"};
    letters.line_pitch = 2;
    letters.width = 0.8;
    r.source = letters;
    r.spacing.letter = -3;
    const auto light = evaluate(r, {}, nullptr, bundled_faces(), {Depth::Seat, nullptr, {}});
    for (const LegibilityReading& reading :
         legibility(letters, *light->seated, measure_gaps(*light->seated), **bundled_faces().face(letters.face)))
      QCOMPARE(reading.holds(), reading.most == 0);
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

  void what_the_engine_gave_up_is_told() {
    WeldReport report;
    QVERIFY(!fallbacks(report, "Kite"));
    report.snapped_joins = 3, report.worst_move = 0.0004;
    QVERIFY(!fallbacks(report, "Kite"));
    report.worst_move = 0.0021;
    QCOMPARE(english(fallbacks(report, "Kite")->detail), std::string("Kite: 3 joins of the weld, by up to 0.002 mm"));
    report.polyline_contours = 1;
    QVERIFY(fallbacks(report, "Kite")->weight == Weight::Look);
  }

  void a_heap_of_pieces_is_told_by_piece() {
    const Document one = drawn("M10 10H50V50H10Z");
    Document d = one;
    constexpr std::size_t many = 300;
    for (std::size_t i = 1; i < many; ++i)
      d = add_piece(d, *one.pieces[0]).document;
    const CheckReport r = check(d, evaluator());
    std::size_t crossed = 0, twice = 0, with_others = 0;
    for (const Finding& f : r.findings) {
      crossed += f.kind == FindingKind::PiecesCross ? 1 : 0;
      twice += f.kind == FindingKind::CutTwice ? 1 : 0;
      with_others += english(f.detail).find("and others") != std::string::npos ? 1 : 0;
    }
    QCOMPARE(crossed, many - 1);
    QCOMPARE(twice, many - 1);
    QCOMPARE(with_others, many - 4); // crossed by more than three
  }

  void a_guide_set_to_the_knife_is_found_and_cured() {
    CircleJob job = circle_job("Marigold");
    job.document = edit_piece(job.document, job.guide, [](Piece& p) { p.destination = Destination::Knife; });
    const CheckReport r = check(job.document, evaluator());
    QCOMPARE(std::string(finding_title(r.findings[0].kind)), std::string("Guide would be cut"));
    const auto sheet = cut_sheet(job.document, evaluator());
    QCOMPARE(sheet->pieces.size(), std::size_t{2});
    QCOMPARE(cut_sheet(*cured(job.document, r.findings[0].piece, r.findings[0].cures.front(), evaluator()), evaluator())
                 ->pieces.size(),
             std::size_t{1});
  }

  // A guide that nothing rides on and that is set to the knife is a shape: it is looked at like any outline.
  void a_shape_is_checked_like_an_outline() {
    Added shape = add_piece({}, new_circle({300, 200}, 50));
    const auto as = [&](GuideShape of) {
      return check(edit_piece(shape.document, shape.id,
                              [&](Piece& p) {
                                p.destination = Destination::Knife;
                                p.guide()->shape = std::move(of);
                              }),
                   evaluator());
    };
    QVERIFY(as(CircleGuide{{300, 200}, 50}).findings.empty());
    const CheckReport open = as(LineGuide{{100, 100}, {200, 100}});
    QCOMPARE(std::string(finding_title(open.findings.at(0).kind)), std::string("Line is not closed"));
    const CheckReport out = as(CircleGuide{{10, 200}, 50});
    QVERIFY(out.findings.at(0).kind == FindingKind::OutsideSheet);
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
    const Document better = *cured(d, r.findings[0].piece, r.findings[0].cures.front(), evaluator());
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

  void a_line_that_crosses_itself_is_found_and_cured() {
    Piece eight;
    eight.content =
        OutlinePiece{std::make_shared<const Outline>(*parse_outline("M50 50C110 10 110 90 50 50C-10 10 -10 90 50 50Z")),
                     Finish{{}},
                     {},
                     {}};
    Piece bow = eight, sound = eight, curl = eight, drop = eight;
    curl.content = OutlinePiece{// one curve that loops, and one whose ends meet without
                                std::make_shared<const Outline>(*parse_outline("M30 130C150 230 -50 230 70 130Z")),
                                Finish{{}},
                                {},
                                {}};
    drop.content = OutlinePiece{
        std::make_shared<const Outline>(*parse_outline("M200 130C280 230 120 230 200 130Z")), Finish{{}}, {}, {}};
    bow.content = OutlinePiece{
        std::make_shared<const Outline>(*parse_outline("M210 20L290 80L290 20L210 80Z")), Finish{{}}, {}, {}};
    sound.content =
        OutlinePiece{std::make_shared<const Outline>(Outline{{circle_contour({400, 60}, 30)}}), Finish{{}}, {}, {}};
    Document d;
    for (const Piece& p : {eight, bow, sound, curl, drop})
      d = add_piece(std::move(d), p).document;
    const CheckReport r = check(d, evaluator());
    std::vector<PieceId> found;
    for (const Finding& f : r.findings)
      if (f.kind == FindingKind::CrossesItself)
        found.push_back(f.piece);
    QCOMPARE(found, (std::vector<PieceId>{1, 2, 4}));
    Document better = d;
    for (const PieceId id : found)
      better = *cured(better, id, Cure::SwitchWeldOn, evaluator());
    for (const Finding& f : check(better, evaluator()).findings)
      QVERIFY(f.kind != FindingKind::CrossesItself);
  }
};

QTEST_APPLESS_MAIN(TestCutting)
#include "test_cutting.moc"
