#include "app/canvas/pens.h"

#include "app/canvas/seen_part.h"
#include "app/style/scheme.h"
#include "app/style/words.h"
#include "geom/nodes.h"

namespace frelm {
namespace {

constexpr double grid_mm = 100;

QColor colour_of(const Piece& piece) {
  return {piece.colour.r, piece.colour.g, piece.colour.b};
}
QTransform transform_of(const Affine& m) {
  return {m.a, m.b, m.c, m.d, m.e, m.f};
}

void paint_guide(QPainter& painter, const Picture& picture, PathCache& paths, const PaintedPiece& p, bool faint) {
  if (p.line == nullptr)
    return;
  painter.save();
  painter.setOpacity(faint ? 0.45 : 1);
  const QColor colour = colour_of(*p.piece);
  const Guide* guide = p.piece->guide();
  const bool band = guide != nullptr && std::holds_alternative<BandGuide>(guide->shape);
  if (band && p.outline != nullptr) {
    painter.setPen(line_pen(colour, 1));
    painter.setBrush(QColor(colour.red(), colour.green(), colour.blue(), 14));
    painter.drawPath(picture.to_screen.map(paths.of(p.outline)));
  }
  paint_line(painter, picture.to_screen, picture.px_per_mm, *p.line->curve,
             band || p.outline == nullptr ? path_along(*p.line->curve, picture.to_screen)
                                          : picture.to_screen.map(paths.of(p.outline)),
             colour);
  painter.restore();
}

// The stretch of its circle that an arched run stands on, with a little more on both sides.
void paint_arc(QPainter& painter, const Picture& picture, const SeatedText& text) {
  constexpr int steps = 96;
  const double middle = text.guide_length / 2, half = std::min(text.used_length * 0.55, middle);
  QPolygonF line;
  for (int i = 0; i <= steps; ++i)
    line << map(picture, text.guide->at(middle + half * (2.0 * i / steps - 1)).point);
  painter.setPen(guide_pen(QColor("#0f6e73")));
  painter.setBrush(Qt::NoBrush);
  painter.drawPolyline(line);
}

void paint_nodes(QPainter& painter, const Picture& scene, const Outline& outline, const Affine& place) {
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

enum class Fill { Solid, Hatched };

// One outline at a place, filled or as lines.
void paint_outline(QPainter& painter, const Picture& picture, PathCache& paths,
                   const std::shared_ptr<const Outline>& outline, const Affine& place, const QColor& colour,
                   Fill fill = Fill::Solid) {
  constexpr double beside = 4; // px: lines along the edge of what is seen lie outside of it
  const QRectF seen = QRectF(painter.window()).adjusted(-beside, -beside, beside, beside);
  const bool lines =
      std::any_of(outline->contours.begin(), outline->contours.end(), [](const Contour& c) { return !c.closed; });
  if (lines && fill == Fill::Solid && picture.view == View::Ink) { // no area is theirs
    const OutlineParts parts = parts_of(*outline);
    const QTransform to_px = transform_of(place) * picture.to_screen;
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    painter.drawPath(seen_part(parts.closed, to_path(parts.closed), to_px, seen));
    painter.setPen(line_pen(colour, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(to_px.map(to_path(parts.open)));
    return;
  }
  if (fill == Fill::Hatched) {
    painter.setPen(line_pen(colour, 1));
    painter.setBrush(QBrush(colour, Qt::BDiagPattern)); // as wide at every size
  } else if (picture.view == View::Ink) {
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
  } else {
    QColor wash = colour;
    wash.setAlphaF(picture.view == View::Lines ? 0.10f : 0.0f);
    painter.setPen(line_pen(colour, 1));
    painter.setBrush(wash);
  }
  painter.drawPath(seen_part(*outline, paths.of(outline), transform_of(place) * picture.to_screen, seen));
  if (picture.view == View::Lines)
    paint_nodes(painter, picture, *outline, place);
}

bool hatched(const PlacedLetter& l) {
  return l.beyond || l.meets_start;
}

// As it is cut, in the Knife view.
Affine shown_place(const Picture& picture, const PaintedPiece& p, Colour colour) {
  if (picture.view != View::Knife)
    return {};
  const Affine place = mirrored_place(picture.materials.list, colour, picture.materials.sheet_width);
  return p.finished != nullptr && p.current ? place * p.finished->as_cut : place;
}

constexpr double other_material = 0.15; // opacity, where one is shown by itself
double opacity_of(const Picture& picture, Colour colour) {
  return picture.materials.only && *picture.materials.only != colour ? other_material : 1;
}

// What of a finish lies under the letters, or on them. Faint while something newer is being worked out.
void paint_layers(QPainter& painter, const Picture& picture, PathCache& paths, const PaintedPiece& p, bool under) {
  constexpr double faint = 0.35;
  if (p.finished == nullptr)
    return;
  const double opacity = painter.opacity();
  bool passed = false;
  for (const PieceLayer& l : layers_of(*p.piece, *p.finished)) {
    if (l.role == LayerRole::Letters) {
      passed = true;
      continue;
    }
    if (passed == under)
      continue;
    const Colour c = l.colour;
    const bool off =
        l.destination == Destination::Off || (picture.view == View::Knife && l.destination == Destination::Guide);
    painter.setOpacity(opacity * (p.current ? 1 : faint) * (off ? faint : 1) * opacity_of(picture, c));
    paint_outline(painter, picture, paths, l.outline, shown_place(picture, p, c), QColor(c.r, c.g, c.b));
  }
  painter.setOpacity(opacity);
}

// The parts of what is finished together, each as it looks by itself.
void paint_group(QPainter& painter, const Picture& picture, PathCache& paths, const PaintedPiece& p) {
  const double opacity = painter.opacity();
  for (const Layer& l : p.grouped->layers)
    if (l.role == LayerRole::Letters && l.destination != Destination::Off) {
      const Colour c = l.colour.value_or(p.piece->colour);
      painter.setOpacity(opacity * opacity_of(picture, c));
      paint_outline(painter, picture, paths, l.outline, shown_place(picture, p, c), QColor(c.r, c.g, c.b));
    }
  painter.setOpacity(opacity);
}

} // namespace

QPen line_pen(const QColor& colour, double width) {
  QPen pen(colour, width);
  pen.setJoinStyle(Qt::MiterJoin);
  return pen;
}

QPen guide_pen(const QColor& colour) {
  QPen pen = line_pen(colour, 1.3);
  pen.setDashPattern({6, 3, 1, 3});
  return pen;
}

QPainterPath path_along(const Curve& curve, const QTransform& to_screen) {
  constexpr double flat = 0.02; // mm of a curve drawn on screen
  Outline outline;
  outline.contours.push_back(curve.contour(flat));
  return to_screen.map(to_path(outline));
}

// A guide's line with its start mark and chevrons for its direction.
void paint_line(QPainter& painter, const QTransform& to_screen, double px_per_mm, const Curve& curve,
                const QPainterPath& path, const QColor& colour) {
  painter.setPen(guide_pen(colour));
  painter.setBrush(Qt::NoBrush);
  painter.drawPath(path);
  painter.setPen(line_pen(colour, 1.6));
  const auto px = [&](Point p) { return to_screen.map(QPointF(p.x, p.y)); };
  const CurvePlace start = curve.at(0);
  const QPointF across(-start.tangent.y, start.tangent.x), s = px(start.point);
  painter.drawLine(s - across * 6, s + across * 6);
  constexpr double apart_px = 110;
  const int chevrons = std::clamp(static_cast<int>(curve.length() * px_per_mm / apart_px), 2, 40);
  for (int i = 0; i < chevrons; ++i) {
    const CurvePlace p = curve.at(curve.length() * (i + 1.0) / (chevrons + (curve.closed() ? 1 : 1)));
    const QPointF tip = px(p.point), back = QPointF(p.tangent.x, p.tangent.y) * 5,
                  side(-p.tangent.y * 4, p.tangent.x * 4);
    painter.drawPolyline(QPolygonF{tip - back + side, tip, tip - back - side});
  }
}

void paint_piece(QPainter& painter, const Picture& picture, PathCache& paths, const PaintedPiece& p) {
  const Piece& piece = *p.piece;
  if (piece.guide() != nullptr && !piece.is_cut()) {
    paint_guide(painter, picture, paths, p, picture.view == View::Knife || piece.destination == Destination::Off);
    return;
  }
  painter.save();
  const bool cut = piece.is_cut();
  constexpr double under_plan = 0.5;
  painter.setOpacity(picture.view == View::Knife             ? (cut ? under_plan : 0.2)
                     : piece.destination == Destination::Off ? 0.35
                                                             : 1);
  const bool all_on = p.seated == nullptr || p.seated->overflow <= 0;
  const double opacity = painter.opacity();
  paint_layers(painter, picture, paths, p, true);
  if (p.grouped == nullptr)
    painter.setOpacity(opacity * opacity_of(picture, piece.colour));
  const Affine place = shown_place(picture, p, piece.colour);
  if (p.grouped != nullptr)
    paint_group(painter, picture, paths, p);
  else if (p.outline != nullptr && all_on)
    paint_outline(painter, picture, paths, p.outline, place, colour_of(piece));
  else if (p.seated != nullptr)
    for (const PlacedLetter& l : p.seated->letters)
      if (!l.blank())
        paint_outline(painter, picture, paths, l.shape, place * l.place, colour_of(piece),
                      hatched(l) ? Fill::Hatched : Fill::Solid);
  painter.setOpacity(opacity);
  paint_layers(painter, picture, paths, p, false);
  painter.restore();
  if (piece.guide() != nullptr && p.chosen)
    paint_guide(painter, picture, paths, p, false);
  if (const Lettering* l = piece.lettering(); l != nullptr && p.chosen) {
    if (l->recipe.bend.kind == BendKind::Arc && p.seated != nullptr)
      paint_arc(painter, picture, *p.seated);
    if (p.line != nullptr) { // a private guide shows while its letters are selected
      painter.save();
      painter.setOpacity(0.45);
      paint_line(painter, picture.to_screen, picture.px_per_mm, *p.line->curve,
                 path_along(*p.line->curve, picture.to_screen), QColor("#0f6e73"));
      painter.restore();
    }
  }
}

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
  if (entries_.size() > room_) {
    std::erase_if(entries_, [](const auto& e) { return e.second.alive.expired(); });
    room_ = std::max(fewest_paths, 2 * entries_.size()); // the living ones are not looked through again and again
  }
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

Picture picture_of(const Session& session, const QTransform& to_screen, double px_per_mm, View view) {
  Picture out;
  out.to_screen = to_screen, out.px_per_mm = px_per_mm, out.view = view;
  const Document& document = session.shown();
  for (const auto& piece : document.pieces) {
    if (!piece->visible)
      continue;
    PaintedPiece p;
    p.piece = piece;
    p.chosen = session.selected() == piece.get();
    const Result<PieceResult>& now = session.seated(piece->id);
    if (!now)
      continue;
    p.seated = now->seated, p.line = now->line;
    p.outline = piece->guide() != nullptr && !piece->is_shape() ? now->outline : session.finished(piece->id);
    if (p.outline == nullptr && p.seated == nullptr)
      p.outline = now->outline;
    const Session::LayersShown layers = session.layers(piece->id);
    if (layers.finished != nullptr && piece->finish()->makes_layers())
      p.finished = layers.finished, p.current = layers.current;
    if (now->finished != nullptr && now->finished->whole.outline != nullptr && piece->finish()->keeps_parts())
      p.grouped = layers.current ? layers.finished : now->finished;
    if (const Lettering* l = piece->lettering(); l != nullptr && p.chosen)
      for (const GuideRef* ref : l->recipe.bend.followed())
        if (ref->own && document.find(ref->guide) == nullptr)
          if (const auto line = session.evaluator().guide(document, *ref); line)
            p.line = *line;
    if (p.finished != nullptr)
      out.nodes += p.finished->node_count();
    if (p.outline != nullptr)
      out.nodes += p.outline->node_count();
    else if (p.seated != nullptr)
      for (const PlacedLetter& l : p.seated->letters)
        out.nodes += l.shape->node_count();
    out.pieces.push_back(std::move(p));
  }
  if (view == View::Knife)
    out.materials = {session.only_material(), document.materials, document.sheet.width};
  return out;
}

void paint_pieces(QPainter& painter, const Picture& picture, PathCache& paths) {
  for (const PaintedPiece& p : picture.pieces)
    paint_piece(painter, picture, paths, p);
}

void paint_uncut_names(QPainter& painter, const Scene& scene) {
  constexpr int most_named = 60;
  int named = 0;
  QFont font = painter.font();
  font.setPointSizeF(font.pointSizeF() * 0.85);
  painter.setFont(font);
  painter.setPen(QColor("#7d878b"));
  const QFontMetricsF metrics(font);
  std::vector<QRectF> taken;
  for (const auto& piece : scene.session.shown().pieces) {
    if (piece->is_cut() || !piece->visible || ++named > most_named)
      continue;
    const Box box = scene.session.drawn_box(piece->id);
    if (box.empty())
      continue;
    const QString words = piece->destination == Destination::Guide
                              ? QCoreApplication::translate("Knife", "%1: a guide, not cut")
                                    .arg(piece_words(scene.session.document(), *piece))
                              : QCoreApplication::translate("Knife", "%1: off, not cut")
                                    .arg(piece_words(scene.session.document(), *piece));
    // Inside, at the lower edge, where letters seldom stand.
    QRectF at(0, 0, metrics.horizontalAdvance(words), metrics.height());
    at.moveCenter(map(scene, {box.centre().x, box.y1}) - QPointF(0, 1.6 * metrics.height()));
    if (std::any_of(taken.begin(), taken.end(), [&](const QRectF& t) { return t.intersects(at); }))
      continue;
    taken.push_back(at);
    QColor ground = scheme().sheet;
    ground.setAlphaF(0.85f);
    painter.fillRect(at.adjusted(-2, 0, 2, 0), ground);
    painter.drawText(at, Qt::AlignLeft | Qt::AlignVCenter, words);
  }
}

} // namespace frelm
