#pragma once

#include <QJsonArray>
#include <QJsonDocument>
#include <QProcess>

namespace frelm::test {

// See glyph_points.py.
inline QJsonArray glyph_points(const QString& face) {
  QProcess python;
  python.start("/usr/bin/python3", {FRELM_SOURCE_DIR "/tests/reference/glyph_points.py", face});
  python.waitForFinished(120'000);
  return QJsonDocument::fromJson(python.readAllStandardOutput()).array();
}

} // namespace frelm::test
