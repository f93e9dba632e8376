// What leaves, read by others: DXF by ezdxf, PDF by poppler, EPS and PDF by Ghostscript, HP-GL by an interpreter of its
// five instructions here (HP 7475A Interfacing and Programming Manual, 1983) and by hp2xx; extents, contours, areas,
// pens.
#include "document/edits.h"
#include "document/evaluate.h"
#include "document/job_file.h"
#include "formats/export.h"
#include "formats/hpgl.h"
#include "formats/svg.h"
#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QDir>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QRegularExpression>
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

// By Ghostscript, enlarged, since its box is whole 1/4000 inches; mm from the page's top left corner.
std::optional<Box> ghost_box(const QString& eps, double page_height) {
  constexpr int larger = 20;
  const QString told = run("gs", {"-q", "-dNOPAUSE", "-dBATCH", "-sDEVICE=bbox", "-c",
                                  QString("<</Install {%1 %1 scale}>> setpagedevice").arg(larger), "-f", eps});
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

    // HP-GL: 0.025 mm a unit, so half of that and the chords.
    const Result<std::string> plt = write_hpgl(plan);
    QVERIFY(plt.ok());
    const Plotted drawn = plotted(*plt, height);
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
    QVERIFY2(worst_side(box, truth) < 0.025, qPrintable(QString::number(worst_side(box, truth))));
    QVERIFY2(std::abs(area - true_area) < 0.025 * around, qPrintable(QString::number(area - true_area)));
    QCOMPARE(pens.size(), plan.layers.size());
    if (job != "tiny") // there lines are smaller than a unit
      QCOMPARE(drawn.lines.size(), contours);

    if (sanitized) // others read the rest in the ordinary build
      return;
    // DXF: the same curves in R2000, chords in R12; contour by contour in cutting order.
    for (const DxfVersion version : {DxfVersion::R2000, DxfVersion::R12}) {
      const bool curves = version == DxfVersion::R2000;
      const QString file = dir_.filePath("out.dxf");
      ExportOptions options;
      options.dxf = version;
      keep(file, *(*export_format("x.dxf"))->write(plan, options));
      QProcess python;
      python.start("/usr/bin/python3", {FRELM_SOURCE_DIR "/tests/reference/dxf_lines.py", file});
      python.waitForFinished(60'000);
      const QJsonObject read = QJsonDocument::fromJson(python.readAllStandardOutput()).object();
      QCOMPARE(read["version"].toString(), QString(curves ? "AC1015" : "AC1009"));
      QCOMPARE(read["units"].toInt(), 4);
      QVERIFY(read["errors"].toArray().isEmpty());
      const QJsonArray lines = read["lines"].toArray();
      QCOMPARE(static_cast<std::size_t>(lines.size()), contours);
      std::map<QString, std::size_t> layers;
      for (std::size_t i = 0; i < contours; ++i) {
        const QJsonObject line = lines[static_cast<int>(i)].toObject();
        const CutPath& path = plan.order[i];
        const Contour& c = plan.sheet.pieces[path.piece].outline.contours[path.contour];
        QCOMPARE(line["closed"].toBool(), c.closed);
        QCOMPARE(layers.try_emplace(line["layer"].toString(), plan.layer_of[path.piece]).first->second,
                 plan.layer_of[path.piece]);
        const QJsonArray b = line["box"].toArray();
        const Box seen{b[0].toDouble(), height - b[3].toDouble(), b[2].toDouble(), height - b[1].toDouble()};
        const double bound = curves ? 0.001 : 0.011;
        QVERIFY2(worst_side(seen, c.bounds()) < bound, qPrintable(QString::number(worst_side(seen, c.bounds()))));
        const double off = std::abs(-line["area"].toDouble() - c.area()), allowed = (curves ? 5e-4 : 0.01) * c.length();
        QVERIFY2(off < allowed + 1e-6, qPrintable(QString("area off by %1 of %2").arg(off).arg(allowed)));
      }
      QCOMPARE(layers.size(), plan.layers.size());
    }

    // PDF and EPS, filled so that the extents are the outlines' own.
    ExportOptions filled;
    filled.page.ink = PageInk::Filled;
    for (const char* suffix : {"pdf", "eps"}) {
      const QString file = dir_.filePath(QString("out.") + suffix);
      const Result<std::string> bytes = (*export_format(file.toStdString()))->write(plan, filled);
      if (width > 5000) { // more than these formats hold
        QVERIFY(!bytes.ok());
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
      // cairo keeps places to 1/256 point, 0.0014 mm; Ghostscript's box is rounded outwards by 0.0003 mm.
      QVERIFY2(worst_side(*seen, truth) < 0.0025,
               qPrintable(QString("%1: %2").arg(suffix).arg(worst_side(*seen, truth))));
    }
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
    options.page = {PageInk::Filled, false};
    keep(file, *(*export_format("x.pdf"))->write(plan, options));
    run("pdftocairo", {"-svg", file, svg});
    QFile back(svg);
    QVERIFY(back.open(QIODevice::ReadOnly));
    const auto drawing = read_svg(back.readAll().toStdString());
    QVERIFY(drawing.ok());
    std::size_t contours = 0;
    std::set<Colour> colours;
    for (const SvgShape& s : drawing->shapes)
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
    QCOMPARE(cut_plan(sheet, d.materials, {{}, true, false}).layers.size() + 1, all.layers.size());
    QCOMPARE(cut_plan(sheet, d.materials, {{}, false, true}).layers.size(), std::size_t{1});
    const CutPlan sea = cut_plan(sheet, d.materials, {Colour{0x0f, 0x6e, 0x73}, true, true});
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
    std::vector<std::string> before;
    for (const char* suffix : {"svg", "plt", "dxf"})
      before.push_back(*(*export_format(std::string("x.") + suffix))->write(plan, {}));
    for (const char* locale : {"de_DE.UTF-8", "fr_FR.UTF-8", "C.UTF-8"}) // where there is one with decimal commas
      if (std::setlocale(LC_ALL, locale) != nullptr) {
        std::size_t i = 0;
        for (const char* suffix : {"svg", "plt", "dxf"})
          QVERIFY(*(*export_format(std::string("x.") + suffix))->write(plan, {}) == before[i++]);
      }
    std::setlocale(LC_ALL, "C");
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
  Document opened(const QString& job) {
    if (job.startsWith("/")) {
      QFile file(job);
      if (!file.open(QIODevice::ReadOnly))
        qFatal("no %s", qPrintable(job));
      return *read_job(file.readAll().toStdString());
    }
    Document d;
    auto random = random_source(job.back().unicode());
    const bool tiny = job == "tiny", huge = job == "nine-metres";
    d.sheet = {huge ? 9000.0 : 600.0, huge ? 1200.0 : 400.0};
    for (int i = 0; i < (tiny || huge ? 1 : 12); ++i) {
      OutlinePiece drawn;
      const double r = tiny ? 0.25 : huge ? 280 : uniform(random, 2, 60);
      drawn.outline = std::make_shared<const Outline>(random_blob(
          random, {uniform(random, 2 * r, d.sheet.width - 2 * r), uniform(random, 2 * r, d.sheet.height - 2 * r)}, r,
          6));
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
