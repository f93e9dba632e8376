// DXF of others: made by ezdxf, which also says what its files hold (tests/reference/dxf_samples.py); our own read
// back; damaged and hostile ones. Codes and units: DXF Reference (Autodesk, 2018), GROUP CODES, HEADER.
#include "document/edits.h"
#include "formats/dxf.h"
#include "formats/dxf_read.h"
#include "formats/nurbs.h"
#include "geom/clean_lines.h"
#include "geom/curve.h"
#include "reference/python.h"
#include "support/fixtures.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>
#include <QTest>
#include <random>

using namespace frelm;

namespace {

std::string file(const QString& entities, const QString& header = {}) {
  return ("0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n" + header + "0\nENDSEC\n0\nSECTION\n2\nENTITIES\n" + entities +
          "0\nENDSEC\n0\nEOF\n")
      .toStdString();
}
QString line(double x1, double y1, double x2, double y2, const QString& more = "8\n0\n") {
  return "0\nLINE\n" + more + QString("10\n%1\n20\n%2\n30\n0\n11\n%3\n21\n%4\n31\n0\n").arg(x1).arg(y1).arg(x2).arg(y2);
}

double length_of(const Drawing& d) {
  double sum = 0;
  for (const DrawnShape& s : d.shapes)
    sum += s.outline.length();
  return sum;
}
Box box_of(const Drawing& d) {
  Box box;
  for (const DrawnShape& s : d.shapes)
    box.add(s.outline.bounds());
  return box;
}
std::size_t count(const Drawing& d, Lost what) {
  for (const LeftOut& l : d.left_out)
    if (l.what == what)
      return l.count;
  return 0;
}
double difference(const Box& a, const Box& b) {
  return std::max({std::abs(a.x0 - b.x0), std::abs(a.y0 - b.y0), std::abs(a.x1 - b.x1), std::abs(a.y1 - b.y1)});
}

} // namespace

class TestDxfIn : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() { // ezdxf's files
    QVERIFY(dir_.isValid());
    QProcess python;
    python.start("/usr/bin/python3", {FRELM_SOURCE_DIR "/tests/reference/dxf_samples.py", dir_.path()});
    QVERIFY(python.waitForFinished(120'000));
    QVERIFY2(python.exitCode() == 0, python.readAllStandardError().constData());
    for (const QByteArray& one : python.readAllStandardOutput().split('\n'))
      if (!one.isEmpty())
        samples_ << QJsonDocument::fromJson(one).object();
    QVERIFY(samples_.size() >= 100);
  }

  // Every entity, block and unit, R12 to R2018: extents within 0.001 mm, length within 1e-5 of it.
  void holds_what_ezdxf_says_data() {
    QTest::addColumn<QJsonObject>("sample");
    for (const QJsonObject& s : samples_)
      QTest::newRow(qPrintable(s["name"].toString())) << s;
  }
  void holds_what_ezdxf_says() {
    QFETCH(QJsonObject, sample);
    QFile in(dir_.filePath(sample["name"].toString() + ".dxf"));
    QVERIFY(in.open(QIODevice::ReadOnly));
    const std::string bytes = in.readAll().toStdString();
    QVERIFY(looks_like_dxf(bytes));
    const auto d = read_dxf(bytes);
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    QVERIFY2(d->left_out.empty(), in_one_line(d->left_out).c_str());
    const QJsonArray b = sample["box"].toArray();
    const Box wanted{b[0].toDouble(), -b[3].toDouble(), b[2].toDouble(), -b[1].toDouble()};
    const double unit = std::max(1.0, sample["unit"].toDouble());
    // A hatch's arcs are Béziers there, one for a quarter, 2.7e-4 of their radius off (Goldapp, 1991).
    const bool hatch = sample["name"].toString().startsWith("hatch");
    QVERIFY2(difference(box_of(*d), wanted) < (hatch ? 0.005 : 0.001 * unit),
             qPrintable(QString::number(difference(box_of(*d), wanted))));
    const double length = sample["length"].toDouble();
    QVERIFY2(std::abs(length_of(*d) - length) < (hatch ? 2e-4 : 1e-5) * length,
             qPrintable(QString("%1 for %2").arg(length_of(*d), 0, 'g', 9).arg(length, 0, 'g', 9)));
    QCOMPARE(d->size == SizeFrom::Lengths, sample["unit"].toDouble() != 0);
    QCOMPARE(d->sizes.empty(), d->size == SizeFrom::Lengths);
  }

  void chains_are_joined_doubles_dropped_and_holes_found() {
    // A square of four lines in any direction, one of them twice, with gaps of 0.005 mm; in it a circle; beside it two
    // lines that don't meet.
    const auto d = read_dxf(file(line(0, 0, 10, 0) + line(10, 10, 10.003, 0.004) + line(0, 10, 10, 10) +
                                 line(0, 0, 0, 10) + line(10, 0, 0, 0) + "0\nCIRCLE\n8\n0\n10\n5\n20\n5\n40\n2\n" +
                                 line(20, 0, 30, 0) + line(20, 1, 30, 1)));
    QVERIFY(d.ok());
    QCOMPARE(d->shapes.size(), std::size_t{3});
    QCOMPARE(d->shapes[0].outline.contours.size(), std::size_t{2});
    QVERIFY(d->shapes[0].outline.contours[0].closed);
    QVERIFY(std::abs(d->shapes[0].outline.area() - (100 - 4 * pi)) < 0.05);
    QVERIFY(!d->shapes[1].outline.contours[0].closed);
    QCOMPARE(count(*d, Lost::Double), std::size_t{1});
    for (const DrawnShape& s : d->shapes)
      QVERIFY(s.line_width > 0);
  }

  void layers_and_colours() {
    const QString tables = "0\nENDSEC\n0\nSECTION\n2\nTABLES\n0\nTABLE\n2\nLAYER\n"
                           "0\nLAYER\n2\nRED\n70\n0\n62\n1\n6\nCONTINUOUS\n"
                           "0\nLAYER\n2\nOFF\n70\n0\n62\n-3\n6\nCONTINUOUS\n"
                           "0\nLAYER\n2\nFROZEN\n70\n1\n62\n3\n6\nCONTINUOUS\n0\nENDTAB\n";
    const auto d = read_dxf(file(line(0, 0, 1, 0, "8\nRED\n") + line(0, 2, 1, 2, "8\nRED\n62\n5\n") +
                                     line(0, 4, 1, 4, "8\nOFF\n") + line(0, 5, 1, 5, "8\nFROZEN\n") +
                                     line(0, 6, 1, 6, "8\n0\n67\n1\n") + line(0, 7, 1, 7, "8\n0\n420\n1193046\n"),
                                 tables));
    QVERIFY(d.ok());
    QStringList seen;
    for (const DrawnShape& s : d->shapes)
      seen << QString::fromStdString(s.id + " " + to_hex(s.colour));
    seen.sort();
    QCOMPARE(seen, (QStringList{" #123456", "RED #0000ff", "RED #ff0000"}));
  }

  void what_is_no_line_is_told() {
    const auto d = read_dxf(file(line(0, 0, 1, 0) + "0\nTEXT\n8\n0\n10\n5\n20\n6\n40\n2\n1\nhello\n"
                                                    "0\nXLINE\n8\n0\n10\n0\n20\n0\n11\n1\n21\n0\n"
                                                    "0\nINSERT\n8\n0\n2\nGONE\n10\n0\n20\n0\n"));
    QVERIFY(d.ok());
    QCOMPARE(count(*d, Lost::Text), std::size_t{1});
    QCOMPARE(d->left_out[0].places.at(0), (Box{5, -8, 7, -6}));
    QCOMPARE(count(*d, Lost::Endless), std::size_t{1});
    QCOMPARE(count(*d, Lost::Missing), std::size_t{1});
  }

  void a_file_that_is_cut_short_says_so() {
    const std::string whole = file(line(0, 0, 1, 0) + line(0, 1, 1, 1));
    const auto d = read_dxf(whole.substr(0, whole.rfind("LINE")));
    QVERIFY(d.ok() && d->shapes.size() == 1);
    QCOMPARE(count(*d, Lost::CutShort), std::size_t{1});
  }

  // Through points: a circle's points give the circle within the interpolation's own error (h⁴/384 of the fourth
  // derivative and less at the ends: Hall & Meyer, Optimal error bounds for cubic spline interpolation, 1976).
  void splines_through_points() {
    std::vector<Point> p;
    for (int i = 0; i < 24; ++i)
      p.push_back(10.0 * direction(i * pi / 12));
    p.push_back(p.front());
    for (const Segment& s : through_points(p, {}, {}, true))
      for (const double t : {0.25, 0.5, 0.75})
        QVERIFY(std::abs(length(s.at(t)) - 10) < 0.001);
    const std::vector<Segment> open = through_points({{0, 0}, {10, 5}, {20, 0}}, {0, 1}, {0, -1}, false);
    QVERIFY(distance(unit(open.front().derivative(0)), {0, 1}) < 1e-9);
    QVERIFY(distance(unit(open.back().derivative(1)), {0, -1}) < 1e-9);
    QVERIFY(distance(open[0].second(1), open[1].second(0)) < 1e-9 * 100 + 0.1 * length(open[0].second(1)));
    QVERIFY(spline_cubics({3, {0, 0, 1}, {{0, 0}, {1, 1}}, {}}, 0.001).empty());
  }

  // Ours out, in, out: stable.
  void our_own_come_back_data() {
    QTest::addColumn<int>("version");
    QTest::addColumn<bool>("arcs");
    QTest::newRow("R2000") << static_cast<int>(DxfVersion::R2000) << false;
    QTest::newRow("R2000 arcs") << static_cast<int>(DxfVersion::R2000) << true;
    QTest::newRow("R12") << static_cast<int>(DxfVersion::R12) << false;
    QTest::newRow("R12 arcs") << static_cast<int>(DxfVersion::R12) << true;
  }
  void our_own_come_back() {
    QFETCH(int, version);
    QFETCH(bool, arcs);
    DxfOptions options;
    options.version = static_cast<DxfVersion>(version), options.arcs = arcs;
    Contour wave{{Segment::cubic({0, 0}, {10, 30}, {30, -20}, {40, 10}), Segment::line({40, 10}, {20, 40}),
                  Segment::line({20, 40}, {0, 0})},
                 true};
    CutSheet sheet{{0, 0, 100, 80}, {}};
    Outline shapes{{wave, circle_contour({60, 40}, 10)}};
    shapes.make_area_positive();
    sheet.pieces.push_back({PieceId{1}, "A", {0xff, 0, 0}, Destination::Knife, shapes});
    const std::string first = *write_dxf(cut_plan(sheet, {}, {}), options);
    const auto again = [](const std::string& bytes) {
      const auto d = read_dxf(bytes);
      CutSheet back{{0, 0, 100, 80}, {}};
      std::uint64_t id = 0;
      for (const DrawnShape& s : d->shapes) // y down from the lower edge
        back.pieces.push_back(
            {PieceId{++id}, "A", s.colour, Destination::Knife, s.outline.transformed(Affine::translation({0, 80}))});
      return back;
    };
    const CutSheet one = again(first), two = again(*write_dxf(cut_plan(one, {}, {}), options));
    QCOMPARE(one.pieces.size(), std::size_t{2});
    QCOMPARE(two.pieces.size(), one.pieces.size());
    Box a, b;
    double length = 0, length_again = 0;
    for (std::size_t i = 0; i < one.pieces.size(); ++i) {
      a.add(one.pieces[i].outline.bounds()), b.add(two.pieces[i].outline.bounds());
      length += one.pieces[i].outline.length(), length_again += two.pieces[i].outline.length();
    }
    QVERIFY2(difference(a, b) < 1e-5, qPrintable(QString::number(difference(a, b))));
    QVERIFY2(std::abs(length - length_again) < 1e-4, qPrintable(QString::number(length - length_again)));
    QVERIFY(difference(a, shapes.bounds()) < (version == static_cast<int>(DxfVersion::R12) ? 0.011 : 0.001));
  }

  void damaged_files_end_in_a_message() {
    const std::string whole =
        file(line(0, 0, 10, 0) + "0\nLWPOLYLINE\n8\n0\n90\n3\n70\n1\n10\n0\n20\n0\n10\n5\n20\n0\n10\n"
                                 "5\n20\n5\n0\nSPLINE\n8\n0\n70\n8\n71\n3\n72\n8\n73\n4\n40\n0\n40\n"
                                 "0\n40\n0\n40\n0\n40\n1\n40\n1\n40\n1\n40\n1\n10\n0\n20\n0\n10\n1\n"
                                 "20\n9\n10\n5\n20\n9\n10\n9\n20\n0\n");
    QCOMPARE(read_dxf(whole)->shapes.size(), std::size_t{2}); // the spline goes on from the line
    for (std::size_t cut = 0; cut < whole.size(); cut += 7)
      static_cast<void>(read_dxf(whole.substr(0, cut)));
    std::mt19937 random(7);
    for (int i = 0; i < 2000; ++i) {
      std::string bytes = whole;
      for (int k = 0; k < 3; ++k)
        bytes[random() % bytes.size()] = static_cast<char>(random() % 96 + 32);
      static_cast<void>(read_dxf(bytes));
    }
    QVERIFY(read_dxf("AutoCAD Binary DXF\r\n\x1a").error().text().find("binary") != std::string::npos);
    QVERIFY(!read_dxf("hello").ok() && !read_dxf("").ok());
  }

  void nothing_goes_on_for_ever() {
    QVERIFY(read_dxf(file("999\n" + QString("x").repeated(5000) + "\n" + line(0, 0, 1, 0))).ok()); // a long line
    // Blocks of blocks of blocks, and one in itself.
    QString blocks = "0\nENDSEC\n0\nSECTION\n2\nBLOCKS\n";
    const auto block = [](const QString& name, const QString& inside) {
      return "0\nBLOCK\n8\n0\n2\n" + name + "\n70\n0\n10\n0\n20\n0\n" + inside + "0\nENDBLK\n8\n0\n";
    };
    const auto insert = [](const QString& name) { return "0\nINSERT\n8\n0\n2\n" + name + "\n10\n0\n20\n0\n"; };
    blocks += block("B0", line(0, 0, 1, 0)) + block("SELF", insert("SELF") + line(0, 0, 5, 5));
    for (int i = 1; i < 12; ++i)
      blocks += block(QString("B%1").arg(i), insert(QString("B%1").arg(i - 1)).repeated(10));
    const auto d = read_dxf(file(insert("B11") + insert("SELF"), blocks));
    QVERIFY(d.ok() && count(*d, Lost::TooMuch) > 0);
    // Rows and columns beyond all sense, numbers that say there is more than there is.
    QVERIFY(read_dxf(file("0\nINSERT\n8\n0\n2\nB0\n10\n0\n20\n0\n70\n32000\n71\n32000\n44\n1\n45\n1\n", blocks)).ok());
    QVERIFY(read_dxf(file(line(0, 0, 1, 0) + "0\nSPLINE\n8\n0\n71\n3\n72\n2000000000\n73\n2000000000\n74\n2000000000\n"
                                             "0\nLWPOLYLINE\n8\n0\n90\n2000000000\n10\n0\n20\n0\n"))
                .ok());
    QVERIFY(
        read_dxf(file(line(0, 0, 1e300, 0) + line(0, 0, 1, 0) + "0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n1e200\n")).ok());
  }

private:
  QTemporaryDir dir_;
  QList<QJsonObject> samples_;
};

QTEST_APPLESS_MAIN(TestDxfIn)
#include "test_dxf_in.moc"
