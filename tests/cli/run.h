// The command line, run as a program.
#pragma once

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>

namespace frelm::test {

struct Ran {
  int code = -1;
  QByteArray out, err;
  QJsonObject json() const { return QJsonDocument::fromJson(out).object(); }
};
inline Ran run(const QStringList& arguments) {
  QProcess p;
  p.start(FRELM_CLI, arguments);
  p.waitForFinished(60'000);
  return {p.exitCode(), p.readAllStandardOutput(), p.readAllStandardError()};
}

} // namespace frelm::test
