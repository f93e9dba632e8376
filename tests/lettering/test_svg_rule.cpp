// Letters on guides given as SVG path data against a separate calculation.
//
// The rule: SVG 1.1 (W3C Recommendation, second edition, 2011), 10.13.3 "Text on a path layout rules": a glyph's middle
// of advance lies on the path at startpoint + its place in the run, and the glyph turns about that point to the path's
// tangent there. Arcs: F.6.5 "Conversion from endpoint to center parameterization". Advances: hb-shape, another
// program. Nothing of geom/ or lettering/ that computes places is used for the reference.
#include "lettering/seat.h"

#include "geom/path_data.h"
#include "reference/hb_shape.h"
#include "reference/path_length.h"
#include "support/fixtures.h"

#include <QStringList>
#include <QTest>
#include <cstdio>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double place_bound = 0.002, angle_bound = 0.005; // mm, degrees

// Absolute M L C Q A Z, one space between all tokens.
std::vector<PathPart> parts_of(const QString& data) {
  const QStringList tokens = data.split(' ', Qt::SkipEmptyParts);
  std::vector<PathPart> out;
  int i = 0;
  QString command;
  const auto number = [&] { return tokens[i++].toDouble(); };
  const auto point = [&] {
    const double x = number();
    return Point{x, number()};
  };
  Point pen, start;
  while (i < tokens.size()) {
    if (tokens[i][0].isLetter())
      command = tokens[i++];
    if (command == "M") {
      pen = start = point();
    } else if (command == "L") {
      const Point to = point();
      out.push_back(PathWalk::line(pen, to)), pen = to;
    } else if (command == "C") {
      const Point a = point(), b = point(), to = point();
      out.push_back(PathWalk::cubic(pen, a, b, to)), pen = to;
    } else if (command == "Q") {
      const Point from = pen, a = point(), to = point();
      out.push_back({[=](double u) { return from * ((1 - u) * (1 - u)) + a * (2 * u * (1 - u)) + to * (u * u); },
                     [=](double u) { return (a - from) * (2 * (1 - u)) + (to - a) * (2 * u); }});
      pen = to;
    } else if (command == "A") {
      double rx = number(), ry = number();
      const double phi = radians(number());
      const bool large = number() != 0, sweep = number() != 0;
      const Point to = point();
      const double x = std::cos(phi) * (pen.x - to.x) / 2 + std::sin(phi) * (pen.y - to.y) / 2,
                   y = -std::sin(phi) * (pen.x - to.x) / 2 + std::cos(phi) * (pen.y - to.y) / 2;
      const double lambda = x * x / (rx * rx) + y * y / (ry * ry);
      if (lambda > 1)
        rx *= std::sqrt(lambda), ry *= std::sqrt(lambda);
      const double under = rx * rx * ry * ry - rx * rx * y * y - ry * ry * x * x;
      const double k =
          (large != sweep ? 1 : -1) * std::sqrt(std::max(0.0, under) / (rx * rx * y * y + ry * ry * x * x));
      const double cx = k * rx * y / ry, cy = -k * ry * x / rx;
      const Point centre{std::cos(phi) * cx - std::sin(phi) * cy + (pen.x + to.x) / 2,
                         std::sin(phi) * cx + std::cos(phi) * cy + (pen.y + to.y) / 2};
      const double from = std::atan2((y - cy) / ry, (x - cx) / rx), end = std::atan2((-y - cy) / ry, (-x - cx) / rx);
      double turn = end - from;
      if (sweep && turn < 0)
        turn += 2 * pi;
      if (!sweep && turn > 0)
        turn -= 2 * pi;
      out.push_back(PathWalk::arc(centre, rx, ry, phi, from, turn)), pen = to;
    } else { // Z
      if (distance(pen, start) > 0)
        out.push_back(PathWalk::line(pen, start));
      pen = start;
    }
  }
  return out;
}
std::vector<PathPart> reversed(std::vector<PathPart> parts) {
  std::reverse(parts.begin(), parts.end());
  for (PathPart& p : parts)
    p = {[at = p.at](double u) { return at(1 - u); }, [d = p.derivative](double u) { return -d(1 - u); }};
  return parts;
}

double worst_place = 0, worst_angle = 0;

} // namespace

class TestSvgRule : public QObject {
  Q_OBJECT

private slots:
  void cleanupTestCase() { std::printf("path data: worst %.2g mm, %.2g degrees\n", worst_place, worst_angle); }

  void letters_lie_where_the_rule_puts_them_data() {
    QTest::addColumn<QString>("path");
    QTest::addColumn<double>("start"); // mm, or share of the length when negative
    QTest::addColumn<double>("spacing");
    QTest::addColumn<bool>("right");
    const std::pair<const char*, const char*> paths[] = {
        {"line", "M -30 12 L 300 -44"},
        {"cubics", "M 0 0 C 60 -90 120 90 180 0 C 220 -60 280 -60 320 20"},
        {"quadratics", "M 0 0 Q 80 -120 160 0 Q 240 120 330 10"},
        {"circular-arcs", "M 0 0 A 90 90 0 0 1 120 -30 A 60 60 0 1 0 200 40"},
        {"elliptical-arc", "M 0 0 A 160 70 25 1 1 210 90"},
        {"arc-scaled-up-to-fit", "M 0 0 A 10 20 30 0 1 260 0"},
        {"line-into-curve", "M 0 0 L 90 0 C 140 0 170 30 170 80 L 170 200"},
        {"closed-curve",
         "M 0 -80 C 60 -80 110 -40 110 0 C 110 60 50 90 0 90 C -70 90 -110 40 -110 0 C -110 -50 -60 -80 0 -80 Z"},
        {"loop", "M 0 0 C 300 200 -120 200 200 -20"},
        {"fast-then-slow-cubic", "M 0 0 C 1 0 10 -5 300 -100"},
    };
    for (const auto& [name, path] : paths)
      for (const bool right : {false, true})
        for (const auto& [start, spacing] : {std::pair{7.5, 0.0}, std::pair{-0.2, 1.3}})
          QTest::addRow("%s-%s-%g", name, right ? "right" : "left", start)
              << QString(path) << start << spacing << right;
  }
  void letters_lie_where_the_rule_puts_them() {
    QFETCH(QString, path);
    QFETCH(double, start);
    QFETCH(double, spacing);
    QFETCH(bool, right);
    const char* text = "Upper Creek AV";
    const QString file = QString::fromStdString(face_file("lato/Lato-Regular.ttf"));
    const double em = 22, upem = (*open_font(file.toStdString()))->metrics().units_per_em;
    const PathWalk walk(right ? reversed(parts_of(path)) : parts_of(path));

    Curve curve = *parse_curve(path.toStdString());
    if (right)
      curve = curve.reversed();
    const auto set = set_text(letters_of(text, {}, em), ligatures_for({spacing, 0}), **open_font(file.toStdString()));
    Spacing spaced;
    spaced.letter = spacing;
    RunPlace place;
    place.s = start < 0 ? -start * curve.length() : start;
    const SeatedText got = *seat_on_curve(space_text(*set, spaced, Alignment::Left),
                                          std::make_shared<const Curve>(std::move(curve)), place);

    const auto glyphs = hb_shape(file, text, spacing != 0 ? QStringList{"--features=-liga,-clig"} : QStringList{});
    QCOMPARE(got.letters.size(), glyphs.size());
    double pen = start < 0 ? -start * walk.length() : start;
    const bool closed = path.endsWith('Z');
    for (std::size_t i = 0; i < glyphs.size(); ++i) {
      const double advance = glyphs[i].advance * em / upem;
      double middle = pen + advance / 2;
      pen += advance + spacing;
      if (closed)
        middle = std::fmod(middle, walk.length());
      else if (middle > walk.length()) {
        QVERIFY(got.letters[i].beyond);
        continue;
      }
      const PathWalk::Place at = walk.at(middle);
      const Point origin = at.point - at.tangent * (advance / 2);
      const double off = distance(got.letters[i].origin, origin),
                   turn =
                       std::abs(wrap_degrees(degrees(got.letters[i].angle - std::atan2(at.tangent.y, at.tangent.x))));
      worst_place = std::max(worst_place, off), worst_angle = std::max(worst_angle, turn);
      QVERIFY2(off <= place_bound && turn <= angle_bound,
               qPrintable(QString("letter %1: %2 mm, %3 degrees off").arg(i).arg(off).arg(turn)));
    }
  }
};

QTEST_APPLESS_MAIN(TestSvgRule)
#include "test_svg_rule.moc"
