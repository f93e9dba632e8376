// Pages of PDF, EPS and PostScript: what other programs make against what they made it of; what ISO 32000-1 says, each
// with its section; sizes, pages, what is told; damaged, hostile and locked files.
#include "formats/import.h"
#include "formats/page_read.h"
#include "support/fixtures.h"
#include "support/silhouette.h"

#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double mm_per_pt = 25.4 / 72;

// A file of one page: its content, more entries of the page, more objects from number 10 on.
QByteArray pdf(const QByteArray& content, const QByteArray& page = "/MediaBox [0 0 72 72]",
               const QByteArrayList& objects = {}, const QByteArray& root = {}) {
  QByteArray out = "%PDF-1.7\n";
  QList<QPair<int, qsizetype>> at;
  const auto add = [&](int number, const QByteArray& body) {
    at << qMakePair(number, out.size());
    out += QByteArray::number(number) + " 0 obj\n" + body + "\nendobj\n";
  };
  add(1, "<< /Type /Catalog /Pages 2 0 R " + root + " >>");
  add(2, "<< /Type /Pages /Kids [3 0 R] /Count 1 >>");
  add(3, "<< /Type /Page /Parent 2 0 R /Contents 4 0 R " + page + " >>");
  add(4, "<< /Length " + QByteArray::number(content.size()) + " >>\nstream\n" + content + "\nendstream");
  for (int i = 0; i < objects.size(); ++i)
    add(10 + i, objects[i]);
  const qsizetype table = out.size();
  out += "xref\n0 1\n0000000000 65535 f \n";
  for (const auto& [number, place] : at)
    out += QByteArray::number(number) + " 1\n" + QByteArray::number(place).rightJustified(10, '0') + " 00000 n \n";
  return out + "trailer\n<< /Root 1 0 R /Size " + QByteArray::number(at.last().first + 1) + " >>\nstartxref\n" +
         QByteArray::number(table) + "\n%%EOF\n";
}

Result<Drawing> read(const QByteArray& bytes, int page = 1) {
  DrawingReadOptions options;
  options.page = page;
  return read_drawing(bytes.toStdString(), options);
}

std::size_t told(const Drawing& drawing, Lost what) {
  for (const LeftOut& l : drawing.left_out)
    if (l.what == what)
      return l.count;
  return 0;
}

Box bounds(const Drawing& drawing) {
  Box out;
  for (const DrawnShape& s : drawing.shapes)
    out.add(s.outline.bounds());
  return out;
}

bool near(double a, double b, double off) {
  return std::abs(a - b) <= off;
}

// What a program writes to a file.
bool made(const QString& program, const QStringList& words) {
  QProcess process;
  process.start(program, words);
  return process.waitForFinished(60000) && process.exitStatus() == QProcess::NormalExit && process.exitCode() == 0;
}

QByteArray bytes_of(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

const QByteArray square = "10 20 30 40 re f";

} // namespace

class TestPages : public QObject {
  Q_OBJECT

private slots:
  // Drawings made into pages by cairo (librsvg 2.54), read, against what librsvg paints of the drawing itself.
  void pages_of_cairo_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<QString>("format");
    QFile list(FRELM_SOURCE_DIR "/tests/formats/drawings/differs.txt");
    QVERIFY(list.open(QIODevice::ReadOnly));
    const QByteArray differs = list.readAll();
    const QDir dir(FRELM_SOURCE_DIR "/tests/formats/drawings");
    int n = 0;
    for (const QString& name : dir.entryList({"*.svg"})) {
      if (differs.contains(name.toUtf8()))
        continue;
      const auto source = read_drawing(bytes_of(dir.filePath(name)).toStdString()); // text and the like is no drawing
      if (source.ok() && source->left_out.empty() && ++n % (sanitized ? 18 : 3) == 0)
        for (const char* format : {"pdf", "eps"})
          QTest::addRow("%s as %s", qPrintable(name), format) << dir.filePath(name) << QString(format);
    }
    QVERIFY(n > 100);
  }
  void pages_of_cairo() {
    QFETCH(QString, path);
    QFETCH(QString, format);
    const QString page = room_.filePath("page." + format);
    QVERIFY(made("rsvg-convert", {"-f", format, "-o", page, path}));
    auto drawing = read(bytes_of(page));
    const auto source = read_drawing(bytes_of(path).toStdString());
    QVERIFY(source.ok());
    const double zoom = zoom_for(*source, 400);
    const auto truth = seen_by_librsvg(path.toStdString(), zoom);
    QVERIFY(truth);
    if (truth->count() == 0)
      return;
    QVERIFY2(drawing.ok(), drawing.ok() ? "" : drawing.error().text().c_str());
    if (format == "eps") { // its page is what is painted
      const Box there = bounds(*drawing), here = bounds(*source);
      drawing->frame = {there.x0 - here.x0 + source->frame.x0, there.y0 - here.y0 + source->frame.y0, 0, 0};
      drawing->frame.x1 = drawing->frame.x0 + source->frame.width();
      drawing->frame.y1 = drawing->frame.y0 + source->frame.height();
    }
    const double alike = overlap(*truth, seen_in(*drawing, truth->width, truth->height, zoom));
    QVERIFY2(alike >= 0.98, qPrintable(QString("%1 %2").arg(alike).arg(drawing->shapes.size())));
  }

  // ISO 32000-1:2008. Sizes in pt of 1/72 in, y up from the page's lower left corner.
  void what_the_standard_says_data() {
    QTest::addColumn<QByteArray>("file");
    QTest::addColumn<QList<double>>("box"); // pt: left, top, right, bottom, from the page's upper left corner
    QTest::addColumn<double>("line");       // pt, 0: an area
    const auto row = [](const char* name, const QByteArray& file, const QList<double>& box, double line = 0) {
      QTest::newRow(name) << file << box << line;
    };
    row("8.5.2 re, 8.5.3 f", pdf(square), {10, 12, 40, 52});
    row("8.5.2 c v y h", pdf("10 10 m 10 20 20 30 30 30 c 40 30 40 10 v 30 10 10 10 y h f"), {10, 42, 40, 62});
    row("8.5.3.3 even-odd", pdf("10 10 40 40 re 20 20 20 20 re f*"), {10, 22, 50, 62});
    row("8.5.3 closes before it strokes", pdf("0.5 w 10 10 m 50 10 l 50 50 l s"), {10, 22, 50, 62}, 0.5);
    row("8.4.3.2 the thinnest line", pdf("0 w 10 10 m 50 50 l S"), {10, 22, 50, 62}, 0.01);
    row("8.3.4 cm", pdf("2 0 0 2 10 10 cm 5 5 10 10 re f"), {20, 32, 40, 52});
    row("8.4.2 q Q", pdf("q 2 0 0 2 0 0 cm Q " + square), {10, 12, 40, 52});
    row("8.5.4 W n", pdf("20 0 72 72 re W n " + square), {20, 12, 40, 52});
    row("7.7.3.3 crop box", pdf(square, "/MediaBox [0 0 200 200] /CropBox [5 5 60 70]"), {5, 10, 35, 50});
    row("7.7.3.3 turned page", pdf(square, "/MediaBox [0 0 72 72] /Rotate 90"), {20, 10, 60, 40});
    row("7.7.3.3 media box from elsewhere", pdf(square, "/MediaBox [-10 -10 62 62]"), {20, 2, 50, 42});
    row("14.11.2 UserUnit", pdf(square, "/MediaBox [0 0 72 72] /UserUnit 10"), {100, 120, 400, 520});
    row("8.10 form with a matrix",
        pdf("/F Do", "/MediaBox [0 0 72 72] /Resources << /XObject << /F 10 0 R >> >>",
            {"<< /Type /XObject /Subtype /Form /BBox [0 0 72 72] /Matrix [1 0 0 1 5 6] "
             "/Length 16 >>\nstream\n" +
             square + "\nendstream"}),
        {15, 6, 45, 46});
    row("8.11 layers that are off",
        pdf("/OC /L BDC 0 0 72 72 re f EMC " + square,
            "/MediaBox [0 0 72 72] /Resources << /Properties << /L 10 0 R >> >>", {"<< /Type /OCG /Name (off) >>"},
            "/OCProperties << /OCGs [10 0 R] /D << /OFF [10 0 R] >> >>"),
        {10, 12, 40, 52});
    row("11.3.5 blends are plain paint",
        pdf("/B gs " + square, "/MediaBox [0 0 72 72] /Resources << /ExtGState << /B << /BM /Multiply >> >> >>"),
        {10, 12, 40, 52});
  }
  void what_the_standard_says() {
    QFETCH(QByteArray, file);
    QFETCH(QList<double>, box);
    QFETCH(double, line);
    const auto d = read(file);
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    QCOMPARE(d->shapes.size(), std::size_t{1});
    const Box b = bounds(*d);
    constexpr double exact = 0.0002; // mm
    for (const auto& [seen, wanted] : {std::pair{b.x0, box[0]}, {b.y0, box[1]}, {b.x1, box[2]}, {b.y1, box[3]}})
      QVERIFY2(near(seen, wanted * mm_per_pt, exact),
               qPrintable(QString("%1 for %2").arg(seen).arg(wanted * mm_per_pt)));
    QVERIFY2((d->shapes[0].line_width > 0) == (line > 0) && near(d->shapes[0].line_width, line * mm_per_pt, 0.005),
             qPrintable(QString::number(d->shapes[0].line_width / mm_per_pt)));
    QCOMPARE(d->size, SizeFrom::Lengths);
    QVERIFY(d->sizes.empty());
    QCOMPARE(told(*d, Lost::Damaged), std::size_t{0});
  }

  void colours_are_kept() {
    const auto d = read(pdf("1 0 0 rg 0 0 9 9 re f 0 0.2 0.4 rg 20 20 9 9 re f 0.4 g 40 40 9 9 re f"));
    QVERIFY(d.ok() && d->shapes.size() == 3);
    QCOMPARE(d->shapes[0].colour, (Colour{255, 0, 0}));
    QCOMPARE(d->shapes[1].colour, (Colour{0, 51, 102}));
    QCOMPARE(d->shapes[2].colour, (Colour{102, 102, 102}));
  }

  // A face that is in the file: its outlines; one that is not: another, and it says so. Letters of a word are a piece.
  void text_comes_as_outlines() {
    const QString page = room_.filePath("text.pdf");
    const QString drawing = room_.filePath("text.svg");
    QFile out(drawing);
    QVERIFY(out.open(QIODevice::WriteOnly));
    out.write(
        "<svg xmlns='http://www.w3.org/2000/svg' width='300' height='100'><text x='10' y='60' font-family='Karla' "
        "font-size='40'>Salt</text><text x='150' y='60' font-family='Karla' font-size='40'>Marsh</text></svg>");
    out.close();
    QVERIFY(made("rsvg-convert", {"-f", "pdf", "-o", page, drawing}));
    const auto d = read(bytes_of(page));
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    QCOMPARE(d->shapes.size(), std::size_t{2});
    QCOMPARE(told(*d, Lost::OtherFace), std::size_t{0});
    QCOMPARE(told(*d, Lost::Text), std::size_t{0});
    constexpr double zoom = 8;
    const auto truth = seen_by_librsvg(drawing.toStdString(), zoom);
    QVERIFY(truth);
    const double alike = overlap(*truth, seen_in(*d, truth->width, truth->height, zoom));
    QVERIFY2(alike >= 0.98, qPrintable(QString::number(alike)));

    const auto other = read(pdf("BT /F 20 Tf 5 5 Td (Salt) Tj ET",
                                "/MediaBox [0 0 72 72] /Resources << /Font << /F << /Type /Font /Subtype /Type1 "
                                "/BaseFont /Wharfside >> >> >>"));
    QVERIFY(other.ok() && other->shapes.size() == 1);
    QCOMPARE(told(*other, Lost::OtherFace), std::size_t{1});
    QVERIFY(in_one_line(other->left_out).find("Wharfside") != std::string::npos);
  }

  void what_can_not_be_taken_is_told() {
    const QByteArray resources = "/MediaBox [0 0 72 72] /Resources << /XObject << /I 10 0 R >> /ExtGState << /B << /BM "
                                 "/Screen >> >> /Shading << /S << /ShadingType 2 /ColorSpace /DeviceGray /Coords [0 0 "
                                 "72 0] /Function << /FunctionType 2 /Domain [0 1] /N 1 >> >> >> >>";
    const auto d =
        read(pdf(square + " q 20 0 0 20 50 50 cm /I Do Q /B gs 0 0 5 5 re f q 50 0 20 20 re W n /S sh Q", resources,
                 {"<< /Type /XObject /Subtype /Image /Width 2 /Height 2 /ColorSpace /DeviceGray "
                  "/BitsPerComponent 8 /Length 4 >>\nstream\nabcd\nendstream"}));
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    QCOMPARE(told(*d, Lost::Picture), std::size_t{1});
    QCOMPARE(told(*d, Lost::Effect), std::size_t{1});
    QCOMPARE(told(*d, Lost::Gradient), std::size_t{1});
    const auto picture =
        std::find_if(d->left_out.begin(), d->left_out.end(), [](const LeftOut& l) { return l.what == Lost::Picture; });
    QVERIFY(!picture->places.empty());
    const Box place = picture->places[0];
    QVERIFY(near(place.x0, 50 * mm_per_pt, 0.01) && near(place.y0, 2 * mm_per_pt, 0.01) &&
            near(place.width(), 20 * mm_per_pt, 0.01));
  }

  void each_page_by_its_number() {
    QFile out(room_.filePath("two.ps"));
    QVERIFY(out.open(QIODevice::WriteOnly));
    out.write("%!PS-Adobe-3.0\n<< /PageSize [100 200] >> setpagedevice 10 10 10 10 rectfill showpage\n"
              "<< /PageSize [300 50] >> setpagedevice 20 20 30 20 rectfill showpage\n");
    out.close();
    const QString page = room_.filePath("two.pdf");
    QVERIFY(made(
        "gs", {"-q", "-dSAFER", "-dBATCH", "-dNOPAUSE", "-sDEVICE=pdfwrite", "-sOutputFile=" + page, out.fileName()}));
    for (const QString& path : {page, out.fileName()}) {
      const auto first = read(bytes_of(path)), second = read(bytes_of(path), 2), third = read(bytes_of(path), 3);
      QVERIFY(first.ok() && second.ok() && !third.ok());
      QVERIFY(first->pages == 2 && second->pages == 2 && second->page == 2);
      QVERIFY(near(first->frame.width(), 100 * mm_per_pt, 0.005) &&
              near(second->frame.width(), 300 * mm_per_pt, 0.005));
      QVERIFY(near(bounds(*second).width(), 30 * mm_per_pt, 0.0002));
      QVERIFY(third.error().text().find("page 3") != std::string::npos);
    }
  }

  // By Ghostscript: closed forms. A circle's cubics are within 0.03 % of its radius (Goldapp, Approximation of circular
  // arcs by cubic polynomials, 1991); the page is the bounding box (Adobe Technical Note 5002, 1992).
  void postscript_data() {
    QTest::addColumn<QByteArray>("program");
    QTest::addColumn<QList<double>>("box"); // pt, from the bounding box's upper left corner
    QTest::addColumn<double>("area");       // pt²
    const QByteArray eps = "%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 100 100 200 180\n%%HiResBoundingBox: 100 100 200 "
                           "180\n%%EndComments\n";
    QTest::newRow("rectangle") << eps + "110 110 40 20 rectfill\n%%EOF" << QList<double>{10, 50, 50, 70} << 800.0;
    QTest::newRow("circle") << eps + "150 140 30 0 360 arc fill" << QList<double>{20, 10, 80, 70} << 900 * M_PI;
    QTest::newRow("triangle by procedures")
        << eps + "/t { 0 0 moveto 30 0 lineto 0 30 lineto closepath fill } def gsave 120 120 translate 2 1 scale t "
                 "grestore"
        << QList<double>{20, 30, 80, 60} << 900.0;
    QTest::newRow("even-odd ring") << eps + "150 140 30 0 360 arc 150 140 20 0 360 arc eofill"
                                   << QList<double>{20, 10, 80, 70} << 500 * M_PI;
    QTest::newRow("clipped") << eps + "110 110 20 20 rectclip 100 100 100 80 rectfill" << QList<double>{10, 50, 30, 70}
                             << 400.0;
    QTest::newRow("in a loop") << eps + "0 1 3 { 10 mul 110 add 110 5 5 rectfill } for" << QList<double>{10, 65, 45, 70}
                               << 100.0;
    QByteArray preview("\xC5\xD0\xD3\xC6", 4);
    const QByteArray program = eps + "110 110 40 20 rectfill";
    const auto length = static_cast<char>(static_cast<unsigned char>(program.size()));
    preview += QByteArray::fromHex("1e000000");
    preview += length;
    preview += QByteArray(19, '\0').replace(18, 1, "\xff");
    preview += "\xff\xff";
    QVERIFY(preview.size() == 30 && program.size() < 256);
    QTest::newRow("with a preview") << preview + program + "II*\0 not a picture" << QList<double>{10, 50, 50, 70}
                                    << 800.0;
  }
  void postscript() {
    QFETCH(QByteArray, program);
    QFETCH(QList<double>, box);
    QFETCH(double, area);
    const auto d = read(program);
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    QVERIFY(near(d->frame.width(), 100 * mm_per_pt, 0.001) && near(d->frame.height(), 80 * mm_per_pt, 0.001));
    const Box b = bounds(*d);
    double seen = 0;
    for (const DrawnShape& s : d->shapes)
      seen += std::abs(s.outline.area());
    QVERIFY(near(b.x0, box[0] * mm_per_pt, 0.001) && near(b.y0, box[1] * mm_per_pt, 0.001) &&
            near(b.x1, box[2] * mm_per_pt, 0.001) && near(b.y1, box[3] * mm_per_pt, 0.001));
    QVERIFY2(near(seen, area * mm_per_pt * mm_per_pt, 0.001 * seen), qPrintable(QString::number(seen)));
  }

  // Any part of a file, changed bytes: a drawing or a message, soon, and the reader itself goes on.
  void damaged_files_end_in_a_message() {
    auto random = random_source(41);
    const auto pick = [&](qsizetype n) { return static_cast<qsizetype>(random() % static_cast<std::uint64_t>(n)); };
    const QByteArray page = pdf(square + " BT /F 20 Tf 5 5 Td (Salt) Tj ET",
                                "/MediaBox [0 0 72 72] /Resources << /Font << /F << /Type /Font /Subtype /Type1 "
                                "/BaseFont /Helvetica >> >> >>");
    const QByteArray script = "%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 100 100\n/t { 10 mul 20 } def 1 t 3 t "
                              "rectfill 5 t 50 10 0 360 arc fill showpage\n";
    int read_well = 0, refused = 0;
    for (int i = 0; i < (sanitized ? 20 : 80); ++i) {
      QByteArray bytes = i % 8 == 0 ? script : page;
      if (i % 3 == 0)
        bytes = bytes.left(pick(bytes.size()));
      else
        for (int k = 0; k <= i % 5; ++k)
          bytes[pick(bytes.size())] = static_cast<char>(random() % 256);
      QElapsedTimer clock;
      clock.start();
      const auto d = read(bytes);
      (d.ok() ? read_well : refused) += 1;
      QVERIFY(d.ok() || !d.error().text().empty());
      QVERIFY2(clock.elapsed() < 30'000, bytes.constData()); // bounded at all; how fast stands in the measurements
    }
    QVERIFY2(read_well > 0 && refused > 0, qPrintable(QString("%1 %2").arg(read_well).arg(refused)));
    const auto cut = read(page.left(page.indexOf("startxref")));
    QVERIFY(cut.ok() && told(*cut, Lost::Damaged) == 1);
  }

  void hostile_files_end_in_a_message_data() {
    QTest::addColumn<QByteArray>("file");
    QTest::newRow("for ever") << QByteArray("%!PS\n{ } loop");
    QTest::newRow("all memory") << QByteArray("%!PS\n[ { 60000 array } loop");
    QTest::newRow("reads a file") << QByteArray("%!PS\n(/etc/passwd) (r) file pop 10 10 50 50 rectfill showpage");
    QTest::newRow("writes a file") << QByteArray("%!PS\n(/tmp/frelm-was-here) (w) file pop 9 9 9 9 rectfill showpage");
    QTest::newRow("runs a program") << QByteArray("%!PS\n(%pipe%touch /tmp/frelm-was-here) (w) file pop showpage");
    QTest::newRow("lines without end") << QByteArray("%!PS\n0 0 moveto { 9 9 rlineto -9 -9 rlineto } loop");
    QTest::newRow("pages in a ring") << QByteArray(pdf(square)).replace("/Kids [3 0 R]", "/Kids [2 0 R]");
    QTest::newRow("a page of a kilometre") << pdf(square, "/MediaBox [0 0 9999999 9999999]");
    QTest::newRow("no page") << QByteArray(pdf(square)).replace("/Kids [3 0 R] /Count 1", "/Kids [     ] /Count 0");
    QTest::newRow("empty") << QByteArray("%PDF-1.4");
  }
  void hostile_files_end_in_a_message() {
    QFETCH(QByteArray, file);
    const auto d = read(file);
    QVERIFY2(!d.ok() || d->shapes.empty(), "it was read");
    QVERIFY(!QFile::exists("/tmp/frelm-was-here"));
  }

  // Forms that hold each other: the painter's own bound; what there is otherwise is taken.
  void forms_in_a_ring_and_without_end() {
    const QByteArray form = "<< /Type /XObject /Subtype /Form /BBox [0 0 72 72] /Resources << /XObject << /F ";
    const QByteArray twice = "/F Do /F Do " + square;
    QByteArrayList forms;
    for (int i = 0; i < 24; ++i)
      forms << form + QByteArray::number(10 + (i + 1) % 24) + " 0 R >> >> /Length " + QByteArray::number(twice.size()) +
                   " >>\nstream\n" + twice + "\nendstream";
    const auto d = read(pdf("/F Do", "/MediaBox [0 0 72 72] /Resources << /XObject << /F 10 0 R >> >>", forms));
    QVERIFY(d.ok() || !d.error().text().empty());
  }

  void locked_files_say_so() {
    QFile plain(room_.filePath("plain.pdf"));
    QVERIFY(plain.open(QIODevice::WriteOnly));
    plain.write(pdf(square));
    plain.close();
    const QString locked = room_.filePath("locked.pdf"), open = room_.filePath("open.pdf");
    QVERIFY(made("qpdf", {"--encrypt", "tide", "tide", "256", "--", plain.fileName(), locked}));
    QVERIFY(made("qpdf", {"--encrypt", "", "tide", "256", "--", plain.fileName(), open}));
    const auto d = read(bytes_of(locked)), o = read(bytes_of(open));
    QVERIFY(!d.ok() && d.error().text().find("password") != std::string::npos);
    QVERIFY(o.ok() && o->shapes.size() == 1); // nothing is asked of who looks at it
  }

  void stopping_stops() {
    std::stop_source source;
    source.request_stop();
    DrawingReadOptions options;
    options.stop = source.get_token();
    QElapsedTimer clock;
    clock.start();
    const auto d = read_drawing("%!PS\n{ } loop", options);
    QVERIFY(!d.ok() && d.error().code == ErrorCode::Cancelled);
  }

  void nothing_is_left_in_the_temporary_folder() {
    const QString before = qEnvironmentVariable("TMPDIR");
    qputenv("TMPDIR", room_.filePath("temporary").toUtf8());
    QVERIFY(QDir(room_.path()).mkpath("temporary"));
    const auto d = read("%!PS\n10 10 50 50 rectfill showpage");
    const auto bad = read("%!PS\n{ } loop");
    QVERIFY(d.ok() && !bad.ok());
    QCOMPARE(QDir(room_.filePath("temporary")).entryList(QDir::AllEntries | QDir::NoDotAndDotDot), QStringList());
    qputenv("TMPDIR", "/nowhere/at/all");
    const auto none = read(pdf(square));
    QVERIFY(!none.ok() && none.error().text().find("temporary") != std::string::npos);
    if (before.isEmpty())
      qunsetenv("TMPDIR");
    else
      qputenv("TMPDIR", before.toUtf8());
  }

  void without_ghostscript_it_says_what_to_do() {
    const QByteArray before = qgetenv("PATH");
    qputenv("PATH", "/nowhere");
    const auto d = read("%!PS\n10 10 50 50 rectfill showpage");
    const auto page = read(pdf(square));
    qputenv("PATH", before);
    QVERIFY(!d.ok() && d.error().text().find("ghostscript") != std::string::npos);
    QVERIFY(page.ok());
  }

private:
  QTemporaryDir room_;
};

QTEST_GUILESS_MAIN(TestPages)
#include "test_pages.moc"
