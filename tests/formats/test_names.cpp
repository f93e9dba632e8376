// Many names: lists as they come, places filled, made to fit, a file a row.
#include "document/edits.h"
#include "document/job_file.h"
#include "document/name_fill.h"
#include "document/storage.h"
#include "document/validity.h"
#include "formats/csv_read.h"
#include "formats/name_export.h"
#include "support/fixtures.h"

#include <QDir>
#include <QTemporaryDir>
#include <QTest>
#include <fmt/format.h>
#include <mutex>

using namespace frelm;
using namespace frelm::test;

namespace {

NameList list_of(std::vector<std::string> columns, std::vector<std::vector<std::string>> rows) {
  NameList out;
  out.columns = std::move(columns), out.rows = std::move(rows);
  return out;
}
std::string text_of(const Document& d, PieceId id) {
  return to_utf8(plain_text(d.find(id)->lettering()->recipe.letters()->text));
}
double used(const Document& d, PieceId id) {
  return evaluator().piece(d, id, Depth::Seat)->seated->used_length;
}
// Files in memory, from any thread.
class Memory : public Storage {
public:
  Result<std::string> read(const std::string& path) override { return files.at(path); }
  Result<Done> write(const std::string& path, const std::string& bytes) override {
    const std::lock_guard lock(guard);
    if (path.find(no_room_for) != std::string::npos && !no_room_for.empty())
      return Error{ErrorCode::Unwritable, FRELM_WORDS("core", "no room"), as_it_is(path)};
    files[path] = bytes;
    return Done{};
  }
  Result<Done> remove(const std::string&) override { return Done{}; }
  std::map<std::string, std::string> files;
  std::string no_room_for;
  std::mutex guard;
};

} // namespace

class TestNames : public QObject {
  Q_OBJECT

private slots:
  // RFC 4180, 2: examples 1 to 7; the rest is common practice, no source.
  void lists_as_they_come_data() {
    QTest::addColumn<QByteArray>("bytes");
    QTest::addColumn<QString>("columns");
    QTest::addColumn<QString>("rows");
    QTest::newRow("typed lines") << QByteArray("Marigold\nTeal Heron") << "name"
                                 << "Marigold/Teal Heron";
    QTest::newRow("with names") << QByteArray("Name,Berth\nMarigold,12\n") << "Name|Berth"
                                << "Marigold|12";
    QTest::newRow("crlf") << QByteArray("aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n") << "name|column 2|column 3"
                          << "aaa|bbb|ccc/zzz|yyy|xxx";
    QTest::newRow("quotes") << QByteArray("\"aaa\",\"b \r\nbb\",\"ccc\"\r\nzzz,yyy,xxx") << "name|column 2|column 3"
                            << "aaa|b \r\nbb|ccc/zzz|yyy|xxx";
    QTest::newRow("doubled quotes") << QByteArray("\"aaa\",\"b\"\"bb\",\"ccc\"") << "name|column 2|column 3"
                                    << "aaa|b\"bb|ccc";
    QTest::newRow("semicolons") << QByteArray("name;berth\nLow, Tide;3") << "name|berth"
                                << "Low, Tide|3";
    QTest::newRow("cells pasted") << QByteArray("name\tberth\nLow Tide\t3\nCurlew\t") << "name|berth"
                                  << "Low Tide|3/Curlew|";
    QTest::newRow("marked") << QByteArray("\xef\xbb\xbfname\nM\xc3\xb6we") << "name"
                            << "Möwe";
    QTest::newRow("latin") << QByteArray("name\nM\xf6we") << "name"
                           << "Möwe";
    QTest::newRow("short and empty rows") << QByteArray("name,berth\n\nA\n,,\nB,2,x\n") << "name|berth|column 3"
                                          << "A||/B|2|x";
    QTest::newRow("number of its own") << QByteArray("number,text\n7,A") << "number|text"
                                       << "7|A";
    QTest::newRow("a quote within") << QByteArray("Maid \"II\"\nB") << "name"
                                    << "Maid \"II\"/B";
  }
  void lists_as_they_come() {
    QFETCH(QByteArray, bytes);
    QFETCH(QString, columns);
    QFETCH(QString, rows);
    const auto read = read_name_list(bytes.toStdString(), {"name"});
    QVERIFY2(read.ok(), read.ok() ? "" : read.error().text().c_str());
    QStringList names, got;
    for (const std::string& c : read->list.columns)
      names += QString::fromStdString(c);
    for (const auto& row : read->list.rows) {
      QStringList cells;
      for (const std::string& c : row)
        cells += QString::fromStdString(c);
      got += cells.join('|');
    }
    QCOMPARE(names.join('|'), columns);
    QCOMPARE(got.join('/'), rows);
    QCOMPARE(read->latin, QByteArray(QTest::currentDataTag()) == "latin");
  }
  void no_lists_data() {
    QTest::addColumn<QByteArray>("bytes");
    QTest::addColumn<QString>("told");
    QTest::newRow("empty") << QByteArray("\n\n") << "the list is empty";
    QTest::newRow("only names") << QByteArray("name\n") << "no row";
    QTest::newRow("an open quote") << QByteArray("name\nA\n\"B") << "quotation mark";
    QTest::newRow("bytes") << QByteArray("a\0b", 3) << "no list";
    QTest::newRow("a long cell") << "name\nA\n" + QByteArray(501, 'x') << "row 3: a cell is too long";
    QTest::newRow("too wide") << QByteArray(60, ',') + "x"
                              << "more than 40 columns";
    QTest::newRow("too long") << QByteArray("x\n").repeated(20'001) << "more than 20000 rows";
  }
  void no_lists() {
    QFETCH(QByteArray, bytes);
    QFETCH(QString, told);
    const auto read = read_name_list(bytes.toStdString(), {"name"});
    QVERIFY(!read.ok());
    QVERIFY2(QString::fromStdString(read.error().text()).contains(told), read.error().text().c_str());
  }

  void places_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("filled"); // by Marigold, berth 12, in row 2
    QTest::newRow("one") << "{name}"
                         << "Marigold";
    QTest::newRow("in a text") << "the {name} of {berth}"
                               << "the Marigold of 12";
    QTest::newRow("capitals") << "{NAME}"
                              << "MARIGOLD";
    QTest::newRow("any case") << "{Name}{ berth }"
                              << "Marigold12";
    QTest::newRow("number") << "{number}. {name}"
                            << "2. Marigold";
    QTest::newRow("something else") << "{port or Creek}"
                                    << "Creek";
    QTest::newRow("nothing else") << "a{port}b"
                                  << "ab";
    QTest::newRow("no need for it") << "{name or Guest}"
                                    << "Marigold";
    QTest::newRow("else in capitals") << "{PORT or Creek}"
                                      << "CREEK";
    QTest::newRow("braces") << "{{name}} {name}"
                            << "{name} Marigold";
    QTest::newRow("a lone brace") << "a { b {name}"
                                  << "a { b {name}";
  }
  void places() {
    QFETCH(QString, text);
    QFETCH(QString, filled);
    const CircleJob job = circle_job(text.toStdString());
    const NameList list = list_of({" NAME ", "Berth", "port"}, {{"x", "1", "y"}, {" Marigold ", "12", "  "}});
    if (text.startsWith("a {")) { // the brace opens a place that no column fills
      QVERIFY(!with_row(job.document, list, 1, evaluator()).ok());
      return;
    }
    const auto row = with_row(job.document, list, 1, evaluator());
    QVERIFY2(row.ok(), row.ok() ? "" : row.error().text().c_str());
    QCOMPARE(QString::fromStdString(text_of(row->document, job.lettering)), filled);
  }
  void what_a_job_asks_for() {
    CircleJob job = circle_job("{Name} {number} {BERTH or 1} {name}");
    QVERIFY(wanted_columns(job.document) == (std::vector<std::string>{"name", "berth"}));
    QVERIFY(wanted_columns(circle_job("Marigold").document).empty());
    const auto row = with_row(job.document, list_of({"name"}, {{"A"}}), 0, evaluator());
    QVERIFY(!row.ok() &&
            QString::fromStdString(row.error().text()).contains("no column of the list is called 'berth'"));
    QVERIFY(!with_row(job.document, list_of({"name"}, {{"A"}}), 1, evaluator()).ok());
  }
  void hands_stay_with_their_text() {
    CircleJob job = circle_job("{name}");
    const TypedText text = job.document.find(job.lettering)->lettering()->recipe.letters()->text;
    job.document = edit_piece(std::move(job.document), job.lettering, [&](Piece& p) {
      p.lettering()->recipe.tweaks = {{text[1].id, 10}};
      p.lettering()->recipe.pairs = {{text[1].id, text[2].id, 0.2}};
    });
    const auto row = with_row(job.document, list_of({"name"}, {{"name"}}), 0, evaluator());
    const Recipe& r = row->document.find(job.lettering)->lettering()->recipe;
    QVERIFY(r.tweaks.empty() && r.pairs.empty());
    for (const TypedChar& t : r.letters()->text)
      QVERIFY(std::find(text.begin(), text.end(), t) == text.end() && t.id < row->document.next_id);
    QVERIFY(faults(row->document).empty());
    // A lettering without places keeps all.
    const Document plain = circle_job("x").document;
    QVERIFY(with_row(plain, list_of({"name"}, {{"A"}}), 0, evaluator())->document == plain);
  }

  // A row put beside the sheet: what hands do to it there, rows of that very text get, and no others.
  void a_row_by_hand() {
    CircleJob job = circle_job("{name} {number}");
    Document d = job.document;
    NameList list = list_of({"name"}, {{"Marigold"}, {"Teal Heron"}, {"Marigold"}});
    list.rules = {{job.lettering, NameFit::Shrink, 150, 0}};
    d.names = std::make_shared<const NameList>(list);
    const Result<FilledRow> before = with_row(d, *d.names, 0, evaluator());
    QVERIFY(before.ok());
    const Result<RowAside> aside = row_aside(d, 0, evaluator());
    QVERIFY(aside.ok());
    QCOMPARE(aside->ids.size(), std::size_t{1});
    const PieceId hand = aside->ids.front();
    Document with = aside->document;
    QVERIFY(faults(with).empty());
    QCOMPARE(text_of(with, hand), std::string("Marigold 1"));
    QCOMPARE(text_of(with, job.lettering), std::string("{name} {number}"));
    QVERIFY(with.find(hand)->destination == Destination::Off);
    QVERIFY(with.names->by_hand == (std::vector<NameByHand>{{job.lettering, hand}}));
    // It stands there as it comes out, clear of the sheet.
    QVERIFY(std::abs(used(with, hand) - used(before->document, job.lettering)) < 0.01);
    QVERIFY(evaluator().piece(with, hand, Depth::Seat)->ink.x0 > with.sheet.width);
    // Once more for the same row: it is the one that is there.
    QVERIFY(row_aside(with, 0, evaluator())->ids == aside->ids && row_aside(with, 0, evaluator())->document == with);
    // A gap opened, a letter turned.
    with = edit_piece(with, hand, [](Piece& p) {
      Recipe& r = p.lettering()->recipe;
      const TypedText& t = r.letters()->text;
      r.pairs = {{t[0].id, t[1].id, 0.3}}, r.tweaks = {{t[3].id, 20}};
    });
    const Result<FilledRow> after = with_row(with, *with.names, 0, evaluator());
    QVERIFY(after->by_hand && !before->by_hand);
    const Recipe& made = after->document.find(job.lettering)->lettering()->recipe;
    QCOMPARE(made.pairs.size(), std::size_t{1});
    QCOMPARE(made.pairs.front().left, made.letters()->text[0].id);
    QCOMPARE(made.tweaks.front().id, made.letters()->text[3].id);
    QVERIFY(used(after->document, job.lettering) <= 150.01); // it still fits
    QVERIFY(!(*evaluator().piece(after->document, job.lettering, Depth::Finish)->outline ==
              *evaluator().piece(before->document, job.lettering, Depth::Finish)->outline));
    for (const std::size_t other : {1, 2}) { // "Marigold 3" is another text
      const Result<FilledRow> row = with_row(with, *with.names, other, evaluator());
      QVERIFY(!row->by_hand && row->document.find(job.lettering)->lettering()->recipe.pairs.empty());
    }
    QVERIFY(*read_job(write_job(with, bundled_faces())) == with);
    // What it hangs on goes: so does it.
    QVERIFY(remove_pieces(with, {hand}).document.names->by_hand.empty());
    QVERIFY(remove_pieces(with, {job.lettering}).document.names->by_hand.empty());
    // A text parted into two lines is the same text.
    with = edit_piece(with, hand, [](Piece& p) { p.lettering()->recipe.letters()->text[8].c = U'\n'; });
    QVERIFY(with_row(with, *with.names, 0, evaluator())->by_hand);
    QVERIFY(!row_aside(d, 9, evaluator()).ok());
    d.names = std::make_shared<const NameList>(list_of({"name"}, {{""}}));
    d = edit_piece(d, job.lettering,
                   [&](Piece& p) { p.lettering()->recipe.letters()->text = retyped({}, U"{name}", d.next_id); });
    QVERIFY(!row_aside(d, 0, evaluator()).ok());
  }
  void it_fits_data() {
    QTest::addColumn<int>("fit");
    QTest::addColumn<double>("room");
    for (const NameFit fit : {NameFit::Keep, NameFit::Shrink, NameFit::Spread, NameFit::Tighten, NameFit::TwoLines})
      for (const double room : {60.0, 150.0, 500.0})
        QTest::addRow("%d in %g", int(fit), room) << int(fit) << room;
  }
  void it_fits() { // within 0.01 mm of the room along the line, where it is to fit
    QFETCH(int, fit);
    QFETCH(double, room);
    const CircleJob job = circle_job("{name}");
    NameList list = list_of({"name"}, {{"Windrush Maid"}});
    const double size = 30;
    const auto plain = with_row(job.document, list, 0, evaluator());
    const double own = used(plain->document, job.lettering);
    list.rules = {{job.lettering, NameFit(fit), room, 10}};
    const auto row = with_row(job.document, list, 0, evaluator());
    QVERIFY2(row.ok(), row.ok() ? "" : row.error().text().c_str());
    const Recipe& r = row->document.find(job.lettering)->lettering()->recipe;
    const double length = used(row->document, job.lettering);
    const auto told = [&](NameTrouble t) {
      return std::any_of(row->findings.begin(), row->findings.end(),
                         [&](const NameFinding& f) { return f.trouble == t; });
    };
    if (NameFit(fit) == NameFit::Keep || (own <= room && NameFit(fit) != NameFit::Spread)) {
      QVERIFY(std::abs(length - own) < 1e-6 && r.letters()->size == size);
      QCOMPARE(told(NameTrouble::TooLong), own > room + 0.01);
      return;
    }
    QVERIFY2(length <= room + 0.01, fmt::format("{} in {}", length, room).c_str());
    QVERIFY(!told(NameTrouble::TooLong));
    QCOMPARE(told(NameTrouble::LettersLow), r.letters()->size < 10 - 0.001);
    if (NameFit(fit) == NameFit::Spread)
      QVERIFY2(length >= room - 0.01, fmt::format("{} in {}", length, room).c_str());
    if (NameFit(fit) == NameFit::Shrink)
      QVERIFY(length >= room - 0.01 && r.letters()->size < size);
    if (NameFit(fit) == NameFit::TwoLines) {
      QVERIFY(text_of(row->document, job.lettering) == "Windrush\nMaid");
      NameList shrunk = list;
      shrunk.rules[0].fit = NameFit::Shrink;
      QVERIFY(r.letters()->size > // larger than on one line
              with_row(job.document, shrunk, 0, evaluator())
                  ->document.find(job.lettering)
                  ->lettering()
                  ->recipe.letters()
                  ->size);
    }
    if (NameFit(fit) == NameFit::Tighten)
      QVERIFY(r.spacing.letter < 0);
  }
  void the_guide_is_the_room() {
    const CircleJob job = circle_job("{name}", 20);
    const NameList list = list_of({"name"}, {{"Windrush Maid of the Upper Creek"}, {"A"}});
    const auto row = with_row(job.document, list, 0, evaluator());
    QVERIFY(used(row->document, job.lettering) <= 2 * pi * 20 + 0.01);
    QVERIFY(row->findings.empty());
    QVERIFY(with_row(job.document, list, 1, evaluator())
                ->document.find(job.lettering)
                ->lettering()
                ->recipe.letters()
                ->size == 30);
  }
  void what_is_missing_is_told() {
    const CircleJob job = circle_job("{name}");
    const NameList list = list_of({"name"}, {{"  "}, {"A\u4e2d"}});
    QCOMPARE(int(with_row(job.document, list, 0, evaluator())->findings.at(0).trouble), int(NameTrouble::Empty));
    QCOMPARE(int(with_row(job.document, list, 1, evaluator())->findings.at(0).trouble),
             int(NameTrouble::LettersMissing));
  }

  void a_file_a_row() {
    const CircleJob job = circle_job("{name}");
    const NameList list = list_of({"name", "berth"}, {{"Marigold", "1"},
                                                      {"Low/Tide: \"II\"", "2"},
                                                      {"", "3"},
                                                      {"Curlew", "4"},
                                                      {"Möwe", "5"},
                                                      {"Grey Gull", "6"},
                                                      {"Half Moon", "7"},
                                                      {"Teal", "8"},
                                                      {"Lass", "9"},
                                                      {"Mudlark", "10"}});
    Memory one, four;
    std::size_t steps = 0;
    double last = 0;
    ExportWatch watch;
    watch.progress = [&](double share) {
      ++steps;
      QVERIFY(share >= last);
      last = share;
    };
    NameExportChoice choice{"f", "svg"};
    choice.threads = 1;
    const auto done = export_names(job.document, list, evaluator(), choice, one, watch);
    QVERIFY(done.ok());
    QCOMPARE(done->rows, std::size_t{10});
    QCOMPARE(done->written, std::size_t{9});
    QCOMPARE(done->failed.size(), std::size_t{1});
    QCOMPARE(done->failed[0].row, std::size_t{2});
    QVERIFY(steps == 10 && last == 1);
    QVERIFY(one.files.contains("f/01-Marigold.svg") && one.files.contains("f/02-Low_Tide___II_.svg"));
    choice.threads = 4;
    QVERIFY(export_names(job.document, list, evaluator(), choice, four).ok());
    QVERIFY(one.files == four.files); // the same bytes
    // In parts: all of it, nothing twice.
    Memory parts;
    std::size_t written = 0;
    for (std::size_t k = 0; k < 3; ++k) {
      choice.part = k, choice.parts = 3;
      written += export_names(job.document, list, evaluator(), choice, parts)->written;
    }
    QVERIFY(written == 9 && parts.files == one.files);
  }
  void all_on_one_sheet() {
    const CircleJob job = circle_job("{name}", 40);
    const NameList list = list_of({"name"}, {{"Marigold"}, {""}, {"Curlew"}, {"Teal"}, {"Lass"}});
    Memory disk;
    const auto done = export_names_nested(job.document, list, evaluator(), {"f", "svg"},
                                          {.width = 400, .apart = 4, .margin = 8}, disk);
    QVERIFY2(done.ok(), done.ok() ? "" : done.error().text().c_str());
    QVERIFY(done->sheets == 1 && done->rows.written == 4 && done->rows.failed.size() == 1);
    QVERIFY(disk.files.size() == 1 && disk.files.contains("f/sheet-1.svg") && done->used > 16);
    // On small sheets several.
    Memory small;
    const auto more = export_names_nested(job.document, list, evaluator(), {"f", "dxf"},
                                          {.width = 200, .length = 150, .apart = 4, .margin = 8}, small);
    QVERIFY(more.ok() && more->sheets >= 2 && small.files.size() == more->sheets);
  }
  void a_disk_that_is_full_and_a_cancel() {
    const CircleJob job = circle_job("{name}");
    const NameList list = list_of({"name"}, {{"A"}, {"B"}, {"C"}});
    Memory full;
    full.no_room_for = "2-B";
    const auto done = export_names(job.document, list, evaluator(), {"f", "svg"}, full);
    QVERIFY(done->written == 2 && done->failed.size() == 1 && done->failed[0].row == 1);
    std::stop_source stop;
    stop.request_stop();
    Memory none;
    QCOMPARE(export_names(job.document, list, evaluator(), {"f", "svg"}, none, {stop.get_token(), {}}).error().code,
             ErrorCode::Cancelled);
    QVERIFY(none.files.empty());
    QVERIFY(!export_names(job.document, list, evaluator(), {"f", "doc"}, none).ok());
    QVERIFY(!export_names(circle_job("A").document, list, evaluator(), {"f", "svg"}, none).ok());
  }
  void a_list_stays_with_its_job() {
    CircleJob job = circle_job("{name}");
    NameList list = list_of({"name"}, {{"Marigold"}, {"Möwe"}});
    list.source = "pontoon.csv";
    list.rules = {{job.lettering, NameFit::Tighten, 120, 8}};
    job.document.names = std::make_shared<const NameList>(list);
    job.document.order_by_hand = {{job.lettering, "", 2}, {job.lettering, "ring-1", 0}};
    job.document.materials = {{"Tin", {9, 9, 9}}};
    job.document.materials[0].tool = {1, 30, 2, 0.5, Lead::Arc, 4, 3, Seam::Hidden, PartSide::Left, 50, 600};
    const auto back = read_job(write_job(job.document, bundled_faces()));
    QVERIFY(back.ok() && *back == job.document);
    QVERIFY(*back->names == list);
    // What a deleted piece had goes with it.
    const Document without = remove_pieces(job.document, {job.lettering}).document;
    QVERIFY(without.names->rules.empty() && without.order_by_hand.empty() && without.names->rows == list.rows);
  }
};

QTEST_APPLESS_MAIN(TestNames)
#include "test_names.moc"
