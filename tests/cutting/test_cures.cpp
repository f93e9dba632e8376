// Findings on runs that do not suit their guide, and what one click on each cure does.
#include "cutting/cures.h"

#include "support/every_guide.h"
#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

struct Job {
  Document document;
  PieceId guide = 0, lettering = 0;
};
Job job_on(const GuideShape& shape, const std::string& text, double size) {
  Job job;
  Document d;
  d.sheet = {2000, 2000};
  const Added guide = add_piece(d, new_guide(transformed(shape, Similarity::move({900, 900}))));
  job.guide = guide.id;
  job.document = guide.document;
  Piece piece = new_lettering(job.document, from_utf8(text), {0, 0});
  piece.lettering()->recipe.letters()->face = {"Lato", "Regular"};
  piece.lettering()->recipe.letters()->size = size;
  ride_on(*piece.lettering(), job.guide, **evaluator().guide(job.document, job.guide));
  const Added added = add_piece(job.document, piece);
  job.document = added.document;
  job.lettering = added.id;
  return job;
}
std::optional<Finding> finding(const Document& d, FindingKind kind) {
  for (const Finding& f : check(d, evaluator()).findings)
    if (f.kind == kind)
      return f;
  return std::nullopt;
}
bool offers(const Finding& f, Cure cure) {
  return std::find(f.cures.begin(), f.cures.end(), cure) != f.cures.end();
}
SeatedText text_of(const Document& d, PieceId id) {
  return *evaluator().piece(d, id, Depth::Seat)->seated;
}

} // namespace

class TestCures : public QObject {
  Q_OBJECT

private slots:
  void a_run_that_is_too_long_is_cured_on_every_guide_data() {
    QTest::addColumn<int>("guide");
    QTest::addColumn<int>("cure");
    const auto guides = every_guide();
    for (std::size_t i = 0; i < guides.size(); ++i)
      for (const Cure cure : {Cure::ShrinkLetters, Cure::Tighten, Cure::LengthenGuide, Cure::SpreadOver})
        QTest::addRow("%s-%s", guides[i].first, cure_name(cure).text.data())
            << static_cast<int>(i) << static_cast<int>(cure);
  }
  void a_run_that_is_too_long_is_cured_on_every_guide() {
    QFETCH(int, guide);
    QFETCH(int, cure);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(guide)].second;
    const double whole = line_of(shape)->curve->length();
    // A text about 2 % too long: then all four cures help.
    const std::string text = "Saltmarsh Boatworks at Upper Creek by the lane";
    const Job straight = job_on(LineGuide{{0, 0}, {9000, 0}}, text, 10);
    const double at_ten = text_of(straight.document, straight.lettering).used_length;
    const Job job = job_on(shape, text, 10 * whole * 1.02 / at_ten);
    const bool closed = text_of(job.document, job.lettering).guide->closed();
    const auto found = finding(job.document, closed ? FindingKind::MeetsOwnStart : FindingKind::LongerThanGuide);
    QVERIFY(found.has_value());
    QVERIFY(found->piece == job.lettering && !found->where.empty());
    const Cure by = static_cast<Cure>(cure);
    if (!offers(*found, by)) { // corners make a run longer than its letters: then tightening may not be enough
      QVERIFY(by == Cure::Tighten || by == Cure::SpreadOver);
      QVERIFY(!line_of(shape)->curve->corners().empty());
      return;
    }
    const Document better = *cured(job.document, job.lettering, by, evaluator());
    const SeatedText after = text_of(better, job.lettering);
    if (!line_of(shape)->curve->corners().empty() && (by == Cure::Tighten || by == Cure::SpreadOver)) {
      // Room left at corners is not the cure's to give: it helps as far as it can.
      QVERIFY(after.overflow < text_of(job.document, job.lettering).overflow);
    } else {
      QVERIFY2(after.overflow <= 1e-6, qPrintable(QString::number(after.overflow)));
      QVERIFY(std::none_of(after.letters.begin(), after.letters.end(),
                           [](const PlacedLetter& l) { return l.beyond && !l.blank(); }));
    }
    const Recipe& recipe = better.find(job.lettering)->lettering()->recipe;
    const Recipe& before = job.document.find(job.lettering)->lettering()->recipe;
    QCOMPARE(recipe.letters()->size < before.letters()->size, by == Cure::ShrinkLetters);
    QCOMPARE(recipe.spacing.letter < before.spacing.letter, by == Cure::Tighten);
    QCOMPARE(*better.find(job.guide) == *job.document.find(job.guide), by != Cure::LengthenGuide);
    QCOMPARE(recipe.spacing.mode == SpacingMode::Spread, by == Cure::SpreadOver);
  }

  void a_run_much_too_long_is_not_offered_bunching() {
    const Job job = job_on(CircleGuide{{0, 0}, 60, 0}, "Saltmarsh Boatworks at Upper Creek by the lane", 30);
    const auto found = finding(job.document, FindingKind::MeetsOwnStart);
    QVERIFY(found && offers(*found, Cure::ShrinkLetters) && offers(*found, Cure::LengthenGuide));
    QVERIFY(!offers(*found, Cure::Tighten) && !offers(*found, Cure::SpreadOver));
    const Document small = *cured(job.document, job.lettering, Cure::ShrinkLetters, evaluator());
    QVERIFY(!finding(small, FindingKind::MeetsOwnStart));
    QVERIFY(small.find(job.lettering)->lettering()->recipe.letters()->size > 8); // shrunk, not to nothing
    QVERIFY(
        !finding(*cured(job.document, job.lettering, Cure::LengthenGuide, evaluator()), FindingKind::MeetsOwnStart));
  }

  void lengthened_guides_are_so_much_longer_data() {
    QTest::addColumn<int>("guide");
    const auto guides = every_guide();
    for (std::size_t i = 0; i < guides.size(); ++i)
      QTest::newRow(guides[i].first) << static_cast<int>(i);
  }
  void lengthened_guides_are_so_much_longer() {
    QFETCH(int, guide);
    const GuideShape shape = every_guide()[static_cast<std::size_t>(guide)].second;
    const double whole = line_of(shape)->curve->length();
    const double got = line_of(lengthened(shape, whole, 37))->curve->length();
    QVERIFY2(std::abs(got - whole - 37) < 3, qPrintable(QString::number(got - whole)));
  }

  void windings_that_touch_are_found_and_cured() {
    Job job = job_on(SpiralGuide{{0, 0}, 24, 17, 5, 0, Winding::Clockwise},
                     "Gypsy jqy lighthouse keepers fly by day and jolly fishing folk go by in grey light", 17);
    const auto found = finding(job.document, FindingKind::WindingsTouch);
    QVERIFY(found && offers(*found, Cure::ShrinkLetters) && !found->where.empty());
    QVERIFY(
        !finding(*cured(job.document, job.lettering, Cure::ShrinkLetters, evaluator()), FindingKind::WindingsTouch));
    job.document =
        edit_piece(job.document, job.lettering, [](Piece& p) { p.lettering()->recipe.bend.guide.fit_height = true; });
    QVERIFY(!finding(job.document, FindingKind::WindingsTouch));
  }

  void letters_driven_together_by_a_concave_corner_are_found() {
    Job job = job_on(StarGuide{{0, 0}, 300, 120, 5, 0}, "HHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHH", 40);
    job.document =
        edit_piece(job.document, job.lettering, [](Piece& p) { p.lettering()->recipe.bend.corners = Corners::Over; });
    QVERIFY(finding(job.document, FindingKind::LettersCollide));
    const Job tiny = job_on(StarGuide{{0, 0}, 60, 40, 9, 0}, "WWW", 60);
    QVERIFY(finding(tiny.document, FindingKind::StraddlesCorner));
  }

  void folding_and_far_leaning_letters_are_found() {
    Job job = job_on(CircleGuide{{0, 0}, 30, 0}, "Creek", 40);
    job.document = edit_piece(job.document, job.lettering, [](Piece& p) {
      p.lettering()->recipe.bend.stance = Stance::Flow;
      p.lettering()->recipe.bend.guide.tops = Tops::Inward;
    });
    QVERIFY(finding(job.document, FindingKind::FoldsOver));
    Job lean = job_on(CircleGuide{{0, 0}, 60, 0}, "Saltmarsh Boatworks", 15);
    lean.document =
        edit_piece(lean.document, lean.lettering, [](Piece& p) { p.lettering()->recipe.bend.stance = Stance::Lean; });
    QVERIFY(finding(lean.document, FindingKind::LeansFar));
  }

  void guides_that_cannot_carry_letters_are_a_finding_data() {
    QTest::addColumn<int>("kind");
    QTest::newRow("no-length") << 0;
    QTest::newRow("gone") << 1;
    QTest::newRow("lines-too-deep") << 2;
    QTest::newRow("no-room-to-fit") << 3;
  }
  void guides_that_cannot_carry_letters_are_a_finding() {
    QFETCH(int, kind);
    Job job = job_on(CircleGuide{{0, 0}, 60, 0}, kind == 2 ? "One\nTwo\nThree\nFour" : "Creek", 20);
    job.document = edit_piece(job.document, job.guide, [&](Piece& p) {
      if (kind == 0)
        p.guide()->shape = LineGuide{{5, 5}, {5, 5}};
      if (kind == 1)
        p.guide()->shape = OutlineGuide{999, 0, {}};
      if (kind == 3)
        p.guide()->shape = BandGuide{{0, 0}, 60, 66, 4, 0};
    });
    job.document = edit_piece(job.document, job.lettering,
                              [&](Piece& p) { p.lettering()->recipe.bend.guide.fit_height = kind == 3; });
    const auto found = finding(job.document, FindingKind::CannotBeSet);
    QVERIFY(found.has_value());
    QVERIFY(english(found->detail).size() > 25);
    QCOMPARE(found->weight, Weight::MustFix);
  }

  void cures_that_can_do_nothing_change_nothing() {
    const Job job = job_on(CircleGuide{{0, 0}, 200, 0}, "Creek", 20);
    QVERIFY(!cured(job.document, 999, Cure::ShrinkLetters, evaluator()).ok());
    QVERIFY(*cured(job.document, job.lettering, Cure::ShrinkLetters, evaluator()) == job.document);
    QVERIFY(*cured(job.document, job.lettering, Cure::LengthenGuide, evaluator()) == job.document);
  }
};

QTEST_APPLESS_MAIN(TestCures)
#include "test_cures.moc"
