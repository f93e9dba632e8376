// Sutherland and Hodgman, Reentrant polygon clipping, Communications of the ACM 17 (1974): the polygon is cut at one
// side of the rectangle after the other. What runs along a side afterwards keeps every winding number inside.
#include "app/canvas/seen_part.h"

#include <QPolygonF>

namespace frelm {
namespace {

constexpr double flat_px = 0.05;
constexpr int most_parts = 400; // of one curve

QPointF px(const QTransform& to_px, Point p) {
  return to_px.map(QPointF(p.x, p.y));
}

QRectF box_of(const Contour& contour, const QTransform& to_px) {
  Box box;
  for (const Segment& s : contour.segments)
    for (const Point p : {s.p0, s.p1, s.p2, s.p3})
      box.add(p);
  return to_px.mapRect(QRectF(box.x0, box.y0, box.width(), box.height()));
}

QPolygonF polygon_of(const Contour& contour, const QTransform& to_px) {
  QPolygonF out;
  for (const Segment& s : contour.segments) {
    const QPointF a = px(to_px, s.p0), b = px(to_px, s.p1), c = px(to_px, s.p2), d = px(to_px, s.p3);
    // A chord of an n-th of a cubic is at most max |second difference| * 6 / (8 n²) away.
    const QPointF one = a - 2 * b + c, other = b - 2 * c + d;
    const double bend = std::max(std::hypot(one.x(), one.y()), std::hypot(other.x(), other.y()));
    const int parts =
        s.is_line() ? 1 : std::clamp(static_cast<int>(std::sqrt(0.75 * bend / flat_px)) + 1, 1, most_parts);
    for (int i = 0; i < parts; ++i) {
      const double t = static_cast<double>(i) / parts, u = 1 - t;
      out << a * (u * u * u) + b * (3 * u * u * t) + c * (3 * u * t * t) + d * (t * t * t);
    }
  }
  return out;
}

enum class Side { Left, Right, Top, Bottom };

QPolygonF cut(const QPolygonF& polygon, Side side, double at) {
  const bool across = side == Side::Left || side == Side::Right;
  const double sense = side == Side::Left || side == Side::Top ? 1 : -1;
  const auto within = [&](const QPointF& p) { return sense * ((across ? p.x() : p.y()) - at); };
  QPolygonF out;
  for (qsizetype i = 0; i < polygon.size(); ++i) {
    const QPointF &p = polygon[i], &q = polygon[(i + 1) % polygon.size()];
    const double a = within(p), b = within(q);
    if (a >= 0)
      out << p;
    if ((a >= 0) != (b >= 0))
      out << p + (q - p) * (a / (a - b));
  }
  return out;
}

} // namespace

QPainterPath seen_part(const Outline& outline, const QPainterPath& path, const QTransform& to_px, const QRectF& seen) {
  const QRectF whole = to_px.mapRect(path.controlPointRect());
  if (seen.contains(whole))
    return to_px.map(path);
  if (!seen.intersects(whole))
    return {};
  QPainterPath out;
  out.setFillRule(Qt::WindingFill);
  for (const Contour& contour : outline.contours) {
    const QRectF box = box_of(contour, to_px);
    if (box.right() < seen.left() || box.left() > seen.right() || box.bottom() < seen.top() ||
        box.top() > seen.bottom())
      continue;
    if (!contour.closed)
      return to_px.map(path);
    QPolygonF polygon = polygon_of(contour, to_px);
    polygon = cut(cut(polygon, Side::Left, seen.left()), Side::Right, seen.right());
    polygon = cut(cut(polygon, Side::Top, seen.top()), Side::Bottom, seen.bottom());
    if (polygon.isEmpty())
      continue;
    out.addPolygon(polygon);
    out.closeSubpath();
  }
  return out;
}

} // namespace frelm
