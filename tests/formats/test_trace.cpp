// Pictures painted by another program (librsvg's rsvg-convert), with the noise of JPEG (libjpeg, by Qt) and without,
// and by hand, traced back: how far off, where corners come to lie, how many nodes.
#include "document/backing.h"
#include "document/validity.h"
#include "formats/picture_read.h"
#include "formats/picture_trace.h"
#include "geom/path_data.h"
#include "geom/picture_levels.h"
#include "geom/trace.h"
#include "support/compare.h"
#include "support/drawn.h"
#include "support/fixtures.h"

#include <QBuffer>
#include <QFile>
#include <QImage>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

GreyPicture picture(int width, int height, const std::function<bool(double, double)>& ink) {
  GreyPicture p{width, height, {}};
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x)
      p.px.push_back(ink(x + 0.5, y + 0.5) ? 0 : 255);
  return p;
}
Traced traced(const GreyPicture& p, double width) {
  TraceOptions options;
  options.width = width;
  return *trace(p, options);
}

constexpr double side = 60; // mm of the sheet that is painted

Outline gear(int teeth) {
  std::vector<Point> p;
  for (int i = 0; i < teeth; ++i)
    for (const auto& [at, r] : {std::pair{0.0, 22.0}, {0.1, 27.0}, {0.4, 27.0}, {0.5, 22.0}}) {
      const double a = 2 * pi * (i + at) / teeth;
      p.push_back({30 + r * std::cos(a), 30 + r * std::sin(a)});
    }
  Outline out;
  out.contours.emplace_back();
  for (std::size_t i = 0; i < p.size(); ++i)
    out.contours[0].segments.push_back(Segment::line(p[i], p[(i + 1) % p.size()]));
  return out;
}
// A coast of lines and bays with a lake.
Outline coast(std::uint64_t seed) {
  std::mt19937_64 random = random_source(seed);
  constexpr int n = 22;
  std::vector<Point> p;
  for (int i = 0; i < n; ++i) {
    const double a = 2 * pi * (i + uniform(random, -0.2, 0.2)) / n, r = uniform(random, 19, 28);
    p.push_back({30 + r * std::cos(a), 30 + r * std::sin(a)});
  }
  Outline out = drawn("M38 30C38 34 34 36 30 36C25 36 22 33 22 30C22 26 27 24 30 24C35 24 38 26 38 30Z");
  out.contours[0] = out.contours[0].area() > 0 ? out.contours[0].reversed() : out.contours[0];
  out.contours.emplace_back();
  for (std::size_t i = 0; i < n; ++i) {
    const Point from = p[i], to = p[(i + 1) % n];
    const Vec v = (to - from) / 3, bay = Vec{-v.y, v.x} * uniform(random, -0.5, 0.5);
    out.contours[1].segments.push_back(i % 2 == 0 ? Segment::line(from, to)
                                                  : Segment::cubic(from, from + v + bay, to - v + bay, to));
  }
  return out;
}
Outline fitting(const Outline& o) {
  const Box b = o.bounds();
  const double k = 54 / std::max(b.width(), b.height());
  return o.transformed(Affine{k, 0, 0, k, 30 - k * b.centre().x, 30 - k * b.centre().y});
}
Outline shape(const QString& name) {
  if (name == "ring")
    return drawn(disc(30, 30, 25) + disc(30, 30, 15, true));
  if (name == "gear")
    return gear(24);
  if (name.startsWith("map"))
    return coast(name.mid(4).toULongLong());
  return fitting(straight_word(name.toStdString(),
                               name == "Sea" ? FaceName{"Dancing Script", "Bold"} : FaceName{"Lato", "Bold"}, 30));
}

// As rsvg-convert paints it.
QImage painted(const QString& body, double px_per_mm) {
  const QTemporaryDir dir;
  QFile svg(dir.filePath("a.svg"));
  if (!svg.open(QFile::WriteOnly))
    return {};
  svg.write(fmt::format("<svg xmlns='http://www.w3.org/2000/svg' width='{0}' height='{0}' viewBox='0 0 {1} {1}'>"
                        "<rect width='{1}' height='{1}' fill='white'/>{2}</svg>",
                        side * px_per_mm, side, body.toStdString())
                .c_str());
  svg.close();
  if (QProcess::execute("rsvg-convert", {"-o", dir.filePath("a.png"), svg.fileName()}) != 0)
    return {};
  return QImage(dir.filePath("a.png"));
}
std::string bytes_of(const QImage& image, const char* format, int quality = -1) {
  QByteArray out;
  QBuffer buffer(&out);
  buffer.open(QIODevice::WriteOnly);
  image.convertToFormat(QImage::Format_RGB32).save(&buffer, format, quality);
  return out.toStdString();
}

// Turns by 45° to 120° between sides of at least this length.
std::vector<Point> clear_corners(const Outline& o, double least) {
  std::vector<Point> out;
  for (const Contour& c : o.contours)
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      const Segment &a = c.segments[i], &b = c.segments[(i + 1) % c.segments.size()];
      const double turn =
          std::abs(std::atan2(cross(a.end_tangent(), b.start_tangent()), dot(a.end_tangent(), b.start_tangent())));
      if (turn >= radians(45) && turn <= radians(120) && std::min(distance(a.p0, a.p3), distance(b.p0, b.p3)) >= least)
        out.push_back(a.p3);
    }
  return out;
}
// Sharper ones.
std::vector<Point> tips(const Outline& o) {
  std::vector<Point> out;
  for (const Contour& c : o.contours)
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      const Vec in = c.segments[i].end_tangent(), on = c.segments[(i + 1) % c.segments.size()].start_tangent();
      if (std::abs(std::atan2(cross(in, on), dot(in, on))) > radians(60))
        out.push_back(c.segments[i].p3);
    }
  return out;
}

} // namespace

class TestTrace : public QObject {
  Q_OBJECT

private slots:
  void painted_by_another_program_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<double>("px_per_mm");
    QTest::addColumn<QString>("as");
    for (const char* name : {"ring", "gear", "Sea", "Wk&", "map 5", "map 6", "map 7", "map 8"})
      for (const double px : {4.0, 8.0, 20.0})
        for (const char* as : {"clean", "jpeg", "without greys"})
          QTest::newRow(fmt::format("{} {} {}", name, px, as).c_str()) << QString(name) << px << QString(as);
  }
  void painted_by_another_program() {
    QFETCH(QString, name);
    QFETCH(double, px_per_mm);
    QFETCH(QString, as);
    const Outline truth = shape(name);
    const bool hard = as == "without greys";
    const QImage image =
        painted(QString("<path %1d='%2'/>")
                    .arg(hard ? "shape-rendering='crispEdges' " : "", QString::fromStdString(path_data(truth, 6))),
                px_per_mm);
    QVERIFY2(!image.isNull(), "rsvg-convert paints nothing");
    const auto read = read_pixels(as == "jpeg" ? bytes_of(image, "JPG", 60) : bytes_of(image, "PNG"));
    QVERIFY(read.ok());
    const Traced got = traced(grey_of(*read), side);
    const double px = 1 / px_per_mm;
    QVERIFY(hard || got.put_back == 0);
    for (const Contour& c : got.outline.contours)
      QCOMPARE(closed_fault({{c}}), std::string());
    const auto made = rings_of(got.outline, 0.05 * px), was = rings_of(truth, 0.05 * px);
    // Half a pixel and the tolerance, 0.4; of what is narrower than 4 px or rounder than 3, and without greys, a
    // pixel and a half more. At a tip sharper than 60° what the pixels do not show.
    const double allowed = hard ? 2.25 : px_per_mm > 4 ? 0.9 : 1.25;
    const std::vector<Point> sharp = tips(truth);
    const auto near_tip = [&](Point p) {
      return std::any_of(sharp.begin(), sharp.end(), [&](Point t) { return distance(p, t) < (hard ? 9 : 4) * px; });
    };
    double worst = 0;
    const BoundaryDistance to_was(was), to_made(made);
    for (const auto* side : {&made, &was})
      for (const Ring& ring : *side)
        for (const Point p : ring)
          if (!near_tip(p))
            worst = std::max(worst, (side == &made ? to_was : to_made)(p) / px);
    QVERIFY2(worst <= allowed, fmt::format("{:.2f} px", worst).c_str());
    double off = 0;
    for (const Point corner : clear_corners(truth, (hard ? 15 : 8) * px)) {
      double nearest = std::numeric_limits<double>::infinity();
      for (const Contour& c : got.outline.contours)
        for (const Segment& s : c.segments)
          nearest = std::min(nearest, distance(s.p0, corner));
      off = std::max(off, nearest / px);
    }
    QVERIFY2(off <= (hard ? 3 : 1), fmt::format("a corner {:.2f} px off", off).c_str());
    const double nodes = double(got.outline.node_count()) / double(truth.node_count());
    QVERIFY2(nodes <= (hard ? 1.5 : 1.3), fmt::format("{:.2f} of the nodes", nodes).c_str());
  }

  void a_square_comes_back_with_four_nodes() {
    const Traced got =
        traced(picture(100, 80, [](double x, double y) { return x > 20 && x < 60 && y > 10 && y < 50; }), 200);
    QCOMPARE(got.outline.contours.size(), std::size_t{1});
    const Box b = got.outline.bounds();
    QVERIFY(std::abs(b.x0 - 40) < 0.5 && std::abs(b.x1 - 120) < 0.5 && std::abs(b.y0 - 20) < 0.5 &&
            std::abs(b.y1 - 100) < 0.5);
    QVERIFY(got.outline.area() > 0);
    QCOMPARE(got.outline.node_count(), std::size_t{4});
  }
  void holes_and_islands_run_opposite_ways() {
    const auto ring = [](double x, double y) {
      const double r = std::hypot(x - 200, y - 200);
      return (r < 150 && r > 90) || r < 40;
    };
    const Traced got = traced(picture(400, 400, ring), 100); // 4 pixels to the mm
    QCOMPARE(got.outline.contours.size(), std::size_t{3});
    QVERIFY(std::abs(got.outline.area() - pi * (37.5 * 37.5 - 22.5 * 22.5 + 10 * 10)) < 15);
    QCOMPARE(std::count_if(got.outline.contours.begin(), got.outline.contours.end(),
                           [](const Contour& c) { return c.area() < 0; }),
             std::ptrdiff_t{1});
  }
  void ink_may_reach_the_edge() {
    const Traced got = traced(picture(50, 50, [](double, double) { return true; }), 50);
    QCOMPARE(got.outline.contours.size(), std::size_t{1});
    QVERIFY2(std::abs(got.outline.area() - 2500) < 60, fmt::format("{}", got.outline.area()).c_str());
  }
  void specks_and_light_ink() {
    const auto dots = picture(60, 60, [](double x, double y) {
      return (x > 2 && x < 5 && y > 2 && y < 5) ||
             (x > 20 && x < 40 && y > 20 && y < 40 && !(x > 30 && x < 32 && y > 30 && y < 32));
    });
    TraceOptions options;
    options.width = 60, options.speckle = 12;
    QCOMPARE(trace(dots, options)->outline.contours.size(), std::size_t{1}); // holes go as well
    options.speckle = 0;
    QCOMPARE(trace(dots, options)->outline.contours.size(), std::size_t{3});
    options.light_ink = true;
    QVERIFY(std::abs(trace(dots, options)->outline.area() - (3600 - 9 - 396)) < 25);
  }
  void the_threshold_parts_what_there_is() { // a pale pencil on grey paper
    const auto greys = [](std::uint8_t ink, std::uint8_t paper) {
      GreyPicture p = picture(80, 80, [](double x, double y) { return std::hypot(x - 40, y - 40) < 25; });
      for (std::uint8_t& v : p.px)
        v = v == 0 ? ink : paper;
      return p;
    };
    QVERIFY(std::abs(ink_threshold(greys(0, 255)) - 0.5) < 0.01);
    QVERIFY(std::abs(ink_threshold(greys(150, 200)) - 175.0 / 255) < 0.01);
    const Traced got = traced(greys(150, 200), 80);
    QVERIFY(std::abs(got.outline.area() - pi * 25 * 25) < 0.02 * pi * 25 * 25);
    TraceOptions options;
    options.threshold = 0.5; // all of it is lighter
    QVERIFY(trace(greys(150, 200), options)->outline.empty());
  }
  void corners_and_straight_runs_are_as_asked() {
    // A regular polygon of 12 sides: corners of 30°.
    const auto dozen = [](double x, double y) {
      for (int i = 0; i < 12; ++i)
        if (dot(Point{x - 200, y - 200} - Point{}, Vec{std::cos(i * pi / 6), std::sin(i * pi / 6)}) > 150)
          return false;
      return true;
    };
    TraceOptions options;
    options.width = 400, options.sharper_than = 20;
    const std::size_t corners = corner_count(trace(picture(400, 400, dozen), options)->outline, 15);
    QVERIFY2(corners == 12, fmt::format("{}", corners).c_str());
    options.sharper_than = 90;
    QCOMPARE(corner_count(trace(picture(400, 400, dozen), options)->outline, 15), std::size_t{0});
    // A shallow arc between two corners, 3 px high.
    const auto lens = [](double x, double y) {
      return x > 50 && x < 250 && y < 150 && y > 100 - 3 + 3 * std::pow((x - 150) / 100, 2);
    };
    options.sharper_than = 30;
    QVERIFY(trace(picture(300, 200, lens), options)->outline.node_count() >= 4);
    const auto curved = [&](double straight) {
      options.straight = straight;
      const Outline o = trace(picture(300, 200, lens), options)->outline;
      return std::count_if(o.contours[0].segments.begin(), o.contours[0].segments.end(),
                           [](const Segment& s) { return !s.is_line(); });
    };
    options.width = 300;
    QVERIFY(curved(0.5) > 0);
    QCOMPARE(curved(4), std::ptrdiff_t{0});
  }
  void hostile_pictures_are_borne() {
    std::mt19937_64 random = random_source(3);
    GreyPicture noise{120, 90, {}};
    for (int i = 0; i < 120 * 90; ++i)
      noise.px.push_back(static_cast<std::uint8_t>(random() & 255));
    TraceOptions options;
    options.width = 120, options.speckle = 0;
    const auto all = trace(noise, options);
    QVERIFY(all.ok() && all->outline.contours.size() > 100);
    for (const Contour& c : all->outline.contours)
      QCOMPARE(closed_fault({{c}}), std::string());
    const GreyPicture board = picture(64, 64, [](double x, double y) { return (int(x) + int(y)) % 2 == 0; });
    QVERIFY(trace(board, options).ok());
    for (const int w : {1, 2, 3})
      for (const int h : {1, 2, 3})
        QVERIFY(trace(picture(w, h, [](double, double) { return true; }), options).ok());
    options.stop = [] {
      std::stop_source stopped;
      stopped.request_stop();
      return stopped.get_token();
    }();
    QCOMPARE(trace(noise, options).error().code, ErrorCode::Cancelled);
  }
  void bad_input_is_named() {
    TraceOptions options;
    QVERIFY(!trace({}, options).ok());
    QVERIFY(!trace({3, 3, {0, 0}}, options).ok());
    options.width = 0;
    QVERIFY(!trace(picture(3, 3, [](double, double) { return true; }), options).ok());
    QVERIFY(!read_pixels("not a picture").ok());
    QVERIFY(!read_pixels("").ok());
    QVERIFY(!read_pixels("\x89PNG\r\n\x1a\nrest").ok());
    QVERIFY(traced(picture(9, 9, [](double, double) { return false; }), 10).outline.empty());
  }

  // A flag of three colours, a disc over two of them; the grey of its edges is no colour.
  void colours_are_parted_at_their_edges() {
    const QString flag = "<rect x='5' y='10' width='25' height='40' fill='#c02020'/><rect x='30' y='10' width='25' "
                         "height='40' fill='#2040a0'/><circle cx='30' cy='30' r='12' fill='#f0d040'/>";
    for (const bool jpeg : {false, true}) {
      const QImage image = painted(flag, 8);
      const auto read = read_pixels(jpeg ? bytes_of(image, "JPG", 75) : bytes_of(image, "PNG"));
      TraceWish wish;
      wish.ink = TraceInk::Colours, wish.colours = 8;
      const Affine place{0.125, 0, 0, 0.125, 100, 50};
      const auto got = trace_picture(*read, place, wish);
      QVERIFY(got.ok());
      QVERIFY2(got->levels.size() == 3, fmt::format("{} {}", jpeg, got->levels.size()).c_str());
      wish.paper = true;
      QCOMPARE(trace_picture(*read, place, wish)->levels.size(), std::size_t{4});
      const double half_disc = pi * 144 / 2;
      for (const auto& [painted_in, area] : {std::pair{Colour{0xc0, 0x20, 0x20}, 1000 - half_disc},
                                             {Colour{0x20, 0x40, 0xa0}, 1000 - half_disc},
                                             {Colour{0xf0, 0xd0, 0x40}, 2 * half_disc}}) {
        const Colour colour = painted_in;
        const auto at = std::find_if(got->levels.begin(), got->levels.end(), [&](const TracedLevel& l) {
          return std::abs(l.colour->r - colour.r) + std::abs(l.colour->g - colour.g) +
                     std::abs(l.colour->b - colour.b) <
                 12;
        });
        QVERIFY(at != got->levels.end());
        QVERIFY2(std::abs(at->outline->area() - area) < 0.01 * area,
                 fmt::format("{} {}", at->outline->area(), area).c_str());
        const Box in = at->outline->bounds();
        QVERIFY(in.x0 > 104.8 && in.x1 < 155.2 && in.y0 > 59.8 && in.y1 < 100.2);
      }
      // In the job: a group of pieces in their colours, the picture gone or kept.
      Document d;
      d = with_backing(d, backing_of("flag.png",
                                     std::make_shared<const PictureFile>(PictureFile{bytes_of(image, "PNG"), 480, 480}),
                                     8, {130, 80}, 600, 400));
      for (const bool keep : {false, true}) {
        const TracedIn in = with_traced(d, 0, *got, keep);
        QCOMPARE(in.pieces.size(), std::size_t{3});
        QCOMPARE(in.document.backings.size(), std::size_t{keep ? 1u : 0u});
        QVERIFY(in.document.groups.size() == 1 && in.document.groups[0].name == "flag.png");
        QVERIFY(faults(in.document).empty());
      }
    }
  }
  void few_colours_of_many_are_the_main_ones() {
    ColourPicture stripes{80, 20, {}};
    for (int i = 0; i < 80 * 20; ++i) {
      const int x = i % 80;
      stripes.px.push_back(x < 40   ? Rgb{255, 255, 255}
                           : x < 60 ? Rgb{0, 0, 0}
                           : x < 76 ? Rgb{200, 0, 0}
                                    : Rgb{190, 10, 10});
    }
    const auto levels = picture_levels(stripes, 3);
    QCOMPARE(levels.size(), std::size_t{3});
    QVERIFY(levels[0].colour == (Rgb{255, 255, 255}) && levels[0].at_edge && std::abs(levels[0].share - 0.5) < 0.02);
    double sum = 0;
    for (const PictureLevel& l : levels)
      sum += l.share;
    QVERIFY(std::abs(sum - 1) < 1e-9);
    ColourPicture plain{4, 4, std::vector<Rgb>(16, Rgb{9, 9, 9})};
    QCOMPARE(picture_levels(plain, 8).size(), std::size_t{1});
  }
  void only_a_part_is_traced_where_it_lies() {
    ColourPicture p{200, 100, std::vector<Rgb>(200 * 100, Rgb{255, 255, 255})};
    for (int y = 20; y < 80; ++y)
      for (int x = 0; x < 200; ++x)
        if ((x > 20 && x < 80) || (x > 120 && x < 180))
          p.px[static_cast<std::size_t>(y * 200 + x)] = {0, 0, 0};
    TraceWish wish;
    const Affine turned{0, 0.5, -0.5, 0, 100, 10}; // a quarter clockwise, 2 px a mm
    QCOMPARE(trace_picture(p, turned, wish)->contours, std::size_t{2});
    wish.part = Box{100, 0, 200, 100};
    const auto got = trace_picture(p, turned, wish);
    QCOMPARE(got->contours, std::size_t{1});
    const Box b = got->all().bounds();
    QVERIFY(std::abs(b.x0 - 60) < 0.3 && std::abs(b.x1 - 90) < 0.3 && std::abs(b.y0 - 70.5) < 0.3 &&
            std::abs(b.y1 - 100) < 0.3);
    QVERIFY(got->all().area() > 0);
    QVERIFY(std::abs(got->px_per_mm - 2) < 1e-9);
    wish.part = Box{300, 0, 400, 100};
    QVERIFY(!trace_picture(p, turned, wish).ok());
  }
};

QTEST_GUILESS_MAIN(TestTrace)
#include "test_trace.moc"
