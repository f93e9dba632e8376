// The row under everything: what is selected, how much of it, what is being worked on, and where the hand is.
#pragma once

#include "app/canvas/canvas.h"
#include "app/session/task.h"
#include "app/style/short_label.h"

#include <QPushButton>
#include <QTimer>

namespace frelm {

class StatusRow : public QWidget {
  Q_OBJECT

public:
  StatusRow(Session& session, Canvas& canvas, Task& task, Task& saving, QWidget* parent = nullptr);
  void refresh();

private:
  QString counted();       // size, letters, nodes and guide of the selection
  QString working() const; // or what is wrong
  bool taking_long() const;

  Session& session_;
  Task &task_, &saving_;
  ShortLabel* selection_;
  QLabel *work_, *pointer_;
  QPushButton* cancel_;
  QTimer long_; // since the work began
  bool busy_ = false;
};

} // namespace frelm
