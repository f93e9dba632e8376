// Small pictures of what was left behind, made on a thread of their own.
#pragma once

#include "app/session/mailbox.h"
#include "document/recovery.h"
#include "type/face_library.h"

#include <QImage>
#include <map>
#include <thread>

namespace frelm {

class RecoveryPictures final : public QObject {
  Q_OBJECT

public:
  RecoveryPictures(std::vector<RecoveredJob> jobs, const FaceLibrary& faces);
  // By the recovery file; null until it is made, or where nothing can be drawn.
  QImage of(const std::string& file) const;
  // px of the pictures, at most.
  static constexpr int width = 240;

signals:
  void made(const QString& file, const QImage& picture);

private:
  void make(const std::stop_token& stop, const FaceLibrary& faces, const std::vector<RecoveredJob>& jobs);

  std::map<std::string, QImage> made_;
  Mailbox mailbox_;
  std::jthread painter_;
};

} // namespace frelm
