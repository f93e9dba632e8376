// The practice cutter as a process of its own, and what it drew.
#pragma once

#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QTest>

#include "geom/along.h"
#include "send/send_job.h"

namespace frelm::test {

class CutterProcess {
public:
  explicit CutterProcess(const QStringList& options = {}, const QString& times = "3000") {
    process_.setProcessChannelMode(QProcess::MergedChannels);
    process_.start(FRELM_CUTTER, QStringList{"--quiet", "--strict", "--times", times, "--draw", drawing()} + options);
    while (!said_.contains('\n') && process_.waitForReadyRead(10'000))
      said_ += process_.readAll();
    const auto found = QRegularExpression("(127\\.0\\.0\\.1:\\d+|/dev/pts/\\d+)").match(said_);
    address_ = (options.contains("--serial") ? "serial:" : "tcp:") + found.captured(1);
  }
  ~CutterProcess() { end(); }
  std::string address() const { return address_.toStdString(); }
  QString drawing() const { return folder_.filePath("cut.json"); }
  qint64 id() const { return process_.processId(); }
  // It ends as by Ctrl+C, and writes what it cut.
  QJsonObject end() {
    if (process_.state() != QProcess::NotRunning) {
      process_.terminate();
      process_.waitForFinished(10'000);
    }
    QFile file(drawing());
    return file.open(QIODevice::ReadOnly) ? QJsonDocument::fromJson(file.readAll()).object() : QJsonObject();
  }
  // When all is cut, since its last answer comes before its last move.
  QJsonObject end_when_ready() {
    QTest::qWait(200);
    return end();
  }

private:
  QTemporaryDir folder_;
  QProcess process_;
  QString said_, address_;
};

inline std::vector<std::vector<Point>> strokes_of(const QJsonObject& drawing) {
  std::vector<std::vector<Point>> out;
  for (const QJsonValue& s : drawing["strokes"].toArray()) {
    std::vector<Point>& line = out.emplace_back();
    for (const QJsonValue& p : s["points"].toArray())
      line.push_back({p[0].toDouble(), p[1].toDouble()});
  }
  return out;
}

// Where the cutter is to draw: mm from its own origin, y up.
inline std::vector<std::vector<Point>> planned(const ToSend& work) {
  const Box& frame = work.drive.plan.sheet.frame;
  std::vector<std::vector<Point>> out;
  for (const HpglPath& p : work.program.paths) {
    std::vector<Point>& line = out.emplace_back();
    for (const Point q : p.places)
      line.push_back({q.x - frame.x0, frame.y1 - q.y});
  }
  return out;
}
inline double farthest(const std::vector<Point>& places, const std::vector<Point>& line) {
  double worst = 0;
  for (const Point p : places) {
    double best = 1e9;
    for (std::size_t i = 1; i < line.size(); ++i)
      best = std::min(best, distance_to_chord(line[i - 1], line[i], p));
    worst = std::max(worst, best);
  }
  return worst;
}
// How far the strokes are from the plan's, path by path, from `first` on.
inline double off(const std::vector<std::vector<Point>>& drawn, const std::vector<std::vector<Point>>& plan,
                  std::size_t first = 0) {
  if (drawn.size() != plan.size() - first)
    return 1e9;
  double worst = 0;
  for (std::size_t i = 0; i < drawn.size(); ++i)
    worst = std::max({worst, farthest(drawn[i], plan[first + i]), farthest(plan[first + i], drawn[i])});
  return worst;
}

} // namespace frelm::test
