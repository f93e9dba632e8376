// Hundreds of pieces and more under the hand are not laid anew at every step: what rests and what is carried are each
// painted once, beside the window, and shown where the hand has them. When it lets go the pieces are moved, and these
// pictures stay until the new one is there.
#pragma once

#include "app/canvas/picture_maker.h"
#include "app/session/mailbox.h"

#include <set>

namespace frelm {

// More than so many are carried as pictures.
inline constexpr std::size_t most_laid_anew = 300;

class CarriedLayers {
public:
  // arrived: called on the interface thread when there is more to show.
  explicit CarriedLayers(std::function<void()> arrived);

  // all: the pieces as they stand; size: device pixels.
  void begin(const Picture& all, const std::set<PieceId>& carried, QSize size, double ratio, QRectF clip,
             std::uint64_t revision);
  bool held() const { return held_; }
  std::uint64_t revision() const { return revision_; } // of the document when it began
  void carry(Vec by) { by_ = by; }                     // mm
  // False: they are not there yet.
  bool paint(QPainter& painter, const QTransform& to_screen, QRectF clip) const;
  void end();

private:
  PictureMaker maker(PaintedPicture CarriedLayers::*into);

  std::function<void()> arrived_;
  bool held_ = false;
  Vec by_;
  std::uint64_t revision_ = 0, number_ = 0;
  PaintedPicture rest_, carried_;
  Mailbox mailbox_;
  PictureMaker rest_maker_, carried_maker_; // the last members: their threads end before what they use
};

} // namespace frelm
