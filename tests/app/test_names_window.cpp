// Many names by hand: places typed, a list opened and pasted, a row corrected, how it fits, a file a row.
#include "document/gap_edits.h"
#include "document/job_file.h"
#include "document/validity.h"
#include "window_fixture.h"

#include <QClipboard>
#include <QDir>
#include <QTableWidget>

using namespace frelm;
using namespace frelm::test;

namespace {

struct Bench : WindowFixture {
  explicit Bench(const QString& text = "{name}", const QByteArray& list = "name;berth\nMarigold;1\nTeal Heron;2\n"
                                                                          "Windrush Maid of the Upper Creek;3\n") {
    letter_on_circle(text);
    const QString file = dir.filePath("pontoon.csv");
    QFile f(file);
    if (f.open(QIODevice::WriteOnly))
      f.write(list);
    f.close();
    window.canvas().setFocus();
    QTest::keyClick(&window, Qt::Key_F9, Qt::ShiftModifier);
    settle();
    window.open_names(file);
    known();
  }
  bool known() {
    return QTest::qWaitFor([&] { return window.names().known() == window.names().count(); }, 10'000) && settle();
  }
  NamesView& grid() { return window.names_view(); }
  QTableWidget& table() { return *window.names_card().table(); }
  QString card(int row) { return grid().model()->index(row, 0).data().toString(); }
  int amber() { // px of edges of rows to look at
    const QImage shot = grid().viewport()->grab().toImage().convertToFormat(QImage::Format_RGB32);
    const QRgb edge = scheme().amber.rgb();
    int n = 0;
    for (int y = 0; y < shot.height(); ++y)
      for (int x = 0; x < shot.width(); ++x)
        n += shot.pixel(x, y) == edge ? 1 : 0;
    return n;
  }
};

} // namespace

class TestNamesWindow : public QObject {
  Q_OBJECT

private slots:
  void a_grid_of_rows() {
    Bench f;
    QVERIFY(f.grid().isVisible() && f.window.names_card().isVisible() && !f.window.letters_card().isVisible());
    QCOMPARE(f.grid().model()->rowCount(), 3);
    QCOMPARE(f.card(0), QString("1 Marigold: fits"));
    QCOMPARE(f.table().rowCount(), 3);
    QCOMPARE(f.table().horizontalHeaderItem(1)->text(), QString("berth"));
    QVERIFY(f.window.names().row(0).sheet != nullptr && !f.window.names().row(0).sheet->pieces.empty());
    // Chosen in one, chosen in the other.
    f.grid().setCurrentIndex(f.grid().model()->index(1, 0));
    QCOMPARE(f.table().currentRow(), 1);
    f.table().setCurrentCell(2, 0);
    QCOMPARE(f.grid().currentIndex().row(), 2);
    // Back to the sheet: the canvas and its cards.
    QTest::keyClick(&f.window, Qt::Key_F7);
    QVERIFY(!f.grid().isVisible() && f.window.letters_card().isVisible());
    QCOMPARE(f.window.names().count(), std::size_t{0}); // nothing is worked out that nobody sees
  }
  void a_row_is_corrected() {
    Bench f;
    const QString was = f.card(1);
    // In the grid: Return, another text, Return.
    f.grid().setCurrentIndex(f.grid().model()->index(1, 0));
    f.grid().setFocus();
    f.grid().edit(f.grid().model()->index(1, 0));
    auto* editor = f.grid().findChild<QLineEdit*>();
    QVERIFY(editor != nullptr);
    editor->selectAll();
    QTest::keyClicks(editor, "Grey Gull");
    QTest::keyClick(editor, Qt::Key_Return);
    QTRY_COMPARE(f.document().names->rows[1][0], std::string("Grey Gull")); // the editor closes a moment later
    QVERIFY(f.known());
    QCOMPARE(f.card(1), QString("2 Grey Gull: fits"));
    QCOMPARE(f.table().item(1, 0)->text(), QString("Grey Gull"));
    // In the table, another column.
    f.table().item(1, 1)->setText("22");
    QCOMPARE(f.document().names->rows[1][1], std::string("22"));
    f.session().undo();
    f.session().undo();
    QVERIFY(f.known());
    QCOMPARE(f.card(1), was);
    QCOMPARE(f.table().item(1, 1)->text(), QString("2"));
  }
  void what_is_too_long() {
    Bench f;
    f.type_measure("Room along the line", "100");
    f.type_measure("Least height of capitals", "25");
    QVERIFY(f.known());
    QVERIFY2(f.card(2).contains("letters only"), qPrintable(f.card(2)));
    QVERIFY(f.amber() > 50);
    QCOMPARE(f.window.names().to_look_at() >= 1, true);
    f.choose("Too long", "Keep");
    QVERIFY(f.known());
    QVERIFY2(f.card(2).contains("too long by"), qPrintable(f.card(2)));
    f.type_measure("Least height of capitals", "0");
    f.choose("Too long", "Two lines");
    QVERIFY(f.known());
    QVERIFY2(f.window.names().to_look_at() == 0, qPrintable(f.card(0) + f.card(1) + f.card(2)));
    QCOMPARE(f.amber(), 0);
    const NameRule rule = rule_for(*f.document().names, f.document().pieces.back()->id);
    QVERIFY(rule.fit == NameFit::TwoLines && rule.room == 100);
  }
  void pasted_removed_and_kept_in_the_job() {
    Bench f;
    QApplication::clipboard()->setText("name\tport\nCurlew\tWest\nM\u00f6we\tEast\n");
    QTest::mouseClick(f.button("Paste"), Qt::LeftButton);
    QVERIFY(f.known());
    QCOMPARE(f.grid().model()->rowCount(), 2);
    QCOMPARE(f.card(1), QString::fromUtf8("2 M\u00f6we: fits"));
    QVERIFY(f.document().names->source.empty());
    const QString file = f.dir.filePath("job.frelm");
    QVERIFY(f.save(file) && f.window.open_file(file) && f.known());
    QCOMPARE(f.document().names->rows.size(), std::size_t{2});
    QTest::mouseClick(f.button("Remove list"), Qt::LeftButton);
    QVERIFY(f.document().names == nullptr && f.grid().model()->rowCount() == 0);
    f.session().undo();
    QVERIFY(f.known() && f.grid().model()->rowCount() == 2);
    // What is no list changes nothing, and is told.
    QApplication::clipboard()->setText("\n\n");
    QTest::mouseClick(f.button("Paste"), Qt::LeftButton);
    QVERIFY(f.window.bar().text().contains("the list is empty"));
    QCOMPARE(f.grid().model()->rowCount(), 2);
  }
  void a_place_that_nothing_fills() {
    Bench f("{name} {port}");
    QVERIFY2(f.card(0).contains("no column of the list is called 'port'"), qPrintable(f.card(0)));
    QCOMPARE(f.window.names().to_look_at(), std::size_t{3});
  }
  void a_file_a_row() {
    Bench f("{name}", "Marigold\n\"\"\nTeal Heron\n,\nCurlew\n");
    const QString out = f.dir.filePath("out");
    QDir().mkpath(out);
    f.window.export_rows(out);
    QVERIFY(f.settle());
    const QStringList files = QDir(out).entryList(QDir::Files, QDir::Name);
    QCOMPARE(files, (QStringList{"1-Marigold.svg", "2-Teal_Heron.svg", "3-Curlew.svg"}));
    QVERIFY(f.window.bar().text().contains("3 of 3 rows written"));
    // A row with nothing in it is told, and the rest goes on.
    f.table().item(1, 0)->setText(" ");
    f.window.export_rows(out);
    QVERIFY(f.settle());
    QVERIFY2(f.window.bar().text().contains("2 of 3 rows written") &&
                 f.window.bar().text().contains("row 2: nothing to set"),
             qPrintable(f.window.bar().text()));
  }
  void letters_of_a_row_by_hand() {
    Bench f;
    const Document before = f.document();
    f.table().setCurrentCell(1, 0);
    QTest::mouseClick(f.button("Letters by hand"), Qt::LeftButton);
    QTRY_VERIFY(!f.window.task().running() && f.document().pieces.size() == before.pieces.size() + 2); // and its guide
    f.settle();
    QVERIFY(f.window.canvas().view() == View::Ink && f.session().selection().size() == 1);
    const PieceId hand = f.session().selection().front();
    QVERIFY(plain_text(f.document().find(hand)->lettering()->recipe.letters()->text) == U"Teal Heron");
    QVERIFY2(f.window.bar().text().contains("every row with this very text"), qPrintable(f.window.bar().text()));
    // A gap by the keys, as for any lettering; its row shows it.
    const PairId pair = pairs_of(f.document().find(hand)->lettering()->recipe,
                                 *f.session().evaluator().piece(f.document(), hand, Depth::Seat)->seated)
                            .front();
    f.session().apply("a gap", widened(f.document(), hand, {pair}, 3, f.session().evaluator()));
    QTest::keyClick(&f.window, Qt::Key_F9, Qt::ShiftModifier);
    QVERIFY(f.known());
    QCOMPARE(f.card(1), QString("2 Teal Heron: by hand"));
    QCOMPARE(f.card(0), QString("1 Marigold: fits"));
    // Once more goes back to the same letters.
    f.table().setCurrentCell(1, 0);
    QTest::mouseClick(f.button("Letters by hand"), Qt::LeftButton);
    QTRY_VERIFY(!f.window.task().running() && f.window.canvas().view() == View::Ink);
    QVERIFY(f.session().selection() == std::vector<PieceId>{hand});
    QCOMPARE(f.document().pieces.size(), before.pieces.size() + 2);
    while (f.session().history().can_undo() && f.document().names != before.names)
      f.session().undo();
    QVERIFY(f.document() == before);
  }
  void all_rows_on_sheets() {
    Bench f;
    const QString out = f.dir.filePath("sheets");
    QDir().mkpath(out);
    auto* kind = f.find<QComboBox>("Kind of files");
    kind->setCurrentIndex(kind->findText("On sheets together, SVG"));
    emit kind->activated(kind->currentIndex());
    f.type_measure("Width of the sheets", "900");
    QVERIFY(f.button("Export 3 rows…") != nullptr);
    f.window.export_rows(out);
    QVERIFY(f.settle());
    QCOMPARE(QDir(out).entryList(QDir::Files), QStringList{"sheet-1.svg"});
    QVERIFY2(f.window.bar().text().contains("3 of 3 rows on 1 sheet"), qPrintable(f.window.bar().text()));
  }
  void many_rows_and_a_change_meanwhile() {
    QByteArray list;
    for (int i = 0; i < 2'500; ++i)
      list += "Boat " + QByteArray::number(i) + "\n";
    Bench f("{name}", "A\n");
    QApplication::clipboard()->setText(QString::fromUtf8(list));
    QTest::mouseClick(f.button("Paste"), Qt::LeftButton);
    QCOMPARE(f.grid().model()->rowCount(), 2'500);
    QTRY_VERIFY(f.window.names().row(0).sheet != nullptr);
    f.grid().scrollTo(f.grid().model()->index(2'400, 0));
    QTRY_VERIFY(f.window.names().row(2'400).sheet != nullptr);   // what is looked at comes first
    f.grid().setCurrentIndex(f.grid().model()->index(2'400, 0)); // beyond the table
    QTest::mouseClick(f.button("Letters by hand"), Qt::LeftButton);
    QTRY_VERIFY(!f.window.task().running() && f.window.canvas().view() == View::Ink);
    QVERIFY(plain_text(f.selected().lettering()->recipe.letters()->text) == U"Boat 2400");
    f.session().undo();
    QTest::keyClick(&f.window, Qt::Key_F9, Qt::ShiftModifier);
    f.grid().scrollTo(f.grid().model()->index(2'400, 0));
    QTRY_VERIFY(f.window.names().row(2'400).sheet != nullptr);
    QVERIFY(f.window.names().row(0).sheet == nullptr); // and is not kept for ever
    f.session().undo();
    QCOMPARE(f.grid().model()->rowCount(), 1);
    QVERIFY(f.known());
  }
};

QTEST_MAIN(TestNamesWindow)
#include "test_names_window.moc"
