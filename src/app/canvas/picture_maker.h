// Paints pictures of the pieces off the interface thread. Only the newest request counts; the picture shown meanwhile
// is the one before.
#pragma once

#include "app/canvas/painter.h"
#include "app/session/newest_worker.h"

#include <QImage>
#include <functional>

namespace frelm {

struct PaintedPicture {
  QImage image;
  QTransform to_screen; // it was painted with
  std::uint64_t number = 0;
};

class PictureMaker {
public:
  // deliver is called on the painter's thread.
  explicit PictureMaker(std::function<void(PaintedPicture)> deliver);
  // size: device pixels; ratio: device pixels for each px; clip: px.
  void request(Picture picture, QSize size, double ratio, QRectF clip, std::uint64_t number);

private:
  std::function<void(PaintedPicture)> deliver_;
  PathCache paths_;     // of the painter's thread
  NewestWorker worker_; // the last member: its thread ends before what it uses
};

} // namespace frelm
