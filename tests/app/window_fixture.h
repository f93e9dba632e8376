// A real main window on scratch settings and a scratch recovery folder, and hands to work it with.
#pragma once

#include "app/start.h"

#include <QPushButton>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QTest>

namespace frelm::test {

// The circle that a lettering rides on.
inline CircleGuide circle_under(const Document& document, const Lettering& lettering) {
  return (*guide_of(document, lettering.recipe.bend.guide))->circle.value();
}

class WindowFixture {
public:
  explicit WindowFixture(std::shared_ptr<Storage> storage = std::make_shared<DiskStorage>(),
                         const QString& faces_folder = data_folder("faces"), bool machine_faces = false)
      : faces(faces_folder.toStdString(), machine_faces),
        window(faces, {dir.filePath("recovery"), {}, dir.filePath("settings.ini"), data_folder("demo"), storage}) {
    window.resize(1280, 800);
    window.show();
    (void)QTest::qWaitForWindowExposed(&window);
    QApplication::setActiveWindow(&window);
    settle();
  }

  // Until the background has answered for what is shown.
  bool settle() {
    QApplication::processEvents();
    return QTest::qWaitFor([this] { return !window.session().busy() && !window.task().running() && !window.saving(); },
                           10'000);
  }
  // Did it reach the disk?
  bool save(const QString& path) {
    window.save_to(path);
    return QTest::qWaitFor([this] { return !window.saving(); }, 10'000) && window.path() == path &&
           session().history().is_saved();
  }
  Session& session() { return window.session(); }
  const Document& document() { return window.session().document(); }
  const Piece& selected() { return *window.session().selected(); }

  template <class W> W* find(const QString& accessible_name) {
    W* hidden = nullptr;
    for (W* w : window.findChildren<W*>())
      if (w->accessibleName() == accessible_name) {
        if (w->isVisible())
          return w;
        hidden = w;
      }
    return hidden;
  }
  QPushButton* button(const QString& text) {
    for (QPushButton* b : window.findChildren<QPushButton*>())
      if (b->text() == text && b->isVisible())
        return b;
    return nullptr;
  }
  void choose(const QString& row, const QString& word) {
    QApplication::processEvents(); // rows that have just come are laid out first
    for (QToolButton* b : window.findChildren<QToolButton*>())
      if (b->accessibleName() == row + ": " + word)
        QTest::mouseClick(b, Qt::LeftButton);
  }
  void type_measure(const QString& field, const QString& text) {
    auto* f = find<MeasureField>(field);
    QVERIFY2(f != nullptr && f->isVisible(), qPrintable(field));
    f->setFocus();
    f->selectAll();
    QTest::keyClicks(f, text);
    QTest::keyClick(f, Qt::Key_Return);
  }

  Handle handle(HandleKind kind) {
    for (const Handle& h : handles_of(session(), 1.0 / px_per_mm()))
      if (h.kind == kind)
        return h;
    return {};
  }
  // A handle of the selected guide by its name.
  Handle shape_handle(const std::string& name) {
    const auto shapes = shape_handles(selected().guide()->shape, 0);
    for (const Handle& h : handles_of(session(), 1.0 / px_per_mm()))
      if (h.kind == HandleKind::Shape && shapes[h.index].name == name)
        return h;
    return {};
  }
  double px_per_mm() { return window.canvas().to_screen({1, 0}).x() - window.canvas().to_screen({0, 0}).x(); }
  QPoint px(Point mm) { return window.canvas().to_screen(mm).toPoint(); }
  // Press at one place, move in steps, stay pressed.
  void press_and_move(Point from, Point to, Qt::KeyboardModifiers modifiers = {}) {
    Canvas* c = &window.canvas();
    QTest::mousePress(c, Qt::LeftButton, modifiers, px(from));
    for (int i = 1; i <= 5; ++i) {
      const QPoint at = px(lerp(from, to, i / 5.0));
      QMouseEvent move(QEvent::MouseMove, at, c->mapToGlobal(at), Qt::NoButton, Qt::LeftButton, modifiers);
      QApplication::sendEvent(c, &move);
    }
  }
  void drag(Point from, Point to, Qt::KeyboardModifiers modifiers = {}) {
    press_and_move(from, to, modifiers);
    QTest::mouseRelease(&window.canvas(), Qt::LeftButton, modifiers, px(to));
  }
  void click(Point at, Qt::KeyboardModifiers modifiers = {}) {
    QTest::mouseClick(&window.canvas(), Qt::LeftButton, modifiers, px(at));
  }

  // A name lettered and set on a circle, both through the window.
  void letter_on_circle(const QString& name) {
    auto* words = find<QLineEdit>("Words to letter");
    words->setFocus();
    QTest::keyClicks(words, name);
    QTest::keyClick(words, Qt::Key_Return);
    settle();
    choose("Bend", "Guide");
    settle();
  }

  QTemporaryDir dir;
  FaceLibrary faces;
  MainWindow window;
};

} // namespace frelm::test
