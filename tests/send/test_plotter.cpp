// The practice cutter itself, by hand computation: HP-GL as the manual has it, its motion, its buffer.
#include "cutter/plotter.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm::cutter;

namespace {

// Fed as there is room, and run until it has nothing to do.
void run(Plotter& p, std::string bytes) {
  for (int i = 0; i < 100'000 && (!bytes.empty() || !p.idle()); ++i) {
    const std::size_t n = std::min(bytes.size(), p.room());
    p.receive(bytes.substr(0, n));
    bytes.erase(0, n);
    p.advance(0.01, bytes.empty());
  }
}

} // namespace

class TestPlotter : public QObject {
  Q_OBJECT

private slots:
  void instructions_data() {
    QTest::addColumn<QString>("bytes");
    QTest::addColumn<QString>("strokes"); // mm
    QTest::newRow("down and up") << "IN;PA;PU400,400;PD800,400,800,800;PU;"
                                 << "10,10 20,10 20,20";
    QTest::newRow("no semicolons") << "INPAPU400 400PD800 400PU"
                                   << "10,10 20,10";
    QTest::newRow("relative") << "IN;PU400,400;PR;PD400,0,0,400;PU;"
                              << "10,10 20,10 20,20";
    QTest::newRow("PA with places") << "IN;PD;PA400,0;PU;"
                                    << "0,0 10,0";
    QTest::newRow("lines and blanks") << "IN;\r\nPU 400 , 400;\nPD 800,400 ;PU;"
                                      << "10,10 20,10";
    QTest::newRow("a quarter of an arc") << "IN;PU400,0;PD;AA0,0,90,90;PU;"
                                         << "10,0 0,10";
    QTest::newRow("nothing down") << "IN;PU400,400;PU800,800;"
                                  << "";
    QTest::newRow("no number") << "IN;PD;PU;"
                               << "";
  }
  void instructions() {
    QFETCH(QString, bytes);
    QFETCH(QString, strokes);
    Plotter p{PlotterOptions{}};
    run(p, bytes.toStdString());
    std::string got;
    for (const Stroke& s : p.strokes())
      if (s.places.size() >= 2)
        for (const Place q : s.places)
          got += fmt::format("{}{:.6g},{:.6g}", got.empty() ? "" : " ", std::round(q.x * 1e6) / 1e6,
                             std::round(q.y * 1e6) / 1e6);
    QCOMPARE(QString::fromStdString(got), strokes);
    QVERIFY(p.troubles().empty());
  }
  void answers() {
    Plotter p{PlotterOptions{}};
    p.receive("\x1b.B\x1b.L\x1b.O\x1b.E");
    QCOMPARE(p.take_replies(), std::string("1024\r1024\r8\r0\r"));
    run(p, "IN;PU400,800;PD440,800;OA;OE;OS;PU;OA;OF;");
    QCOMPARE(p.take_replies(), std::string("440,800,1\r0\r17\r440,800,0\r40,40\r"));
    p.receive("PU0,0;");
    p.receive("\x1b.B");
    QCOMPARE(p.take_replies(), std::string("1018\r"));
    run(p, "XX;OE;OE;");
    QCOMPARE(p.take_replies(), std::string("1\r0\r"));
    run(p, "PU-40,0;OE;PD1,2,3;OE;VS0;OE;AA1,2;OE;");
    QCOMPARE(p.take_replies(), std::string("6\r2\r3\r2\r"));
  }
  // From rest over 100 mm at 100 mm/s and 1000 mm/s²: 0.1 s, 90 mm, 0.1 s. A right angle is stopped at where nothing
  // may be rounded.
  void motion_by_hand_data() {
    QTest::addColumn<QString>("bytes");
    QTest::addColumn<double>("seconds");
    QTest::newRow("a line") << "PD4000,0;PU;" << 1.1;
    QTest::newRow("in two parts") << "PD2000,0,4000,0;PU;" << 1.1;
    QTest::newRow("a corner") << "PD4000,0,4000,4000;PU;" << 2.2;
    QTest::newRow("too short to get fast") << "PD100,0;PU;" << 0.1;
    QTest::newRow("half as fast") << "VS5;PD4000,0;PU;" << 0.1 + 97.5 / 50;
    QTest::newRow("lifted") << "PU4000,0;" << 1.1;
  }
  void motion_by_hand() {
    QFETCH(QString, bytes);
    QFETCH(double, seconds);
    PlotterOptions o;
    o.cut = o.travel = 100, o.acceleration = 1000, o.corner = 1e-9, o.down = o.up = 0;
    Plotter p(o);
    run(p, bytes.toStdString());
    QVERIFY2(std::abs(p.busy() - seconds) < 1e-3, fmt::format("{}", p.busy()).c_str());
  }
  void more_than_it_holds_is_lost() {
    PlotterOptions o;
    o.buffer = 100;
    Plotter p(o);
    p.receive(std::string(150, ' '));
    QCOMPARE(p.lost_bytes(), std::size_t{50});
    p.receive("\x1b.E\x1b.E");
    QCOMPARE(p.take_replies(), std::string("16\r0\r"));
    p.receive("\x1b.K\x1b.B");
    QCOMPARE(p.take_replies(), std::string("100\r"));
  }
  void forgets_when_told() {
    Plotter p{PlotterOptions{}};
    p.receive("PU400,400;PD4000,400,4000,4000;PU;");
    for (int i = 0; i < 5; ++i)
      p.advance(0.05, true);
    QVERIFY(!p.idle());
    p.receive("\x1b.K");
    QVERIFY(p.idle() && !p.pen_down());
  }
  void any_bytes_are_survived() {
    std::mt19937 random(3);
    for (int n = 0; n < 300; ++n) {
      Plotter p{PlotterOptions{}};
      std::string bytes;
      const std::string likely = "PDUAROESVIN;,.-0123456789 \x1b";
      for (int i = 0; i < 300; ++i)
        bytes += random() % 10 == 0 ? static_cast<char>(random()) : likely[random() % likely.size()];
      p.receive(bytes);
      for (int i = 0; i < 50; ++i)
        p.advance(1, true);
      for (const Stroke& s : p.strokes())
        for (const Place q : s.places)
          QVERIFY(q.x >= 0 && q.x <= 10'000 && q.y >= 0 && q.y <= 610);
    }
  }
};

QTEST_APPLESS_MAIN(TestPlotter)
#include "test_plotter.moc"
