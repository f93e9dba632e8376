// A page over the canvas, with a heading and a way back: Esc or the button. It keeps to the middle of the canvas as
// that changes its size, or of the window when the canvas is too small for it, and goes for good when it is closed.
#pragma once

#include <QFrame>

class QHBoxLayout;
class QPushButton;
class QVBoxLayout;

namespace frelm {

class Page : public QFrame {
  Q_OBJECT

public:
  // back: the words on the way back.
  Page(const QString& heading, const QString& back, QWidget* over);
  QPushButton* way_back() { return back_; }

signals:
  void closed();

protected:
  QVBoxLayout* body() { return body_; } // between the heading and the way back
  void add_action(QPushButton* button); // beside the way back
  // px that it would like to have; it takes what there is.
  virtual QSize wanted() const;
  void appear(); // once everything is in it
  void place();
  bool eventFilter(QObject* object, QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void closeEvent(QCloseEvent* event) override;

private:
  QWidget* over_;
  QVBoxLayout* body_;
  QHBoxLayout* foot_;
  QPushButton* back_;
};

} // namespace frelm
