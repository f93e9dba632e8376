#include "app/canvas/pose_handles.h"

#include "app/style/words.h"
#include "document/arrange.h"
#include "document/measure.h"

namespace frelm {
namespace {

constexpr double seen_by_the_hand = 0.02; // mm

Box ink_of(const Session& session, const Document& document, const std::vector<PieceId>& ids) {
  Box out;
  for (const PieceId id : ids)
    if (const Result<PieceResult> r = session.evaluator().seat_now(document, id); r)
      out.add(r->ink);
  return out;
}

// Of several: larger or smaller as one.
std::optional<HandleDrag> drag_corner_of_several(const Session& session, const Document& start, const Box& b, double k,
                                                 Point fixed) {
  HandleDrag out;
  out.name = QObject::tr("Change size");
  out.change = Change{{}, 0, k, share_of(b, fixed)};
  out.document = changed(start, session.selection(), *out.change, b);
  out.measure = QObject::tr("%1 × %2 %3 · %4 %")
                    .arg(length_text(b.width() * k, start.unit), length_text(b.height() * k, start.unit),
                         unit_name(start.unit), QString::number(k * 100, 'f', 1));
  return out;
}

// Degrees: a tenth is the finest; Shift keeps to steps.
double by_steps(double angle, double step, const ToolEvent& to) {
  constexpr double finest = 0.1;
  const double by = to.modifiers.testFlag(Qt::ShiftModifier) ? step : finest;
  return std::round(angle / by) * by;
}
QString short_angle(double angle) {
  return QString::number(angle, 'f', angle == std::round(angle) ? 0 : 1);
}

// About the middle of all; Shift keeps to steps of 15°.
std::optional<HandleDrag> drag_turn(const Session& session, const Document& start, Point from, const ToolEvent& to,
                                    std::optional<double> typed) {
  const Box b = ink_of(session, start, session.selection());
  if (b.empty())
    return std::nullopt;
  const auto angle = [&](Point p) { return degrees(std::atan2(p.y - b.centre().y, p.x - b.centre().x)); };
  const double by = typed.value_or(by_steps(std::remainder(angle(to.at) - angle(from), 360.0), 15, to));
  HandleDrag out;
  out.name = QObject::tr("Turn");
  out.change = Change{{}, by, 1, {0.5, 0.5}};
  out.document = changed(start, session.selection(), *out.change, b);
  out.measure = QObject::tr("%1°").arg(short_angle(by));
  return out;
}

// What stands at the lower edge stays; the upper edge goes with the hand. Shift keeps to steps of 5°.
std::optional<HandleDrag> drag_lean(const Session& session, const Document& start, Point from, const ToolEvent& to,
                                    std::optional<double> typed) {
  const Box b = ink_of(session, start, session.selection());
  const double height = b.y1 - from.y;
  if (b.empty() || !(height > 0))
    return std::nullopt;
  const double hand = by_steps(degrees(std::atan((to.at.x - from.x) / height)), 5, to);
  const double by = std::clamp(typed.value_or(hand), -most_lean, most_lean);
  HandleDrag out;
  out.name = QObject::tr("Lean");
  out.change = Change{{}, 0, 1, {0.5, 1}};
  out.change->lean = by;
  out.document = changed(start, session.selection(), *out.change, b);
  out.measure = QObject::tr("leant by %1°").arg(short_angle(by));
  return out;
}

std::optional<HandleDrag> drag_corner(const Session& session, const Document& start, const Handle& handle, Point from,
                                      const ToolEvent& to, const std::vector<PlacedBox>& others,
                                      std::optional<double> typed) {
  const Box b = ink_of(session, start, session.selection());
  if (b.empty())
    return std::nullopt;
  const Point fixed{handle.index == 0 || handle.index == 3 ? b.x1 : b.x0, handle.index < 2 ? b.y1 : b.y0};
  const Vec reach = from - fixed;
  double k = typed && b.width() > 0 ? *typed / b.width() : dot(to.at - fixed, reach) / dot(reach, reach);
  if (!(k > 0.01) || !std::isfinite(k))
    return std::nullopt;
  QString caught;
  if (!typed && !to.modifiers.testFlag(Qt::ControlModifier))
    if (const auto equal = size_catch(others, b, k, session.preferences().catch_px * to.mm_per_px)) {
      k = equal->scale;
      caught = (equal->wide ? QObject::tr(" · as wide as %1") : QObject::tr(" · as high as %1"))
                   .arg(piece_words(start, *start.find(equal->piece)));
    }
  if (session.selection().size() > 1) {
    std::optional<HandleDrag> out = drag_corner_of_several(session, start, b, k, fixed);
    out->measure += caught;
    return out;
  }
  const PieceId id = session.selection().front();
  HandleDrag out;
  out.name = QObject::tr("Change size");
  const Lettering* l = start.find(id)->lettering();
  const bool on_guide = l != nullptr && l->recipe.bend.rides();
  if (on_guide) {
    const InkSide side = b.width() >= b.height() ? InkSide::Width : InkSide::Height;
    const Result<Document> solved =
        with_ink_size(start, id, side, (side == InkSide::Width ? b.width() : b.height()) * k, GuideScaling::Kept,
                      session.evaluator(), {seen_by_the_hand, true});
    if (!solved)
      return std::nullopt;
    out.document = *solved;
  } else {
    out.document = scale_piece(start, id, fixed, k, GuideScaling::Along);
    out.change = Change{{}, 0, k, share_of(b, fixed)};
  }
  const Result<PieceResult> now = session.evaluator().seat_now(out.document, id);
  if (!now)
    return std::nullopt;
  out.measure = QString("%1 × %2 %3")
                    .arg(length_text(now->ink.width(), start.unit), length_text(now->ink.height(), start.unit),
                         unit_name(start.unit)) +
                caught;
  return out;
}

} // namespace

bool of_all_selected(HandleKind kind) {
  return kind == HandleKind::Corner || kind == HandleKind::Turn || kind == HandleKind::Lean;
}

std::optional<HandleDrag> drag_selected(const Session& session, const Document& start, const Handle& handle, Point from,
                                        const ToolEvent& to, const std::vector<PlacedBox>& others,
                                        std::optional<double> typed) {
  return handle.kind == HandleKind::Corner ? drag_corner(session, start, handle, from, to, others, typed)
         : handle.kind == HandleKind::Turn ? drag_turn(session, start, from, to, typed)
                                           : drag_lean(session, start, from, to, typed);
}

void add_corners(const Box& b, std::vector<Handle>& out) {
  const Point corners[]{{b.x0, b.y0}, {b.x1, b.y0}, {b.x1, b.y1}, {b.x0, b.y1}};
  for (std::size_t i = 0; i < 4; ++i)
    out.push_back({HandleKind::Corner, corners[i], corners[i], i});
}

// Under the middle: above it stand what bends and what hangs.
void add_turn(const Box& b, double mm_per_px, std::vector<Handle>& out) {
  const Point root{b.centre().x, b.y1};
  out.push_back({HandleKind::Turn, root + Vec{0, turn_gap_px * mm_per_px}, root});
}

// On the upper edge, in its middle where nothing else hangs there; a level line can't lean. After all others.
void add_lean(const Box& ink, const Box& b, double mm_per_px, std::vector<Handle>& out) {
  if (!(ink.height() > 0))
    return;
  constexpr double apart_px = 14, aside = 0.3;
  const auto free = [&](Point at) {
    return std::none_of(out.begin(), out.end(),
                        [&](const Handle& h) { return distance(h.at, at) < apart_px * mm_per_px; });
  };
  Point at{b.centre().x, b.y0};
  if (const Point beside{b.x0 + aside * b.width(), b.y0}; !free(at) && free(beside))
    at = beside;
  out.push_back({HandleKind::Lean, at, at});
}

} // namespace frelm
