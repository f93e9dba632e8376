// Until the window has shown what it is to show.
#pragma once

#include "app/window/main_window.h"

#include <QApplication>
#include <QElapsedTimer>

namespace frelm {

inline void settle(MainWindow& window) {
  constexpr int at_least = 500, at_most = 8000; // ms
  QElapsedTimer clock;
  clock.start();
  do
    QApplication::processEvents(QEventLoop::AllEvents, 20);
  while (clock.elapsed() < at_least ||
         ((window.session().busy() || window.canvas().painting() || window.desk().task.running() ||
           (window.tracer().wanted() && !window.tracer().current())) &&
          clock.elapsed() < at_most));
}

} // namespace frelm
