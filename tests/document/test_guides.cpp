// Guides in a document: what follows what, level, the bead, catching, starters, nodes and letters moved by hand.
#include "document/arrange.h"
#include "document/bead.h"
#include "document/catching.h"
#include "document/copying.h"
#include "document/job_file.h"
#include "document/level.h"
#include "document/outline_edits.h"
#include "document/release.h"
#include "document/starters.h"
#include "geom/nodes.h"
#include "geom/path_data.h"
#include "lettering/gaps.h"
#include "support/compare.h"
#include "support/every_guide.h"
#include "support/fixtures.h"

#include <QFile>
#include <QTest>
#include <cstdio>

using namespace frelm;
using namespace frelm::test;

namespace {

constexpr double level_bound = 0.01; // mm, docs/accuracy.md

struct GuideJob {
  Document document;
  PieceId guide = 0, lettering = 0;
};
GuideJob job_on(GuideShape shape, const std::string& text, FaceName face = {"Lato", "Regular"}, double size = 14) {
  GuideJob job;
  Added guide = add_piece({}, new_guide(std::move(shape)));
  job.guide = guide.id;
  job.document = std::move(guide.document);
  Piece piece = new_lettering(job.document, from_utf8(text), {0, 0});
  Letters& letters = *piece.lettering()->recipe.letters();
  letters.face = std::move(face);
  letters.size = size;
  ride_on(*piece.lettering(), job.guide, **evaluator().guide(job.document, job.guide));
  Added added = add_piece(std::move(job.document), std::move(piece));
  job.document = std::move(added.document);
  job.lettering = added.id;
  return job;
}
Added drawn(Document d, const char* path) {
  Piece p;
  p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(path)), Finish{{}}, nullptr, {}};
  return add_piece(std::move(d), std::move(p));
}
SeatedText text_of(const Document& d, PieceId id) {
  return *evaluator().piece(d, id, Depth::Seat)->seated;
}
Document with_bend(Document d, PieceId id, const std::function<void(Bend&)>& change) {
  return edit_piece(std::move(d), id, [&](Piece& p) { change(p.lettering()->recipe.bend); });
}
// Where the outermost ink at the baseline of the first and last letter really is on the sheet, from dense flattening:
// not the code under test.
double heights_apart(const SeatedText& text) {
  const PlacedLetter *first = nullptr, *last = nullptr;
  for (const PlacedLetter& l : text.letters)
    if (!l.blank())
      first = first == nullptr ? &l : first, last = &l;
  const auto foot = [&](const PlacedLetter& l, bool left) {
    const double band = 0.03 * text.spaced->set->cap_height;
    double x = left ? 1e9 : -1e9;
    bool any = false;
    for (const bool near_only : {true, false}) {
      if (any)
        break;
      for (const Contour& c : l.plain->contours)
        for (const Segment& s : c.segments)
          for (int i = 0; i <= 4000; ++i)
            if (const Point p = s.at(i / 4000.0); !near_only || std::abs(p.y) <= band)
              x = left ? std::min(x, p.x) : std::max(x, p.x), any = true;
    }
    return l.place(Point{x, 0}).y;
  };
  return foot(*last, false) - foot(*first, true);
}

double worst_level = 0;

} // namespace

class TestGuides : public QObject {
  Q_OBJECT

private slots:
  void cleanupTestCase() { std::printf("level: worst %.2g mm\n", worst_level); }

  // ---- level
  void level_brings_both_feet_to_one_height_data() {
    QTest::addColumn<FaceName>("face");
    QTest::addColumn<QString>("text");
    QTest::addColumn<int>("kind");
    const std::pair<FaceName, const char*> cases[] = {
        {{"Lato", "Regular"}, "Saltmarsh"},
        {{"Lato", "Bold"}, "Pyjama"},
        {{"Dancing Script", "Bold"}, "Marigold"},
        {{"Dancing Script", "Regular"}, "fjord"},
        {{"Kaushan Script", "Regular"}, "Quayside"},
        {{"Lobster Two", "Bold Italic"}, "Jolly"},
        {{"League Spartan", "Bold"}, "Ferry"},
        {{"Cabin", "Regular"}, "Wharf 7"},
        {{"Bebas Neue", "Book"}, "AVOCET"},
        {{"Roboto Slab", "Bold"}, "gypsy"},
        {{"Quicksand", "Bold"}, "jetty"},
        {{"Amiri", "Regular"}, "Pilgrim"},
    };
    for (const auto& [face, text] : cases)
      for (const auto& [name, kind] :
           {std::pair{"circle", 0}, std::pair{"arc", 1}, std::pair{"arc-bend", 2}, std::pair{"pen-curve", 3}})
        QTest::addRow("%s-%s-%s", qPrintable(QString::fromStdString(face.text()).toLower().replace(' ', '-')), text,
                      name)
            << face << QString(text) << kind;
  }
  void level_brings_both_feet_to_one_height() {
    QFETCH(FaceName, face);
    QFETCH(QString, text);
    QFETCH(int, kind);
    const GuideShape shape = kind == 1 ? GuideShape{ArcGuide{{0, 200}, 200, -50, 90}}
                             : kind == 3
                                 ? GuideShape{PathGuide{parse_outline("M-160 40C-80 -60 60 -70 180 30")->contours[0]}}
                                 : GuideShape{CircleGuide{{0, 0}, 110, 0}};
    GuideJob job = job_on(shape, text.toStdString(), face);
    if (kind == 2)
      job.document = with_bend(job.document, job.lettering, [](Bend& b) {
        b.kind = BendKind::Arc;
        b.arc = {ArcBy::Radius, 130, ArcSide::Over};
      });
    else
      job.document = with_bend(job.document, job.lettering, [](Bend& b) {
        b.guide.angle = 7;
        if (b.guide.by == AlongBy::Percent)
          b.guide.percent = 46;
      });
    const Result<Document> level = leveled(job.document, job.lettering, evaluator());
    QVERIFY2(level.ok(), level.ok() ? "" : level.error().text().c_str());
    const double apart = std::abs(heights_apart(text_of(*level, job.lettering)));
    worst_level = std::max(worst_level, apart);
    QVERIFY2(apart <= level_bound, qPrintable(QString::number(apart)));
    QVERIFY(std::abs(*tilt_of(text_of(*level, job.lettering))) <= level_bound);
  }

  void level_says_why_it_cannot() {
    const GuideJob one = job_on(CircleGuide{}, "I");
    QVERIFY(!leveled(one.document, one.lettering, evaluator()).ok());
    QVERIFY(!tilt_of(text_of(one.document, one.lettering)).has_value());
    const GuideJob slope = job_on(LineGuide{{0, 0}, {300, -100}}, "Slope");
    QVERIFY(!leveled(slope.document, slope.lettering, evaluator()).ok());
    QVERIFY(!leveled(slope.document, slope.guide, evaluator()).ok());
  }

  // ---- what follows what
  void an_edge_follows_its_outline() {
    Added ribbon = drawn({}, "M20 60C80 20 160 100 220 60V90C160 130 80 50 20 90Z");
    const std::vector<OutlineEdge> edges = edges_of(ribbon.id, *ribbon.document.find(ribbon.id)->outline()->outline);
    QCOMPARE(edges.size(), std::size_t{4});
    const auto lower = std::max_element(edges.begin(), edges.end(), [](const OutlineEdge& a, const OutlineEdge& b) {
      const auto y = [](const OutlineEdge& e) {
        return e.curve.at(e.curve.length() / 2).point.y * (e.curve.length() > 100 ? 1 : 0);
      };
      return y(a) < y(b);
    });
    Added guide = add_piece(ribbon.document, new_guide(lower->guide));
    const auto line = evaluator().guide(guide.document, guide.id);
    QVERIFY(line.ok());
    QVERIFY(std::abs((*line)->curve->length() - lower->curve.length()) < 1e-9);
    QCOMPARE(followers_of(guide.document, ribbon.id), std::vector<PieceId>{guide.id});
    QCOMPARE(carriers_of(guide.document, guide.id), std::vector<PieceId>{ribbon.id});
    // The outline moves: so does the guide. The guide is moved: so is the outline.
    const Document moved = move_pieces(guide.document, {guide.id}, {15, -4});
    const auto after = evaluator().guide(moved, guide.id);
    QVERIFY(distance((*after)->curve->at(10).point, (*line)->curve->at(10).point + Vec{15, -4}) < 1e-9);
    QVERIFY(std::abs(moved.find(ribbon.id)->outline()->outline->bounds().x0 - 35) < 1e-9);
    // The outline goes: the guide stays where it was, on its own.
    const Removed removed = remove_pieces(guide.document, {ribbon.id});
    const auto alone = evaluator().guide(removed.document, guide.id);
    QVERIFY(alone.ok());
    QVERIFY(distance((*alone)->curve->at(30).point, (*line)->curve->at(30).point) < 1e-6);
  }

  void letters_ride_on_an_outline_that_keeps_its_own_operation() {
    Added oval = drawn({}, "M100 200C100 100 300 100 300 200S100 300 100 200Z");
    Piece piece = new_lettering(oval.document, U"Oval", {0, 0});
    ride_on(*piece.lettering(), oval.id, **evaluator().guide(oval.document, oval.id));
    const Added job = add_piece(oval.document, piece);
    QVERIFY(!text_of(job.document, job.id).letters.empty());
    const auto sheet = cut_sheet(job.document, evaluator());
    QCOMPARE(sheet->pieces.size(), std::size_t{2}); // the outline is cut, and so are the letters
    const GuideJob guide = job_on(CircleGuide{}, "Ring");
    QCOMPARE(cut_sheet(guide.document, evaluator())->pieces.size(), std::size_t{1}); // a guide is not
  }

  void a_circle_midway_between_two_follows_both() {
    Document d;
    const Added a = add_piece(d, new_circle({50, 50}, 40)), b = add_piece(a.document, new_circle({50, 50}, 70));
    const Added mid = add_piece(b.document, new_guide(MidwayGuide{a.id, b.id, 3}));
    const auto line = evaluator().guide(mid.document, mid.id);
    QVERIFY(line.ok());
    QVERIFY(std::abs((*line)->curve->length() - 2 * pi * 55) < 1e-9);
    QVERIFY((*line)->fit && std::abs((*line)->fit->height - 24) < 1e-9);
    const Document wider = edit_piece(mid.document, b.id, [](Piece& p) {
      p.guide()->shape = CircleGuide{{50, 50}, 100, 0};
    });
    QVERIFY(std::abs((*evaluator().guide(wider, mid.id))->curve->length() - 2 * pi * 70) < 1e-9);
    const Removed gone = remove_pieces(mid.document, {a.id});
    QVERIFY(evaluator().guide(gone.document, mid.id).ok());
    // Two that follow each other are refused.
    Document round = edit_piece(mid.document, a.id, [&](Piece& p) { p.guide()->shape = MidwayGuide{mid.id, b.id, 3}; });
    QVERIFY(!evaluator().guide(round, mid.id).ok());
  }

  void a_removed_guide_leaves_its_letters_and_comes_back_data() {
    QTest::addColumn<int>("index");
    const auto guides = every_guide();
    for (std::size_t i = 0; i < guides.size(); ++i)
      QTest::newRow(guides[i].first) << static_cast<int>(i);
  }
  void a_removed_guide_leaves_its_letters_and_comes_back() {
    QFETCH(int, index);
    const GuideJob job =
        job_on(every_guide()[static_cast<std::size_t>(index)].second, "Upper Creek", {"Lato", "Regular"}, 9);
    const Box before = text_of(job.document, job.lettering).ink;
    const Removed removed = remove_pieces(job.document, {job.guide});
    QVERIFY(text_of(removed.document, job.lettering).ink == before);
    QVERIFY(text_of(bring_back_guide(removed.document, removed.guides.at(0)), job.lettering).ink == before);
    // Copied with its guide: a guide of its own; alone: the shared one.
    const Inserted both = duplicate_pieces(job.document, {job.guide, job.lettering}, {7, 5});
    QCOMPARE(both.document.find(both.ids[1])->lettering()->recipe.bend.guide.guide, both.ids[0]);
    const Box copied = text_of(both.document, both.ids[1]).ink;
    QVERIFY(std::abs(copied.x0 - before.x0 - 7) < 1e-6 && std::abs(copied.y1 - before.y1 - 5) < 1e-6);
    // Saved and read: the same letters, to the last bit.
    const Result<Document> back = read_job(write_job(job.document, bundled_faces()));
    QVERIFY2(back.ok(), back.ok() ? "" : back.error().text().c_str());
    QVERIFY(*back->find(job.guide) == *job.document.find(job.guide));
    QVERIFY(*back->find(job.lettering) == *job.document.find(job.lettering));
    QVERIFY(text_of(*back, job.lettering).ink == before);
  }

  void off_the_guide_a_lettering_is_back_in_its_straight_place() {
    Document d;
    Piece piece = new_lettering(d, U"Creek", {210, 130});
    const Added straight = add_piece(d, piece);
    const Box before = text_of(straight.document, straight.id).ink;
    const Added guide = add_piece(straight.document, new_circle({100, 100}, 60));
    const Document on = edit_piece(guide.document, straight.id, [&](Piece& p) {
      ride_on(*p.lettering(), guide.id, **evaluator().guide(guide.document, guide.id));
    });
    QVERIFY(!(text_of(on, straight.id).ink == before));
    const Document off = with_bend(on, straight.id, [](Bend& b) { b.kind = BendKind::Straight; });
    QVERIFY(text_of(off, straight.id).ink == before);
  }

  void an_older_job_reads_as_it_was() {
    // Saved by the version before guides had kinds.
    QFile file(QString(FRELM_SOURCE_DIR) + "/tests/document/version1-badge.frelm");
    QVERIFY(file.open(QIODevice::ReadOnly));
    const QByteArray bytes = file.readAll();
    QVERIFY(bytes.contains("\"version\": 1"));
    const Result<Document> job = read_job(bytes.toStdString());
    QVERIFY2(job.ok(), job.ok() ? "" : job.error().text().c_str());
    std::size_t circles = 0, riders = 0;
    for (const auto& p : job->pieces) {
      circles += p->guide() != nullptr && p->guide()->circle() != nullptr ? 1 : 0;
      riders += p->lettering() != nullptr && p->lettering()->recipe.bend.kind == BendKind::Guide ? 1 : 0;
      QVERIFY(evaluator().piece(*job, p->id, Depth::Finish).ok());
      if (p->lettering() != nullptr && p->lettering()->recipe.bend.kind == BendKind::Guide) {
        QCOMPARE(p->lettering()->recipe.bend.guide.by, AlongBy::Angle);
        QCOMPARE(p->lettering()->recipe.bend.stance, Stance::Turn);
      }
    }
    QVERIFY(circles > 0 && riders > 0);
  }

  // ---- the bead and catching
  void the_bead_slides_by_every_measure_and_is_caught_data() {
    QTest::addColumn<int>("by");
    QTest::addColumn<int>("anchor");
    for (const AlongBy by : {AlongBy::Angle, AlongBy::Distance, AlongBy::Percent})
      for (const Anchor a : {Anchor::CentredAt, Anchor::StartsAt, Anchor::EndsAt})
        QTest::addRow("%d-%d", static_cast<int>(by), static_cast<int>(a))
            << static_cast<int>(by) << static_cast<int>(a);
  }
  void the_bead_slides_by_every_measure_and_is_caught() {
    QFETCH(int, by);
    QFETCH(int, anchor);
    for (const GuideShape& shape :
         {GuideShape{CircleGuide{{0, 0}, 90, 33}}, GuideShape{FrameGuide{{0, 0}, 200, 120, 0, 0}}}) {
      const GuideJob job = job_on(shape, "Creek");
      const Document d = with_bend(job.document, job.lettering, [&](Bend& b) {
        b.guide.by = static_cast<AlongBy>(by), b.guide.anchor = static_cast<Anchor>(anchor);
      });
      for (const double s : {12.0, 130.0, 301.0}) {
        const Document slid = slide_bead(d, job.lettering, evaluator(), s);
        QCOMPARE(slid.find(job.lettering)->lettering()->recipe.bend.guide.by, static_cast<AlongBy>(by));
        QVERIFY(std::abs(bead_of(slid, job.lettering, evaluator())->s - s) < 1e-6);
      }
    }
    QVERIFY(!bead_of({}, 3, evaluator()).ok());
  }

  void beads_are_caught_where_a_hand_would_stop() {
    const auto names = [](const GuideShape& shape) {
      const GuideJob job = job_on(shape, "Creek");
      std::vector<std::string> out;
      for (const BeadCatch& c : bead_catches(job.document, job.lettering, evaluator()))
        out.push_back(c.name);
      return out;
    };
    const auto has = [](const std::vector<std::string>& list, const char* name) {
      return std::find(list.begin(), list.end(), name) != list.end();
    };
    QVERIFY(has(names(CircleGuide{}), "quarter"));
    QVERIFY(has(names(FrameGuide{}), "corner"));
    const auto open = names(PathGuide{wave()});
    QVERIFY(has(open, "middle") && has(open, "end") && has(open, "corner"));
    // The level place is level.
    const GuideJob job = job_on(PathGuide{parse_outline("M-160 40C-80 -60 60 -70 180 30")->contours[0]}, "Creek");
    const Result<BeadCatch> level = level_catch(job.document, job.lettering, evaluator());
    QVERIFY(level.ok());
    const Document there = slide_bead(job.document, job.lettering, evaluator(), level->s);
    QVERIFY(std::abs(*tilt_of(text_of(there, job.lettering))) < level_bound);
  }

  void hands_are_caught_by_what_is_drawn_data() {
    QTest::addColumn<double>("x");
    QTest::addColumn<double>("y");
    QTest::addColumn<int>("kind");
    QTest::newRow("corner") << 21.0 << 61.0 << static_cast<int>(CatchKind::Corner);
    QTest::newRow("node") << 120.5 << 99.0 << static_cast<int>(CatchKind::Node);
    QTest::newRow("edge") << 70.0 << 61.5 << static_cast<int>(CatchKind::Edge);
    QTest::newRow("centre") << 301.0 << 201.0 << static_cast<int>(CatchKind::Centre);
    QTest::newRow("sheet-edge") << 1.5 << 333.0 << static_cast<int>(CatchKind::SheetEdge);
    QTest::newRow("nothing") << 400.0 << 300.0 << -1;
  }
  void hands_are_caught_by_what_is_drawn() {
    QFETCH(double, x);
    QFETCH(double, y);
    QFETCH(int, kind);
    const Added shape = drawn({}, "M20 60H220C220 100 150 100 120 100S20 100 20 60Z");
    const Added ring = add_piece(shape.document, new_circle({300, 200}, 40));
    const auto caught = catch_at(ring.document, evaluator(), {x, y}, 3);
    QCOMPARE(caught ? static_cast<int>(caught->kind) : -1, kind);
    if (caught)
      QVERIFY(distance(caught->at, {x, y}) <= 3);
    if (kind >= 0 && kind != static_cast<int>(CatchKind::SheetEdge))
      QVERIFY(!catch_at(ring.document, evaluator(), {x, y}, 3, {.except = {shape.id, ring.id}}));
  }

  // ---- starters
  void the_badge_starter_fills_its_band_above_and_below() {
    const Starter badge = *add_badge({}, {U"SALTMARSH", U"BOATWORKS", {150, 150}, 70, 100, {"Lato", "Bold"}});
    std::vector<const Piece*> letterings;
    PieceId band = 0;
    for (const PieceId id : badge.pieces) {
      const Piece* p = badge.document.find(id);
      if (p->lettering() != nullptr)
        letterings.push_back(p);
      if (p->guide() != nullptr)
        band = id;
    }
    QCOMPARE(letterings.size(), std::size_t{2});
    for (const Piece* p : letterings) {
      const SeatedText t = text_of(badge.document, p->id);
      QVERIFY(find_collisions(t).empty());
      const bool lower = t.ink.centre().y > 150;
      QCOMPARE(p->lettering()->recipe.bend.guide.tops, lower ? Tops::Inward : Tops::Outward);
      for (const PlacedLetter& l : t.letters) { // both read upright, from left to right
        QVERIFY(std::cos(l.angle) > 0);
        for (const double y : {0.0, -t.spaced->set->cap_height}) {
          const double r = distance(l.place({l.advance / 2, y}), {150, 150});
          QVERIFY(r > 70 && r < 100);
        }
      }
    }
    // One control: the band wider, both texts follow.
    const Document wide =
        edit_piece(badge.document, band, [](Piece& p) { std::get<BandGuide>(p.guide()->shape).outer = 120; });
    for (const Piece* p : letterings)
      QVERIFY(text_of(wide, p->id).spaced->set->cap_height >
              text_of(badge.document, p->id).spaced->set->cap_height + 15);
  }

  void a_poem_gets_a_spiral_with_room_for_it() {
    const std::u32string poem = U"The tide comes in, the tide goes out,\nand boats go round the bay about,\nand what "
                                U"the water takes away\nit brings again another day";
    const Starter spiral = *add_spiral({}, {0, poem, {200, 200}, 24, 17, {"Lato", "Regular"}}, bundled_faces());
    for (const PieceId id : spiral.pieces)
      if (spiral.document.find(id)->lettering() != nullptr) {
        const SeatedText t = text_of(spiral.document, id);
        QCOMPARE(t.overflow, 0.0);
        QVERIFY(t.used_length > 0.7 * t.guide_length);
        QVERIFY(find_collisions(t).empty());
        QVERIFY(std::none_of(t.letters.begin(), t.letters.end(), [](const PlacedLetter& l) { return l.beyond; }));
      }
  }

  // ---- nodes and single letters
  void nodes_of_a_guide_are_edited_with_the_letters_following() {
    const GuideJob job = job_on(PathGuide{wave()}, "Creek");
    const Document d = edit_nodes(job.document, job.guide, [](Outline o) {
      return move_nodes(std::move(o), {{0, 1}}, {0, -30});
    });
    QVERIFY(!(text_of(d, job.lettering).ink == text_of(job.document, job.lettering).ink));
    // A circle becomes a pen curve with the same letters; a break leaves a second guide.
    const GuideJob ring = job_on(CircleGuide{{0, 0}, 90, 0}, "Creek");
    const Document pen = edit_nodes(ring.document, ring.guide, [](Outline o) {
      return move_nodes(std::move(o), {{0, 0}}, {0, 0.5});
    });
    QVERIFY(std::holds_alternative<PathGuide>(pen.find(ring.guide)->guide()->shape));
    const Document broken = edit_nodes(job.document, job.guide, [](Outline o) {
      return break_at(std::move(o), {0, 1});
    });
    QCOMPARE(broken.pieces.size(), std::size_t{3});
    QVERIFY(!broken.find(job.guide)->guide()->shape.valueless_by_exception());
    // Locked: nothing happens.
    const Document locked = edit_piece(job.document, job.guide, [](Piece& p) { p.locked = true; });
    QVERIFY(edit_nodes(locked, job.guide, [](Outline o) { return reverse_contour(std::move(o), 0); }) == locked);
  }

  void tweaks_are_set_replaced_and_put_back() {
    const GuideJob job = job_on(CircleGuide{}, "Creek");
    const std::uint64_t id = job.document.find(job.lettering)->lettering()->recipe.letters()->text[1].id;
    const auto tweaks = [&](const Document& d) { return d.find(job.lettering)->lettering()->recipe.tweaks; };
    Document d = set_tweak(job.document, job.lettering, {id, 12, 1.3, 0, 0});
    QCOMPARE(tweaks(d).size(), std::size_t{1});
    d = set_tweak(d, job.lettering, {id, 20, 1.3, 0, 0});
    QCOMPARE(tweaks(d)[0].turn, 20.0);
    // A job keeps them.
    QVERIFY(tweaks(*read_job(write_job(d, bundled_faces()))) == tweaks(d));
    QVERIFY(tweaks(set_tweak(d, job.lettering, {id, 0, 1, 0, 0})).empty());
  }

  void turning_the_tops_keeps_the_run_in_its_place() {
    GuideJob job = job_on(PathGuide{wave()}, "Creek");
    job.document = with_bend(job.document, job.lettering, [](Bend& b) { b.guide.percent = 30; });
    const Point before = text_of(job.document, job.lettering).ink.centre();
    const Document over =
        edit_piece(job.document, job.lettering, [](Piece& p) { turn_tops(*p.lettering(), Tops::Inward); });
    const Point after = text_of(over, job.lettering).ink.centre();
    QVERIFY2(distance(before, after) < 25, qPrintable(QString::number(distance(before, after))));
    const Piece* piece = over.find(job.lettering);
    QCOMPARE(piece->lettering()->recipe.bend.guide.tops, Tops::Inward);
    QVERIFY(text_of(over, job.lettering).letters[0].origin.x > text_of(over, job.lettering).letters[4].origin.x);
  }
};

QTEST_APPLESS_MAIN(TestGuides)
#include "test_guides.moc"
