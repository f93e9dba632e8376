#include "app/strip/gap_marks.h"

#include "app/style/scheme.h"

namespace frelm {
namespace {

void paint_rings(QPainter& painter, QPointF at, const QColor& colour, double apart) {
  painter.setPen(QPen(colour, 1.6));
  painter.setBrush(Qt::NoBrush);
  for (const double side : {-1.0, 1.0})
    painter.drawEllipse(at + QPointF(side * apart, 0), 3.2, 3.2);
}

} // namespace

void paint_gap_mark(QPainter& painter, QPointF at, const GapMark& mark) {
  const Scheme& s = scheme();
  const QColor colour = mark.look == GapLook::Wide                                    ? s.amber
                        : mark.look == GapLook::Tight                                 ? s.plum
                        : mark.look == GapLook::Joined                                ? s.teal
                        : mark.look == GapLook::Lost || mark.look == GapLook::Crashed ? s.brick
                                                                                      : s.muted;
  const QFontMetricsF metrics(painter.font());
  if (mark.chosen) {
    const double w = std::max({mark.half + 4, metrics.horizontalAdvance(mark.number) / 2 + 4, 9.0});
    painter.setPen(QPen(s.teal, 1));
    painter.setBrush(s.teal_soft);
    painter.drawRoundedRect(QRectF(at.x() - w, at.y() - 6.5, 2 * w, 15 + metrics.height()), 4, 4);
  }
  painter.setBrush(Qt::NoBrush);
  const double h = mark.half, up = at.y() - 4, down = at.y() + 3;
  switch (mark.look) {
  case GapLook::Joined:
    paint_rings(painter, at, colour, 2.2);
    break;
  case GapLook::Lost:
    paint_rings(painter, at, colour, 5);
    break;
  case GapLook::Crashed:
    painter.setPen(QPen(colour, 2));
    painter.drawLine(at + QPointF(-4, -4), at + QPointF(4, 4));
    painter.drawLine(at + QPointF(-4, 4), at + QPointF(4, -4));
    break;
  default: {
    const double bent = mark.look == GapLook::Wide ? 4 : mark.look == GapLook::Tight ? -std::min(4.0, h * 0.6) : 0;
    QPen pen(colour, bent != 0 ? 2 : 1.1);
    if (mark.word_space)
      pen.setDashPattern({2, 2});
    painter.setPen(pen);
    painter.drawPolyline(QPolygonF{QPointF(at.x() - h - bent, up), QPointF(at.x() - h, down), QPointF(at.x() + h, down),
                                   QPointF(at.x() + h + bent, up)});
  }
  }
  if (mark.by_hand) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(s.amber);
    painter.drawPolygon(
        QPolygonF{at + QPointF(0, -6.5), at + QPointF(3.2, -3), at + QPointF(0, 0.5), at + QPointF(-3.2, -3)});
  }
  if (mark.number.isEmpty())
    return;
  const bool loud = mark.look == GapLook::Wide || mark.look == GapLook::Tight;
  painter.setPen(mark.too_narrow ? s.brick
                 : loud          ? (mark.look == GapLook::Wide && !s.dark ? s.text : colour)
                                 : s.muted);
  QFont font = painter.font();
  const QFont plain = font;
  font.setBold(loud || mark.too_narrow || mark.chosen);
  painter.setFont(font);
  painter.drawText(QRectF(at.x() - 40, at.y() + 5, 80, metrics.height()), Qt::AlignHCenter | Qt::AlignTop, mark.number);
  painter.setFont(plain);
}

} // namespace frelm
