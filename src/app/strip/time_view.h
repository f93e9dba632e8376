// The line of time of a planned cut: a bar for each path, the ways between, seconds below, the place that is shown.
//
// Mouse: press and drag to any place; over a bar its path is lit. Keys: Left and Right a path back and on, with Shift a
// second, Home and End, Space plays.
#pragma once

#include "app/session/knife_plan.h"

#include <QWidget>

namespace frelm {

class TimeView : public QWidget {
  Q_OBJECT

public:
  explicit TimeView(KnifePlan& knife, QWidget* parent = nullptr);
  QSize sizeHint() const override { return {600, 72}; }
  double x_of(double seconds) const; // px
  double time_at(double x) const;

protected:
  void paintEvent(QPaintEvent* event) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void leaveEvent(QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool event(QEvent* event) override;

private:
  std::optional<std::size_t> path_at(double x) const;
  void step(int by); // paths

  KnifePlan& knife_;
};

} // namespace frelm
