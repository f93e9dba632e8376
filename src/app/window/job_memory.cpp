#include "app/window/job_memory.h"

#include <QCryptographicHash>
#include <QFileInfo>

namespace frelm {
namespace {

constexpr int most_jobs = 100;

QString id_of(const QString& job_path) {
  const QByteArray whole = QFileInfo(job_path).absoluteFilePath().toUtf8();
  return QString::fromLatin1(QCryptographicHash::hash(whole, QCryptographicHash::Sha1).toHex().left(20));
}

} // namespace

QString JobMemory::read(const QString& kind, const QString& job_path) const {
  return job_path.isEmpty() ? nameless_.value(kind) : settings_.value(kind + "/" + id_of(job_path)).toString();
}

void JobMemory::write(const QString& kind, const QString& job_path, const QString& text) {
  if (job_path.isEmpty()) {
    nameless_[kind] = text;
    return;
  }
  const QString id = id_of(job_path), order_key = kind + "/order";
  QStringList order = settings_.value(order_key).toStringList();
  order.removeAll(id);
  order.prepend(id);
  while (order.size() > most_jobs)
    settings_.remove(kind + "/" + order.takeLast());
  settings_.setValue(order_key, order);
  settings_.setValue(kind + "/" + id, text);
}

void JobMemory::named(const QString& job_path) {
  for (auto it = nameless_.cbegin(); it != nameless_.cend(); ++it)
    write(it.key(), job_path, it.value());
  nameless_.clear();
}

} // namespace frelm
