// Pieces placed by each other, turned and copied: by measured ink, by capitals, by the middle of their area; closed
// forms, and properties over random arrangements.
#include "document/arrange.h"
#include "document/copies.h"
#include "document/place.h"
#include "document/select_like.h"
#include "document/validity.h"
#include "geom/area_centre.h"
#include "geom/distance.h"
#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

PieceId put(Document& d, const std::string& path) {
  Piece p;
  p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(path, EndsMeet::StaysOpen)), {}, nullptr, {}};
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}
PieceId put_box(Document& d, double x, double y, double w, double h) {
  return put(d, fmt::format("M{} {}h{}v{}h{}z", x, y, w, h, -w));
}
PieceId put_circle(Document& d, Point centre, double radius) {
  Piece p;
  p.content = Guide{CircleGuide{centre, radius}};
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}
PieceId put_words(Document& d, const std::string& words, Point at, double size = 30) {
  Piece p;
  Lettering l;
  l.recipe.source = letters_of(words, {"Cabin", "Bold"}, size);
  l.placement.at = at;
  p.content = std::move(l);
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}
Box ink(const Document& d, PieceId id) {
  return evaluator().piece(d, id, Depth::Seat)->ink;
}
PlaceChoice choice(PlaceTo to, PlaceBy by = PlaceBy::Ink) {
  return {by, to};
}
bool near(double a, double b, double off = 1e-9) {
  return std::abs(a - b) <= off;
}

double apart(const Outline& a, const Outline& b) {
  return boundary_distance(rings_of(a, 0.01), rings_of(b, 0.01));
}

// Boxes, words and a disc, anywhere.
struct Arranged {
  Document document;
  std::vector<PieceId> ids;
};
Arranged random_arrangement(std::uint64_t seed) {
  auto random = random_source(seed);
  const auto u = [&](double a, double b) { return uniform(random, a, b); };
  Arranged out;
  for (int i = 0; i < 4; ++i)
    out.ids.push_back(put_box(out.document, u(0, 400), u(0, 300), u(5, 80), u(5, 60)));
  out.ids.push_back(put_words(out.document, "Tide", {u(0, 400), u(50, 300)}, u(10, 60)));
  Piece disc;
  disc.content = Guide{CircleGuide{{u(100, 300), u(100, 300)}, u(5, 60)}};
  Added added = add_piece(std::move(out.document), std::move(disc));
  out.document = std::move(added.document);
  out.ids.push_back(added.id);
  std::shuffle(out.ids.begin(), out.ids.end(), random);
  return out;
}

} // namespace

class TestPlace : public QObject {
  Q_OBJECT

private slots:
  // A word and a line under it in a board with a round end: together as they are, then as large as a margin lets them.
  void set_into_a_shape() {
    Document d;
    const PieceId word = put_words(d, "Ebb", {700, 300}), bar = put_box(d, 700, 310, 60, 4);
    const PieceId board = put(d, "M0 0H200A60 60 0 0 1 200 120H0Z");
    const auto margin = [&](const Document& now) {
      Outline all = seated_outline(*evaluator().piece(now, word, Depth::Seat));
      all.append(seated_outline(*evaluator().piece(now, bar, Depth::Seat)));
      return closest_boundaries(all, *now.find(board)->outline()->outline).distance;
    };
    const auto even = set_into(d, {word, bar, board}, IntoShape::AsLargeAsItIs, {}, evaluator());
    QVERIFY(even);
    QVERIFY(near(ink(*even, word).width(), ink(d, word).width()));
    QVERIFY(near(ink(*even, bar).x0 - ink(*even, word).x0, ink(d, bar).x0 - ink(d, word).x0)); // as they stood
    Box both = ink(*even, word);
    both.add(ink(*even, bar));
    QVERIFY2(near(both.centre().y, 60, 0.5) && both.x0 > margin(*even) - 1e-6,
             fmt::format("{} {} {}", both.centre().y, both.x0, margin(*even)).c_str());
    for (const double asked : {0.0, 8.0, 25.0}) {
      const auto largest = set_into(d, {word, bar, board}, IntoShape::Largest, {.margin = asked}, evaluator());
      QVERIFY(largest && faults(*largest).empty());
      QVERIFY2(near(margin(*largest), asked, 0.02), qPrintable(QString::number(margin(*largest))));
      QVERIFY(near(ink(*largest, bar).width() / ink(*largest, word).width(), ink(d, bar).width() / ink(d, word).width(),
                   1e-6));
    }
    // In a round guide too, and with what it rides on; said when it can't be.
    const PieceId ring = put_circle(d, {400, 400}, 80);
    QVERIFY(set_into(d, {word, ring}, IntoShape::Largest, {}, evaluator()));
    QVERIFY(!set_into(d, {word, board}, IntoShape::Largest, {.margin = 60}, evaluator()));
    QVERIFY(!set_into(d, {board, bar}, IntoShape::AsLargeAsItIs, {}, evaluator()));
    QVERIFY(!set_into(d, {word}, IntoShape::Largest, {}, evaluator()));
    const PieceId line = put(d, "M0 0L50 50L90 0");
    QVERIFY(!set_into(d, {word, line}, IntoShape::Largest, {}, evaluator()));
    d = edit_piece(d, word, [](Piece& p) { p.locked = true; });
    QVERIFY(!set_into(d, {word, board}, IntoShape::Largest, {}, evaluator()));
  }

  void area_centres_by_closed_forms() {
    const auto centre = [](const std::string& path) { return area_centre(*parse_outline(path)); };
    QVERIFY(distance(*centre("M0 0H6V0L0 3Z"), {2, 1}) < 1e-12); // a triangle's medians
    QVERIFY(distance(*centre("M1000 1000h10v20h-10z"), {1005, 1010}) < 1e-9);
    // Half a disc: 4r/3π from its middle.
    QVERIFY(distance(*centre("M-5 0A5 5 0 0 1 5 0Z"), {0, -4 * 5 / (3 * pi)}) < 1e-3);
    // With a hole: (area·centre − hole·centre) / the rest.
    QVERIFY(distance(*centre("M0 0H10V10H0Z M1 1V3H3V1Z"), {(500.0 - 8) / 96, (500.0 - 8) / 96}) < 1e-9);
    QVERIFY(!area_centre(*parse_outline("M0 0L5 5", EndsMeet::StaysOpen)));
  }

  void lined_up_by_each_side_data() {
    QTest::addColumn<int>("side");
    for (int side = 0; side < 6; ++side)
      QTest::addRow("%d", side) << side;
  }
  void lined_up_by_each_side() {
    QFETCH(int, side);
    const auto at = [&](const Box& b) {
      const double all[]{b.x0, b.centre().x, b.x1, b.y0, b.centre().y, b.y1};
      return all[side];
    };
    for (std::uint64_t seed = 1; seed <= 6; ++seed)
      for (const PlaceTo to : {PlaceTo::Last, PlaceTo::Together, PlaceTo::Sheet}) {
        const Arranged a = random_arrangement(seed);
        Box all;
        for (const PieceId id : a.ids)
          all.add(ink(a.document, id));
        const Box stays = to == PlaceTo::Last       ? ink(a.document, a.ids.back())
                          : to == PlaceTo::Together ? all
                                                    : Box{0, 0, a.document.sheet.width, a.document.sheet.height};
        const auto d = lined_up(a.document, a.ids, static_cast<LineUp>(side), choice(to), evaluator());
        QVERIFY(d.ok() && faults(*d).empty());
        for (const PieceId id : a.ids) {
          const Box was = ink(a.document, id), now = ink(*d, id);
          QVERIFY(near(at(now), at(stays)));
          QVERIFY(near(now.width(), was.width()) && near(now.height(), was.height()));
          QVERIFY(side < 3 ? near(now.y0, was.y0) : near(now.x0, was.x0)); // the other way as it was
        }
        const auto twice = lined_up(*d, a.ids, static_cast<LineUp>(side), choice(to), evaluator());
        for (const PieceId id : a.ids)
          QVERIFY(near(ink(*twice, id).x0, ink(*d, id).x0) && near(ink(*twice, id).y0, ink(*d, id).y0));
      }
  }

  void spread_leaves_equal_gaps() {
    for (std::uint64_t seed = 1; seed <= 10; ++seed)
      for (const Spread way : {Spread::Across, Spread::Down})
        for (const PlaceTo to : {PlaceTo::Together, PlaceTo::Sheet}) {
          const Arranged a = random_arrangement(seed);
          const auto d = spread(a.document, a.ids, way, choice(to), evaluator());
          QVERIFY(d.ok());
          const auto span = [&](const Document& of, PieceId id) {
            const Box b = ink(of, id);
            return way == Spread::Across ? std::pair{b.x0, b.x1} : std::pair{b.y0, b.y1};
          };
          std::vector<PieceId> order = a.ids; // as they stood: with less room than they need they cover each other
          std::sort(order.begin(), order.end(), [&](PieceId p, PieceId q) {
            const auto m = span(a.document, p), n = span(a.document, q);
            return m.first + m.second < n.first + n.second;
          });
          std::vector<std::pair<double, double>> spans;
          for (const PieceId id : order)
            spans.push_back(span(*d, id));
          const double end = way == Spread::Across ? d->sheet.width : d->sheet.height;
          const double gap = spans[1].first - spans[0].second;
          for (std::size_t i = 1; i < spans.size(); ++i)
            QVERIFY(near(spans[i].first - spans[i - 1].second, gap));
          if (to == PlaceTo::Sheet)
            QVERIFY(near(spans.front().first, gap) && near(end - spans.back().second, gap));
        }
    Arranged few = random_arrangement(3);
    few.ids.resize(2);
    QVERIFY(!spread(few.document, few.ids, Spread::Across, {}, evaluator()).ok());
  }

  void by_capitals_and_by_area() {
    Document d;
    const PieceId low = put_words(d, "Aygo", {100, 100}, 40), high = put_words(d, "HOME", {300, 173}, 20);
    const auto caps = lined_up(d, {low, high}, LineUp::Bottom, choice(PlaceTo::Last, PlaceBy::Capitals), evaluator());
    QVERIFY(caps.ok());
    // Baselines meet: descenders of the first hang below.
    const auto base = [&](PieceId id) {
      return evaluator().piece(*caps, id, Depth::Seat)->seated->letters[0].origin.y;
    };
    QVERIFY(near(base(low), base(high)) && ink(*caps, low).y1 > ink(*caps, high).y1 + 1);
    const PieceId wedge = put(d, "M0 0H60V40Z"), disc = put_box(d, 200, 200, 20, 20);
    const auto area = centred(d, {wedge, disc}, choice(PlaceTo::Last, PlaceBy::Area), evaluator());
    QVERIFY(area.ok());
    QVERIFY(distance(*area_centre(*area->find(wedge)->outline()->outline), {210, 210}) < 1e-9);
    QVERIFY(area->find(disc) == d.find(disc) || *area->find(disc) == *d.find(disc));
  }

  void where_there_is_most_room() {
    Document d;
    const PieceId boot = put(d, "M0 0h60v100h60v60h-120z"), box = put_box(d, 300, 300, 10, 6);
    const auto made = centred(d, {box, boot}, choice(PlaceTo::Last, PlaceBy::Room), evaluator());
    QVERIFY(made.ok());
    // In the heel, as far from its side and sole as from the inner corner: (60 - r) √2 = r, so r = 60 (2 - √2).
    const Point at = ink(*made, box).centre();
    const double least = std::min({at.x, 160 - at.y, distance(at, {60, 100})});
    QVERIFY(least > 0.985 * 60 * (2 - std::sqrt(2.0)) && at.y > 110);
    QVERIFY(*made->find(boot) == *d.find(boot));
  }

  void as_large_by_measured_ink() {
    for (std::uint64_t seed = 1; seed <= 6; ++seed) {
      const Arranged a = random_arrangement(seed);
      for (const AsLarge what : {AsLarge::Width, AsLarge::Height}) {
        const auto d = as_large(a.document, a.ids, what, evaluator());
        QVERIFY2(d.ok(), d.ok() ? "" : d.error().text().c_str());
        const Box last = ink(*d, a.ids.back());
        for (const PieceId id : a.ids) {
          const Box b = ink(*d, id);
          QVERIFY(near(what == AsLarge::Width ? b.width() : b.height(),
                       what == AsLarge::Width ? last.width() : last.height(), 0.001));
          QVERIFY(distance(b.centre(), ink(a.document, id).centre()) < 0.001);
        }
      }
    }
    Document d;
    const PieceId first = put_words(d, "Tide", {100, 100}, 40), last = put_words(d, "table", {300, 173}, 20);
    const auto caps = as_large(d, {first, last}, AsLarge::Capitals, evaluator());
    QVERIFY(caps.ok());
    const auto height = [&](PieceId id) {
      return evaluator().piece(*caps, id, Depth::Seat)->seated->spaced->set->cap_height;
    };
    QVERIFY(near(height(first), height(last)));
    // Spread: the letters stay as large as they are, and in their middle.
    const PieceId bar = put_box(d, 50, 20, 321, 30);
    const auto wide = as_large(d, {first, bar}, AsLarge::Spread, evaluator());
    QVERIFY2(wide.ok(), wide.ok() ? "" : wide.error().text().c_str());
    QVERIFY(near(ink(*wide, first).width(), 321, 1e-6) && near(ink(*wide, first).height(), ink(d, first).height()));
    QVERIFY(distance(ink(*wide, first).centre(), ink(d, first).centre()) < 1e-6);
    const CircleJob round = circle_job("Tide mill", 150); // along its arc further than across
    Document on_arc = round.document;
    const PieceId model = put_box(on_arc, 0, 0, 222, 9);
    const auto arced = as_large(on_arc, {round.lettering, model}, AsLarge::Spread, evaluator());
    QVERIFY(arced.ok() && near(ink(*arced, round.lettering).width(), 222, 0.001));
    const PieceId slit = put_box(d, 50, 20, 9, 30);
    QVERIFY(!as_large(d, {first, slit}, AsLarge::Spread, evaluator()).ok()); // too close
    QVERIFY(!as_large(d, {bar, first}, AsLarge::Spread, evaluator()).ok());  // no letters
    const PieceId box = put_box(d, 0, 0, 5, 5);
    QVERIFY(!as_large(d, {first, box}, AsLarge::Capitals, evaluator()).ok());
    QVERIFY(!as_large(d, {box, first}, AsLarge::Capitals, evaluator()).ok());
    QVERIFY(!as_large(d, {first}, AsLarge::Width, evaluator()).ok());
  }

  void what_rides_together_moves_together() {
    CircleJob job = circle_job("Salt", 60);
    Document d = job.document;
    const PieceId box = put_box(d, 500, 20, 30, 30);
    const auto up = lined_up(d, {job.lettering, job.guide, box}, LineUp::Top, choice(PlaceTo::Last), evaluator());
    QVERIFY(up.ok());
    const Vec by = circle_under(*up, *up->find(job.lettering)->lettering()).centre -
                   circle_under(d, *d.find(job.lettering)->lettering()).centre;
    Box was = ink(d, job.lettering);
    was.add(ink(d, job.guide));
    QVERIFY(near(by.y, 20 - was.y0, 1e-6) && near(by.x, 0)); // once, not for each of them
    // Locked ones stay, and can be what stays.
    const Document locked = edit_piece(d, box, [](Piece& p) { p.locked = true; });
    QVERIFY(*lined_up(locked, {box, job.guide}, LineUp::Left, choice(PlaceTo::Last), evaluator()) == locked);
    QVERIFY(lined_up(locked, {job.guide, box}, LineUp::Left, choice(PlaceTo::Last), evaluator()).ok());
    QVERIFY(!lined_up(d, {job.guide, job.lettering}, LineUp::Left, choice(PlaceTo::Last), evaluator()).ok()); // one
  }

  // A turn is a rotation of all that is seen, and turned back it is what it was.
  void turns_are_rotations() {
    auto random = random_source(9);
    for (int i = 0; i < 12; ++i) {
      CircleJob job = circle_job("Marsh", 60);
      Document d = job.document;
      const PieceId box = put_box(d, 100, 120, 50, 20), words = put_words(d, "Creek", {50, 60});
      if (i % 3 == 1) // its own copy of the guide
        d = remove_pieces(d, {job.guide}).document;
      const std::vector<PieceId> ids =
          i % 2 == 0 ? std::vector{job.lettering, box, words} : std::vector{words, box, job.lettering, job.guide};
      const Point about{uniform(random, 0, 600), uniform(random, 0, 400)};
      const double angle = uniform(random, -180, 180);
      const Document turned_once = turn_pieces(d, ids, about, angle);
      QVERIFY(faults(turned_once).empty());
      const Affine m = Similarity::turning_about(about, angle).affine();
      for (const PieceId id : {job.lettering, box, words}) {
        const auto before = evaluator().piece(d, id, Depth::Finish),
                   after = evaluator().piece(turned_once, id, Depth::Finish);
        QVERIFY(before.ok() && after.ok());
        QVERIFY(apart(before->outline->transformed(m), *after->outline) < 1e-6);
      }
      const Document back = turn_pieces(turned_once, ids, about, -angle);
      for (const PieceId id : {job.lettering, box, words})
        QVERIFY(apart(*evaluator().piece(d, id, Depth::Finish)->outline,
                      *evaluator().piece(back, id, Depth::Finish)->outline) < 1e-6);
    }
  }

  void mirrored_outlines_stay_sound() {
    Document d;
    const PieceId ring = put(d, "M0 0H40V20H0Z M5 5V15H20V5Z"), words = put_words(d, "Creek", {50, 60});
    const Document once = mirror_outlines(d, {ring, words}, {30, 10}, MirrorWay::Across);
    const Outline& o = *once.find(ring)->outline()->outline;
    QVERIFY(near(o.bounds().x0, 20) && near(o.area(), 40 * 20 - 15 * 10)); // holes stay holes
    QVERIFY(*once.find(words) == *d.find(words));
    QVERIFY(apart(*mirror_outlines(once, {ring}, {30, 10}, MirrorWay::Across).find(ring)->outline()->outline,
                  *d.find(ring)->outline()->outline) < 1e-12);
  }

  void pieces_alike() {
    Document d;
    const PieceId a = put_box(d, 0, 0, 5, 5), b = put_box(d, 10, 0, 5, 5), words = put_words(d, "Creek", {50, 60}),
                  hidden = put_box(d, 20, 0, 5, 5), locked = put_box(d, 30, 0, 5, 5);
    d = edit_piece(d, b, [](Piece& p) { p.colour = {200, 0, 0}, p.destination = Destination::Pen; });
    d = edit_piece(d, hidden, [](Piece& p) { p.visible = false; });
    d = edit_piece(d, locked, [](Piece& p) { p.locked = true; });
    QCOMPARE(pieces_like(d, {a}, Like::Kind), (std::vector<PieceId>{a, b}));
    QCOMPARE(pieces_like(d, {a}, Like::Colour), (std::vector<PieceId>{a, words}));
    QCOMPARE(pieces_like(d, {b}, Like::Destination), (std::vector<PieceId>{b}));
    QCOMPARE(pieces_like(d, {locked}, Like::Kind), (std::vector<PieceId>{a, b, locked}));
    QVERIFY(pieces_like(d, {}, Like::Kind).empty());
  }

  void put_aside() {
    CircleJob job = circle_job("Salt", 60);
    const auto once = parked(job.document, {job.lettering}, evaluator());
    QVERIFY(once.ok() && faults(once->document).empty());
    QCOMPARE(once->ids.size(), std::size_t{1});
    QCOMPARE(once->document.pieces.size(), std::size_t{4}); // with the circle that it rides on
    QVERIFY(once->document.find(once->ids[0])->destination == Destination::Off);
    QVERIFY(*once->document.find(job.lettering) == *job.document.find(job.lettering));
    const Box first = ink(once->document, once->ids[0]);
    QVERIFY(first.x0 > job.document.sheet.width);
    const auto twice = parked(once->document, {job.lettering}, evaluator());
    QVERIFY(twice.ok() && ink(twice->document, twice->ids[0]).y0 > first.y1);
    QVERIFY(!parked(job.document, {}, evaluator()).ok());
  }

  // Moved, turned, sized and turned over, and back: the same ink again.
  void changes_and_their_inverses() {
    for (std::uint64_t seed = 1; seed <= 12; ++seed) {
      auto random = random_source(seed);
      const auto u = [&](double a, double b) { return uniform(random, a, b); };
      const Arranged a = random_arrangement(seed);
      Box all;
      for (const PieceId id : a.ids)
        all.add(ink(a.document, id));
      const Point about = at_share(all, {0.3, 0.8});
      const double k = u(0.3, 3), turn = u(-170, 170);
      const Vec by{u(-90, 90), u(-90, 90)};
      const Document there = changed(a.document, a.ids, {by, turn, k, {0.3, 0.8}, {}}, all);
      QVERIFY(faults(there).empty() && there != a.document);
      Document back = move_pieces(there, a.ids, -1 * by);
      back = turn_pieces(std::move(back), a.ids, about, -turn);
      back = scale_pieces(std::move(back), a.ids, about, 1 / k);
      for (const PieceId id : a.ids) {
        const Box was = ink(a.document, id), now = ink(back, id);
        for (const auto& [p, q] : {std::pair{was.x0, now.x0}, {was.y0, now.y0}, {was.x1, now.x1}, {was.y1, now.y1}})
          QVERIFY2(near(p, q), qPrintable(QString("seed %1: %2").arg(seed).arg(p - q)));
      }
      Change leans;
      leans.about = {0.3, 0.8}, leans.lean = u(-70, 70);
      const Document leant = changed(a.document, a.ids, leans, all);
      QVERIFY(faults(leant).empty() && leant != a.document);
      leans.lean = -leans.lean;
      const Document upright = changed(leant, a.ids, leans, all);
      Change over;
      over.mirror = seed % 2 == 0 ? MirrorWay::Across : MirrorWay::Down;
      const Document twice = changed(changed(a.document, a.ids, over, all), a.ids, over, all);
      for (const PieceId id : a.ids)
        for (const Document* back_again : {&twice, &upright})
          QVERIFY(near(ink(*back_again, id).x0, ink(a.document, id).x0) &&
                  near(ink(*back_again, id).y1, ink(a.document, id).y1));
    }
  }

  // A copy of a word on a circle takes a circle of its own along: the first one stays.
  void again_with_a_copy_leaves_what_is_there() {
    const CircleJob job = circle_job("Tide");
    const Box was = ink(job.document, job.lettering);
    const Change change{{40, 0}, 15, 1, {0.5, 0.5}, {}};
    const Copied made = copied_and_changed(job.document, {job.lettering}, change, was);
    QVERIFY(faults(made.document).empty());
    QCOMPARE(made.document.pieces.size(), std::size_t{4});
    QCOMPARE(*made.document.find(job.guide), *job.document.find(job.guide));
    QCOMPARE(*made.document.find(job.lettering), *job.document.find(job.lettering));
    QCOMPARE(made.ids.size(), std::size_t{1});
    const Document moved = changed(job.document, {job.lettering}, change, was);
    QVERIFY(near(ink(made.document, made.ids[0]).x0, ink(moved, job.lettering).x0, 1e-6));
    // What is locked is not copied for nothing.
    Document locked = edit_piece(job.document, job.lettering, [](Piece& p) { p.locked = true; });
    const Copied none = copied_and_changed(locked, {job.lettering}, change, was);
    QVERIFY(none.document == locked && none.ids.empty());
  }

  void copies_by_a_step() {
    Document d;
    const PieceId box = put_box(d, 10, 10, 20, 30);
    const auto c = copied(d, {box}, StepCopies{4, {25, 5}, 0}, evaluator());
    QVERIFY(c.ok() && faults(c->document).empty());
    QCOMPARE(c->ids.size(), std::size_t{5});
    for (std::size_t i = 0; i < 5; ++i)
      QVERIFY(near(ink(c->document, c->ids[i]).x0, 10 + 25 * double(i)) &&
              near(ink(c->document, c->ids[i]).y0, 10 + 5 * double(i)));
    const auto turned = copied(d, {box}, StepCopies{1, {100, 0}, 90}, evaluator());
    QVERIFY(turned.ok());
    const Box b = ink(turned->document, turned->ids[1]);
    QVERIFY(near(b.width(), 30) && near(b.height(), 20) && distance(b.centre(), {120, 25}) < 1e-9);
    QVERIFY(copied(d, {box}, StepCopies{0, {}, 0}, evaluator())->ids.size() == 1);
  }

  void copies_in_rows_and_columns() {
    Document d;
    const PieceId box = put_box(d, 10, 10, 20, 30), other = put_box(d, 25, 35, 20, 10);
    const auto c = copied(d, {box, other}, GridCopies{3, 2, {4, 6}}, evaluator());
    QVERIFY(c.ok());
    QCOMPARE(c->ids.size(), std::size_t{12});
    const Box last = ink(c->document, c->ids[10]);
    QVERIFY(near(last.x0, 10 + 2 * (35 + 4)) && near(last.y0, 10 + 35 + 6));
    QVERIFY(!copied(d, {box}, GridCopies{100'000, 100'000, {}}, evaluator()).ok());
    QVERIFY(!copied(d, {}, GridCopies{}, evaluator()).ok());
  }

  void copies_along_a_line() {
    Document d;
    const PieceId box = put_box(d, 10, 10, 20, 6), bar = put(d, "M100 100L400 100");
    Piece circle;
    circle.content = Guide{CircleGuide{{300, 200}, 80}};
    Added added = add_piece(d, std::move(circle));
    d = added.document;
    // From end to end of an open one; what is there stays.
    const auto on_bar = copied(d, {box, bar}, AlongCopies{4, false}, evaluator());
    QVERIFY(on_bar.ok() && faults(on_bar->document).empty());
    QCOMPARE(on_bar->ids.size(), std::size_t{5});
    QVERIFY(ink(on_bar->document, box).x0 == 10);
    for (std::size_t i = 0; i < 4; ++i)
      QVERIFY(distance(ink(on_bar->document, on_bar->ids[i + 1]).centre(), {100 + 100.0 * double(i), 100}) < 1e-9);
    // Around a closed one, turned with it or not; 0° is its top.
    for (const bool upright : {false, true}) {
      const auto around = copied(d, {box, added.id}, AlongCopies{4, upright}, evaluator());
      QVERIFY(around.ok());
      for (std::size_t i = 0; i < 4; ++i) {
        const Box b = ink(around->document, around->ids[i + 1]);
        QVERIFY(distance(b.centre(), Point{300, 200} + 80.0 * direction(radians(90.0 * double(i) - 90))) < 1e-6);
        QVERIFY(near(b.width(), upright || i % 2 == 0 ? 20 : 6, 1e-9));
      }
      const auto shown = copies_shown(d, {box, added.id}, AlongCopies{4, upright}, evaluator());
      QVERIFY(shown.ok() && shown->contours.size() == 4);
    }
    QVERIFY(!copied(d, {box}, AlongCopies{}, evaluator()).ok() && !copied(d, {}, AlongCopies{}, evaluator()).ok());
    const PieceId words = put_words(d, "Tide", {50, 50});
    QVERIFY(!copied(d, {box, words}, AlongCopies{}, evaluator()).ok()); // no line
    QVERIFY(!copied(d, {box, bar}, AlongCopies{most_copies + 1, false}, evaluator()).ok());
    QCOMPARE(copied(d, {box, bar}, AlongCopies{1, false}, evaluator())->ids.size(), std::size_t{2});
  }

  void copies_around() {
    Document d;
    const PieceId box = put_box(d, 290, 90, 20, 20), hub = put_box(d, 250, 150, 100, 100);
    for (const bool upright : {false, true}) {
      const auto c = copied(d, {box, hub}, RingCopies{8, 360, upright, true}, evaluator());
      QVERIFY(c.ok());
      QCOMPARE(c->ids.size(), std::size_t{8});
      for (std::size_t i = 0; i < 8; ++i) {
        const Box b = ink(c->document, c->ids[i]);
        const double angle = 45.0 * double(i);
        QVERIFY(distance(b.centre(), Point{300, 200} + 100.0 * direction(radians(angle - 90))) < 1e-9);
        QVERIFY(near(b.width(), upright || i % 2 == 0 ? 20 : 20 * std::sqrt(2.0), 1e-9));
      }
    }
    const auto half =
        copied(d, {box}, RingCopies{3, 180, false, true}, evaluator()); // about the sheet: there is no last
    QVERIFY(half.ok());
    QVERIFY(distance(ink(half->document, half->ids[2]).centre(), {300, 300}) < 1e-9);
    // What rides on a circle brings that along, and turns with its place.
    CircleJob job = circle_job("Salt", 30);
    const auto ring = copied(job.document, {job.lettering}, RingCopies{3, 360, false, false}, evaluator());
    QVERIFY(ring.ok() && faults(ring->document).empty());
    QCOMPARE(ring->document.pieces.size(), std::size_t{6});
  }
};

QTEST_APPLESS_MAIN(TestPlace)
#include "test_place.moc"
