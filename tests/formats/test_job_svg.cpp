// A job in an SVG opens as the same job, and is a drawing that others read; what was changed in it is told.
#include "document/edits.h"
#include "document/job_file.h"
#include "formats/job_svg.h"
#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QDir>
#include <QFile>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Document demo(const QString& name) {
  QFile file(FRELM_SOURCE_DIR "/assets/demo/" + name);
  if (!file.open(QIODevice::ReadOnly))
    qFatal("no %s", qPrintable(name));
  return *read_job(file.readAll().toStdString());
}

std::string written(const Document& document) {
  const DocumentEvaluator evaluator(bundled_faces());
  return write_job_svg(document, evaluator);
}

} // namespace

class TestJobSvg : public QObject {
  Q_OBJECT

private slots:
  void the_same_job_comes_back_data() {
    QTest::addColumn<QString>("name");
    for (const QString& name : QDir(FRELM_SOURCE_DIR "/assets/demo").entryList({"*.frelm"}))
      QTest::newRow(qPrintable(name)) << name;
  }
  void the_same_job_comes_back() {
    QFETCH(QString, name);
    const Document document = demo(name);
    const std::string svg = written(document);
    const auto inside = job_in_svg(svg);
    QVERIFY(inside && !inside->drawing_changed);
    const Result<Document> back = read_job(inside->job);
    QVERIFY2(back.ok(), back.ok() ? "" : back.error().text().c_str());
    QVERIFY(*back == document);
    QCOMPARE(written(*back), svg);
    // As it is seen: no mirroring, in front what is in front.
    const DocumentEvaluator evaluator(bundled_faces());
    const CutSheet seen = *cut_sheet(document, evaluator, {}, SheetSide::Seen);
    const Result<Drawing> drawing = read_svg(svg);
    QVERIFY(drawing.ok());
    std::size_t at = 0;
    for (const CutPiece& p : seen.pieces) {
      if (p.outline.empty())
        continue;
      QVERIFY(at < drawing->shapes.size() && drawing->shapes[at].colour == p.colour);
      const Box a = drawing->shapes[at].outline.bounds(), b = p.outline.bounds();
      QVERIFY(std::abs(a.x0 - b.x0) < 1e-4 && std::abs(a.y1 - b.y1) < 1e-4);
      ++at;
    }
    QCOMPARE(at, drawing->shapes.size());
  }

  void words_of_any_kind_stay() {
    Document d = demo("saltmarsh-badge.frelm");
    d = edit_piece(d, d.pieces.front()->id,
                   [](Piece& p) { p.name = "]]> <script>&amp; \"q\" \xC3\xA6 \xF0\x9F\x9A\xA4 -- <!-- </job>"; });
    const auto inside = job_in_svg(written(d));
    QVERIFY(inside.has_value());
    QVERIFY(*read_job(inside->job) == d);
  }

  void what_was_changed_elsewhere_is_told_data() {
    QTest::addColumn<QString>("was");
    QTest::addColumn<QString>("becomes");
    QTest::addColumn<bool>("changed");
    QTest::newRow("moved") << "<g fill="
                           << "<g transform='translate(1 0)' fill=" << true;
    QTest::newRow("sized") << "<g fill="
                           << "<g transform='scale(1.01)' fill=" << true;
    QTest::newRow("a-shape-more") << "</svg>"
                                  << "<rect width='5' height='5'/></svg>" << true;
    QTest::newRow("a-shape-less") << "<path d=\""
                                  << "<path e=\"" << true;
    QTest::newRow("recoloured") << "<g fill=\"#"
                                << "<g fill=\"#f00\" class=\"" << true;
    QTest::newRow("grouped") << "</metadata>"
                             << "</metadata><desc>kept</desc>" << false;
    QTest::newRow("other-line-ends") << "\n"
                                     << "\r\n"
                                     << false;
  }
  void what_was_changed_elsewhere_is_told() {
    QFETCH(QString, was);
    QFETCH(QString, becomes);
    QFETCH(bool, changed);
    const Document document = demo("saltmarsh-badge.frelm");
    QString svg = QString::fromStdString(written(document));
    const qsizetype at = svg.indexOf(was);
    QVERIFY(at >= 0);
    if (was == "\n")
      svg.replace(was, becomes);
    else
      svg.replace(at, was.size(), becomes);
    const auto inside = job_in_svg(svg.toStdString());
    QVERIFY(inside.has_value());
    QCOMPARE(inside->drawing_changed, changed);
    QVERIFY(*read_job(inside->job) == document);
  }

  void other_drawings_hold_no_job() {
    QVERIFY(!job_in_svg("<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0H1V1Z'/></svg>"));
    QVERIFY(!job_in_svg(""));
    QVERIFY(!job_in_svg("https://frelm.invalid/job"));
    const std::string whole = written(demo("tide-decal.frelm"));
    for (std::size_t i = 1; i < 40; ++i) // cut short anywhere
      (void)job_in_svg(std::string_view(whole).substr(0, whole.size() * i / 40));
    QVERIFY(!job_in_svg(std::string_view(whole).substr(0, whole.size() / 2)));
  }

  // Saving must not fail because a piece can't be set: it is missing in the drawing, and there in the job.
  void what_cannot_be_set_is_saved_all_the_same() {
    Document d = circle_job("Marigold").document;
    Piece drawn;
    drawn.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline("M5 5H9V9Z")), {}, nullptr, {}};
    d = add_piece(d, std::move(drawn)).document;
    for (const auto& p : d.pieces)
      if (p->lettering() != nullptr)
        d = edit_piece(d, p->id, [](Piece& l) {
          std::get<Letters>(l.lettering()->recipe.source).face = {"Nowhere", "Bold"};
        });
    const DocumentEvaluator evaluator(bundled_faces());
    QVERIFY(!cut_sheet(d, evaluator).ok());
    const auto inside = job_in_svg(written(d));
    QVERIFY(inside && !inside->drawing_changed);
    QVERIFY(*read_job(inside->job) == d);
    QCOMPARE(read_svg(written(d))->shapes.size(), std::size_t{1});
  }

  void a_job_without_anything_to_see() {
    const Document empty;
    const auto inside = job_in_svg(written(empty));
    QVERIFY(inside && !inside->drawing_changed);
    QVERIFY(*read_job(inside->job) == empty);
  }
};

QTEST_APPLESS_MAIN(TestJobSvg)
#include "test_job_svg.moc"
