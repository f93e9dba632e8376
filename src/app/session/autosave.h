// Autosave: the job as it stands goes into the recovery file soon after the hand rests, every so often while it does
// not, and before risky steps, as long as it differs from what is saved. The disk is touched on a thread of its own
// only: a slow disk never holds up the window. A write that fails is tried again, and told once.
#pragma once

#include "app/session/mailbox.h"
#include "app/session/session.h"
#include "document/recovery.h"

#include <QTimer>

namespace frelm {

struct AutosaveTimes {
  int rest_ms = 2000;      // after the last edit
  int longest_ms = 15'000; // while edits go on
};

class Autosave : public QObject {
  Q_OBJECT

public:
  // The session and the storage outlive it.
  Autosave(Session& session, Storage& storage, const QString& folder, const AutosaveTimes& times);
  ~Autosave() override; // what waits is still done

  void set_times(const AutosaveTimes& times);
  void set_job_path(const QString& path) { job_path_ = path; }
  void keep_now(); // if anything is unsaved
  void saved();    // nothing to recover
  // Goes once what is in the window now is safe: kept, or saved.
  void forget_when_safe(RecoveredJob job);
  Recovery& recovery() { return recovery_; }

signals:
  void problem(const QString& text);

private:
  void edited();
  void do_next(std::function<void()> job);
  void run(const std::stop_token& end);
  void forget_superseded();
  void told(const Result<Done>& kept, std::uint64_t step);

  Session& session_;
  Recovery recovery_;
  QString job_path_;
  QTimer rest_, longest_;
  std::uint64_t kept_step_ = 0; // of the history
  std::uint64_t kept_versions_ = 0;
  bool told_ = false;
  // The newest piece of disk work that waits; an older one that has not begun is not worth doing any more.
  std::mutex mutex_;
  std::condition_variable_any wake_;
  std::function<void()> waiting_;
  std::vector<RecoveredJob> superseded_;
  Mailbox mailbox_;
  std::jthread writer_;
};

} // namespace frelm
