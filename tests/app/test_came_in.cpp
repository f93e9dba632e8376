// Drawings into the window: three at once, what their units are, which strokes are lines, what was left out and where.
#include "app/window_fixture.h"

#include "document/arrange.h"
#include "formats/page.h"

#include <QMimeData>

using namespace frelm;
using namespace frelm::test;

namespace {

const char* const in_mm =
    "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'>"
    "<rect width='40' height='20' fill='#c8553d'/><text x='45' y='10'>words</text>"
    "<image x='45' y='20' width='10' height='10'/><image x='2' y='30' width='4' height='4'/></svg>";
const char* const in_pixels =
    "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 96 96'><rect width='96' height='48'/>"
    "<path d='M0 90H90' fill='none' stroke='#12343b' stroke-width='4'/></svg>";
const char* const dxf = "0\nSECTION\n2\nHEADER\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nCIRCLE\n8\nPLATE\n10\n0\n20\n0\n"
                        "40\n5\n0\nENDSEC\n0\nEOF\n";

struct Arrivals : WindowFixture {
  QString put(const QString& name, const QByteArray& bytes) {
    QFile file(dir.filePath(name));
    if (file.open(QIODevice::WriteOnly))
      file.write(bytes);
    return file.fileName();
  }
  bool drop(const QStringList& paths) {
    QMimeData mime;
    QList<QUrl> urls;
    for (const QString& p : paths)
      urls << QUrl::fromLocalFile(p);
    mime.setUrls(urls);
    QDragEnterEvent enter({300, 300}, Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&window.canvas(), &enter);
    QDropEvent event(QPointF(300, 300), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&window.canvas(), &event);
    return enter.isAccepted() && settle();
  }
  CameInCard& card() { return window.came_in(); }
  QPushButton* size(const QString& unit) {
    for (QPushButton* b : card().findChildren<QPushButton*>())
      if (b->text().endsWith("(" + unit + ")") && b->isVisible())
        return b;
    return nullptr;
  }
  void click_on(QPushButton* button) {
    QVERIFY(button != nullptr && button->isVisible());
    QTest::mouseClick(button, Qt::LeftButton);
  }
  void click_when_there(const QString& name) { // what is found of lines is worked out beside the window
    QVERIFY2(
        QTest::qWaitFor([&] { return find<QPushButton>(name) != nullptr && find<QPushButton>(name)->isVisible(); }),
        qPrintable(name));
    click_on(find<QPushButton>(name));
  }
  bool in_sight(Point mm) { return window.canvas().rect().contains(px(mm)); }
  Box box_of(const std::vector<PieceId>& ids) {
    Box box;
    for (const PieceId id : ids)
      if (const Piece* p = document().find(id))
        box.add(p->outline()->outline->bounds());
    return box;
  }
};

} // namespace

class TestCameIn : public QObject {
  Q_OBJECT

private slots:
  void three_at_once_into_an_empty_job() {
    Arrivals f;
    QVERIFY(f.drop({f.put("sail.svg", in_mm), f.put("keel.svg", in_pixels), f.put("plate.dxf", dxf)}));
    QCOMPARE(f.document().pieces.size(), std::size_t{4});
    QCOMPARE(f.session().selection().size(), std::size_t{4});
    QVERIFY(f.card().isVisible());
    QCOMPARE(f.card().arrivals().size(), std::size_t{3});
    const auto& came = f.card().arrivals();
    // Beside each other, not on each other.
    const Box sail = f.box_of(came[0].pieces), keel = f.box_of(came[1].pieces), plate = f.box_of(came[2].pieces);
    QVERIFY(sail.x1 < keel.x0 && keel.x1 < plate.x0);
    QVERIFY(std::abs(sail.width() - 40) < 1e-6 && std::abs(keel.width() - 25.4) < 1e-6);
    QVERIFY(std::abs(plate.width() - 10) < 0.001);
    QCOMPARE(f.document().find(came[2].pieces[0])->name, std::string("PLATE"));
    f.session().undo();
    QVERIFY(f.document().pieces.empty() && !f.card().isVisible());
  }

  void the_unit_is_asked_where_the_file_does_not_say() {
    Arrivals f;
    QVERIFY(f.drop({f.put("sail.svg", in_mm), f.put("keel.svg", in_pixels)}));
    const Arrival keel = f.card().arrivals()[1];
    const Point middle = f.box_of(keel.pieces).centre();
    QVERIFY(f.size("1/96 in") != nullptr && f.size("1/96 in")->isChecked());
    QVERIFY(f.size("1 mm")->text().startsWith("96 × 92"));
    f.click_on(f.size("1 mm"));
    QVERIFY(f.settle());
    Box now = f.box_of(keel.pieces);
    QVERIFY(std::abs(now.width() - 96) < 1e-6 && distance(now.centre(), middle) < 1e-6);
    QVERIFY(f.size("1 mm")->isChecked() && !f.size("1/96 in")->isChecked());
    f.session().undo();
    QVERIFY(std::abs(f.box_of(keel.pieces).width() - 25.4) < 1e-6);
    QVERIFY(f.size("1/96 in")->isChecked());
    f.click_on(f.size("1/72 in")); // from there, not from what it was before
    QVERIFY(std::abs(f.box_of(keel.pieces).width() - 96 * 25.4 / 72) < 1e-6);
    // A piece of it gone: no more sizes of the whole.
    f.session().select({keel.pieces[0]});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Delete);
    QVERIFY(f.settle());
    QVERIFY(f.card().isVisible() && !f.size("1 mm")->isEnabled());
  }

  void opened_as_a_job_the_sheet_goes_along() {
    Arrivals f;
    QVERIFY(f.window.open_file(f.put("keel.svg", in_pixels)));
    QVERIFY(std::abs(f.document().sheet.width - 25.4) < 1e-9);
    f.click_on(f.size("1 mm"));
    QVERIFY(f.settle());
    QVERIFY(std::abs(f.document().sheet.width - 96) < 1e-6);
    QVERIFY(std::abs(f.box_of(f.card().arrivals()[0].pieces).x0) < 1e-6);
    // Another job: nothing is told of this one any more.
    QVERIFY(f.window.open_file(data_folder("demo") + "/tide-decal.frelm"));
    QVERIFY(!f.card().isVisible() && !f.card().holds());
  }

  void strokes_by_their_width() {
    Arrivals f;
    QVERIFY(f.drop({f.put("sail.svg", in_mm), f.put("keel.svg", in_pixels)}));
    const std::vector<PieceId> before = f.card().arrivals()[1].pieces;
    QVERIFY(f.document().find(before[1])->outline()->outline->contours[0].closed); // 4 px are 1.06 mm: an area
    const Box stood = f.box_of(before);
    f.type_measure("Lines up to", "2");
    QVERIFY(f.settle());
    const std::vector<PieceId> after = f.card().arrivals()[1].pieces;
    QCOMPARE(after.size(), std::size_t{2});
    QVERIFY(f.document().find(before[1]) == nullptr);
    const Outline& line = *f.document().find(after[1])->outline()->outline;
    QVERIFY(!line.contours[0].closed && std::abs(line.length() - 90 * 25.4 / 96) < 1e-6);
    QVERIFY(std::abs(f.box_of(after).x0 - stood.x0) < 1.1);
    f.session().undo();
    QVERIFY(f.document().find(before[1]) != nullptr);
    // The file is gone meanwhile: told, and nothing changes.
    QVERIFY(QFile::remove(f.dir.filePath("keel.svg")));
    const Document as_it_was = f.document();
    f.type_measure("Lines up to", "3");
    QVERIFY(f.settle());
    QVERIFY(f.document() == as_it_was);
    QVERIFY(f.window.bar().isVisible() && f.window.bar().text().contains("keel.svg"));
  }

  void taken_again_undone_and_taken_again() {
    Arrivals f;
    QVERIFY(f.window.open_file(f.put("keel.svg", in_pixels)));
    f.type_measure("Lines up to", "2");
    QVERIFY(f.settle());
    QVERIFY(f.card().isVisible()); // it was the only one
    f.session().undo();
    QVERIFY(f.find<MeasureField>("Lines up to")->text().startsWith("0.35"));
    f.type_measure("Lines up to", "3");
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{2}); // in the place of what stood there, not beside it
    f.session().undo();
    f.session().redo();
    QVERIFY(f.find<MeasureField>("Lines up to")->text().startsWith("3"));
    // A piece moved away does not count as size.
    f.session().apply("Move", move_pieces(f.document(), {f.document().pieces[1]->id}, {500, 0}));
    QVERIFY(f.size("1/96 in")->isChecked());
    f.click_on(f.size("1 mm"));
    QVERIFY(f.settle());
    QVERIFY(std::abs(f.document().pieces[0]->outline()->outline->bounds().width() - 96) < 1e-6);
  }

  void what_was_left_out_is_shown_where_it_stood() {
    Arrivals f;
    QVERIFY(f.window.open_file(f.put("sail.svg", in_mm)));
    QVERIFY(f.card().isVisible());
    auto* pictures = f.find<QPushButton>("Show where: Picture (2)");
    QVERIFY(pictures != nullptr && f.find<QPushButton>("Show where: Text") != nullptr);
    f.click_on(pictures);
    QVERIFY(f.in_sight({45, 20}) && f.in_sight({55, 30}) && !f.in_sight({2, 32}));
    f.click_on(pictures); // the next one
    QVERIFY(f.in_sight({2, 30}) && f.in_sight({6, 34}) && !f.in_sight({55, 25}));
    // Closed, and asked for again.
    f.click_on(f.find<QPushButton>("Close what came in"));
    QVERIFY(!f.card().isVisible());
    QVERIFY(f.window.commands().find("add.came-in")->why_not().isEmpty());
    f.window.commands().find("add.came-in")->action->trigger();
    QVERIFY(f.card().isVisible());
    // A drawing of which there is nothing to tell shows nothing, until one asks.
    QVERIFY(f.window.open_file(f.put("plain.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm' "
                                                  "viewBox='0 0 9 9'><rect width='5' height='5'/></svg>")));
    QVERIFY(!f.card().isVisible() && f.window.commands().find("add.came-in")->why_not().isEmpty());
    f.session().select({f.document().pieces[0]->id});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Delete);
    QVERIFY(!f.window.commands().find("add.came-in")->why_not().isEmpty());
  }

  void a_cut_file_is_cleaned_with_a_click_each() {
    Arrivals f;
    const QByteArray head = "<svg xmlns='http://www.w3.org/2000/svg' width='90mm' height='60mm' viewBox='0 0 90 60'><g "
                            "fill='none' stroke='red' stroke-width='.1'>";
    QVERIFY(f.drop(
        {f.put("plain.svg", head + "<path d='M1 1H9'/></g></svg>"),
         f.put("parts.svg", head + "<rect width='90' height='60'/><path d='M10 10H30'/><path d='M30 30V10'/>"
                                   "<path d='M10 30H30'/><path d='M10 10V30'/><path d='M30 10H10'/></g></svg>")}));
    const std::size_t before = f.document().pieces.size();
    QCOMPARE(before, std::size_t{7});
    f.click_when_there("Lines that stand there twice (1): Drop");
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), before - 1);
    QTRY_VERIFY(f.find<QPushButton>("Lines that stand there twice (1): Drop") == nullptr ||
                !f.find<QPushButton>("Lines that stand there twice (1): Drop")->isVisible());
    f.click_when_there("Ends of lines that meet (4): Join");
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{3});
    f.click_when_there("A frame around all of it: Drop");
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    const Outline& square = *f.document().pieces.back()->outline()->outline;
    QVERIFY(square.contours.at(0).closed && std::abs(square.area() - 400) < 1e-6);
    for (int i = 0; i < 3; ++i)
      f.session().undo();
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), before);
    QTRY_VERIFY(f.find<QPushButton>("Ends of lines that meet (4): Join") != nullptr &&
                f.find<QPushButton>("Ends of lines that meet (4): Join")->isVisible()); // they are there again
  }

  // A page of 60 x 40 mm with a square, one of 80 x 50 mm with a larger one.
  static QByteArray two_pages() {
    const auto square = [](double from, double side) {
      return PageItem{{{Contour{{Segment::line({from, from}, {from + side, from}),
                                 Segment::line({from + side, from}, {from + side, from + side}),
                                 Segment::line({from + side, from + side}, {from, from + side}),
                                 Segment::line({from, from + side}, {from, from})},
                                true}}},
                      {0x12, 0x34, 0x56}};
    };
    return QByteArray::fromStdString(
        *write_pdf(std::vector<DrawnPage>{{{0, 0, 60, 40}, {square(10, 20)}}, {{0, 0, 80, 50}, {square(5, 30)}}}));
  }

  void pages_of_a_file() {
    Arrivals f;
    QVERIFY(f.window.open_file(f.put("plates.pdf", two_pages())));
    QVERIFY(f.card().isVisible());
    QVERIFY(std::abs(f.document().sheet.width - 60) < 0.01);
    Box box = f.box_of(f.card().arrivals()[0].pieces);
    QVERIFY(std::abs(box.width() - 20) < 0.001 && std::abs(box.x0 - 10) < 0.001 && std::abs(box.y0 - 10) < 0.001);
    f.type_measure("Page", "2");
    QVERIFY(f.settle());
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    box = f.box_of(f.card().arrivals()[0].pieces);
    QVERIFY(std::abs(f.document().sheet.width - 80) < 0.01 && std::abs(box.width() - 30) < 0.001);
    QVERIFY(f.find<MeasureField>("Page")->text() == "2");
    f.session().undo();
    QVERIFY(std::abs(f.document().sheet.width - 60) < 0.01 && f.find<MeasureField>("Page")->text() == "1");
    // Dropped, the page comes where the hand is; the sheet is the job's.
    Arrivals g;
    const double sheet = g.document().sheet.width;
    QVERIFY(g.drop({g.put("plates.pdf", two_pages()), g.put("sail.svg", in_mm)}));
    QCOMPARE(g.document().sheet.width, sheet);
    const Point hand = g.box_of(g.card().arrivals()[0].pieces).centre();
    g.type_measure("Page", "2");
    QVERIFY(g.settle());
    QVERIFY(distance(g.box_of(g.card().arrivals()[0].pieces).centre(), hand) < 0.001);
    QCOMPARE(g.document().pieces.size(), std::size_t{2});
    QCOMPARE(g.document().sheet.width, sheet);
  }

  void as_the_file_has_it_and_its_colours_as_materials() {
    Arrivals f;
    QVERIFY(
        f.drop({f.put("sail.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 "
                                  "40'><rect id='Sail' x='3' y='4' width='40' height='20' fill='#c8553d'/><rect x='50' "
                                  "y='30' width='5' height='5' fill='#0a0b0c'/><text>words</text></svg>"),
                f.put("plate.dxf", dxf)}));
    const std::vector<PieceId> ids = f.card().arrivals()[0].pieces;
    const std::size_t before = f.document().materials.size();
    f.click_on(f.find<QPushButton>("sail.svg: Where the file has it on its page: Place"));
    Box box = f.box_of(ids);
    QVERIFY(std::abs(box.x0 - 3) < 1e-9 && std::abs(box.y0 - 4) < 1e-9);
    QVERIFY(!f.find<QPushButton>("sail.svg: Where the file has it on its page: Place")->isVisible());
    f.click_on(f.find<QPushButton>("sail.svg: Colours that are no material of the job (2): Add"));
    QVERIFY(f.settle());
    const auto& materials = f.document().materials;
    QCOMPARE(materials.size(), before + 2);
    QVERIFY(materials[before].name == "Sail" && materials[before].colour == (Colour{0xc8, 0x55, 0x3d}));
    QVERIFY(materials[before + 1].name == "Colour 2" && materials[before + 1].colour == (Colour{0x0a, 0x0b, 0x0c}));
    f.session().undo();
    f.session().undo();
    QCOMPARE(f.document().materials.size(), before);
    QVERIFY(f.find<QPushButton>("sail.svg: Where the file has it on its page: Place")->isVisible());
    // Its largest piece gone, nobody knows where the page is.
    f.session().select({ids[0]});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Delete);
    QVERIFY(!f.find<QPushButton>("sail.svg: Where the file has it on its page: Place")->isVisible());
  }

  void lines_are_seen_as_lines_not_as_areas() {
    Arrivals f;
    QVERIFY(
        f.window.open_file(f.put("angle.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='60mm' "
                                              "viewBox='0 0 60 60'><path d='M10 10H50V50' fill='none' stroke='#000' "
                                              "stroke-width='.1'/></svg>")));
    f.window.canvas().set_view(View::Ink);
    QVERIFY(f.settle());
    const QImage seen = f.window.canvas().grab().toImage();
    const auto darkest = [&](Point mm) { // of a few px: a line may lie between two
      int least = 255;
      for (int x = -1; x <= 1; ++x)
        for (int y = -1; y <= 1; ++y)
          least = std::min(least, qGray(seen.pixel(f.px(mm) + QPoint(x, y))));
      return least;
    };
    const int sheet = darkest({5, 55});
    QVERIFY2(darkest({30, 10}) < sheet - 60 && darkest({50, 30}) < sheet - 60, qPrintable(QString::number(sheet)));
    QCOMPARE(darkest({40, 20}), sheet);
  }

  void a_drawing_that_shows_nothing_says_why() {
    Arrivals f;
    const Document before = f.document();
    QVERIFY(f.drop({f.put("a.svg", "<svg xmlns='http://www.w3.org/2000/svg'><text>words</text></svg>"),
                    f.put("b.svg", "nothing")}));
    QVERIFY(f.document() == before);
    QVERIFY2(f.window.bar().text().contains("a.svg: ") && f.window.bar().text().contains("text") &&
                 f.window.bar().text().contains("b.svg: "),
             qPrintable(f.window.bar().text()));
  }
};

QTEST_MAIN(TestCameIn)
#include "test_came_in.moc"
