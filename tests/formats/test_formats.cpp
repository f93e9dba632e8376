#include "document/job_file.h"
#include "formats/import.h"
#include "formats/png.h"
#include "formats/svg.h"
#include "formats/svg_in/css_colour.h"
#include "geom/boolean.h"
#include "geom/path_data.h"
#include "reference/svg_extents.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QColor>
#include <QFile>
#include <QJsonArray>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;
using namespace frelm::test;

namespace {

Document demo(const char* name) {
  QFile file(QString(FRELM_SOURCE_DIR "/assets/demo/%1.frelm").arg(name));
  if (!file.open(QIODevice::ReadOnly))
    return {};
  const Result<Document> d = read_job(file.readAll().toStdString());
  return d ? *d : Document{};
}
Result<Drawing> svg(const QString& body,
                    const QString& attributes = "width='100mm' height='50mm' viewBox='0 0 100 50'") {
  return read_svg(QString("<svg xmlns='http://www.w3.org/2000/svg' %1>%2</svg>").arg(attributes, body).toStdString());
}

} // namespace

class TestFormats : public QObject {
  Q_OBJECT

private slots:
  void an_svg_read_back_by_another_reader_has_the_extents_shown_data() {
    QTest::addColumn<QString>("job");
    QTest::addColumn<int>("colours");
    QTest::newRow("badge") << "saltmarsh-badge" << 3;
    QTest::newRow("transom") << "marigold-transom" << 4;
  }
  void an_svg_read_back_by_another_reader_has_the_extents_shown() {
    QFETCH(QString, job);
    QFETCH(int, colours);
    const Document d = demo(qPrintable(job));
    QVERIFY(!d.pieces.empty());
    Box shown;
    for (const auto& p : d.pieces)
      if (p->is_cut())
        for (const PieceLayer& l : layers_of(*p, *evaluator().piece(d, p->id, Depth::Finish)))
          shown.add(l.outline->bounds());
    const auto sheet = cut_sheet(d, evaluator());
    QTemporaryDir dir;
    QFile file(dir.filePath("out.svg"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(QByteArray::fromStdString(write_svg(*sheet)));
    file.close();
    const QJsonObject got = svg_extents(file.fileName());
    const QJsonArray box = got["box"].toArray();
    const double expected[]{shown.x0, shown.y0, shown.x1, shown.y1};
    QCOMPARE(box.size(), 4);
    for (int i = 0; i < 4; ++i)
      QVERIFY2(std::abs(box[i].toDouble() - expected[i]) <= 0.001,
               qPrintable(QString("%1: %2 %3").arg(i).arg(box[i].toDouble()).arg(expected[i])));
    QCOMPARE(got["width"].toString(), QString("%1mm").arg(d.sheet.width));
    QCOMPARE(got["view_box"].toString(), QString("0 0 %1 %2").arg(d.sheet.width).arg(d.sheet.height));
    QCOMPARE(got["contours"].toInt(), got["closed"].toInt());
    QCOMPARE(got["groups"].toArray().size(), colours);
    QCOMPARE(got["paths"].toInt(), static_cast<int>(sheet->pieces.size()));
    QCOMPARE(got["texts"].toInt() + got["transforms"].toInt(), 0);
  }

  void our_own_reader_gives_the_outlines_back() {
    const auto sheet = cut_sheet(demo("saltmarsh-badge"), evaluator());
    const auto back = read_svg(write_svg(*sheet));
    QVERIFY(back.ok());
    QVERIFY(back->frame == sheet->frame);
    QCOMPARE(back->shapes.size(), sheet->pieces.size());
    for (std::size_t i = 0; i < back->shapes.size(); ++i) {
      const auto& piece = *std::find_if(sheet->pieces.begin(), sheet->pieces.end(),
                                        [&](const CutPiece& p) { return p.colour == back->shapes[i].colour; });
      QCOMPARE(back->shapes[i].outline.node_count(), piece.outline.node_count());
      QVERIFY(boundary_distance(rings_of(back->shapes[i].outline, 0.001), rings_of(piece.outline, 0.001)) < 0.0001);
    }
  }

  void names_are_escaped_and_empty_pieces_left_out() {
    CutSheet sheet;
    sheet.frame = {0, 0, 10, 10};
    sheet.pieces.push_back({1, "a<b>&\"\n", {}, Destination::Knife, *parse_outline("M0 0H1V1Z")});
    sheet.pieces.push_back({2, "empty", {1, 2, 3}, Destination::Knife, {}});
    const std::string text = write_svg(sheet);
    QVERIFY(text.find("a&lt;b&gt;&amp;&quot; ") != std::string::npos);
    QVERIFY(text.find("#010203") == std::string::npos);
    QVERIFY(read_svg(text).ok());
  }

  void shapes_and_units_are_read_as_millimetres_data() {
    QTest::addColumn<QString>("attributes");
    QTest::addColumn<QString>("body");
    QTest::addColumn<QRectF>("box");
    const QString mm = "width='100mm' height='50mm' viewBox='0 0 100 50'";
    QTest::newRow("rect-in-mm") << mm << "<rect x='10' y='5' width='20' height='10'/>" << QRectF(10, 5, 20, 10);
    QTest::newRow("px-are-96-to-the-inch") << "width='96' height='96'"
                                           << "<rect width='96' height='48'/>" << QRectF(0, 0, 25.4, 12.7);
    QTest::newRow("viewbox-scales") << "width='50mm' height='25mm' viewBox='0 0 100 50'"
                                    << "<rect x='10' y='10' width='20' height='20'/>" << QRectF(5, 5, 10, 10);
    QTest::newRow("inches") << "width='2in' height='1in' viewBox='0 0 2 1'"
                            << "<rect width='1' height='1'/>" << QRectF(0, 0, 25.4, 25.4);
    QTest::newRow("rounded-rect") << mm << "<rect x='1' y='1' width='30' height='20' rx='4'/>" << QRectF(1, 1, 30, 20);
    QTest::newRow("circle") << mm << "<circle cx='20' cy='20' r='7'/>" << QRectF(13, 13, 14, 14);
    QTest::newRow("ellipse") << mm << "<ellipse cx='20' cy='20' rx='7' ry='3'/>" << QRectF(13, 17, 14, 6);
    QTest::newRow("polygon") << mm << "<polygon points='1,1 5,1 3,9'/>" << QRectF(1, 1, 4, 8);
    QTest::newRow("translate-and-scale") << mm
                                         << "<g transform='translate(10 0) scale(2)'><rect width='5' height='5'/></g>"
                                         << QRectF(10, 0, 10, 10);
    QTest::newRow("rotate-about") << mm << "<rect x='10' y='10' width='20' height='10' transform='rotate(90 10 10)'/>"
                                  << QRectF(0, 10, 10, 20);
    QTest::newRow("matrix") << mm << "<rect width='1' height='1' transform='matrix(2,0,0,3,4,5)'/>"
                            << QRectF(4, 5, 2, 3);
    // SVG 1.1, 5.6 (use), 5.5 (symbol), 7.7 (viewBox; xMidYMid meet is the default of preserveAspectRatio).
    QTest::newRow("use") << mm << "<defs><rect id='r' width='5' height='4'/></defs><use href='#r' x='10' y='20'/>"
                         << QRectF(10, 20, 5, 4);
    QTest::newRow("use-xlink-and-transform")
        << mm
        << "<defs><g id='r'><rect width='5' height='4'/></g></defs><use xlink:href='#r' transform='scale(2)' x='3'/>"
        << QRectF(6, 0, 10, 8);
    QTest::newRow("use-of-use") << mm
                                << "<defs><rect id='r' width='5' height='4'/><use id='u' href='#r' x='1'/></defs>"
                                   "<use href='#u' y='2'/>"
                                << QRectF(1, 2, 5, 4);
    QTest::newRow("symbol-fills-its-place")
        << mm
        << "<symbol id='s' viewBox='0 0 10 10'><rect width='10' height='10'/></symbol>"
           "<use href='#s' x='5' y='5' width='40' height='20'/>"
        << QRectF(15, 5, 20, 20);
    QTest::newRow("inner-svg") << mm
                               << "<svg x='10' y='10' width='20' height='20' viewBox='0 0 40 40'>"
                                  "<rect width='40' height='20'/></svg>"
                               << QRectF(10, 10, 20, 10);
    QTest::newRow("hidden-is-left-out")
        << mm << "<rect width='9' height='9' display='none'/><rect x='1' width='2' height='3'/>" << QRectF(1, 0, 2, 3);
    QTest::newRow("nested-svg-prefix") << mm << "<g><g><path d='M3 3h4v4z'/></g></g>" << QRectF(3, 3, 4, 4);
  }
  void shapes_and_units_are_read_as_millimetres() {
    QFETCH(QString, attributes);
    QFETCH(QString, body);
    QFETCH(QRectF, box);
    const auto drawing = svg(body, attributes);
    QVERIFY2(drawing.ok(), drawing.ok() ? "" : drawing.error().text().c_str());
    QCOMPARE(drawing->shapes.size(), std::size_t{1});
    const Box b = drawing->shapes[0].outline.bounds();
    QVERIFY(std::abs(b.x0 - box.x()) < 0.001 && std::abs(b.y0 - box.y()) < 0.001);
    QVERIFY(std::abs(b.width() - box.width()) < 0.001 && std::abs(b.height() - box.height()) < 0.001);
  }

  void colours_come_from_attributes_and_styles() {
    const auto d = svg("<g fill='#112233'><path d='M0 0H1V1Z'/><path style='fill: #445566' d='M0 0H1V1Z'/></g><path "
                       "stroke='#778899' stroke-width='.1' fill='none' d='M0 0H1'/>");
    QCOMPARE(to_hex(d->shapes[0].colour), std::string("#112233"));
    QCOMPARE(to_hex(d->shapes[1].colour), std::string("#445566"));
    QCOMPARE(to_hex(d->shapes[2].colour), std::string("#778899"));
    QVERIFY(!d->shapes[2].outline.contours[0].closed);
  }

  // SVG 1.1, 4.4; the keywords against Qt's own table of them.
  void colours_in_every_notation_data() {
    QTest::addColumn<QString>("text");
    QTest::addColumn<QString>("colour"); // empty: none
    for (const QString& name : QColor::colorNames())
      if (name != "transparent")
        QTest::newRow(qPrintable(name)) << name << QColor(name).name();
    QTest::newRow("three digits") << "#f0a"
                                  << "#ff00aa";
    QTest::newRow("capitals and blanks") << " #FF00aA "
                                         << "#ff00aa";
    QTest::newRow("numbers") << "rgb( 255,0 , 300)"
                             << "#ff00ff";
    QTest::newRow("per cent") << "rgb(100%, 50%, 0%)"
                              << "#ff8000";
    // CSS Color 4: 5.2, 6.1, 7, 8 and the examples there.
    QTest::newRow("blanks") << "rgb(29 164 192 / 95%)"
                            << "#1da4c0";
    QTest::newRow("eight digits") << "#0000ffcc"
                                  << "#0000ff";
    QTest::newRow("four digits") << "#0f38"
                                 << "#00ff33";
    QTest::newRow("hsl") << "hsl(120deg 75% 25%)"
                         << "#107010";
    QTest::newRow("hsl of old") << "hsl(120, 100%, 50%)"
                                << "#00ff00";
    QTest::newRow("hue in turns") << "hsla(0.5turn, 100%, 50%, 0.5)"
                                  << "#00ffff";
    QTest::newRow("hwb") << "hwb(90 0% 0%)"
                         << "#80ff00";
    for (const char* none : {"none", "url(#a)", "currentColor", "#12", "#gggggg", "rgb(1,2)", "rgb(nan,1,1)", ""})
      QTest::newRow(none) << none << "";
  }
  void colours_in_every_notation() {
    QFETCH(QString, text);
    const auto colour = css_colour(text.toStdString());
    QTEST(colour ? QString::fromStdString(to_hex(colour->colour)) : QString(), "colour");
  }

  // CSS 2.1, 6.4: attribute, then rules by weight and order, then `style`; what is important before all.
  void styles_cascade_data() {
    QTest::addColumn<QString>("css");
    QTest::addColumn<QString>("attributes");
    QTest::addColumn<QString>("fill");
    const QString rules = "path{fill:#010101}.a{fill:#020202}#p{fill:#030303}";
    QTest::newRow("rule over attribute") << "path{fill:#010101}"
                                         << "fill='#090909'"
                                         << "#010101";
    QTest::newRow("class over element") << rules << "class='a'"
                                        << "#020202";
    QTest::newRow("id over class") << rules << "class='a' id='p'"
                                   << "#030303";
    QTest::newRow("style over id") << rules << "id='p' style='fill:#040404'"
                                   << "#040404";
    QTest::newRow("important over style") << "*{fill:#050505 ! important}"
                                          << "style='fill:#040404'"
                                          << "#050505";
    QTest::newRow("the later one") << ".a,.b{fill:#010101}.b{fill:#020202}"
                                   << "class='b a'"
                                   << "#020202";
    QTest::newRow("both classes") << ".a.b{fill:#010101}.b{fill:#020202}"
                                  << "class='a\tb'"
                                  << "#010101";
    QTest::newRow("inside @media passed over") << "@media print{.a{fill:#010101}}.a{fill:#020202}"
                                               << "class='a'"
                                               << "#020202";
    QTest::newRow("unclosed") << ".a{fill:#010101"
                              << "class='a'"
                              << "#010101";
  }
  void styles_cascade() {
    QFETCH(QString, css);
    QFETCH(QString, attributes);
    const auto d = svg("<style><![CDATA[" + css + "]]></style><path " + attributes + " d='M0 0H1V1Z'/>");
    QVERIFY(d.ok() && d->shapes.size() == 1);
    QTEST(QString::fromStdString(to_hex(d->shapes[0].colour)), "fill");
  }

  void path_data_is_read_as_another_reader_reads_it_data() {
    QTest::addColumn<QString>("path");
    QTest::newRow("all-relative") << "m10 10h10v5l5 5q5 0 5 5t5 5c2 0 3 1 3 3s1 3 3 3a5 5 0 0 1-5 5z";
    QTest::newRow("all-absolute")
        << "M10 10H22V16L27 20Q30 20 31 25T36 31C38 31 40 33 40 35S41 39 43 39A7 4 20 1 0 33 45Z";
    QTest::newRow("run-together") << "M1-2.5.5.5L3e1,4.5-1-1z";
    QTest::newRow("several-subpaths") << "M0 0H9V9ZM20 5l4 4 3-9zm8 8h2v2z";
    QTest::newRow("repeated-move-is-line") << "m1 1 5 0 0 5z";
    QTest::newRow("flags-without-spaces") << "M5 5a6 4 30 1130 9z";
  }
  void path_data_is_read_as_another_reader_reads_it() {
    QFETCH(QString, path); // the other reader: fontTools
    QTemporaryDir dir;
    QFile file(dir.filePath("p.svg"));
    QVERIFY(file.open(QIODevice::WriteOnly));
    const QByteArray bytes = "<svg xmlns='http://www.w3.org/2000/svg' width='100mm' height='100mm' viewBox='0 0 100 "
                             "100'><path d='" +
                             path.toUtf8() + "'/></svg>";
    file.write(bytes);
    file.close();
    const QJsonObject expected = svg_extents(file.fileName());
    const auto got = read_svg(bytes.toStdString());
    QVERIFY2(got.ok(), got.ok() ? "" : got.error().text().c_str());
    const Box b = got->shapes.at(0).outline.bounds();
    const double box[]{b.x0, b.y0, b.x1, b.y1};
    for (int i = 0; i < 4; ++i)
      QVERIFY2(std::abs(expected["box"].toArray()[i].toDouble() - box[i]) < 0.01, qPrintable(QString::number(box[i])));
    QCOMPARE(expected["contours"].toInt(), static_cast<int>(got->shapes[0].outline.contours.size()));
  }

  void a_drawing_becomes_pieces_of_a_job() {
    const std::string bytes =
        "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='10 20 120 80'>"
        "<path id='hull' fill='#112233' d='M20 30H60V50H20Z'/><polyline fill='none' stroke='red' stroke-width='.1' "
        "points='20,60 60,60 60,70'/><image id='photo' x='20' y='30' width='5' height='5'/></svg>";
    const Drawing drawing = *read_drawing(bytes);
    const auto job = job_from_drawing(drawing);
    QVERIFY(job.ok());
    QCOMPARE(job->document.sheet.width, 120.0);
    QCOMPARE(job->document.sheet.height, 80.0);
    QCOMPARE(job->pieces.size(), std::size_t{2});
    const Piece& hull = *job->document.find(job->pieces[0]);
    QCOMPARE(hull.name, std::string("hull"));
    QCOMPARE(to_hex(hull.colour), std::string("#112233"));
    QVERIFY(std::abs(hull.outline()->outline->bounds().x0 - 10) < 1e-9); // the frame begins at 10, 20
    QVERIFY(!job->document.find(job->pieces[1])->outline()->outline->contours[0].closed);
    QCOMPARE(job->left_out.size(), std::size_t{1});
    QVERIFY(job->left_out[0].what == Lost::Picture);
    QVERIFY(distance({job->left_out[0].places.at(0).x0, job->left_out[0].places[0].y0}, {10, 10}) < 1e-9);
    const auto added = add_drawing(job->document, drawing, {Point{200, 100}, 1});
    QCOMPARE(added->document.pieces.size(), std::size_t{4});
    Box box;
    for (const PieceId id : added->pieces)
      box.add(added->document.find(id)->outline()->outline->bounds());
    QVERIFY(distance(box.centre(), {200, 100}) < 1e-9);
    // At twice the size: about the point, or with the sheet.
    const auto doubled = add_drawing(job->document, drawing, {Point{200, 100}, 2});
    Box large;
    for (const PieceId id : doubled->pieces)
      large.add(doubled->document.find(id)->outline()->outline->bounds());
    QVERIFY(distance(large.centre(), {200, 100}) < 1e-9 && std::abs(large.width() - 2 * box.width()) < 1e-9);
    QCOMPARE(job_from_drawing(drawing, 2)->document.sheet.width, 240.0);
    QVERIFY(!add_drawing(job->document, drawing, {{}, 0}).ok());
    QVERIFY(!job_from_drawing(*read_drawing("<svg><text>words only</text></svg>")).ok());
    QVERIFY(!read_drawing("hello").ok());
    QVERIFY(looks_like_svg("\xEF\xBB\xBF <?xml version='1.0'?><svg/>") && !looks_like_svg("a < b <svg") &&
            !looks_like_svg(""));
  }

  void broken_files_are_refused_in_plain_words_data() {
    QTest::addColumn<QString>("bytes");
    QTest::newRow("empty") << "";
    QTest::newRow("not-xml") << "hello";
    QTest::newRow("other-xml") << "<html/>";
    QTest::newRow("cut-short") << "<svg><path d='M0 0";
    QTest::newRow("endless frame") << "<svg viewBox='0 0 1e308 1e308'><rect width='1' height='1'/></svg>";
  }
  void broken_files_are_refused_in_plain_words() {
    QFETCH(QString, bytes);
    const auto d = read_svg(bytes.toStdString());
    QVERIFY(!d.ok());
    QVERIFY(!d.error().message().empty());
  }

  void the_picture_has_the_sheet_s_shape_and_ink_in_it() {
    const auto sheet = cut_sheet(demo("saltmarsh-badge"), evaluator());
    for (const ExportInk view : {ExportInk::Areas, ExportInk::Lines}) {
      const auto bytes = write_png(*sheet, 300, view);
      QVERIFY(bytes.ok());
      QVERIFY(bytes->starts_with("\x89PNG"));
      // Width and height stand at bytes 16 to 23 of the header (PNG specification, 11.2.2).
      QCOMPARE(static_cast<int>(static_cast<unsigned char>((*bytes)[18])) * 256 +
                   static_cast<unsigned char>((*bytes)[19]),
               300);
      QCOMPARE(static_cast<int>(static_cast<unsigned char>((*bytes)[22])) * 256 +
                   static_cast<unsigned char>((*bytes)[23]),
               200);
      QVERIFY(bytes->size() > 2000);
    }
    QVERIFY(!write_png(*sheet, 100000, ExportInk::Areas).ok());
  }

  void the_demo_badge_fills_its_band() {
    // Both texts between r 120 and r 154 about (300, 200): flat caps reach the circles at the middle of their tops, the
    // corners of flat letters a little beyond (common practice, no source).
    const Document d = demo("saltmarsh-badge");
    for (const auto& p : d.pieces) {
      if (p->lettering() == nullptr || p->lettering()->recipe.bend.kind != BendKind::Guide)
        continue;
      const auto r = evaluator().piece(d, p->id, Depth::Seat);
      for (const PlacedLetter& l : r->seated->letters) {
        if (l.blank())
          continue;
        for (const Contour& c : l.shape->transformed(l.placement()).contours)
          for (const Segment& s : c.segments) {
            const double at = distance(s.p0, {300, 200});
            QVERIFY2(at > 119 && at < 156, qPrintable(QString::number(at)));
          }
      }
    }
  }

  void even_odd_fills_keep_their_holes_data() {
    QTest::addColumn<QByteArray>("body");
    QTest::addColumn<double>("area");
    const QByteArray path = "<path d='M0 0H20V20H0Z M5 5H15V15H5Z'/>";
    QTest::newRow("nonzero") << path << 400.0;
    QTest::newRow("attribute") << QByteArray(path).replace("<path", "<path fill-rule='evenodd'") << 300.0;
    QTest::newRow("style") << QByteArray(path).replace("<path", "<path style='fill-rule: evenodd'") << 300.0;
    QTest::newRow("inherited") << "<g fill-rule='evenodd'><g>" + path + "</g></g>" << 300.0;
    QTest::newRow("class") << "<style>/* {} */ .a{fill:red;fill-rule:evenodd}</style>" +
                                  QByteArray(path).replace("<path", "<path class='b a'")
                           << 300.0;
    QTest::newRow("through-use") << "<defs>" + QByteArray(path).replace("<path", "<path id='p'") +
                                        "</defs><use href='#p' style='fill-rule : evenodd '/>"
                                 << 300.0;
    QTest::newRow("overruled") << "<g fill-rule='evenodd'>" +
                                      QByteArray(path).replace("<path", "<path fill-rule='nonzero'") + "</g>"
                               << 400.0;
  }
  void even_odd_fills_keep_their_holes() {
    QFETCH(QByteArray, body);
    QFETCH(double, area);
    const QByteArray svg =
        "<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm' viewBox='0 0 20 20'>" + body + "</svg>";
    const auto drawing = read_svg(std::string_view(svg.constData(), static_cast<std::size_t>(svg.size())));
    QVERIFY(drawing.ok());
    // Under the nonzero rule: the outline united.
    const auto united = self_union(drawing->shapes.at(0).outline, FillRule::Nonzero);
    QVERIFY2(std::abs(united->outline.area() - area) < 1e-3, qPrintable(QString::number(united->outline.area())));
  }
};

QTEST_APPLESS_MAIN(TestFormats)
#include "test_formats.moc"
