// Scripts of this folder: references by fontTools, and what is made for tests with it.
#pragma once

#include <QProcess>

namespace frelm::test {

inline bool run_python(const QString& script, const QStringList& arguments) {
  QProcess python;
  python.start("/usr/bin/python3", QStringList{FRELM_SOURCE_DIR "/tests/reference/" + script} + arguments);
  return python.waitForFinished(120'000) && python.exitCode() == 0;
}

} // namespace frelm::test
