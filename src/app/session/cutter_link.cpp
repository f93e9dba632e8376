#include "app/session/cutter_link.h"

#include "send/print_queue.h"
#include "send/send_to.h"

#include <QRegularExpression>
#include <QSerialPortInfo>
#include <QTimer>

namespace frelm {
namespace {

constexpr int start_within = 3000; // ms

} // namespace

CutterLink::CutterLink(Storage& storage, QString practice_program, QObject* parent)
    : QObject(parent), storage_(storage), practice_program_(std::move(practice_program)) {
  practice_.setProcessChannelMode(QProcess::MergedChannels);
  connect(&practice_, &QProcess::readyReadStandardOutput, this, [this] {
    practice_said_ += QString::fromUtf8(practice_.readAll());
    if (practice_at_.isEmpty())
      practice_at_ = QRegularExpression("127\\.0\\.0\\.1:\\d+(?=\\n)").match(practice_said_).captured(0);
    if (starting_ && !practice_at_.isEmpty())
      send_to("tcp:" + practice_at_.toStdString());
  });
  connect(&practice_, &QProcess::errorOccurred, this, &CutterLink::not_started);
  connect(&practice_, &QProcess::finished, this, [this] {
    practice_said_.clear(), practice_at_.clear();
    not_started();
  });
}

CutterLink::~CutterLink() {
  end();
  if (practice_.state() != QProcess::NotRunning) {
    practice_.terminate();
    practice_.waitForFinished(start_within);
  }
}

void CutterLink::end() {
  starting_ = false;
  looking_.request_stop();
  thread_.request_stop();
  if (thread_.joinable())
    thread_.join();
}

void CutterLink::look_for_queues() {
  if (looking_.joinable())
    return;
  looking_ = std::jthread([this](const std::stop_token& stop) {
    std::vector<std::string> queues = print_queues(stop);
    if (!queues.empty())
      mailbox_.post([this, queues = std::move(queues)]() mutable {
        queues_ = std::move(queues);
        emit found_changed();
      });
  });
}

std::vector<CutterAddress> CutterLink::found() const {
  std::vector<CutterAddress> out{{"practice", tr("Practice cutter, this machine")}};
  for (const QSerialPortInfo& port : QSerialPortInfo::availablePorts()) {
    const QString what = port.description().isEmpty() ? port.portName() : port.description();
    out.push_back({"serial:" + port.systemLocation().toStdString(), tr("%1, %2").arg(what, port.systemLocation())});
  }
  for (const std::string& queue : queues_)
    out.push_back({std::string(queue_prefix) + queue, tr("%1, printer queue").arg(QString::fromStdString(queue))});
  return out;
}

void CutterLink::start_practice() {
  starting_ = true;
  practice_.start(practice_program_, {"--quiet"});
  QTimer::singleShot(start_within, this, &CutterLink::not_started);
}

void CutterLink::not_started() {
  if (!std::exchange(starting_, false))
    return;
  running_ = false;
  report_.stopped =
      Error{ErrorCode::NotFound, FRELM_WORDS("core", "the practice cutter can't be started; is it installed?"), {}};
  emit changed();
}

void CutterLink::send(std::shared_ptr<const ToSend> work, const std::string& address, std::size_t first,
                      CutLogEntry entry, const std::string& log_file) {
  if (running_)
    return;
  report_ = {}, report_.next = first;
  work_ = std::move(work), address_ = address;
  state_ = {SendDoing::Cutting, first, 0};
  begun_ = {first, std::move(entry), log_file};
  running_ = true, pause_ = false;
  emit changed();
  if (address != "practice")
    send_to(address);
  else if (practice_at_.isEmpty())
    start_practice();
  else
    send_to("tcp:" + practice_at_.toStdString());
}

void CutterLink::send_to(const std::string& to) {
  starting_ = false;
  if (thread_.joinable())
    thread_.join(); // it has told that it is done
  thread_ = std::jthread([this, to, work = work_, begun = begun_](const std::stop_token& stop) {
    SendWatch watch;
    watch.stop = stop, watch.pause = &pause_;
    SendState told;
    auto told_at = std::chrono::steady_clock::time_point();
    watch.progress = [&](const SendState& state) {
      const auto now = std::chrono::steady_clock::now();
      if (state.doing == told.doing && state.path == told.path && now - told_at < std::chrono::milliseconds(100))
        return;
      told = state, told_at = now;
      mailbox_.post([this, state] {
        state_ = state;
        emit changed();
      });
    };
    SendReport report = frelm::send_to(to, work->program, begun.first, watch);
    if (!begun.log_file.empty() && (report.next > begun.first || !report.stopped)) {
      const CutLogEntry entry = ended_now(begun.entry, report, work->program.paths.size());
      if (const Result<Done> logged = add_to_cut_log(storage_, begun.log_file, entry); !logged && !report.stopped)
        report.stopped = logged.error();
    }
    mailbox_.post([this, report] {
      report_ = report, running_ = false, pause_ = false;
      emit changed();
    });
  });
}

void CutterLink::pause(bool on) {
  pause_ = on && running_;
  emit changed();
}

void CutterLink::cancel() {
  if (std::exchange(starting_, false)) {
    running_ = false;
    report_.stopped = Error{ErrorCode::Cancelled, FRELM_WORDS("core", "cancelled"), {}};
    emit changed();
    return;
  }
  thread_.request_stop();
}

} // namespace frelm
