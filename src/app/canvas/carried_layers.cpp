#include "app/canvas/carried_layers.h"

namespace frelm {

CarriedLayers::CarriedLayers(std::function<void()> arrived)
    : arrived_(std::move(arrived)), rest_maker_(maker(&CarriedLayers::rest_)),
      carried_maker_(maker(&CarriedLayers::carried_)) {}

PictureMaker CarriedLayers::maker(PaintedPicture CarriedLayers::*into) {
  return PictureMaker([this, into](PaintedPicture picture) {
    mailbox_.post([this, into, picture = std::move(picture)]() mutable {
      if (!held_ || picture.number != number_)
        return;
      this->*into = std::move(picture);
      arrived_();
    });
  });
}

void CarriedLayers::begin(const Picture& all, const std::set<PieceId>& carried, QSize size, double ratio, QRectF clip,
                          std::uint64_t revision) {
  held_ = true, revision_ = revision, by_ = {};
  rest_ = {}, carried_ = {};
  ++number_;
  Picture rest = all, moving = all;
  std::erase_if(rest.pieces, [&](const PaintedPiece& p) { return carried.contains(p.piece->id); });
  std::erase_if(moving.pieces, [&](const PaintedPiece& p) { return !carried.contains(p.piece->id); });
  rest_maker_.request(std::move(rest), size, ratio, clip, number_);
  carried_maker_.request(std::move(moving), size, ratio, clip, number_);
}

bool CarriedLayers::paint(QPainter& painter, const QTransform& to_screen, QRectF clip) const {
  if (!held_ || rest_.image.isNull() || carried_.image.isNull())
    return false;
  painter.save();
  painter.setClipRect(clip);
  for (const auto& [picture, by] : {std::pair{&rest_, Vec{}}, std::pair{&carried_, by_}}) {
    painter.save();
    painter.setTransform(picture->to_screen.inverted() * QTransform::fromTranslate(by.x, by.y) * to_screen, true);
    painter.drawImage(QPointF(0, 0), picture->image);
    painter.restore();
  }
  painter.restore();
  return true;
}

void CarriedLayers::end() {
  held_ = false;
  rest_ = {}, carried_ = {};
}

} // namespace frelm
