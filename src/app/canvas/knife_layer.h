// The planned cut over the pieces: what is cut by now, the way from line to line, where lines begin, the knife.
//
// Lines that are whole are kept in a picture while time goes on; it is made anew when the view changes or time goes
// back. Numbers stand where there is room, and at the path that is lit.
#pragma once

#include "app/session/knife_plan.h"

#include <QPainter>
#include <QPixmap>

namespace frelm {

class KnifeLayer {
public:
  explicit KnifeLayer(const KnifePlan& knife) : knife_(knife) {}
  void paint(QPainter& painter, const QTransform& to_screen, double px_per_mm, const QRectF& clip);
  // The path whose line passes within some px of this place (px).
  std::optional<std::size_t> path_at(QPointF px, const QTransform& to_screen, double px_per_mm) const;

private:
  void paint_panels(QPainter& painter, const QTransform& to_screen) const;
  void paint_whole(QSize size, double ratio, const QTransform& to_screen, std::size_t count);

  const KnifePlan& knife_;
  QPixmap whole_;
  QTransform to_screen_;
  std::shared_ptr<const PlannedCut> of_;
  std::size_t count_ = 0; // paths in the picture
  bool dark_ = false;
};

} // namespace frelm
