// The Gap strip of the real window, by keyboard alone and by mouse alone.
#include "app/window_fixture.h"

#include "app/canvas/handles.h"
#include "document/job_file.h"

#include <QCheckBox>
#include <QListWidget>
#include <QMenu>
#include <QPlainTextEdit>

using namespace frelm;
using namespace frelm::test;

namespace {

struct StripFixture : WindowFixture {
  explicit StripFixture(const QString& text) {
    letter_on_circle(text);
    wait();
  }
  GapView* view() { return window.strip().view(); }
  const Recipe& recipe() { return selected().lettering()->recipe; }
  void wait() {
    QVERIFY(QTest::qWaitFor([&] { return settle() && gaps() != nullptr; }, 5000));
  }
  std::shared_ptr<const std::vector<Gap>> gaps() { return session().gaps(selected().id); }
  const Gap& gap(std::size_t i) { return gaps()->at(i); }
  double closest(std::size_t i) {
    wait();
    return gap(i).closest.distance;
  }
  QPoint bracket(std::size_t i) { return view()->bracket(gap(i)).toPoint(); }
  QPoint letter(std::size_t i) {
    const auto text = session().seated(selected().id)->seated;
    return {static_cast<int>(std::lround(view()->x_of(text->letters[i].s))), view()->height() / 2};
  }
  void drag_strip(QPoint from, QPoint to, Qt::KeyboardModifiers modifiers = {}) {
    QTest::mousePress(view(), Qt::LeftButton, modifiers, from);
    for (int i = 1; i <= 4; ++i) {
      const QPoint at = from + (to - from) * i / 4;
      QMouseEvent move(QEvent::MouseMove, at, view()->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, modifiers);
      QApplication::sendEvent(view(), &move);
    }
    QTest::mouseRelease(view(), Qt::LeftButton, modifiers, to);
    wait();
  }
  double px_per_mm_of_strip() { return view()->x_of(1) - view()->x_of(0); }
};

} // namespace

class TestGapStrip : public QObject {
  Q_OBJECT

private slots:
  void by_keyboard_alone() {
    StripFixture f("HIH IH");
    const double plain = f.closest(1);
    QTest::keyClick(&f.window, Qt::Key_F6);
    QVERIFY(f.view()->hasFocus());
    QVERIFY(f.view()->current() != nullptr); // the first gap
    QTest::keyClick(f.view(), Qt::Key_Right);
    QCOMPARE(f.view()->current()->left, std::size_t{1});
    QVERIFY(f.window.strip().about().contains("closest"));
    for (int i = 0; i < 3; ++i)
      QTest::keyClick(f.view(), Qt::Key_Right, Qt::ShiftModifier);
    QVERIFY(std::abs(f.closest(1) - plain - 0.3) < 0.02);
    QCOMPARE(f.recipe().pairs.size(), std::size_t{1});
    QTest::keyClick(f.view(), Qt::Key_Left, Qt::ShiftModifier);
    QVERIFY(std::abs(f.closest(1) - plain - 0.2) < 0.02);
    // A number typed is the closest distance on the bend.
    QTest::keyClick(f.view(), Qt::Key_7);
    auto* field = f.find<MeasureField>("Closest distance");
    QVERIFY(field->isVisible() && field->hasFocus());
    QTest::keyClicks(field, ".25");
    QTest::keyClick(field, Qt::Key_Return);
    QVERIFY(std::abs(f.closest(1) - 7.25) < 0.005);
    QVERIFY(f.view()->hasFocus() && !field->isVisible());
    QTest::keyClick(f.view(), Qt::Key_3);
    QTest::keyClick(field, Qt::Key_Escape); // not after all
    QVERIFY(f.view()->hasFocus() && !field->isVisible());
    QVERIFY(std::abs(f.closest(1) - 7.25) < 0.005);
    QTest::keyClick(&f.window, Qt::Key_Z, Qt::ControlModifier); // the typed gap
    QVERIFY(std::abs(f.closest(1) - plain - 0.2) < 0.02);
    QTest::keyClick(&f.window, Qt::Key_Z, Qt::ControlModifier); // the steps, which belong together
    QVERIFY(std::abs(f.closest(1) - plain) < 1e-6);
    QVERIFY(f.recipe().pairs.empty());
    QTest::keyClick(&f.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QTest::keyClick(f.view(), Qt::Key_Delete);
    QVERIFY(f.recipe().pairs.empty());
    QCOMPARE(f.document().pieces.size(), std::size_t{2}); // Delete did not reach the piece
    // Several at once.
    QTest::keyClick(f.view(), Qt::Key_A, Qt::ControlModifier);
    QCOMPARE(f.session().gaps_chosen().size(), std::size_t{3}); // not the word space
    QTest::keyClick(f.view(), Qt::Key_Up);
    QCOMPARE(f.recipe().pairs.size(), std::size_t{3});
    QTest::keyClick(f.view(), Qt::Key_Home);
    QTest::keyClick(f.view(), Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier);
    QCOMPARE(f.session().gaps_chosen().size(), std::size_t{2});
    QTest::keyClick(f.view(), Qt::Key_Escape);
    QVERIFY(f.session().gaps_chosen().empty());
    // From anywhere: next gap, open it.
    QTest::keyClick(&f.window, Qt::Key_Right, Qt::AltModifier);
    const double was = f.closest(0);
    QTest::keyClick(&f.window, Qt::Key_Up, Qt::AltModifier);
    QVERIFY(std::abs(f.closest(0) - was - 0.1) < 0.01);
    QTest::keyClick(&f.window, Qt::Key_F6);
    QVERIFY(f.window.canvas().hasFocus());
  }

  void by_mouse_alone() {
    StripFixture f("HIHHIH");
    const double plain = f.closest(2);
    const QPoint at = f.bracket(2);
    const double mm = 24 / f.px_per_mm_of_strip();
    f.drag_strip(at, at + QPoint(24, 0));
    QVERIFY(std::abs(f.closest(2) - plain - mm) < 0.06 * mm);
    QCOMPARE(QString::fromStdString(f.session().history().undo_name()), QString("Change gap"));
    f.session().undo();
    QVERIFY(std::abs(f.closest(2) - plain) < 1e-6);
    // A letter takes its followers along,
    const double next = f.closest(3);
    f.drag_strip(f.letter(3), f.letter(3) + QPoint(20, 0));
    QCOMPARE(f.recipe().pairs.size(), std::size_t{1});
    QVERIFY(f.closest(2) > plain + 0.5);
    QVERIFY(std::abs(f.closest(3) - next) < 0.05);
    f.session().undo();
    // and with Shift goes alone.
    f.wait();
    f.drag_strip(f.letter(3), f.letter(3) + QPoint(6, 0), Qt::ShiftModifier);
    QCOMPARE(f.recipe().pairs.size(), std::size_t{2});
    QVERIFY(std::abs(f.recipe().pairs[0].gap + f.recipe().pairs[1].gap) < 1e-12);
    QVERIFY(f.closest(3) < next - 0.1);
    f.session().undo();
    QVERIFY(f.recipe().pairs.empty());
    // Two brackets with Ctrl, dragged together.
    f.wait();
    QTest::mouseClick(f.view(), Qt::LeftButton, {}, f.bracket(0));
    QTest::mouseClick(f.view(), Qt::LeftButton, Qt::ControlModifier, f.bracket(4));
    QCOMPARE(f.session().gaps_chosen().size(), std::size_t{2});
    f.drag_strip(f.bracket(4), f.bracket(4) + QPoint(12, 0));
    QCOMPARE(f.recipe().pairs.size(), std::size_t{2});
    QCOMPARE(f.recipe().pairs[0].gap, f.recipe().pairs[1].gap);
    // A double click types.
    QTest::mouseDClick(f.view(), Qt::LeftButton, {}, f.bracket(1));
    auto* field = f.find<MeasureField>("Closest distance");
    QVERIFY(field->isVisible());
    QTest::keyClicks(field, "4");
    QTest::keyClick(field, Qt::Key_Return);
    QVERIFY(std::abs(f.closest(1) - 4) < 0.005);
    // All back by the button.
    QTest::mouseClick(f.window.strip().reset(), Qt::LeftButton);
    QVERIFY(f.recipe().pairs.empty());
    // Elsewhere the strip is scrolled; a double click shows all again.
    f.wait();
    const double x = f.view()->x_of(0);
    f.drag_strip({4, f.view()->height() / 2}, {44, f.view()->height() / 2});
    QVERIFY(std::abs(f.view()->x_of(0) - x - 40) < 0.5);
    QTest::mouseDClick(f.view(), Qt::LeftButton, {}, QPoint(4, f.view()->height() / 2));
    QVERIFY(std::abs(f.view()->x_of(0) - x) < 0.5);
  }

  void a_drag_given_up_changes_nothing() {
    StripFixture f("HIHHIH");
    const Document before = f.document();
    QTest::mousePress(f.view(), Qt::LeftButton, {}, f.bracket(1));
    const QPoint to = f.bracket(1) + QPoint(30, 0);
    QMouseEvent move(QEvent::MouseMove, to, f.view()->mapToGlobal(to), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(f.view(), &move);
    QVERIFY(f.session().dragging());
    QTest::keyClick(f.view(), Qt::Key_Escape);
    QVERIFY(!f.session().dragging());
    QVERIFY(f.document() == before);
  }

  void even_gaps_and_keep_joined_are_one_press_and_undone() {
    StripFixture f("HILDA WAVE");
    const auto gap_off = [&] {
      f.wait();
      double worst = 0;
      for (const Gap& g : *f.gaps())
        worst = std::max(worst, std::abs(g.optical - g.target));
      return worst;
    };
    QVERIFY(gap_off() > 0.3);
    QTest::mouseClick(f.window.strip().even(), Qt::LeftButton);
    QCOMPARE(f.recipe().spacing.mode, SpacingMode::EvenGaps);
    QVERIFY(gap_off() < 1e-3);
    QTest::keyClick(&f.window, Qt::Key_3, Qt::AltModifier);
    QVERIFY(f.find<ChoiceRow>("Spacing")->choice() == static_cast<int>(SpacingMode::EvenGaps));
    f.choose("Gaps aim at", "Typed");
    f.type_measure("Gap", "9");
    f.wait();
    const auto seated = f.session().seated(f.selected().id)->seated;
    for (std::size_t i = 0; i < f.gaps()->size(); ++i)
      if (!f.gap(i).word_space && !seated->spacing.pairs[i].held) // L's foot would touch the D
        QVERIFY(std::abs(f.gap(i).optical - 9) < 1e-3);
    f.choose("Gaps aim at", "Fill");
    f.wait();
    QVERIFY(f.gaps()->back().seam); // the run meets itself, and there as evenly as elsewhere
    for (const Gap& g : *f.gaps())
      QVERIFY(std::abs(g.optical - g.target) < 1e-3);
    QTest::mouseClick(f.window.strip().keep(), Qt::LeftButton);
    QCOMPARE(f.recipe().spacing.mode, SpacingMode::KeepJoined);
    f.session().undo();
    QCOMPARE(f.recipe().spacing.mode, SpacingMode::EvenGaps);
    QTest::mouseClick(f.window.strip().even(), Qt::LeftButton); // again: as set
    QCOMPARE(f.recipe().spacing.mode, SpacingMode::AsSet);
  }

  void the_least_gap_holds_letters_apart_and_marks_them() {
    StripFixture f("HIIIIH");
    QTest::keyClick(&f.window, Qt::Key_3, Qt::AltModifier);
    f.type_measure("Least gap", "7");
    f.wait();
    const auto finding = [&] {
      for (const Finding& found : f.session().check().findings)
        if (found.kind == FindingKind::GapsNarrow)
          return true;
      return false;
    };
    QVERIFY(QTest::qWaitFor(finding, 5000));
    QVERIFY(QTest::qWaitFor([&] { return f.button("Even gaps") != nullptr; }, 5000));
    QTest::mouseClick(f.window.strip().even(), Qt::LeftButton);
    f.wait();
    for (const Gap& g : *f.gaps())
      QVERIFY2(g.closest.distance >= 7 - 0.006, qPrintable(QString::number(g.closest.distance)));
    QVERIFY(QTest::qWaitFor([&] { return f.settle() && !finding(); }, 5000));
  }

  void corrections_stay_with_their_letters_and_are_listed() {
    StripFixture f("HILDA");
    f.view()->step(2, false);
    f.view()->step(1, false);
    f.view()->widen(10);
    f.view()->step(1, false);
    f.view()->widen(-5);
    const auto pairs = f.recipe().pairs;
    QCOMPARE(pairs.size(), std::size_t{2});
    QTest::keyClick(&f.window, Qt::Key_3, Qt::AltModifier);
    auto* list = f.find<QListWidget>("Gaps changed by hand");
    QCOMPARE(list->count(), 2);
    QVERIFY(list->item(0)->text().contains("+1 mm"));
    // Another bend, another size, another guide: the same corrections, in proportion to the letters.
    f.choose("Bend", "Arc");
    f.choose("Bend", "Straight");
    f.session().edit("Size", f.selected().id, [](Piece& p) { p.lettering()->recipe.letters()->size *= 2; });
    f.wait();
    QCOMPARE(f.recipe().pairs, pairs);
    QVERIFY(list->item(0)->text().contains("+2 mm"));
    f.choose("Bend", "Guide");
    QCOMPARE(f.recipe().pairs, pairs);
    // A letter put between the two: at rest, and in force again when it is gone.
    const auto retype = [&](const char* text) {
      Document d = f.document();
      std::uint64_t next = d.next_id;
      d = edit_piece(std::move(d), f.selected().id, [&](Piece& p) {
        Letters& l = *p.lettering()->recipe.letters();
        l.text = retyped(l.text, from_utf8(text), next);
      });
      d.next_id = next;
      f.session().apply("Retype", d);
    };
    retype("HILEDA");
    QVERIFY(list->item(1)->text().contains("not side by side"));
    retype("HILDA");
    QVERIFY(!list->item(1)->text().contains("not side by side"));
    list->setCurrentRow(0);
    QTest::mouseClick(f.button("Reset"), Qt::LeftButton);
    QCOMPARE(f.recipe().pairs.size(), std::size_t{1});
    QTest::mouseClick(f.button("Reset all"), Qt::LeftButton);
    QVERIFY(f.recipe().pairs.empty());
    QVERIFY(!list->isVisible());
    f.session().undo();
    QCOMPARE(f.recipe().pairs.size(), std::size_t{1});
  }

  void canvas_and_strip_show_the_same_letter() {
    StripFixture f("HILDA");
    QTest::mouseClick(f.view(), Qt::LeftButton, {}, f.letter(2));
    QVERIFY(chosen_letter(f.session()) != nullptr);
    QCOMPARE(chosen_letter(f.session())->first, std::size_t{2});
    // Zoomed in on the last letter, the strip shows that part of the run, and follows the canvas.
    const auto text = f.session().seated(f.selected().id)->seated;
    const double before = f.view()->x_of(text->letters[1].s) - f.view()->x_of(text->letters[0].s);
    f.window.canvas().zoom_to(text->letters[4].shape->transformed(text->letters[4].place).bounds());
    f.wait();
    QVERIFY(f.view()->x_of(text->letters[1].s) - f.view()->x_of(text->letters[0].s) > 1.5 * before);
    const double x = f.view()->x_of(text->letters[4].s);
    QVERIFY(x > 0 && x < f.view()->width());
    // A gap chosen in the strip is brought into sight on the canvas.
    QTest::keyClick(f.view(), Qt::Key_Home);
    QVERIFY(f.window.canvas().visible().contains(
        text->letters[1].shape->transformed(text->letters[1].place).bounds().centre()));
  }

  void a_letter_gets_another_shape_from_its_picture() {
    StripFixture f("Mum");
    f.session().edit("Face", f.selected().id, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
    });
    f.wait();
    const auto shape = [&] { return f.session().seated(f.selected().id)->seated->letters[0].plain; };
    const auto usual = shape();
    QTest::mouseClick(f.view(), Qt::LeftButton, {}, f.letter(0));
    f.session().choose_gaps({});
    f.session().choose_letter(f.recipe().letters()->text[0].id);
    auto* other = f.find<QToolButton>("Shape 2: Stylistic alternates");
    QVERIFY(other != nullptr && !other->icon().isNull());
    QTRY_VERIFY(other->isVisible());
    QTest::mouseClick(other, Qt::LeftButton);
    QCOMPARE(f.recipe().letters()->alternates.size(), std::size_t{1});
    QVERIFY(!(*shape() == *usual));
    // It goes with its letter, into the job file as well.
    const Result<Document> again = read_job(write_job(f.document(), f.faces));
    QVERIFY(again->find(f.selected().id)->lettering()->recipe == f.recipe());
    f.wait(); // the pictures have been made anew
    QTest::mouseClick(f.find<QToolButton>("Shape 1: Usual"), Qt::LeftButton);
    QVERIFY(*shape() == *usual && f.recipe().letters()->alternates.empty());
    f.session().undo();
    QVERIFY(!(*shape() == *usual));
  }

  void features_and_equal_lines_are_set_in_the_letters_card() {
    StripFixture f("Open");
    QTest::keyClick(&f.window, Qt::Key_1, Qt::AltModifier);
    auto* features = f.find<QToolButton>("Features of the face");
    QVERIFY(features != nullptr && features->isVisible());
    emit features->menu()->aboutToShow();
    for (QAction* a : features->menu()->actions())
      if (a->text() == "Small capitals")
        a->trigger();
    QCOMPARE(f.recipe().letters()->features, (std::vector<FeatureSetting>{{"smcp", 1}}));
    QVERIFY(features->text().contains("small capitals"));
    f.session().undo();
    QVERIFY(f.recipe().letters()->features.empty());
    f.choose("Bend", "Straight");
    QTest::keyClick(&f.window, Qt::Key_1, Qt::AltModifier);
    auto* text = f.find<QPlainTextEdit>("Text");
    text->setPlainText("Open\nAll Day");
    QCheckBox* equal = nullptr;
    for (QCheckBox* box : f.window.findChildren<QCheckBox*>())
      if (box->text() == "Lines equally wide")
        equal = box;
    QVERIFY(equal != nullptr && equal->isVisible());
    QTest::mouseClick(equal, Qt::LeftButton, {}, QPoint(8, equal->height() / 2));
    QVERIFY(f.recipe().letters()->equal_width);
    std::vector<frelm::Box> ink(2);
    for (const PlacedLetter& l : f.session().seated(f.selected().id)->seated->letters)
      if (!l.blank())
        ink[l.line].add(l.shape->transformed(l.place).bounds());
    QVERIFY(std::abs(ink[0].width() - ink[1].width()) < 1e-9);
    // The strip shows the line of the letter that is chosen.
    f.session().choose_letter(f.recipe().letters()->text[6].id);
    QCOMPARE(f.view()->line(), std::size_t{1});
  }

  void legibility_is_read_on_request() {
    StripFixture f("HIH");
    QPushButton* legible = f.button("Legibility");
    QVERIFY(legible != nullptr);
    QTest::mouseClick(legible, Qt::LeftButton);
    const auto readings = [&] {
      QStringList out;
      for (QLabel* label : f.find<QFrame>("Legibility")->findChildren<QLabel*>())
        out << label->text();
      return out.join(" ");
    };
    QVERIFY(readings().contains("Width of O to height of I") && readings().contains("703.5.8"));
    QTest::mouseClick(legible, Qt::LeftButton);
    QVERIFY(!f.find<QFrame>("Legibility")->isVisible());
  }

  void long_runs_are_evened_in_the_background_and_can_be_stopped() {
    StripFixture f(QString("the tide goes out ").repeated(40));
    QTest::mouseClick(f.window.strip().even(), Qt::LeftButton);
    const auto waiting = [&] { return f.session().seated(f.selected().id)->seated->spacing.waiting; };
    QVERIFY(waiting());
    QElapsedTimer clock;
    clock.start();
    f.wait(); // how long it takes when it is left alone
    QVERIFY(!waiting());
    const auto took = static_cast<int>(clock.elapsed());
    f.session().edit("Wider", f.selected().id, [](Piece& p) { p.lettering()->recipe.letters()->size *= 1.01; });
    QVERIFY(waiting());
    f.session().stop_work();
    QTest::qWait(3 * took + 100);
    QVERIFY(waiting() && !f.session().busy() && f.session().waiting());
    f.session().edit("Nudge", f.selected().id, [](Piece& p) { p.lettering()->recipe.bend.guide.angle += 1; });
    QVERIFY(f.session().evening());
    auto* cancel = f.button("Cancel");
    QVERIFY(cancel != nullptr); // offered while it goes on
    f.wait();
    QVERIFY(!waiting());
    QCOMPARE(f.session().seated(f.selected().id)->seated->spacing.pairs.size(), std::size_t{40 * 14 - 1});
    // A gap typed there is found by a task of its own.
    f.view()->step(1, false);
    f.view()->type_gap();
    auto* field = f.find<MeasureField>("Closest distance");
    field->selectAll();
    QTest::keyClicks(field, "3.5");
    QTest::keyClick(field, Qt::Key_Return);
    QVERIFY(f.window.task().running());
    f.wait();
    QVERIFY(std::abs(f.closest(0) - 3.5) < 0.005);
  }
};

int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
    qputenv("QT_QPA_PLATFORM", "offscreen");
  QApplication app(argc, argv);
  prepare_application();
  TestGapStrip test;
  return QTest::qExec(&test, argc, argv);
}
#include "test_gap_strip.moc"
