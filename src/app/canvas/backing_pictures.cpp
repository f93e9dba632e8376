#include "app/canvas/backing_pictures.h"

#include <cmath>

namespace frelm {

const QImage& BackingPictures::picture(const std::shared_ptr<const PictureFile>& file, double px_per_px) {
  std::erase_if(entries_, [](const auto& e) { return e.second.alive.expired(); });
  Entry& entry = entries_[file.get()];
  if (entry.halves.empty()) {
    entry.alive = file;
    entry.halves.push_back(
        QImage::fromData(reinterpret_cast<const uchar*>(file->bytes.data()), static_cast<int>(file->bytes.size()))
            .convertToFormat(QImage::Format_ARGB32_Premultiplied));
  }
  std::size_t level = 0;
  for (; px_per_px <= 0.5 && entry.halves[level].width() > 1 && entry.halves[level].height() > 1; px_per_px *= 2) {
    if (++level == entry.halves.size()) {
      const QImage& larger = entry.halves.back();
      entry.halves.push_back(
          larger.scaled(larger.width() / 2, larger.height() / 2, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
    }
  }
  return entry.halves[level];
}

void BackingPictures::paint(QPainter& painter, const std::vector<Backing>& backings, const QTransform& to_screen) {
  painter.save();
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  for (const Backing& b : backings) {
    if (!b.visible)
      continue;
    const QTransform to_px = QTransform(b.place.a, b.place.b, b.place.c, b.place.d, b.place.e, b.place.f) * to_screen;
    const double ratio = painter.device()->devicePixelRatioF();
    const QImage& image = picture(b.picture, std::hypot(to_px.m11(), to_px.m12()) * ratio);
    if (image.isNull())
      continue;
    painter.setTransform(
        QTransform::fromScale(double(b.picture->width) / image.width(), double(b.picture->height) / image.height()) *
        to_px);
    painter.setOpacity(b.strength);
    painter.drawImage(0, 0, image);
  }
  painter.restore();
}

} // namespace frelm
