#include "app/canvas/picture_maker.h"

#include "app/window/priority.h"

namespace frelm {

PictureMaker::PictureMaker(std::function<void(PaintedPicture)> deliver)
    : deliver_(std::move(deliver)), thread_([this](const std::stop_token& end) { run(end); }) {}

PictureMaker::~PictureMaker() {
  thread_.request_stop();
  wake_.notify_all();
}

void PictureMaker::request(Picture picture, QSize size, double ratio, QRectF clip, std::uint64_t number) {
  {
    const std::lock_guard lock(mutex_);
    waiting_ = Request{std::move(picture), size, ratio, clip, number};
  }
  wake_.notify_all();
}

void PictureMaker::run(const std::stop_token& end) {
  give_way(2);
  PathCache paths;
  while (!end.stop_requested()) {
    Request request;
    {
      std::unique_lock lock(mutex_);
      if (!wake_.wait(lock, end, [this] { return waiting_.has_value(); }))
        return;
      request = std::move(*waiting_);
      waiting_.reset();
    }
    QImage image(request.size, QImage::Format_ARGB32_Premultiplied);
    image.setDevicePixelRatio(request.ratio);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    painter.setFont(request.picture.font);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setClipRect(request.clip);
    paint_pieces(painter, request.picture, paths);
    painter.end();
    deliver_({std::move(image), request.picture.to_screen, request.number});
  }
}

} // namespace frelm
