#include "app/canvas/resting_layers.h"

namespace frelm {
namespace {

constexpr int frames_looked_at = 4;

QPixmap blank_like(const QPixmap& backdrop) {
  QPixmap out(backdrop.size());
  out.setDevicePixelRatio(backdrop.devicePixelRatio());
  out.fill(Qt::transparent);
  return out;
}

} // namespace

void RestingLayers::forget() {
  before_.clear();
  made_ = false;
  under_ = over_ = {};
}

void RestingLayers::make(const QPixmap& backdrop, const Picture& picture, PathCache& paths, const QRectF& clip) {
  if (between_.empty()) // all lies under
    between_ = {picture.pieces.size(), picture.pieces.size()};
  const auto layer = [&](QPixmap on, std::size_t first, std::size_t last) {
    QPainter painter(&on);
    painter.setFont(picture.font);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setClipRect(clip);
    for (std::size_t i = first; i < last; ++i)
      paint_piece(painter, picture, paths, picture.pieces[i]);
    return on;
  };
  under_ = layer(backdrop, 0, between_.first);
  over_ = between_.last < picture.pieces.size() ? layer(blank_like(backdrop), between_.last, picture.pieces.size())
                                                : QPixmap();
  made_ = true;
  lately_ = {};
  frames_ = 0;
}

void RestingLayers::paint(QPainter& painter, const QPixmap& backdrop, const Picture& picture, PathCache& paths,
                          const QRectF& clip, bool surroundings_changed) {
  const std::size_t n = picture.pieces.size();
  if (surroundings_changed || before_.size() != n || view_ != picture.view || materials_ != picture.materials) {
    forget();
  } else {
    Range changed;
    for (std::size_t i = 0; i < n; ++i)
      if (picture.pieces[i] != before_[i] || (!made_ && picture.pieces[i].chosen))
        changed.add(i);
    lately_.add(changed);
    if (!made_ || !between_.holds(changed)) {
      between_ = changed;
      make(backdrop, picture, paths, clip);
    } else if (++frames_ % frames_looked_at == 0) { // less has changed than is painted each time?
      if (!between_.empty() && lately_ != between_ && between_.holds(lately_)) {
        between_ = lately_;
        make(backdrop, picture, paths, clip);
      }
      lately_ = {};
    }
  }
  before_ = picture.pieces;
  view_ = picture.view, materials_ = picture.materials;
  painter.drawPixmap(0, 0, made_ ? under_ : backdrop);
  painter.save();
  painter.setClipRect(clip);
  for (std::size_t i = made_ ? between_.first : 0; i < (made_ ? between_.last : n); ++i)
    paint_piece(painter, picture, paths, picture.pieces[i]);
  if (made_ && !over_.isNull())
    painter.drawPixmap(0, 0, over_);
  painter.restore();
}

} // namespace frelm
