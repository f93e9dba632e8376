// The application: whatever is thrown while an event is handled ends in a message, with the job as it was, and never in
// the end of the program.
#pragma once

#include <QApplication>

namespace frelm {

class SafeApplication : public QApplication {
  Q_OBJECT

public:
  SafeApplication(int& argc, char** argv) : QApplication(argc, argv) {}
  bool notify(QObject* receiver, QEvent* event) override;

signals:
  void thrown(const QString& what);
};

} // namespace frelm
