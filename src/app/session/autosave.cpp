#include "app/session/autosave.h"

#include "app/style/words.h"
#include "document/job_file.h"

namespace frelm {

Autosave::Autosave(Session& session, Storage& storage, const QString& folder, const AutosaveTimes& times)
    : session_(session), recovery_(folder.toStdString(), storage),
      writer_([this](const std::stop_token& end) { run(end); }) {
  rest_.setSingleShot(true);
  set_times(times);
  connect(&rest_, &QTimer::timeout, this, &Autosave::keep_now);
  connect(&longest_, &QTimer::timeout, this, &Autosave::keep_now);
  connect(&session, &Session::history_changed, this, &Autosave::edited);
}

Autosave::~Autosave() {
  writer_.request_stop();
  writer_.join();
}

void Autosave::set_times(const AutosaveTimes& times) {
  rest_.setInterval(times.rest_ms);
  longest_.setInterval(times.longest_ms);
}

void Autosave::edited() {
  if (session_.saved())
    return;
  rest_.start();
  if (!longest_.isActive())
    longest_.start();
}

void Autosave::do_next(std::function<void()> job) {
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
  const HistoryStep& step = session_.history().current();
  if (session_.saved() || (step.id == kept_step_ && session_.versions_number() == kept_versions_))
    return;
  kept_step_ = step.id, kept_versions_ = session_.versions_number();
  do_next(
      [this, id = step.id, document = step.document, versions = session_.versions(), path = job_path_.toStdString()] {
        const Result<Done> kept = recovery_.keep(path, write_job(document, session_.faces(), versions));
        if (kept)
          forget_superseded();
        mailbox_.post([this, kept, id] { told(kept, id); });
      });
}

void Autosave::told(const Result<Done>& kept, std::uint64_t step) {
  if (kept) {
    told_ = false;
    return;
  }
  if (kept_step_ == step) {
    kept_step_ = 0; // tried again
    rest_.start();
  }
  if (!told_)
    emit problem(words_of(kept.error()));
  told_ = true;
}

void Autosave::saved() {
  kept_step_ = session_.history().current().id, kept_versions_ = session_.versions_number();
  rest_.stop(), longest_.stop();
  do_next([this] {
    recovery_.discard();
    forget_superseded();
  });
}

void Autosave::forget_when_safe(RecoveredJob job) {
  {
    const std::lock_guard lock(mutex_);
    superseded_.push_back(std::move(job));
  }
  if (session_.saved())
    saved();
  else
    keep_now();
}

void Autosave::forget_superseded() {
  std::vector<RecoveredJob> gone;
  {
    const std::lock_guard lock(mutex_);
    gone.swap(superseded_);
  }
  for (const RecoveredJob& job : gone)
    recovery_.forget(job);
}

} // namespace frelm
