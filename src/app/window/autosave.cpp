#include "app/window/autosave.h"

#include "document/job_file.h"

namespace frelm {

Autosave::Autosave(Session& session, const QString& folder, int interval_ms, QObject* parent)
    : QObject(parent), session_(session), recovery_(folder.toStdString(), storage_),
      writer_([this](const std::stop_token& end) { run(end); }) {
  connect(&timer_, &QTimer::timeout, this, &Autosave::keep_now);
  timer_.start(interval_ms);
}

Autosave::~Autosave() {
  writer_.request_stop(); // what waits is still done
  writer_.join();
}

void Autosave::write(std::function<void()> job) {
  {
    const std::lock_guard lock(mutex_);
    waiting_ = std::move(job);
  }
  wake_.notify_one();
}

void Autosave::run(const std::stop_token& end) {
  for (;;) {
    std::function<void()> job;
    {
      std::unique_lock lock(mutex_);
      wake_.wait(lock, end, [this] { return waiting_ != nullptr; });
      if (waiting_ == nullptr)
        return;
      job = std::move(waiting_);
      waiting_ = nullptr;
    }
    job();
  }
}

void Autosave::keep_now() {
  if (session_.history().is_saved() || session_.revision() == kept_revision_)
    return;
  kept_revision_ = session_.revision();
  write([this, document = session_.history().current().document, path = job_path_.toStdString()] {
    const Result<Done> kept = recovery_.keep(path, write_job(document, session_.faces()));
    if (kept)
      return;
    QMetaObject::invokeMethod(
        this,
        [this, text = QString::fromStdString(kept.error().text())] {
          if (!told_)
            emit problem(text);
          told_ = true;
        },
        Qt::QueuedConnection);
  });
}

void Autosave::saved() {
  kept_revision_ = session_.revision();
  write([this] { recovery_.discard(); });
}

} // namespace frelm
