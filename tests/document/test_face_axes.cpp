// Axes of a variable face in a job, and the length of a run by the face's width.
#include "cutting/check.h"
#include "document/face_axes.h"
#include "document/job_file.h"
#include "document/validity.h"
#include "geom/path_data.h"
#include "reference/python.h"
#include "support/fixtures.h"

#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

struct Job {
  Document document;
  PieceId lettering = 0;
};

} // namespace

class TestFaceAxes : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() {
    QVERIFY(run_python("make_variable_face.py", {dir_.path()}));
    faces_.emplace(dir_.path().toStdString(), false);
    evaluator_.emplace(*faces_);
  }

  void a_run_gets_its_length_by_the_face_s_width_data() {
    QTest::addColumn<int>("guide");
    QTest::addColumn<int>("spacing");
    QTest::addColumn<double>("share"); // of the length it has
    const char* guides[]{"straight", "circle", "arc", "drawn"};
    const char* spacings[]{"as set", "evened"};
    for (int g = 0; g < 4; ++g)
      for (int s = 0; s < 2; ++s)
        for (const double share : {1.0, 0.93, 1.11, 0.55, 1.9})
          QTest::addRow("%s, %s, %g", guides[g], spacings[s], share) << g << s << share;
  }
  void a_run_gets_its_length_by_the_face_s_width() {
    QFETCH(int, guide);
    QFETCH(int, spacing);
    QFETCH(double, share);
    Job job = lettered("HIxO xHOI OxH", guide);
    job.document = edit_piece(job.document, job.lettering, [&](Piece& p) {
      if (spacing == 1)
        p.lettering()->recipe.spacing.mode = SpacingMode::EvenGaps;
    });
    const double was = length_of(job.document, job.lettering), wanted = was * share;
    const Result<WidthFit> fit = fit_by_width(job.document, job.lettering, wanted, *evaluator_);
    QVERIFY2(fit.ok(), fit ? "" : fit.error().text().c_str());
    const double now = length_of(fit->document, job.lettering);
    QVERIFY2(std::abs(now - wanted) <= 0.01, qPrintable(QString("%1 of %2").arg(now).arg(wanted)));
    const Letters &before = letters_of(job), &after = *fit->document.find(job.lettering)->lettering()->recipe.letters();
    const bool beyond = share < 0.6 || share > 1.5; // narrowest 77 %, widest 121 % of the made-up face
    QCOMPARE(fit->at_end, beyond);
    QCOMPARE(fit->rest == RestBy::Size, after.size != before.size);
    QVERIFY(beyond || after.size == before.size);
    const FaceAxis width = *axis_of(after, *faces_, width_axis);
    QCOMPARE(fit->width, axis_value(after, width));
    QVERIFY(axis_value(after, *axis_of(after, *faces_, weight_axis)) == 400); // strokes keep their weight
    if (!beyond) // less than a font unit of each letter is left to spacing
      QVERIFY2(std::abs(fit->rest_mm) < 13 * after.size / 700, qPrintable(QString::number(fit->rest_mm)));
  }
  void what_can_t_be_fitted_is_refused() {
    Job job = lettered("HIxO", 1);
    QVERIFY(!fit_by_width(job.document, job.lettering, 0, *evaluator_));
    QVERIFY(!fit_by_width(job.document, job.lettering, std::nan(""), *evaluator_));
    QVERIFY(!fit_by_width(job.document, 99, 100, *evaluator_));
    std::stop_source stop;
    stop.request_stop();
    QVERIFY(fit_by_width(job.document, job.lettering, 100, *evaluator_, stop.get_token()).error().code ==
            ErrorCode::Cancelled);
    const auto refused = [&](auto change) {
      const Document changed = edit_piece(job.document, job.lettering, change);
      const auto fit = fit_by_width(changed, job.lettering, 100, *evaluator_);
      return !fit.ok() && !fit.error().message().empty();
    };
    QVERIFY(refused([](Piece& p) { p.locked = true; }));
    QVERIFY(refused([](Piece& p) { p.lettering()->recipe.letters()->text.clear(); }));
    QVERIFY(refused([](Piece& p) { p.lettering()->recipe.letters()->face = {"Nowhere", "Regular"}; }));
    QVERIFY(refused([](Piece& p) {
      p.lettering()->recipe.spacing.mode = SpacingMode::Spread;
      p.lettering()->recipe.spacing.over = SpreadOver::Guide;
    }));
  }

  void a_run_that_is_too_long_is_narrowed_first() {
    Job job = lettered("HIxO xHOI OxH", 1);
    const double length = length_of(job.document, job.lettering);
    job.document = edit_piece(job.document, job.document.pieces[0]->id, [&](Piece& p) {
      std::get<CircleGuide>(p.guide()->shape).radius = length * 0.95 / (2 * pi);
    });
    const auto finding = [&](const Document& d) {
      for (const Finding& f : check(d, *evaluator_).findings)
        if (f.kind == FindingKind::MeetsOwnStart)
          return std::optional(f);
      return std::optional<Finding>();
    };
    const auto found = finding(job.document);
    QVERIFY(found && !found->cures.empty() && found->cures.front() == Cure::NarrowFace);
    const Document better = *cured(job.document, job.lettering, Cure::NarrowFace, *evaluator_);
    QVERIFY(!finding(better));
    QCOMPARE(better.find(job.lettering)->lettering()->recipe.letters()->size, letters_of(job).size);
  }

  void axes_live_in_the_job() {
    Job job = lettered("HIxO", 0);
    const FaceAxis weight = *axis_of(letters_of(job), *faces_, weight_axis),
                   width = *axis_of(letters_of(job), *faces_, width_axis);
    job.document = edit_piece(job.document, job.lettering, [&](Piece& p) {
      Letters& l = *p.lettering()->recipe.letters();
      set_axis(l, weight, 612.5);
      set_axis(l, width, 9000); // the axis ends at 130
    });
    QVERIFY((letters_of(job).face.axes == std::vector<AxisValue>{{"wdth", 130}, {"wght", 612.5}}));
    QVERIFY(faults(job.document).empty());
    const std::string bytes = write_job(job.document, *faces_);
    const Result<Document> read = read_job(bytes);
    QVERIFY(read.ok());
    QVERIFY(*read->find(job.lettering) == *job.document.find(job.lettering));
    // Where the face is not installed the job's own shapes stand in, the very ones.
    FaceLibrary elsewhere("", false);
    elsewhere.set_carried(*read->carried);
    const DocumentEvaluator there(elsewhere);
    const auto a = evaluator_->piece(job.document, job.lettering, Depth::Seat),
               b = there.piece(*read, job.lettering, Depth::Seat);
    QVERIFY(a.ok() && b.ok() && b->seated->spaced->set->carried_face);
    QVERIFY(a->ink == b->ink && a->ink.width() > 0);
    QVERIFY(axes_of(letters_of(job), elsewhere).empty());
    // Back to the style's own values nothing is kept of them.
    const Document plain = edit_piece(job.document, job.lettering, [&](Piece& p) {
      Letters& l = *p.lettering()->recipe.letters();
      set_axis(l, weight, weight.usual), set_axis(l, width, width.usual);
    });
    QVERIFY(plain.find(job.lettering)->lettering()->recipe.letters()->face.axes.empty());
    for (const std::vector<AxisValue>& bad : {std::vector<AxisValue>{{"wg", 1}},
                                              {{"wght", std::nan("")}},
                                              {{"wght", 300}, {"wdth", 90}},
                                              {{"wght", 300}, {"wght", 400}}})
      QVERIFY(!faults(edit_piece(job.document, job.lettering, [&](Piece& p) {
                 p.lettering()->recipe.letters()->face.axes = bad;
               })).empty());
  }

private:
  Job lettered(const std::string& text, int guide) {
    Job job;
    PieceId line = 0;
    job.document.sheet = {2000, 2000};
    if (guide > 0) {
      GuideShape shape = CircleGuide{{800, 800}, 300, 0};
      if (guide == 2)
        shape = ArcGuide{{800, 800}, 500, -60, 170};
      if (guide == 3)
        shape = PathGuide{parse_outline("M200 700C500 400 800 1000 1100 700S1500 700 1900 800")->contours[0]};
      const Added added = add_piece(job.document, new_guide(shape));
      job.document = added.document, line = added.id;
    }
    Piece piece = new_lettering(job.document, from_utf8(text), {300, 300});
    piece.lettering()->recipe.letters()->face = {"Creek Flex", "Regular"};
    piece.lettering()->recipe.letters()->size = 40;
    if (line != 0)
      ride_on(*piece.lettering(), line, **evaluator_->guide(job.document, line));
    const Added added = add_piece(job.document, piece);
    return {added.document, added.id};
  }
  static const Letters& letters_of(const Job& job) {
    return *job.document.find(job.lettering)->lettering()->recipe.letters();
  }
  // Along the guide, or of the ink.
  double length_of(const Document& d, PieceId id) {
    const auto r = evaluator_->piece(d, id, Depth::Seat);
    return d.find(id)->lettering()->recipe.bend.kind == BendKind::Straight ? r->ink.width() : r->seated->used_length;
  }

  QTemporaryDir dir_;
  std::optional<FaceLibrary> faces_;
  std::optional<DocumentEvaluator> evaluator_;
};

QTEST_APPLESS_MAIN(TestFaceAxes)
#include "test_face_axes.moc"
