#include "app/start.h"

#include <QCoreApplication>
#include <QDir>
#include <QStandardPaths>
#include <malloc.h>

namespace frelm {

namespace {

// Left to itself, glibc serves ever larger blocks from heaps that can't shrink while anything lies behind them, one
// heap a thread or more. Large blocks on their own go back as soon as they are free; two heaps are enough for the
// window and the background. Of 111 MB in use at most, such heaps had kept 30 to 70.
void keep_memory_small() {
  constexpr int large = 128 * 1024; // bytes
  mallopt(M_MMAP_THRESHOLD, large);
  mallopt(M_TRIM_THRESHOLD, large);
  mallopt(M_ARENA_MAX, 2);
}

} // namespace

void prepare_application() {
  keep_memory_small();
  QCoreApplication::setOrganizationName("Frelm");
  QCoreApplication::setApplicationName("Frelm");
  QCoreApplication::setApplicationVersion(FRELM_VERSION);
}

QString data_folder(const QString& name) {
  const QString installed = QCoreApplication::applicationDirPath() + "/../share/frelm/" + name;
  if (QDir(installed).exists())
    return QDir::cleanPath(installed);
  return QString(FRELM_SOURCE_ASSETS) + "/" + name;
}

QString default_recovery_folder() {
  return QStandardPaths::writableLocation(QStandardPaths::AppLocalDataLocation) + "/recovery";
}

} // namespace frelm
