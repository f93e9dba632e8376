#include "app/canvas/painter.h"

#include "app/style/scheme.h"

namespace frelm {
namespace {

constexpr double grid_mm = 100;
constexpr int most_paths = 4096; // kept; then those of dead outlines go

QColor colour_of(const Piece& piece) {
  return {piece.colour.r, piece.colour.g, piece.colour.b};
}
QPointF map(const Scene& scene, Point p) {
  return scene.to_screen.map(QPointF(p.x, p.y));
}
QTransform transform_of(const Affine& m) {
  return {m.a, m.b, m.c, m.d, m.e, m.f};
}

QPen cosmetic(const QColor& colour, double width) {
  QPen pen(colour, width);
  pen.setCosmetic(true);
  pen.setJoinStyle(Qt::MiterJoin);
  return pen;
}

QPen guide_pen(const QColor& colour) {
  QPen pen = cosmetic(colour, 1.3);
  pen.setDashPattern({6, 3, 1, 3});
  return pen;
}

void paint_guide(QPainter& painter, const Scene& scene, const CircleGuide& c, const QColor& colour, bool faint) {
  painter.save();
  painter.setOpacity(faint ? 0.45 : 1);
  painter.setPen(guide_pen(colour));
  painter.setBrush(Qt::NoBrush);
  const QPointF centre = map(scene, c.centre);
  const double r = c.radius * scene.px_per_mm;
  painter.drawEllipse(centre, r, r);
  painter.setPen(cosmetic(colour, 1.6));
  // Start mark: a short stroke across the line; direction: chevrons at the quarters.
  const auto at = [&](double degrees_on, double radius) {
    const Vec d = direction(radians(degrees_on - 90));
    return centre + QPointF(d.x * radius, d.y * radius);
  };
  painter.drawLine(at(c.start, r - 6), at(c.start, r + 6));
  for (const double quarter : {90.0, 180.0, 270.0}) {
    const double a = c.start + quarter, back = 5.0 / std::max(r, 12.0) * 180 / pi;
    painter.drawPolyline(QPolygonF{at(a - back, r - 4), at(a, r), at(a - back, r + 4)});
  }
  painter.restore();
}

// The stretch of its circle that an arched run stands on, with a little more on both sides.
void paint_arc(QPainter& painter, const Scene& scene, const SeatedText& text) {
  constexpr int steps = 96;
  const double middle = text.guide_length / 2, half = std::min(text.used_length * 0.55, middle);
  QPolygonF line;
  for (int i = 0; i <= steps; ++i)
    line << map(scene, text.guide->at(middle + half * (2.0 * i / steps - 1)).point);
  painter.setPen(guide_pen(QColor("#0f6e73")));
  painter.setBrush(Qt::NoBrush);
  painter.drawPolyline(line);
}

void paint_nodes(QPainter& painter, const Scene& scene, const Outline& outline, const Affine& place) {
  // Squares shrink where nodes stand close, and go where they would hide the line.
  std::size_t segments = 0;
  double around = 0;
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      ++segments, around += distance(s.p0, s.p3);
  const double apart = segments > 0 ? around / static_cast<double>(segments) * scene.px_per_mm : 0;
  if (apart < 4)
    return;
  const double half = apart > 10 ? 2 : 1;
  QList<QRectF> squares;
  const QRectF seen = QRectF(painter.window()).adjusted(-4, -4, 4, 4);
  for (const Contour& c : outline.contours)
    for (const Segment& s : c.segments)
      if (const QPointF p = map(scene, place(s.p0)); seen.contains(p))
        squares << QRectF(std::round(p.x()) - half, std::round(p.y()) - half, 2 * half, 2 * half);
  painter.save();
  painter.setRenderHint(QPainter::Antialiasing, false);
  painter.setPen(QPen(scheme().sheet_ink, 1));
  painter.setBrush(scheme().sheet);
  painter.drawRects(squares);
  painter.restore();
}

// One outline at a place, filled or as lines.
void paint_outline(QPainter& painter, const Scene& scene, const std::shared_ptr<const Outline>& outline,
                   const Affine& place, const QColor& colour) {
  painter.setTransform(transform_of(place) * scene.to_screen);
  if (scene.view == View::Ink) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
  } else {
    QColor wash = colour;
    wash.setAlphaF(scene.view == View::Lines ? 0.10f : 0.0f);
    painter.setPen(cosmetic(colour, 1));
    painter.setBrush(wash);
  }
  painter.drawPath(scene.paths.of(outline));
  painter.resetTransform();
  if (scene.view == View::Lines)
    paint_nodes(painter, scene, *outline, place);
}

void paint_piece(QPainter& painter, const Scene& scene, const Piece& piece) {
  const Session& session = scene.session;
  if (piece.guide() != nullptr && !piece.is_cut()) {
    paint_guide(painter, scene, piece.guide()->circle, colour_of(piece),
                scene.view == View::Knife || piece.destination == Destination::Off);
    return;
  }
  const Result<PieceResult>& now = session.seated(piece.id);
  if (!now)
    return;
  painter.save();
  const bool cut = piece.is_cut();
  painter.setOpacity(cut || scene.view != View::Knife ? (piece.destination == Destination::Off ? 0.35 : 1) : 0.2);
  if (const auto outline = session.finished(piece.id); outline != nullptr && piece.guide() == nullptr) {
    paint_outline(painter, scene, outline, {}, colour_of(piece));
  } else if (now->seated != nullptr) {
    for (const PlacedLetter& l : now->seated->letters)
      if (!l.blank())
        paint_outline(painter, scene, l.shape, l.placement(), colour_of(piece));
  } else if (now->outline != nullptr) {
    paint_outline(painter, scene, now->outline, {}, colour_of(piece));
  }
  painter.restore();
  if (const Lettering* arched = piece.lettering(); arched != nullptr && session.selected() == &piece &&
                                                   arched->recipe.bend.kind == BendKind::Arc && now->seated != nullptr)
    paint_arc(painter, scene, *now->seated);
  // A lettering with a private guide shows it while selected.
  const Lettering* l = piece.lettering();
  const bool chosen = session.selected() == &piece;
  if (l != nullptr && chosen && l->recipe.bend.kind == BendKind::Guide &&
      session.document().find(l->recipe.bend.guide.guide) == nullptr && l->recipe.bend.guide.own)
    paint_guide(painter, scene, *l->recipe.bend.guide.own, scheme().teal, true);
}

// Order numbers and arrows where the knife goes in.
void paint_knife(QPainter& painter, const Scene& scene) {
  QFont font = painter.font();
  font.setPointSizeF(font.pointSizeF() * 0.8);
  painter.setFont(font);
  int n = 0;
  std::vector<QRectF> taken; // numbers that would cover others are left out until there is room
  for (const CutPath& path : scene.session.knife()) {
    ++n;
    const QPointF p = map(scene, path.start), d(path.heading.x, path.heading.y), side(-d.y(), d.x());
    painter.setPen(Qt::NoPen);
    painter.setBrush(scheme().brick);
    painter.drawPolygon(QPolygonF{p + d * 8, p + side * 2.5, p - side * 2.5});
    const QRectF box(p.x() - 20, p.y() - 16, 18, 13);
    if (std::any_of(taken.begin(), taken.end(), [&](const QRectF& other) { return other.intersects(box); }))
      continue;
    taken.push_back(box);
    painter.setPen(scheme().sheet_ink);
    painter.drawText(box, Qt::AlignRight | Qt::AlignVCenter, QString::number(n));
  }
}

void paint_handle(QPainter& painter, const Scene& scene, const Handle& h) {
  const Scheme& s = scheme();
  const QPointF p = map(scene, h.at), root = map(scene, h.root);
  if (root != p) {
    painter.setPen(cosmetic(s.sheet_ink, 1));
    painter.drawLine(root, p);
  }
  switch (h.kind) {
  case HandleKind::Bead:
    painter.setPen(cosmetic(s.sheet_ink, 1.4));
    painter.setBrush(QColor("#e8a317"));
    painter.drawEllipse(p, 7, 7);
    break;
  case HandleKind::Stem:
  case HandleKind::ArcPull:
    painter.setPen(cosmetic(s.sheet_ink, 1.3));
    painter.setBrush(Qt::white);
    painter.drawPolygon(QPolygonF{p + QPointF(0, -8), p + QPointF(8, 0), p + QPointF(0, 8), p + QPointF(-8, 0)});
    break;
  case HandleKind::Centre:
    painter.setPen(cosmetic(QColor("#0f6e73"), 1.5));
    painter.setBrush(Qt::white);
    painter.drawEllipse(p, 6, 6);
    painter.drawLine(p - QPointF(3, 0), p + QPointF(3, 0));
    painter.drawLine(p - QPointF(0, 3), p + QPointF(0, 3));
    break;
  case HandleKind::Radius:
    painter.setPen(cosmetic(QColor("#0f6e73"), 1.5));
    painter.setBrush(Qt::white);
    painter.drawRoundedRect(QRectF(p.x() - 5, p.y() - 5, 10, 10), 2, 2);
    break;
  case HandleKind::Turn:
    painter.setPen(cosmetic(QColor("#0f6e73"), 1.5));
    painter.setBrush(QColor("#0f6e73"));
    painter.drawEllipse(p, 5, 5);
    break;
  case HandleKind::Corner:
    painter.setPen(cosmetic(QColor("#0f6e73"), 1.2));
    painter.setBrush(Qt::white);
    painter.drawRect(QRectF(p.x() - 3.5, p.y() - 3.5, 7, 7));
    break;
  }
}

void paint_bubble(QPainter& painter, QPointF at, const QString& text) {
  const QFontMetricsF metrics(painter.font());
  const QRectF box(at.x() + 16, at.y() - 14 - metrics.height(), metrics.horizontalAdvance(text) + 16,
                   metrics.height() + 6);
  painter.setPen(cosmetic(QColor("#0f6e73"), 1));
  painter.setBrush(QColor(251, 250, 246, 240));
  painter.drawRoundedRect(box, box.height() / 2, box.height() / 2);
  painter.setPen(QColor("#1f2a33"));
  painter.drawText(box, Qt::AlignCenter, text);
}

} // namespace

double ruler_step(double px_per_unit, double least) {
  const double power = std::pow(10, std::floor(std::log10(least / px_per_unit)));
  for (const double k : {1.0, 2.0, 5.0})
    if (power * k * px_per_unit >= least)
      return power * k;
  return power * 10;
}

QPainterPath to_path(const Outline& outline) {
  QPainterPath path;
  path.setFillRule(Qt::WindingFill);
  for (const Contour& c : outline.contours) {
    if (c.segments.empty())
      continue;
    path.moveTo(c.segments.front().p0.x, c.segments.front().p0.y);
    for (const Segment& s : c.segments) {
      if (s.is_line())
        path.lineTo(s.p3.x, s.p3.y);
      else
        path.cubicTo(s.p1.x, s.p1.y, s.p2.x, s.p2.y, s.p3.x, s.p3.y);
    }
    if (c.closed)
      path.closeSubpath();
  }
  return path;
}

const QPainterPath& PathCache::of(const std::shared_ptr<const Outline>& outline) {
  if (entries_.size() > most_paths)
    std::erase_if(entries_, [](const auto& e) { return e.second.alive.expired(); });
  Entry& entry = entries_[outline.get()];
  if (entry.alive.lock() != outline)
    entry = {outline, to_path(*outline)};
  return entry.path;
}

void paint_sheet(QPainter& painter, const Scene& scene) {
  const Sheet& sheet = scene.session.document().sheet;
  const QRectF r = scene.to_screen.mapRect(QRectF(0, 0, sheet.width, sheet.height));
  painter.setPen(QPen(scheme().lines, 1));
  painter.setBrush(scheme().sheet);
  painter.drawRect(r);
  painter.setPen(QPen(scheme().sheet_lines, 1));
  for (double x = grid_mm; x < sheet.width; x += grid_mm)
    painter.drawLine(map(scene, {x, 0}), map(scene, {x, sheet.height}));
  for (double y = grid_mm; y < sheet.height; y += grid_mm)
    painter.drawLine(map(scene, {0, y}), map(scene, {sheet.width, y}));
}

void paint_pieces(QPainter& painter, const Scene& scene) {
  for (const auto& piece : scene.session.document().pieces)
    if (piece->visible)
      paint_piece(painter, scene, *piece);
  if (scene.view == View::Knife)
    paint_knife(painter, scene);
}

void paint_selection(QPainter& painter, const Scene& scene) {
  const Session& session = scene.session;
  for (const PieceId id : session.selection()) {
    const Piece* piece = session.document().find(id);
    const Result<PieceResult>& now = session.seated(id);
    if (piece == nullptr || !piece->visible || !now || now->ink.empty() || piece->guide() != nullptr)
      continue;
    const Box b = now->ink.grown(4 / scene.px_per_mm);
    painter.setPen(cosmetic(QColor("#0f6e73"), 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(scene.to_screen.mapRect(QRectF(b.x0, b.y0, b.width(), b.height())));
  }
  if (session.selection().size() > 1)
    for (const PieceId id : session.selection())
      if (const Piece* piece = session.document().find(id); piece != nullptr && piece->guide() != nullptr) {
        painter.setPen(cosmetic(QColor("#0f6e73"), 2));
        const double r = piece->guide()->circle.radius * scene.px_per_mm;
        painter.drawEllipse(map(scene, piece->guide()->circle.centre), r, r);
      }
  for (const Handle& h : handles_of(session, 1 / scene.px_per_mm))
    paint_handle(painter, scene, h);
}

void paint_overlay(QPainter& painter, const Scene& scene, const ToolOverlay& overlay) {
  if (overlay.ghost)
    paint_guide(painter, scene, *overlay.ghost, QColor("#0f6e73"), false);
  if (overlay.rubber) {
    painter.setPen(cosmetic(QColor("#0f6e73"), 1));
    painter.setBrush(QColor(15, 110, 115, 28));
    painter.drawRect(scene.to_screen.mapRect(
        QRectF(overlay.rubber->x0, overlay.rubber->y0, overlay.rubber->width(), overlay.rubber->height())));
  }
  if (overlay.caught) {
    painter.setPen(cosmetic(QColor("#e8a317"), 1.5));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(map(scene, *overlay.caught), 11, 11);
  }
  if (!overlay.measure.isEmpty())
    paint_bubble(painter, map(scene, overlay.measure_at), overlay.measure);
}

} // namespace frelm
