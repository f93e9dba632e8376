// What lies over the pieces: handles, the selection, what a tool shows, what a command would make.
#include "app/canvas/pens.h"

#include "app/canvas/seen_part.h"
#include "app/style/scheme.h"
#include "document/piece_groups.h"
#include "geom/nodes.h"

namespace frelm {

namespace {

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
  case HandleKind::Tab: // its hole stays to be seen
    painter.setPen(line_pen(s.sheet_ink, 1.3));
    painter.setBrush(QColor("#e8a317"));
    painter.drawEllipse(p, 5, 5);
    break;
  case HandleKind::Tie:
    painter.setPen(line_pen(s.sheet_ink, 1.2));
    painter.setBrush(QColor("#e8a317"));
    painter.drawPolygon(QPolygonF{p + QPointF(0, -5), p + QPointF(5, 0), p + QPointF(0, 5), p + QPointF(-5, 0)});
    break;
  case HandleKind::RingDistance: // between two lines
    painter.setPen(line_pen(s.sheet_ink, 1.3));
    painter.setBrush(QColor("#e8a317"));
    painter.drawRoundedRect(QRectF(p.x() - 4, p.y() - 8, 8, 16), 4, 4);
    break;
  case HandleKind::Turn:
    painter.setPen(line_pen(QColor("#0f6e73"), 1.5));
    painter.setBrush(QColor("#0f6e73"));
    painter.drawEllipse(p, 5, 5);
    break;
  case HandleKind::Lean: // an upright that leans
    painter.setPen(line_pen(QColor("#0f6e73"), 1.3));
    painter.setBrush(Qt::white);
    painter.drawPolygon(QPolygonF{p + QPointF(-7, 4), p + QPointF(-2, -4), p + QPointF(7, -4), p + QPointF(2, 4)});
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

// Where fewer nodes are farthest from what was.
void paint_farthest(QPainter& painter, const Scene& scene, const Piece& piece) {
  const Session::LayersShown layers = scene.session.layers(piece.id);
  if (layers.finished == nullptr || !layers.current)
    return;
  const std::vector<StepReport>& steps = layers.finished->steps;
  for (std::size_t i = 0; i < steps.size() && i < piece.finish()->steps.size(); ++i)
    if (std::holds_alternative<ThinStep>(piece.finish()->steps[i].what) && steps[i].at) {
      const QPointF p = map(scene, *steps[i].at);
      painter.setPen(line_pen(scheme().brick, 1.3));
      painter.setBrush(Qt::NoBrush);
      painter.drawLine(p + QPointF(-5, -5), p + QPointF(5, 5));
      painter.drawLine(p + QPointF(-5, 5), p + QPointF(5, -5));
    }
}

void paint_selection(QPainter& painter, const Scene& scene) {
  const Session& session = scene.session;
  constexpr std::size_t most_frames = 300; // more say nothing, and take time
  const bool as_one = session.selection().size() > most_frames ||
                      (session.selection().size() > 1 && whole_group(session.shown(), session.selection()) != 0);
  for (const PieceId id : session.selection()) {
    if (as_one)
      break;
    const Piece* piece = session.shown().find(id);
    const Result<PieceResult>& now = session.seated(id);
    if (piece == nullptr || !piece->visible || !now || now->ink.empty() || piece->guide() != nullptr)
      continue;
    const bool corners_aside = now->bent != nullptr && session.selected() == piece;
    const Box b = now->ink.grown((corners_aside ? block_corner_gap_px : corner_gap_px) / scene.px_per_mm);
    QColor frame("#0f6e73");
    frame.setAlphaF(session.selection().size() > 1 ? 0.35f : 1.0f); // then one around all stands out
    painter.setPen(line_pen(frame, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(scene.to_screen.mapRect(QRectF(b.x0, b.y0, b.width(), b.height())));
  }
  if (const Box ink = session.selection_ink(); session.selection().size() > 1 && !ink.empty()) {
    const Box b = ink.grown(2 * corner_gap_px / scene.px_per_mm);
    painter.setPen(line_pen(QColor("#0f6e73"), 1));
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
  if (const Piece* piece = session.selected(); piece != nullptr && piece->finish() != nullptr)
    paint_farthest(painter, scene, *piece);
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
    QPen pen = line_pen(QColor("#0f6e73"), 1);
    if (overlay.touching)
      pen.setDashPattern({5, 3});
    painter.setPen(pen);
    painter.setBrush(QColor(15, 110, 115, overlay.touching ? 14 : 28));
    painter.drawRect(scene.to_screen.mapRect(
        QRectF(overlay.rubber->x0, overlay.rubber->y0, overlay.rubber->width(), overlay.rubber->height())));
  }
  painter.setPen(line_pen(QColor("#e8a317"), 1.2));
  for (const auto& [from, to] : overlay.caught_lines)
    painter.drawLine(map(scene, from), map(scene, to));
  for (const Box& gap : overlay.equal_gaps) {
    QColor wash("#e8a317");
    wash.setAlpha(60);
    painter.fillRect(scene.to_screen.mapRect(QRectF(gap.x0, gap.y0, gap.width(), gap.height())), wash);
  }
  if (overlay.caught) {
    painter.setPen(line_pen(QColor("#e8a317"), 1.5));
    painter.setBrush(Qt::NoBrush);
    painter.drawEllipse(map(scene, *overlay.caught), 11, 11);
  }
  if (!overlay.measure.isEmpty())
    paint_bubble(painter, map(scene, overlay.measure_at), overlay.measure);
}

void paint_backing_frame(QPainter& painter, const Scene& scene) {
  const std::vector<Backing>& backings = scene.session.shown().backings;
  if (backings.empty())
    return;
  QPolygonF frame;
  for (const Point p : backing_corners(backings[scene.session.backing()]))
    frame << map(scene, p);
  painter.setPen(line_pen(QColor("#0f6e73"), 1));
  painter.setBrush(Qt::NoBrush);
  painter.drawPolygon(frame);
  painter.setBrush(scheme().sheet);
  for (const QPointF& p : frame)
    painter.drawRect(QRectF(p.x() - 4, p.y() - 4, 8, 8));
}

// As a dimension is drawn: a line with a tick across each end.
void paint_measured(QPainter& painter, const Scene& scene, const MeasuredLine& line) {
  const QPointF from = map(scene, line.from), to = map(scene, line.to), v = to - from;
  const double l = std::hypot(v.x(), v.y());
  const QPointF across = l > 0 ? QPointF(-v.y(), v.x()) * (7 / l) : QPointF();
  for (const QPen& pen : {line_pen(scheme().sheet, 4), line_pen(QColor("#992c45"), 1.6)}) {
    painter.setPen(pen);
    painter.drawLine(from, to);
    painter.drawLine(from - across, from + across);
    painter.drawLine(to - across, to + across);
  }
}

namespace {

// Nodes only where they stand apart from one another.
void paint_lines(QPainter& painter, const Scene& scene, const Outline& outline, const QPainterPath& path,
                 const QRectF& seen) {
  painter.setBrush(Qt::NoBrush);
  QColor halo = scheme().sheet;
  halo.setAlpha(200);
  for (const QPen& pen : {line_pen(halo, 3.5), line_pen(QColor("#0f6e73"), 1.6)}) {
    painter.setPen(pen);
    painter.drawPath(path);
  }
  constexpr double apart = 8, half = 2; // px
  painter.setPen(line_pen(QColor("#0f6e73"), 1));
  painter.setBrush(scheme().sheet);
  for (const Contour& c : outline.contours)
    for (std::size_t i = 0; i < c.segments.size(); ++i) {
      const Segment &before = c.segments[(i + c.segments.size() - 1) % c.segments.size()], &s = c.segments[i];
      const double room = std::min(distance(before.p0, before.p3), distance(s.p0, s.p3)) * scene.px_per_mm;
      if (const QPointF at = map(scene, s.p0); room >= apart && seen.contains(at))
        painter.drawRect(QRectF(at.x() - half, at.y() - half, 2 * half, 2 * half));
    }
}

} // namespace

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
  if (made.lines != nullptr)
    paint_lines(painter, scene, *made.lines, part(made.lines), seen);
  if (!made.frame.empty()) {
    QPolygonF frame;
    for (const Point p : made.frame)
      frame << map(scene, p);
    QPen dashes = line_pen(scheme().lines, 1);
    dashes.setStyle(Qt::DashLine);
    painter.setPen(dashes);
    painter.setBrush(Qt::NoBrush);
    painter.drawPolygon(frame);
  }
  for (std::size_t i = 0; i < made.numbered.size(); ++i) {
    const QPointF at = scene.to_screen.map(QPointF(made.numbered[i].x, made.numbered[i].y));
    constexpr double radius = 9; // px
    painter.setPen(line_pen(Qt::white, 1.5));
    painter.setBrush(QColor("#0f6e73"));
    painter.drawEllipse(at, radius, radius);
    painter.setPen(Qt::white);
    painter.drawText(QRectF(at.x() - radius, at.y() - radius, 2 * radius, 2 * radius), Qt::AlignCenter,
                     QString::number(i + 1));
  }
}

} // namespace frelm
