// What lies on the bench over the pieces and is never cut: ruler lines and dimension marks.
#include "app/canvas/pens.h"

#include "app/style/scheme.h"
#include "document/ruler_lines.h"

namespace frelm {
namespace {

void paint_mark(QPainter& painter, const Scene& scene, const MarkDrawn& mark) {
  const QPointF a = map(scene, mark.from), b = map(scene, mark.to);
  const QPointF from = map(scene, mark.line_from), to = map(scene, mark.line_to), v = to - from;
  const double l = std::hypot(v.x(), v.y());
  if (l < 1)
    return;
  const QPointF along = v / l, out = from - a;
  const double far = std::hypot(out.x(), out.y());
  const QPointF away = far > 0 ? out / far : QPointF(along.y(), -along.x());
  const QPointF oblique = along + QPointF(along.y(), -along.x()); // at 45°, as ISO 129-1 has it
  const Scheme& s = scheme();
  constexpr double begin = 3, beyond = 5, tick = 5; // px
  QColor faint = s.sheet_ink;
  faint.setAlphaF(0.55f);
  painter.setPen(line_pen(faint, 1));
  for (const auto& [work, end] : {std::pair{a, from}, std::pair{b, to}})
    if (far > begin)
      painter.drawLine(work + away * begin, end + away * beyond);
  QColor halo = s.sheet; // dark letters may lie under it
  halo.setAlphaF(0.8f);
  for (const QPen& pen : {line_pen(halo, 4), line_pen(s.sheet_ink, 1.2)}) {
    painter.setPen(pen);
    painter.drawLine(from, to);
    for (const QPointF& end : {from, to})
      painter.drawLine(end - oblique * tick, end + oblique * tick);
  }
  const Unit unit = scene.session.shown().unit;
  const QString words = QString("%1 %2").arg(length_text(mark.length, unit), unit_name(unit));
  painter.save();
  painter.translate(map(scene, mark.middle));
  painter.rotate(mark.angle);
  const QFontMetricsF metrics(painter.font());
  const double w = metrics.horizontalAdvance(words) + 8, h = metrics.height();
  // Above the line, with a ground of its own: letters may lie under it.
  const QRectF ground(-w / 2, -h - 3, w, h);
  QColor wash = s.sheet;
  wash.setAlpha(215);
  painter.setPen(Qt::NoPen);
  painter.setBrush(wash);
  painter.drawRoundedRect(ground, 3, 3);
  painter.setPen(s.sheet_ink);
  painter.drawText(ground, Qt::AlignCenter, words);
  painter.restore();
}

} // namespace

void paint_bench(QPainter& painter, const Scene& scene, const Box& seen) {
  const Document& d = scene.session.shown();
  for (const RulerLine& line : d.ruler_lines)
    if (const auto part = part_inside(line, seen)) {
      QColor colour("#6c3f7a");
      colour.setAlphaF(line.locked ? 0.4f : 0.75f);
      painter.setPen(line_pen(colour, 1));
      painter.drawLine(map(scene, part->first), map(scene, part->second));
    }
  for (const DimensionMark& m : d.marks)
    if (const auto at = drawn(d, m, scene.session.evaluator()))
      paint_mark(painter, scene, *at);
}

} // namespace frelm
