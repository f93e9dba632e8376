#include "app/canvas/finish_handles.h"

#include "document/measure.h"
#include "lettering/finish_edit.h"

#include <QObject>

namespace frelm {
namespace {

constexpr double beyond_px = 16; // of a shade's handle off the end of its way, clear of the corners
constexpr double beside_px = 20;
constexpr double snap = 15; // degrees, with Shift

} // namespace

void add_finish_handles(const Session& session, const Piece& piece, const Box& ink, double mm_per_px,
                        std::vector<Handle>& out) {
  const Finish& finish = *piece.finish();
  const Session::LayersShown layers = session.layers(piece.id);
  const auto kind = [](const FinishAction& what) {
    return std::holds_alternative<ShadeStep>(what) ? HandleKind::Shade
           : std::holds_alternative<TabStep>(what) ? HandleKind::Tab
           : std::holds_alternative<TieStep>(what) ? HandleKind::Tie
                                                   : HandleKind::RingDistance;
  };
  for (const FinishHandle& h : finish_handles(finish, ink, layers.current ? layers.finished.get() : nullptr,
                                              {beyond_px * mm_per_px, beside_px * mm_per_px}))
    out.push_back({.kind = kind(finish.steps[h.step].what),
                   .at = h.at,
                   .root = h.root,
                   .index = h.step,
                   .part = h.part,
                   .finished = std::holds_alternative<TieStep>(finish.steps[h.step].what) ? layers.finished : nullptr});
}

std::optional<HandleDrag> drag_finish(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                      Point from, const ToolEvent& to) {
  const Finish* finish = start.find(id) != nullptr ? start.find(id)->finish() : nullptr;
  if (finish == nullptr || handle.index >= finish->steps.size())
    return std::nullopt;
  const Result<PieceResult>& now = session.seated(id);
  FinishDrag drag{to.at - from, to.at, now ? now->ink : Box{}, beyond_px * to.mm_per_px};
  if (to.modifiers.testFlag(Qt::ControlModifier))
    drag.step_mm = drag.step_deg = 0;
  if (to.modifiers.testFlag(Qt::ShiftModifier))
    drag.step_deg = snap;
  if (handle.finished != nullptr && handle.index < handle.finished->steps.size())
    drag.part = handle.part, drag.ties = &handle.finished->steps[handle.index].ties;
  const FinishAction what = dragged(finish->steps[handle.index].what, drag);
  HandleDrag out;
  out.document = edit_piece(start, id, [&](Piece& p) { p.finish()->steps[handle.index].what = what; });
  const auto measure = [&](double mm) { return length_text(mm, start.unit) + " " + unit_name(start.unit); };
  if (const auto* s = std::get_if<ShadeStep>(&what)) {
    out.name = QObject::tr("Move the shade");
    out.measure = QObject::tr("%1° · %2").arg(QString::number(s->angle, 'g', 5), measure(s->depth));
  } else if (const auto* b = std::get_if<BorderStep>(&what)) {
    out.name = QObject::tr("Move a ring");
    out.measure = QObject::tr("ring at %1").arg(measure(outermost_ring(*b).distance));
  } else if (const auto* t = std::get_if<TabStep>(&what)) {
    out.name = QObject::tr("Move the tab");
    out.measure = QObject::tr("%1 % across, %2 % down").arg(qRound(100 * t->across)).arg(qRound(100 * t->down));
  }
  if (std::holds_alternative<TieStep>(what)) {
    out.name = QObject::tr("Move a tie");
    out.measure = QObject::tr("%1 %2 from where it was")
                      .arg(length_text(length(to.at - from), start.unit), unit_name(start.unit));
  }
  return out;
}

} // namespace frelm
