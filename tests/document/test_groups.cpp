// Groups: what a click picks in them, what is one when pieces are placed, copied, written and read; and that any order
// of groupings, edits and their undoing leaves a valid document in which every group has pieces.
#include "document/arrange.h"
#include "document/copying.h"
#include "document/edits.h"
#include "document/job_file.h"
#include "document/piece_groups.h"
#include "document/place.h"
#include "document/release.h"
#include "document/validity.h"
#include "geom/path_data.h"
#include "support/fixtures.h"

#include <QTest>
#include <fmt/format.h>

using namespace frelm;
using namespace frelm::test;

namespace {

PieceId put_box(Document& d, double x, double y, double w = 20, double h = 10) {
  Piece p;
  p.content =
      OutlinePiece{std::make_shared<const Outline>(*parse_outline(fmt::format("M{} {}h{}v{}h{}z", x, y, w, h, -w))),
                   {},
                   nullptr,
                   {}};
  Added added = add_piece(std::move(d), std::move(p));
  d = std::move(added.document);
  return added.id;
}
GroupId group(Document& d, const std::vector<PieceId>& ids) {
  const Grouped made = *grouped(d, ids);
  d = made.document;
  return made.group;
}
using Ids = std::vector<PieceId>;

// a and b in a group, that with c in another; d by itself.
struct Nested {
  Document document;
  PieceId a, b, c, d;
  GroupId inner, outer;
  Nested() {
    a = put_box(document, 0, 0), b = put_box(document, 40, 0), c = put_box(document, 0, 40);
    d = put_box(document, 200, 200);
    inner = group(document, {a, b});
    outer = group(document, {a, b, c});
  }
};

std::set<GroupId> groups_with_pieces(const Document& d) {
  std::set<GroupId> out;
  for (const auto& p : d.pieces)
    for (const GroupId g : groups_around(d, p->id))
      out.insert(g);
  return out;
}

} // namespace

class TestGroups : public QObject {
  Q_OBJECT

private slots:
  void nested_groups_are_what_was_grouped() {
    const Nested n;
    QVERIFY(faults(n.document).empty());
    QCOMPARE(groups_around(n.document, n.a), (std::vector<GroupId>{n.inner, n.outer}));
    QCOMPARE(groups_around(n.document, n.c), std::vector<GroupId>{n.outer});
    QVERIFY(groups_around(n.document, n.d).empty());
    QCOMPARE(members_of(n.document, n.outer, Members::All), (Ids{n.a, n.b, n.c}));
    QCOMPARE(whole_group(n.document, {n.b, n.a}), n.inner);
    QCOMPARE(whole_group(n.document, {n.a, n.b, n.c}), n.outer);
    QCOMPARE(whole_group(n.document, {n.a, n.c}), GroupId{0});
    QCOMPARE(units_of(n.document, {n.a, n.b, n.c, n.d}).size(), std::size_t{2});
    QCOMPARE(parts_to_place(n.document, {n.a, n.b, n.c}).size(), std::size_t{2}); // the inner group and c
    QCOMPARE(parts_to_place(n.document, {n.a, n.b}).size(), std::size_t{2});      // its two pieces
  }

  void members_come_together_behind_the_frontmost() {
    Document d;
    const PieceId a = put_box(d, 0, 0), b = put_box(d, 30, 0), c = put_box(d, 60, 0), e = put_box(d, 90, 0);
    group(d, {a, c});
    Ids order;
    for (const auto& p : d.pieces)
      order.push_back(p->id);
    QCOMPARE(order, (Ids{b, a, c, e}));
  }

  void a_click_picks_from_the_outside_in() {
    const Nested n;
    const auto first = [&](const Ids& selection, PieceId hit) {
      return picked(n.document, selection, hit, Click::First);
    };
    const auto again = [&](const Ids& selection, PieceId hit) {
      return picked(n.document, selection, hit, Click::Again);
    };
    QCOMPARE(first({}, n.a), (Ids{n.a, n.b, n.c}));
    QCOMPARE(first({n.d}, n.b), (Ids{n.a, n.b, n.c}));
    QCOMPARE(first({n.a}, n.d), Ids{n.d});
    QCOMPARE(again({n.a, n.b, n.c}, n.a), (Ids{n.a, n.b}));
    QCOMPARE(again({n.a, n.b, n.c}, n.c), Ids{n.c});
    QCOMPARE(again({n.a, n.b}, n.b), Ids{n.b});
    QCOMPARE(again({n.b}, n.b), Ids{n.b});
    // Inside a group the others in it are next, and what lies in another group is reached through that.
    QCOMPARE(first({n.a}, n.b), Ids{n.b});
    QCOMPARE(first({n.a}, n.c), Ids{n.c});
    QCOMPARE(first({n.c}, n.a), (Ids{n.a, n.b}));
    // And out again.
    QCOMPARE(one_level_out(n.document, {n.a}), (Ids{n.a, n.b}));
    QCOMPARE(one_level_out(n.document, {n.a, n.b}), (Ids{n.a, n.b, n.c}));
    QVERIFY(one_level_out(n.document, {n.a, n.b, n.c}).empty());
    QVERIFY(one_level_out(n.document, {n.d}).empty() && one_level_out(n.document, {}).empty());
  }

  void what_is_hidden_or_locked_is_not_reached() {
    Nested n;
    n.document = edit_piece(n.document, n.b, [](Piece& p) { p.locked = true; });
    QCOMPARE(picked(n.document, {}, n.a, Click::First), (Ids{n.a, n.c}));
    QCOMPARE(whole_group(n.document, {n.a, n.c}), n.outer);
    // One that is locked as a whole is still one.
    n.document = edit_piece(n.document, n.a, [](Piece& p) { p.locked = true; });
    QCOMPARE(whole_group(n.document, {n.a, n.b}), n.inner);
    QCOMPARE(whole_group(n.document, {n.a}), GroupId{0});
  }

  void boxes_take_groups_whole_or_not_at_all() {
    const Nested n;
    QCOMPARE(by_whole_groups(n.document, {n.a, n.d}, TornGroups::Left), Ids{n.d});
    QCOMPARE(by_whole_groups(n.document, {n.a, n.d}, TornGroups::Taken), (Ids{n.d, n.a, n.b, n.c}));
    QCOMPARE(by_whole_groups(n.document, {n.a, n.b, n.c}, TornGroups::Left), (Ids{n.a, n.b, n.c}));
  }

  void ungrouping_goes_one_level_and_regrouping_comes_back() {
    Nested n;
    const Document once = *ungrouped(n.document, {n.a, n.b, n.c});
    QCOMPARE(groups_around(once, n.a), std::vector<GroupId>{n.inner});
    QVERIFY(groups_around(once, n.c).empty());
    const Document twice = *ungrouped(once, {n.a, n.b});
    QVERIFY(twice.groups.empty());
    QVERIFY(!ungrouped(twice, {n.a, n.b}).ok());
    QVERIFY(!grouped(n.document, {n.a, n.b, n.c}).ok()); // one group already
    QVERIFY(!grouped(n.document, {n.d}).ok());
    // Inside a group a new one stands in it.
    const Grouped inside = *grouped(n.document, {n.a, n.c});
    QCOMPARE(groups_around(inside.document, n.a), (std::vector<GroupId>{inside.group, n.outer}));
    QVERIFY(faults(inside.document).empty());
  }

  void put_into_and_never_into_itself() {
    const Nested n;
    const Document in = put_into(n.document, {n.d}, n.inner);
    QCOMPARE(groups_around(in, n.d), (std::vector<GroupId>{n.inner, n.outer}));
    const Document moved = put_into(n.document, {n.a, n.b}, 0);
    QCOMPARE(groups_around(moved, n.a), std::vector<GroupId>{n.inner});
    QVERIFY(put_into(n.document, {n.a, n.b, n.c}, n.inner) == n.document);
    // The last piece takes its group with it.
    const Document out = put_into(put_into(n.document, {n.a}, 0), {n.b}, 0);
    QVERIFY(group_of(out, n.inner) == nullptr && group_of(out, n.outer) != nullptr);
  }

  void placed_as_one() {
    Nested n;
    const Box was = [&] {
      Box box;
      for (const PieceId id : {n.a, n.b, n.c})
        box.add(n.document.find(id)->outline()->outline->bounds());
      return box;
    }();
    const auto left = [](const Document& d, PieceId id) { return d.find(id)->outline()->outline->bounds().x0; };
    const Document d =
        *lined_up(n.document, {n.a, n.b, n.c, n.d}, LineUp::Right, {PlaceBy::Ink, PlaceTo::Last}, evaluator());
    QCOMPARE(left(d, n.b) - left(d, n.a), 40.0);
    QCOMPARE(left(d, n.b) + 20, 220.0);
    const Document wide = *as_large(n.document, {n.a, n.b, n.c, n.d}, AsLarge::Width, evaluator());
    QVERIFY(std::abs(left(wide, n.b) - left(wide, n.a) - 40 * (20 / was.width())) < 1e-9);
  }

  void copied_with_new_groups_and_deleted_with_none() {
    const Nested n;
    const Inserted copy = duplicate_pieces(n.document, {n.a, n.b, n.c}, {5, 5});
    QVERIFY(faults(copy.document).empty());
    QCOMPARE(copy.document.groups.size(), std::size_t{4});
    const std::vector<GroupId> around = groups_around(copy.document, copy.ids[0]);
    QCOMPARE(around.size(), std::size_t{2});
    QVERIFY(around[0] != n.inner && around[1] != n.outer);
    QCOMPARE(groups_around(copy.document, n.a), (std::vector<GroupId>{n.inner, n.outer}));
    // A part of a group stays in it, in the same job; in another it gets one of its own.
    const Inserted part = duplicate_pieces(n.document, {n.a}, {5, 5});
    QCOMPARE(groups_around(part.document, part.ids[0]), (std::vector<GroupId>{n.inner, n.outer}));
    Document other;
    put_box(other, 0, 0);
    const Inserted pasted =
        insert_part(other, sub_document(n.document, {n.a, n.c}, CopyGuides::Along), CopyInto::OtherJob, {});
    QVERIFY(faults(pasted.document).empty());
    QCOMPARE(whole_group(pasted.document, pasted.ids), groups_around(pasted.document, pasted.ids[1]).back());
    // Deleting a group's pieces takes it away.
    const Document less = remove_pieces(n.document, {n.a, n.b}).document;
    QVERIFY(group_of(less, n.inner) == nullptr && group_of(less, n.outer) != nullptr);
    QVERIFY(remove_pieces(less, {n.c}).document.groups.empty());
  }

  void released_and_reopened_in_its_group() {
    CircleJob job = circle_job("TIDE");
    Document d = job.document;
    const PieceId box = put_box(d, 0, 0);
    const GroupId g = group(d, {job.lettering, box});
    const Released out = *release(d, job.lettering, evaluator(), ReleaseAs::ByLetter, GuideAfter::Gone);
    for (const PieceId id : out.pieces)
      QCOMPARE(groups_around(out.document, id), std::vector<GroupId>{g});
    const Document free = *ungrouped(out.document, members_of(out.document, g, Members::All));
    QVERIFY(groups_around(reopen(free, out.pieces[0])->document, reopen(free, out.pieces[0])->lettering).empty());
    QCOMPARE(groups_around(reopen(out.document, out.pieces[0])->document, job.lettering), std::vector<GroupId>{g});
  }

  void written_and_read_with_what_can_not_be_left_out() {
    Nested n;
    n.document = with_group_name(n.document, n.outer, "Näme → ✂");
    QVERIFY(*read_job(write_job(n.document, bundled_faces())) == n.document);
    Document wrong = n.document;
    wrong.groups[0].inside = wrong.groups[1].id, wrong.groups[1].inside = wrong.groups[0].id;
    QVERIFY(!faults(wrong).empty());
    // A circle in a file: the pieces are all there.
    std::string text = write_job(n.document, bundled_faces());
    const std::string inside = fmt::format("\"inside\": 0", n.outer);
    const std::size_t at = text.find(inside);
    QVERIFY(at != std::string::npos);
    text.replace(at, inside.size(), fmt::format("\"inside\": {}", n.inner));
    const ReadJob read = *read_what_can_be_read(text);
    QCOMPARE(read.document.pieces.size(), n.document.pieces.size());
    QVERIFY(!read.lost.empty() && faults(read.document).empty());
  }

  void any_order_of_groupings() {
    auto random = random_source(11);
    for (int run = 0; run < 60; ++run) {
      Document d;
      for (int i = 0; i < 8; ++i)
        put_box(d, uniform(random, 0, 400), uniform(random, 0, 300));
      for (int step = 0; step < 40; ++step) {
        Ids some;
        for (const auto& p : d.pieces)
          if (random() % 3 == 0)
            some.push_back(p->id);
        const Document before = d;
        switch (random() % 7) {
        case 0:
        case 1:
        case 2:
          if (Result<Grouped> made = grouped(d, some))
            d = made->document;
          break;
        case 3:
          if (Result<Document> made = ungrouped(d, some))
            d = *made;
          break;
        case 4:
          d = put_into(d, some, d.groups.empty() ? 0 : d.groups[random() % d.groups.size()].id);
          break;
        case 5:
          if (d.pieces.size() < 40)
            d = duplicate_pieces(d, some, {1, 1}).document;
          break;
        default:
          if (some.size() < d.pieces.size() / 2)
            d = remove_pieces(d, some).document;
        }
        const std::vector<Fault> bad = faults(d);
        QVERIFY2(bad.empty(), bad.empty() ? "" : bad[0].text().c_str());
        QCOMPARE(groups_with_pieces(d).size(), d.groups.size());
        QVERIFY(*read_job(write_job(d, bundled_faces())) == d);
        // Every click picks something that holds what was hit, and in a few clicks the piece itself.
        for (const auto& p : d.pieces) {
          Ids now = picked(d, {}, p->id, Click::First);
          for (std::size_t i = 0; i <= d.groups.size() && now != Ids{p->id}; ++i) {
            QVERIFY(std::find(now.begin(), now.end(), p->id) != now.end());
            now = picked(d, now, p->id, Click::Again);
          }
          QCOMPARE(now, Ids{p->id});
        }
      }
    }
  }

  void stacked_as_one() {
    Document d;
    Ids ids;
    for (int i = 0; i < 6; ++i)
      ids.push_back(put_box(d, 10.0 * i, 0));
    const auto order = [](const Document& of) {
      Ids out;
      for (const auto& p : of.pieces)
        out.push_back(p->id);
      return out;
    };
    const Ids two{ids[1], ids[3]};
    QCOMPARE(order(stacked(d, two, Stacking::Front)), (Ids{ids[0], ids[2], ids[4], ids[5], ids[1], ids[3]}));
    QCOMPARE(order(stacked(d, two, Stacking::Back)), (Ids{ids[1], ids[3], ids[0], ids[2], ids[4], ids[5]}));
    QCOMPARE(order(stacked(d, two, Stacking::Forward)), (Ids{ids[0], ids[2], ids[4], ids[1], ids[3], ids[5]}));
    QCOMPARE(order(stacked(d, two, Stacking::Backward)), (Ids{ids[1], ids[3], ids[0], ids[2], ids[4], ids[5]}));
    QCOMPARE(order(stacked(d, {ids[5]}, Stacking::Forward)), order(d));
    QCOMPARE(order(stacked(d, ids, Stacking::Back)), order(d));
    QCOMPARE(order(stacked_on(d, {ids[0]}, ids[2])), (Ids{ids[1], ids[2], ids[0], ids[3], ids[4], ids[5]}));
  }
};

QTEST_APPLESS_MAIN(TestGroups)
#include "test_groups.moc"
