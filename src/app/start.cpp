#include "app/start.h"

#include <QCoreApplication>
#include <QDir>
#include <QStandardPaths>

namespace frelm {

void prepare_application() {
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
