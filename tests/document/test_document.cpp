// Edits, history, release, finished size and measures.
#include "document/arrange.h"
#include "document/copying.h"
#include "document/edits.h"
#include "document/history.h"
#include "document/job_file.h"
#include "document/measure.h"
#include "document/piece_name.h"
#include "document/release.h"
#include "document/resize.h"
#include "document/validity.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Box ink(const Document& d, PieceId id) {
  return evaluator().piece(d, id, Depth::Seat)->ink;
}
Document with_face(Document d, PieceId id, FaceName face) {
  return edit_piece(std::move(d), id, [&](Piece& p) { p.lettering()->recipe.letters()->face = face; });
}

} // namespace

class TestDocument : public QObject {
  Q_OBJECT

private slots:
  // ---- edits
  void pieces_get_fresh_ids_and_edits_leave_the_old_document_alone() {
    const CircleJob job = circle_job("Marigold");
    const Document before = job.document;
    const Document after = edit_piece(before, job.lettering, [](Piece& p) { p.name = std::string("x"); });
    QVERIFY(before == job.document);
    QVERIFY(!(before == after));
    QVERIFY(before.pieces[0] == after.pieces[0]); // what did not change is shared
    QVERIFY(job.guide != job.lettering);
    QVERIFY(edit_piece(before, 999, [](Piece& p) { p.name = "y"; }) == before);
  }

  void deleting_a_guide_leaves_its_letters_where_they_are() {
    const CircleJob job = circle_job("Marigold", 90);
    const Box before = ink(job.document, job.lettering);
    const Removed removed = remove_pieces(job.document, {job.guide});
    QCOMPARE(removed.document.find(job.guide), nullptr);
    QCOMPARE(removed.riders, std::vector<PieceId>{job.lettering});
    QVERIFY(ink(removed.document, job.lettering) == before);
    const Document back = bring_back_guide(removed.document, removed.guides.at(0));
    QVERIFY(ink(back, job.lettering) == before);
    QVERIFY(!back.find(job.lettering)->lettering()->recipe.bend.guide.own);
    const Document straight =
        straighten(removed.document, removed.riders, [&](PieceId id) { return ink(removed.document, id).centre(); });
    QCOMPARE(straight.find(job.lettering)->lettering()->recipe.bend.kind, BendKind::Straight);
  }

  void deleting_guide_and_letters_together_leaves_nothing() {
    const CircleJob job = circle_job("Marigold");
    const Removed removed = remove_pieces(job.document, {job.guide, job.lettering});
    QVERIFY(removed.document.pieces.empty() && removed.guides.empty());
  }

  void moving_a_rider_moves_its_guide_once() {
    CircleJob job = circle_job("Marigold");
    Piece second = *job.document.find(job.lettering);
    const Added added = add_piece(job.document, second);
    const Document moved = move_pieces(added.document, {job.lettering, added.id}, {10, -5});
    QVERIFY(moved.find(job.guide)->guide()->circle()->centre == (Point{310, 195}));
    const Box a = ink(job.document, job.lettering), b = ink(moved, job.lettering);
    QVERIFY(std::abs(b.x0 - a.x0 - 10) < 1e-9 && std::abs(b.y0 - a.y0 + 5) < 1e-9);
    const Document locked = edit_piece(added.document, job.guide, [](Piece& p) { p.locked = true; });
    QVERIFY(move_pieces(locked, {job.lettering}, {10, -5}) == locked);
  }

  void scaling_along_scales_the_ink_exactly() {
    const CircleJob job = circle_job("Marigold");
    const Box before = ink(job.document, job.lettering);
    const Document d = scale_piece(job.document, job.lettering, before.centre(), 1.7, GuideScaling::Along);
    const Box after = ink(d, job.lettering);
    QVERIFY(std::abs(after.width() - 1.7 * before.width()) < 1e-6);
    QVERIFY(std::abs(after.height() - 1.7 * before.height()) < 1e-6);
    QVERIFY(distance(after.centre(), before.centre()) < 1e-6);
  }

  void copies_ride_on_the_copied_guide_with_ids_of_their_own() {
    const CircleJob job = circle_job("Marigold");
    const Inserted both = duplicate_pieces(job.document, {job.guide, job.lettering}, {10, 10});
    const Lettering& copy = *both.document.find(both.ids[1])->lettering();
    QCOMPARE(copy.recipe.bend.guide.guide, both.ids[0]);
    QVERIFY(copy.recipe.letters()->text[0].id !=
            job.document.find(job.lettering)->lettering()->recipe.letters()->text[0].id);
    const Inserted one = duplicate_pieces(job.document, {job.lettering}, {0, 0});
    QCOMPARE(one.document.find(one.ids[0])->lettering()->recipe.bend.guide.guide, job.guide);
  }

  void reorder_puts_a_piece_at_its_place() {
    const CircleJob job = circle_job("Marigold");
    QCOMPARE(reorder_piece(job.document, job.lettering, 0).index_of(job.lettering), std::size_t{0});
    QCOMPARE(reorder_piece(job.document, job.guide, 99).index_of(job.guide), std::size_t{1});
  }

  void blocks_that_double_forty_times_end() {
    for (const bool weld : {true, false}) {
      Document d = circle_job("Kite").document;
      PieceId last = d.pieces.back()->id;
      for (int i = 0; i < 40; ++i) {
        Piece twice;
        twice.content = Lettering{Recipe{PiecesSource{{last, last}}, {}, {}, weld ? Finish{} : Finish{{}}}, {}};
        const Added added = add_piece(d, twice);
        d = added.document, last = added.id;
      }
      const auto whole = evaluator().piece(d, last, Depth::Finish);
      if (weld) // each the same area as what it is made of
        QVERIFY(std::abs(whole->outline->area() -
                         evaluator().piece(d, d.pieces[1]->id, Depth::Finish)->outline->area()) < 1e-3);
      else
        QVERIFY(!whole.ok() && whole.error().message().find("nodes") != std::string::npos);
    }
  }

  void pieces_made_of_pieces_are_gathered_and_cycles_refused() {
    const CircleJob job = circle_job("Marigold");
    Piece sum;
    sum.content = Lettering{Recipe{PiecesSource{{job.lettering}}, {}, {}, {}}, {}};
    Added added = add_piece(job.document, sum);
    const auto whole = evaluator().piece(added.document, added.id, Depth::Finish);
    const auto part = evaluator().piece(added.document, job.lettering, Depth::Finish);
    QVERIFY(std::abs(whole->outline->area() - part->outline->area()) < 1e-6);
    const Document cycle = edit_piece(added.document, added.id,
                                      [&](Piece& p) { p.lettering()->recipe.source = PiecesSource{{added.id}}; });
    const auto refused = evaluator().piece(cycle, added.id, Depth::Finish);
    QVERIFY(!refused.ok() && QString::fromStdString(refused.error().message()).contains("itself"));
    // A source that is deleted leaves a hidden copy, which goes with the last block made from it.
    const Document lost = remove_pieces(added.document, {job.lettering}).document;
    QVERIFY(lost.find(job.lettering) == nullptr && faults(lost).empty());
    QVERIFY(*evaluator().piece(lost, added.id, Depth::Finish)->outline == *whole->outline);
    const std::vector<PieceId> copies = sources_of(lost, added.id);
    QVERIFY(copies.size() == 1 && !lost.find(copies[0])->visible);
    QVERIFY(remove_pieces(lost, {added.id}).document.find(copies[0]) == nullptr);
    Piece drawn;
    drawn.content = Lettering{
        Recipe{OutlineSource{std::make_shared<const Outline>(Outline{{circle_contour({50, 50}, 10)}})}, {}, {}, {}},
        {}};
    added = add_piece(job.document, drawn);
    QVERIFY(std::abs(evaluator().piece(added.document, added.id, Depth::Finish)->outline->area() - 100 * pi) < 0.05);
  }

  // ---- history
  void history_is_a_list_that_can_be_walked() {
    History h;
    std::vector<Document> seen{h.current().document};
    auto random = random_source(2);
    for (int i = 0; i < 20; ++i) {
      Document d = h.current().document;
      d.sheet.width += 1 + static_cast<double>(random() % 5);
      h.push("step " + std::to_string(i), d, {});
      seen.push_back(d);
    }
    for (std::size_t i = seen.size(); i-- > 1;) {
      QCOMPARE(h.undo_name(), "step " + std::to_string(i - 1));
      QVERIFY(h.undo().document == seen[i - 1]);
    }
    QVERIFY(!h.can_undo() && h.is_saved());
    for (std::size_t i = 1; i < seen.size(); ++i)
      QVERIFY(h.redo().document == seen[i]);
    QVERIFY(!h.can_redo());
    (void)h.undo();
    h.push("other", seen[0], {});
    QVERIFY(!h.can_redo());
    QCOMPARE(h.undo_name(), std::string("other"));
  }

  void typing_is_one_step_until_something_else_happens() {
    History h;
    Document d;
    for (int i = 0; i < 5; ++i) {
      d.sheet.width += 1;
      h.push("Change text", d, {}, "text");
    }
    (void)h.undo();
    QVERIFY(!h.can_undo());
    (void)h.redo();
    h.push("Change text", d, {}, "text");
    h.mark_saved();
    d.sheet.width += 1;
    h.push("Change text", d, {}, "text"); // the saved step is never overwritten
    QVERIFY(!h.is_saved());
    (void)h.undo();
    QVERIFY(h.is_saved());
    h.push("other", d, {});
    QVERIFY(!h.is_saved());
    (void)h.undo();
    QVERIFY(h.is_saved());
  }

  // ---- release
  void release_and_reopen_are_each_others_inverse_data() {
    QTest::addColumn<int>("as");
    QTest::addColumn<int>("guide");
    QTest::addColumn<int>("pieces");
    QTest::newRow("one-piece-guide-gone") << 0 << 0 << 1;
    QTest::newRow("one-piece-guide-kept") << 0 << 1 << 1;
    QTest::newRow("by-line") << 1 << 0 << 2;
    QTest::newRow("by-letter") << 2 << 0 << 13;
  }
  void release_and_reopen_are_each_others_inverse() {
    QFETCH(int, as);
    QFETCH(int, guide);
    QFETCH(int, pieces);
    const CircleJob job = circle_job("Marigold\nCreek");
    const auto released =
        release(job.document, job.lettering, evaluator(), static_cast<ReleaseAs>(as), static_cast<GuideAfter>(guide));
    QVERIFY(released.ok());
    QCOMPARE(static_cast<int>(released->pieces.size()), pieces);
    QCOMPARE(released->document.find(job.guide) != nullptr, guide == 1);
    Box box;
    for (const PieceId id : released->pieces) {
      QVERIFY(released->document.find(id)->outline() != nullptr);
      box.add(ink(released->document, id));
    }
    const Box before = ink(job.document, job.lettering);
    QVERIFY(std::abs(box.x0 - before.x0) < 1e-9 && std::abs(box.y1 - before.y1) < 1e-9);
    const auto back = reopen(released->document, released->pieces.back());
    QVERIFY(back.ok());
    QCOMPARE(back->document.pieces.size(), job.document.pieces.size());
    for (const auto& p : job.document.pieces)
      QVERIFY(*back->document.find(p->id) == *p);
  }

  void a_guide_that_others_ride_on_stays() {
    CircleJob job = circle_job("Marigold");
    const Added second = add_piece(job.document, *job.document.find(job.lettering));
    const auto released = release(second.document, job.lettering, evaluator(), ReleaseAs::OnePiece, GuideAfter::Gone);
    QVERIFY(!released->guide_removed && released->document.find(job.guide) != nullptr);
  }

  void a_moved_and_scaled_release_reopens_where_it_went() {
    const CircleJob job = circle_job("Marigold");
    const auto released = release(job.document, job.lettering, evaluator(), ReleaseAs::OnePiece, GuideAfter::Gone);
    const PieceId id = released->pieces[0];
    Document d = move_pieces(released->document, {id}, {30, -20});
    d = scale_piece(d, id, {100, 100}, 1.5, GuideScaling::Along);
    const auto back = reopen(d, id);
    const Box now = ink(back->document, back->lettering), was = ink(d, id);
    QVERIFY(std::abs(now.x0 - was.x0) < 1e-6 && std::abs(now.y1 - was.y1) < 1e-6);
  }

  void nothing_to_release_is_said() {
    const CircleJob job = circle_job("  ");
    QVERIFY(
        QString::fromStdString(
            release(job.document, job.lettering, evaluator(), ReleaseAs::OnePiece, GuideAfter::Gone).error().message())
            .contains("no letters"));
    QVERIFY(!release(job.document, job.guide, evaluator(), ReleaseAs::OnePiece, GuideAfter::Gone).ok());
    QVERIFY(!reopen(job.document, job.lettering).ok());
  }

  // ---- finished size
  void finished_size_is_met_data() {
    QTest::addColumn<int>("side");
    QTest::addColumn<double>("target");
    QTest::addColumn<int>("guide");
    QTest::addColumn<int>("bend");
    QTest::newRow("straight-width") << 0 << 300.0 << 0 << 0;
    QTest::newRow("straight-height") << 1 << 25.4 << 0 << 0;
    QTest::newRow("circle-kept-wider") << 0 << 200.0 << 0 << 2;
    QTest::newRow("circle-kept-narrower") << 0 << 40.0 << 0 << 2;
    QTest::newRow("circle-kept-height") << 1 << 100.0 << 0 << 2;
    QTest::newRow("circle-along") << 0 << 300.0 << 1 << 2;
    QTest::newRow("arc-along") << 0 << 300.0 << 1 << 1;
  }
  void finished_size_is_met() {
    QFETCH(int, side);
    QFETCH(double, target);
    QFETCH(int, guide);
    QFETCH(int, bend);
    CircleJob job = circle_job("Marigold", 120);
    job.document = edit_piece(job.document, job.lettering,
                              [&](Piece& p) { p.lettering()->recipe.bend.kind = static_cast<BendKind>(bend); });
    const auto d = with_ink_size(job.document, job.lettering, static_cast<InkSide>(side), target,
                                 static_cast<GuideScaling>(guide), evaluator());
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    const Box box = ink(*d, job.lettering);
    QVERIFY(std::abs((side == 0 ? box.width() : box.height()) - target) <= 0.001);
    const double radius = d->find(job.guide)->guide()->circle()->radius;
    if (bend == 2)
      QCOMPARE(radius == 120.0, guide == 0);
  }
  // For a hand that moves evened letters are measured as they are set.
  void a_rough_size_is_near_enough() {
    const CircleJob job = circle_job("Marigold");
    const Document even = edit_piece(job.document, job.lettering,
                                     [](Piece& p) { p.lettering()->recipe.spacing.mode = SpacingMode::EvenGaps; });
    const double was = evaluator().piece(even, job.lettering, Depth::Seat)->ink.width();
    const auto near =
        with_ink_size(even, job.lettering, InkSide::Width, 1.2 * was, GuideScaling::Kept, evaluator(), {0.02, true});
    QVERIFY(near.ok());
    const double got = evaluator().piece(*near, job.lettering, Depth::Seat)->ink.width() / was;
    QVERIFY2(std::abs(got - 1.2) < 0.01, qPrintable(QString::number(got)));
  }

  void impossible_sizes_are_refused() {
    const CircleJob job = circle_job("Marigold", 20);
    QVERIFY(!with_ink_size(job.document, job.lettering, InkSide::Width, 0, GuideScaling::Kept, evaluator()).ok());
    QVERIFY(!with_ink_size(job.document, job.lettering, InkSide::Width, -5, GuideScaling::Kept, evaluator()).ok());
    const CircleJob blank = circle_job(" ");
    QVERIFY(!with_ink_size(blank.document, blank.lettering, InkSide::Width, 50, GuideScaling::Kept, evaluator()).ok());
  }

  // ---- measures
  void measures_are_read_as_typed_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<int>("unit");
    QTest::addColumn<double>("mm");
    const int mm = 0, in = 1;
    QTest::newRow("plain-mm") << "12.5" << mm << 12.5;
    QTest::newRow("plain-in") << "2" << in << 50.8;
    QTest::newRow("comma") << "12,5" << mm << 12.5;
    QTest::newRow("half-inch") << "1/2 in" << mm << 12.7;
    QTest::newRow("mixed-inch-mark") << "3 1/8\"" << mm << 79.375;
    QTest::newRow("sum-own-unit") << "12mm+3" << mm << 15.0;
    QTest::newRow("sum-inch-field") << "1in+3" << in << 101.6;
    QTest::newRow("sum-mixed") << "1 in - 5.4 mm" << in << 20.0;
    QTest::newRow("product") << "2*(3+4mm)" << mm << 14.0;
    QTest::newRow("times-x") << "3x4" << mm << 12.0;
    QTest::newRow("division-of-length") << "100mm/4" << mm << 25.0;
    QTest::newRow("fraction") << "3/4" << in << 19.05;
    QTest::newRow("feet-and-inches") << "1' + 6\"" << mm << 457.2;
    QTest::newRow("negative") << "-3" << mm << -3.0;
    QTest::newRow("minus-minus") << "5--3" << mm << 8.0;
    QTest::newRow("points") << "72pt" << mm << 25.4;
    QTest::newRow("metres") << "0.5 m" << mm << 500.0;
    QTest::newRow("centimetres") << "2cm" << in << 20.0;
  }
  void measures_are_read_as_typed() {
    QFETCH(QString, text);
    QFETCH(int, unit);
    QFETCH(double, mm);
    const auto v = parse_measure(text.toStdString(), MeasureKind::Length, static_cast<Unit>(unit));
    QVERIFY2(v.ok(), v.ok() ? "" : v.error().text().c_str());
    QVERIFY2(std::abs(*v - mm) < 1e-9, qPrintable(QString::number(*v, 'g', 12)));
  }
  void nonsense_measures_are_refused_data() {
    QTest::addColumn<QString>("text");
    for (const char* t :
         {"", "  ", "abc", "12 mm mm", "1/0", "2mm*3mm", "3/2mm+", "(3", "3)", "1..2", "5 1/", "12 13", "1/(1-1)"})
      QTest::newRow(t) << t;
  }
  void nonsense_measures_are_refused() {
    QFETCH(QString, text);
    const auto v = parse_measure(text.toStdString(), MeasureKind::Length, Unit::Millimetre);
    QVERIFY2(!v.ok(), qPrintable(text));
    QVERIFY(!v.error().message().empty());
  }
  void angles_and_percents_have_their_own_units() {
    QCOMPARE(*parse_measure("45°", MeasureKind::Angle, Unit::Inch), 45.0);
    QCOMPARE(*parse_measure("360/8", MeasureKind::Angle, Unit::Millimetre), 45.0);
    QCOMPARE(*parse_measure("120 %", MeasureKind::Percent, Unit::Inch), 120.0);
    QVERIFY(!parse_measure("3 mm", MeasureKind::Angle, Unit::Millimetre).ok());
  }
  void lengths_are_shown_short() {
    QCOMPARE(format_length(12.5, Unit::Millimetre), std::string("12.5"));
    QCOMPARE(format_length(25.4, Unit::Inch), std::string("1"));
    QCOMPARE(format_length(-0.001, Unit::Millimetre), std::string("0"));
    QCOMPARE(format_length(1200, Unit::Millimetre), std::string("1200"));
  }
  void colours_go_there_and_back() {
    QCOMPARE(to_hex({0x9b, 0x02, 0xff}), std::string("#9b02ff"));
    QVERIFY(*colour_from_hex("#9b02ff") == (Colour{0x9b, 0x02, 0xff}));
    for (const char* bad : {"", "#12345", "#12345g", "123456", "#1234567"})
      QVERIFY(!colour_from_hex(bad).ok());
  }
  void names_say_what_a_piece_is() {
    const CircleJob job = circle_job("upper\ncreek", 120);
    QCOMPARE(display_name(*job.document.find(job.lettering), Unit::Millimetre), std::string("upper creek"));
    QCOMPARE(display_name(*job.document.find(job.guide), Unit::Millimetre), std::string("Circle r 120"));
    QCOMPARE(display_name(*circle_job(" ").document.pieces[1], Unit::Millimetre), std::string("Empty lettering"));
    const Document d = with_face(job.document, job.lettering, {"No Face", "Here"});
    QCOMPARE(evaluator().piece(d, job.lettering, Depth::Seat).error().code, ErrorCode::NotFound);
  }

  void a_reopened_copy_leaves_the_other_one_alone() {
    const CircleJob job = circle_job("Kite");
    const Released out = *release(job.document, job.lettering, evaluator(), ReleaseAs::ByLetter, GuideAfter::Gone);
    const Inserted twice = duplicate_pieces(out.document, out.pieces, {200, 0});
    const Reopened back = *reopen(twice.document, twice.ids[0]);
    QVERIFY(faults(back.document).empty());
    for (const PieceId id : out.pieces)
      QVERIFY(back.document.find(id) != nullptr);
    const auto ink = [](const Document& d, PieceId id) { return evaluator().piece(d, id, Depth::Seat)->ink; };
    const Box was = ink(job.document, job.lettering), now = ink(back.document, back.lettering);
    QVERIFY(std::abs(now.x0 - was.x0 - 200) < 1e-6 && std::abs(now.y0 - was.y0) < 1e-6);
    // And then the first: each with its own guide.
    const Reopened both = *reopen(back.document, out.pieces[0]);
    QVERIFY(faults(both.document).empty());
    QVERIFY(ink(both.document, both.lettering) == was && ink(both.document, back.lettering) == now);
  }

  void letters_pasted_into_another_job_bring_their_guide() {
    const CircleJob from = circle_job("Tide", 100);
    Document other = add_piece({}, new_circle({50, 50}, 40)).document; // the same id, another circle
    const Document part =
        *read_job(write_job(sub_document(from.document, {from.lettering}, CopyGuides::Along), bundled_faces()));
    const Inserted pasted = insert_part(other, part, CopyInto::OtherJob, {0, 0});
    QVERIFY(faults(pasted.document).empty());
    const auto a = evaluator().piece(from.document, from.lettering, Depth::Seat),
               b = evaluator().piece(pasted.document, pasted.ids.back(), Depth::Seat);
    QVERIFY(a->ink == b->ink);
    QCOMPARE(circle_under(pasted.document, *pasted.document.find(pasted.ids.back())->lettering()).radius, 100.0);
  }
};

QTEST_APPLESS_MAIN(TestDocument)
#include "test_document.moc"
