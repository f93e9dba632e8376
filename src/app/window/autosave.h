// Autosave: the job as it stands goes into the recovery file every minute while it differs from what is saved, and
// before risky steps. The disk is touched on a thread of its own only: a slow disk never holds up the window.
#pragma once

#include "app/window/session.h"
#include "document/recovery.h"

#include <QTimer>

namespace frelm {

class Autosave : public QObject {
  Q_OBJECT

public:
  Autosave(Session& session, const QString& folder, int interval_ms, QObject* parent = nullptr);
  ~Autosave() override;

  void set_job_path(const QString& path) { job_path_ = path; }
  void keep_now(); // if anything is unsaved
  void saved();    // nothing to recover
  Recovery& recovery() { return recovery_; }

signals:
  void problem(const QString& text);

private:
  void write(std::function<void()> job);
  void run(const std::stop_token& end);

  Session& session_;
  DiskStorage storage_;
  Recovery recovery_;
  QString job_path_;
  QTimer timer_;
  std::uint64_t kept_revision_ = 0;
  bool told_ = false;
  // The newest piece of disk work that waits; an older one that has not begun is not worth doing any more.
  std::mutex mutex_;
  std::condition_variable_any wake_;
  std::function<void()> waiting_;
  std::jthread writer_;
};

} // namespace frelm
