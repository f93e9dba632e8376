#include "app/window/safe_application.h"

namespace frelm {

bool SafeApplication::notify(QObject* receiver, QEvent* event) {
  try {
    return QApplication::notify(receiver, event);
  } catch (const std::exception& e) {
    emit thrown(QString::fromUtf8(e.what()));
  }
  return true;
}

} // namespace frelm
