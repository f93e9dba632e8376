// What holds a cut together, in the real window: ties and stencil bridges, found and by hand, the parts of each sheet,
// a word tied into a frame, findings set aside.
#include "app/cards/tie_in_card.h"
#include "app/check/parts_list.h"
#include "app/menus/add_menu.h"
#include "cutting/sheet_parts.h"
#include "document/job_file.h"
#include "geom/path_data.h"
#include "window_fixture.h"

using namespace frelm;
using namespace frelm::test;

namespace {

struct OnePieceBench : WindowFixture {
  PieceId put(const std::string& path) {
    Piece p;
    p.content = OutlinePiece{std::make_shared<const Outline>(*parse_outline(path)), Finish{{}}, nullptr, {}};
    Added added = add_piece(document(), std::move(p));
    session().apply("Add", std::move(added.document));
    settle();
    return added.id;
  }
  void word(const QString& text, const FaceName& face) {
    letter_it(window.desk(), text);
    settle();
    session().edit("face", selected().id, [&](Piece& p) { p.lettering()->recipe.letters()->face = face; });
    settle();
    QTest::keyClick(&window, Qt::Key_4, Qt::AltModifier); // the Finish card
  }
  void step(const QString& id) {
    window.commands().action("outline." + id)->trigger();
    settle();
  }
  const TieStep& ties() {
    for (const FinishStep& s : selected().finish()->steps)
      if (const auto* t = std::get_if<TieStep>(&s.what))
        return *t;
    qFatal("no ties");
  }
  std::size_t parts() { return sheet_parts(document(), session().evaluator())->front().parts.size(); }
  std::size_t counters() { return sheet_parts(document(), session().evaluator())->front().counters.size(); }
  std::vector<Handle> tie_handles() { // near enough to be dragged by a little
    window.canvas().zoom_to(session().selection_ink().grown(5));
    settle();
    std::vector<Handle> out;
    for (const Handle& h : handles_of(session(), 1 / window.canvas().px_per_mm()))
      if (h.kind == HandleKind::Tie)
        out.push_back(h);
    return out;
  }
  template <class W> W* with_text(const QString& text) {
    for (W* w : window.findChildren<W*>())
      if (w->text() == text && w->isVisible())
        return w;
    return nullptr;
  }
};

} // namespace

class TestOnePiece : public QObject {
  Q_OBJECT

private slots:
  void loose_dots_are_tied_and_a_tie_is_moved() {
    OnePieceBench f;
    f.word("jib", {"Lato", "Bold"});
    QCOMPARE(f.parts(), std::size_t{5});
    f.step("add.ties");
    QCOMPARE(f.parts(), std::size_t{1});
    f.type_measure("Width of the ties", "2");
    QCOMPARE(f.ties().form.width, 2.0);
    QCOMPARE(f.parts(), std::size_t{1});
    const std::vector<Handle> found = f.tie_handles();
    QCOMPARE(found.size(), std::size_t{4});
    // Dragged it is one by hand; the rest are found as before. Escape leaves it where it was.
    f.press_and_move(found[0].at, found[0].at + Vec{1.5, 0});
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px(found[0].at));
    QVERIFY(f.ties().by_hand.empty());
    f.drag(found[0].at, found[0].at + Vec{1.5, 1.5}, Qt::ControlModifier);
    QCOMPARE(f.ties().by_hand.size(), std::size_t{1});
    QCOMPARE(f.parts(), std::size_t{1});
    // Saved and read it is the same; another text, and they follow.
    QVERIFY(*read_job(write_job(f.document(), bundled_faces())) == f.document());
    auto* anew = f.with_text<QPushButton>("Place all anew");
    QVERIFY(anew != nullptr);
    QTest::mouseClick(anew, Qt::LeftButton);
    QVERIFY(f.ties().by_hand.empty());
    f.session().undo();
    QCOMPARE(f.ties().by_hand.size(), std::size_t{1});
  }

  void ties_are_drawn_from_edge_to_edge() {
    OnePieceBench f;
    f.put("M100 100h20v80h-20zM140 100h20v80h-20z");
    f.session().select({f.document().pieces[0]->id});
    QCOMPARE(f.parts(), std::size_t{2});
    f.step("draw-ties");
    f.drag({121, 110}, {139, 110}, Qt::ControlModifier);
    f.settle();
    QCOMPARE(f.ties().by_hand.size(), std::size_t{1});
    QVERIFY(!f.ties().all);
    QCOMPARE(f.parts(), std::size_t{1});
    f.drag({121, 170}, {139, 170}, Qt::ControlModifier);
    f.settle();
    QCOMPARE(f.ties().by_hand.size(), std::size_t{2});
    QCOMPARE(f.counters(), std::size_t{1}); // between the two ties
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
    f.session().undo();
    QCOMPARE(f.ties().by_hand.size(), std::size_t{1});
  }

  void a_stencil_keeps_its_counters() {
    OnePieceBench f;
    f.word("BOAT 8", {"Lato", "Bold"});
    QCOMPARE(f.counters(), std::size_t{6});
    f.step("add.stencil");
    QCOMPARE(f.counters(), std::size_t{0});
    f.type_measure("Angle of the bridges", "0");
    QCOMPARE(f.counters(), std::size_t{0});
    f.type_measure("Bridges of each counter", "1");
    QCOMPARE(f.ties().bridges.each, 1);
    QCOMPARE(f.counters(), std::size_t{0});
    const std::vector<Handle> found = f.tie_handles();
    f.drag(found[0].at, found[0].at + Vec{0, 1}, Qt::ControlModifier);
    QCOMPARE(f.ties().by_hand.size(), found.size()); // those of a stencil belong together
  }

  void parts_are_listed_and_light_up() {
    OnePieceBench f;
    f.put("M100 100h40v40h-40zM160 100h40v40h-40zM110 170h10v10h-10z");
    f.session().select({});
    auto* button = f.with_text<QPushButton>("Parts");
    QVERIFY(button != nullptr);
    QTest::mouseClick(button, Qt::LeftButton);
    QListWidget* list = f.window.desk().check.parts().list();
    QVERIFY(QTest::qWaitFor([&] { return list->count() == 3; }, 5000));
    QVERIFY(list->item(0)->text().contains("40") && list->item(2)->text().contains("10"));
    std::shared_ptr<const Outline> lit;
    QObject::connect(&f.window.desk().check.parts(), &PartsList::light, list,
                     [&](const std::shared_ptr<const Outline>& part) { lit = part; });
    list->setFocus();
    QTest::keyClick(list, Qt::Key_End);
    QVERIFY(lit != nullptr && std::abs(lit->area() - 100) < 1e-9);
    // Another step, another list.
    f.put("M300 100h15v15h-15z");
    QVERIFY(QTest::qWaitFor([&] { return list->count() == 4; }, 5000));
    QTest::mouseClick(button, Qt::LeftButton);
    QVERIFY(lit == nullptr);
  }

  // Two that are selected: where they hold, how wide, numbered on the sheet.
  void two_pieces_tell_where_they_hold() {
    std::vector<Point> numbered;
    OnePieceBench f;
    const PieceId ring = f.put("M100 100h100v80h-100zM110 110v60h80v-60z"), bar = f.put("M105 130h90v12h-90z"),
                  aside = f.put("M300 100h10v10h-10z");
    QTest::mouseClick(f.with_text<QPushButton>("Parts"), Qt::LeftButton);
    QObject::connect(&f.window.desk().check.parts(), &PartsList::light, &f.window,
                     [&](const std::shared_ptr<const Outline>&, const std::vector<Point>& at) { numbered = at; });
    const auto told = [&](const QString& words) {
      return QTest::qWaitFor(
          [&] {
            const auto labels = f.window.desk().check.parts().findChildren<QLabel*>();
            return std::any_of(labels.begin(), labels.end(),
                               [&](const QLabel* l) { return l->isVisible() && l->text().contains(words); });
          },
          5000);
    };
    f.session().select({ring, bar});
    QVERIFY(told("at 2 places: 12 · 12 mm"));
    QCOMPARE(numbered.size(), std::size_t{2});
    f.session().select({ring, aside});
    QVERIFY(told("don't meet"));
    QVERIFY(numbered.empty());
    // It follows, and goes with one of the two.
    f.session().select({ring, bar});
    f.session().apply("Move", move_pieces(f.document(), {bar}, {6, 0}));
    QVERIFY(told("at 1 place: 10 mm"));
    f.session().apply("Remove", remove_pieces(f.document(), {bar}).document, std::vector<PieceId>{ring});
    QVERIFY(f.settle() && numbered.empty());
  }

  void what_is_ordered_is_watched_and_can_be_set_aside() {
    OnePieceBench f;
    f.put("M100 100h40v40h-40zM160 100h40v40h-40z");
    f.session().select({});
    f.settle();
    f.type_measure("Ordered parts", "1");
    QVERIFY(f.settle());
    QCOMPARE(f.document().ordered.parts, 1);
    const auto counted = [&] { return f.session().check().to_look_at(); };
    QVERIFY(QTest::qWaitFor([&] { return counted() == 1; }, 5000));
    auto* reason = f.find<QLineEdit>("Why it can stay");
    QVERIFY(reason != nullptr && reason->isVisible());
    reason->setFocus();
    QTest::keyClick(reason, Qt::Key_Return); // no reason, nothing happens
    QVERIFY(f.document().set_aside.empty());
    QTest::keyClicks(reason, "two badges");
    QTest::keyClick(reason, Qt::Key_Return);
    QVERIFY(QTest::qWaitFor([&] { return counted() == 0; }, 5000));
    QCOMPARE(f.document().set_aside.size(), std::size_t{1});
    QCOMPARE(f.document().set_aside[0].reason, std::string("two badges"));
    f.session().undo();
    QVERIFY(QTest::qWaitFor([&] { return counted() == 1; }, 5000));
  }

  void a_word_is_tied_into_a_ring_and_made_one() {
    OnePieceBench f;
    const PieceId ring =
        f.put("M400 200A100 100 0 0 1 200 200A100 100 0 0 1 400 200ZM385 200A85 85 0 0 0 215 200A85 85 0 0 0 385 200Z");
    f.word("Marigold", {"Dancing Script", "Bold"});
    const PieceId word = f.selected().id;
    f.session().select({word, ring});
    f.settle();
    f.window.commands().action("outline.tie-in")->trigger();
    f.settle();
    f.type_measure("Places", "2");
    f.type_measure("Largest size", "400");
    auto* find = f.with_text<QPushButton>("Find places");
    QVERIFY(find != nullptr && find->isEnabled());
    QTest::mouseClick(find, Qt::LeftButton);
    auto* one = [&]() -> QPushButton* {
      for (auto* b : f.window.findChildren<QPushButton*>())
        if (b->text() == "Make one piece")
          return b;
      return nullptr;
    }();
    QVERIFY(QTest::qWaitFor([&] { return one->isVisible(); }, 30'000));
    QVERIFY(f.document().find(word)->lettering() != nullptr); // still live
    const Document placed = f.document();
    f.choose("Answer", "2");
    f.settle();
    f.choose("Answer", "1");
    f.settle();
    QVERIFY(f.document() == placed);
    QTest::mouseClick(one, Qt::LeftButton);
    QVERIFY(QTest::qWaitFor([&] { return f.document().pieces.size() == 1; }, 30'000));
    f.settle();
    QCOMPARE(f.parts(), std::size_t{1});
    QVERIFY(f.counters() >= 4); // the ring's inside parted, and the letters' own
    f.session().undo();
    QVERIFY(f.document() == placed);
    f.session().undo(); // all of the answers were one step
    QVERIFY(!(f.document() == placed));
  }

  void too_much_is_asked_of_a_frame() {
    OnePieceBench f;
    const PieceId ring =
        f.put("M400 200A100 100 0 0 1 200 200A100 100 0 0 1 400 200ZM385 200A85 85 0 0 0 215 200A85 85 0 0 0 385 200Z");
    const PieceId dot = f.put("M290 190h12v12h-12z");
    f.session().select({dot, ring});
    f.settle();
    f.window.commands().action("outline.tie-in")->trigger();
    f.settle();
    QTest::mouseClick(f.with_text<QPushButton>("Find places"), Qt::LeftButton);
    QVERIFY(QTest::qWaitFor(
        [&] {
          for (auto* l : f.window.findChildren<QLabel*>())
            if (l->isVisible() && l->text().contains("missing"))
              return true;
          return false;
        },
        30'000));
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
  }
};

QTEST_MAIN(TestOnePiece)
#include "test_one_piece.moc"
