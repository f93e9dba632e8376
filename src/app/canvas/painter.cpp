#include "app/canvas/painter.h"

#include "app/canvas/seen_part.h"
#include "app/style/scheme.h"
#include "geom/nodes.h"

namespace frelm {
namespace {

constexpr double grid_mm = 100;

QColor colour_of(const Piece& piece) {
  return {piece.colour.r, piece.colour.g, piece.colour.b};
}
template <class View> QPointF map(const View& view, Point p) {
  return view.to_screen.map(QPointF(p.x, p.y));
}
QTransform transform_of(const Affine& m) {
  return {m.a, m.b, m.c, m.d, m.e, m.f};
}

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

void paint_ghost(QPainter& painter, const Scene& scene, const GuideShape& shape, const QColor& colour) {
  const auto line = guide_line(shape);
  if (!line)
    return;
  const Curve& curve = *(*line)->curve;
  paint_line(painter, scene.to_screen, scene.px_per_mm, curve, path_along(curve, scene.to_screen), colour);
  if (const auto* band = std::get_if<BandGuide>(&shape))
    for (const double r : {band->inner, band->outer}) {
      painter.setPen(line_pen(colour, 1));
      painter.drawEllipse(map(scene, band->centre), r * scene.px_per_mm, r * scene.px_per_mm);
    }
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

Affine shown_place(const Picture& picture, const PaintedPiece& p) {
  return picture.view == View::Knife && p.finished != nullptr ? p.finished->as_cut : Affine{};
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
    painter.setOpacity(opacity * (p.current ? 1 : faint) * (off ? faint : 1));
    paint_outline(painter, picture, paths, l.outline, shown_place(picture, p), QColor(c.r, c.g, c.b));
  }
  painter.setOpacity(opacity);
}

// The parts of what is finished together, each as it looks by itself.
void paint_group(QPainter& painter, const Picture& picture, PathCache& paths, const PaintedPiece& p) {
  for (const Layer& l : p.grouped->layers)
    if (l.role == LayerRole::Letters && l.destination != Destination::Off) {
      const Colour c = l.colour.value_or(p.piece->colour);
      paint_outline(painter, picture, paths, l.outline, p.current ? shown_place(picture, p) : Affine{},
                    QColor(c.r, c.g, c.b));
    }
}

} // namespace

void paint_piece(QPainter& painter, const Picture& picture, PathCache& paths, const PaintedPiece& p) {
  const Piece& piece = *p.piece;
  if (piece.guide() != nullptr && !piece.is_cut()) {
    paint_guide(painter, picture, paths, p, picture.view == View::Knife || piece.destination == Destination::Off);
    return;
  }
  painter.save();
  const bool cut = piece.is_cut();
  painter.setOpacity(cut || picture.view != View::Knife ? (piece.destination == Destination::Off ? 0.35 : 1) : 0.2);
  const bool all_on = p.seated == nullptr || p.seated->overflow <= 0;
  paint_layers(painter, picture, paths, p, true);
  if (p.grouped != nullptr)
    paint_group(painter, picture, paths, p);
  else if (p.outline != nullptr && all_on)
    paint_outline(painter, picture, paths, p.outline, p.current ? shown_place(picture, p) : Affine{}, colour_of(piece));
  else if (p.seated != nullptr)
    for (const PlacedLetter& l : p.seated->letters)
      if (!l.blank())
        paint_outline(painter, picture, paths, l.shape, l.place, colour_of(piece),
                      hatched(l) ? Fill::Hatched : Fill::Solid);
  paint_layers(painter, picture, paths, p, false);
  painter.restore();
  if (piece.guide() != nullptr)
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

void paint_knife(QPainter& painter, const Picture& scene) {
  QFont font = painter.font();
  font.setPointSizeF(font.pointSizeF() * 0.8);
  painter.setFont(font);
  int n = 0;
  std::vector<QRectF> taken; // numbers that would cover others are left out until there is room
  for (const CutPath& path : scene.knife) {
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

namespace {

// Rails: diamonds pull edges, triangles taper; corners of a filled shape are lozenge flags; pegs are rings.
void paint_block_handle(QPainter& painter, QPointF p, const Handle& h) {
  const QColor teal("#0f6e73"), amber("#e8a317");
  painter.setPen(line_pen(teal, 1.4));
  painter.setBrush(Qt::white);
  const auto diamond = [&](double r) {
    painter.drawPolygon(QPolygonF{p + QPointF(0, -r), p + QPointF(r, 0), p + QPointF(0, r), p + QPointF(-r, 0)});
  };
  switch (h.block.kind) {
  case BlockHandleKind::Depth:
    painter.setPen(line_pen(QColor("#1f2a33"), 1.3));
    diamond(8);
    break;
  case BlockHandleKind::More:
    diamond(5.5);
    break;
  case BlockHandleKind::TaperAlong: {
    const double out = h.index == 0 ? -1 : 1; // up and down
    painter.drawPolygon(QPolygonF{p + QPointF(out * 2, -8), p + QPointF(out * 9, 0), p + QPointF(out * 2, 8)});
    break;
  }
  case BlockHandleKind::TaperAcross: {
    const double out = h.index == 0 ? -1 : 1;
    painter.drawPolygon(QPolygonF{p + QPointF(out * 10, 2), p + QPointF(out * 2, 9), p + QPointF(out * -6, 2)});
    break;
  }
  case BlockHandleKind::Corner:
  case BlockHandleKind::End:
    painter.setBrush(amber);
    painter.setPen(line_pen(QColor("#1f2a33"), 1.3));
    diamond(7);
    break;
  case BlockHandleKind::Peg:
    painter.setBrush(h.chosen ? amber : QColor(Qt::white));
    painter.setPen(line_pen(h.chosen ? QColor("#1f2a33") : teal, 1.6));
    painter.drawEllipse(p, 5.5, 5.5);
    break;
  case BlockHandleKind::PegAlong:
  case BlockHandleKind::PegDown:
    painter.setBrush(teal);
    painter.drawEllipse(p, 3.5, 3.5);
    break;
  }
}

// The lines of a warped block: its edges, and what the net has between them.
void paint_block(QPainter& painter, const Scene& scene, const Bend& bend, const BentBlock& block) {
  for (const BlockLine& line : block_lines(bend, block.made)) {
    QPolygonF points;
    for (const Point q : line.points)
      points << map(scene, q);
    QColor colour("#0f6e73");
    colour.setAlphaF(line.kind == BlockLineKind::Edge ? 1.0f : line.kind == BlockLineKind::Side ? 0.55f : 0.4f);
    painter.setPen(line_pen(colour, line.kind == BlockLineKind::Edge ? 1.4 : 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(points);
  }
  // Where strokes are too thin to cut: a brick ring.
  for (const Finding& f : scene.session.check().findings)
    if (f.kind == FindingKind::BentTooFar && scene.session.selected() != nullptr &&
        f.piece == scene.session.selected()->id) {
      const QPointF at = map(scene, f.where.centre());
      painter.setPen(line_pen(QColor("#b5452c"), 2));
      painter.drawEllipse(at, 12, 12);
      painter.drawLine(at + QPointF(8.5, 8.5), at + QPointF(15, 15));
    }
  if (block.report.folds > 0) {
    const Box& f = block.report.fold_box;
    painter.setPen(line_pen(QColor("#b5452c"), 2));
    painter.drawRect(scene.to_screen.mapRect(QRectF(f.x0, f.y0, f.width(), f.height())).adjusted(-4, -4, 4, 4));
  }
}

void paint_handle(QPainter& painter, const Scene& scene, const Handle& h) {
  const Scheme& s = scheme();
  const QPointF p = map(scene, h.at), root = map(scene, h.root);
  if (root != p) {
    painter.setPen(line_pen(s.sheet_ink, 1));
    painter.drawLine(root, p);
  }
  switch (h.kind) {
  case HandleKind::Bead:
    painter.setPen(line_pen(s.sheet_ink, 1.4));
    painter.setBrush(QColor("#e8a317"));
    painter.drawEllipse(p, 7, 7);
    break;
  case HandleKind::Stem:
  case HandleKind::ArcPull:
    painter.setPen(line_pen(s.sheet_ink, 1.3));
    painter.setBrush(Qt::white);
    painter.drawPolygon(QPolygonF{p + QPointF(0, -8), p + QPointF(8, 0), p + QPointF(0, 8), p + QPointF(-8, 0)});
    break;
  case HandleKind::Shape:
    painter.setPen(line_pen(QColor("#0f6e73"), 1.5));
    painter.setBrush(Qt::white);
    switch (h.shape) {
    case ShapeHandleKind::Move:
      painter.drawEllipse(p, 6, 6);
      painter.drawLine(p - QPointF(3, 0), p + QPointF(3, 0));
      painter.drawLine(p - QPointF(0, 3), p + QPointF(0, 3));
      break;
    case ShapeHandleKind::Size:
      painter.drawRoundedRect(QRectF(p.x() - 5, p.y() - 5, 10, 10), 2, 2);
      break;
    case ShapeHandleKind::Bend:
      painter.drawPolygon(QPolygonF{p + QPointF(0, -7), p + QPointF(7, 0), p + QPointF(0, 7), p + QPointF(-7, 0)});
      break;
    case ShapeHandleKind::Turn:
      painter.setBrush(QColor("#0f6e73"));
      painter.drawEllipse(p, 5, 5);
      break;
    }
    break;
  case HandleKind::Block:
    paint_block_handle(painter, p, h);
    break;
  case HandleKind::LetterTurn:
    painter.setPen(line_pen(s.sheet_ink, 1.4));
    painter.setBrush(QColor("#e8a317"));
    painter.drawEllipse(p, 5, 5);
    break;
  case HandleKind::LetterSize:
    painter.setPen(line_pen(s.sheet_ink, 1.3));
    painter.setBrush(QColor("#e8a317"));
    painter.drawRoundedRect(QRectF(p.x() - 4.5, p.y() - 4.5, 9, 9), 2, 2);
    break;
  case HandleKind::FaceWidth: // two stems, apart as far as the hand likes
    painter.setPen(line_pen(QColor("#0f6e73"), 1.3));
    painter.setBrush(Qt::white);
    painter.drawRoundedRect(QRectF(p.x() - 6, p.y() - 9, 12, 18), 3, 3);
    painter.drawLine(p + QPointF(-2, -5), p + QPointF(-2, 5));
    painter.drawLine(p + QPointF(2, -5), p + QPointF(2, 5));
    break;
  case HandleKind::FaceWeight: // a stroke that gets heavier upwards
    painter.setPen(line_pen(QColor("#0f6e73"), 1.3));
    painter.setBrush(Qt::white);
    painter.drawRoundedRect(QRectF(p.x() - 6, p.y() - 9, 12, 18), 3, 3);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor("#0f6e73"));
    painter.drawPolygon(QPolygonF{p + QPointF(-3.5, -5.5), p + QPointF(3.5, -5.5), p + QPointF(0, 6)});
    break;
  case HandleKind::Shade:
    painter.setPen(line_pen(s.sheet_ink, 1.3));
    painter.setBrush(QColor("#e8a317"));
    painter.drawEllipse(p, 6, 6);
    break;
  case HandleKind::RingDistance: // between two lines
    painter.setPen(line_pen(s.sheet_ink, 1.3));
    painter.setBrush(QColor("#e8a317"));
    painter.drawRoundedRect(QRectF(p.x() - 4, p.y() - 8, 8, 16), 4, 4);
    break;
  case HandleKind::Corner:
    painter.setPen(line_pen(QColor("#0f6e73"), 1.2));
    painter.setBrush(Qt::white);
    painter.drawRect(QRectF(p.x() - 3.5, p.y() - 3.5, 7, 7));
    break;
  }
}

void paint_bubble(QPainter& painter, QPointF at, const QString& text) {
  const QFontMetricsF metrics(painter.font());
  // Below the hand, where the letters are not; above it near the lower edge, to its left near the right one.
  QRectF box(at.x() + 14, at.y() + 16, metrics.horizontalAdvance(text) + 16, metrics.height() + 6);
  const QRectF room = painter.window();
  if (box.bottom() > room.bottom() - 4)
    box.moveBottom(at.y() - 12);
  if (box.right() > room.right() - 4)
    box.moveRight(at.x() - 14);
  painter.setPen(line_pen(QColor("#0f6e73"), 1));
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
    p.outline = piece->guide() != nullptr ? now->outline : session.finished(piece->id);
    if (p.outline == nullptr && p.seated == nullptr)
      p.outline = now->outline;
    if (now->finished != nullptr && now->finished->whole.outline != nullptr)
      p.grouped = p.piece->finish()->keeps_parts() ? now->finished : nullptr;
    if (const Session::LayersShown layers = session.layers(piece->id);
        layers.finished != nullptr && piece->finish()->makes_layers())
      p.finished = layers.finished, p.current = layers.current;
    if (const Session::LayersShown layers = session.layers(piece->id); p.grouped != nullptr && layers.current)
      p.grouped = layers.finished;
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
    out.knife = session.knife();
  return out;
}

void paint_pieces(QPainter& painter, const Picture& picture, PathCache& paths) {
  for (const PaintedPiece& p : picture.pieces)
    paint_piece(painter, picture, paths, p);
  if (picture.view == View::Knife)
    paint_knife(painter, picture);
}

void paint_nodes_of(QPainter& painter, const Scene& scene, const Outline& outline) {
  const Scheme& s = scheme();
  const std::vector<NodeAt>& chosen = scene.session.nodes_chosen();
  const QRectF seen = QRectF(painter.window()).adjusted(-8, -8, 8, 8);
  for (std::size_t c = 0; c < outline.contours.size(); ++c) {
    const Contour& contour = outline.contours[c];
    for (std::size_t i = 0; i < node_count(contour); ++i) {
      const QPointF p = map(scene, node_point(contour, i));
      if (!seen.contains(p))
        continue;
      const bool on = std::binary_search(chosen.begin(), chosen.end(), NodeAt{c, i});
      if (on)
        for (const HandleSide side : {HandleSide::In, HandleSide::Out})
          if (const auto h = node_handle(contour, i, side)) {
            const QPointF at = map(scene, *h);
            painter.setPen(line_pen(s.sheet_ink, 1));
            painter.drawLine(p, at);
            painter.setBrush(Qt::white);
            painter.drawEllipse(at, 3.5, 3.5);
          }
      painter.setPen(line_pen(on ? QColor("#1f2a33") : QColor("#0f6e73"), 1.3));
      painter.setBrush(on ? QColor("#e8a317") : QColor(Qt::white));
      switch (node_kind(contour, i)) { // the shape tells what it is
      case NodeKind::Corner:
        painter.drawRect(QRectF(p.x() - 3.5, p.y() - 3.5, 7, 7));
        break;
      case NodeKind::Smooth:
        painter.drawEllipse(p, 4, 4);
        break;
      case NodeKind::Even:
        painter.drawEllipse(p, 4, 4);
        painter.drawEllipse(p, 1, 1);
        break;
      case NodeKind::End:
        painter.drawPolygon(QPolygonF{p + QPointF(0, -5), p + QPointF(5, 3.5), p + QPointF(-5, 3.5)});
        break;
      }
      if (i == 0 && contour.closed) { // where it starts
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(p, 7.5, 7.5);
      }
    }
  }
}

// Where the closest distance of each chosen gap is measured, between the two letters as they sit.
static void paint_chosen_gaps(QPainter& painter, const Scene& scene) {
  const Piece* piece = scene.session.selected();
  const auto gaps = piece != nullptr && !scene.session.gaps_chosen().empty() ? scene.session.gaps(piece->id) : nullptr;
  if (gaps == nullptr || piece->lettering() == nullptr)
    return;
  const Result<PieceResult>& now = scene.session.seated(piece->id);
  const std::vector<PairId>& chosen = scene.session.gaps_chosen();
  for (const Gap& g : *gaps) {
    const auto p = pair_of(piece->lettering()->recipe, *now->seated, g);
    if (!p || std::find(chosen.begin(), chosen.end(), *p) == chosen.end())
      continue;
    const QPointF a = scene.to_screen.map(QPointF(g.closest.on_a.x, g.closest.on_a.y)),
                  b = scene.to_screen.map(QPointF(g.closest.on_b.x, g.closest.on_b.y));
    painter.setPen(line_pen(QColor("#e8a317"), 2));
    painter.setBrush(QColor("#e8a317"));
    painter.drawLine(a, b);
    for (const QPointF end : {a, b})
      painter.drawEllipse(end, 2.5, 2.5);
  }
}

void paint_selection(QPainter& painter, const Scene& scene) {
  const Session& session = scene.session;
  for (const PieceId id : session.selection()) {
    const Piece* piece = session.shown().find(id);
    const Result<PieceResult>& now = session.seated(id);
    if (piece == nullptr || !piece->visible || !now || now->ink.empty() || piece->guide() != nullptr)
      continue;
    const bool corners_aside = now->bent != nullptr && session.selected() == piece;
    const Box b = now->ink.grown((corners_aside ? block_corner_gap_px : corner_gap_px) / scene.px_per_mm);
    painter.setPen(line_pen(QColor("#0f6e73"), 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(scene.to_screen.mapRect(QRectF(b.x0, b.y0, b.width(), b.height())));
  }
  if (const Piece* piece = session.selected(); piece != nullptr && piece->visible && piece->lettering() != nullptr)
    if (const Result<PieceResult>& now = session.seated(piece->id); now && now->bent != nullptr)
      paint_block(painter, scene, piece->lettering()->recipe.bend, *now->bent);
  if (session.selection().size() > 1)
    for (const PieceId id : session.selection())
      if (const Piece* piece = session.shown().find(id); piece != nullptr && piece->guide() != nullptr)
        if (const Result<PieceResult>& now = session.seated(id); now) {
          painter.setPen(line_pen(QColor("#0f6e73"), 2));
          painter.setBrush(Qt::NoBrush);
          painter.drawPath(scene.to_screen.map(to_path(*now->outline)));
        }
  paint_chosen_gaps(painter, scene);
  if (const PlacedLetter* l = chosen_letter(session); l != nullptr && session.gaps_chosen().empty()) {
    const Box b = l->shape->transformed(l->place).bounds().grown(3 / scene.px_per_mm);
    QPen pen = line_pen(QColor("#e8a317"), 1.5);
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    painter.drawRoundedRect(scene.to_screen.mapRect(QRectF(b.x0, b.y0, b.width(), b.height())), 3, 3);
  }
  for (const Handle& h : handles_of(session, 1 / scene.px_per_mm))
    paint_handle(painter, scene, h);
}

void paint_overlay(QPainter& painter, const Scene& scene, const ToolOverlay& overlay) {
  if (overlay.ghost)
    paint_ghost(painter, scene, *overlay.ghost, QColor("#0f6e73"));
  if (overlay.edge != nullptr) {
    painter.setPen(line_pen(QColor("#e8a317"), 3));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(path_along(*overlay.edge, scene.to_screen));
  }
  if (overlay.lit_area != nullptr && !overlay.lit_area->empty()) {
    QColor fill("#0f6e73");
    fill.setAlpha(70);
    painter.setPen(line_pen(QColor("#0f6e73"), 2));
    painter.setBrush(fill);
    painter.drawPath(scene.to_screen.map(to_path(*overlay.lit_area)));
  }
  if (overlay.lit_lines != nullptr && !overlay.lit_lines->empty()) {
    painter.setPen(line_pen(QColor("#e8a317"), 4));
    painter.setBrush(Qt::NoBrush);
    painter.drawPath(scene.to_screen.map(to_path(*overlay.lit_lines)));
  }
  if (overlay.brush) {
    QColor fill("#e8a317");
    fill.setAlpha(40);
    painter.setPen(line_pen(QColor("#e8a317"), 1.2));
    painter.setBrush(fill);
    const double r = overlay.brush->radius * scene.px_per_mm;
    painter.drawEllipse(map(scene, overlay.brush->centre), r, r);
  }
  painter.setPen(line_pen(QColor("#e8a317"), 3));
  for (const Bridge& b : overlay.bridges)
    painter.drawLine(map(scene, b.from), map(scene, b.to));
  painter.setPen(line_pen(QColor("#992c45"), 1.5));
  painter.setBrush(Qt::NoBrush);
  for (const Point p : overlay.loose_ends)
    painter.drawEllipse(map(scene, p), 5, 5);
  if (!overlay.stroke.empty()) {
    QPolygonF line;
    for (const Point p : overlay.stroke)
      line << map(scene, p);
    painter.setPen(line_pen(QColor("#0f6e73"), 1.6));
    painter.setBrush(Qt::NoBrush);
    painter.drawPolyline(line);
  }
  if (overlay.rubber) {
    painter.setPen(line_pen(QColor("#0f6e73"), 1));
    painter.setBrush(QColor(15, 110, 115, 28));
    painter.drawRect(scene.to_screen.mapRect(
        QRectF(overlay.rubber->x0, overlay.rubber->y0, overlay.rubber->width(), overlay.rubber->height())));
  }
  if (overlay.caught) {
    painter.setPen(line_pen(QColor("#e8a317"), 1.5));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(map(scene, *overlay.caught), 11, 11);
  }
  if (!overlay.measure.isEmpty())
    paint_bubble(painter, map(scene, overlay.measure_at), overlay.measure);
}

void paint_made(QPainter& painter, const Scene& scene, const MadePicture& made, PathCache& paths, const QRectF& seen) {
  const auto part = [&](const std::shared_ptr<const Outline>& o) {
    return seen_part(*o, paths.of(o), scene.to_screen, seen);
  };
  if (made.goes != nullptr) {
    const QPainterPath path = part(made.goes);
    QColor wash = scheme().sheet;
    wash.setAlpha(190);
    painter.fillPath(path, wash);
    painter.fillPath(path, QBrush(scheme().brick, Qt::BDiagPattern));
  }
  if (made.stays != nullptr) {
    QColor fill("#0f6e73");
    fill.setAlpha(70);
    painter.setPen(line_pen(QColor("#0f6e73"), 2));
    painter.setBrush(fill);
    painter.drawPath(part(made.stays));
  }
}

} // namespace frelm
