#include "app/canvas/picture_maker.h"

namespace frelm {

PictureMaker::PictureMaker(std::function<void(PaintedPicture)> deliver) : deliver_(std::move(deliver)), worker_(2) {}

void PictureMaker::request(Picture picture, QSize size, double ratio, QRectF clip, std::uint64_t number) {
  worker_.request([=, this, picture = std::move(picture)](const std::stop_token&) {
    QImage image(size, QImage::Format_ARGB32_Premultiplied);
    image.setDevicePixelRatio(ratio);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    painter.setFont(picture.font);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setClipRect(clip);
    paint_pieces(painter, picture, paths_);
    painter.end();
    deliver_({std::move(image), picture.to_screen, number});
  });
}

} // namespace frelm
