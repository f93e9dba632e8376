// What the painters of the canvas share: pens, places in px, lines with their direction.
#pragma once

#include "app/canvas/painter.h"

namespace frelm {

template <class View> QPointF map(const View& view, Point p) {
  return view.to_screen.map(QPointF(p.x, p.y));
}
QPen line_pen(const QColor& colour, double width);
QPen guide_pen(const QColor& colour);
QPainterPath path_along(const Curve& curve, const QTransform& to_screen);
// A guide's line with its start mark and chevrons for its direction; path: the curve's, in px.
void paint_line(QPainter& painter, const QTransform& to_screen, double px_per_mm, const Curve& curve,
                const QPainterPath& path, const QColor& colour);

} // namespace frelm
