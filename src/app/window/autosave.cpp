#include "app/window/autosave.h"

#include "document/job_file.h"

namespace frelm {

Autosave::Autosave(Session& session, const QString& folder, int interval_ms, QObject* parent)
    : QObject(parent), session_(session), recovery_(folder.toStdString(), storage_) {
  connect(&timer_, &QTimer::timeout, this, &Autosave::keep_now);
  timer_.start(interval_ms);
}

Autosave::~Autosave() {
  if (writer_.joinable())
    writer_.join();
}

void Autosave::keep_now() {
  if (session_.history().is_saved() || session_.revision() == kept_revision_)
    return;
  if (writer_.joinable())
    writer_.join();
  kept_revision_ = session_.revision();
  writer_ = std::jthread([this, document = session_.history().current().document, path = job_path_.toStdString()] {
    const Result<Done> kept = recovery_.keep(path, write_job(document, session_.faces()));
    if (kept)
      return;
    QMetaObject::invokeMethod(
        this,
        [this, text = QString::fromStdString(kept.error().text())] {
          if (!told_)
            emit problem(text);
          told_ = true;
        },
        Qt::QueuedConnection);
  });
}

void Autosave::saved() {
  if (writer_.joinable())
    writer_.join();
  recovery_.discard();
  kept_revision_ = session_.revision();
}

} // namespace frelm
