// Drives the real window with mouse and keyboard, then looks at the document and the exported file.
#include "app/menus/add_menu.h"
#include "app/menus/edit_menu.h"
#include "app/window/settings_page.h"
#include "app/window_fixture.h"
#include "document/job_file.h"
#include "reference/svg_extents.h"

#include <QAbstractItemView>
#include <QClipboard>
#include <QComboBox>
#include <QCompleter>
#include <QJsonArray>
#include <QMenuBar>
#include <QMimeData>
#include <QScrollBar>

using namespace frelm;
using namespace frelm::test;

namespace {

// WCAG 2.1, "contrast ratio" and "relative luminance".
double luminance(const QColor& c) {
  const auto linear = [](double v) { return v <= 0.03928 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
  return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}
double contrast(const QColor& a, const QColor& b) {
  const double x = luminance(a), y = luminance(b);
  return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

WindowOptions options_in(const QTemporaryDir& dir) {
  return {dir.filePath("recovery"), {50, 200}, dir.filePath("settings.ini"), data_folder("demo")};
}
// A window that is gone without being closed properly.
Document leave_behind(FaceLibrary& faces, const QTemporaryDir& dir) {
  MainWindow window(faces, options_in(dir));
  window.show();
  letter_it(window.desk(), "Marigold");
  const auto kept = [&] { return QFile::exists(dir.filePath("recovery/0.frelm")); };
  return QTest::qWaitFor(kept, 5000) ? window.session().document() : Document{};
}

// The next window after that, which offers what was left.
struct AfterCrash {
  QTemporaryDir shared;
  FaceLibrary faces{data_folder("faces").toStdString(), false};
  Document kept = leave_behind(faces, shared);
  MainWindow next{faces, options_in(shared)};
  AfterCrash() {
    next.show();
    next.offer_recovery();
  }
};

} // namespace

class TestMainWindow : public QObject {
  Q_OBJECT

private slots:
  void from_a_typed_name_to_a_cut_file_and_back() {
    WindowFixture f;
    const Document first = f.document();
    f.letter_on_circle("Marigold");
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    QCOMPARE(f.selected().lettering()->recipe.bend.kind, BendKind::Guide);

    // The bead slides the run; near a quarter it catches.
    const CircleGuide circle = circle_under(f.document(), *f.selected().lettering());
    const Point bead = f.handle(HandleKind::Bead).at;
    QVERIFY(distance(bead, circle.centre + Vec{0, -circle.radius}) < 0.01);
    f.drag(bead, circle.centre + direction(radians(-50)) * circle.radius);
    QVERIFY(std::abs(f.selected().lettering()->recipe.bend.guide.angle - 40) < 1.5);
    f.drag(f.handle(HandleKind::Bead).at, circle.centre + direction(radians(1)) * circle.radius);
    QCOMPARE(f.selected().lettering()->recipe.bend.guide.angle, 90.0);

    QTest::keyClick(&f.window, Qt::Key_3, Qt::AltModifier);
    f.type_measure("Letter spacing", "1mm+0.5");
    QCOMPARE(f.selected().lettering()->recipe.spacing.letter, 1.5);

    QVERIFY(f.settle());
    const Box shown = f.session().seated(f.selected().id)->ink;
    QTest::mouseClick(f.button("Release to outlines"), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY(f.selected().outline() != nullptr);
    QVERIFY(std::abs(f.session().seated(f.selected().id)->ink.width() - shown.width()) < 1e-9);
    QTest::keyClick(&f.window, Qt::Key_Return, Qt::ControlModifier | Qt::ShiftModifier);
    QVERIFY(f.selected().lettering() != nullptr);
    QVERIFY(f.settle());

    const Document last = f.document();
    int steps = 0;
    for (; f.session().history().can_undo(); ++steps)
      QTest::keyClick(&f.window, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(f.document() == first);
    QVERIFY(steps >= 6);
    while (f.session().history().can_redo())
      QTest::keyClick(&f.window, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QVERIFY(f.document() == last);

    const QString job = f.dir.filePath("marigold.frelm"), svg = f.dir.filePath("marigold.svg");
    QVERIFY(f.save(job));
    QVERIFY(!f.window.isWindowModified());
    const std::string saved = write_job(f.document(), f.faces);
    QVERIFY(f.window.open_file(job));
    QCOMPARE(write_job(f.document(), f.faces), saved);
    f.window.export_to(svg);
    QVERIFY(f.settle());
    QVERIFY(f.window.bar().text().contains("Exported"));
    const QJsonObject got = svg_extents(svg);
    const QJsonArray box = got["box"].toArray();
    const double expected[]{shown.x0, shown.y0, shown.x1, shown.y1};
    for (int i = 0; i < 4; ++i)
      QVERIFY(std::abs(box[i].toDouble() - expected[i]) <= 0.001);
    QCOMPARE(got["contours"].toInt(), got["closed"].toInt());
    QCOMPARE(got["paths"].toInt(), 1);
  }

  void the_stem_pulls_the_letters_off_the_guide_and_esc_gives_up() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const Handle stem = f.handle(HandleKind::Stem);
    const Vec up = unit(stem.at - stem.root);
    f.drag(stem.at, stem.at + up * 8.0);
    QVERIFY(std::abs(f.selected().lettering()->recipe.bend.offset - 8) < 1);
    const Document before = f.document();
    const std::string step = f.session().history().undo_name();
    f.press_and_move(f.handle(HandleKind::Stem).at, stem.at + up * 30.0);
    QVERIFY(!(f.session().shown() == before));
    QVERIFY(f.document() == before); // what is saved is never a preview
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape);
    QVERIFY(f.document() == before);
    QCOMPARE(f.session().history().undo_name(), step);
  }

  void circle_handles_move_resize_and_turn_with_the_letters_following() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const PieceId lettering = f.selected().id, guide = f.selected().lettering()->recipe.bend.guide.guide;
    f.session().select({guide});
    const auto circle = [&] { return *f.document().find(guide)->guide()->circle(); };
    const auto ink = [&] { return f.session().seated(lettering)->ink; };
    const CircleGuide was = circle();
    const Box before = ink();
    f.drag(f.shape_handle("centre").at, was.centre + Vec{20, 10});
    QVERIFY(distance(circle().centre, was.centre + Vec{20, 10}) < 1);
    QVERIFY(std::abs(ink().centre().x - before.centre().x - 20) < 1);
    f.drag(f.shape_handle("radius").at, circle().centre + Vec{was.radius + 15, 0});
    // A pixel at each end of the drag (0.9 mm here), then whole steps of a millimetre.
    QVERIFY2(std::abs(circle().radius - was.radius - 15) < 1.5,
             qPrintable(QString("%1 from %2").arg(circle().radius).arg(was.radius)));
    const Handle turn = f.shape_handle("start");
    f.drag(turn.at, circle().centre + direction(radians(-45)) * distance(turn.at, circle().centre));
    QVERIFY(std::abs(circle().start - 45) < 1.5);
    QVERIFY(std::abs(f.document().find(lettering)->lettering()->recipe.bend.guide.angle - circle().start) < 1e-9);
  }

  void the_arc_is_pulled_over_and_under() {
    WindowFixture f;
    letter_it(f.window.desk(), "Saltmarsh");
    f.settle();
    f.choose("Bend", "Arc");
    QCOMPARE(f.selected().lettering()->recipe.bend.kind, BendKind::Arc);
    f.type_measure("Arc rise", "20");
    QCOMPARE(f.selected().lettering()->recipe.bend.arc.by, ArcBy::Rise);
    const Result<PieceResult> now = f.session().seated(f.selected().id);
    QVERIFY(std::abs(now->seated->arc_rise - 20) < 1e-6);
    const Handle pull = f.handle(HandleKind::ArcPull);
    f.drag(pull.at, pull.at + Vec{0, 50});
    QCOMPARE(f.selected().lettering()->recipe.bend.arc.side, ArcSide::Under);
    f.type_measure("Arc sweep", "90");
    QVERIFY(std::abs(f.session().seated(f.selected().id)->seated->arc_sweep - 90) < 1e-9);
  }

  void a_corner_changes_the_size_and_fields_set_it_exactly() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const double size = f.selected().lettering()->recipe.letters()->size;
    const Handle corner = f.handle(HandleKind::Corner);
    f.drag(corner.at, corner.at + Vec{-30, -20});
    QVERIFY(f.selected().lettering()->recipe.letters()->size > size);
    QTest::keyClick(&f.window, Qt::Key_1, Qt::AltModifier);
    f.type_measure("Finished width", "5 in");
    QVERIFY(std::abs(f.session().seated(f.selected().id)->ink.width() - 127) <= 0.001);
    f.choose("Guide while resizing", "Scaled");
    const double radius = circle_under(f.document(), *f.selected().lettering()).radius,
                 width = f.session().seated(f.selected().id)->ink.width();
    f.type_measure("Finished width", "150");
    QVERIFY(std::abs(circle_under(f.document(), *f.selected().lettering()).radius - radius * 150 / width) < 1e-6);
  }

  void deleting_a_guide_asks_what_to_do_and_each_answer_works_data() {
    QTest::addColumn<QString>("answer");
    for (const char* a : {"Release", "Straighten", "Bring back", "Not now"})
      QTest::newRow(a) << a;
  }
  void deleting_a_guide_asks_what_to_do_and_each_answer_works() {
    QFETCH(QString, answer);
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const PieceId lettering = f.selected().id, guide = f.selected().lettering()->recipe.bend.guide.guide;
    const Box before = f.session().seated(lettering)->ink;
    f.session().select({guide});
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window, Qt::Key_Delete);
    QVERIFY(f.document().find(guide) == nullptr);
    QVERIFY(f.session().seated(lettering)->ink == before);
    QVERIFY(f.window.bar().isVisible());
    QApplication::processEvents();
    QTest::mouseClick(f.button(answer), Qt::LeftButton);
    QVERIFY(f.settle());
    QVERIFY2(!f.window.bar().isVisible(), qPrintable(f.window.bar().text()));
    if (answer == "Release")
      QVERIFY(f.selected().outline() != nullptr);
    if (answer == "Straighten")
      QCOMPARE(f.document().find(lettering)->lettering()->recipe.bend.kind, BendKind::Straight);
    if (answer == "Bring back")
      QVERIFY(f.document().find(guide) != nullptr);
    if (answer == "Not now")
      QVERIFY(f.session().seated(lettering)->ink == before);
  }

  void a_question_goes_when_it_no_longer_matters() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    f.session().select({f.selected().lettering()->recipe.bend.guide.guide});
    delete_selected(f.window.desk());
    QVERIFY(f.window.bar().isVisible());
    f.session().undo();
    QVERIFY(!f.window.bar().isVisible());
  }

  void tools_draw_circles_and_begin_letters() {
    WindowFixture f;
    QTest::keyClick(&f.window.canvas(), Qt::Key_3);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Guide);
    f.drag({200, 200}, {280, 200});
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QVERIFY(std::abs(f.document().pieces[0]->guide()->circle()->radius - 80) < 1);
    QCOMPARE(f.window.canvas().tool(), ToolKind::Select);
    QTest::keyClick(&f.window.canvas(), Qt::Key_2);
    const CircleGuide c = *f.document().pieces[0]->guide()->circle();
    f.click(c.centre + Vec{0, c.radius});
    QCOMPARE(f.document().pieces.size(), std::size_t{2});
    const Bend& bend = f.selected().lettering()->recipe.bend;
    QCOMPARE(bend.kind, BendKind::Guide);
    QCOMPARE(bend.guide.tops, Tops::Inward); // begun at the bottom: it reads upright
    QPlainTextEdit* text = f.window.letters_card().text_edit();
    QVERIFY(text->hasFocus());
    QTest::keyClicks(text, "Creek");
    QCOMPARE(plain_text(f.selected().lettering()->recipe.letters()->text), U"Creek");
    QTest::keyClick(text, Qt::Key_Z, Qt::ControlModifier); // in the field: the document's undo, not the field's
    QCOMPARE(plain_text(f.selected().lettering()->recipe.letters()->text), U"Letters");
    QCOMPARE(text->toPlainText(), QString("Letters"));
  }

  // No nameless row between the groups, the user's words as sample, found by a part of the name, favourites first and
  // kept for the next start.
  void faces_are_found_and_kept() {
    WindowFixture f;
    letter_it(f.window.desk(), "Tide and gull\nsecond");
    FaceChoice& faces = f.window.letters_card().faces();
    f.window.open_card(&f.window.letters_card());
    QCOMPARE(faces.sample(), QString("Tide and gull"));
    const QString was = faces.currentText();
    for (int i = 0; i < faces.count(); ++i)
      QVERIFY(!faces.itemText(i).isEmpty() ||
              faces.itemData(i, Qt::AccessibleDescriptionRole).toString() == "separator");
    QString other = faces.itemText(faces.count() - 1);
    QVERIFY(other != was);
    faces.setFocus();
    faces.lineEdit()->selectAll();
    QTest::keyClicks(&faces, other.mid(1).toLower());
    QVERIFY(faces.completer()->popup()->isVisible());
    QCOMPARE(faces.completer()->popup()->model()->index(0, 0).data().toString(), other);
    QTest::keyClick(faces.completer()->popup(), Qt::Key_Down);
    QTest::keyClick(faces.completer()->popup(), Qt::Key_Return);
    QCOMPARE(QString::fromStdString(f.selected().lettering()->recipe.letters()->face.family), other);
    faces.lineEdit()->selectAll();
    QTest::keyClicks(&faces, "no such face");
    QTest::keyClick(&faces, Qt::Key_Return);
    QCOMPARE(faces.currentText(), other);
    auto* star = f.find<QToolButton>("Favourite face");
    QTest::mouseClick(star, Qt::LeftButton);
    QVERIFY(star->isChecked());
    QCOMPARE(faces.itemText(0), other);
    QCOMPARE(faces.currentText(), other);
    QSettings kept(f.dir.filePath("settings.ini"), QSettings::IniFormat);
    QCOMPARE(kept.value("faces/favourites").toStringList(), QStringList{other});
    kept.setValue("faces/favourites", QStringList{"Gone face", other}); // one that this machine lacks
    kept.sync();
    MainWindow next(f.faces, {f.dir.filePath("r2"), {}, f.dir.filePath("settings.ini"), data_folder("demo")});
    QCOMPARE(next.letters_card().faces().itemText(0), other);
    QCOMPARE(next.letters_card().faces().favourites().size(), 2);
    QTest::mouseClick(star, Qt::LeftButton);
    QVERIFY(!star->isChecked() && faces.itemText(0) != other);
  }

  void selecting_moving_and_nudging() {
    WindowFixture f;
    letter_it(f.window.desk(), "HHH");
    const PieceId id = f.selected().id;
    f.settle();
    const Box box = f.session().seated(id)->ink;
    f.click({20, 20});
    QVERIFY(f.session().selection().empty());
    const PlacedLetter l = f.session().seated(id)->seated->letters[1];
    const Point on{l.origin.x + l.advance * 0.5, (box.y0 + box.y1) / 2};
    f.drag(on, on + Vec{25, 40});
    QCOMPARE(f.session().selection(), std::vector<PieceId>{id});
    QVERIFY(std::abs(f.session().seated(id)->ink.x0 - box.x0 - 25) < 1);
    f.drag(on + Vec{25, 40}, on + Vec{60, 45}, Qt::ShiftModifier);
    QVERIFY(std::abs(f.session().seated(id)->ink.y0 - box.y0 - 40) < 1);
    const double x = f.session().seated(id)->ink.x0;
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Left);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Right, Qt::ShiftModifier);
    QVERIFY2(std::abs(f.session().seated(id)->ink.x0 - x - 9) < 1e-9,
             qPrintable(QString::number(f.session().seated(id)->ink.x0 - x)));
    f.click({20, 20});
    f.drag({20, 20}, {580, 390});
    QCOMPARE(f.session().selection(), std::vector<PieceId>{id});
  }

  void the_cut_check_finds_and_cures() {
    WindowFixture f;
    letter_it(f.window.desk(), "Marigold");
    f.settle();
    f.session().edit("face", f.selected().id, [](Piece& p) {
      p.lettering()->recipe.letters()->face = {"Dancing Script", "Bold"};
    });
    f.settle();
    QTest::keyClick(&f.window, Qt::Key_4, Qt::AltModifier);
    auto* weld = f.window.findChild<QCheckBox*>();
    for (QCheckBox* c : f.window.findChildren<QCheckBox*>())
      if (c->isVisible())
        weld = c;
    QTest::mouseClick(weld, Qt::LeftButton, {}, QPoint(8, weld->height() / 2));
    QVERIFY(f.settle());
    QVERIFY(QTest::qWaitFor([&] { return f.session().check().to_look_at() == 1; }, 5000));
    QVERIFY(QTest::qWaitFor([&] { return f.button("Weld") != nullptr; }, 5000));
    QTest::mouseClick(f.button("Weld"), Qt::LeftButton);
    QVERIFY(QTest::qWaitFor([&] { return f.session().check().to_look_at() == 0; }, 5000));
    QVERIFY(f.selected().lettering()->recipe.finish.welds());
  }

  void views_units_and_zoom_leave_the_pieces_alone() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const Piece before = f.selected();
    for (const auto key : {Qt::Key_F8, Qt::Key_F9, Qt::Key_F7})
      QTest::keyClick(&f.window, key);
    QCOMPARE(f.window.canvas().view(), View::Ink);
    f.choose("Unit", "in");
    QVERIFY(f.find<MeasureField>("Radius of the guide")->text().toDouble() < 20);
    const Point under = f.window.canvas().to_sheet({300, 200});
    f.window.canvas().zoom_by(2, {300, 200});
    QVERIFY(distance(f.window.canvas().to_sheet({300, 200}), under) < 1e-9);
    QVERIFY(f.selected() == before);
  }

  void fields_keep_what_cannot_be_read_and_say_why() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const double radius = circle_under(f.document(), *f.selected().lettering()).radius;
    auto* field = f.find<MeasureField>("Radius of the guide");
    for (const char* bad : {"abc", "-5", "0", "1/0"}) {
      f.type_measure("Radius of the guide", bad);
      QCOMPARE(circle_under(f.document(), *f.selected().lettering()).radius, radius);
      QCOMPARE(field->text(), QString(bad));
      QVERIFY(field->property("fault").toBool() && !field->toolTip().isEmpty());
    }
    QTest::keyClick(field, Qt::Key_Escape);
    QVERIFY(!field->property("fault").toBool());
    QTest::keyClick(field, Qt::Key_Up);
    QCOMPARE(circle_under(f.document(), *f.selected().lettering()).radius, radius + 1);
    QTest::keyClick(field, Qt::Key_Down, Qt::ShiftModifier);
    QCOMPARE(circle_under(f.document(), *f.selected().lettering()).radius, radius - 9);
  }

  void empty_and_odd_texts_do_no_harm() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    QPlainTextEdit* text = f.window.letters_card().text_edit();
    for (const QString& odd :
         {QString(), QString("   "), QString("\n\n"), QString::fromUtf8("本 مرحبا 😀"), QString(3000, 'W')}) {
      text->setPlainText(odd);
      QVERIFY(f.settle());
      QCOMPARE(QString::fromStdString(to_utf8(plain_text(f.selected().lettering()->recipe.letters()->text))), odd);
      const Result<PieceResult> now = f.session().seated(f.selected().id);
      QVERIFY2(now.ok(),
               qPrintable(odd.left(20) + ": " + (now.ok() ? QString() : QString::fromStdString(now.error().text()))));
    }
    QVERIFY(f.session().check().to_look_at() > 0); // 3,000 W do not fit around
  }

  void broken_jobs_and_unwritable_folders_are_told_plainly() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    const Document before = f.document();
    QFile bad(f.dir.filePath("bad.frelm"));
    QVERIFY(bad.open(QIODevice::WriteOnly));
    bad.write("{\"format\": \"frelm-job\", \"version\": 7");
    bad.close();
    QVERIFY(!f.window.open_file(bad.fileName()));
    QVERIFY(f.window.bar().text().contains("bad.frelm"));
    QVERIFY(f.document() == before);
    QVERIFY(!f.save("/nowhere/job.frelm"));
    QVERIFY(f.window.bar().text().contains("/nowhere"));
    QVERIFY(f.window.isWindowModified());
    f.window.export_to("/nowhere/cut.svg");
    QVERIFY(f.settle());
    QVERIFY(f.window.bar().text().contains("/nowhere"));
  }

  void closing_with_changes_asks_and_loses_nothing() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    f.window.close();
    QVERIFY(f.window.isVisible());
    QVERIFY(f.window.bar().text().contains("aren't saved"));
    QTest::mouseClick(f.button("Not now"), Qt::LeftButton);
    QVERIFY(f.window.isVisible());
    f.window.close();
    QTest::mouseClick(f.button("Give up the changes"), Qt::LeftButton);
    QVERIFY(!f.window.isVisible());
  }

  void copies_travel_through_the_clipboard() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window, Qt::Key_C, Qt::ControlModifier);
    QTest::keyClick(&f.window, Qt::Key_V, Qt::ControlModifier);
    QCOMPARE(f.document().pieces.size(), std::size_t{3});
    QVERIFY(guide_of(f.document(), f.selected().lettering()->recipe.bend.guide).ok());
    auto* mime = new QMimeData;
    mime->setText("a tide rhyme\nin two lines");
    QApplication::clipboard()->setMimeData(mime);
    QTest::keyClick(&f.window, Qt::Key_V, Qt::ControlModifier);
    QCOMPARE(plain_text(f.selected().lettering()->recipe.letters()->text), U"a tide rhyme\nin two lines");
    QTest::keyClick(&f.window, Qt::Key_D, Qt::ControlModifier);
    QCOMPARE(f.document().pieces.size(), std::size_t{5});
    QTest::keyClick(&f.window, Qt::Key_A, Qt::ControlModifier);
    QTest::keyClick(&f.window, Qt::Key_Delete);
    QVERIFY(f.document().pieces.empty());
  }

  void no_card_is_wider_than_its_column() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    for (const auto key : {Qt::Key_1, Qt::Key_2, Qt::Key_3, Qt::Key_4}) {
      QTest::keyClick(&f.window, key, Qt::AltModifier);
      f.settle();
      for (const Card* card : f.window.findChildren<Card*>())
        if (card->isVisible()) {
          const QWidget* port = card->parentWidget()->parentWidget(); // the scroll area's viewport
          QVERIFY2(card->mapTo(port, QPoint(card->width(), 0)).x() <= port->width(),
                   qPrintable(QString("card %1").arg(card->width())));
        }
    }
  }

  void every_control_has_a_name_and_every_key_one_meaning() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    for (QWidget* w : f.window.findChildren<QWidget*>()) {
      if (w->focusPolicy() == Qt::NoFocus || !w->isVisible() || qobject_cast<QScrollBar*>(w) != nullptr)
        continue;
      const auto* b = qobject_cast<QAbstractButton*>(w);
      const bool inside = w->objectName().startsWith("qt_") || qobject_cast<QComboBox*>(w->parentWidget()) != nullptr ||
                          qobject_cast<QAbstractScrollArea*>(w->parentWidget()) != nullptr;
      if (inside || qobject_cast<QMenuBar*>(w) != nullptr)
        continue;
      QVERIFY2(!w->accessibleName().isEmpty() || (b != nullptr && !b->text().isEmpty()),
               qPrintable(QString(w->metaObject()->className()) + " " + w->objectName()));
    }
    QSet<QString> keys;
    for (const QAction* a : f.window.findChildren<QAction*>())
      for (const QKeySequence& k : a->shortcuts()) {
        if (k.isEmpty())
          continue;
        QVERIFY2(!keys.contains(k.toString()), qPrintable(k.toString()));
        keys.insert(k.toString());
      }
    QVERIFY(keys.size() > 30);
  }

  void a_plain_click_narrows_the_selection_and_a_drag_keeps_it() {
    WindowFixture f;
    letter_it(f.window.desk(), "Wake");
    letter_it(f.window.desk(), "Tide");
    QVERIFY(f.settle());
    const PieceId id = f.selected().id;
    QTest::keyClick(&f.window.canvas(), Qt::Key_A, Qt::ControlModifier);
    const std::vector<PieceId> all = f.session().selection();
    QVERIFY(all.size() == 2);
    const Box box = f.session().seated(id)->ink;
    const PlacedLetter l = f.session().seated(id)->seated->letters[1];
    const Point at{l.origin.x + l.advance * 0.5, (box.y0 + box.y1) / 2};
    const Document before = f.document();
    f.drag(at, at + Vec{15, 0});
    QCOMPARE(f.session().selection().size(), all.size());
    QVERIFY(!(f.document() == before));
    f.click(at + Vec{15, 0});
    QCOMPARE(f.session().selection(), std::vector<PieceId>{id});
  }

  void nudging_what_is_locked_says_so() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    f.window.commands().action("arrange.lock")->trigger();
    const Document before = f.document();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Right);
    QVERIFY(f.document() == before);
    QVERIFY(f.window.bar().isVisible());
    f.window.bar().dismiss();
    f.window.commands().action("arrange.lock")->trigger();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Right);
    QVERIFY(!(f.document() == before) && !f.window.bar().isVisible());
  }

  void the_wheel_changes_no_choice_in_passing() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    for (ChoiceBox* box : f.window.findChildren<ChoiceBox*>()) {
      if (!box->isVisible() || box->count() < 2)
        continue;
      const auto turn = [&](int by) {
        QWheelEvent event(QPointF(5, 5), box->mapToGlobal(QPointF(5, 5)), {}, {0, by}, Qt::NoButton, Qt::NoModifier,
                          Qt::NoScrollPhase, false);
        QApplication::sendEvent(box, &event);
      };
      f.window.canvas().setFocus();
      const int was = box->currentIndex();
      turn(-120), turn(120), turn(120);
      QCOMPARE(box->currentIndex(), was);
      QVERIFY(!box->hasFocus());
    }
  }

  void an_empty_clipboard_pasted_into_the_words_changes_nothing() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    QApplication::clipboard()->setMimeData(new QMimeData); // as a fresh desktop has it: there, but without formats
    auto* words = f.window.letters_card().text_edit();
    words->setFocus();
    QTest::keyClick(words, Qt::Key_V, Qt::ControlModifier);
    QTest::keyClick(words, Qt::Key_Insert, Qt::ShiftModifier);
    QCOMPARE(words->toPlainText(), QString("Marigold"));
    QApplication::clipboard()->setText(" II");
    words->moveCursor(QTextCursor::End);
    QTest::keyClick(words, Qt::Key_V, Qt::ControlModifier);
    QCOMPARE(words->toPlainText(), QString("Marigold II"));
  }

  void settings_are_a_page_worked_by_keys() {
    WindowFixture f;
    QTest::keyClick(&f.window.canvas(), Qt::Key_Comma, Qt::ControlModifier);
    auto* page = f.window.findChild<SettingsPage*>();
    QVERIFY(page != nullptr && page->isVisible() && page->isAncestorOf(QApplication::focusWidget()));
    f.type_measure("Worked-out shapes", "64");
    f.type_measure("Steps to undo", "3"); // too little: told, not taken
    QVERIFY(f.find<MeasureField>("Steps to undo")->toolTip().contains("at least"));
    QCOMPARE(f.session().evaluator().memory().limit(), std::size_t{64} << 20);
    QCOMPARE(f.session().history().most_bytes(), usual_history_bytes);
    f.choose("Appearance", "Dark");
    QVERIFY(scheme().dark);
    f.choose("Appearance", "Light");
    QTest::keyClick(page, Qt::Key_Escape);
    QVERIFY(QTest::qWaitFor([&] { return f.window.findChild<SettingsPage*>() == nullptr; }, 2000));
    QVERIFY(f.window.canvas().hasFocus());
    QSettings kept(f.dir.filePath("settings.ini"), QSettings::IniFormat);
    QCOMPARE(kept.value("memory/cacheMB").toInt(), 64);
    kept.setValue("memory/historyMB", "no number"); // a file that somebody wrote by hand
    kept.sync();
    MainWindow next(f.faces, {f.dir.filePath("r2"), {}, f.dir.filePath("settings.ini"), data_folder("demo")});
    QCOMPARE(next.session().evaluator().memory().limit(), std::size_t{64} << 20);
    QVERIFY(next.session().history().most_bytes() >= std::size_t{16} << 20);
  }

  void settings_are_found_by_a_word_and_put_back() {
    WindowFixture f;
    QTest::keyClick(&f.window.canvas(), Qt::Key_Comma, Qt::ControlModifier);
    auto* page = f.window.findChild<SettingsPage*>();
    const int all = page->rows_shown();
    QVERIFY(all >= 10);
    QTest::keyClicks(page->field(), "nudge");
    QCOMPARE(page->rows_shown(), 2);
    page->field()->setText("no such thing");
    QCOMPARE(page->rows_shown(), 0);
    page->field()->clear();
    QCOMPARE(page->rows_shown(), all);
    // Each counts at once, and is kept.
    f.type_measure("Arrow keys move by", "3");
    f.type_measure("Catching from", "0");
    f.type_measure("Their capitals", "55");
    f.choose("Unit of new jobs", "Inches");
    QTest::keyClick(page, Qt::Key_Escape);
    QVERIFY(QTest::qWaitFor([&] { return f.window.findChild<SettingsPage*>() == nullptr; }, 2000));
    auto* words = f.find<QLineEdit>("Words to letter");
    QTest::keyClicks(words, "Tide");
    QTest::keyClick(words, Qt::Key_Return);
    QVERIFY(f.settle());
    QCOMPARE(f.selected().lettering()->recipe.letters()->size, 55.0);
    const Box was = f.session().seated(f.selected().id)->ink;
    f.window.canvas().setFocus();
    QTest::keyClick(&f.window.canvas(), Qt::Key_Right);
    QVERIFY(std::abs(f.session().seated(f.selected().id)->ink.x0 - was.x0 - 3) < 1e-9);
    MainWindow next(f.faces, {f.dir.filePath("r2"), {}, f.dir.filePath("settings.ini"), data_folder("demo")});
    QCOMPARE(next.session().preferences(), f.session().preferences());
    QCOMPARE(next.session().document().unit, Unit::Inch);
    // Back to the usual, one by one; the file holds nothing of it any more.
    QTest::keyClick(&f.window.canvas(), Qt::Key_Comma, Qt::ControlModifier);
    page = f.window.findChild<SettingsPage*>();
    for (const char* name : {"Arrow keys move by", "Catching from", "Their capitals", "Unit of new jobs"}) {
      auto* back = f.find<QToolButton>(QString("%1: as usual").arg(name));
      QVERIFY(back != nullptr && back->isVisible());
      QTest::mouseClick(back, Qt::LeftButton);
      QVERIFY(!back->isVisible());
    }
    QCOMPARE(f.session().preferences(), Preferences{});
    QSettings kept(f.dir.filePath("settings.ini"), QSettings::IniFormat);
    QVERIFY(!kept.contains("keys/stepMM") && !kept.contains("new/unit"));
  }

  void jobs_and_examples_stand_beside_the_start() {
    WindowFixture f;
    auto* card = f.window.findChild<JobsCard*>();
    QVERIFY(card != nullptr && card->isVisible() && f.settle());
    QVERIFY(card->examples()->count() >= 4 && !card->lately()->isVisible());
    for (int i = 0; i < card->examples()->count(); ++i) {
      const QListWidgetItem* item = card->examples()->item(i);
      QVERIFY(!item->text().isEmpty());
      QVERIFY2(QFile::exists(data_folder("demo") + "/pictures/" +
                             QFileInfo(item->data(Qt::UserRole).toString()).completeBaseName() + ".png"),
               qPrintable(item->text())); // tools/make-demo-pictures
    }
    // A job that was saved is offered the next time, with its picture.
    f.letter_on_circle("Tide");
    QVERIFY(!card->isVisible());
    const QString path = f.dir.filePath("tide.frelm");
    QVERIFY(f.save(path));
    f.window.commands().action("file.new")->trigger();
    QVERIFY(QTest::qWaitFor([&] { return card->isVisible() && card->lately()->count() == 1; }, 5000));
    QCOMPARE(card->lately()->item(0)->text(), QString("tide"));
    QTest::mouseClick(card->lately()->viewport(), Qt::LeftButton, {},
                      card->lately()->visualItemRect(card->lately()->item(0)).center());
    QVERIFY(QTest::qWaitFor([&] { return !f.document().pieces.empty(); }, 5000));
    QVERIFY(!card->isVisible() && f.window.path() == path);
    const QDir pictures(f.dir.filePath("recovery/pictures"));
    QVERIFY(QTest::qWaitFor([&] { return pictures.entryList({"*.png"}).size() == 1; }, 5000));
  }

  void preferences_survive_nonsense() {
    const QTemporaryDir dir;
    QSettings file(dir.filePath("s.ini"), QSettings::IniFormat);
    file.setValue("keys/stepMM", "much");
    file.setValue("hand/catch", -5);
    file.setValue("look/text", 1e9);
    file.setValue("new/unit", "ell");
    const Preferences read = read_preferences(file);
    QCOMPARE(read.step_mm, 1.0);
    QCOMPARE(read.catch_px, 0.0);
    QCOMPARE(read.text, range_of(&Preferences::text).high);
    QCOMPARE(read.unit, Unit::Millimetre);
  }

  void both_schemes_and_large_text_paint_without_clipping_the_row() {
    WindowFixture f;
    f.letter_on_circle("Marigold");
    for (const Appearance a : {Appearance::Dark, Appearance::Light}) {
      f.window.set_appearance(a);
      QVERIFY(f.settle());
      const QImage image = f.window.grab().toImage();
      QCOMPARE(image.pixelColor(5, image.height() / 2).name(), scheme().panel.name());
      // WCAG 2.1, 1.4.3: 4.5 to 1 for text.
      const Scheme& s = scheme();
      for (const auto& [ink, ground] :
           {std::pair{s.text, s.panel}, std::pair{s.text, s.card}, std::pair{s.text, s.field},
            std::pair{s.muted, s.card}, std::pair{s.bar_text, s.bar}})
        QVERIFY2(contrast(ink, ground) >= 4.5, qPrintable(ink.name() + " on " + ground.name()));
    }
    // At twice the size every button of the top row is inside it and has the room it asks for.
    const QFont usual = QApplication::font();
    QFont large = usual;
    large.setPointSizeF(2 * usual.pointSizeF());
    QApplication::setFont(large);
    f.window.set_appearance(Appearance::Light);
    QVERIFY(f.settle());
    auto* row = f.window.findChild<QWidget*>("topRow");
    int buttons = 0;
    for (QAbstractButton* b : row->findChildren<QAbstractButton*>())
      if (b->isVisible()) {
        ++buttons;
        QVERIFY2(row->rect().contains(QRect(b->mapTo(row, QPoint()), b->size())), qPrintable(b->text()));
        QVERIFY2(b->width() >= b->minimumSizeHint().width() && b->height() >= b->minimumSizeHint().height(),
                 qPrintable(b->text()));
      }
    QApplication::setFont(usual);
    f.window.set_appearance(Appearance::Light);
    QVERIFY(buttons > 8);
  }

  // "Not now" is not never: on the start card, with its picture.
  void what_was_left_behind_stays_on_the_start_card() {
    AfterCrash f;
    MainWindow& next = f.next;
    QTest::keyClick(next.recovery_list(), Qt::Key_Escape);
    QTRY_VERIFY(next.recovery_list() == nullptr);
    QListWidget* left = next.findChild<JobsCard*>()->left_behind();
    QTRY_COMPARE(left->count(), 1);
    QVERIFY(left->isVisible());
    const auto dark = [&] { // letters on the picture
      const QImage image = left->item(0)->icon().pixmap(left->iconSize()).toImage();
      int n = 0;
      for (int y = 2; y < image.height() - 2; ++y)
        for (int x = 2; x < image.width() - 2; ++x)
          n += qGray(image.pixel(x, y)) < 128 ? 1 : 0;
      return n;
    };
    QTRY_VERIFY(dark() > 20);
    QTest::mouseClick(left->viewport(), Qt::LeftButton, {}, left->visualItemRect(left->item(0)).center());
    QTRY_COMPARE(next.session().document().pieces.size(), f.kept.pieces.size());
    QVERIFY(*next.session().document().pieces[0] == *f.kept.pieces[0]);
    next.session().undo();
    QTRY_VERIFY(!left->isVisible()); // dealt with
  }

  void unsaved_work_is_kept_and_offered_again() {
    AfterCrash f;
    MainWindow& next = f.next;
    QVERIFY(next.recovery_list() != nullptr && next.recovery_list()->count() == 1);
    for (QPushButton* b : next.findChildren<QPushButton*>())
      if (b->text() == "Bring back")
        QTest::mouseClick(b, Qt::LeftButton);
    QCOMPARE(next.session().document().pieces.size(), f.kept.pieces.size());
    QVERIFY(*next.session().document().pieces[0] == *f.kept.pieces[0]);
    QVERIFY(next.isWindowModified());
  }
};

int main(int argc, char** argv) {
  if (!qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
    qputenv("QT_QPA_PLATFORM", "offscreen");
  QApplication app(argc, argv);
  prepare_application();
  TestMainWindow test;
  return QTest::qExec(&test, argc, argv);
}
#include "test_main_window.moc"
