// Whole jobs of a shop's day, by hand in the window, with what the hand does counted: a click, a drag, a chord of keys,
// a text or a value typed is one each. The table of these is in docs/actions.md; its numbers are checked here.
#include "app/window_fixture.h"

#include "document/level.h"

#include <QClipboard>
#include <QFile>
#include <QPlainTextEdit>
#include <QRegularExpression>

using namespace frelm;
using namespace frelm::test;

namespace {

class Shop : public WindowFixture {
public:
  int actions = 0;

  void press(const QString& words) {
    ++actions;
    QPushButton* b = button(words);
    if (b == nullptr)
      b = find<QPushButton>(words);
    QVERIFY2(b != nullptr && b->isVisible() && b->isEnabled(), qPrintable(words));
    QTest::mouseClick(b, Qt::LeftButton);
    QVERIFY(settle());
  }
  void pick(const QString& tile) { // of a row of choices, or a kind of guide
    ++actions;
    QApplication::processEvents();
    auto* b = find<QToolButton>(tile);
    QVERIFY2(b != nullptr && b->isVisible() && b->isEnabled(), qPrintable(tile));
    QTest::mouseClick(b, Qt::LeftButton);
    QVERIFY(settle());
  }
  void tick(const QString& box) {
    ++actions;
    for (QCheckBox* b : window.findChildren<QCheckBox*>())
      if (b->isVisible() && b->text() == box) {
        b->click();
        QVERIFY(settle());
        return;
      }
    QFAIL(qPrintable(box));
  }
  void chord(int key, Qt::KeyboardModifiers modifiers = {}) {
    ++actions;
    QTest::keyClick(&window.canvas(), static_cast<Qt::Key>(key), modifiers);
    QVERIFY(settle());
  }
  // An entry of a menu: a click for each menu on the way, and one for itself.
  void menu(const QString& id) {
    const CommandTable::Entry* entry = window.commands().find(id);
    QVERIFY2(entry != nullptr && entry->action->isEnabled(), qPrintable(id + ": " + (entry ? entry->why_not() : "")));
    actions += 2 + static_cast<int>(entry->menu.count(QString::fromUtf8("›")));
    entry->action->trigger();
    QVERIFY(settle());
  }
  // By its name: Ctrl+F, a word and Return typed.
  void find_command(const QString& words) {
    actions += 2;
    window.canvas().setFocus();
    QTest::keyClick(&window.canvas(), Qt::Key_F, Qt::ControlModifier);
    auto* field = qobject_cast<QLineEdit*>(QApplication::focusWidget());
    QVERIFY(field != nullptr);
    QTest::keyClicks(field, words);
    QTest::keyClick(field, Qt::Key_Return);
    QVERIFY(settle());
  }
  // Into the Letters card, where the words are selected; or into the field that asks for words.
  void type(const QString& words) {
    ++actions;
    if (auto* text = qobject_cast<QPlainTextEdit*>(QApplication::focusWidget())) {
      for (const QChar c : words)
        c == '\n' ? QTest::keyClick(text, Qt::Key_Return) : QTest::keyClicks(text, QString(c));
    } else {
      QLineEdit* field = nullptr;
      for (const char* name : {"Words to letter", "Words to ride on this guide"})
        if (auto* f = find<QLineEdit>(name); f != nullptr && f->isVisible())
          field = f;
      QVERIFY(field != nullptr);
      QTest::keyClicks(field, words);
      QTest::keyClick(field, Qt::Key_Return);
    }
    QVERIFY(settle());
  }
  void value(const QString& field, const QString& text) {
    ++actions;
    type_measure(field, text);
    QVERIFY(settle());
  }
  void tap(Point at, Qt::KeyboardModifiers modifiers = {}) {
    ++actions;
    click(at, modifiers);
    QVERIFY(settle());
  }
  void tap_twice(Point at) { // one action: a double click
    ++actions;
    QTest::mouseClick(&window.canvas(), Qt::LeftButton, {}, px(at));
    QTest::mouseDClick(&window.canvas(), Qt::LeftButton, {}, px(at));
    QVERIFY(settle());
  }
  void pull(Point from, Point to) {
    ++actions;
    drag(from, to);
    QVERIFY(settle());
  }
  void drop(const QString& file) {
    ++actions;
    emit window.canvas().files_dropped({file}, {300, 200});
    QVERIFY(settle());
  }

  Box ink(PieceId id) { return session().seated(id)->ink; }
  std::vector<PieceId> letterings() {
    std::vector<PieceId> out;
    for (const auto& p : document().pieces)
      if (p->lettering() != nullptr)
        out.push_back(p->id);
    return out;
  }
  const Recipe& recipe(PieceId id) { return document().find(id)->lettering()->recipe; }
  // In ink, so that a tap there picks it.
  Point in_ink(PieceId id) {
    for (const PlacedLetter& l : session().seated(id)->seated->letters)
      if (!l.blank())
        return l.shape->transformed(l.place).bounds().centre();
    return {};
  }
  QString file(const QString& name, const QByteArray& bytes) {
    QFile out(dir.filePath(name));
    (void)out.open(QIODevice::WriteOnly);
    out.write(bytes);
    return out.fileName();
  }
};

// What docs/actions.md says of a job: counted, at most.
std::pair<int, int> said_of(const QString& job) {
  QFile file(QString(FRELM_SOURCE_DIR) + "/docs/actions.md");
  if (!file.open(QIODevice::ReadOnly))
    return {-1, -1};
  const QRegularExpression row("\\|\\s*" + QRegularExpression::escape(job) +
                               "\\s*\\|\\s*(\\d+)\\s*\\|\\s*(\\d+)\\s*\\|");
  const auto m = row.match(QString::fromUtf8(file.readAll()));
  return m.hasMatch() ? std::pair{m.captured(1).toInt(), m.captured(2).toInt()} : std::pair{-1, -1};
}
#define COUNTS(shop, job)                                                                                              \
  do {                                                                                                                 \
    const auto [counted, most] = said_of(job);                                                                         \
    QCOMPARE((shop).actions, counted);                                                                                 \
    QVERIFY2(counted <= most, job);                                                                                    \
  } while (false)

} // namespace

class TestWholeJobs : public QObject {
  Q_OBJECT

private slots:
  void disc_star_and_arched_word_centred_and_welded() {
    Shop f;
    f.chord(Qt::Key_3);
    f.pick("Draw as: Shape");
    f.pull({300, 200}, {400, 200}); // a circle, to begin with
    f.chord(Qt::Key_3);
    f.pick("Guide kind: Star");
    f.pull({150, 150}, {210, 150});
    f.chord(Qt::Key_Escape);
    f.type("HARBOUR");
    f.pick("Bend: Arc");
    f.chord(Qt::Key_A, Qt::ControlModifier);
    f.chord(Qt::Key_M);
    QCOMPARE(f.session().selection().size(), std::size_t{3});
    const Point middle = f.ink(f.letterings().front()).centre();
    for (const PieceId id : f.session().selection())
      QVERIFY(distance(f.ink(id).centre(), middle) < 0.001);
    f.press("Weld together");
    QCOMPARE(f.document().pieces.size(), std::size_t{1});
    QVERIFY(f.document().pieces[0]->outline() != nullptr);
    COUNTS(f, "Disc, star and arched word, centred and welded");
  }

  void a_word_into_a_template_s_bar_and_a_line_below() {
    Shop f;
    f.drop(f.file("template.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='400mm' height='200mm' "
                                  "viewBox='0 0 400 200'><path fill='#0f6e73' d='M40 40h320v60h-320z'/></svg>"));
    const PieceId bar = f.document().pieces.front()->id;
    f.chord(Qt::Key_L, Qt::ControlModifier);
    f.type("SALTMARSH\nPILOT");
    const PieceId word = f.selected().id;
    const Box box = f.ink(bar);
    f.tap({box.x0 + 3, box.y0 + 3}, Qt::ShiftModifier);
    f.press("As wide as the last picked");
    f.tap(f.in_ink(word));
    f.press("Spread");
    const auto lines = [&] {
      std::vector<Box> out(2);
      for (const PlacedLetter& l : f.session().seated(word)->seated->letters)
        out[l.line].add(l.shape->transformed(l.place).bounds());
      return out;
    };
    const Box first = lines()[0];
    f.pull(f.in_ink(word), f.in_ink(word) + (box.centre() - first.centre()));
    for (const Box& line : lines())
      QVERIFY2(std::abs(line.width() - box.width()) < 0.001, qPrintable(QString::number(line.width())));
    QVERIFY(distance(lines()[0].centre(), box.centre()) < 2); // the hand's, but for what catches
    QVERIFY(box.y0 < lines()[0].y0 && lines()[0].y1 < box.y1 && box.y1 < lines()[1].y0);
    COUNTS(f, "A word fitted into a template's bar, a second line spread below");
  }

  void two_lines_as_wide_as_each_other_warped() {
    Shop f;
    f.chord(Qt::Key_L, Qt::ControlModifier);
    f.type("TIDE\nMILL ROAD");
    f.tick("Lines equally wide");
    f.chord(Qt::Key_2, Qt::AltModifier); // the Bend card
    f.pick("Bend: Rails");
    const PieceId word = f.letterings().front();
    QCOMPARE(f.recipe(word).bend.kind, BendKind::Rails);
    QVERIFY(f.recipe(word).letters()->equal_width);
    QVERIFY(f.session().seated(word)->bent != nullptr);
    COUNTS(f, "Two lines as wide as each other, warped");
  }

  void joined_words_above_and_below_with_a_picture_between() {
    Shop f;
    f.press("Badge");
    f.type("Marigold");
    f.press("Keep joined");
    const std::vector<PieceId> both = f.letterings();
    const PieceId typed = f.selected().id, other = both[0] == typed ? both[1] : both[0];
    f.tap_twice(f.in_ink(other));
    QCOMPARE(f.selected().id, other);
    f.type("Saltmarsh");
    f.press("Keep joined");
    f.drop(f.file("gull.svg", "<svg xmlns='http://www.w3.org/2000/svg' width='80mm' height='40mm' viewBox='0 0 80 40'>"
                              "<path d='M0 20q20-20 40 0q20-20 40 0q-20-8-40 8q-20-16-40-8z'/></svg>"));
    QCOMPARE(f.session().selection().size(), std::size_t{1});
    const PieceId gull = f.selected().id;
    f.chord(Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier); // on the sheet, where the badge is
    for (const PieceId id : both)
      QCOMPARE(f.recipe(id).spacing.mode, SpacingMode::KeepJoined);
    const Point sheet{f.document().sheet.width / 2, f.document().sheet.height / 2};
    QVERIFY(distance(f.ink(gull).centre(), sheet) < 1e-6);
    QCOMPARE(plain_text(f.recipe(other).letters()->text), U"Saltmarsh");
    COUNTS(f, "Joined words above and below a circle, a picture between");
  }

  void an_alphabet_around_a_frame() {
    Shop f;
    f.find_command("frame");
    QVERIFY(f.session().selected() != nullptr && f.selected().guide() != nullptr);
    f.type("ABCDEFGHIJKLMNOPQRSTUVWXYZ");
    f.press("Spread");
    const PieceId word = f.letterings().front();
    const Piece& guide = *f.document().find(f.recipe(word).bend.guide.guide);
    QVERIFY(std::holds_alternative<FrameGuide>(guide.guide()->shape));
    // On all four sides: letters stand outside of each.
    const Box frame = f.ink(guide.id), letters = f.ink(word);
    QVERIFY(letters.x0 < frame.x0 && letters.y0 < frame.y0 && letters.x1 > frame.x1 && letters.y1 > frame.y1);
    COUNTS(f, "An alphabet around a frame");
  }

  void a_poem_on_a_spiral_by_half_an_inch() {
    QApplication::clipboard()->setText("The tide comes in, the tide goes out,\nand boats go round the bay about,\n"
                                       "and what the water takes away\nit brings again another day");
    Shop f;
    f.menu("add.spiral");
    f.tick("Fit letters to its height");
    f.chord(Qt::Key_1, Qt::AltModifier); // the Letters card
    f.value("Letter size", "1/2 in");
    const PieceId poem = f.letterings().front();
    QVERIFY2(std::abs(f.recipe(poem).letters()->size - 12.7) < 1e-9,
             qPrintable(QString::number(f.recipe(poem).letters()->size)));
    COUNTS(f, "A poem on a spiral, half an inch high");
  }

  void a_badge_levelled() {
    Shop f;
    f.press("Badge");
    f.type("Boatworks");
    f.chord(Qt::Key_L, Qt::ControlModifier | Qt::ShiftModifier);
    const PieceId lower = f.selected().id;
    QVERIFY(std::abs(*tilt_of(*f.session().seated(lower)->seated)) < 0.002);
    const std::vector<PieceId> both = f.letterings();
    f.tap_twice(f.in_ink(both[0] == lower ? both[1] : both[0]));
    f.type("Saltmarsh");
    COUNTS(f, "A badge, levelled");
  }
};

QTEST_MAIN(TestWholeJobs)
#include "test_whole_jobs.moc"
