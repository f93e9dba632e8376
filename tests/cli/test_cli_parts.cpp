// parts, ties and tie-in on the command line.
#include "cli/run.h"
#include "formats/import.h"
#include "geom/cut_parts.h"
#include "geom/weld.h"

#include <QFile>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

class TestCliParts : public QObject {
  Q_OBJECT

  QTemporaryDir dir_;
  // Each path a path element; mm.
  QString drawing(const QString& name, const QStringList& paths) {
    QFile file(dir_.filePath(name + ".svg"));
    (void)file.open(QIODevice::WriteOnly);
    file.write("<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='200mm' viewBox='0 0 200 200'>");
    for (const QString& p : paths)
      file.write(QString("<path d='%1'/>").arg(p).toUtf8());
    file.write("</svg>");
    return file.fileName();
  }
  Outline read_back(const QString& path) {
    QFile file(path);
    (void)file.open(QIODevice::ReadOnly);
    const auto drawing = read_drawing(file.readAll().toStdString(), {});
    std::vector<Outline> shapes;
    for (const DrawnShape& s : drawing->shapes)
      shapes.push_back(s.outline);
    return weld(shapes)->outline;
  }

  const QString ring_ =
      "M180 100A80 80 0 0 1 20 100A80 80 0 0 1 180 100ZM170 100A70 70 0 0 0 30 100A70 70 0 0 0 170 100Z";

private slots:
  void parts_counts_and_measures() {
    const QString file =
        drawing("dumbbell", {"M0 0h40v40h-40z", "M60 0h40v40h-40z", "M30 18h40v3h-40z", "M5 60h10v10h-10z"});
    const Ran r = run({"parts", file, "--json"});
    QCOMPARE(r.code, 0);
    QCOMPARE(r.json()["parts"].toInt(), 2);
    QCOMPARE(r.json()["loose"].toArray().size(), 1);
    QVERIFY(std::abs(r.json()["loose"][0]["area"].toDouble() - 100) < 1e-6);
    QVERIFY(std::abs(r.json()["loose"][0]["x"].toDouble() - 10) < 1e-6);
    QCOMPARE(r.json()["contacts"].toArray().size(), 2); // the bar with each square
    for (const auto c : r.json()["contacts"].toArray())
      QVERIFY(std::abs(c.toObject()["width"].toDouble() - 3) < 0.005);
    QVERIFY(std::abs(r.json()["weakest"].toDouble() - 3) < 0.005);
    const Ran words = run({"parts", file});
    QVERIFY(words.code == 0 && words.out.startsWith("2 parts, 2 contacts"));
  }

  void counters_count_as_stock() {
    const QString file = drawing("ring", {ring_});
    QCOMPARE(run({"parts", file, "--json"}).json()["parts"].toInt(), 1);
    const QJsonObject with = run({"parts", file, "--json", "--stock"}).json();
    QCOMPARE(with["parts"].toInt(), 2);
    QVERIFY(std::abs(with["loose"][0]["area"].toDouble() - 4900 * 3.14159265) < 10); // discs are cubics
    QVERIFY(with["weakest"].isNull());
    QVERIFY(run({"parts", drawing("nothing", {}), "--json"}).code <= 2); // said one way or the other
  }

  void ties_join_and_bridge() {
    const QString i = drawing("i", {"M10 30h10v50h-10z", "M21 15A6 6 0 0 1 9 15A6 6 0 0 1 21 15Z"});
    const QString out = dir_.filePath("tied.svg");
    for (const char* ends : {"square", "round"}) {
      const Ran r = run({"ties", i, "--width", "2", "--ends", ends, "-o", out});
      QVERIFY2(r.code == 0, r.err.constData());
      QCOMPARE(r.json()["parts"].toInt(), 1);
      QCOMPARE(r.json()["ties"].toArray().size(), 1);
      QCOMPARE(cut_parts(read_back(out)).size(), std::size_t{1});
      QCOMPARE(run({"parts", out, "--json"}).json()["parts"].toInt(), 1);
    }
    const Ran r = run({"ties", drawing("ring", {ring_}), "--width", "3", "--stencil", "-o", out});
    QCOMPARE(r.code, 0);
    QCOMPARE(r.json()["loose_stock"].toInt(), 0);
    QCOMPARE(run({"parts", out, "--json", "--stock"}).json()["parts"].toInt(), 2); // two halves, no counter
    QCOMPARE(run({"ties", i, "-o", out}).code, 2);                                 // how wide?
    QCOMPARE(run({"ties", i, "--width", "0", "-o", out}).code, 2);
  }

  void tie_in_makes_one_piece_or_says_why_not() {
    const QString bar = drawing("bar", {"M0 0h110v6h-110z"}), ring = drawing("ring", {ring_});
    const QString out = dir_.filePath("in.svg");
    const Ran r = run({"tie-in", bar, "--frame", ring, "--contacts", "2", "--least", "5", "-o", out});
    QVERIFY2(r.code == 0, r.err.constData());
    QCOMPARE(r.json()["parts"].toInt(), 1);
    QVERIFY(r.json()["contacts"].toArray().size() >= 2);
    const Outline made = read_back(out);
    QCOMPARE(cut_parts(made).size(), std::size_t{1});
    QCOMPARE(loose_stock(made).size(), std::size_t{2}); // the ring's inside, parted by the bar
    const Ran not_so = run({"tie-in", bar, "--frame", ring, "--contacts", "6", "--least", "5", "-o", out});
    QCOMPARE(not_so.code, 1);
    QVERIFY(not_so.json()["missing"].toInt() >= 1);
    QCOMPARE(run({"tie-in", ring, "--frame", bar, "-o", out}).code, 2); // no inside
  }
};

QTEST_GUILESS_MAIN(TestCliParts)
#include "test_cli_parts.moc"
