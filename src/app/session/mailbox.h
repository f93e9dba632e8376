// The one place where other threads hand something to the interface thread: functions, run one by one on the thread of
// the mailbox's owner, in the order they were posted. What has not been run when the mailbox goes is dropped.
#pragma once

#include <QObject>
#include <deque>
#include <functional>
#include <mutex>

namespace frelm {

class Mailbox final : public QObject {
public:
  void post(std::function<void()> letter); // from any thread, as long as the mailbox stands

protected:
  void customEvent(QEvent* event) override;

private:
  std::mutex mutex_; // not Qt's: the thread sanitizer knows this one
  std::deque<std::function<void()>> letters_;
};

} // namespace frelm
