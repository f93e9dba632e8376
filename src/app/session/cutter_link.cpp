#include "app/session/cutter_link.h"

#include <QRegularExpression>
#include <QSerialPortInfo>

namespace frelm {
namespace {

constexpr int start_within = 3000; // ms

} // namespace

CutterLink::CutterLink(Storage& storage, QString practice_program, QObject* parent)
    : QObject(parent), storage_(storage), practice_program_(std::move(practice_program)) {}

CutterLink::~CutterLink() {
  end();
  if (practice_.state() != QProcess::NotRunning) {
    practice_.terminate();
    practice_.waitForFinished(start_within);
  }
}

void CutterLink::end() {
  cancel();
  if (thread_.joinable())
    thread_.join();
}

std::vector<CutterAddress> CutterLink::found() {
  std::vector<CutterAddress> out{{"practice", tr("Practice cutter, this machine")}};
  for (const QSerialPortInfo& port : QSerialPortInfo::availablePorts()) {
    const QString what = port.description().isEmpty() ? port.portName() : port.description();
    out.push_back({"serial:" + port.systemLocation().toStdString(), tr("%1, %2").arg(what, port.systemLocation())});
  }
  return out;
}

std::optional<std::string> CutterLink::practice_address() {
  if (practice_.state() != QProcess::Running) {
    practice_.setProcessChannelMode(QProcess::MergedChannels);
    practice_.start(practice_program_, {"--quiet"});
    QString said;
    while (!said.contains('\n') && practice_.waitForReadyRead(start_within))
      said += QString::fromUtf8(practice_.readAll());
    practice_at_ = QRegularExpression("127\\.0\\.0\\.1:\\d+").match(said).captured(0);
  }
  return practice_at_.isEmpty() ? std::nullopt : std::optional("tcp:" + practice_at_.toStdString());
}

void CutterLink::send(std::shared_ptr<const ToSend> work, const std::string& address, std::size_t first,
                      CutLogEntry entry, const std::string& log_file) {
  if (running_)
    return;
  std::string to = address;
  report_ = {}, report_.next = first;
  work_ = work, address_ = address;
  state_ = {SendDoing::Cutting, first, 0};
  if (address == "practice") {
    const auto practice = practice_address();
    if (!practice) {
      report_.stopped =
          Error{ErrorCode::NotFound, FRELM_WORDS("core", "the practice cutter can't be started; is it installed?"), {}};
      emit changed();
      return;
    }
    to = *practice;
  }
  running_ = true, pause_ = false;
  emit changed();
  if (thread_.joinable())
    thread_.join();
  thread_ = std::jthread([this, work = std::move(work), to, first, entry = std::move(entry),
                          log_file](const std::stop_token& stop) mutable {
    SendReport report;
    report.next = first;
    const Result<std::unique_ptr<CutterWire>> wire = open_wire(to);
    if (!wire)
      report.stopped = wire.error();
    else {
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
      report = send_program(work->program, first, **wire, watch);
    }
    entry.when = time_now(), entry.paths = report.next, entry.whole_paths = work->program.paths.size();
    entry.cut = report.cut, entry.seconds = report.seconds;
    entry.ended = report.stopped ? report.stopped->text() : "";
    if (!log_file.empty() && (report.next > first || !report.stopped))
      if (const Result<Done> logged = add_to_cut_log(storage_, log_file, entry); !logged && !report.stopped)
        report.stopped = logged.error();
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
  thread_.request_stop();
}

} // namespace frelm
