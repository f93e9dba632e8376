#pragma once

#include <QJsonDocument>
#include <QJsonObject>
#include <QProcess>

namespace frelm::test {

// See svg_extents.py.
inline QJsonObject svg_extents(const QString& file) {
  QProcess python;
  python.start("/usr/bin/python3", {FRELM_SOURCE_DIR "/tests/reference/svg_extents.py", file});
  python.waitForFinished(30000);
  return QJsonDocument::fromJson(python.readAllStandardOutput()).object();
}

} // namespace frelm::test
