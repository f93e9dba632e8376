// A question that is asked again and again, worked out beside the window; only the answer to the newest one arrives, on
// the asker's own thread.
#pragma once

#include "app/session/mailbox.h"
#include "app/session/newest_worker.h"

#include <optional>

namespace frelm {

template <class T> class NewestAnswer {
public:
  explicit NewestAnswer(int nice) : worker_(nice) {} // how far it gives way to the window
  ~NewestAnswer() { worker_.stop(); }
  NewestAnswer(const NewestAnswer&) = delete;
  NewestAnswer& operator=(const NewestAnswer&) = delete;

  // work runs on the worker's thread; nothing: it was stopped, and no answer comes.
  void ask(std::function<std::optional<T>(std::stop_token)> work, std::function<void(T)> done) {
    worker_.request([this, id = ++asked_, work = std::move(work), done = std::move(done)](const std::stop_token& stop) {
      std::optional<T> answer = work(stop);
      if (!answer)
        return;
      mailbox_.post([this, id, done, answer = std::move(*answer)]() mutable {
        if (id == asked_)
          done(std::move(answer));
      });
    });
  }
  // What is asked is no longer wanted.
  void forget() {
    ++asked_;
    worker_.stop();
  }

  // The same, and nothing runs when it returns: what it asks may go.
  void end() {
    ++asked_;
    worker_.end();
  }

private:
  std::uint64_t asked_ = 0;
  Mailbox mailbox_;
  NewestWorker worker_; // the last member: its thread ends before what it uses
};

} // namespace frelm
