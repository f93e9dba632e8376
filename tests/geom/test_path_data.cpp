#include "geom/path_data.h"

#include "support/fixtures.h"

#include <QTest>

using namespace frelm;
using namespace frelm::test;

class TestPathData : public QObject {
  Q_OBJECT

private slots:
  void reads_every_command_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("same");
    QTest::newRow("relative-lines") << "m1 2l3 4h5v-6z"
                                    << "M1 2L4 6L9 6L9 0Z";
    QTest::newRow("pairs-after-move") << "M0 0 5 0 5 5"
                                      << "M0 0L5 0L5 5";
    QTest::newRow("no-separators") << "M.5.5-1-1"
                                   << "M0.5 0.5L-1 -1";
    QTest::newRow("exponents") << "M1e1-2E0L+3,4"
                               << "M10 -2L3 4";
    QTest::newRow("relative-cubic") << "M1 1c1 0 2 1 2 2"
                                    << "M1 1C2 1 3 2 3 3";
    QTest::newRow("smooth-cubic-mirrors-the-handle") << "M0 0C0 5 5 5 5 0S10 -5 10 0"
                                                     << "M0 0C0 5 5 5 5 0C5 -5 10 -5 10 0";
    QTest::newRow("smooth-cubic-alone-starts-flat") << "M0 0S10 5 10 0"
                                                    << "M0 0C0 0 10 5 10 0";
    QTest::newRow("quadratic-is-raised") << "M0 0Q3 3 6 0"
                                         << "M0 0C2 2 4 2 6 0";
    QTest::newRow("smooth-quadratic") << "M0 0Q3 3 6 0T12 0"
                                      << "M0 0C2 2 4 2 6 0C8 -2 10 -2 12 0";
    QTest::newRow("two-subpaths") << "M0 0H1V1ZM5 5H6V6Z"
                                  << "M0 0L1 0L1 1ZM5 5L6 5L6 6Z";
    QTest::newRow("relative-move-after-close") << "M5 5h2v2zm1 1h1"
                                               << "M5 5L7 5L7 7ZM6 6L7 6";
    QTest::newRow("arc-without-radius-is-a-line") << "M0 0A0 5 0 0 1 9 0"
                                                  << "M0 0L9 0";
    QTest::newRow("empty") << ""
                           << "";
  }
  void reads_every_command() {
    QFETCH(QString, text);
    QFETCH(QString, same);
    const Result<Outline> o = parse_outline(text.toStdString());
    QVERIFY2(o.ok(), o.ok() ? "" : o.error().text().c_str());
    QCOMPARE(QString::fromStdString(path_data(*o, 9)), same);
  }

  void arcs_follow_the_flags_data() {
    QTest::addColumn<QString>("flags");
    QTest::addColumn<double>("length");
    QTest::addColumn<double>("y");
    // Chord 10 on radius 10: the small arc is a sixth of the circle, the large one five sixths.
    QTest::newRow("small-sweep") << "0 1" << 20 * pi / 6 << -1.339746;
    QTest::newRow("small-back") << "0 0" << 20 * pi / 6 << 1.339746;
    QTest::newRow("large-sweep") << "1 1" << 20 * pi * 5 / 6 << -18.660254;
    QTest::newRow("large-back") << "1 0" << 20 * pi * 5 / 6 << 18.660254;
  }
  void arcs_follow_the_flags() {
    QFETCH(QString, flags);
    QFETCH(double, length);
    QFETCH(double, y);
    const Curve c = *parse_curve(("M0 0A10 10 0 " + flags + " 10 0").toStdString());
    QVERIFY(std::abs(c.length() - length) < 1e-9);
    QVERIFY(distance(c.at(c.length() / 2).point, {5, y}) < 1e-5);
    QVERIFY(distance(c.at(c.length()).point, {10, 0}) < 1e-9);
  }

  void too_small_arcs_grow_until_they_reach() {
    const Curve c = *parse_curve("M0 0A1 1 0 0 1 10 0");
    QVERIFY(std::abs(c.length() - 5 * pi) < 1e-9);
    QVERIFY(std::abs(parse_curve("M0 0a10 10 0 01 10 0")->length() - 20 * pi / 6) < 1e-9); // packed flags
  }

  void says_where_it_stopped_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("part");
    QTest::newRow("no-move") << "L5 5"
                             << "start with M";
    QTest::newRow("odd-number") << "M0 0L5"
                                << "character 7";
    QTest::newRow("unknown") << "M0 0X5 5"
                             << "'X'";
    QTest::newRow("bad-flag") << "M0 0A5 5 0 2 0 9 9"
                              << "flag";
    QTest::newRow("number-after-close") << "M0 0H1Z5"
                                        << "command letter";
    QTest::newRow("not-a-number") << "M0 0Lfive"
                                  << "number";
  }
  void says_where_it_stopped() {
    QFETCH(QString, text);
    QFETCH(QString, part);
    const Result<Outline> o = parse_outline(text.toStdString());
    QVERIFY(!o.ok());
    QVERIFY2(QString::fromStdString(o.error().text()).contains(part), o.error().text().c_str());
  }

  void a_guide_is_one_line_with_length() {
    QVERIFY(!parse_curve("M0 0L1 1M5 5L6 6").ok());
    QVERIFY(!parse_curve("M0 0").ok());
    QVERIFY(!parse_curve("M3 3L3 3").ok());
    QVERIFY(parse_curve("M0 0H5V5Z")->closed());
  }

  void shortest_text_reads_back_to_the_same_doubles() {
    auto random = random_source(17);
    for (int i = 0; i < 100; ++i) {
      const Outline blob =
          random_blob(random, {uniform(random, -900, 900), uniform(random, 0, 1)}, uniform(random, 0.01, 300), 7);
      QVERIFY(*parse_outline(path_data(blob, -1)) == blob);
    }
  }

  void every_truncation_is_an_error_or_a_shorter_path() {
    const std::string text = "M1.5 2C3 4 5 6 7 8A5 6 7 0 1 9 10ZM-1-2h3v4z";
    for (std::size_t n = 0; n <= text.size(); ++n)
      (void)parse_outline(text.substr(0, n)).ok();
  }
};

QTEST_APPLESS_MAIN(TestPathData)
#include "test_path_data.moc"
