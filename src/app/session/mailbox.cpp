#include "app/session/mailbox.h"

#include <QCoreApplication>
#include <QEvent>

namespace frelm {

void Mailbox::post(std::function<void()> letter) {
  {
    const std::lock_guard lock(mutex_);
    letters_.push_back(std::move(letter));
  }
  QCoreApplication::postEvent(this, new QEvent(QEvent::User));
}

void Mailbox::customEvent(QEvent*) { // one letter for each
  std::function<void()> letter;
  {
    const std::lock_guard lock(mutex_);
    if (letters_.empty())
      return;
    letter = std::move(letters_.front());
    letters_.pop_front();
  }
  letter(); // may end the window and this with it
}

} // namespace frelm
