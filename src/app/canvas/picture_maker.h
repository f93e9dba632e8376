// Paints pictures of the pieces off the interface thread. Only the newest request counts; the picture shown meanwhile
// is the one before.
#pragma once

#include "app/canvas/painter.h"

#include <QImage>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <thread>

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
  ~PictureMaker();
  PictureMaker(const PictureMaker&) = delete;
  PictureMaker& operator=(const PictureMaker&) = delete;

  // size: device pixels; ratio: device pixels for each px; clip: px.
  void request(Picture picture, QSize size, double ratio, QRectF clip, std::uint64_t number);

private:
  struct Request {
    Picture picture;
    QSize size;
    double ratio = 1;
    QRectF clip;
    std::uint64_t number = 0;
  };
  void run(const std::stop_token& end);

  std::function<void(PaintedPicture)> deliver_;
  std::mutex mutex_;
  std::condition_variable_any wake_;
  std::optional<Request> waiting_;
  std::jthread thread_;
};

} // namespace frelm
