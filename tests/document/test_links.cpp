// Linked copies: changed in one, changed in all; each keeps its own place, turn and size; whatever is done at random,
// they stay equal under the inverses of their poses.
#include "document/copies.h"
#include "document/copying.h"
#include "document/job_file.h"
#include "document/links.h"
#include "document/outline_edits.h"
#include "document/resize.h"
#include "document/validity.h"
#include "geom/nodes.h"
#include "geom/path_data.h"
#include "support/compare.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

PieceId put(Document& d, Piece piece) {
  Added added = add_piece(std::move(d), std::move(piece));
  d = std::move(added.document);
  return added.id;
}
PieceId put_box(Document& d, double x, double y, double w, double h) {
  Piece p;
  p.content =
      OutlinePiece{std::make_shared<const Outline>(*parse_outline(fmt::format("M{} {}h{}v{}h{}z", x, y, w, h, -w))),
                   {},
                   nullptr,
                   {}};
  return put(d, std::move(p));
}
PieceId put_words(Document& d, const std::string& words, Point at, double size = 20) {
  Piece p;
  Lettering l;
  l.recipe.source = letters_of(words, {"Cabin", "Bold"}, size);
  l.placement.at = at;
  p.content = std::move(l);
  return put(d, std::move(p));
}
// As the session does it.
Document edited(const Document& d, Document after) {
  return followed_links(d, std::move(after));
}
Document changed_piece(const Document& d, PieceId id, const std::function<void(Piece&)>& change) {
  return edited(d, edit_piece(d, id, change));
}

// The farthest that a node or a handle of one lies from all of the other's: a mirrored outline runs the other way.
double apart(const Outline& a, const Outline& b) {
  const auto points = [](const Outline& o) {
    std::vector<Point> out;
    for (const Contour& c : o.contours)
      for (const Segment& s : c.segments)
        out.insert(out.end(), {s.p0, s.p1, s.p2, s.p3});
    return out;
  };
  const std::vector<Point> all[]{points(a), points(b)};
  double out = 0;
  for (const int i : {0, 1})
    for (const Point p : all[i]) {
      double nearest = 1e9;
      for (const Point q : all[1 - i])
        nearest = std::min(nearest, distance(p, q));
      out = std::max(out, nearest);
    }
  return out;
}

Outline in_own_frame(const Document& d, PieceId id) {
  const Piece& p = *d.find(id);
  return seated_outline(*evaluator().piece(d, id, Depth::Seat)).transformed(p.link->pose.inverse());
}
// How far apart copies are, mm in their own frame; a reason where they can't be compared.
QString unequal(const Document& d) {
  std::map<std::uint64_t, std::vector<const Piece*>> of;
  for (const auto& p : d.pieces)
    if (p->link)
      of[p->link->of].push_back(p.get());
  for (const auto& [thing, all] : of) {
    if (all.size() < 2)
      return "a link with one copy";
    for (const Piece* p : all) {
      if (p->colour != all[0]->colour || p->destination != all[0]->destination)
        return "colours or destinations";
      if (p->content.index() != all[0]->content.index())
        return "kinds";
      const Result<PieceResult> now = evaluator().piece(d, p->id, Depth::Seat);
      const Result<PieceResult> first = evaluator().piece(d, all[0]->id, Depth::Seat);
      if (now.ok() != first.ok())
        return "one can be set, another can't";
      if (!now)
        continue;
      if (p->lettering() != nullptr && p->lettering()->recipe.bend.rides())
        continue; // stands by its guide's pose, not its own: compared by that in a test of its own
      const Outline a = in_own_frame(d, p->id), b = in_own_frame(d, all[0]->id);
      if (a.node_count() != b.node_count())
        return "nodes";
      const double size = std::max(1.0, std::max(b.bounds().width(), b.bounds().height()));
      for (std::size_t c = 0; c < a.contours.size(); ++c)
        if (a.contours[c].segments.size() != b.contours[c].segments.size())
          return "contours";
      const double off = apart(a, b);
      if (off > 1e-6 * size)
        return QString("%1 mm apart").arg(off);
    }
  }
  return {};
}

} // namespace

class TestLinks : public QObject {
  Q_OBJECT

private slots:
  void copies_in_order_are_linked_data() {
    QTest::addColumn<CopyOrder>("order");
    QTest::newRow("step") << CopyOrder{StepCopies{3, {90, 10}, 30}};
    QTest::newRow("rows") << CopyOrder{GridCopies{2, 3, {5, 5}}};
    QTest::newRow("around") << CopyOrder{RingCopies{5, 360, false, false}};
  }
  void copies_in_order_are_linked() {
    QFETCH(CopyOrder, order);
    Document d;
    const PieceId box = put_box(d, 100, 100, 30, 20), words = put_words(d, "Hull", {115, 150});
    const auto made = copied(d, {box, words}, order, evaluator(), CopyAs::Linked);
    QVERIFY(made.ok() && faults(made->document).empty());
    QVERIFY(made->ids.size() > 5);
    QCOMPARE(unequal(made->document), QString());
    QCOMPARE(copies_of(made->document, *made->document.find(box)), made->ids.size() / 2);
    QCOMPARE(linked_with(made->document, {box}).size(), made->ids.size() / 2);
    // Words, colour, a node: in one, in all.
    const PieceId one = made->ids[2], other = made->ids[3]; // of the first copy: box, words
    QVERIFY(made->document.find(one)->outline() != nullptr);
    Document now = changed_piece(made->document, other, [](Piece& p) {
      p.lettering()->recipe.letters()->text = letters_of("Keel").text;
      p.colour = {10, 20, 30};
    });
    now = changed_piece(now, one, [](Piece& p) {
      p.outline()->outline = std::make_shared<const Outline>(move_nodes(*p.outline()->outline, {{0, 1}}, {4, 3}));
    });
    QVERIFY(faults(now).empty());
    QCOMPARE(unequal(now), QString());
    QCOMPARE(plain_text(now.find(words)->lettering()->recipe.letters()->text), U"Keel");
    QCOMPARE(now.find(words)->colour, (Colour{10, 20, 30}));
    QVERIFY(*now.find(box)->outline()->outline != *d.find(box)->outline()->outline);
    // Their places are their own.
    for (const PieceId id : made->ids)
      QCOMPARE(now.find(id)->link->pose, made->document.find(id)->link->pose);
    const Document moved = edited(now, move_pieces(now, {one}, {7, 0}));
    QCOMPARE(*moved.find(box), *now.find(box));
    QCOMPARE(unequal(moved), QString());
    // Written and read.
    const Result<Document> read = read_job(write_job(moved, bundled_faces()));
    QVERIFY(read.ok() && *read == moved);
  }

  void on_guides_of_their_own() {
    const CircleJob job = circle_job("Tide", 60);
    const auto made = copied(job.document, {job.lettering}, StepCopies{2, {150, 0}, 40}, evaluator(), CopyAs::Linked);
    QVERIFY(made.ok() && made->document.pieces.size() == 6);
    const PieceId copy = made->ids[1];
    const auto guide_of_copy = [&](const Document& d, PieceId id) {
      return d.find(d.find(id)->lettering()->recipe.bend.guide.guide);
    };
    // The letters against their circle, turned back by its pose.
    const auto laid = [&](const Document& d, PieceId id) {
      const Affine back = guide_of_copy(d, id)->link->pose.inverse();
      return seated_outline(*evaluator().piece(d, id, Depth::Seat)).transformed(back);
    };
    const auto alike = [&](const Document& d) {
      for (const PieceId id : made->ids)
        if (apart(laid(d, id), laid(d, job.lettering)) > 1e-6)
          return false;
      return true;
    };
    QVERIFY(alike(made->document));
    // Larger circle, another place on it, other words; each through another copy.
    Document d = changed_piece(made->document, guide_of_copy(made->document, copy)->id,
                               [](Piece& p) { std::get<CircleGuide>(p.guide()->shape).radius = 77; });
    QVERIFY(faults(d).empty() && alike(d));
    QCOMPARE(d.find(job.guide)->guide()->circle()->radius, 77.0);
    d = changed_piece(d, made->ids[2], [](Piece& p) { p.lettering()->recipe.bend.guide.angle += 30; });
    QVERIFY(alike(d));
    d = edited(d, turn_pieces(d, {copy}, {0, 0}, 25)); // turned is its own
    QVERIFY(alike(d));
    d = changed_piece(d, job.lettering,
                      [](Piece& p) { p.lettering()->recipe.letters()->text = letters_of("Ebb").text; });
    QVERIFY(alike(d));
    // One is put on another guide: the others get one too.
    Added star = add_piece(d, new_guide(EllipseGuide{{300, 300}, 90, 40, 0, 0, 360}));
    const Document on_ellipse = changed_piece(star.document, job.lettering,
                                              [&](Piece& p) { p.lettering()->recipe.bend.guide.guide = star.id; });
    QVERIFY(faults(on_ellipse).empty());
    QCOMPARE(on_ellipse.pieces.size(), d.pieces.size() + 3);
    QVERIFY(guide_of_copy(on_ellipse, copy)->id != star.id);
    QVERIFY(std::holds_alternative<EllipseGuide>(guide_of_copy(on_ellipse, copy)->guide()->shape));
    // A circle moved by its typed centre moves alone.
    const Document shifted = changed_piece(d, job.guide, [](Piece& p) {
      std::get<CircleGuide>(p.guide()->shape).centre += Vec{9, 5};
    });
    QCOMPARE(*guide_of_copy(shifted, copy), *guide_of_copy(d, copy));
    QVERIFY(alike(shifted));
  }

  // Taken off their circles each stands where its own circle is, also after that was moved, by the hand or by its
  // centre.
  void set_straight_about_circles_of_their_own() {
    const CircleJob job = circle_job("Tide", 60);
    const auto made = copied(job.document, {job.lettering}, StepCopies{2, {150, 0}, 0}, evaluator(), CopyAs::Linked);
    const auto circle = [&](const Document& d, PieceId id) {
      return d.find(d.find(id)->lettering()->recipe.bend.guide.guide);
    };
    Document d = edited(made->document, move_pieces(made->document, {made->ids[1]}, {7, 120}));
    d = changed_piece(d, circle(d, made->ids[2])->id, [](Piece& p) {
      std::get<CircleGuide>(p.guide()->shape).centre += Vec{-31, 88};
    });
    d = edited(d, straighten(d, {job.lettering},
                             [&](PieceId id) { return evaluator().piece(d, id, Depth::Seat)->ink.centre(); }));
    QVERIFY(faults(d).empty());
    const auto off = [&](PieceId id) {
      return evaluator().piece(d, id, Depth::Seat)->ink.centre() - circle(d, id)->guide()->circle()->centre;
    };
    for (const PieceId id : made->ids) {
      QCOMPARE(d.find(id)->lettering()->recipe.bend.kind, BendKind::Straight);
      QVERIFY2(length(off(id) - off(job.lettering)) < 1e-6, qPrintable(QString("%1 %2").arg(off(id).x).arg(off(id).y)));
    }
    QCOMPARE(unequal(d), QString());
  }

  void sizes_are_their_own() {
    Document d;
    const PieceId words = put_words(d, "Hull", {100, 100});
    const auto made = copied(d, {words}, StepCopies{1, {0, 60}, 0}, evaluator(), CopyAs::Linked);
    const PieceId copy = made->ids[1];
    Document now = edited(made->document, scale_piece(made->document, copy, {100, 160}, 2, GuideScaling::Along));
    QCOMPARE(now.find(words)->lettering()->recipe.letters()->size, 20.0);
    QCOMPARE(unequal(now), QString());
    // Another size typed is the letters': the copy's is twice as large.
    now = changed_piece(now, words, [](Piece& p) { p.lettering()->recipe.letters()->size = 30; });
    QVERIFY(std::abs(now.find(copy)->lettering()->recipe.letters()->size - 60) < 1e-9);
    QCOMPARE(unequal(now), QString());
    // Spread, which also moves it to keep its middle.
    const auto wide = with_spread_width(now, words, 150, evaluator());
    QVERIFY(wide.ok());
    now = edited(now, *wide);
    QVERIFY(std::abs(evaluator().piece(now, copy, Depth::Seat)->ink.width() - 300) < 1e-6);
    QCOMPARE(unequal(now), QString());
  }

  void mirrored_outlines() {
    Document d;
    const PieceId box = put_box(d, 100, 100, 30, 20);
    const auto made = copied(d, {box}, StepCopies{1, {60, 0}, 0}, evaluator(), CopyAs::Linked);
    Document now =
        edited(made->document, mirror_outlines(made->document, {made->ids[1]}, {175, 110}, MirrorWay::Across));
    now = changed_piece(now, box, [](Piece& p) {
      p.outline()->outline = std::make_shared<const Outline>(move_nodes(*p.outline()->outline, {{0, 0}}, {-5, 0}));
    });
    QVERIFY(faults(now).empty());
    QCOMPARE(now.find(made->ids[1])->outline()->outline->bounds().x1, 195.0); // its mirror image grew to the right
    QVERIFY(now.find(made->ids[1])->outline()->outline->area() > 0);
    QCOMPARE(unequal(now), QString());
  }

  void freed_deleted_copied_and_of_another_kind() {
    const CircleJob job = circle_job("Tide", 60);
    const auto made = copied(job.document, {job.lettering}, StepCopies{2, {150, 0}, 0}, evaluator(), CopyAs::Linked);
    const Document freed = freed_links(made->document, {made->ids[1]});
    QVERIFY(!freed.find(made->ids[1])->link && freed.find(made->ids[2])->link);
    QVERIFY(!freed.find(freed.find(made->ids[1])->lettering()->recipe.bend.guide.guide)->link); // its guide too
    const Document ebb = changed_piece(
        freed, job.lettering, [](Piece& p) { p.lettering()->recipe.letters()->text = letters_of("Ebb").text; });
    QCOMPARE(*ebb.find(made->ids[1]), *freed.find(made->ids[1]));
    QCOMPARE(plain_text(ebb.find(made->ids[2])->lettering()->recipe.letters()->text), U"Ebb");
    // The last one of its kind is none.
    Document one = edited(ebb, remove_pieces(ebb, {made->ids[2]}).document);
    one = edited(one, freed_links(one, {job.lettering}));
    for (const auto& p : one.pieces)
      QVERIFY(!p->link || copies_of(one, *p) > 1);
    // A plain copy is free, in this job and in another.
    const Inserted copy = duplicate_pieces(made->document, {job.lettering}, {5, 5});
    QVERIFY(!copy.document.find(copy.ids[0])->link);
    const Document part = sub_document(made->document, {job.lettering}, CopyGuides::Along);
    for (const auto& p : insert_part({}, part, CopyInto::OtherJob, {}).document.pieces)
      QVERIFY(!p->link);
    // What becomes something else goes its own way.
    const Document outline = changed_piece(made->document, made->ids[2], [](Piece& p) {
      p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline("M0 0h9v9z")), {}, nullptr, {}};
    });
    QVERIFY(!outline.find(made->ids[2])->link && outline.find(job.lettering)->link);
    QVERIFY(faults(outline).empty());
  }

  void thousands_follow() {
    Document d;
    const PieceId box = put_box(d, 0, 0, 9, 9);
    const std::size_t n = sanitized ? 300 : 4000;
    const auto made = copied(d, {box}, StepCopies{n, {0.1, 0.1}, 0.05}, evaluator(), CopyAs::Linked);
    QVERIFY(made.ok() && made->ids.size() == n + 1);
    const Document all = changed_piece(made->document, made->ids[n / 2], [](Piece& p) {
      p.outline()->outline = std::make_shared<const Outline>(move_nodes(*p.outline()->outline, {{0, 1}}, {4, 3}));
      p.colour = {1, 2, 3};
    });
    const Outline model = in_own_frame(all, made->ids[n / 2]);
    for (const PieceId id : made->ids) {
      QCOMPARE(all.find(id)->colour, (Colour{1, 2, 3}));
      QVERIFY(apart(in_own_frame(all, id), model) < 1e-9);
    }
    QVERIFY(faults(all).empty());
    QCOMPARE(linked_with(all, {box}).size(), n + 1);
  }

  void faults_of_links() {
    Document d;
    const PieceId box = put_box(d, 0, 0, 9, 9);
    const auto with = [&](const Link& link) { return faults(edit_piece(d, box, [&](Piece& p) { p.link = link; })); };
    d.next_id = 50;
    QVERIFY(with({3, 4, Affine::rotation(1) * Affine::scaling(2, 2)}).empty());
    QVERIFY(with({3, 4, Affine::scaling(-2, 2)}).empty()); // outlines may be turned over
    QVERIFY(!with({3, 4, Affine::scaling(1, 2)}).empty());
    QVERIFY(!with({3, 4, Affine::scaling(0, 0)}).empty());
    QVERIFY(!with({0, 4, {}}).empty() && !with({3, 99, {}}).empty());
  }

  // Any edit of any copy, thousands of times; undone by values they are what they were.
  void stay_equal_whatever_is_done() {
    const int runs = sanitized ? 3 : 12, steps = 60;
    for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(runs); ++seed) {
      auto random = random_source(seed);
      const auto u = [&](double a, double b) { return uniform(random, a, b); };
      Document d;
      const PieceId box = put_box(d, 100, 100, 30, 20), words = put_words(d, "Hull", {115, 150});
      Document at =
          copied(d, {box, words}, StepCopies{3, {u(40, 90), u(-20, 20)}, u(-90, 90)}, evaluator(), CopyAs::Linked)
              ->document;
      for (int step = 0; step < steps; ++step) {
        if (at.pieces.empty())
          break;
        const PieceId id = at.pieces[random() % at.pieces.size()]->id;
        Document next = at;
        switch (random() % 9) {
        case 0:
          next = move_pieces(at, {id}, {u(-50, 50), u(-50, 50)});
          break;
        case 1:
          next = turn_pieces(at, {id}, {u(0, 400), u(0, 300)}, u(-180, 180));
          break;
        case 2:
          next = scale_pieces(at, {id}, {u(0, 400), u(0, 300)}, u(0.7, 1.4));
          break;
        case 3:
          next = mirror_outlines(at, {id}, {u(0, 400), u(0, 300)}, MirrorWay::Down);
          break;
        case 4:
          next = edit_piece(at, id, [&](Piece& p) { p.colour.r = static_cast<std::uint8_t>(random() % 256); });
          break;
        case 5:
          next = edit_piece(at, id, [&](Piece& p) {
            if (Lettering* l = p.lettering()) {
              l->recipe.letters()->size *= u(0.8, 1.25);
              l->recipe.spacing.letter = u(-0.5, 2);
            } else if (OutlinePiece* o = p.outline()) {
              o->outline =
                  std::make_shared<const Outline>(move_nodes(*o->outline, {{0, random() % 4}}, {u(-3, 3), u(-3, 3)}));
            }
          });
          break;
        case 6:
          next = edit_piece(at, id, [&](Piece& p) {
            if (Lettering* l = p.lettering())
              l->placement = {{u(0, 400), u(0, 300)}, u(-180, 180)};
            p.name = "mine";
          });
          break;
        case 7:
          if (random() % 5 == 0)
            next = remove_pieces(at, {id}).document;
          break;
        case 8:
          if (random() % 8 == 0)
            next = freed_links(at, {id});
          break;
        }
        next = edited(at, std::move(next));
        QVERIFY2(faults(next).empty(), qPrintable(QString("seed %1 step %2: %3")
                                                      .arg(seed)
                                                      .arg(step)
                                                      .arg(QString::fromStdString(describe(next, faults(next))))));
        const QString off = unequal(next);
        QVERIFY2(off.isEmpty(), qPrintable(QString("seed %1 step %2: %3").arg(seed).arg(step).arg(off)));
        at = std::move(next);
      }
    }
  }
};

QTEST_APPLESS_MAIN(TestLinks)
#include "test_links.moc"
