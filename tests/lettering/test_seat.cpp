// Places of letters against closed-form geometry from hb-shape's advances. The rule is SVG 1.1, 10.13.3: a glyph's
// middle of advance lies on the path and the glyph turns about it.
#include "lettering/seat.h"

#include "geom/path_data.h"
#include "reference/hb_shape.h"
#include "support/fixtures.h"

#include <QTest>
#include <cstdio>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double place_bound = 0.001, angle_bound = 0.001; // mm, degrees

Spacing spaced_by(double letter) {
  Spacing s;
  s.letter = letter;
  return s;
}
std::shared_ptr<const Curve> shared(Curve curve) {
  return std::make_shared<const Curve>(std::move(curve));
}

struct ReferenceRun {
  std::vector<double> advances; // mm
  double length = 0;
};
ReferenceRun reference_run(const char* text, const QString& file, double size_em, double spacing) {
  const auto glyphs = hb_shape(file, text, spacing != 0 ? QStringList{"--features=-liga,-clig"} : QStringList{});
  const double upem = (*open_font(file.toStdString()))->metrics().units_per_em;
  ReferenceRun run;
  int cluster = -1;
  for (const ReferenceGlyph& g : glyphs) {
    if (g.cluster != cluster)
      run.advances.push_back(0);
    cluster = g.cluster;
    run.advances.back() += g.advance * size_em / upem;
  }
  for (const double a : run.advances)
    run.length += a;
  run.length += spacing * static_cast<double>(run.advances.size() - 1);
  return run;
}

double worst_place = 0, worst_angle = 0; // over the whole run, for docs/accuracy.md

QString fault(const PlacedLetter& got, Point origin, double angle) {
  const double off = distance(got.origin, origin), turn = std::abs(wrap_degrees(degrees(got.angle - angle)));
  worst_place = std::max(worst_place, off), worst_angle = std::max(worst_angle, turn);
  return off <= place_bound && turn <= angle_bound
             ? QString()
             : QString("letter at %1: %2 mm, %3 degrees off").arg(got.first).arg(off).arg(turn);
}

} // namespace

class TestSeat : public QObject {
  Q_OBJECT

private slots:
  void cleanupTestCase() { std::printf("circles: worst %.2g mm, %.2g degrees\n", worst_place, worst_angle); }

  void letters_on_circles_match_closed_forms_data() {
    QTest::addColumn<QString>("face");
    QTest::addColumn<double>("radius");
    QTest::addColumn<bool>("inward");
    QTest::addColumn<double>("spacing");
    QTest::addColumn<double>("height");
    for (const QString& face : {QString("lato/Lato-Bold.ttf"), QString("dancing-script/DancingScript-Bold.otf")})
      for (const double radius : {0.5, 20.0, 120.0, 5000.0})
        for (const bool inward : {false, true})
          for (const double spacing : {0.0, 1.7, -0.4})
            QTest::addRow("%s-r%g-%s-s%g", qPrintable(face.section('/', 0, 0)), radius, inward ? "inward" : "outward",
                          spacing)
                << face << radius << inward << spacing << (inward ? 3.0 : -1.5);
  }
  void letters_on_circles_match_closed_forms() {
    QFETCH(QString, face);
    QFETCH(double, radius);
    QFETCH(bool, inward);
    QFETCH(double, spacing);
    QFETCH(double, height);
    const char* text = "AVocet Wharf fi";
    const QString file = QString::fromStdString(face_file(face.toStdString()));
    const ReferenceRun run = reference_run(text, file, 24, spacing);
    Letters l = letters_of(text, {}, 24);
    const auto set = set_text(l, ligatures_for({spacing, 0}), **open_font(file.toStdString()));
    RunPlace place;
    place.s = 31;
    place.anchor = RunAnchor::Middle;
    place.height = height;
    const Curve circle = Curve::circle({40, -7}, radius);
    const SeatedText seated = *seat_on_curve(space_text(*set, spaced_by(spacing), Alignment::Centre),
                                             std::make_shared<const Curve>(inward ? circle.reversed() : circle), place);
    QCOMPARE(seated.letters.size(), run.advances.size());
    double pen = place.s - run.length / 2;
    for (std::size_t i = 0; i < run.advances.size(); ++i) {
      const double a = run.advances[i], s = pen + a / 2;
      // Clockwise from the top: P = C + r (sin φ, −cos φ), T = (cos φ, sin φ), tops outward U = (sin φ, −cos φ).
      // The other way round: φ = −s/r, T turned about, tops inward.
      const double phi = (inward ? -s : s) / radius, turn = inward ? -1 : 1;
      const Vec out{std::sin(phi), -std::cos(phi)}, tangent = Vec{std::cos(phi), std::sin(phi)} * turn;
      const Point origin = Point{40, -7} + out * radius + out * (turn * height) - tangent * (a / 2);
      const QString wrong = fault(seated.letters[i], origin, std::atan2(tangent.y, tangent.x));
      QVERIFY2(wrong.isEmpty(), qPrintable(wrong));
      pen += a + spacing;
    }
  }

  void arcs_by_rise_have_the_radius_of_the_handbook_formula_data() {
    QTest::addColumn<double>("rise");
    for (const double rise : {0.01, 0.5, 5.0, 20.0, 60.0})
      QTest::addRow("rise-%g", rise) << rise;
  }
  void arcs_by_rise_have_the_radius_of_the_handbook_formula() {
    // Sagitta: r = h/2 + c²/(8h) (Machinery's Handbook, circular segments; from memory), c the chord of the run.
    QFETCH(double, rise);
    const ReferenceRun run =
        reference_run("Saltmarsh", QString::fromStdString(face_file("lato/Lato-Regular.ttf")), 40, 0);
    const Result<double> r = arc_radius({ArcBy::Rise, rise, ArcSide::Over}, run.length);
    QVERIFY(r.ok());
    const double chord = 2 * *r * std::sin(run.length / (2 * *r));
    QVERIFY2(std::abs(rise / 2 + chord * chord / (8 * rise) - *r) < 1e-6 * *r,
             qPrintable(QString::number(*r, 'g', 12)));
    QVERIFY(std::abs(arc_rise(*r, run.length) - rise) < 1e-6);
  }

  void arc_measures_follow_one_another() {
    for (const double radius : {40.0, 100.0, 900.0}) {
      const double run = 200, rise = arc_rise(radius, run), sweep = arc_sweep(radius, run);
      QVERIFY(std::abs(*arc_radius({ArcBy::Radius, radius, {}}, run) - radius) < 1e-12);
      QVERIFY(std::abs(*arc_radius({ArcBy::Sweep, sweep, {}}, run) - radius) < 1e-9);
      if (sweep < 260)
        QVERIFY(std::abs(*arc_radius({ArcBy::Rise, rise, {}}, run) - radius) < 1e-6 * radius);
    }
    QVERIFY(!arc_radius({ArcBy::Sweep, 361, {}}, 100).ok());
    QVERIFY(!arc_radius({ArcBy::Rise, 36.3, {}}, 100).ok());
    QVERIFY(arc_radius({ArcBy::Rise, 36.2, {}}, 100).ok());
  }

  void arc_letters_lie_on_their_circle_over_and_under() {
    Recipe r;
    r.source = letters_of("Saltmarsh", {"Lato", "Regular"}, 30);
    r.bend.kind = BendKind::Arc;
    for (const ArcSide side : {ArcSide::Over, ArcSide::Under}) {
      r.bend.arc = {ArcBy::Radius, 90, side};
      const auto e = evaluate(r, {{200, 100}, 0}, nullptr, bundled_faces(), {Depth::Seat, nullptr, {}});
      const Point centre{200, side == ArcSide::Over ? 190.0 : 10.0};
      double left = 1e9, right = -1e9;
      for (const PlacedLetter& l : e->seated->letters) {
        const Point middle = l.origin + direction(l.angle) * (l.advance / 2);
        QVERIFY(std::abs(distance(middle, centre) - 90) < 1e-9);
        QVERIFY(dot(up_of(direction(l.angle)), unit(middle - centre)) * (side == ArcSide::Over ? 1 : -1) > 0.999999);
        left = std::min(left, middle.x), right = std::max(right, middle.x);
      }
      QVERIFY(e->seated->letters.front().origin.x <
              e->seated->letters.back().origin.x); // reads left to right both ways
      QVERIFY(std::abs(e->seated->ink.centre().x - 200) < 2);
    }
  }

  void letters_on_any_path_match_a_separate_calculation() {
    // The reference walks a dense polyline of the path and interpolates; nothing of Curve is used.
    const char* data = "M0 0C60 -90 120 90 180 0S280 -60 320 20";
    const Outline outline = *parse_outline(data);
    std::vector<Point> dense;
    std::vector<double> along{0};
    for (const Segment& s : outline.contours[0].segments)
      for (int i = dense.empty() ? 0 : 1; i <= 200000; ++i)
        dense.push_back(s.at(i / 200000.0));
    for (std::size_t i = 1; i < dense.size(); ++i)
      along.push_back(along.back() + distance(dense[i - 1], dense[i]));
    const auto set = set_text(letters_of("Marigold", {"Lato", "Regular"}, 24), Ligatures::On,
                              **bundled_faces().face({"Lato", "Regular"}));
    const auto spaced = space_text(*set, {}, Alignment::Centre);
    RunPlace place;
    place.s = 12;
    const SeatedText seated = *seat_on_curve(spaced, shared(*parse_curve(data)), place);
    for (const PlacedLetter& l : seated.letters) {
      const auto at = static_cast<std::size_t>(std::lower_bound(along.begin(), along.end(), l.s) - along.begin());
      const double share = (l.s - along[at - 1]) / (along[at] - along[at - 1]);
      const Point p = lerp(dense[at - 1], dense[at], share);
      const Vec t = unit(dense[std::min(at + 20, dense.size() - 1)] - dense[at - 20]);
      QVERIFY(distance(l.origin, p - t * (l.advance / 2)) < 0.002);
      QVERIFY(std::abs(wrap_degrees(degrees(l.angle - std::atan2(t.y, t.x)))) < 0.005);
    }
  }

  void anchors_put_start_middle_and_end_where_they_say() {
    const auto set = set_text(letters_of("Creek", {"Lato", "Regular"}, 24), Ligatures::On,
                              **bundled_faces().face({"Lato", "Regular"}));
    const auto spaced = space_text(*set, {}, Alignment::Centre);
    const Curve line = Curve::line({0, 0}, {400, 0});
    for (const RunAnchor anchor : {RunAnchor::Start, RunAnchor::Middle, RunAnchor::End}) {
      RunPlace place;
      place.s = 200;
      place.anchor = anchor;
      const SeatedText t = *seat_on_curve(spaced, shared(line), place);
      const double start = t.letters.front().origin.x, end = t.letters.back().origin.x + t.letters.back().advance;
      const double at = anchor == RunAnchor::Start ? start : anchor == RunAnchor::End ? end : (start + end) / 2;
      QVERIFY(std::abs(at - 200) < 1e-9);
    }
  }

  void the_window_centres_by_ink() {
    for (const double angle : {0.0, 37.0, 180.0})
      for (const Tops tops : {Tops::Outward, Tops::Inward}) {
        Recipe r;
        r.source = letters_of("Lf", {"Lato", "Regular"}, 40);
        r.bend.kind = BendKind::Guide;
        r.bend.guide.tops = tops;
        r.bend.guide.angle = angle;
        const CircleGuide circle{{0, 0}, 150, 25};
        const auto e = evaluate(r, {}, line_of(circle), bundled_faces(), {Depth::Seat, nullptr, {}});
        double left = 1e9, right = -1e9;
        for (const PlacedLetter& l : e->seated->letters) {
          left = std::min(left, l.s - l.advance / 2 + l.shape->bounds().x0);
          right = std::max(right, l.s - l.advance / 2 + l.shape->bounds().x1);
        }
        const CurvePlace middle = e->seated->guide->at((left + right) / 2);
        const double got = degrees(std::atan2(middle.point.x, -middle.point.y));
        QVERIFY2(std::abs(wrap_degrees(got - angle)) < 1e-6, qPrintable(QString("%1 for %2").arg(got).arg(angle)));
      }
  }

  void sit_by_moves_the_run_by_its_cap_height() {
    const CircleGuide circle{{0, 0}, 100, 0};
    Recipe r;
    r.source = letters_of("H", {"Lato", "Regular"}, 20, SizeBy::Capitals);
    r.bend.kind = BendKind::Guide;
    for (const auto& [sit, h] :
         {std::pair{SitBy::Base, 0.0}, std::pair{SitBy::Middle, -10.0}, std::pair{SitBy::Caps, -20.0}}) {
      r.bend.sit_by = sit;
      r.bend.offset = 1.5;
      const auto e = evaluate(r, {}, line_of(circle), bundled_faces(), {Depth::Seat, nullptr, {}});
      QVERIFY(std::abs(e->seated->letters[0].h - (h + 1.5)) < 1e-9);
    }
  }

  void letters_past_an_end_are_flagged_and_on_circles_they_wrap() {
    const auto set = set_text(letters_of("Saltmarsh", {"Lato", "Regular"}, 30), Ligatures::On,
                              **bundled_faces().face({"Lato", "Regular"}));
    const auto spaced = space_text(*set, {}, Alignment::Centre);
    const SeatedText line = *seat_on_curve(spaced, shared(Curve::line({0, 0}, {60, 0})), {});
    QVERIFY(!line.letters.front().beyond && line.letters.back().beyond);
    QVERIFY(std::abs(line.overflow - (spaced->longest - 60)) < 1e-9);
    QVERIFY(std::abs(line.letters.back().origin.y) < 1e-9); // on the tangent, not bunched
    const SeatedText ring = *seat_on_curve(spaced, shared(Curve::circle({0, 0}, 10)), {});
    QVERIFY(std::none_of(ring.letters.begin(), ring.letters.end(), [](const PlacedLetter& l) { return l.beyond; }));
    QVERIFY(std::abs(ring.overflow - (spaced->longest - 20 * pi)) < 1e-9);
  }
};

QTEST_APPLESS_MAIN(TestSeat)
#include "test_seat.moc"
