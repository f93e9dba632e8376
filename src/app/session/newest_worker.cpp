#include "app/session/newest_worker.h"

#include "app/session/priority.h"

namespace frelm {

NewestWorker::NewestWorker(int nice) : nice_(nice), thread_([this](const std::stop_token& end) { run(end); }) {}

NewestWorker::~NewestWorker() {
  stop();
  thread_.request_stop();
  wake_.notify_all();
  thread_.join();
}

void NewestWorker::request(std::function<void(std::stop_token)> work) {
  {
    const std::lock_guard lock(mutex_);
    running_.request_stop();
    waiting_ = std::move(work);
  }
  wake_.notify_all();
}

void NewestWorker::stop() {
  const std::lock_guard lock(mutex_);
  running_.request_stop();
  waiting_ = nullptr;
}

void NewestWorker::end() {
  stop();
  const std::lock_guard lock(at_work_);
}

void NewestWorker::run(const std::stop_token& end) {
  give_way(nice_);
  while (!end.stop_requested()) {
    std::function<void(std::stop_token)> work;
    std::stop_token stop;
    {
      std::unique_lock lock(mutex_);
      if (!wake_.wait(lock, end, [this] { return waiting_ != nullptr; }))
        return;
      work = std::exchange(waiting_, nullptr);
      running_ = std::stop_source();
      stop = running_.get_token();
    }
    const std::lock_guard lock(at_work_);
    if (stop.stop_requested())
      continue;
    try {
      work(stop);
    } catch (const std::exception&) { // nothing is delivered; who asked goes on with what there was
    }
  }
}

} // namespace frelm
