#include "app/canvas/handles.h"

#include "document/measure.h"
#include "lettering/seat.h"

#include <fmt/format.h>

namespace frelm {
namespace {

constexpr double stem_px = 26;     // shortest stem, so that it never lies under the bead
constexpr double catch_px = 6;     // along the guide
constexpr double turn_gap_px = 22; // turn handle outside the radius handle

const CircleGuide* circle_of(const Document& document, const Piece& piece) {
  if (piece.guide() != nullptr)
    return &piece.guide()->circle;
  const Lettering* l = piece.lettering();
  return l != nullptr && l->recipe.bend.kind == BendKind::Guide ? guide_of(document, *l) : nullptr;
}

Point on_circle(const CircleGuide& c, double angle, double radius) {
  return c.centre + direction(radians(angle - 90)) * radius;
}

// The angle on the circle (degrees, 0 = top, clockwise, 0 to 360) that a point lies at.
double angle_at(Point centre, Point p) {
  const Vec d = p - centre;
  const double a = degrees(std::atan2(d.y, d.x)) + 90;
  return a < 0 ? a + 360 : a;
}

// Where the bead sits: the anchored place of the run, as an angle on the circle.
double bead_angle(const GuideBend& bend, const CircleGuide& circle) {
  if (bend.anchor == Anchor::CentredAt)
    return bend.angle;
  const double turned = degrees(bend.distance / circle.radius);
  const bool forward = (bend.anchor == Anchor::StartsAt) == (bend.tops == Tops::Outward);
  return circle.start + (forward ? turned : -turned);
}

void add_run_handles(const Session& session, const Piece& piece, double mm_per_px, std::vector<Handle>& out) {
  const Lettering& l = *piece.lettering();
  const Bend& bend = l.recipe.bend;
  const double least = stem_px * mm_per_px;
  if (bend.kind == BendKind::Guide) {
    const CircleGuide* circle = guide_of(session.document(), l);
    if (circle == nullptr)
      return;
    const double angle = bead_angle(bend.guide, *circle);
    const Point bead = on_circle(*circle, angle, circle->radius);
    const Vec up = unit(bead - circle->centre) * (bend.guide.tops == Tops::Outward ? 1.0 : -1.0);
    out.push_back({HandleKind::Bead, bead, bead, 0});
    out.push_back({HandleKind::Stem, bead + up * (least + bend.offset), bead, 0});
  } else if (bend.kind == BendKind::Arc) {
    const Vec up = up_of(direction(radians(l.placement.angle)));
    const Result<PieceResult>& seated = session.seated(piece.id);
    const double cap = seated && seated->seated != nullptr ? seated->seated->spaced->set->cap_height : 0;
    const Point top = l.placement.at + up * (cap + least);
    out.push_back({HandleKind::ArcPull, top, l.placement.at, 0});
  }
}

std::optional<HandleDrag> drag_bead(const Session& session, const Document& start, PieceId id, const ToolEvent& to) {
  const Piece* piece = start.find(id);
  const CircleGuide* circle = circle_of(start, *piece);
  if (circle == nullptr)
    return std::nullopt;
  HandleDrag out;
  double angle = angle_at(circle->centre, to.at);
  const double quarter = std::round(angle / 90) * 90;
  if (radians(std::abs(angle - quarter)) * circle->radius < catch_px * to.mm_per_px) {
    angle = quarter;
    out.caught = on_circle(*circle, angle, circle->radius);
  }
  if (angle >= 360)
    angle -= 360;
  GuideBend bend = piece->lettering()->recipe.bend.guide;
  if (bend.anchor == Anchor::CentredAt) {
    bend.angle = wrap_degrees(angle);
  } else {
    double turned = std::fmod(angle - circle->start + 720, 360);
    const bool forward = (bend.anchor == Anchor::StartsAt) == (bend.tops == Tops::Outward);
    if (!forward)
      turned = std::fmod(360 - turned, 360);
    bend.distance = radians(turned) * circle->radius;
  }
  out.document = edit_piece(start, id, [&](Piece& p) { p.lettering()->recipe.bend.guide = bend; });
  out.name = "Move along guide";
  const Result<PieceResult>& now = session.seated(id);
  if (now && now->seated != nullptr)
    out.measure = QString("%1 of %2 %3   %4°")
                      .arg(length_text(now->seated->used_length, start.unit, 1),
                           length_text(now->seated->guide_length, start.unit, 1), unit_name(start.unit))
                      .arg(wrap_degrees(angle), 0, 'f', 1);
  return out;
}

std::optional<HandleDrag> drag_stem(const Document& start, PieceId id, const Handle& handle, Point from,
                                    const ToolEvent& to) {
  const Vec up = unit(handle.at - handle.root);
  const Bend& bend = start.find(id)->lettering()->recipe.bend;
  double offset = bend.offset + dot(to.at - from, up);
  HandleDrag out;
  if (std::abs(offset) < catch_px * to.mm_per_px)
    offset = 0, out.caught = handle.root;
  out.document = edit_piece(start, id, [&](Piece& p) { p.lettering()->recipe.bend.offset = offset; });
  out.name = "Change base offset";
  out.measure = "offset " + length_text(offset, start.unit) + " " + unit_name(start.unit);
  return out;
}

std::optional<HandleDrag> drag_arc(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                   Point from, const ToolEvent& to) {
  const Piece* piece = start.find(id);
  const Result<PieceResult> was = session.evaluator().piece(start, id, Depth::Seat);
  if (!was || was->seated == nullptr)
    return std::nullopt;
  ArcBend arc = piece->lettering()->recipe.bend.arc;
  const double run = was->seated->spaced->longest;
  const double signed_rise =
      was->seated->arc_rise * (arc.side == ArcSide::Over ? 1 : -1) + dot(to.at - from, unit(handle.at - handle.root));
  arc.side = signed_rise >= 0 ? ArcSide::Over : ArcSide::Under;
  ArcBend by_rise{ArcBy::Rise, std::max(std::abs(signed_rise), run / 2000), arc.side};
  const Result<double> radius = arc_radius(by_rise, run);
  if (!radius)
    return std::nullopt;
  arc.value = arc.by == ArcBy::Radius ? *radius : arc.by == ArcBy::Rise ? by_rise.value : arc_sweep(*radius, run);
  if (arc.by == ArcBy::Sweep && arc.value > 360)
    return std::nullopt;
  HandleDrag out;
  out.document = edit_piece(start, id, [&](Piece& p) { p.lettering()->recipe.bend.arc = arc; });
  out.name = "Change arc";
  out.measure = "rise " + length_text(by_rise.value, start.unit) + "   radius " + length_text(*radius, start.unit, 1) +
                " " + unit_name(start.unit);
  return out;
}

std::optional<HandleDrag> drag_circle(const Document& start, PieceId id, const Handle& handle, Point from,
                                      const ToolEvent& to) {
  const CircleGuide was = start.find(id)->guide()->circle;
  CircleGuide now = was;
  HandleDrag out;
  out.document = start;
  if (handle.kind == HandleKind::Centre) {
    Vec by = to.at - from;
    if (to.modifiers.testFlag(Qt::ShiftModifier))
      (std::abs(by.x) > std::abs(by.y) ? by.y : by.x) = 0;
    now.centre = was.centre + by;
    out.name = "Move circle";
    out.measure =
        QString("x %1   y %2 %3")
            .arg(length_text(now.centre.x, start.unit), length_text(now.centre.y, start.unit), unit_name(start.unit));
  } else if (handle.kind == HandleKind::Radius) {
    now.radius = std::max(distance(to.at, was.centre) + was.radius - distance(from, was.centre), 0.5);
    if (!to.modifiers.testFlag(Qt::ControlModifier))
      now.radius = std::max(0.5, std::round(now.radius * 2) / 2);
    out.name = "Change radius";
    out.measure = "radius " + length_text(now.radius, start.unit) + " " + unit_name(start.unit);
  } else {
    double by = wrap_degrees(angle_at(was.centre, to.at) - angle_at(was.centre, from));
    double turned = was.start + by;
    const double step = to.modifiers.testFlag(Qt::ShiftModifier) ? 15 : 90;
    const double near = std::round(turned / step) * step;
    if (step == 15 || radians(std::abs(turned - near)) * was.radius < catch_px * to.mm_per_px)
      turned = near;
    by = turned - was.start;
    now.start = wrap_degrees(turned);
    for (const PieceId rider : riders_of(start, id))
      out.document = edit_piece(std::move(out.document), rider, [&](Piece& p) {
        double& angle = p.lettering()->recipe.bend.guide.angle;
        angle = wrap_degrees(angle + by);
      });
    out.name = "Turn circle";
    out.measure = QString("start %1°").arg(now.start, 0, 'f', 1);
  }
  out.document = edit_piece(std::move(out.document), id, [&](Piece& p) { p.guide()->circle = now; });
  return out;
}

std::optional<HandleDrag> drag_corner(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                      Point from, const ToolEvent& to) {
  const Result<PieceResult> was = session.evaluator().piece(start, id, Depth::Seat);
  if (!was || was->ink.empty())
    return std::nullopt;
  const Box& b = was->ink;
  const Point fixed{handle.corner == 0 || handle.corner == 3 ? b.x1 : b.x0, handle.corner < 2 ? b.y1 : b.y0};
  const Vec reach = from - fixed;
  const double k = dot(to.at - fixed, reach) / dot(reach, reach);
  if (!(k > 0.01))
    return std::nullopt;
  HandleDrag out;
  out.name = "Change size";
  const Lettering* l = start.find(id)->lettering();
  const bool on_guide = l != nullptr && l->recipe.bend.kind == BendKind::Guide;
  if (on_guide) {
    const InkSide side = b.width() >= b.height() ? InkSide::Width : InkSide::Height;
    const Result<Document> solved =
        with_ink_size(start, id, side, (side == InkSide::Width ? b.width() : b.height()) * k, GuideScaling::Kept,
                      session.evaluator());
    if (!solved)
      return std::nullopt;
    out.document = *solved;
  } else {
    out.document = scale_piece(start, id, fixed, k, GuideScaling::Along);
  }
  const Result<PieceResult> now = session.evaluator().piece(out.document, id, Depth::Seat);
  if (!now)
    return std::nullopt;
  out.measure = QString("%1 × %2 %3")
                    .arg(length_text(now->ink.width(), start.unit), length_text(now->ink.height(), start.unit),
                         unit_name(start.unit));
  return out;
}

} // namespace

std::vector<Handle> handles_of(const Session& session, double mm_per_px) {
  std::vector<Handle> out;
  const Piece* piece = session.selected();
  if (piece == nullptr || piece->locked || !piece->visible)
    return out;
  if (const Guide* guide = piece->guide()) {
    const CircleGuide& c = guide->circle;
    out.push_back({HandleKind::Centre, c.centre, c.centre, 0});
    const Point right = on_circle(c, 90 + c.start, c.radius);
    out.push_back({HandleKind::Radius, right, right, 0});
    out.push_back({HandleKind::Turn, on_circle(c, c.start, c.radius + turn_gap_px * mm_per_px),
                   on_circle(c, c.start, c.radius), 0});
    return out;
  }
  if (piece->lettering() != nullptr)
    add_run_handles(session, *piece, mm_per_px, out);
  const Result<PieceResult>& now = session.seated(piece->id);
  if (now && !now->ink.empty()) {
    const Box b = now->ink.grown(4 * mm_per_px);
    const Point corners[]{{b.x0, b.y0}, {b.x1, b.y0}, {b.x1, b.y1}, {b.x0, b.y1}};
    for (int i = 0; i < 4; ++i)
      out.push_back({HandleKind::Corner, corners[i], corners[i], i});
  }
  return out;
}

std::optional<HandleDrag> drag_handle(const Session& session, const Document& start, const Handle& handle, Point from,
                                      const ToolEvent& to) {
  const Piece* selected = session.selected();
  if (selected == nullptr)
    return std::nullopt;
  const PieceId id = selected->id;
  switch (handle.kind) {
  case HandleKind::Bead:
    return drag_bead(session, start, id, to);
  case HandleKind::Stem:
    return drag_stem(start, id, handle, from, to);
  case HandleKind::ArcPull:
    return drag_arc(session, start, id, handle, from, to);
  case HandleKind::Centre:
  case HandleKind::Radius:
  case HandleKind::Turn:
    return drag_circle(start, id, handle, from, to);
  case HandleKind::Corner:
    return drag_corner(session, start, id, handle, from, to);
  }
  return std::nullopt;
}

} // namespace frelm
