// One long piece of work at a time on its own thread, with Cancel.
#pragma once

#include "app/session/mailbox.h"
#include "geom/result.h"

#include <QObject>
#include <QString>
#include <atomic>
#include <cmath>
#include <functional>
#include <stop_token>
#include <thread>

namespace frelm {

class Task : public QObject {
  Q_OBJECT

public:
  using QObject::QObject;
  ~Task() override = default;

  bool running() const { return running_; }
  QString name() const { return name_; }
  // work runs on the task's thread; done on this object's thread, also after an error or Cancel (code Cancelled).
  // Returns false, and does nothing, while another is running.
  template <class T>
  bool start(const QString& name, std::function<Result<T>(std::stop_token)> work, std::function<void(Result<T>)> done) {
    if (running_)
      return false;
    running_ = true;
    progress_ = 0, told_ = 0;
    name_ = name;
    emit changed();
    thread_ = std::jthread([this, work = std::move(work), done = std::move(done)](const std::stop_token& stop) {
      Result<T> result = kept_in(work, stop);
      if (stop.stop_requested())
        result = Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
      mailbox_.post([this, done, result = std::move(result)]() mutable {
        running_ = false;
        emit changed();
        done(std::move(result));
      });
    });
    return true;
  }
  // What is thrown becomes an error.
  template <class T>
  static Result<T> kept_in(const std::function<Result<T>(std::stop_token)>& work, const std::stop_token& stop) {
    try {
      return work(stop);
    } catch (const std::exception& e) {
      return Error{
          ErrorCode::Internal,
          say(FRELM_WORDS("core", "something went wrong inside; nothing was changed: %1"), std::string(e.what())),
          {}};
    }
  }
  void cancel() { thread_.request_stop(); }
  // From the work's thread; 0 to 1.
  void tell_progress(double share) {
    const int percent = static_cast<int>(std::lround(100 * share));
    if (told_.exchange(percent) == percent)
      return;
    mailbox_.post([this, percent] {
      progress_ = percent;
      emit changed();
    });
  }
  int progress() const { return progress_; } // percent; 0: not told

signals:
  void changed();

private:
  bool running_ = false;
  int progress_ = 0;
  std::atomic<int> told_ = 0;
  QString name_;
  Mailbox mailbox_;
  std::jthread thread_;
};

} // namespace frelm
