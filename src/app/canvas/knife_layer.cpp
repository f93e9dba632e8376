#include "app/canvas/knife_layer.h"

#include "app/style/scheme.h"
#include "cutting/dragged_blade.h"
#include "geom/along.h"

#include <QPaintDevice>

namespace frelm {
namespace {

constexpr double least_way = 10;       // px: shorter ways from line to line are not drawn
constexpr std::size_t most_ways = 600; // beyond, only those that are long
constexpr double long_way = 60;        // px
constexpr std::size_t most_marked = 300;
constexpr double tip_shown = 1.5; // px that a blade trails, from which on its axis has a line of its own
constexpr double reach = 6;       // px

QPolygonF on_screen(const std::vector<Point>& line, const QTransform& to_screen) {
  QPolygonF out;
  out.reserve(static_cast<qsizetype>(line.size()));
  for (const Point p : line)
    if (const QPointF q = to_screen.map(QPointF(p.x, p.y)); out.isEmpty() || QLineF(out.back(), q).length() > 0.25)
      out << q;
  return out;
}
QPen cut_pen() {
  QPen pen(scheme().sheet_ink, 2);
  pen.setJoinStyle(Qt::RoundJoin), pen.setCapStyle(Qt::RoundCap);
  return pen;
}

} // namespace

void KnifeLayer::paint_whole(QSize size, double ratio, const QTransform& to_screen, std::size_t count) {
  const std::shared_ptr<const PlannedCut>& plan = knife_.plan();
  const bool same = of_ == plan && to_screen_ == to_screen && whole_.size() == size && dark_ == scheme().dark &&
                    whole_.devicePixelRatio() == ratio;
  if (!same || count < count_) {
    whole_ = QPixmap(size);
    whole_.setDevicePixelRatio(ratio);
    whole_.fill(Qt::transparent);
    of_ = plan, to_screen_ = to_screen, dark_ = scheme().dark, count_ = 0;
  }
  QPainter painter(&whole_);
  painter.setRenderHint(QPainter::Antialiasing);
  const QRectF seen(QPointF(0, 0), QSizeF(size) / ratio);
  for (; count_ < count; ++count_) {
    const QPolygonF axis = on_screen(plan->times.legs()[count_].line, to_screen);
    if (!axis.boundingRect().adjusted(-2, -2, 2, 2).intersects(seen))
      continue;
    painter.setPen(cut_pen());
    const double tip = plan->tips[count_];
    const double shown = tip * std::hypot(to_screen.m11(), to_screen.m12());
    if (shown < tip_shown) {
      painter.drawPolyline(axis);
      continue;
    }
    painter.drawPolyline(
        on_screen(dragged_tip(plan->times.legs()[count_].line, tip, plan->drive.heading[count_]), to_screen));
    painter.setPen(QPen(scheme().brick, 0.8));
    painter.drawPolyline(axis);
  }
}

// Each with its number.
void KnifeLayer::paint_panels(QPainter& painter, const QTransform& to_screen) const {
  const std::vector<Box>& panels = knife_.plan()->panels;
  constexpr double beside = 6; // px
  for (std::size_t i = 0; i < panels.size(); ++i) {
    const Box& b = panels[i];
    if (b.empty())
      continue;
    const QRectF box =
        to_screen.mapRect(QRectF(b.x0, b.y0, b.width(), b.height())).adjusted(-beside, -beside, beside, beside);
    painter.setPen(QPen(scheme().teal, 1, Qt::DotLine));
    painter.setBrush(scheme().sheet); // that lines show on, beside the sheet too
    painter.drawRect(box);
    painter.drawText(box.topLeft() - QPointF(0, beside), KnifePlan::tr("Panel %1 of %2").arg(i + 1).arg(panels.size()));
  }
}

void KnifeLayer::paint(QPainter& painter, const QTransform& to_screen, double px_per_mm, const QRectF& clip) {
  const std::shared_ptr<const PlannedCut>& plan = knife_.plan();
  if (plan == nullptr || plan->times.legs().empty())
    return;
  painter.save();
  painter.setClipRect(clip);
  const std::vector<CutLeg>& legs = plan->times.legs();
  const auto px = [&](Point p) { return to_screen.map(QPointF(p.x, p.y)); };
  const double now = knife_.time();
  const CutMoment moment = knife_.now();
  paint_panels(painter, to_screen);
  // The ways from line to line.
  QPen way(scheme().amber, 1);
  way.setDashPattern({5, 3});
  painter.setPen(way);
  const bool many = legs.size() > most_ways;
  const std::vector<std::size_t> tools = tools_of(plan->drive.plan);
  std::optional<std::size_t> tool;
  for (std::size_t i = 0; i < legs.size(); ++i) {
    const std::size_t of = tools[plan->drive.plan.layer_of[plan->drive.plan.order[i].piece]];
    const Box& frame = plan->drive.plan.sheet.frame;
    const Point from = tool == of && i > 0 ? legs[i - 1].line.back() : Point{frame.x0, frame.y1};
    tool = of;
    const QLineF line(px(from), px(legs[i].line.front()));
    if (line.length() > (many ? long_way : least_way))
      painter.drawLine(line);
  }
  // What is cut.
  std::size_t whole = moment.path;
  if (now >= legs[moment.path].up)
    ++whole;
  const QPaintDevice* device = painter.device();
  const double ratio = device->devicePixelRatioF();
  paint_whole(QSize(device->width(), device->height()) * ratio, ratio, to_screen, whole);
  painter.drawPixmap(0, 0, whole_);
  if (whole < legs.size() && now > legs[whole].down) {
    painter.setPen(cut_pen());
    painter.drawPolyline(on_screen(plan->times.cut_of(whole, now), to_screen));
  }
  // Where they begin, each with its number where there is room.
  QFont font = painter.font();
  font.setPointSizeF(font.pointSizeF() * 0.85);
  painter.setFont(font);
  const QFontMetricsF metrics(font);
  std::vector<QRectF> taken;
  const auto free = [&](const QRectF& box) {
    return std::none_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.intersects(box); });
  };
  // Of hundreds only those that are large on the screen have marks: more come as one zooms in.
  const bool hundreds = legs.size() > most_marked;
  const double least_marked = hundreds ? 70 : 0, least_numbered = hundreds ? 160 : 40; // px along the line
  const auto begins = [&](std::size_t i, bool always) {
    const QPointF p = px(legs[i].line.front());
    const QString number = QString::number(i + 1);
    const QRectF dot(p - QPointF(3.5, 3.5), QSizeF(7, 7));
    const QRectF box(p.x() - metrics.horizontalAdvance(number) - 6, p.y() - metrics.height() - 1,
                     metrics.horizontalAdvance(number), metrics.height());
    if (!clip.contains(p) || (!always && (!free(dot) || px_per_mm * legs[i].cut < least_marked)))
      return;
    painter.setPen(Qt::NoPen);
    painter.setBrush(scheme().brick);
    const CutPath& path = plan->drive.plan.order[i];
    const QPointF d(path.heading.x, path.heading.y), side(-d.y(), d.x());
    painter.drawPolygon(QPolygonF{p + d * 9, p + side * 3.5, p - side * 3.5});
    taken.push_back(dot);
    if (!always && (!free(box) || px_per_mm * legs[i].cut < least_numbered))
      return;
    taken.push_back(box);
    QColor ground = scheme().sheet; // so that it can be read across lines
    ground.setAlphaF(0.85f);
    painter.setBrush(ground);
    painter.drawRoundedRect(box.adjusted(-1.5, 1, 1.5, -1), 3, 3);
    painter.setPen(scheme().sheet_ink);
    painter.drawText(box, Qt::AlignRight | Qt::AlignVCenter, number);
  };
  if (const auto lit = knife_.lit(); lit && *lit < legs.size()) {
    painter.setPen(QPen(scheme().teal, 4, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    painter.drawPolyline(on_screen(legs[*lit].line, to_screen));
    begins(*lit, true);
  }
  for (std::size_t i = 0; i < legs.size(); ++i)
    if (knife_.lit() != i)
      begins(i, false);
  // The knife.
  if (now < plan->times.seconds()) {
    const QPointF p = px(moment.knife);
    painter.setPen(QPen(scheme().brick, 1.6));
    painter.setBrush(moment.down ? QBrush(scheme().brick) : QBrush(Qt::NoBrush));
    painter.drawEllipse(p, 7, 7);
    for (const QPointF d : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
      painter.drawLine(p + d * 7, p + d * 15);
  }
  painter.restore();
}

std::optional<std::size_t> KnifeLayer::path_at(QPointF at, const QTransform& to_screen, double px_per_mm) const {
  const std::shared_ptr<const PlannedCut>& plan = knife_.plan();
  if (plan == nullptr)
    return std::nullopt;
  const QPointF q = to_screen.inverted().map(at);
  const Point p{q.x(), q.y()};
  std::optional<std::size_t> out;
  double least = reach / px_per_mm;
  for (std::size_t i = 0; i < plan->times.legs().size(); ++i) {
    const std::vector<Point>& line = plan->times.legs()[i].line;
    for (std::size_t k = 1; k < line.size(); ++k)
      if (const double d = distance_to_chord(line[k - 1], line[k], p); d < least)
        least = d, out = i;
  }
  return out;
}

} // namespace frelm
