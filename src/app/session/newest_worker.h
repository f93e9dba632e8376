// Work on a thread of its own of which only the newest piece counts: an older one still running is told to stop, one
// that has not begun is forgotten.
#pragma once

#include <condition_variable>
#include <functional>
#include <mutex>
#include <stop_token>
#include <thread>

namespace frelm {

class NewestWorker {
public:
  explicit NewestWorker(int nice); // how far it gives way to the window
  ~NewestWorker();
  NewestWorker(const NewestWorker&) = delete;
  NewestWorker& operator=(const NewestWorker&) = delete;

  void request(std::function<void(std::stop_token)> work);
  void stop(); // what runs and what waits
  void end();  // the same, and waits until nothing runs

private:
  void run(const std::stop_token& end);

  std::mutex mutex_, at_work_;
  std::condition_variable_any wake_;
  std::function<void(std::stop_token)> waiting_;
  std::stop_source running_;
  int nice_;
  std::jthread thread_;
};

} // namespace frelm
