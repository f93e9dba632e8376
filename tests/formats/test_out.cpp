// What leaves, read by others: DXF by ezdxf, PDF by poppler, EPS and PDF by Ghostscript, SVG by librsvg, HP-GL by an
// interpreter of its five instructions here (HP 7475A Interfacing and Programming Manual, 1983) and by hp2xx; extents,
// contours, areas, pens. Forty random jobs and 2,000 letters: what draws in EPS and PDF by an interpreter of their few
// words (ISO 32000-1, 8.5).
#include "document/edits.h"
#include "document/evaluate.h"
#include "document/job_file.h"
#include "formats/export.h"
#include "formats/read_back.h"
#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QDir>
#include <QFile>
#include <QImage>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QRegularExpression>
#include <QScopeGuard>
#include <QTemporaryDir>
#include <QTest>
#include <clocale>
#include <fmt/format.h>
#include <set>

using namespace frelm;
using namespace frelm::test;

namespace {

struct Plotted {
  struct Line {
    int pen = 0;
    std::vector<Point> places; // mm, y down from the sheet's top left corner
  };
  std::vector<Line> lines;
  QString fault;
};

// Numbers and commas after two letters, up to a semicolon.
Plotted plotted(const std::string& hpgl, double sheet_height) {
  Plotted out;
  int pen = 0;
  Point at;
  for (const QString& instruction :
       QString::fromStdString(hpgl).simplified().remove(' ').split(';', Qt::SkipEmptyParts)) {
    const QString what = instruction.left(2);
    QList<double> numbers;
    for (const QString& n : instruction.mid(2).split(',', Qt::SkipEmptyParts)) {
      bool whole = false;
      numbers << n.toInt(&whole);
      if (!whole)
        out.fault = "not a whole number: " + instruction;
    }
    const auto place = [&](qsizetype i) { return Point{numbers[i] / 40, sheet_height - numbers[i + 1] / 40}; };
    if (what == "SP")
      pen = static_cast<int>(numbers.value(0));
    else if (what == "PU" && numbers.size() == 2)
      at = place(0);
    else if (what == "PD" && numbers.size() % 2 == 0) {
      if (out.lines.empty() || out.lines.back().places.back() != at || out.lines.back().pen != pen)
        out.lines.push_back({pen, {at}});
      for (qsizetype i = 0; i < numbers.size(); i += 2)
        out.lines.back().places.push_back(at = place(i));
    } else if (what != "IN" && what != "PA" && instruction != "PU")
      out.fault = "unknown: " + instruction;
  }
  return out;
}

QString run(const QString& program, const QStringList& arguments) {
  QProcess process;
  process.setProcessChannelMode(QProcess::MergedChannels);
  process.start(program, arguments);
  process.waitForFinished(60'000);
  return process.exitCode() == 0 ? QString::fromUtf8(process.readAll()) : QString("failed: ") + process.readAll();
}

// By Ghostscript, enlarged, since its box is whole 1/4000 inches, and areas drawn as lines without a width, since
// filling them at that size takes long; mm from the page's top left corner.
std::optional<Box> ghost_box(const QString& eps, double page_height) {
  constexpr int larger = 20;
  const QString told = run("gs", {"-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=bbox", "-c",
                                  QString("<</Install {%1 %1 scale}>> setpagedevice /fill {0 setlinewidth stroke} def "
                                          "/eofill {0 setlinewidth stroke} def")
                                      .arg(larger),
                                  "-f", eps});
  const auto found = QRegularExpression("HiResBoundingBox: (\\S+) (\\S+) (\\S+) (\\S+)").match(told);
  if (!found.hasMatch())
    return std::nullopt;
  const auto mm = [&](int i) { return found.captured(i).toDouble() * 25.4 / 72 / larger; };
  return Box{mm(1), page_height - mm(4), mm(3), page_height - mm(2)};
}

CutPlan plan_of(const Document& document) {
  const DocumentEvaluator evaluator(bundled_faces());
  return cut_plan(*cut_sheet(document, evaluator), document.materials);
}
Box box_of(const CutPlan& plan) {
  Box box;
  for (const CutPiece& p : plan.sheet.pieces)
    box.add(p.outline.bounds());
  return box;
}
std::size_t contours_of(const CutPlan& plan) {
  std::size_t n = 0;
  for (const CutPiece& p : plan.sheet.pieces)
    n += p.outline.contours.size();
  return n;
}
QString error_text(const Result<Done>& result) {
  return result.ok() ? QString() : QString::fromStdString(result.error().text());
}
double worst_side(const Box& a, const Box& b) {
  return std::max({std::abs(a.x0 - b.x0), std::abs(a.y0 - b.y0), std::abs(a.x1 - b.x1), std::abs(a.y1 - b.y1)});
}

} // namespace

class TestOut : public QObject {
  Q_OBJECT

private slots:
  void jobs_data() {
    QTest::addColumn<QString>("job");
    for (const QString& name : QDir(FRELM_SOURCE_DIR "/assets/demo").entryList({"*.frelm"}))
      QTest::newRow(qPrintable(name)) << FRELM_SOURCE_DIR "/assets/demo/" + name;
    for (const char* name : {"tiny", "nine-metres", "random-1", "random-2", "random-3"})
      QTest::newRow(name) << name;
  }
  void jobs() {
    QFETCH(QString, job);
    const Document document = opened(job);
    const CutPlan plan = plan_of(document);
    QVERIFY(!plan.sheet.pieces.empty());
    const double width = document.sheet.width, height = document.sheet.height;
    const Box truth = box_of(plan);
    const std::size_t contours = contours_of(plan);
    QCOMPARE(plan.order.size(), contours);

    check_hpgl(plan, job != "tiny"); // there lines are smaller than a unit
    if (QTest::currentTestFailed())
      return;

    if (sanitized) // others read the rest in the ordinary build
      return;
    const bool few = job.endsWith("mussel-plate.frelm") || job.endsWith("tide-decal.frelm") || job == "random-1";
    const Way ways[]{{DxfVersion::R2000, false, Unit::Millimetre},
                     {DxfVersion::R12, true, Unit::Millimetre},
                     {DxfVersion::R2000, true, Unit::Inch},
                     {DxfVersion::R12, false, Unit::Millimetre}};
    QStringList files;
    for (std::size_t i = 0; i < (few ? 4 : 2); ++i) {
      files << dir_.filePath(QString("out-%1.dxf").arg(i));
      keep(files.back(), dxf_of(plan, ways[i]));
    }
    const QJsonArray read = read_dxf(files);
    QCOMPARE(read.size(), files.size());
    for (int i = 0; i < read.size(); ++i) {
      int arcs = 0;
      check_dxf(plan, ways[i], read[i].toObject(), arcs);
      if (QTest::currentTestFailed())
        return;
      if (ways[i].arcs && job.endsWith("mussel-plate.frelm")) // its screw holes and corners
        QVERIFY2(arcs >= 8, qPrintable(QString::number(arcs)));
    }

    // PDF and EPS, filled so that the extents are the outlines' own.
    ExportOptions filled;
    filled.page.ink = ExportInk::Areas;
    for (const char* suffix : {"pdf", "eps"}) {
      const QString file = dir_.filePath(QString("out.") + suffix);
      const Result<std::string> bytes = (*export_format(file.toStdString()))->write(plan, filled);
      if (width > 5000) { // more than PDF holds; Ghostscript's page ends there too
        QCOMPARE(bytes.ok(), file.endsWith("eps"));
        continue;
      }
      QVERIFY(bytes.ok());
      keep(file, *bytes);
      QString eps = file;
      if (file.endsWith("pdf")) { // as poppler reads it
        eps = dir_.filePath("poppler.eps");
        const QString told = run("pdftops", {"-eps", file, eps});
        QVERIFY2(told.isEmpty(), qPrintable(told));
      }
      const std::optional<Box> seen = ghost_box(eps, height);
      QVERIFY(seen.has_value());
      // Ghostscript's own places are 1/256 point of the enlarged page, 0.0001 mm, and its box is rounded outwards.
      QVERIFY2(worst_side(*seen, truth) < 0.001,
               qPrintable(QString("%1: %2").arg(suffix).arg(worst_side(*seen, truth))));
    }
  }

  // All formats of forty random jobs and of 2,000 letters, by what reads many at once.
  void random_jobs_and_the_largest() {
    std::vector<CutPlan> plans;
    for (int i = 0; i < (sanitized ? 4 : 40); ++i)
      plans.push_back(plan_of(random_job(100 + static_cast<unsigned>(i), 1 + i % 20)));
    if (!sanitized) {
      std::string rhyme;
      while (std::count_if(rhyme.begin(), rhyme.end(), [](char c) { return c != ' '; }) < 2000)
        rhyme += "The tide goes out the tide comes in ";
      Document d = circle_job(rhyme, 2400).document;
      d.sheet = {4990, 4990};
      plans.push_back(plan_of(d));
      QVERIFY(contours_of(plans.back()) > 2000);
    }
    QStringList files;
    const Way ways[]{{DxfVersion::R2000, false, Unit::Millimetre}, {DxfVersion::R2000, true, Unit::Inch}};
    for (std::size_t i = 0; i < plans.size(); ++i) {
      const CutPlan& plan = plans[i];
      check_hpgl(plan, true);
      const std::string svg = write_svg(plan);
      QVERIFY(same_in_svg(plan.sheet, svg).ok());
      check_words(plan, QString::fromStdString(write_eps(plan)).section("bind def\n1 j", 1));
      files << dir_.filePath(QString("random-%1.dxf").arg(i));
      keep(files.back(), dxf_of(plan, ways[i % 2]));
      if (sanitized)
        continue;
      const QString pdf = dir_.filePath("random.pdf");
      keep(pdf, *write_pdf(plan));
      const QString plain = run("qpdf", {"--qdf", "--object-streams=disable", pdf, "-"});
      check_words(plan, plain.section("stream\n1 j", 1).section("endstream", 0, 0));
      if (QTest::currentTestFailed())
        return;
    }
    if (sanitized)
      return;
    const QJsonArray read = read_dxf(files);
    QCOMPARE(read.size(), files.size());
    for (int i = 0; i < read.size(); ++i) {
      int arcs = 0;
      check_dxf(plans[static_cast<std::size_t>(i)], ways[i % 2], read[i].toObject(), arcs);
    }
  }

  // The folder of examples holds what is written now (the others' bytes go with the versions of their libraries).
  void the_examples_are_as_they_would_be_written() {
    const CutPlan plan = plan_of(opened(FRELM_SOURCE_DIR "/assets/demo/tide-decal.frelm"));
    const QString folder = FRELM_SOURCE_DIR "/assets/formats/";
    const auto there = [&](const char* name) {
      QFile file(folder + name);
      return file.open(QIODevice::ReadOnly) ? file.readAll().toStdString() : std::string();
    };
    QVERIFY(there("tide-decal.svg") == write_svg(plan));
    QVERIFY(there("tide-decal-plain.svg") == write_svg(plan, {ExportInk::Lines, true, true, false}));
    QVERIFY(there("tide-decal-px.svg") == write_svg(plan, {ExportInk::Areas, false, true, true}));
    QVERIFY(there("tide-decal.plt") == *write_hpgl(plan));
    QVERIFY(there("tide-decal.eps") == write_eps(plan));
    for (const char* name : {"tide-decal.pdf", "tide-decal-pages.pdf", "tide-decal-proof.pdf"})
      QVERIFY2(there(name).starts_with("%PDF"), name);
    for (const char* name : {"tide-decal.dxf", "tide-decal-r12.dxf", "tide-decal-inches.dxf"})
      QVERIFY2(there(name).ends_with("EOF\n"), name);
    QVERIFY(!there("tide-decal-with-job.svg").empty() && !there("tide-decal.png").empty());
  }

  // Each way of SVG holds the same drawing: by our own reader within its bound, by fontTools (extents), and as librsvg
  // draws it.
  void svg_in_each_way_data() { jobs_data(); }
  void svg_in_each_way() {
    QFETCH(QString, job);
    const CutPlan plan = plan_of(opened(job));
    const Box truth = box_of(plan);
    for (int way = 0; way < 16; ++way) {
      const SvgOptions options{(way & 1) != 0 ? ExportInk::Lines : ExportInk::Areas, (way & 2) != 0, (way & 4) != 0,
                               (way & 8) != 0};
      const std::string svg = write_svg(plan, options);
      const Result<Done> same = same_in_svg(plan.sheet, svg, options);
      QVERIFY2(same.ok(), qPrintable(QString("%1: %2").arg(way).arg(error_text(same))));
      const Result<Drawing> back = read_svg(svg);
      QVERIFY(back.ok() && back->left_out.empty());
      if (options.plain) {
        QVERIFY(QString::fromStdString(svg).contains(
            QRegularExpression("^<\\?xml[^>]*>\\s*<svg[^>]*>(\\s*<path[^>]*/>)*\\s*"
                               "</svg>\\s*$")));
        if (!options.arcs)
          QVERIFY(!QString::fromStdString(svg).contains(QRegularExpression(" d=\"[^\"]*[^\"MLCZ0-9. -]")));
      }
      if (!options.plain) // and out again: the same text
        continue;
      CutSheet again{{0, 0, plan.sheet.frame.width(), plan.sheet.frame.height()}, {}};
      for (const DrawnShape& s : back->shapes)
        again.pieces.push_back({1, s.id, s.colour, Destination::Knife, s.outline});
      if (!options.arcs && !options.pixels)
        QVERIFY(same_in_svg(again, write_svg(again)).ok());
    }
    if (sanitized || !(job.endsWith("badge.frelm") || job.endsWith("decal.frelm") || job == "tiny"))
      return; // librsvg's pages take Ghostscript long
    const QString svg = dir_.filePath("way.svg"), pdf = dir_.filePath("way.pdf"), eps = dir_.filePath("way.eps");
    keep(svg, write_svg(plan, {ExportInk::Areas, true, false, plan.layers.size() % 2 == 0}));
    const QString told = run("rsvg-convert", {"-f", "pdf", "-o", pdf, svg});
    QVERIFY2(told.isEmpty(), qPrintable(told));
    run("pdftops", {"-eps", pdf, eps});
    const std::optional<Box> seen = ghost_box(eps, plan.sheet.frame.height());
    QVERIFY(seen.has_value());
    QVERIFY2(worst_side(*seen, truth) < 0.003, qPrintable(QString::number(worst_side(*seen, truth)))); // cairo's places
  }

  // A line that is not closed is a line in every format; as an area readers would close it.
  void open_lines_are_never_filled() {
    const CutSheet sheet{{0, 0, 60, 40},
                         {{1, "a", {10, 20, 30}, Destination::Knife, *parse_outline("M5 5H55V35 M10 10H20V20Z")}}};
    const CutPlan plan = cut_plan(sheet, {});
    for (const bool plain : {false, true}) {
      const std::string svg = write_svg(plan, {ExportInk::Areas, false, plain, false});
      QVERIFY2(svg.find("fill=\"none\" stroke=\"#0a141e\"") != std::string::npos, svg.c_str());
      QVERIFY(same_in_svg(sheet, svg).ok());
      const auto back = read_svg(svg);
      QCOMPARE(back->shapes.size(), std::size_t{2});
      QVERIFY(back->shapes[0].outline.contours[0].closed && !back->shapes[1].outline.contours[0].closed);
    }
    const std::vector<DrawnPage> pages = pages_of(plan, {ExportInk::Areas, false, {}});
    QCOMPARE(pages.size(), std::size_t{1});
    QCOMPARE(pages[0].items.size(), std::size_t{2});
    QVERIFY(pages[0].items[0].line == 0 && pages[0].items[1].line > 0);
    QImage image;
    const std::string png = *write_png(sheet, 600, ExportInk::Areas);
    image.loadFromData(QByteArray::fromStdString(png));
    QCOMPARE(image.pixelColor(450, 150), QColor(255, 255, 255)); // inside the corner that isn't closed
    QCOMPARE(image.pixelColor(150, 130), QColor(10, 20, 30));
  }

  void layers_have_names_and_ids() {
    CutSheet sheet{{0, 0, 10, 10}, {}};
    const char* names[]{"Madder & Co", "Madder   Co", "9 Æther", "", "Ünder"};
    std::vector<Material> materials;
    for (std::uint8_t i = 0; i < 5; ++i) {
      materials.push_back({names[i], {i, i, i}});
      sheet.pieces.push_back({i + 1u, "p", {i, i, i}, Destination::Knife, *parse_outline("M0 0H1V1Z")});
    }
    sheet.pieces.push_back({9, "pen", {0, 0, 0}, Destination::Pen, *parse_outline("M0 0H1V1Z")});
    const std::string svg = write_svg(cut_plan(sheet, materials));
    for (const char* id :
         {"\"Madder-Co\"", "\"Madder-Co-2\"", "\"layer-9-ther\"", "\"layer-030303\"", "\"nder\"", "\"Madder-Co-pen\""})
      QVERIFY2(svg.find(std::string("<g id=").append(id)) != std::string::npos, id);
    QVERIFY(svg.find("<title>Madder &amp; Co, pen</title>") != std::string::npos);
  }

  void what_is_not_the_same_is_found_data() {
    QTest::addColumn<QString>("was");
    QTest::addColumn<QString>("becomes");
    QTest::newRow("moved") << "M10 10"
                           << "M10.001 10";
    QTest::newRow("shorter") << "L30 20"
                             << "L29.999 20";
    QTest::newRow("a-line-less") << "M14 14L18 14L18 18Z"
                                 << "";
    QTest::newRow("a-line-more") << "M14 14"
                                 << "M50 50L51 50L51 51ZM14 14";
    QTest::newRow("other-size") << "width=\"100mm\""
                                << "width=\"100\"";
    QTest::newRow("cut-short") << "</svg>"
                               << "";
    QTest::newRow("inner-moved-out") << "M14 14L18 14L18 18Z"
                                     << "M54 14L58 14L58 18Z";
  }
  void what_is_not_the_same_is_found() {
    QFETCH(QString, was);
    QFETCH(QString, becomes);
    const CutSheet sheet{{0, 0, 100, 50},
                         {{1, "a", {}, Destination::Knife, *parse_outline("M10 10L30 10L30 20Z M14 14L18 14L18 18Z")}}};
    QString svg = QString::fromStdString(write_svg(cut_plan(sheet, {})));
    QVERIFY(same_in_svg(sheet, svg.toStdString()).ok());
    QVERIFY2(svg.contains(was), qPrintable(svg));
    svg.replace(was, becomes);
    QVERIFY(!same_in_svg(sheet, svg.toStdString()).ok());
  }

  void plotters_get_what_they_want() {
    const CutPlan plan =
        cut_plan({Box{0, 0, 100, 40}, {{1, "a", {}, Destination::Knife, *parse_outline("M10 10H30V15Z")}}}, {});
    const auto first_place = [&](const HpglOptions& o) {
      const QString text = QString::fromStdString(*write_hpgl(plan, o));
      const auto found = QRegularExpression("PU(-?\\d+)[ ,](-?\\d+);").match(text);
      return std::pair(found.captured(1).toInt(), found.captured(2).toInt());
    };
    // 10 mm from the left, 30 mm above the lower edge.
    QCOMPARE(first_place({}), std::pair(400, 1200));
    QCOMPARE(first_place({.mirrored = true}), std::pair(3600, 1200));
    QCOMPARE(first_place({.from_middle = true}), std::pair(-1600, 400));
    QCOMPARE(first_place({.turned = true}), std::pair(400, 400)); // 40 wide now: 40 - 30, 10
    QCOMPARE(first_place({.from_middle = true, .turned = true}), std::pair(-400, -1600));
    QCOMPARE(*write_hpgl(plan, {.page_size = true, .back_home = true}),
             std::string("IN;PS4000,1600;PA;\nSP1;\nPU400,1200;\nPD1200,1200,1200,1000,400,1200;\nPU0,0;SP0;\n"));
    QCOMPARE(*write_hpgl(plan, {.turned = true, .spaces = true, .page_size = true}),
             std::string("IN;PS1600 4000;PA;\nSP1;\nPU400 400;\nPD400 1200 600 1200 400 400;\nPU;SP0;\n"));
  }

  // ISO 32000-1, 8.6.6.4: the name as it was given, in both formats; what the pen draws keeps its colour.
  void a_spot_colour_has_its_name() {
    CutPlan plan = plan_of(opened(FRELM_SOURCE_DIR "/assets/demo/tide-decal.frelm"));
    PageOptions options;
    options.spot = "Blade (thin) 1";
    const QString pdf = dir_.filePath("spot.pdf"), eps = dir_.filePath("spot.eps");
    keep(pdf, *write_pdf(plan, options));
    keep(eps, write_eps(plan, options));
    const QString plain = run("qpdf", {"--qdf", "--object-streams=disable", pdf, "-"});
    QVERIFY(plain.contains("/Separation") && plain.contains("Blade#20#28thin#29#201") &&
            plain.contains("/Spot CS 1 SCN"));
    QVERIFY(!plain.contains(" RG\n"));
    for (const PlanLayer& layer : plan.layers)
      QVERIFY2(plain.contains(QString("/Name (%1)").arg(QString::fromStdString(layer.name))),
               qPrintable(plain.left(2000)));
    const QString told = run("gs", {"-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=inkcov", "-o", "-", eps});
    QVERIFY2(!told.startsWith("failed"), qPrintable(told));
    const QString separated = dir_.filePath("sep.tif"); // a plate by that name
    run("gs", {"-q", "-dNOPAUSE", "-dBATCH", "-dEPSCrop", "-sDEVICE=tiffsep", "-r40", "-o", separated, eps});
    QVERIFY2(!QDir(dir_.path()).entryList({"sep*Blade*"}).isEmpty(),
             qPrintable(QDir(dir_.path()).entryList().join(' ')));
    for (CutPiece& p : plan.sheet.pieces)
      p.destination = Destination::Pen;
    keep(pdf, *write_pdf(plan, options));
    QVERIFY(!run("qpdf", {"--qdf", pdf, "-"}).contains("/Separation"));
  }

  void the_same_pages_give_the_same_bytes_and_qpdf_finds_nothing() {
    const CutPlan plan = plan_of(opened(FRELM_SOURCE_DIR "/assets/demo/tide-decal.frelm"));
    const std::string once = *write_pdf(plan);
    QCOMPARE(*write_pdf(plan), once);
    const QString pdf = dir_.filePath("checked.pdf");
    keep(pdf, once);
    QVERIFY(run("qpdf", {"--check", pdf}).contains("No syntax or stream encoding errors"));
  }

  void pictures_on_a_ground_or_on_nothing() {
    const CutSheet sheet{{0, 0, 20, 10}, {{1, "a", {10, 20, 30}, Destination::Knife, *parse_outline("M5 2H15V8H5Z")}}};
    const auto pixel = [&](const PictureGround& ground, QPoint at) {
      QImage image;
      const std::string png = *write_png(sheet, 200, ExportInk::Areas, ground);
      image.loadFromData(QByteArray::fromStdString(png));
      return image.size() == QSize(200, 100) ? image.pixelColor(at) : QColor();
    };
    QCOMPARE(pixel(white, {5, 5}), QColor(255, 255, 255));
    QCOMPARE(pixel(Colour{1, 2, 3}, {5, 5}), QColor(1, 2, 3));
    QCOMPARE(pixel(std::nullopt, {5, 5}).alpha(), 0);
    QVERIFY(!write_png(sheet, 30'000, ExportInk::Areas).ok()); // 30,000 x 15,000
    for (const PictureGround& ground : {PictureGround(white), PictureGround()})
      QCOMPARE(pixel(ground, {100, 50}), QColor(10, 20, 30));
  }

  void a_page_is_as_large_as_the_sheet_and_has_a_page_a_material() {
    const Document document = opened(FRELM_SOURCE_DIR "/assets/demo/marigold-transom.frelm");
    const CutPlan plan = plan_of(document);
    ExportOptions options;
    options.page.page_a_layer = true;
    const QString file = dir_.filePath("pages.pdf");
    keep(file, *(*export_format("x.pdf"))->write(plan, options));
    const QString told = run("pdfinfo", {file});
    QVERIFY2(told.contains(QRegularExpression(QString("Pages: +%1\\b").arg(plan.layers.size()))), qPrintable(told));
    const auto size = QRegularExpression("Page size: +(\\S+) x (\\S+) pts").match(told);
    QVERIFY(size.hasMatch());
    QVERIFY(std::abs(size.captured(1).toDouble() * 25.4 / 72 - 900) < 0.01);
    QVERIFY(std::abs(size.captured(2).toDouble() * 25.4 / 72 - 300) < 0.01);
    // Vectors, and as many closed lines as the plan has: poppler's drawing of it, read by our own reader.
    const QString svg = dir_.filePath("back.svg");
    options.page = {ExportInk::Areas, false, {}};
    keep(file, *(*export_format("x.pdf"))->write(plan, options));
    run("pdftocairo", {"-svg", file, svg});
    QFile back(svg);
    QVERIFY(back.open(QIODevice::ReadOnly));
    const auto drawing = read_svg(back.readAll().toStdString());
    QVERIFY(drawing.ok());
    std::size_t contours = 0;
    std::set<Colour> colours;
    for (const DrawnShape& s : drawing->shapes)
      contours += s.outline.contours.size(), colours.insert(s.colour);
    QCOMPARE(contours, contours_of(plan));
    QCOMPARE(colours.size(), plan.layers.size());
  }

  void hp2xx_draws_what_is_written() {
    const CutPlan plan = plan_of(opened(FRELM_SOURCE_DIR "/assets/demo/saltmarsh-badge.frelm"));
    const QString file = dir_.filePath("badge.plt"), eps = dir_.filePath("badge-hp.eps");
    keep(file, *write_hpgl(plan));
    const QString told = run("hp2xx", {"-q", "-m", "eps", "-t", "-f", eps, file});
    QVERIFY2(!told.startsWith("failed"), qPrintable(told));
    const std::optional<Box> seen = ghost_box(eps, 0);
    QVERIFY(seen.has_value());
    // Its pen is as wide as it likes: the size within that.
    const Box truth = box_of(plan);
    QVERIFY2(
        std::abs(seen->width() - truth.width()) < 0.5 && std::abs(seen->height() - truth.height()) < 0.5,
        qPrintable(
            QString("%1 x %2, %3 x %4").arg(seen->width()).arg(seen->height()).arg(truth.width()).arg(truth.height())));
  }

  void one_material_one_destination_and_each_by_itself() {
    Document d = opened(FRELM_SOURCE_DIR "/assets/demo/marigold-transom.frelm");
    d = edit_piece(d, d.pieces[1]->id, [](Piece& p) { p.destination = Destination::Pen; });
    const DocumentEvaluator evaluator(bundled_faces());
    const CutSheet sheet = *cut_sheet(d, evaluator);
    const CutPlan all = cut_plan(sheet, d.materials);
    QCOMPARE(all.layers.back().name, std::string("Tan, pen"));
    QCOMPARE(cut_plan(sheet, d.materials, {{}, {}, true, false}).layers.size() + 1, all.layers.size());
    QCOMPARE(cut_plan(sheet, d.materials, {{}, {}, false, true}).layers.size(), std::size_t{1});
    const CutPlan sea = cut_plan(sheet, d.materials, {Colour{0x0f, 0x6e, 0x73}, {}, true, true});
    QCOMPARE(sea.layers.size(), std::size_t{1});
    QCOMPARE(sea.layers[0].name, std::string("Sea"));
    std::size_t contours = 0;
    const std::vector<CutPlan> each = split(all);
    QCOMPARE(each.size(), all.layers.size());
    for (std::size_t i = 0; i < each.size(); ++i) {
      QCOMPARE(each[i].layers.size(), std::size_t{1});
      QCOMPARE(each[i].layers[0].name, all.layers[i].name);
      QVERIFY(each[i].sheet.frame == all.sheet.frame);
      contours += each[i].order.size();
    }
    QCOMPARE(contours, all.order.size());
    // Layer after layer, in cutting order: a counter before what is around it.
    std::size_t layer = 0;
    for (const CutPath& path : all.order) {
      QVERIFY(all.layer_of[path.piece] >= layer);
      layer = all.layer_of[path.piece];
    }
  }

  void suffixes_choose_and_numbers_have_points() {
    for (const ExportFormat& f : export_formats()) {
      std::string path = "/a.b/Name." + std::string(f.suffix);
      QVERIFY(*export_format(path) == &f);
      std::transform(path.begin(), path.end(), path.begin(), [](char c) { return static_cast<char>(std::toupper(c)); });
      QVERIFY(*export_format(path) == &f);
    }
    for (const char* none : {"name", "name.", "a.svg/name", "name.doc", ""}) {
      const auto format = export_format(none);
      QVERIFY(!format.ok() && format.error().text().find(".dxf") != std::string::npos);
    }
    const CutPlan plan = plan_of(opened(FRELM_SOURCE_DIR "/assets/demo/herring-tag.frelm"));
    // A locale with decimal commas, made here: a machine need not have one.
    const QString made = dir_.filePath("de_DE.UTF-8");
    const QString told = run("localedef", {"-i", "de_DE", "-f", "UTF-8", made});
    QVERIFY2(!told.startsWith("failed"), qPrintable(told));
    std::vector<std::string> before;
    for (const ExportFormat& f : export_formats())
      before.push_back(*f.write(plan, {}));
    qputenv("LOCPATH", dir_.path().toUtf8());
    const auto back = qScopeGuard([] {
      std::setlocale(LC_ALL, "C");
      qunsetenv("LOCPATH");
    });
    QVERIFY(std::setlocale(LC_ALL, "de_DE.UTF-8") != nullptr);
    QCOMPARE(QString(std::localeconv()->decimal_point), QString(","));
    std::size_t i = 0;
    for (const ExportFormat& f : export_formats()) {
      QVERIFY2(*f.write(plan, {}) == before[i], f.suffix.data());
      QVERIFY(f.read_back == nullptr || f.read_back(plan, before[i], {}).ok());
      ++i;
    }
  }

  void absurd_places_are_refused() {
    CutPlan plan =
        cut_plan({Box{0, 0, 100, 100}, {{1, "far", {}, Destination::Knife, *parse_outline("M0 0H9e6V5H0Z")}}}, {});
    QVERIFY(!write_hpgl(plan).ok());
    const CutPlan empty = cut_plan({Box{0, 0, 100, 100}, {}}, {});
    for (const ExportFormat& f : export_formats())
      QVERIFY(f.write(empty, {}).ok());
    QCOMPARE(*write_hpgl(empty), std::string("IN;PA;\nPU;SP0;\n"));
  }

private:
  struct Way {
    DxfVersion version;
    bool arcs;
    Unit unit;
  };
  // 0.025 mm a unit, so half of that and the chords.
  static void check_hpgl(const CutPlan& plan, bool every_line) {
    const Result<std::string> plt = write_hpgl(plan);
    QVERIFY(plt.ok());
    const Plotted drawn = plotted(*plt, plan.sheet.frame.height());
    QVERIFY2(drawn.fault.isEmpty(), qPrintable(drawn.fault));
    Box box;
    double area = 0, around = 0;
    std::set<int> pens;
    for (const Plotted::Line& line : drawn.lines) {
      pens.insert(line.pen);
      for (std::size_t i = 0; i < line.places.size(); ++i) {
        box.add(line.places[i]);
        const Point next = line.places[(i + 1) % line.places.size()];
        area += cross(line.places[i] - Point{}, next - Point{}) / 2;
        around += distance(line.places[i], next);
      }
    }
    double true_area = 0;
    for (const CutPiece& p : plan.sheet.pieces)
      true_area += p.outline.area();
    QVERIFY2(worst_side(box, box_of(plan)) < 0.025, qPrintable(QString::number(worst_side(box, box_of(plan)))));
    QVERIFY2(std::abs(area - true_area) < 0.025 * around, qPrintable(QString::number(area - true_area)));
    QCOMPARE(pens.size(), plan.layers.size());
    if (every_line)
      QCOMPARE(drawn.lines.size(), contours_of(plan));
  }
  static std::string dxf_of(const CutPlan& plan, const Way& way) {
    ExportOptions options;
    options.dxf = {way.version, 0.01, way.unit, way.arcs};
    return (*export_format("x.dxf"))->write(plan, options).value_or("");
  }
  static QJsonArray read_dxf(const QStringList& files) {
    QProcess python;
    python.start("/usr/bin/python3", QStringList{FRELM_SOURCE_DIR "/tests/reference/dxf_lines.py"} + files);
    python.waitForFinished(300'000);
    return QJsonDocument::fromJson(python.readAllStandardOutput()).array();
  }
  // The same curves in R2000, chords in R12, arcs where they are wished; contour by contour in cutting order.
  static void check_dxf(const CutPlan& plan, const Way& way, const QJsonObject& read, int& arcs) {
    const bool curves = way.version == DxfVersion::R2000;
    const double unit = way.unit == Unit::Inch ? 25.4 : 1, height = plan.sheet.frame.height();
    QCOMPARE(read["version"].toString(), QString(curves ? "AC1015" : "AC1009"));
    QCOMPARE(read["units"].toInt(), way.unit == Unit::Inch ? 1 : 4);
    QVERIFY(read["errors"].toArray().isEmpty());
    const QJsonArray lines = read["lines"].toArray();
    QCOMPARE(static_cast<std::size_t>(lines.size()), contours_of(plan));
    std::map<QString, std::size_t> layers;
    for (std::size_t i = 0; i < plan.order.size(); ++i) {
      const QJsonObject line = lines[static_cast<int>(i)].toObject();
      const CutPath& path = plan.order[i];
      const Contour& c = plan.sheet.pieces[path.piece].outline.contours[path.contour];
      QCOMPARE(line["closed"].toBool(), c.closed);
      QCOMPARE(layers.try_emplace(line["layer"].toString(), plan.layer_of[path.piece]).first->second,
               plan.layer_of[path.piece]);
      arcs += line["arcs"].toInt();
      const QJsonArray b = line["box"].toArray();
      const Box seen{b[0].toDouble() * unit, height - b[3].toDouble() * unit, b[2].toDouble() * unit,
                     height - b[1].toDouble() * unit};
      const double bound = curves ? 0.001 : 0.011;
      QVERIFY2(worst_side(seen, c.bounds()) < bound, qPrintable(QString::number(worst_side(seen, c.bounds()))));
      const double off = std::abs(-line["area"].toDouble() * unit * unit - c.area()),
                   allowed = (curves ? 5e-4 : 0.01) * c.length();
      QVERIFY2(off < allowed + 1e-6, qPrintable(QString("area off by %1 of %2").arg(off).arg(allowed)));
    }
    QCOMPARE(layers.size(), plan.layers.size());
    QVERIFY(way.arcs || arcs == 0);
  }
  // m, l, c, h with their numbers; everything else ends a path. Each contour as the plan has it, piece by piece.
  static void check_words(const CutPlan& plan, const QString& content) {
    Outline drawn;
    const double k = 25.4 / 72, height = plan.sheet.frame.height();
    std::vector<double> numbers;
    Point at;
    for (const QString& word : content.split(QRegularExpression("\\s+"), Qt::SkipEmptyParts)) {
      bool number = false;
      const double value = word.toDouble(&number);
      if (number) {
        numbers.push_back(value);
        continue;
      }
      const auto place = [&](std::size_t i) { return Point{numbers[i] * k, height - numbers[i + 1] * k}; };
      if (word == "m" && numbers.size() == 2)
        drawn.contours.push_back({{}, false}), at = place(0);
      else if (word == "l" && numbers.size() == 2)
        drawn.contours.back().segments.push_back(Segment::line(at, place(0))), at = place(0);
      else if (word == "c" && numbers.size() == 6)
        drawn.contours.back().segments.push_back(Segment::cubic(at, place(0), place(2), place(4))), at = place(4);
      else if (word == "h" && !drawn.contours.empty()) {
        Contour& c = drawn.contours.back();
        c.closed = true;
        const Point start = c.segments.empty() ? at : c.segments.front().p0;
        if (at != start)
          c.segments.push_back(Segment::line(at, start));
      }
      numbers.clear();
    }
    std::size_t n = 0;
    for (const CutPiece& p : plan.sheet.pieces)
      for (const Contour& c : p.outline.contours) {
        QVERIFY(n < drawn.contours.size());
        const Contour& d = drawn.contours[n++];
        QCOMPARE(d.closed, c.closed);
        QVERIFY2(worst_side(d.bounds(), c.bounds()) < 0.0001,
                 qPrintable(QString::number(worst_side(d.bounds(), c.bounds()))));
        QVERIFY(std::abs(d.area() - c.area()) < 1e-4 * c.length() + 1e-6);
      }
    QCOMPARE(n, drawn.contours.size());
  }
  Document opened(const QString& job) {
    if (job.startsWith("/")) {
      QFile file(job);
      if (!file.open(QIODevice::ReadOnly))
        qFatal("no %s", qPrintable(job));
      return *read_job(file.readAll().toStdString());
    }
    if (job == "tiny" || job == "nine-metres") {
      const bool huge = job == "nine-metres";
      auto random = random_source(5);
      const double r = huge ? 280 : 0.25;
      return with_blobs({huge ? 9000.0 : 600.0, huge ? 1200.0 : 400.0}, random, 1, [&] { return r; });
    }
    return random_job(job.back().unicode(), 12);
  }
  static Document random_job(unsigned seed, int pieces) {
    auto random = random_source(seed);
    return with_blobs({600, 400}, random, pieces, [&] { return uniform(random, 2, 60); });
  }
  template <class Random, class Radius>
  static Document with_blobs(Sheet sheet, Random& random, int pieces, const Radius& radius) {
    Document d;
    d.sheet = sheet;
    for (int i = 0; i < pieces; ++i) {
      OutlinePiece drawn;
      const double r = radius();
      drawn.outline = std::make_shared<const Outline>(random_blob(
          random, {uniform(random, 2 * r, sheet.width - 2 * r), uniform(random, 2 * r, sheet.height - 2 * r)}, r, 6));
      Piece p;
      p.colour = {static_cast<std::uint8_t>(40 * (i % 4)), 90, 90};
      p.content = std::move(drawn);
      d = add_piece(std::move(d), std::move(p)).document;
    }
    return d;
  }
  static void keep(const QString& path, const std::string& bytes) {
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes.data(), static_cast<qint64>(bytes.size())) < 0)
      qFatal("not written");
  }
  QTemporaryDir dir_;
};

QTEST_APPLESS_MAIN(TestOut)
#include "test_out.moc"
