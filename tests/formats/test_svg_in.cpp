// Drawings of others: what they show, at the size they say, and what is told of the rest.
// Sources are named beside each row: SVG 1.1 (W3C, 2011), SVG 2 (2018), CSS 2.1 (2011), CSS Values 3, Color 4,
// Transforms 1, Masking 1. Rows without a source are our own.
#include "formats/svg.h"
#include "formats/svg_in/clip.h"
#include "formats/svg_in/strokes.h"
#include "geom/boolean.h"
#include "support/fixtures.h"
#include "support/silhouette.h"

#include <QDir>
#include <QTemporaryDir>
#include <QTest>

using namespace frelm;

namespace {

const QString mm = "width='100mm' height='100mm' viewBox='0 0 100 100'";

Result<Drawing> svg(const QString& body, const QString& attributes = mm, const DrawingReadOptions& options = {}) {
  return read_svg(
      QString("<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' %1>%2</svg>")
          .arg(attributes, body)
          .toStdString(),
      options);
}

// What is covered, mm²: shapes on each other once.
double covered(const Drawing& drawing) {
  std::vector<Outline> areas;
  for (const DrawnShape& s : drawing.shapes)
    if (s.line_width == 0)
      areas.push_back(s.outline);
  return combine(BooleanOp::Union, areas, {})->outline.area();
}

bool told(const Drawing& drawing, Lost what) {
  return std::any_of(drawing.left_out.begin(), drawing.left_out.end(),
                     [&](const LeftOut& l) { return l.what == what; });
}

} // namespace

class TestSvgIn : public QObject {
  Q_OBJECT

private slots:
  // Small drawings, each with one thing in it, as librsvg paints them.
  void as_librsvg_paints_it_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<bool>("differs");
    QFile list(FRELM_SOURCE_DIR "/tests/formats/drawings/differs.txt");
    QVERIFY(list.open(QIODevice::ReadOnly));
    QStringList differing;
    for (const QString& line : QString::fromUtf8(list.readAll()).split('\n'))
      differing << line.section(' ', 0, 0);
    const QDir dir(FRELM_SOURCE_DIR "/tests/formats/drawings");
    QVERIFY(dir.entryList({"*.svg"}).size() >= 200);
    for (const QString& name : dir.entryList({"*.svg"}))
      QTest::newRow(qPrintable(name)) << dir.filePath(name) << differing.contains(name);
  }
  void as_librsvg_paints_it() {
    QFETCH(QString, path);
    QFETCH(bool, differs);
    QFile file(path);
    QVERIFY(file.open(QIODevice::ReadOnly));
    DrawingReadOptions options;
    options.widest_line = 0;
    const Result<Drawing> drawing = read_svg(file.readAll().toStdString(), options);
    const auto truth = seen_by_librsvg(path.toStdString(), drawing.ok() ? zoom_for(*drawing, 400) : 0);
    if (!truth)
      return; // nothing to compare with; it has been read, or refused
    QVERIFY2(drawing.ok(), drawing.ok() ? "" : drawing.error().text().c_str());
    const double same = overlap(*truth, seen_in(*drawing, truth->width, truth->height, zoom_for(*drawing, 400)));
    if (differs) {
      QVERIFY2(same < 0.98, "it is the same now: take it off the list");
      return;
    }
    QVERIFY2(same >= 0.98 || told(*drawing, Lost::Text) || told(*drawing, Lost::TooMuch) ||
                 told(*drawing, Lost::Unread),
             qPrintable(QString("%1; left out: %2").arg(same).arg(in_one_line(drawing->left_out).c_str())));
  }

  void what_is_painted_is_taken_data() {
    QTest::addColumn<QString>("body");
    QTest::addColumn<double>("area"); // mm², of all shapes together
    QTest::addColumn<int>("shapes");
    const auto row = [](const char* name, const QString& body, double area, int shapes) {
      QTest::newRow(name) << body << area << shapes;
    };
    row("black unless it says (SVG 1.1, 11.3)", "<rect width='4' height='5'/>", 20, 1);
    row("fill none (11.2)", "<rect width='4' height='5' fill='none'/>", 0, 0);
    row("transparent (CSS Color 4, 6.3)", "<rect width='4' height='5' fill='transparent'/>", 0, 0);
    row("no alpha (CSS Color 4, 5.2)", "<rect width='4' height='5' fill='#11223300'/>", 0, 0);
    row("fill-opacity 0 (11.3)", "<rect width='4' height='5' fill-opacity='0'/>", 0, 0);
    row("fill-opacity 0 % (CSS Color 4, 4.2)", "<rect width='4' height='5' fill-opacity='0%'/>", 0, 0);
    row("opacity of the group (14.5)", "<g opacity='0'><rect width='4' height='5'/></g>", 0, 0);
    row("visibility (11.5)", "<rect width='4' height='5' visibility='hidden'/>", 0, 0);
    row("visible in what is hidden (11.5)",
        "<g visibility='hidden'><rect width='4' height='5' visibility='visible'/></g>", 20, 1);
    row("display (11.5)", "<g display='none'><rect width='4' height='5' display='inline'/></g>", 0, 0);
    row("display with blanks and weight (CSS 2.1, 6.4.2)",
        "<rect width='4' height='5' style='display : none !important'/>", 0, 0);
    row("currentColor (11.2)", "<g color='red' fill='currentColor'><rect width='4' height='5'/></g>", 20, 1);
    row("an open path is filled as if closed (11.3)", "<path d='M0 0H10V10'/>", 50, 1);
    row("a polyline too (11.3)", "<polyline points='0,0 10,0 10,10'/>", 50, 1);
    row("nonzero (11.3)", "<path d='M0 0H10V10H0ZM2 2H8V8H2Z'/>", 100, 1);
    row("evenodd (11.3)", "<path fill-rule='evenodd' d='M0 0H10V10H0ZM2 2H8V8H2Z'/>", 64, 1);
    row("evenodd from outside of use (5.6)",
        "<defs><path id='p' d='M0 0H10V10H0ZM2 2H8V8H2Z'/></defs><use href='#p' fill-rule='evenodd'/>", 64, 1);
    row("stroke only: mitred square ring (11.4)",
        "<rect x='10' y='10' width='20' height='10' fill='none' stroke='red' stroke-width='2'/>", 22 * 12 - 18 * 8, 1);
    row("stroke only: bevelled (11.4)",
        "<rect x='10' y='10' width='20' height='10' fill='none' stroke='red' stroke-width='2' "
        "stroke-linejoin='bevel'/>",
        22 * 12 - 18 * 8 - 4 * 0.5, 1);
    row("stroke only: round joins (11.4)",
        "<rect x='10' y='10' width='20' height='10' fill='none' stroke='red' stroke-width='2' "
        "stroke-linejoin='round'/>",
        22 * 12 - 18 * 8 - (4 - pi), 1);
    row("butt caps (11.4)", "<line x1='10' x2='30' y1='10' y2='10' stroke='red' stroke-width='2'/>", 40, 1);
    row("square caps (11.4)",
        "<line x1='10' x2='30' y1='10' y2='10' stroke='red' stroke-width='2' stroke-linecap='square'/>", 44, 1);
    row("round caps (11.4)",
        "<line x1='10' x2='30' y1='10' y2='10' stroke='red' stroke-width='2' stroke-linecap='round'/>", 40 + pi, 1);
    row("mitre limit passed: bevelled (11.4)", // the ratio is 1 / sin(θ/2)
        "<path d='M10 10H30L10 11' fill='none' stroke='red' stroke-width='1' stroke-linejoin='miter'/>", -1, 1);
    row("dashes (11.4)", "<line x1='10' x2='31' y1='10' y2='10' stroke='red' stroke-width='2' stroke-dasharray='5 3'/>",
        2 * (5 + 5 + 5), 1);
    row("an odd list of dashes is doubled (11.4)",
        "<line x1='10' x2='40' y1='10' y2='10' stroke='red' stroke-width='2' stroke-dasharray='5'/>", 2 * 15, 1);
    row("dash offset (11.4)",
        "<line x1='10' x2='20' y1='10' y2='10' stroke='red' stroke-width='2' stroke-dasharray='5' "
        "stroke-dashoffset='5'/>",
        2 * 5, 1);
    row("dashes of nothing are a whole line (11.4)",
        "<line x1='10' x2='20' y1='10' y2='10' stroke='red' stroke-width='2' stroke-dasharray='0 0'/>", 20, 1);
    row("dashes without length are dots of their caps (11.4)",
        "<line x1='10' x2='30' y1='10' y2='10' stroke='red' stroke-width='2' stroke-dasharray='0 5' "
        "stroke-linecap='round'/>",
        4 * pi, 1);
    row("a last dash that is only rounding", // 8 in steps of 2, not all of them the same double
        "<path d='M12 16.5h8' fill='none' stroke='red' stroke-dasharray='2 2' transform='scale(.5291666667)'/>",
        4 * 0.5291666667 * 0.5291666667, 1);
    row("a dot of a round cap (SVG 2, 13.5.6)",
        "<path d='M10 10z' stroke='red' stroke-width='4' stroke-linecap='round'/>", 4 * pi, 1);
    row("a dot of a square cap (SVG 2, 13.5.6)",
        "<path d='M10 10h0' stroke='red' stroke-width='4' stroke-linecap='square'/>", 16, 1);
    row("no dot of a butt cap (SVG 2, 13.5.6)", "<path d='M10 10h0' stroke='red' stroke-width='4'/>", 0, 0);
    row("stroke scaled unevenly (7)",
        "<g transform='scale(1 3)'><line x1='10' x2='30' y1='10' y2='10' stroke='red' stroke-width='2'/></g>", 20 * 6,
        1);
    row("stroke that does not scale (SVG 2, 8.13)", // 2 px of 1/96 in
        "<g transform='scale(5)'><line x1='1' x2='5' y1='2' y2='2' stroke='red' stroke-width='2' "
        "vector-effect='non-scaling-stroke'/></g>",
        20 * 2 * 25.4 / 96, 1);
    row("its dashes don't scale either (SVG 2, 8.13)", // 12 px of 1/96 in, 12 px apart, of 20 mm: 3.149 periods
        "<g transform='scale(5)'><line x1='1' x2='5' y1='2' y2='2' stroke='red' stroke-width='2' stroke-dasharray='12' "
        "vector-effect='non-scaling-stroke'/></g>",
        2 * 25.4 / 96 * (3 * 12 * 25.4 / 96 + (20 - 3 * 24 * 25.4 / 96)), 1);
    row("width 0 is none (11.4)", "<line x1='10' x2='30' y1='10' y2='10' stroke='red' stroke-width='0'/>", 0, 0);
    row("fill and stroke of one colour are one shape",
        "<rect x='10' y='10' width='20' height='10' fill='red' stroke='#f00' stroke-width='2'/>", 22 * 12, 1);
    row("fill and stroke of two colours are two",
        "<rect x='10' y='10' width='20' height='10' fill='red' stroke='blue' stroke-width='2'/>", 22 * 12, 2);
    row("stroke-opacity 0 (11.4)",
        "<rect x='10' y='10' width='20' height='10' stroke='blue' stroke-width='2' stroke-opacity='0'/>", 200, 1);
    row("clip (14.3)",
        "<clipPath id='c'><rect width='5' height='5'/></clipPath><g clip-path='url(#c)'><rect width='9' "
        "height='3'/><rect y='6' width='9' height='9'/></g>",
        15, 1);
    row("clip by its own rule (14.3.5)",
        "<clipPath id='c'><path clip-rule='evenodd' d='M0 0H10V10H0ZM2 2H8V8H2Z'/></clipPath><rect width='50' "
        "height='5' "
        "clip-path='url(#c)'/>",
        10 * 5 - 6 * 3, 1);
    row("clip in parts of the box (14.3.5)",
        "<clipPath id='c' clipPathUnits='objectBoundingBox'><rect width='.5' height='.25'/></clipPath><rect x='20' "
        "y='20' "
        "width='40' height='20' clip-path='url(#c)'/>",
        100, 1);
    row("a clip within a clip (14.3.5)",
        "<clipPath id='a'><rect width='5' height='50'/></clipPath><clipPath id='c' clip-path='url(#a)'><rect width='9' "
        "height='2'/></clipPath><rect width='50' height='50' clip-path='url(#c)'/>",
        10, 1);
    row("a clip of nothing (14.3.5)", "<clipPath id='c'/><rect width='5' height='5' clip-path='url(#c)'/>", 0, 0);
    row("no such clip (CSS Masking 1, 6.1)", "<rect width='5' height='5' clip-path='url(#c)'/>", 25, 1);
    row("mask: what is white shows (14.4)",
        "<mask id='m' maskUnits='userSpaceOnUse' x='0' y='0' width='100' height='100'><rect width='10' height='10' "
        "fill='white'/><rect width='4' height='10' fill='black'/></mask><rect width='50' height='5' mask='url(#m)'/>",
        30, 1);
    row("mask by a filter that makes it light",
        "<filter id='f'/><mask id='m'><g filter='url(#f)'><rect width='7' height='100'/></g></mask><rect width='10' "
        "height='10' mask='url(#m)'/>",
        70, 1);
    row("mask: its frame, a tenth more than the box (14.4)",
        "<mask id='m'><rect width='100' height='100' fill='white'/></mask><rect x='10' y='10' width='10' height='10' "
        "mask='url(#m)'/>",
        100, 1);
    row("mask by alpha (CSS Masking 1, 8.5)",
        "<mask id='m' style='mask-type:alpha'><rect width='7' height='100' fill='black'/></mask><rect width='10' "
        "height='10' mask='url(#m)'/>",
        70, 1);
    row("inner svg is cut off (14.3.3)", "<svg width='10' height='10'><rect width='50' height='3'/></svg>", 30, 1);
    row("unless it may overflow (14.3.3)",
        "<svg width='10' height='10' overflow='visible'><rect width='50' height='3'/></svg>", 150, 1);
    row("inner svg in % (5.1.2)", "<svg x='50%' width='50%' height='10%'><rect width='100%' height='100%'/></svg>", 500,
        1);
    row("none stretches (7.8)",
        "<svg width='10' height='20' viewBox='0 0 1 1' preserveAspectRatio='none'><rect width='1' height='1'/></svg>",
        200, 1);
    row("meet leaves room (7.8)", "<svg width='10' height='20' viewBox='0 0 1 1'><rect width='1' height='1'/></svg>",
        100, 1);
    row("slice fills (7.8)",
        "<svg width='10' height='20' viewBox='0 0 1 1' preserveAspectRatio='xMinYMin slice'><rect width='1' "
        "height='1'/></svg>",
        200, 1);
    row("a circle in % (7.10)", "<circle cx='50%' cy='50%' r='10%'/>", 100 * pi, 1);
    row("lengths in em (7.10)", "<g font-size='5'><rect width='2em' height='1ex'/></g>", 25, 1);
    row("switch takes the first that fits (5.8)",
        "<switch><g systemLanguage='xx'><rect width='9' height='9'/></g><g systemLanguage='en-GB'><rect width='2' "
        "height='2'/></g><rect width='5' height='5'/></switch>",
        4, 1);
    row("what needs extensions is passed over (5.8.1)",
        "<switch><foreignObject requiredExtensions='http://example.org/x' width='1' height='1'/><rect width='5' "
        "height='5'/></switch>",
        25, 1);
    row("use of a symbol (5.5)",
        "<symbol id='s' viewBox='0 0 1 1'><rect width='1' height='1'/></symbol><use xlink:href='#s' width='4' "
        "height='4'/>",
        16, 1);
    row("geometry as properties (SVG 2, 7)", "<rect style='width:4px;height:5px'/>", 20, 1);
    row("transform as a property (CSS Transforms 1, 6)", "<rect width='1' height='1' style='transform:scale(2, 3)'/>",
        6, 1);
    row("d none (SVG 2, 9.3.2)", "<path d='none'/>", 0, 0);
    row("what stands before an error (SVG 1.1, F.2)", "<path d='M0 0H10V10H0Z M20 20H30V'/>", 100, 1);
    row("elements of others are not shapes", "<foo:rect xmlns:foo='http://example.org/foo' width='5' height='5'/>", 0,
        0);
    row("shapes under any prefix", "<s:rect xmlns:s='http://www.w3.org/2000/svg' width='5' height='5'/>", 25, 1);
    row("a gradient is an area (13.2)",
        "<linearGradient id='g'><stop stop-color='red'/><stop offset='1' stop-color='blue'/></linearGradient><rect "
        "width='5' height='5' fill='url(#g)'/>",
        25, 1);
    row("a gradient without stops is none (13.2.4)",
        "<linearGradient id='g'/><rect width='5' height='5' fill='url(#g)'/>", 0, 0);
    row("no such gradient: its other colour (11.2)", "<rect width='5' height='5' fill='url(#g) red'/>", 25, 1);
    row("flat shapes are none", "<path d='M10 10L20 20Z'/><rect width='5' height='5'/>", 25, 1);
    row("scaled to nothing (SVG 1.1, 7.4)", "<g transform='scale(0)'><rect width='5' height='5'/></g>", 0, 0);
  }
  void what_is_painted_is_taken() {
    QFETCH(QString, body);
    QFETCH(double, area);
    QFETCH(int, shapes);
    const auto d = svg(body);
    QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
    QCOMPARE(static_cast<int>(d->shapes.size()), shapes);
    if (area >= 0)
      QVERIFY2(std::abs(covered(*d) - area) < 0.002 * std::max(area, 1.0), qPrintable(QString::number(covered(*d))));
    for (const DrawnShape& s : d->shapes)
      for (const Contour& c : s.outline.contours)
        QVERIFY(c.closed);
  }

  // SVG 1.1, 11.4: the mitre reaches 1 / sin(θ/2) half widths from the corner, and is cut off beyond the limit.
  void mitres_end_at_their_limit_data() {
    QTest::addColumn<double>("degrees");
    QTest::addColumn<double>("limit");
    for (const double angle : {20.0, 28.0, 30.0, 60.0, 90.0, 150.0})
      for (const double limit : {1.0, 4.0, 10.0})
        QTest::addRow("%g degrees, %g", angle, limit) << angle << limit;
  }
  void mitres_end_at_their_limit() {
    QFETCH(double, degrees);
    QFETCH(double, limit);
    const double a = radians(degrees), half = 1;
    const auto d = svg(QString("<path d='M50 50L10 50L%1 %2' fill='none' stroke='red' stroke-width='2' "
                               "stroke-miterlimit='%3'/>")
                           .arg(10 + 40 * std::cos(a), 0, 'f', 9)
                           .arg(50 + 40 * std::sin(a), 0, 'f', 9)
                           .arg(limit));
    QVERIFY(d.ok() && d->shapes.size() == 1);
    // How far the outline reaches from the corner, away from the two sides.
    const Vec out = direction(a / 2) * -1.0;
    double reach = 0;
    for (const Contour& c : d->shapes[0].outline.contours)
      for (const Segment& s : c.segments)
        reach = std::max(reach, dot(s.p0 - Point{10, 50}, out));
    const double ratio = 1 / std::sin(a / 2);
    const double wanted = ratio <= limit ? half * ratio : half * std::sin(a / 2);
    QVERIFY2(std::abs(reach - wanted) < 0.02, qPrintable(QString("%1 for %2").arg(reach).arg(wanted)));
  }

  void thin_strokes_are_lines_to_cut_along() {
    const QString line = "<path d='M10 10H30V20' fill='none' stroke='#123456' stroke-width='%1'/>";
    const auto thin = svg(line.arg(0.3)), wide = svg(line.arg(0.4));
    QCOMPARE(thin->shapes.at(0).line_width, 0.3);
    QVERIFY(!thin->shapes[0].outline.contours.at(0).closed);
    QCOMPARE(thin->shapes[0].outline.length(), 30.0);
    QCOMPARE(to_hex(thin->shapes[0].colour), std::string("#123456"));
    QCOMPARE(wide->shapes.at(0).line_width, 0.0);
    DrawingReadOptions all_lines;
    all_lines.widest_line = 1;
    QCOMPARE(svg(line.arg(0.4), mm, all_lines)->shapes.at(0).line_width, 0.4);
    // Scaled: what counts is the width in mm.
    QCOMPARE(svg("<g transform='scale(.1)'>" + line.arg(2) + "</g>")->shapes.at(0).line_width, 0.2);
    // Ends that meet, and closed ones.
    QVERIFY(svg("<path d='M10 10H30V20L10 10' fill='none' stroke='red' stroke-width='.1'/>")
                ->shapes.at(0)
                .outline.contours.at(0)
                .closed);
    const auto dashes = svg("<path d='M10 10H30' fill='none' stroke='red' stroke-width='.1' stroke-dasharray='4 2'/>");
    QCOMPARE(dashes->shapes.at(0).outline.contours.size(), std::size_t{4});
    QCOMPARE(dashes->shapes[0].outline.length(), 14.0);
    // With a fill it is an area of its own colour.
    const auto filled = svg("<rect x='10' y='10' width='9' height='9' fill='red' stroke='blue' stroke-width='.2'/>");
    QCOMPARE(filled->shapes.size(), std::size_t{2});
    QCOMPARE(filled->shapes[1].line_width, 0.0);
  }

  void lines_are_cut_where_a_clip_ends() {
    const Outline area{{circle_contour({0, 0}, 10)}};
    const Outline line{{{{Segment::line({-30, 0}, {30, 0}), Segment::line({30, 0}, {0, 0})}, false}}};
    const Outline in = lines_within(line, area);
    QCOMPARE(in.contours.size(), std::size_t{2});
    QVERIFY(std::abs(in.length() - 30) < 0.002);
    const Outline ring{{circle_contour({0, 0}, 5)}};
    QVERIFY(lines_within(ring, area) == ring);
    const Outline beside{{circle_contour({10, 0}, 5)}}; // its start is inside or not, and it stays one stretch
    for (const double turn : {0.0, 1.0, 2.0, 3.0, 4.0, 5.0}) {
      const Affine m = Affine::translation({10, 0}) * Affine::rotation(turn) * Affine::translation({-10, 0});
      const Outline part = lines_within(beside.transformed(m), area);
      QCOMPARE(part.contours.size(), std::size_t{1});
      QVERIFY(!part.contours[0].closed);
      // Where circles of 10 and 5 meet at a distance of 10: the angle at the small one.
      QVERIFY2(std::abs(part.length() - 5 * 2 * std::acos(0.25)) < 0.01, qPrintable(QString::number(part.length())));
    }
    QVERIFY(lines_within({{circle_contour({100, 0}, 5)}}, area).empty());
    const auto d = svg("<clipPath id='c'><circle r='10'/></clipPath><path clip-path='url(#c)' d='M0 0H40' fill='none' "
                       "stroke='red' stroke-width='.1'/>");
    QVERIFY(std::abs(d->shapes.at(0).outline.length() - 10) < 0.001);
  }

  void sizes_are_taken_where_the_file_says_data() {
    QTest::addColumn<QString>("attributes");
    QTest::addColumn<double>("width");
    QTest::addColumn<double>("height");
    QTest::addColumn<int>("from");
    QTest::addColumn<bool>("told");
    const double px = 25.4 / 96;
    const auto row = [](const char* name, const QString& attributes, double w, double h, SizeFrom from,
                        bool told = false) {
      QTest::newRow(name) << attributes << w << h << static_cast<int>(from) << told;
    };
    const QString box = "viewBox='0 0 200 100' ";
    row("mm", box + "width='20mm' height='10mm'", 20, 10, SizeFrom::Lengths);
    row("cm", box + "width='20cm' height='10cm'", 200, 100, SizeFrom::Lengths);
    row("in", box + "width='2in' height='1in'", 50.8, 25.4, SizeFrom::Lengths);
    row("capitals", box + "width='2IN' height='1IN'", 50.8, 25.4, SizeFrom::Lengths);
    row("pt", box + "width='72pt' height='36pt'", 25.4, 12.7, SizeFrom::Lengths);
    row("pc", box + "width='6pc' height='3pc'", 25.4, 12.7, SizeFrom::Lengths);
    row("Q", box + "width='80Q' height='40Q'", 20, 10, SizeFrom::Lengths);
    row("blanks around", box + "width=' 20mm ' height=' 10mm '", 20, 10, SizeFrom::Lengths);
    row("exponents", box + "width='2e1mm' height='1e+1mm'", 20, 10, SizeFrom::Lengths);
    row("in a style", box + "style='width:20mm;height:10mm'", 20, 10, SizeFrom::Lengths);
    row("only the width", box + "width='20mm'", 20, 10, SizeFrom::Lengths);
    row("only the height", box + "height='10mm'", 20, 10, SizeFrom::Lengths);
    row("em", box + "width='10em' height='5em'", 160 * px, 80 * px, SizeFrom::Pixels);
    row("px", box + "width='20px' height='10px'", 20 * px, 10 * px, SizeFrom::Pixels);
    row("no unit", box + "width='20' height='10'", 20 * px, 10 * px, SizeFrom::Pixels);
    row("a frame only", box, 200 * px, 100 * px, SizeFrom::Nothing);
    row("per cent", box + "width='100%' height='100%'", 200 * px, 100 * px, SizeFrom::Nothing);
    row("auto", box + "width='auto' height='auto'", 200 * px, 100 * px, SizeFrom::Nothing);
    row("a decimal comma", box + "width='20,5mm' height='10,5mm'", 200 * px, 100 * px, SizeFrom::Nothing, true);
    row("unknown units", box + "width='20ft' height='10ft'", 200 * px, 100 * px, SizeFrom::Nothing, true);
    row("nothing wide", box + "width='0' height='10mm'", 20, 10, SizeFrom::Lengths, true);
    row("less than nothing", box + "width='-20mm' height='10mm'", 20, 10, SizeFrom::Lengths, true);
  }
  void sizes_are_taken_where_the_file_says() {
    QFETCH(QString, attributes);
    QFETCH(double, width);
    QFETCH(double, height);
    const auto d = svg("<rect width='200' height='100'/>", attributes);
    QVERIFY(d.ok());
    QVERIFY(std::abs(d->frame.width() - width) < 1e-9 && std::abs(d->frame.height() - height) < 1e-9);
    QVERIFY(std::abs(d->shapes.at(0).outline.bounds().width() - width) < 1e-9);
    QTEST(static_cast<int>(d->size), "from");
    QTEST(told(*d, Lost::Unread), "told");
  }

  void what_is_left_out_is_told_data() {
    QTest::addColumn<QString>("body");
    QTest::addColumn<QString>("words");
    const auto row = [](const char* name, const QString& body, const char* words) {
      QTest::newRow(name) << body << words;
    };
    row("texts", "<text x='1' y='9'>one</text><text>two</text><text/><text fill='none'>not seen</text>", "text (2)");
    row("a picture", "<image width='5' height='5' href='x.png'/>", "picture");
    row("a page inside", "<foreignObject width='5' height='5'/>", "page inside the drawing");
    row("an error in a path", "<path id='hull' d='M0 0H9V9Zx'/>",
        "rest of a path behind an error (hull: path data, character 10: 'x' is not a path command)");
    row("a copy of nothing", "<use href='#gone'/>", "copy of something that isn't there (#gone)");
    row("a copy of itself", "<g id='a'><use href='#a'/></g>", "copy of something that isn't there (#a)");
    row("another file", "<use href='other.svg#a'/>", "copy of something in another file (other.svg#a)");
    row("too far out", "<rect x='1e9' width='5' height='5' id='far'/>", "shape too far out for any sheet (far)");
    row("off the page", "<rect x='300' width='5' height='5' id='aside'/>",
        "shape outside of the drawing's page (aside)");
    row("a clip of letters",
        "<clipPath id='c'><text>A</text></clipPath><rect id='r' width='5' height='5' "
        "clip-path='url(#c)'/>",
        "clip or mask; what it hides was taken (r)");
    row("arrowheads", "<path id='p' d='M0 0H9' stroke='red' marker-end='url(#m)'/>", "arrowhead or other marker (p)");
    row("a pattern", "<pattern id='p'/><rect width='5' height='5' fill='url(#p)'/>", "pattern; its area was taken");
    row("a blur", "<filter id='f'/><rect id='r' width='5' height='5' filter='url(#f)'/>",
        "blur, shadow or other effect (r)");
    row("a fading shade",
        "<linearGradient id='g'><stop/><stop offset='1' stop-opacity='0'/></linearGradient><rect width='5' height='5' "
        "fill='url(#g)'/>",
        "shade that fades away; all of its area was taken");
    row("a transform", "<rect width='5' height='5' transform='spin(3)'/>",
        "something that can't be read (transform \u201cspin(3)\u201d)");
    row("a length", "<rect width='calc(5px)' height='5'/>",
        "something that can't be read (width \u201ccalc(5px)\u201d)");
    row("a selector", "<style>[d]{fill:red}</style>", "something that can't be read (the style of \u201c[d]\u201d)");
    row("styles elsewhere", "<style>@import 'x.css'; .a{fill:red}</style>", "style sheet in another file");
    row("flat", "<path id='p' d='M10 10L20 20Z'/>", "flat or tiny shape (p)");
    row("what editors keep is not worth a line",
        "<metadata/><e:view xmlns:e='http://example.org/e'/><script/><title/><desc/><style>a:hover{fill:red}@media "
        "print{.a{fill:red}}</style><linearGradient id='g'/><animate/>",
        "");
  }
  void what_is_left_out_is_told() {
    QFETCH(QString, body);
    const auto d = svg(body + "<rect x='60' y='60' width='9' height='9'/>");
    QVERIFY(d.ok());
    QTEST(QString::fromStdString(in_one_line(d->left_out)), "words");
    const Result<Drawing> alone = svg(body);
    if (alone->shapes.empty() && !alone->left_out.empty())
      QVERIFY(shows_something(*alone).error().text().find(english(words_of(alone->left_out[0]))) != std::string::npos);
  }
  void style_sheets_in_other_files_are_told_wherever_they_are_named() {
    const std::string svg = "<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm'><rect width='5' "
                            "height='5'/></svg>";
    for (const std::string& bytes :
         {"<?xml-stylesheet href='a.css'?>" + svg, svg + "<?xml-stylesheet href='a.css'?>"}) {
      const auto d = read_svg(bytes);
      QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
      QCOMPARE(d->shapes.size(), std::size_t{1});
      QCOMPARE(told(*d, Lost::OtherStyles), bytes.starts_with("<?"));
    }
  }
  void places_are_kept() {
    const auto d = svg("<g transform='translate(10 10) scale(2)'><image x='1' y='2' width='5' height='6'/></g>");
    QCOMPARE(d->left_out.at(0).places.at(0), (Box{12, 14, 22, 26}));
  }

  // CSS 2.1, 5 and 6.4.
  void selectors_data() {
    QTest::addColumn<QString>("css");
    QTest::addColumn<QString>("fill");
    const auto row = [](const char* css, const char* fill) { QTest::newRow(css) << css << fill; };
    row("g .a{fill:red}", "#ff0000"); // 5.5
    row("svg g g .a{fill:red}", "#000000");
    row("svg > g > path{fill:red}", "#ff0000"); // 5.6
    row("svg > path{fill:red}", "#000000");
    row("svg path.a{fill:red}.a{fill:lime}", "#ff0000"); // 6.4.3
    row("g > .a{fill:red}#p{fill:lime}", "#00ff00");
    row(":root .a{fill:red}", "#ff0000");
    row(".a:hover{fill:red}.a{fill:lime}", "#00ff00");
    row("/* .a{fill:red} */ .a { fill : lime ; }", "#00ff00");
    row("@charset 'utf-8'; .a{fill:red}", "#ff0000");
    row(".outer > .a, .b > .a{fill:red}", "#ff0000");
  }
  void selectors() {
    QFETCH(QString, css);
    const auto d =
        svg("<style>" + css.toHtmlEscaped() + "</style><g class='outer'><path id='p' class='a' d='M0 0H5V5Z'/></g>");
    QVERIFY(d.ok() && d->shapes.size() == 1);
    QTEST(QString::fromStdString(to_hex(d->shapes[0].colour)), "fill");
  }

  // Depth, copies, rules, numbers: a drawing or a message, soon.
  void nothing_goes_on_for_ever_data() {
    QTest::addColumn<QString>("body");
    QTest::addColumn<bool>("cut_short");
    const QString r = "<rect width='1' height='1'/>";
    QTest::newRow("900 groups within each other")
        << QString("<g>").repeated(900) + r + QString("</g>").repeated(900) << false;
    QTest::newRow("60000 groups") << QString("<g>").repeated(60'000) + r + QString("</g>").repeated(60'000) << true;
    const auto copies = [](const QString& least, int each, int levels) {
      QString out = "<defs><g id='l0'>" + least + "</g>";
      for (int i = 1; i < levels; ++i)
        out += QString("<g id='l%1'>").arg(i) + QString("<use href='#l%1'/>").arg(i - 1).repeated(each) + "</g>";
      return out + QString("</defs><use href='#l%1'/>").arg(levels - 1);
    };
    QTest::newRow("20^8 copies") << copies(r, 20, 9) << true;
    QTest::newRow("8^13 copies of nothing") << copies({}, 8, 14) << true;
    QTest::newRow("20000 uses") << "<defs>" + r + "<g id='a'>" + r + "</g></defs>" +
                                       QString("<use href='#a'/>").repeated(20'000)
                                << false;
    QString rules;
    for (int i = 0; i < 6000; ++i)
      rules += QString("g * * > path%1{fill:red}").arg(i);
    QTest::newRow("6000 rules") << "<style>" + rules.toHtmlEscaped() + "</style>" + r.repeated(2000) << true;
    QTest::newRow("selectors of many parts")
        << "<style>" + QString("* ").repeated(50) + "x{fill:red}</style>" + QString("<g>").repeated(900) +
               r.repeated(1000) + QString("</g>").repeated(900)
        << false;
    QTest::newRow("numbers beyond all")
        << r + "<polygon points='0,0 inf,5 3,3'/><path d='M0 0L1e200 5L3 3Z'/><rect width='inf' height='2'/><circle "
               "r='1e8'/><path d='M0 0H1' stroke='red' stroke-width='1e300'/>"
        << true;
    QTest::newRow("a million dashes") << "<path d='M0 0H100' stroke='red' stroke-width='1' stroke-dasharray='1e-5'/>"
                                      << false;
    const auto zigzag = [](int n) {
      QString out = "M0 0";
      for (long long i = 1; i < n; ++i)
        out += QString("L%1 %2").arg(i * 7919 % 97).arg(i * 104729 % 89);
      return out;
    };
    QTest::newRow("a wide stroke of a tangle")
        << "<path fill='none' stroke='red' stroke-width='1' d='" + zigzag(50'000) + "'/>" << true;
    QTest::newRow("an even-odd tangle") << "<path fill-rule='evenodd' d='" + zigzag(50'000) + "'/>" << true;
    QTest::newRow("clips in a ring") << "<clipPath id='a' clip-path='url(#b)'>" + r +
                                            "</clipPath><clipPath id='b' "
                                            "clip-path='url(#a)'>" +
                                            r + "</clipPath><g clip-path='url(#a)'>" + r + "</g>"
                                     << true;
    QTest::newRow("a mask in itself") << "<mask id='m'><g mask='url(#m)' fill='white'>" + r +
                                             "</g></mask><g mask='url(#m)'>" + r + "</g>"
                                      << false;
    QTest::newRow("gradients in a ring") << "<linearGradient id='a' href='#b'/><linearGradient id='b' href='#a'/><rect "
                                            "fill='url(#a)' width='1' height='1'/>" +
                                                r
                                         << false;
  }
  void nothing_goes_on_for_ever() {
    QFETCH(QString, body);
    const auto d = svg("<rect width='1' height='1'/>" + body);
    QVERIFY(d.ok() && !d->shapes.empty());
    QTEST(!d->left_out.empty(), "cut_short");
  }

  void stopping_stops() {
    std::stop_source source;
    source.request_stop();
    DrawingReadOptions options;
    options.stop = source.get_token();
    const auto d = svg("<rect width='1' height='1'/>", mm, options);
    QVERIFY(!d.ok() && d.error().code == ErrorCode::Cancelled);
  }

  void packed_and_encoded_drawings_are_read_data() {
    QTest::addColumn<QByteArray>("bytes");
    QTest::addColumn<bool>("readable");
    const QByteArray plain = "<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm'><title>caf\xe9</title>"
                             "<rect width='5' height='5'/></svg>";
    const QString words = QString::fromLatin1(plain);
    // RFC 1952: header, deflate data as qCompress makes it, its CRC-32 and length.
    const auto gzip = [](const QByteArray& raw) {
      const QByteArray zlib = qCompress(raw).mid(4);
      QByteArray out("\x1f\x8b\x08\0\0\0\0\0\0\xff", 10);
      out += zlib.mid(2, zlib.size() - 6);
      quint32 crc = 0xffffffffU;
      for (const char c : raw) {
        crc ^= static_cast<unsigned char>(c);
        for (int i = 0; i < 8; ++i)
          crc = crc & 1 ? crc >> 1 ^ 0xedb88320U : crc >> 1;
      }
      crc = ~crc;
      const auto length = static_cast<quint32>(raw.size());
      for (const quint32 v : {crc, length})
        for (int i = 0; i < 4; ++i)
          out += static_cast<char>(v >> 8 * i & 0xff);
      return out;
    };
    QTest::newRow("utf-8") << words.toUtf8() << true;
    QTest::newRow("latin-1 that says so") << "<?xml version='1.0' encoding='ISO-8859-1'?>" + plain << true;
    QTest::newRow("windows-1252 that says so") << "<?xml version='1.0' encoding='windows-1252'?>" + plain << true;
    QTest::newRow("latin-1 that does not") << plain << false;
    QTest::newRow("utf-16") << QByteArray("\xff\xfe") +
                                   QByteArray(reinterpret_cast<const char*>(words.utf16()), 2 * words.size())
                            << true;
    QTest::newRow("packed") << gzip(words.toUtf8()) << true;
    QTest::newRow("packed and cut short") << gzip(words.toUtf8()).chopped(20) << false;
    QTest::newRow("packed and damaged") << gzip(words.toUtf8()).replace(30, 4, "abcd") << false;
    QTest::newRow("200 MB of blanks packed") << gzip(QByteArray(201'000'000, ' ')) << false;
    // XML 1.0, 4.4: entities of its own are put in, others never opened.
    const QByteArray entities = "<!DOCTYPE svg [<!ENTITY d \"M0 0H5V5H0Z\"><!ENTITY e SYSTEM \"/etc/passwd\">]>";
    const QByteArray start = "<svg xmlns='http://www.w3.org/2000/svg' width='9mm' height='9mm'>";
    QTest::newRow("entities") << entities + start + "<path d='&d;'/></svg>" << true;
    QTest::newRow("entities of another file")
        << entities + start + "<rect width='5' height='5'/><text>&e;</text></svg>" << true;
    QTest::newRow("entities that are not there") << start + "<path d='&d;'/></svg>" << false;
    QByteArray laughs = "<!DOCTYPE svg [<!ENTITY a0 \"M0 0H5V5H0Z\">";
    for (int i = 1; i < 12; ++i)
      laughs +=
          "<!ENTITY a" + QByteArray::number(i) + " \"" + ("&a" + QByteArray::number(i - 1) + ";").repeated(10) + "\">";
    QTest::newRow("entities of entities") << laughs + "]>" + start + "<path d='&a11;'/></svg>" << false;
    QTest::newRow("two roots") << start + "</svg>" + start + "</svg>" << false;
  }
  void packed_and_encoded_drawings_are_read() {
    QFETCH(QByteArray, bytes);
    QFETCH(bool, readable);
    const Result<Drawing> d = read_svg(bytes.toStdString());
    QVERIFY2(d.ok() == readable, d.ok() ? "it was read" : d.error().text().c_str());
    if (readable)
      QCOMPARE(d->shapes.size(), std::size_t{1});
  }
};

QTEST_APPLESS_MAIN(TestSvgIn)
#include "test_svg_in.moc"
