// The command line, run as a program.
#include "cli/run.h"
#include "document/job_file.h"
#include "document/storage.h"
#include "formats/svg.h"
#include "reference/hb_shape.h"
#include "reference/svg_extents.h"
#include "support/fixtures.h"

#include <QFile>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

const QString badge = FRELM_SOURCE_DIR "/assets/demo/saltmarsh-badge.frelm";
QString font(const char* name) {
  return QString::fromStdString(face_file(name));
}
QStringList seat(const QStringList& more) {
  return QStringList{"seat",   "--text", "Marigold",  "--face", font("dancing-script/DancingScript-Bold.otf"),
                     "--size", "40",     "--size-by", "em"} +
         more;
}

// A drawing in a file of its own; its path.
QString drawing(const QTemporaryDir& dir, const char* size, const char* paths) {
  QFile file(dir.filePath("in.svg"));
  if (!file.open(QIODevice::WriteOnly))
    qFatal("no room for a test's file");
  file.write(QString("<svg xmlns='http://www.w3.org/2000/svg' width='%1mm' height='%1mm' viewBox='0 0 %1 %1'>%2</svg>")
                 .arg(size, paths)
                 .toUtf8());
  return file.fileName();
}

} // namespace

class TestCli : public QObject {
  Q_OBJECT

private slots:
  void seat_on_a_circle_matches_hb_shape_and_closed_forms() {
    const QString lato = font("lato/Lato-Regular.ttf");
    const Ran r = run({"seat", "--text", "Wharf", "--face", lato, "--size", "20", "--size-by", "em", "--circle", "75",
                       "--at", "90", "--side", "right", "--letter-spacing", "1", "--json"});
    QCOMPARE(r.code, 0);
    const auto glyphs = hb_shape(lato, "Wharf", {"--features=-liga,-clig"});
    double length = 4;
    for (const auto& g : glyphs)
      length += g.advance * 20 / 2000;
    const QJsonArray letters = r.json()["letters"].toArray();
    QCOMPARE(letters.size(), static_cast<qsizetype>(glyphs.size()));
    QVERIFY(std::abs(r.json()["used_length"].toDouble() - length) < 1e-9);
    QVERIFY(std::abs(r.json()["guide_length"].toDouble() - 150 * pi) < 1e-9);
    double pen = -length / 2;
    for (qsizetype i = 0; i < letters.size(); ++i) {
      const double a = glyphs[static_cast<std::size_t>(i)].advance * 20 / 2000, s = pen + a / 2;
      // Reversed circle about (0, 0): the angle from the top falls as s grows; tops point inward.
      const double phi = pi / 2 - s / 75;
      const Vec t{-std::cos(phi), -std::sin(phi)};
      const Point p = Point{75 * std::sin(phi), -75 * std::cos(phi)} - t * (a / 2);
      QVERIFY(std::hypot(letters[i]["x"].toDouble() - p.x, letters[i]["y"].toDouble() - p.y) < 0.001);
      QVERIFY(std::abs(wrap_degrees(letters[i]["angle_deg"].toDouble() - degrees(std::atan2(t.y, t.x)))) < 0.001);
      QCOMPARE(letters[i]["cluster"].toInt(), static_cast<int>(i));
      pen += a + 1;
    }
    QVERIFY(letters.last()["gap"].isNull());
    QVERIFY(letters[2]["gap"].toDouble() > 0);
  }

  void seat_on_an_arc_by_rise_uses_the_handbook_radius() {
    const Ran r = run(seat({"--arc", "rise=20", "--json"}));
    const double run_length = r.json()["used_length"].toDouble(),
                 radius = r.json()["guide_length"].toDouble() / (2 * pi);
    const double chord = 2 * radius * std::sin(run_length / (2 * radius));
    QVERIFY(std::abs(20.0 / 2 + chord * chord / (8 * 20.0) - radius) < 1e-6);
  }

  void seat_measures_from_the_reversed_start_on_the_other_side() {
    const QStringList guide{"--guide", "M0 0H300", "--start", "25%", "--json"};
    const QJsonArray left = run(seat(guide)).json()["letters"].toArray(),
                     right = run(seat(guide + QStringList{"--side", "right"})).json()["letters"].toArray();
    QVERIFY(std::abs(left[0]["x"].toDouble() - 75) < 1e-9);
    QVERIFY(std::abs(right[0]["x"].toDouble() - 225) < 1e-9);
    QVERIFY(std::abs(std::abs(right[0]["angle_deg"].toDouble()) - 180) < 1e-9);
  }

  void seat_takes_every_stance_data() {
    QTest::addColumn<QString>("stance");
    for (const char* s : {"turn", "stand", "lean", "flow"})
      QTest::newRow(s) << s;
  }
  void seat_takes_every_stance() {
    QFETCH(QString, stance);
    QTemporaryDir dir;
    const QStringList call{"seat",
                           "--text",
                           "Wharf",
                           "--face",
                           font("lato/Lato-Bold.ttf"),
                           "--size",
                           "20",
                           "--guide",
                           "M0 60C60 0 140 0 200 60",
                           "--stance",
                           stance};
    const Ran r = run(call + QStringList{"--json"});
    QCOMPARE(r.code, 0);
    const QJsonArray letters = r.json()["letters"].toArray();
    QCOMPARE(letters.size(), 5);
    const double first = letters[0].toObject()["angle_deg"].toDouble();
    QCOMPARE(std::abs(first) < 1e-9, stance == "stand");
    QVERIFY(stance == "stand" || first < -10);
    QCOMPARE(run(call + QStringList{"-o", dir.filePath("s.svg")}).code, 0);
    const QJsonObject got = svg_extents(dir.filePath("s.svg"));
    QCOMPARE(got["contours"].toInt(), got["closed"].toInt());
  }

  void seat_writes_welded_closed_outlines() {
    QTemporaryDir dir;
    const Ran r = run(seat({"--circle", "120", "-o", dir.filePath("m.svg")}));
    QCOMPARE(r.code, 0);
    QVERIFY(r.out.isEmpty());
    const QJsonObject got = svg_extents(dir.filePath("m.svg"));
    QCOMPARE(got["contours"].toInt(), got["closed"].toInt());
    QVERIFY(got["contours"].toInt() < 12);
    const Ran w = run({"weld", dir.filePath("m.svg"), "-o", dir.filePath("w.svg"), "--repeat", "3"});
    QCOMPARE(w.code, 0);
    QVERIFY(w.json()["median_s"].toDouble() > 0);
    QCOMPARE(w.json()["nodes_in"].toInt(), w.json()["nodes_out"].toInt());
    QCOMPARE(run({"check", dir.filePath("w.svg")}).code, 0); // its frame does not start at 0
  }

  // Letters that meet edge to edge, without any area in common: kept joined on every bend, one piece, or told.
  void letters_that_abut_stay_joined_data() {
    QTest::addColumn<QStringList>("bend");
    QTest::newRow("outside") << QStringList{"--circle", "60"};
    QTest::newRow("inside") << QStringList{"--circle", "80", "--side", "right"};
    QTest::newRow("flow") << QStringList{"--circle", "40", "--stance", "flow"};
    QTest::newRow("slanting") << QStringList{"--guide", "M0 0L800 116.09"};
  }
  void letters_that_abut_stay_joined() {
    QFETCH(QStringList, bend);
    QTemporaryDir dir;
    QProcess python;
    python.start("/usr/bin/python3", {FRELM_SOURCE_DIR "/tests/reference/make_faces.py", dir.path()});
    QVERIFY(python.waitForFinished(120'000));
    const Ran r = run(QStringList{"seat", "--text", "abcab", "--face", dir.filePath("abutting.otf"), "--size", "20",
                                  "--spacing", "joined", "--json", "-o", dir.filePath("o.svg")} +
                      bend);
    QCOMPARE(r.code, 0);
    const QJsonArray letters = r.json()["letters"].toArray();
    QCOMPARE(letters.size(), 5);
    for (qsizetype i = 0; i + 1 < letters.size(); ++i)
      QCOMPARE(letters[i].toObject()["look"].toString(), "joined");
    QCOMPARE(svg_extents(dir.filePath("o.svg"))["contours"].toInt(), 3); // one outer line, two counters
  }

  // Two squares of 10 mm that share one of 5 mm, drawn in opposite directions: SVG fills each by itself. Areas by hand:
  // 175 mm² and what a ring of 0.5 mm about 60 mm with six outer corners and two inner ones adds, or takes away.
  void paths_of_both_directions_are_filled_each_by_itself_data() {
    QTest::addColumn<QStringList>("arguments");
    QTest::addColumn<double>("area");
    const double r = 0.5;
    QTest::newRow("weld") << QStringList{"weld"} << 175.0;
    QTest::newRow("offset") << QStringList{"offset", "--distance", "0.5"}
                            << 175 + 60 * r + 6 * pi * r * r / 4 - 2 * r * r;
    QTest::newRow("inwards") << QStringList{"offset", "--distance", "-0.5"}
                             << 175 - 60 * r + 6 * r * r - 2 * pi * r * r / 4;
    QTest::newRow("shade") << QStringList{"shade", "--angle", "0", "--depth", "2"} << 175 + 2 * 15.0;
  }
  void paths_of_both_directions_are_filled_each_by_itself() {
    QFETCH(QStringList, arguments);
    QFETCH(double, area);
    QTemporaryDir dir;
    const QString in = drawing(dir, "20", "<path d='M0 0H10V10H0Z'/><path d='M5 5V15H15V5Z'/>");
    QCOMPARE(run(arguments + QStringList{in, "-o", dir.filePath("out.svg")}).code, 0);
    QFile out(dir.filePath("out.svg"));
    QVERIFY(out.open(QIODevice::ReadOnly));
    const auto drawing = read_svg(out.readAll().toStdString());
    QVERIFY(drawing.ok() && drawing->shapes.size() == 1);
    QVERIFY2(std::abs(drawing->shapes[0].outline.area() - area) < 0.02,
             qPrintable(QString::number(drawing->shapes[0].outline.area())));
  }

  void two_drawings_are_combined_data() {
    QTest::addColumn<QString>("command");
    QTest::addColumn<QList<double>>("box");
    QTest::addColumn<int>("contours");
    // Squares of 10 mm at (0, 0) and (5, 5).
    QTest::newRow("weld") << "weld" << QList<double>{0, 0, 15, 15} << 1;
    QTest::newRow("cutaway") << "cutaway" << QList<double>{0, 0, 10, 10} << 1;
    QTest::newRow("shared") << "shared" << QList<double>{5, 5, 10, 10} << 1;
    QTest::newRow("dropshared") << "dropshared" << QList<double>{0, 0, 15, 15} << 2;
  }
  void two_drawings_are_combined() {
    QFETCH(QString, command);
    QFETCH(QList<double>, box);
    QFETCH(int, contours);
    QTemporaryDir dir;
    for (const int at : {0, 5}) {
      QFile file(dir.filePath(QString("%1.svg").arg(at)));
      QVERIFY(file.open(QIODevice::WriteOnly));
      file.write(QString("<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm' viewBox='0 0 20 20'><rect "
                         "x='%1' y='%1' width='10' height='10'/></svg>")
                     .arg(at)
                     .toUtf8());
    }
    const Ran r =
        run({command, dir.filePath("0.svg"), dir.filePath("5.svg"), "-o", dir.filePath("out.svg"), "--repeat", "3"});
    QCOMPARE(r.code, 0);
    QVERIFY(r.json()["median_s"].toDouble() > 0);
    QCOMPARE(r.json()["contours"].toInt(), contours);
    const QJsonObject got = svg_extents(dir.filePath("out.svg"));
    for (int i = 0; i < 4; ++i)
      QVERIFY(std::abs(got["box"].toArray()[i].toDouble() - box[i]) < 0.001);
    QCOMPARE(run({"cutaway", dir.filePath("0.svg"), "-o", dir.filePath("out.svg")}).code, 2); // one file is not enough
  }

  // Squares and their rings by hand.
  void finish_makes_the_layers_it_is_told_to() {
    QTemporaryDir dir;
    const QStringList call{"finish", drawing(dir, "40", "<path d='M10 10h10v10h-10z'/>"), "-o",
                           dir.filePath("out.svg")};
    const auto areas = [&](const QStringList& steps) {
      QStringList out;
      for (const auto layer : run(call + steps).json()["layers"].toArray())
        out << layer.toObject()["id"].toString() + " " + QString::number(layer.toObject()["area"].toDouble(), 'f', 1);
      return out.join(", ");
    };
    QCOMPARE(areas({"--weld"}), QString("letters 100.0"));
    QCOMPARE(areas({"--border", "2", "--border", "4", "--corners", "mitre"}),
             QString("ring-2 324.0, ring-1 196.0, letters 100.0"));
    QCOMPARE(areas({"--border", "2", "--border", "4", "--corners", "mitre", "--taken-out", "0"}),
             QString("ring-2 128.0, ring-1 96.0, letters 100.0"));
    QCOMPARE(areas({"--border", "2", "--inside", "--taken-out", "0.5"}), QString("letters 49.0, ring-1 64.0"));
    QCOMPARE(areas({"--border", "2", "--corners", "mitre", "--shade", "0,3"}),
             QString("shade 238.0, ring-1 196.0, letters 100.0"));
    QCOMPARE(areas({"--shade", "90,3", "--gap", "1"}), QString("shade 20.0, letters 100.0"));
    QFile out(dir.filePath("out.svg"));
    QVERIFY(out.open(QIODevice::ReadOnly));
    QVERIFY(out.readAll().contains("<g id=\"shade\""));
    const Ran lost = run(call + QStringList{"--inside"});
    QVERIFY(lost.code != 0 && lost.err.contains("--border"));
  }

  void geometry_commands_report_and_write_data() {
    QTest::addColumn<QStringList>("arguments");
    QTest::addColumn<QList<double>>("box"); // of what is written; the square is 5 … 15 both ways
    QTest::addColumn<int>("contours");
    const auto row = [](const char* name, const QStringList& a, const QList<double>& box, int contours) {
      QTest::newRow(name) << a << box << contours;
    };
    row("offset-mitre", {"offset", "--distance", "2", "--join", "mitre"}, {3, 3, 17, 17}, 1);
    row("offset-inside", {"offset", "--distance", "-2"}, {7, 7, 13, 13}, 1);
    row("offset-rings", {"offset", "--distance", "1", "--rings", "3"}, {2, 2, 18, 18}, 3);
    row("offset-gone", {"offset", "--distance", "-6"}, {}, 0);
    row("shade-block", {"shade", "--angle", "0", "--depth", "4"}, {5, 5, 19, 15}, 1);
    row("shade-drop-alone", {"shade", "--angle", "90", "--depth", "4", "--kind", "drop", "--alone"}, {5, 15, 15, 19},
        1);
    row("thin", {"thin", "--tolerance", "0.05"}, {5, 5, 15, 15}, 1);
    row("warp", {"warp", "--top", "M0 0H30", "--bottom", "M0 20H30"}, {0, 0, 30, 20}, 1);
    row("warp-into", {"warp", "--into", "M0 0H30V20H0Z"}, {0, 0, 30, 20}, 1);
    row("warp-into-corners", {"warp", "--into", "M0 0H30V20H0Z", "--corners", "0,30,50,80"}, {0, 0, 30, 20}, 1);
    row("warp-kept", {"warp", "--top", "M0 0L30 6", "--bottom", "M0 20H30", "--verticals", "kept"}, {0, 0, 30, 20}, 1);
  }
  void geometry_commands_report_and_write() {
    QFETCH(QStringList, arguments);
    QFETCH(QList<double>, box);
    QFETCH(int, contours);
    QTemporaryDir dir;
    QFile file(dir.filePath("in.svg"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write("<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm' viewBox='0 0 20 20'><path d='M5 "
               "5H8H15V15H5Z'/></svg>");
    file.close();
    const Ran r = run(arguments + QStringList{file.fileName(), "-o", dir.filePath("out.svg"), "--repeat", "3"});
    QVERIFY2(r.code == 0, r.err.constData());
    QCOMPARE(r.out.trimmed().count('\n'), 0);
    QVERIFY(r.json()["median_s"].toDouble() > 0);
    QVERIFY(r.json().contains("nodes_in") && r.json().contains("nodes_out") && r.json().contains("worst_deviation") &&
            r.json().contains("fallbacks"));
    QCOMPARE(r.json()["contours"].toInt(), contours);
    if (!box.empty())
      for (int i = 0; i < 4; ++i)
        QVERIFY(std::abs(svg_extents(dir.filePath("out.svg"))["box"].toArray()[i].toDouble() - box[i]) < 0.001);
  }
  void trace_reads_a_picture() {
    QTemporaryDir dir;
    QCOMPARE(run({"render", badge, "-o", dir.filePath("b.png")}).code, 0);
    const Ran r = run({"trace", dir.filePath("b.png"), "--width", "200", "-o", dir.filePath("b.svg")});
    QVERIFY2(r.code == 0, r.err.constData());
    QVERIFY(r.json()["contours"].toInt() > 10);
    QVERIFY(r.json()["nodes_out"].toInt() <= r.json()["nodes_in"].toInt());
    // Its colours, the paper left out: as many outlines in the file.
    const Ran colours =
        run({"trace", dir.filePath("b.png"), "--width", "200", "--colours", "3", "-o", dir.filePath("c.svg")});
    QVERIFY2(colours.code == 0, colours.err.constData());
    QCOMPARE(svg_extents(dir.filePath("c.svg"))["paths"].toInt(), int(colours.json()["colours"].toArray().size()));
    QCOMPARE(run({"trace", dir.filePath("b.png"), "--width", "0", "-o", dir.filePath("d.svg")}).code, 2);
  }

  void plan_tells_the_order_and_the_time() {
    QTemporaryDir dir;
    const Ran r = run({"plan", badge, "-o", dir.filePath("b.json"), "-o", dir.filePath("b.plt")});
    QVERIFY2(r.code == 0, r.err.constData());
    QVERIFY(r.json()["seconds"].toDouble() > 1 && r.json()["travel_mm"].toDouble() > 0);
    QVERIFY(QFile(dir.filePath("b.plt")).size() > 500);
    QFile file(dir.filePath("b.json"));
    QVERIFY(file.open(QFile::ReadOnly));
    const QJsonObject plan = QJsonDocument::fromJson(file.readAll()).object();
    const QJsonArray paths = plan["paths"].toArray();
    QCOMPARE(paths.size(), r.json()["paths"].toInt());
    double length = 0;
    for (int i = 0; i < paths.size(); ++i) {
      const QJsonObject p = paths[i].toObject();
      length += p["length"].toDouble();
      QVERIFY(p["inside"].isNull() || p["inside"].toInt() > i); // later
      QVERIFY(p["closed"].toBool() && p["start"].toArray().size() == 2);
    }
    QVERIFY(std::abs(length - plan["cut_mm"].toDouble()) < 1e-6 * length);
    QCOMPARE(run({"plan", dir.filePath("none.frelm")}).code, 2);
  }

  void render_writes_the_cut_file_and_a_picture() {
    QTemporaryDir dir;
    QCOMPARE(run({"render", badge, "-o", dir.filePath("b.svg")}).code, 0);
    QCOMPARE(svg_extents(dir.filePath("b.svg"))["paths"].toInt(), 3);
    QCOMPARE(run({"render", badge, "-o", dir.filePath("b.png"), "--view", "lines"}).code, 0);
    QVERIFY(QFile(dir.filePath("b.png")).size() > 2000);
  }

  void render_writes_several_formats_one_material_and_a_file_for_each() {
    QTemporaryDir dir;
    const auto lines = [&](const QString& name) { return svg_extents(dir.filePath(name))["contours"].toInt(); };
    QCOMPARE(run({"render", badge, "-o", dir.filePath("b.svg"), dir.filePath("b.dxf"), dir.filePath("b.PLT")}).code, 0);
    for (const char* name : {"b.svg", "b.dxf", "b.PLT"})
      QVERIFY(QFile(dir.filePath(name)).size() > 2000);
    QCOMPARE(run({"render", badge, "-o", dir.filePath("tan.svg"), "--sheet", "Tan"}).code, 0);
    QCOMPARE(run({"render", badge, "-o", dir.filePath("tan2.svg"), "--sheet", "#7a4a14"}).code, 0);
    QVERIFY(lines("tan.svg") > 0 && lines("tan.svg") < lines("b.svg"));
    QCOMPARE(lines("tan2.svg"), lines("tan.svg"));
    QCOMPARE(run({"render", badge, "-o", dir.filePath("s.svg"), "--split"}).code, 0);
    QCOMPARE(lines("s-Ink.svg") + lines("s-Tan.svg") + lines("s-Madder.svg"), lines("b.svg"));
    // Two materials of one name don't write over each other.
    Document twins = *read_job(DiskStorage().read(badge.toStdString()).value_or(""));
    for (Material& m : twins.materials)
      m.name = "Vinyl";
    QVERIFY(DiskStorage().write(dir.filePath("twins.frelm").toStdString(), write_job(twins, bundled_faces())).ok());
    QCOMPARE(run({"render", dir.filePath("twins.frelm"), "-o", dir.filePath("t.svg"), "--split"}).code, 0);
    QCOMPARE(lines("t-Vinyl.svg") + lines("t-Vinyl-2.svg") + lines("t-Vinyl-3.svg"), lines("b.svg"));
    QCOMPARE(run({"render", badge, "-o", dir.filePath("p.pdf"), "--pages", "--filled"}).code, 0);
    QVERIFY(QFile(dir.filePath("p.pdf")).size() > 2000);
    QCOMPARE(run({"render", badge, "-o", dir.filePath("pen.svg"), "--destination", "pen"}).code, 0);
    QCOMPARE(lines("pen.svg"), 0);
  }

  void render_knows_what_readers_want() {
    QTemporaryDir dir;
    const auto text = [&](const QString& name) {
      QFile file(dir.filePath(name));
      return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    };
    const auto rendered = [&](const QString& name, const QStringList& options) {
      return run(QStringList{"render", badge, "-o", dir.filePath(name)} + options).code == 0 ? text(name)
                                                                                             : QByteArray();
    };
    const QByteArray plain = rendered("p.svg", {"--plain", "--lines", "--pixels"});
    QVERIFY(plain.contains("stroke-width") && !plain.contains("<g") && !plain.contains("mm\""));
    QVERIFY(rendered("a.dxf", {"--inches", "--arcs"}).contains("$INSUNITS"));
    QVERIFY(rendered("t.plt", {"--turned", "--page-size", "--spaces", "--back-home"}).startsWith("IN;PS16000 24000;"));
    QVERIFY(rendered("s.eps", {"--spot", "Blade"}).contains("/Separation (Blade)"));
    const QByteArray png = rendered("g.png", {"--picture-width", "300", "--ground", "none"});
    QCOMPARE(png.mid(16, 4).toHex(), QByteArray("0000012c")); // PNG 1.2, 4.1.1: width, and colour type 6 has alpha
    QCOMPARE(static_cast<int>(png.at(25)), 6);
    // A job in an SVG is a job for all commands; a changed drawing is told.
    QVERIFY(rendered("j.svg", {"--with-job"}).contains("<metadata>"));
    QCOMPARE(run({"render", dir.filePath("j.svg"), "-o", dir.filePath("again.svg")}).code, 0);
    QVERIFY(!rendered("b.svg", {}).isEmpty());
    QCOMPARE(text("again.svg"), text("b.svg"));
    QFile changed(dir.filePath("j.svg"));
    const QByteArray other = text("j.svg").replace("</svg>", "<rect width='9' height='9'/></svg>");
    QVERIFY(changed.open(QIODevice::WriteOnly) && changed.write(other) > 0);
    changed.close();
    QCOMPARE(run({"render", dir.filePath("j.svg"), "-o", dir.filePath("j.svg")}).code, 2); // never over the job itself
    QCOMPARE(text("j.svg"), other);
    const Ran told = run({"check", dir.filePath("j.svg"), "--json"});
    QVERIFY(told.code == 0 && told.err.contains("changed by another program"));
    QCOMPARE(run({"proof", badge, "-o", dir.filePath("p.pdf"), "--title", "Badge", "--paper", "letter"}).code, 0);
    QVERIFY(text("p.pdf").startsWith("%PDF"));
  }

  void letters_prints_a_line_for_each_lettering() {
    const Ran all = run({"letters", badge});
    QCOMPARE(all.code, 0);
    QCOMPARE(all.out.trimmed().split('\n').size(), 3);
    QCOMPARE(run({"letters", badge, "--piece", "nobody"}).code, 2);
  }

  void check_gives_0_1_and_2() {
    QCOMPARE(run({"check", badge}).code, 0);
    QTemporaryDir dir;
    QFile open(dir.filePath("open.svg"));
    QVERIFY(open.open(QIODevice::WriteOnly));
    open.write("<svg xmlns='http://www.w3.org/2000/svg' width='50mm' height='50mm' viewBox='0 0 50 50'><path d='M1 "
               "1H9V9' fill='none' stroke='red' stroke-width='.1'/></svg>");
    open.close();
    const Ran found = run({"check", open.fileName(), "--json"});
    QCOMPARE(found.code, 1);
    QVERIFY(found.json()["findings"].toArray().first().toObject()["title"].toString().contains("not closed"));
    QCOMPARE(run({"check", dir.filePath("none.frelm")}).code, 2);
  }

  void wrong_calls_end_with_2_and_one_line_data() {
    QTest::addColumn<QStringList>("arguments");
    QTest::newRow("nothing") << QStringList{};
    QTest::newRow("unknown-command") << QStringList{"fold"};
    QTest::newRow("two-guides") << seat({"--circle", "50", "--guide", "M0 0H9"});
    QTest::newRow("no-guide") << seat({});
    QTest::newRow("zero-radius") << seat({"--circle", "0"});
    QTest::newRow("bad-path") << seat({"--guide", "M0 0Lx"});
    QTest::newRow("bad-side") << seat({"--circle", "50", "--side", "up"});
    QTest::newRow("stance-not-known") << seat({"--circle", "50", "--stance", "fly"});
    QTest::newRow("spacing-not-known") << seat({"--circle", "50", "--spacing", "tidy"});
    QTest::newRow("min-gap-not-a-length") << seat({"--circle", "50", "--min-gap", "-1"});
    QTest::newRow("nan") << seat({"--circle", "50", "--offset", "nan"});
    QTest::newRow("inf") << seat({"--circle", "50", "--letter-spacing", "inf"});
    QTest::newRow("beyond-every-sheet") << seat({"--circle", "1e300"});
    QTest::newRow("gap-without-even") << seat({"--circle", "50", "--gap", "1"});
    QTest::newRow("fill-and-gap") << seat({"--circle", "50", "--spacing", "even", "--gap", "1", "--fill"});
    QTest::newRow("arc-without-measure") << seat({"--arc", "50"});
    QTest::newRow("start-not-a-number") << seat({"--guide", "M0 0H9", "--start", "far"});
    QTest::newRow("format-not-built") << QStringList{"render", badge, "-o", "x.doc"};
    QTest::newRow("tab-of-nothing") << QStringList{"finish", badge, "-o", "x.svg", "--tab", "0,5,2"};
    QTest::newRow("no-such-material") << QStringList{"render", badge, "-o", "x.svg", "--sheet", "Fog"};
    QTest::newRow("ground-no-colour") << QStringList{"render", badge, "-o", "x.png", "--ground", "dusk"};
    QTest::newRow("picture-too-wide") << QStringList{"render", badge, "-o", "x.png", "--picture-width", "99999999"};
    QTest::newRow("job-in-a-dxf") << QStringList{"render", badge, "-o", "x.dxf", "--with-job"};
    QTest::newRow("nothing-to-split") << QStringList{"render", badge, "-o", "x.svg", "--split", "--destination", "pen"};
    QTest::newRow("proof-as-svg") << QStringList{"proof", badge, "-o", "x.svg"};
    QTest::newRow("proof-on-a5") << QStringList{"proof", badge, "-o", "x.pdf", "--paper", "a5"};
    QTest::newRow("no-such-destination") << QStringList{"render", badge, "-o", "x.svg", "--destination", "sea"};
    QTest::newRow("chords-of-nothing") << QStringList{"render", badge, "-o", "x.plt", "--flatten", "0"};
    QTest::newRow("view-not-built") << QStringList{"render", badge, "-o", "x.png", "--view", "knife"};
    QTest::newRow("not-a-job") << QStringList{"render", FRELM_SOURCE_DIR "/LICENSE", "-o", "x.svg"};
    QTest::newRow("missing-svg") << QStringList{"weld", "none.svg", "-o", "x.svg"};
    QTest::newRow("offset-without-distance") << QStringList{"offset", "none.svg", "-o", "x.svg"};
    QTest::newRow("join-not-known") << QStringList{"offset", "none.svg", "--distance", "1",
                                                   "--join", "pointed",  "-o",         "x.svg"};
    QTest::newRow("thin-missing-file") << QStringList{"thin", "none.svg", "--tolerance", "0.1", "-o", "x.svg"};
    QTest::newRow("warp-bad-rail") << QStringList{"warp",     "none.svg", "--top", "M0",
                                                  "--bottom", "M0 9H9",   "-o",    "x.svg"};
    QTest::newRow("warp-into-and-rails") << QStringList{"warp",  "none.svg", "--into", "M0 0H9V9Z",
                                                        "--top", "M0 0H9",   "-o",     "x.svg"};
    QTest::newRow("warp-three-corners") << QStringList{
        "warp", FRELM_SOURCE_DIR "/assets/app.qrc", "--into", "M0 0H9V9Z", "--corners", "0,30,50", "-o", "x.svg"};
    QTest::newRow("warp-into-missing-file") << QStringList{"warp", "none.svg", "--into", "M0 0H9V9Z", "-o", "x.svg"};
    QTest::newRow("trace-not-a-picture") << QStringList{"trace", FRELM_SOURCE_DIR "/LICENSE", "--width", "9", "-o",
                                                        "x.svg"};
    QTest::newRow("unwritable") << QStringList{"render", badge, "-o", "/nowhere/x.svg"};
  }
  void wrong_calls_end_with_2_and_one_line() {
    QFETCH(QStringList, arguments);
    const Ran r = run(arguments);
    QCOMPARE(r.code, 2);
    QCOMPARE(r.err.trimmed().count('\n'), 0);
    QVERIFY(r.err.startsWith("frelm-cli: "));
    QVERIFY(r.out.isEmpty());
  }
};

QTEST_GUILESS_MAIN(TestCli)
#include "test_cli.moc"
