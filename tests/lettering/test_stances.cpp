// Stances, stretching, corners, spreading, repeating, further lines, letters set downwards and moved by hand, and the
// properties that hold for them on every kind of guide.
#include "lettering/evaluate.h"

#include "lettering/gaps.h"
#include "support/compare.h"
#include "support/every_guide.h"
#include "support/fixtures.h"

#include <QTest>
#include <cstdio>
#include <limits>
#include <set>

using namespace frelm;
using namespace frelm::test;

namespace {

Recipe riding(const std::string& text, double size, Stance stance = Stance::Turn, FaceName face = {"Lato", "Regular"}) {
  Recipe r;
  r.source = letters_of(text, std::move(face), size, SizeBy::Capitals);
  r.bend.kind = BendKind::Guide;
  r.bend.stance = stance;
  r.bend.guide.by = AlongBy::Percent;
  return r;
}
Result<Evaluation> on(const Recipe& r, const std::shared_ptr<const GuideLine>& line) {
  return evaluate(r, {}, line, bundled_faces(), {Depth::Seat, nullptr, {}});
}
SeatedText seated(const Recipe& r, const GuideShape& shape) {
  return *on(r, line_of(shape))->seated;
}
Outline picture(const SeatedText& text) {
  Outline out;
  for (const Outline& o : letter_outlines(text))
    out.append(o);
  return out;
}
double apart(const SeatedText& a, const SeatedText& b) {
  return boundary_distance(rings_of(picture(a), 0.002), rings_of(picture(b), 0.002));
}

void every_guide_and_stance() {
  QTest::addColumn<int>("guide");
  QTest::addColumn<int>("stance");
  const auto guides = every_guide();
  for (std::size_t i = 0; i < guides.size(); i += sanitized ? 3 : 1)
    for (const auto& [name, stance] : {std::pair{"turn", Stance::Turn}, std::pair{"stand", Stance::Stand},
                                       std::pair{"lean", Stance::Lean}, std::pair{"flow", Stance::Flow}})
      QTest::addRow("%s-%s", guides[i].first, name) << static_cast<int>(i) << static_cast<int>(stance);
}
GuideShape guide_at(int i) {
  return every_guide()[static_cast<std::size_t>(i)].second;
}

double worst_flow = 0;

} // namespace

class TestStances : public QObject {
  Q_OBJECT

private slots:
  void cleanupTestCase() { std::printf("flow: worst %.2g mm from the exact image\n", worst_flow); }

  // ---- properties over all guides
  void a_guide_drawn_the_other_way_gives_the_same_picture_data() { every_guide_and_stance(); }
  void a_guide_drawn_the_other_way_gives_the_same_picture() {
    QFETCH(int, guide);
    QFETCH(int, stance);
    const auto drawn = line_of(guide_at(guide));
    if (std::holds_alternative<SpiralGuide>(guide_at(guide)))
      return; // has its own winding: tested with its shape
    const auto other = *guide_line(drawn->curve->reversed());
    const auto same = *guide_line(*drawn->curve);
    for (const Tops tops : {Tops::Outward, Tops::Inward}) {
      Recipe r = riding("Upper Creek", 12, static_cast<Stance>(stance));
      r.bend.guide.tops = tops;
      r.bend.offset = 2;
      r.bend.guide.percent = 31;
      const SeatedText a = *on(r, same)->seated, b = *on(r, other)->seated;
      QVERIFY2(apart(a, b) < 0.006, qPrintable(QString::number(apart(a, b))));
    }
  }

  void tops_over_and_measured_from_the_other_end_is_the_reversed_guide_data() { every_guide_and_stance(); }
  void tops_over_and_measured_from_the_other_end_is_the_reversed_guide() {
    // On the bare curve: the guide reversed, the run's start counted from the reversed start.
    QFETCH(int, guide);
    QFETCH(int, stance);
    const auto line = line_of(guide_at(guide));
    Recipe over = riding("Creek", 12, static_cast<Stance>(stance));
    over.bend.guide.by = AlongBy::Distance;
    over.bend.guide.anchor = Anchor::StartsAt;
    over.bend.guide.distance = 40;
    over.bend.corners = Corners::Over;
    over.bend.guide.tops = Tops::Inward;
    const OrientedGuide inward = oriented(*line, Tops::Inward);
    const SeatedText a = *on(over, line)->seated;
    const auto set = set_text(*over.letters(), Ligatures::On, **bundled_faces().face({"Lato", "Regular"}));
    RunPlace place;
    place.s = 40;
    RunStyle style;
    style.stance = over.bend.stance;
    const auto back = std::make_shared<const Curve>(inward.reversed ? line->curve->reversed() : *line->curve);
    const SeatedText b = *seat_on_curve(space_text(*set, {}, Alignment::Centre), back, place, style);
    QVERIFY2(apart(a, b) < 0.006, qPrintable(QString::number(apart(a, b))));
  }

  void turning_and_scaling_the_guide_turns_and_scales_the_letters_data() { every_guide_and_stance(); }
  void turning_and_scaling_the_guide_turns_and_scales_the_letters() {
    QFETCH(int, guide);
    QFETCH(int, stance);
    const bool upright = static_cast<Stance>(stance) == Stance::Stand || static_cast<Stance>(stance) == Stance::Lean;
    const Similarity by{1.6, upright ? 0.0 : 14.0, {31, -12}};
    Recipe r = riding("Upper Creek", 10, static_cast<Stance>(stance));
    r.bend.offset = 1;
    r.spacing.letter = 0.4;
    r.bend.guide.percent = 43;
    Recipe scaled = r;
    scaled.letters()->size *= by.scale;
    scaled.bend.offset *= by.scale;
    scaled.spacing.letter *= by.scale;
    const SeatedText a = seated(r, guide_at(guide)), b = seated(scaled, transformed(guide_at(guide), by));
    const double off =
        boundary_distance(rings_of(picture(a).transformed(by.affine()), 0.002), rings_of(picture(b), 0.002));
    QVERIFY2(off < (static_cast<Stance>(stance) == Stance::Flow ? 0.015 : 0.003), qPrintable(QString::number(off)));
  }

  void nothing_is_dropped_on_any_guide_data() { every_guide_and_stance(); }
  void nothing_is_dropped_on_any_guide() {
    QFETCH(int, guide);
    QFETCH(int, stance);
    const std::string text = "Far too long a text for any of these guides, and yet every single letter of it is there";
    for (const double size : {4.0, 60.0, 600.0}) {
      const Result<Evaluation> e = on(riding(text, size, static_cast<Stance>(stance)), line_of(guide_at(guide)));
      if (!e) { // a clear finding
        QVERIFY(e.error().message().size() > 20);
        continue;
      }
      std::size_t count = 0;
      for (const PlacedLetter& l : e->seated->letters)
        count += l.count;
      QCOMPARE(count, text.size());
      for (const PlacedLetter& l : e->seated->letters)
        QVERIFY(finite(l.origin) && std::isfinite(l.angle));
      if (size > 50)
        QVERIFY(e->seated->overflow > 0);
    }
  }

  // ---- stances
  void flow_along_a_line_is_the_identity() {
    const LineGuide line{{-60, 10}, {200, -90}};
    const SeatedText turned = seated(riding("Ragweed & Sons", 24), line),
                     flowed = seated(riding("Ragweed & Sons", 24, Stance::Flow), line);
    QVERIFY2(apart(turned, flowed) < 1e-6, qPrintable(QString::number(apart(turned, flowed))));
    QCOMPARE(picture(flowed).node_count(), picture(turned).node_count());
  }

  void flow_on_a_circle_maps_heights_to_radii_data() {
    QTest::addColumn<bool>("inward");
    QTest::newRow("outward") << false;
    QTest::newRow("inward") << true;
  }
  void flow_on_a_circle_maps_heights_to_radii() {
    QFETCH(bool, inward);
    Recipe r = riding("Sgt. BEHM", 26, Stance::Flow);
    r.bend.guide.tops = inward ? Tops::Inward : Tops::Outward;
    r.bend.offset = 3;
    const Point c{5, -8};
    const SeatedText text = seated(r, CircleGuide{c, 110, 0});
    for (const PlacedLetter& l : text.letters) {
      // The same segment before and after: nodes of the source are nodes of the image.
      for (const Contour& contour : l.plain->contours)
        for (const Segment& s : contour.segments) {
          const double h = 3 - s.p0.y, radius = inward ? 110 - h : 110 + h;
          double nearest = 1e9;
          for (const Contour& bent : l.shape->contours)
            for (const Segment& t : bent.segments)
              if (const double along = (l.s + s.p0.x - l.advance / 2) / 110 * (inward ? -1 : 1);
                  distance(t.p0, c + Vec{std::sin(along), -std::cos(along)} * radius) < 1)
                nearest = std::min(nearest, std::abs(distance(t.p0, c) - radius));
          QVERIFY2(nearest < 1e-6, qPrintable(QString::number(nearest)));
        }
      // And everywhere: the closed form of the whole map.
      std::vector<Ring> exact;
      for (const Contour& contour : l.plain->contours) {
        Ring ring;
        for (const Segment& s : contour.segments)
          for (int i = 0; i < 200; ++i) {
            const Point q = s.at(i / 200.0);
            const double along = (l.s + q.x - l.advance / 2) / 110 * (inward ? -1 : 1), h = 3 - q.y;
            ring.push_back(c + Vec{std::sin(along), -std::cos(along)} * (inward ? 110 - h : 110 + h));
          }
        exact.push_back(std::move(ring));
      }
      if (exact.empty())
        continue;
      const double off = boundary_distance(rings_of(*l.shape, 2e-4), exact);
      worst_flow = std::max(worst_flow, off);
      QVERIFY2(off <= 0.005, qPrintable(QString::number(off)));
    }
    QVERIFY(text.flow_worst <= 0.005);
  }

  void flow_follows_any_guide_within_its_bound_and_with_few_nodes_data() {
    QTest::addColumn<int>("guide");
    const auto guides = every_guide();
    for (std::size_t i = 0; i < guides.size(); ++i)
      QTest::newRow(guides[i].first) << static_cast<int>(i);
  }
  void flow_follows_any_guide_within_its_bound_and_with_few_nodes() {
    QFETCH(int, guide);
    Recipe r = riding("Boatworks", 14, Stance::Flow);
    const SeatedText text = seated(r, guide_at(guide));
    std::size_t before = 0, after = 0;
    for (const PlacedLetter& l : text.letters) {
      std::vector<Ring> exact;
      for (const Contour& contour : l.plain->contours) {
        Ring ring;
        for (const Segment& s : contour.segments)
          for (int i = 0; i < 100; ++i) {
            const Point q = s.at(i / 100.0);
            const CurvePlace p = text.guide->at(l.s + q.x - l.advance / 2);
            ring.push_back(p.point + up_of(p.tangent) * (l.h - q.y));
          }
        exact.push_back(std::move(ring));
      }
      before += l.plain->node_count(), after += l.shape->node_count();
      const double off = boundary_distance(rings_of(*l.shape, 2e-4), exact);
      worst_flow = std::max(worst_flow, off);
      QVERIFY2(off <= 0.0055, qPrintable(QString("letter %1: %2 mm").arg(l.first).arg(off)));
    }
    QVERIFY2(after <= before * 2, qPrintable(QString("%1 nodes from %2").arg(after).arg(before)));
  }

  void standing_letters_stay_upright_on_the_guide() {
    const EllipseGuide ring{{0, 0}, 150, 90, 0, 0, 360};
    const SeatedText text = seated(riding("Saltmarsh Lane", 12, Stance::Stand), ring);
    for (const PlacedLetter& l : text.letters) {
      QCOMPARE(l.angle, 0.0);
      const Point foot = l.origin + Vec{l.advance / 2, 0};
      QVERIFY(std::abs(foot.x * foot.x / (150 * 150) + foot.y * foot.y / (90 * 90) - 1) < 1e-9);
    }
  }

  void leaning_letters_keep_their_verticals_and_follow_with_their_base() {
    const ArcGuide arc{{0, 160}, 160, -45, 90};
    const SeatedText text = seated(riding("HIHIHIHI", 20, Stance::Lean), arc);
    for (const PlacedLetter& l : text.letters) {
      const Vec down = l.place.linear({0, 1}), along = unit(l.place.linear({1, 0}));
      QVERIFY(std::abs(down.x) < 1e-12 && std::abs(down.y - 1) < 1e-12);
      const CurvePlace p = text.guide->at(l.s);
      QVERIFY(std::abs(cross(along, p.tangent)) < 1e-12);
      QVERIFY(distance(l.place({l.advance / 2, 0}), p.point) < 1e-9);
    }
  }

  void a_stretched_word_reaches_from_end_to_end() {
    for (const char* text : {"Wake", "Saltmarsh Boatworks"}) {
      Recipe r = riding(text, 20, Stance::Flow);
      r.bend.stretch = true;
      const SeatedText s = seated(r, PathGuide{wave()});
      double first = 1e9, last = -1e9;
      for (const PlacedLetter& l : s.letters)
        if (!l.blank()) {
          const Box ink = l.plain->bounds();
          first = std::min(first, l.s + (ink.x0 - l.advance / 2) * l.stretch);
          last = std::max(last, l.s + (ink.x1 - l.advance / 2) * l.stretch);
        }
      QVERIFY(std::abs(first) < 1e-6 && std::abs(last - s.guide_length) < 1e-6);
      QVERIFY(s.flow_worst <= 0.005);
      QCOMPARE(s.overflow, 0.0);
    }
  }

  // ---- corners
  void no_letter_straddles_a_corner_unless_asked_data() {
    QTest::addColumn<int>("guide");
    QTest::addColumn<int>("anchor");
    const auto guides = every_guide();
    for (std::size_t i = 0; i < guides.size(); ++i)
      if (!line_of(guides[i].second)->curve->corners().empty())
        for (const Anchor a : {Anchor::StartsAt, Anchor::CentredAt, Anchor::EndsAt})
          QTest::addRow("%s-%d", guides[i].first, static_cast<int>(a)) << static_cast<int>(i) << static_cast<int>(a);
  }
  void no_letter_straddles_a_corner_unless_asked() {
    QFETCH(int, guide);
    QFETCH(int, anchor);
    for (const Tops tops : {Tops::Outward, Tops::Inward})
      for (const double percent : {3.0, 27.0, 50.0, 81.0}) {
        Recipe r = riding("SALTMARSH BOATWORKS", 8);
        r.bend.guide.anchor = static_cast<Anchor>(anchor);
        r.bend.guide.percent = percent;
        r.bend.guide.tops = tops;
        const SeatedText text = seated(r, guide_at(guide));
        const auto straddlers = [](const SeatedText& t) {
          std::size_t n = 0;
          for (const PlacedLetter& l : t.letters)
            for (const CurveCorner& c : t.guide->corners())
              for (const double turn : {-1.0, 0.0, 1.0}) {
                if (turn != 0 && !t.guide->closed())
                  continue;
                const double at = c.s + turn * t.guide->length();
                n += !l.blank() && l.s - l.advance / 2 < at - 1e-5 && l.s + l.advance / 2 > at + 1e-5 ? 1 : 0;
              }
          return n;
        };
        QCOMPARE(straddlers(text), std::size_t{0});
        for (const Gap& g : find_collisions(text)) // a tight bend may drive letters together, a corner may not
          for (const CurveCorner& c : text.guide->corners()) {
            const double away = std::abs(std::remainder(text.letters[g.left].s - c.s, text.guide_length));
            QVERIFY2(away > 20, qPrintable(QString("letters meet %1 mm from a corner").arg(away)));
          }
        // In order, and none on top of another.
        for (std::size_t i = 1; i < text.letters.size(); ++i)
          QVERIFY(text.letters[i].s > text.letters[i - 1].s);
        r.bend.corners = Corners::Over;
        std::size_t over = 0;
        for (double p = 0; p < 100; p += 5) {
          r.bend.guide.percent = p;
          over += straddlers(seated(r, guide_at(guide)));
        }
        QVERIFY(over > 0);
      }
  }

  void a_concave_corner_keeps_the_tops_apart_or_says_so() {
    // Tops outward on a star: the inner corners close in on them.
    const StarGuide star{{0, 0}, 200, 90, 5, 0};
    Recipe r = riding("HHHHHHHHHHHHHHHHHHHH", 14);
    r.bend.guide.percent = 15;
    QVERIFY(find_collisions(seated(r, star)).empty());
    r.bend.corners = Corners::Over; // asked for: then it must be noticed
    r.letters()->text = letters_of("HHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHHH").text;
    r.letters()->size = 30;
    QVERIFY(!find_collisions(seated(r, star)).empty());
  }

  void slack_before_a_corner_is_shared_among_the_gaps() {
    Recipe r = riding("IIIIIIIIIIIIIIIIIIIIIIII", 10);
    r.bend.guide.anchor = Anchor::StartsAt;
    r.bend.guide.percent = 0;
    const SeatedText text = seated(r, FrameGuide{{0, 0}, 100, 60, 0, 0});
    std::vector<double> gaps;
    for (std::size_t i = 1; i < text.letters.size() && text.letters[i].s < 100; ++i)
      gaps.push_back(text.letters[i].s - text.letters[i - 1].s);
    QVERIFY(gaps.size() > 5);
    for (const double g : gaps)
      QVERIFY(std::abs(g - gaps[0]) < 1e-6);
    QVERIFY(gaps[0] > text.letters[0].advance);
  }

  // ---- spacing
  void spread_fills_its_room_with_even_gaps_data() {
    QTest::addColumn<int>("over");
    QTest::addColumn<double>("value");
    QTest::addColumn<bool>("closed");
    QTest::newRow("length") << static_cast<int>(SpreadOver::Length) << 260.0 << true;
    QTest::newRow("tighter-length") << static_cast<int>(SpreadOver::Length) << 100.0 << true;
    QTest::newRow("angle") << static_cast<int>(SpreadOver::Angle) << 200.0 << true;
    QTest::newRow("whole-circle") << static_cast<int>(SpreadOver::Guide) << 0.0 << true;
    QTest::newRow("whole-line") << static_cast<int>(SpreadOver::Guide) << 0.0 << false;
  }
  void spread_fills_its_room_with_even_gaps() {
    QFETCH(int, over);
    QFETCH(double, value);
    QFETCH(bool, closed);
    Recipe r = riding("SPREADING", 14);
    const double natural = seated(r, CircleGuide{{0, 0}, 90, 0}).used_length;
    r.spacing.mode = SpacingMode::Spread;
    r.spacing.over = static_cast<SpreadOver>(over);
    r.spacing.length = r.spacing.angle = value;
    const GuideShape guide = closed ? GuideShape{CircleGuide{{0, 0}, 90, 0}} : GuideShape{LineGuide{{0, 0}, {310, 0}}};
    const SeatedText text = seated(r, guide);
    const auto& l = text.letters;
    const double extent = l.back().s + l.back().advance / 2 - (l.front().s - l.front().advance / 2);
    std::vector<double> gaps;
    for (std::size_t i = 1; i < l.size(); ++i)
      gaps.push_back(l[i].s - l[i].advance / 2 - (l[i - 1].s + l[i - 1].advance / 2));
    for (const double g : gaps)
      QVERIFY(std::abs(g - gaps[0]) < 1e-6);
    const double whole = text.guide_length;
    double room = value;
    if (static_cast<SpreadOver>(over) == SpreadOver::Angle)
      room = radians(value) * 90;
    if (static_cast<SpreadOver>(over) == SpreadOver::Guide)
      room = closed ? whole - gaps[0] : whole;
    if (room > natural)
      QVERIFY2(std::abs(extent - room) < 1e-6, qPrintable(QString("%1 for %2").arg(extent).arg(room)));
    else // pushed together only a little, never on top of one another
      QVERIFY(extent < natural && extent > natural - 9 * 14 * 0.08 - 1e-6);
  }

  // A straight run has no guide to fill: every line's ink becomes as long as asked for, by the same more in each gap.
  void straight_lines_spread_over_a_length_data() {
    QTest::addColumn<int>("alignment");
    QTest::addColumn<double>("share"); // of the ink, that stays with the placement's alignment
    QTest::newRow("left") << static_cast<int>(Alignment::Left) << 0.0;
    QTest::newRow("centre") << static_cast<int>(Alignment::Centre) << 0.5;
    QTest::newRow("right") << static_cast<int>(Alignment::Right) << 1.0;
  }
  void straight_lines_spread_over_a_length() {
    QFETCH(int, alignment);
    QFETCH(double, share);
    Recipe r = riding("TIDE\nMILL ROAD", 14);
    r.bend.kind = BendKind::Straight;
    r.letters()->alignment = static_cast<Alignment>(alignment);
    const auto lines_of = [&](const SeatedText& text) {
      std::vector<Box> out(2);
      for (const PlacedLetter& l : text.letters)
        if (!l.blank())
          out[l.line].add(l.shape->transformed(l.place).bounds());
      return out;
    };
    const auto set = [&](double angle) {
      return *evaluate(r, {{200, 100}, angle}, std::shared_ptr<const GuideLine>{}, bundled_faces(),
                       {Depth::Seat, nullptr, {}})
                  ->seated;
    };
    const SeatedText plain = set(0);
    r.spacing.mode = SpacingMode::Spread;
    r.spacing.over = SpreadOver::Length;
    for (const double length : {ink_along(*plain.spaced), 180.0, 333.0}) {
      r.spacing.length = length;
      const SeatedText text = set(0);
      const std::vector<Box> now = lines_of(text);
      for (const Box& line : now)
        QVERIFY2(std::abs(line.width() - length) < 1e-9, qPrintable(QString::number(line.width() - length)));
      QVERIFY(std::abs(now[0].x0 - now[1].x0) < 1e-9); // flush
      if (length == ink_along(*plain.spaced))          // the widest line has not moved
        QVERIFY(std::abs(now[1].x0 - lines_of(plain)[1].x0) < 1e-9 &&
                std::abs(now[1].x1 - lines_of(plain)[1].x1) < 1e-9);
      QVERIFY(std::abs(now[0].x0 + share * length - 200) < 14); // and where they were, but for side bearings
      // The same more in every gap of a line.
      for (const std::size_t line : {0, 1}) {
        std::vector<double> more;
        for (std::size_t i = 1; i < text.letters.size(); ++i)
          if (text.letters[i].line == line && text.letters[i - 1].line == line)
            more.push_back((text.letters[i].s - text.letters[i - 1].s) - (plain.letters[i].s - plain.letters[i - 1].s));
        for (const double m : more)
          QVERIFY(std::abs(m - more[0]) < 1e-9);
      }
      const SeatedText turned = set(90);
      QVERIFY(std::abs(lines_of(turned)[0].height() - length) < 1e-9);
    }
    // Much too short: pushed together only a little.
    r.spacing.length = 10;
    for (const Box& line : lines_of(set(0)))
      QVERIFY(line.width() > 30);
    // Without a length it stays as it is set.
    r.spacing.over = SpreadOver::Guide;
    QVERIFY(apart(set(0), plain) < 1e-9);
  }

  void repeat_fills_a_frame_with_whole_copies_evenly() {
    Recipe r = riding("KEEP CLEAR", 9);
    r.spacing.mode = SpacingMode::Repeat;
    r.spacing.separator = U" + ";
    for (const GuideShape& shape :
         {GuideShape{CircleGuide{{0, 0}, 120, 0}}, GuideShape{FrameGuide{{0, 0}, 300, 180, 30, 0}},
          GuideShape{EllipseGuide{{0, 0}, 150, 80, 0, 0, 360}}}) {
      const SeatedText text = seated(r, shape);
      std::vector<double> starts;
      for (const PlacedLetter& l : text.letters)
        if (l.first == 0)
          starts.push_back(l.s);
      QVERIFY(starts.size() > 4);
      for (std::size_t i = 1; i < starts.size(); ++i)
        QVERIFY(std::abs(starts[i] - starts[i - 1] - text.guide_length / static_cast<double>(starts.size())) < 1e-6);
      QCOMPARE(text.overflow, 0.0);
      QVERIFY(
          std::none_of(text.letters.begin(), text.letters.end(), [](const PlacedLetter& l) { return l.meets_start; }));
      // No room for one copy more.
      QVERIFY(text.guide_length / static_cast<double>(starts.size() + 1) <
              seated(riding("KEEP CLEAR + ", 9), shape).used_length);
    }
    r.spacing.copies = 3;
    std::size_t copies = 0;
    for (const PlacedLetter& l : seated(r, CircleGuide{{0, 0}, 120, 0}).letters)
      copies += l.first == 0 ? 1 : 0;
    QCOMPARE(copies, std::size_t{3});
  }

  void repeat_on_a_sharp_frame_keeps_words_whole_on_its_sides() {
    Recipe r = riding("MIND THE STEP", 8);
    r.spacing.mode = SpacingMode::Repeat;
    const SeatedText text = seated(r, FrameGuide{{0, 0}, 300, 180, 0, 0});
    const std::vector<CurveCorner> corners = text.guide->corners();
    const auto side_of = [&](double s) {
      return std::count_if(corners.begin(), corners.end(), [&](const CurveCorner& c) { return c.s < s; });
    };
    std::ptrdiff_t side = 0;
    std::set<std::ptrdiff_t> sides;
    for (const PlacedLetter& l : text.letters) {
      if (l.first == 0)
        side = side_of(std::fmod(l.s, text.guide_length)), sides.insert(side);
      if (l.first < 13 && !l.blank())
        QCOMPARE(side_of(std::fmod(l.s, text.guide_length)), side);
    }
    QCOMPARE(sides.size(), std::size_t{4});
    QVERIFY(find_collisions(text).empty());
  }

  // ---- lines
  void further_lines_stand_on_parallels_a_line_pitch_apart() {
    const CircleGuide circle{{0, 0}, 140, 0};
    for (const Tops tops : {Tops::Outward, Tops::Inward})
      for (const LinesGo go : {LinesGo::Below, LinesGo::Above}) {
        Recipe r = riding("One\nTwo\nThree", 10);
        r.letters()->line_pitch = 1.5;
        r.bend.lines = go;
        r.bend.guide.tops = tops;
        const SeatedText text = seated(r, circle);
        for (const PlacedLetter& l : text.letters) {
          const double step = go == LinesGo::Below ? -static_cast<double>(l.line) : 2.0 - static_cast<double>(l.line);
          const double height = 15 * step, radius = tops == Tops::Outward ? 140 + height : 140 - height;
          const Point foot = l.origin + direction(l.angle) * (l.advance / 2);
          QVERIFY2(std::abs(length(foot) - radius) < 1e-6,
                   qPrintable(QString("line %1: %2 for %3").arg(l.line).arg(length(foot)).arg(radius)));
        }
        // Letters of an outer line are as far apart as of an inner one: spaced by their own circle.
        for (std::size_t i = 1; i < text.letters.size(); ++i)
          if (text.letters[i].line == text.letters[i - 1].line) {
            const PlacedLetter &a = text.letters[i - 1], &b = text.letters[i];
            const double radius = length(a.origin + direction(a.angle) * (a.advance / 2));
            const double arc = std::abs(radians(wrap_degrees(degrees(b.angle - a.angle)))) * radius;
            QVERIFY(std::abs(arc - (b.s - a.s)) < 1e-6);
          }
      }
  }

  void lines_that_follow_on_stand_one_after_another() {
    Recipe r = riding("One\nTwo", 10);
    r.bend.lines = LinesGo::FollowOn;
    const SeatedText text = seated(r, CircleGuide{{0, 0}, 140, 0});
    for (std::size_t i = 1; i < text.letters.size(); ++i)
      QVERIFY(text.letters[i].s > text.letters[i - 1].s);
    for (const PlacedLetter& l : text.letters)
      QVERIFY(std::abs(l.h) < 1e-9);
  }

  void lines_too_deep_for_their_guide_are_a_finding() {
    Recipe r = riding("One\nTwo\nThree\nFour\nFive", 14);
    const Result<Evaluation> e = on(r, line_of(CircleGuide{{0, 0}, 50, 0}));
    QVERIFY(!e.ok() && e.error().message().size() > 20);
  }

  // ---- fitting, downwards, right to left, letters moved by hand
  void capitals_fill_a_band_exactly() {
    for (const Tops tops : {Tops::Outward, Tops::Inward}) {
      Recipe r = riding("HEIL HI", 99);
      r.bend.guide.fit_height = true;
      r.bend.guide.tops = tops;
      r.bend.sit_by = SitBy::Middle;
      const SeatedText text = seated(r, BandGuide{{0, 0}, 70, 100, 4, 0});
      double inner = 1e9, outer = 0;
      for (const PlacedLetter& l : text.letters) {
        inner = std::min(inner, length(l.place({l.advance / 2, 0})));
        outer = std::max(outer, length(l.place({l.advance / 2, -text.spaced->set->cap_height})));
      }
      QVERIFY(std::abs(std::min(inner, outer) - (tops == Tops::Outward ? 74 : 74)) < 1e-6);
      QVERIFY(std::abs(text.spaced->set->cap_height - 22) < 1e-6);
    }
    Recipe r = riding("H", 99);
    r.bend.guide.fit_height = true;
    QVERIFY(!on(r, line_of(BandGuide{{0, 0}, 70, 76, 4, 0})).ok()); // margins leave nothing
  }

  void letters_between_windings_stay_clear_of_one_another() {
    Recipe r = riding("Gypsy jqy lighthouse keepers fly by day Ålesund gypsy jqy lighthouse keepers fly by day", 99);
    r.bend.guide.fit_height = true;
    r.bend.guide.anchor = Anchor::StartsAt;
    r.bend.guide.percent = 0;
    const SpiralGuide spiral{{0, 0}, 24, 17, 5, 0, Winding::Clockwise};
    QVERIFY(find_collisions(seated(r, spiral)).empty());
    r.bend.guide.fit_height = false;
    r.letters()->size = 17;
    QVERIFY(!find_collisions(seated(r, spiral)).empty());
  }

  void letters_set_downwards_stand_one_below_the_other() {
    Recipe r;
    r.source = letters_of("BOAT", {"Lato", "Bold"}, 20, SizeBy::Capitals);
    r.letters()->downwards = true;
    const auto straight = evaluate(r, {{50, 20}, 0}, nullptr, bundled_faces(), {Depth::Seat, nullptr, {}});
    double last = -1e9;
    for (const PlacedLetter& l : straight->seated->letters) {
      QVERIFY(std::abs(l.angle) < 1e-12);
      const Box ink = l.shape->transformed(l.place).bounds();
      QVERIFY(std::abs(ink.centre().x - 50) < 1e-6);
      QVERIFY(ink.y0 > last);
      last = ink.y1;
    }
    r.bend.kind = BendKind::Guide;
    r.bend.guide.by = AlongBy::Percent;
    for (const bool up : {false, true}) { // downwards however it was drawn
      const SeatedText guided = seated(r, up ? LineGuide{{40, 300}, {0, 0}} : LineGuide{{0, 0}, {40, 300}});
      QVERIFY(guided.letters.front().origin.y < guided.letters.back().origin.y);
      QVERIFY(std::abs(guided.letters.front().angle) < 0.2);
    }
  }

  void right_to_left_text_keeps_its_order_on_every_guide_data() {
    flow_follows_any_guide_within_its_bound_and_with_few_nodes_data();
  }
  void right_to_left_text_keeps_its_order_on_every_guide() {
    QFETCH(int, guide);
    // "salam", joined: the first letter typed is the farthest along the guide.
    for (const Stance stance : {Stance::Turn, Stance::Flow}) {
      const SeatedText text =
          seated(riding("\xD8\xB3\xD9\x84\xD8\xA7\xD9\x85", 10, stance, {"Amiri", "Regular"}), guide_at(guide));
      QVERIFY(text.letters.size() >= 3);
      QCOMPARE(text.letters.back().first, std::size_t{0});
      for (std::size_t i = 1; i < text.letters.size(); ++i) {
        QVERIFY(text.letters[i].first < text.letters[i - 1].first);
        QVERIFY(text.letters[i].s > text.letters[i - 1].s);
      }
      QVERIFY(text.spaced->set->missing.empty());
    }
  }

  void letters_moved_by_hand_keep_their_change_through_edits() {
    Recipe r = riding("Creek", 20);
    const std::uint64_t id = r.letters()->text[2].id;
    r.tweaks = {{id, 30, 1.5, 0.25, -0.5}};
    const SeatedText before = seated(r, CircleGuide{{0, 0}, 120, 0});
    Recipe plain = r;
    plain.tweaks.clear();
    const SeatedText without = seated(plain, CircleGuide{{0, 0}, 120, 0});
    for (std::size_t i = 0; i < 5; ++i)
      QCOMPARE(before.letters[i].place == without.letters[i].place, i != 2);
    const double cap = before.spaced->set->cap_height;
    QVERIFY(std::abs(before.letters[2].s - without.letters[2].s + 0.5 * cap) < 1e-9);
    QVERIFY(std::abs(before.letters[2].h - without.letters[2].h - 0.25 * cap) < 1e-9);
    QVERIFY(std::abs(before.letters[2].place.determinant() - 2.25) < 1e-9);
    // The text grows in front of it and the guide changes: the same letter stays changed.
    std::uint64_t next = 1000;
    r.letters()->text = retyped(r.letters()->text, U"Upper Creek", next);
    for (const Stance stance : {Stance::Turn, Stance::Stand, Stance::Lean, Stance::Flow}) {
      r.bend.stance = stance;
      plain = r;
      plain.tweaks.clear();
      const SeatedText a = seated(r, PathGuide{wave()}), b = seated(plain, PathGuide{wave()});
      for (std::size_t i = 0; i < a.letters.size(); ++i)
        if (!a.letters[i].blank())
          QCOMPARE(a.letters[i].shape->transformed(a.letters[i].place) !=
                       b.letters[i].shape->transformed(b.letters[i].place),
                   i == 8);
    }
  }

  // ---- degenerate guides
  void bad_guides_and_places_give_a_clear_finding_data() {
    QTest::addColumn<int>("kind");
    for (const char* row : {"0-angle-nan", "1-distance-nan", "2-offset-nan", "3-cusp", "4-coincident-nodes",
                            "5-tiny-circle", "6-tight-spiral", "7-hairpin"})
      QTest::newRow(row + 2) << row[0] - '0';
  }
  void bad_guides_and_places_give_a_clear_finding() {
    QFETCH(int, kind);
    const double nan = std::numeric_limits<double>::quiet_NaN();
    for (const Stance stance : {Stance::Turn, Stance::Stand, Stance::Lean, Stance::Flow}) {
      Recipe r = riding("Saltmarsh", 20, stance);
      GuideShape shape = CircleGuide{{0, 0}, 100, 0};
      if (kind == 0)
        r.bend.guide.angle = nan;
      if (kind == 1)
        r.bend.guide.distance = nan, r.bend.guide.by = AlongBy::Distance;
      if (kind == 2)
        r.bend.offset = nan;
      if (kind == 3)
        shape = PathGuide{{{Segment::cubic({0, 0}, {100, 60}, {0, 60}, {100, 0})}, false}};
      if (kind == 4)
        shape = PathGuide{{{Segment::cubic({0, 0}, {0, 0}, {0, 0}, {90, 0}), Segment::line({90, 0}, {90, 0}),
                            Segment::cubic({90, 0}, {120, 0}, {150, 40}, {150, 40})},
                           false}};
      if (kind == 5)
        shape = CircleGuide{{0, 0}, 6, 0}, r.bend.guide.tops = Tops::Inward;
      if (kind == 6)
        shape = SpiralGuide{{0, 0}, 0, 3, 9, 0, Winding::Clockwise};
      if (kind == 7)
        shape = PathGuide{{{Segment::line({0, 0}, {100, 0}), Segment::line({100, 0}, {0, 0.001})}, false}};
      const Result<Evaluation> e = on(r, line_of(shape));
      if (kind < 3) {
        QVERIFY(!e.ok() && e.error().message().size() > 15);
        continue;
      }
      QVERIFY(e.ok());
      for (const PlacedLetter& l : e->seated->letters)
        QVERIFY(finite(l.origin) && std::isfinite(l.place.a) && (l.blank() || !l.shape->empty()));
      if (stance == Stance::Flow && kind == 5) // higher than the radius: folding is said
        QVERIFY(e->seated->folds > 0);
    }
  }
};

QTEST_APPLESS_MAIN(TestStances)
#include "test_stances.moc"
