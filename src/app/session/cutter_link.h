// The cutter: where it may be, and a job that is being sent to it, beside the window.
//
// An address is one of send/wire's, "queue:NAME" (send/print_queue), or "practice": a practice cutter of our own is
// started on this machine then and ended with the window. What was cut is written into the log, however it ended.
#pragma once

#include "app/session/mailbox.h"
#include "document/storage.h"
#include "send/cut_log.h"
#include "send/send_job.h"

#include <QProcess>
#include <memory>
#include <thread>

namespace frelm {

struct CutterAddress {
  std::string address; // "tcp:…", "serial:…", "practice"
  QString name;
};

class CutterLink : public QObject {
  Q_OBJECT

public:
  CutterLink(Storage& storage, QString practice_program, QObject* parent = nullptr);
  ~CutterLink() override;
  void end(); // nothing runs when it returns

  // What can be found: the practice cutter, serial lines of this machine, and its printer queues once they are known.
  std::vector<CutterAddress> found() const;
  void look_for_queues(); // once, beside the window; found_changed when there are any
  // log_file: empty, none. What it is about is told by `entry`.
  void send(std::shared_ptr<const ToSend> work, const std::string& address, std::size_t first, CutLogEntry entry,
            const std::string& log_file);
  bool running() const { return running_; }
  bool paused() const { return pause_; }
  void pause(bool on);
  void cancel(); // the blade is lifted
  const SendState& state() const { return state_; }
  // Of the last one; while it runs that of the one before.
  const SendReport& report() const { return report_; }
  const std::shared_ptr<const ToSend>& work() const { return work_; } // null: nothing was sent yet
  const std::string& address() const { return address_; }
  QProcess& practice() { return practice_; }

signals:
  void changed(); // state or report
  void found_changed();

private:
  void start_practice(); // which says where it is
  void send_to(const std::string& address);
  void not_started();

  Storage& storage_;
  QString practice_program_, practice_said_, practice_at_;
  QProcess practice_;
  bool running_ = false;
  std::atomic<bool> pause_ = false;
  SendState state_;
  SendReport report_;
  std::shared_ptr<const ToSend> work_;
  std::string address_;
  struct Begun { // what is sent, while its cutter starts
    std::size_t first = 0;
    CutLogEntry entry;
    std::string log_file;
  };
  Begun begun_;
  bool starting_ = false;
  std::vector<std::string> queues_;
  Mailbox mailbox_;
  std::jthread looking_, thread_; // the last members: they end before what they use
};

} // namespace frelm
