// A first walk of six steps on the real window: a small card beside what it tells about. Nothing is locked meanwhile;
// it goes with its button, with Esc in it, or when it is through.
#pragma once

#include <QFrame>
#include <functional>
#include <vector>

class QLabel;
class QPushButton;

namespace frelm {

struct WalkStep {
  QString heading, words;
  std::function<QWidget*()> at; // looked up when it is shown; null or hidden: the middle of the window
};

class Walk : public QFrame {
  Q_OBJECT

public:
  Walk(std::vector<WalkStep> steps, QWidget* window);
  std::size_t step() const { return step_; }
  std::size_t count() const { return steps_.size(); }

protected:
  bool eventFilter(QObject* object, QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

private:
  void show_step(std::size_t step);
  void place();
  void end();

  std::vector<WalkStep> steps_;
  std::size_t step_ = 0;
  QLabel *heading_, *words_, *number_;
  QPushButton *back_, *on_, *leave_;
};

} // namespace frelm
