// HP-GL of others, by the instructions of its manuals (formats/hpgl.h, hpgl_read.h); our own read back in every way it
// can be written; damaged ones.
#include "document/evaluate.h"
#include "document/job_file.h"
#include "formats/export.h"
#include "formats/hpgl_read.h"
#include "formats/read_back.h"
#include "support/fixtures.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <random>

using namespace frelm;

namespace {

double length_of(const Drawing& d) {
  double sum = 0;
  for (const DrawnShape& s : d.shapes)
    sum += s.outline.length();
  return sum;
}

CutPlan plan_of(const QString& path) {
  QFile file(path);
  if (!file.open(QIODevice::ReadOnly))
    return {};
  static FaceLibrary faces(FRELM_SOURCE_DIR "/assets/faces", false);
  const auto document = read_job(file.readAll().toStdString());
  const DocumentEvaluator evaluator(faces);
  return cut_plan(*cut_sheet(*document, evaluator), document->materials, {});
}

// Polyline Encoded, as the manual has it (formats/hpgl_read.h): a number with `bits` of fraction, in 7 or 8 bits.
QByteArray encoded(double v, int bits, bool seven) {
  long long n = std::llround(std::ldexp(std::abs(v), bits)) * 2 + (v < 0 ? 1 : 0);
  const int base = seven ? 32 : 64;
  QByteArray out;
  for (; n >= base; n /= base)
    out += static_cast<char>(63 + n % base);
  return out + static_cast<char>((seven ? 95 : 191) + n);
}

} // namespace

class TestHpglIn : public QObject {
  Q_OBJECT

private slots:
  void instructions_data() {
    QTest::addColumn<QByteArray>("plot");
    QTest::addColumn<double>("length"); // mm
    QTest::addColumn<int>("shapes");
    QTest::addColumn<QRectF>("box"); // mm, y down
    const auto row = [](const char* name, const QByteArray& plot, double length, int shapes, const QRectF& box) {
      QTest::newRow(name) << plot << length << shapes << box;
    };
    row("absolute", "IN;SP1;PU400,400;PD800,400,800,800;PU;SP0;", 20, 1, {10, -20, 10, 10});
    row("PA and PD apart", "IN;SP1;PU;PA400,400;PD;PA800,400;PA800,800;PU;", 20, 1, {10, -20, 10, 10});
    row("relative", "IN;PU400,400;PR;PD400,0,0,400;PU;", 20, 1, {10, -20, 10, 10});
    row("without separators, small letters", "in;pu400 400pd800 400pd800 800pu", 20, 1, {10, -20, 10, 10});
    row("signs and points", "IN;PU+400.0,-400;PD+800.5,-400;", 10.0125, 1, {10, 10, 10.0125, 0});
    row("a closed square", "IN;PU0,0;PD400,0,400,400,0,400,0,0;PU;", 40, 1, {0, -10, 10, 10});
    row("two pens", "IN;SP1;PU0,0;PD400,0;SP2;PU0,400;PD400,400;", 20, 2, {0, -10, 10, 10});
    row("circle", "IN;PU400,400;CI200;", 2 * pi * 5, 1, {5, -15, 10, 10});
    row("arc, a quarter", "IN;PU400,0;PD;AA0,0,90;PU;", pi * 5, 1, {0, -10, 10, 10});
    row("arc, clockwise and relative", "IN;PU400,0;PD;AR-400,0,-90;PU;", pi * 5, 1, {0, 0, 10, 10});
    row("rectangles", "IN;PU0,0;EA400,800;PU1000,0;ER400,400;", 100, 2, {0, -20, 35, 20});
    row("wedge", "IN;PU0,0;EW400,0,90;", 20 + pi * 5, 1, {0, -10, 10, 10});
    row("scaled", "IN;IP0,0,4000,4000;SC0,100,0,100;PU10,10;PD20,10,20,20;", 20, 1, {10, -20, 10, 10});
    row("a polygon's edges", "IN;PU0,0;PM0;PD400,0,400,400,0,0;PM2;EP;", 20 + 10 * std::sqrt(2.0), 1, {0, -10, 10, 10});
    row("pen up draws nothing", "IN;PU0,0;PD400,0;PU400,400;PD0,400;", 20, 2, {0, -10, 10, 10});
    row("words of the device", "\x1b.(\x1b.I81;;17:IN;VS20;FS6;PU0,0;PD400,0;", 10, 1, {0, 0, 10, 0});
    row("ends that meet are joined", "IN;PU0,0;PD400,0;PU400,400;PD400,0;", 20, 1, {0, -10, 10, 10});
    row("twice the same", "IN;PU0,0;PD400,0;PU0,0;PD400,0;", 10, 1, {0, 0, 10, 0});
  }
  void instructions() {
    QFETCH(QByteArray, plot);
    QFETCH(double, length);
    QFETCH(int, shapes);
    QFETCH(QRectF, box);
    const auto d = read_drawing(plot.toStdString());
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    QCOMPARE(static_cast<int>(d->shapes.size()), shapes);
    QVERIFY2(std::abs(length_of(*d) - length) < 0.002, qPrintable(QString::number(length_of(*d))));
    const Box b = d->frame;
    QVERIFY2(std::abs(b.x0 - box.x()) < 0.001 && std::abs(b.y0 - box.y()) < 0.001 &&
                 (box.width() == 10.0125 || std::abs(b.width() - box.width()) < 0.001) &&
                 std::abs(b.height() - box.height()) < 0.001,
             qPrintable(QString("%1 %2 %3 %4").arg(b.x0).arg(b.y0).arg(b.width()).arg(b.height())));
    QVERIFY(d->size == SizeFrom::Lengths);
  }

  void lines_go_on_where_an_arc_ends() {
    const auto d = read_hpgl("IN;PU-1196,-4627;PD-71,-4369;AA-2890,-916,37;PD-678,-6927;AR13,57,200;PD0,0;");
    QVERIFY(d.ok());
    const std::vector<Segment>& s = d->shapes.at(0).outline.contours.at(0).segments;
    QVERIFY(s.size() > 5);
    for (std::size_t i = 1; i < s.size(); ++i)
      QVERIFY(s[i].p0 == s[i - 1].p3);
  }

  void encoded_places_data() {
    QTest::addColumn<bool>("seven");
    QTest::addColumn<int>("bits");
    QTest::newRow("8 bits") << false << 0;
    QTest::newRow("7 bits") << true << 0;
    QTest::newRow("8 bits, fractions") << false << 7;
    QTest::newRow("7 bits, fractions") << true << 5;
  }
  // A zigzag by its steps; read as its places say, and as hp2xx draws it.
  void encoded_places() {
    QFETCH(bool, seven);
    QFETCH(int, bits);
    const auto n = [&](double v) { return encoded(v, bits, seven); };
    QByteArray plot = "IN;SP1;PU0,0;PE";
    plot += seven ? "7" : "";
    plot += ">" + encoded(bits, 0, seven) + ":" + encoded(3, 0, seven);
    plot += "<=" + n(4000) + n(2000); // up, to a place
    plot += n(1000) + n(0) + n(-500) + n(1500.25) + "\n" + n(-8000) + n(-2);
    plot += "<" + n(100) + n(100) + n(0) + n(-400); // up for one step only
    plot += ":" + encoded(4, 0, seven) + n(30) + n(40) + ";PU;SP0;";
    const auto d = read_hpgl(plot.toStdString());
    QVERIFY2(d.ok() && d->left_out.empty(), d.ok() ? in_one_line(d->left_out).c_str() : d.error().text().c_str());
    QCOMPARE(d->shapes.size(), std::size_t{3}); // a chain each
    QVERIFY(d->shapes[0].id == "pen-3" && d->shapes[1].id == "pen-3" && d->shapes[2].id == "pen-4");
    const double unit = std::ldexp(0.025, -bits);
    Box box = d->shapes[0].outline.bounds();
    box.add(d->shapes[1].outline.bounds());
    for (const auto& [seen, wanted] :
         {std::pair{box.x0, -3500.0}, {box.x1, 5000.0}, {-box.y1, 2000.0}, {-box.y0, 3598.25}})
      QVERIFY2(std::abs(seen - wanted * 0.025) <= unit, qPrintable(QString("%1 for %2").arg(seen).arg(wanted * 0.025)));
    QVERIFY(std::abs(d->shapes[2].outline.length() - 50 * 0.025) < 1e-9);

    if (bits > 0)
      return; // hp2xx takes the pen's number for a fraction too
    QTemporaryDir room;
    QFile file(room.filePath("zigzag.plt"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(plot);
    file.close();
    const QString eps = room.filePath("zigzag.eps");
    QProcess::execute("hp2xx", {"-q", "-m", "eps", "-t", "-f", eps, file.fileName()});
    QFile drawn(eps);
    QVERIFY(drawn.open(QIODevice::ReadOnly));
    DrawingReadOptions lines;
    lines.widest_line = 5;
    const auto seen = read_drawing(drawn.readAll().toStdString(), lines);
    QVERIFY2(seen.ok(), seen.ok() ? "" : seen.error().text().c_str());
    Box theirs, ours;
    for (const DrawnShape& s : seen->shapes)
      theirs.add(s.outline.bounds());
    for (const DrawnShape& s : d->shapes)
      ours.add(s.outline.bounds());
    constexpr double plotter_step = 0.1; // mm, of what hp2xx writes
    QVERIFY2(
        std::abs(theirs.width() - ours.width()) < plotter_step &&
            std::abs(theirs.height() - ours.height()) < plotter_step,
        qPrintable(
            QString("%1 x %2, %3 x %4").arg(theirs.width()).arg(theirs.height()).arg(ours.width()).arg(ours.height())));
  }

  void labels_and_what_is_not_read_are_told() {
    const auto d = read_hpgl("IN;PU400,400;LBhello\x03;PU0,0;PD400,0;PE<=\x7f!;RA10,10;");
    QVERIFY(d.ok());
    QCOMPARE(d->left_out.size(), std::size_t{2});
    QVERIFY(d->left_out[0].what == Lost::Text && d->left_out[0].places.at(0).x0 == 10);
    QCOMPARE(d->left_out[1].count, std::size_t{2});
    QVERIFY(!read_hpgl("IN the beginning was the word").ok() ||
            read_hpgl("IN the beginning was the word")->shapes.empty());
    QVERIFY(!read_hpgl("hello").ok() && !read_hpgl("").ok());
  }

  // Each way of writing, each example: what is read is what was to leave. And what was spoilt is found.
  void our_own_come_back_data() {
    QTest::addColumn<QString>("job");
    for (const QString& name : QDir(FRELM_SOURCE_DIR "/assets/demo").entryList({"*.frelm"}))
      QTest::newRow(qPrintable(name)) << FRELM_SOURCE_DIR "/assets/demo/" + name;
  }
  void our_own_come_back() {
    QFETCH(QString, job);
    const CutPlan plan = plan_of(job);
    for (int ways = 0; ways < 16; ++ways) {
      HpglOptions o;
      o.from_middle = ways & 1, o.turned = ways & 2, o.mirrored = ways & 4, o.spaces = ways & 8;
      const auto bytes = write_hpgl(plan, o);
      QVERIFY(bytes.ok());
      const auto same = same_in_hpgl(plan.sheet, *bytes, o);
      QVERIFY2(same.ok(), same.ok() ? "" : qPrintable(QString("%1: ").arg(ways) + same.error().text().c_str()));
      if (!plan.order.empty()) {
        HpglOptions other = o; // of a sheet as long as it is wide it would be the same
        other.from_middle = !o.from_middle;
        QVERIFY(!same_in_hpgl(plan.sheet, *bytes, other).ok());
        std::string spoilt = *bytes; // a contour loses its end
        const std::size_t up = spoilt.find("PU", spoilt.find("PD")), last = spoilt.rfind("PD", up);
        spoilt.erase(last, up - last);
        QVERIFY(!same_in_hpgl(plan.sheet, spoilt, o).ok());
      }
    }
    for (const bool r12 : {false, true})
      for (const bool arcs : {false, true})
        for (const Unit unit : {Unit::Millimetre, Unit::Inch}) {
          const DxfOptions o{r12 ? DxfVersion::R12 : DxfVersion::R2000, 0.01, unit, arcs};
          const auto bytes = write_dxf(plan, o);
          QVERIFY(bytes.ok());
          const auto same = same_in_dxf(plan.sheet, *bytes, o);
          QVERIFY2(same.ok(), same.ok() ? "" : same.error().text().c_str());
          if (plan.order.empty())
            continue;
          std::string spoilt = *bytes; // a place moved by a tenth
          const std::size_t at = spoilt.find(r12 ? "VERTEX" : "ENTITIES");
          const std::size_t x = spoilt.find("\n 10\n", at) + 5;
          spoilt.insert(x, "9");
          QVERIFY(!same_in_dxf(plan.sheet, spoilt, o).ok());
        }
  }

  // Out, in, out: to one unit.
  void stable() {
    const CutPlan plan = plan_of(FRELM_SOURCE_DIR "/assets/demo/tide-decal.frelm");
    const std::string first = *write_hpgl(plan, {});
    const auto d = read_hpgl(first, {.clean = Clean::AsWritten});
    CutSheet back{plan.sheet.frame, {}};
    std::uint64_t id = 0;
    for (const DrawnShape& s : d->shapes)
      back.pieces.push_back({PieceId{++id}, s.id, s.colour, Destination::Knife,
                             s.outline.transformed(Affine::translation({plan.sheet.frame.x0, plan.sheet.frame.y1}))});
    const std::string second = *write_hpgl(cut_plan(back, {}, {}), {});
    const auto again = read_hpgl(second, {.clean = Clean::AsWritten});
    QCOMPARE(again->shapes.size(), d->shapes.size());
    QVERIFY(std::abs(again->frame.width() - d->frame.width()) <= 0.025 &&
            std::abs(again->frame.height() - d->frame.height()) <= 0.025);
    QVERIFY(std::abs(length_of(*again) - length_of(*d)) < 1e-6 * length_of(*d) + 0.025);
  }

  void damaged_ones_end() {
    const std::string whole = *write_hpgl(plan_of(FRELM_SOURCE_DIR "/assets/demo/herring-tag.frelm"), {});
    std::mt19937 random(3);
    for (int i = 0; i < 500; ++i) {
      std::string bytes = whole.substr(0, random() % whole.size());
      for (int k = 0; k < 4 && !bytes.empty(); ++k)
        bytes[random() % bytes.size()] = static_cast<char>(random() % 128);
      static_cast<void>(read_hpgl(bytes));
    }
    QVERIFY(read_hpgl("IN;PU0,0;PD1e300,1e300;PU0,0;PD400,0;CI1e308;AA0,0,1e300;").ok());
    QVERIFY(read_hpgl("IN;" + std::string(1'000'000, ';') + "PU0,0;PD1,1;").ok());
  }
};

QTEST_APPLESS_MAIN(TestHpglIn)
#include "test_hpgl_in.moc"
