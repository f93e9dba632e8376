// A variable face in the window: its axes by field, slider and handle, a length by its width; faces that can't be cut.
#include "reference/pixel_face.h"
#include "reference/python.h"
#include "room.h"
#include "window_fixture.h"

#include "document/face_axes.h"

#include <QSlider>
#include <QStandardItemModel>

using namespace frelm;
using namespace frelm::test;

namespace {

class AxesFixture : public WindowFixture {
public:
  explicit AxesFixture(const QString& folder) : WindowFixture(std::make_shared<DiskStorage>(), folder) {
    auto* words = find<QLineEdit>("Words to letter");
    words->setFocus();
    QTest::keyClicks(words, "HOxI OxH");
    QTest::keyClick(words, Qt::Key_Return);
    settle();
    emit window.letters_card().faces().chosen("Creek Flex");
    open_letters();
  }
  void open_letters() {
    window.commands().action("lettering.card.1")->trigger();
    settle();
  }
  const Letters& letters() { return *selected().lettering()->recipe.letters(); }
  double axis(const char* tag) { return axis_value(letters(), *axis_of(letters(), faces, tag)); }
  double ink() { return session().seated(selected().id)->ink.width(); }
  bool shown(const char* field) {
    auto* f = find<MeasureField>(field);
    return f != nullptr && f->isVisible();
  }
};

} // namespace

class TestAxesWindow : public QObject {
  Q_OBJECT

private slots:
  void initTestCase() {
    QVERIFY(run_python("make_variable_face.py", {dir_.path()}));
    for (const QString& name : QDir(data_folder("faces") + "/cabin").entryList(QDir::Files))
      QVERIFY(QFile::copy(data_folder("faces") + "/cabin/" + name, dir_.filePath(name)));
  }

  void fields_and_sliders_change_the_face() {
    AxesFixture f(dir_.path());
    QVERIFY(f.letters().face == (FaceName{"Creek Flex", "Regular"}));
    f.type_measure("Weight of the face", "650");
    QCOMPARE(f.axis("wght"), 650.0);
    f.type_measure("Face width of the face", "1000"); // out of range: left, and marked
    QCOMPARE(f.axis("wdth"), 100.0);
    QVERIFY(!f.find<MeasureField>("Face width of the face")->toolTip().contains("75 to 130")); // what is wrong
    f.type_measure("Face width of the face", "88.5");
    QVERIFY(f.find<MeasureField>("Face width of the face")->toolTip().contains("75 to 130"));
    QCOMPARE(f.axis("wdth"), 88.5);
    auto* slider = f.find<QSlider>("Weight of the face, slider");
    QVERIFY(slider != nullptr && slider->isVisible() && slider->value() == 650);
    slider->setFocus();
    QTest::keyClick(slider, Qt::Key_Right);
    QCOMPARE(f.axis("wght"), 651.0);
    QCOMPARE(f.axis("wdth"), 88.5);
    f.session().undo();
    QCOMPARE(f.axis("wght"), 650.0);
    QCOMPARE(slider->value(), 650);
    // A wheel over a slider without the focus scrolls the card.
    f.find<QPlainTextEdit>("Text")->setFocus();
    QWheelEvent wheel({5, 5}, slider->mapToGlobal(QPointF(5, 5)), {}, {0, 120}, Qt::NoButton, {}, Qt::NoScrollPhase,
                      false);
    QApplication::sendEvent(slider, &wheel);
    QCOMPARE(f.axis("wght"), 650.0);
    const auto* plain = f.window.commands().find("lettering.face-as-its-style");
    QVERIFY(plain->why_not().isEmpty());
    plain->action->trigger();
    QVERIFY(f.letters().face.axes.empty() && !plain->why_not().isEmpty());
    f.session().undo();
    // A style is a place on all axes.
    auto* style = f.find<QComboBox>("Style");
    style->setCurrentText("Bold");
    emit style->textActivated("Bold");
    QVERIFY(f.letters().face == (FaceName{"Creek Flex", "Bold"}));
    QCOMPARE(f.find<MeasureField>("Weight of the face")->value(), 700.0);
    emit f.window.letters_card().faces().chosen("Cabin");
    f.settle();
    QVERIFY(!f.shown("Weight of the face") && !f.shown("Face width of the face"));
  }

  void rows_of_axes_fit_data() {
    QTest::addColumn<QSize>("size");
    QTest::addColumn<int>("text");
    QTest::newRow("1280 x 800") << QSize(1280, 800) << 100;
    QTest::newRow("1024 x 700") << QSize(1024, 700) << 100;
    QTest::newRow("1280 x 800, 200 % text") << QSize(1280, 800) << 200;
  }
  void rows_of_axes_fit() {
    QFETCH(QSize, size);
    QFETCH(int, text);
    const Text larger(text);
    AxesFixture f(dir_.path());
    f.window.resize(size);
    QVERIFY(f.settle());
    QTest::qWait(50);
    QVERIFY(f.shown("Face width of the face"));
    const QStringList faults = what_does_not_fit(f.window, {});
    QVERIFY2(faults.isEmpty(), qPrintable(faults.join("; ")));
  }

  void handles_on_the_sheet_change_it_too() {
    AxesFixture f(dir_.path());
    const double was = f.ink();
    const Handle width = f.handle(HandleKind::FaceWidth);
    f.press_and_move(width.at, width.at + Vec{12, 0});
    QVERIFY(f.session().shown().find(f.selected().id)->lettering()->recipe.letters()->face.axes.size() == 1);
    QTest::keyClick(&f.window.canvas(), Qt::Key_Escape); // in the middle of the drag
    QTest::mouseRelease(&f.window.canvas(), Qt::LeftButton, {}, f.px(width.at));
    QVERIFY(f.letters().face.axes.empty() && f.session().history().current().name != "Change face width");
    f.drag(width.at, width.at + Vec{12, 0});
    QVERIFY(f.axis("wdth") > 101 && f.axis("wght") == 400);
    QVERIFY2(std::abs(f.ink() - was - 24) < 4,
             qPrintable(QString::number(f.ink() - was))); // both ends, the middle stays
    const Handle weight = f.handle(HandleKind::FaceWeight);
    f.drag(weight.at, weight.at + Vec{0, -15});
    QVERIFY(f.axis("wght") > 420);
    const auto step = f.session().history().current().name;
    QCOMPARE(step, "Change weight");
    f.session().undo();
    f.session().undo();
    QVERIFY(f.letters().face.axes.empty());
  }

  void a_width_by_the_face() {
    AxesFixture f(dir_.path());
    const double was = f.ink(), size = f.letters().size;
    f.choose("Finished width by", "Face width");
    f.type_measure("Finished width", QString::number(was * 1.05));
    QVERIFY(QTest::qWaitFor([&] { return std::abs(f.ink() - was * 1.05) <= 0.01; }, 10'000));
    QCOMPARE(f.letters().size, size);
    QVERIFY(f.axis("wdth") > 100);
    f.choose("Finished width by", "Size");
    f.type_measure("Finished width", QString::number(was));
    f.settle();
    QVERIFY(f.letters().size < size);
  }

  void a_run_as_long_as_its_guide() {
    AxesFixture f(dir_.path());
    const auto* fit = f.window.commands().find("lettering.fit-face-width");
    QVERIFY(fit != nullptr && fit->why_not().contains("guide"));
    f.choose("Bend", "Guide");
    f.settle();
    QVERIFY(fit->why_not().isEmpty());
    const auto seated = [&] { return f.session().seated(f.selected().id)->seated; };
    f.session().edit("Resize", f.document().pieces[0]->id, [&](Piece& p) {
      if (p.guide() != nullptr)
        std::get<CircleGuide>(p.guide()->shape).radius = seated()->used_length * 1.08 / (2 * pi);
    });
    f.settle();
    fit->action->trigger();
    QVERIFY(QTest::qWaitFor([&] { return std::abs(seated()->used_length - seated()->guide_length) <= 0.01; }, 10'000));
    QVERIFY(f.axis("wdth") > 100);
    emit f.window.letters_card().faces().chosen("Cabin");
    f.settle();
    QVERIFY(fit->why_not().contains("width axis"));
  }

  void axes_are_saved_and_opened() {
    AxesFixture f(dir_.path());
    f.type_measure("Weight of the face", "555");
    const QString path = f.dir.filePath("axes.frelm");
    QVERIFY(f.save(path));
    const Document before = f.document();
    f.window.open_file(path);
    QVERIFY(f.settle());
    QVERIFY(f.document().pieces[0]->lettering()->recipe == before.pieces[0]->lettering()->recipe);
  }

  void faces_that_can_t_be_cut_are_listed_with_the_reason() {
    const PixelFace pixels;
    WindowFixture f(std::make_shared<DiskStorage>(), data_folder("faces"), true);
    f.letter_on_circle("Wave");
    FaceChoice& choice = f.window.letters_card().faces();
    const int row = choice.findText(PixelFace::family);
    QVERIFY(row > 0);
    QVERIFY(!qobject_cast<QStandardItemModel*>(choice.model())->item(row)->isEnabled());
    QVERIFY(choice.itemData(row, Qt::ToolTipRole).toString().contains("nothing to cut"));
    const Document before = f.document();
    QSignalSpy told(&f.window.letters_card(), &LettersCard::problem);
    choice.lineEdit()->setFocus();
    choice.lineEdit()->selectAll();
    QTest::keyClicks(choice.lineEdit(), PixelFace::family);
    QTest::keyClick(choice.lineEdit(), Qt::Key_Return);
    QVERIFY(!told.isEmpty());
    QVERIFY(f.document() == before);
    QCOMPARE(choice.currentText(), QString::fromStdString(f.selected().lettering()->recipe.letters()->face.family));
  }

private:
  QTemporaryDir dir_;
};

QTEST_MAIN(TestAxesWindow)
#include "test_axes_window.moc"
