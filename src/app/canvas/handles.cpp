#include "app/canvas/handles.h"

#include "app/canvas/finish_handles.h"
#include "app/canvas/pose_handles.h"
#include "app/style/words.h"

#include "document/arrange.h"
#include "document/bead.h"
#include "document/blocks.h"
#include "document/face_axes.h"
#include "document/measure.h"
#include "lettering/seat.h"

#include <fmt/format.h>

namespace frelm {
namespace {

constexpr double stem_px = 26;     // shortest stem, so that it never lies under the bead
constexpr double catch_px = 6;     // along the guide
constexpr double axis_gap_px = 11; // of the handles of a face's axes off the ink
constexpr double weight_px = 160;  // of the hand's way, for an axis from end to end

void add_run_handles(const Session& session, const Piece& piece, double mm_per_px, std::vector<Handle>& out) {
  const Lettering& l = *piece.lettering();
  const Bend& bend = l.recipe.bend;
  const double least = stem_px * mm_per_px;
  if (bend.rides()) {
    const Result<Bead> bead = bead_of(session.shown(), piece.id, session.evaluator());
    if (!bead)
      return;
    const Result<PieceResult>& now = session.seated(piece.id);
    if (!now || now->seated == nullptr || !now->seated->fills_guide)
      out.push_back({HandleKind::Bead, bead->at, bead->at});
    out.push_back({HandleKind::Stem, bead->at + bead->up * (least + bend.offset), bead->at});
  } else if (bend.laid_by() == BendKind::Arc) {
    const Vec up = up_of(direction(radians(l.placement.angle)));
    const Result<PieceResult>& seated = session.seated(piece.id);
    const double cap = seated && seated->seated != nullptr ? seated->seated->spaced->set->cap_height : 0;
    const Point top = l.placement.at + up * (cap + least);
    out.push_back({HandleKind::ArcPull, top, l.placement.at});
  }
}

QString depth_words(const RailsBend& r, const RailProfile& p, Unit unit) {
  const QString kind = core_words(profile_name(p.kind)).toLower();
  QString out = r.depth_in == DepthIn::Percent
                    ? QObject::tr("%1 %2 %").arg(kind).arg(p.depth, 0, 'f', 1)
                    : QObject::tr("%1 %2 %3").arg(kind, length_text(p.depth, unit), unit_name(unit));
  if (p.kind == ProfileKind::Wave)
    out += QObject::tr("   phase %1°").arg(p.phase, 0, 'f', 0);
  if (p.kind == ProfileKind::Peak)
    out += QObject::tr("   %1 % off the middle").arg(p.phase, 0, 'f', 0);
  return out;
}

// Rails, corners of a filled shape, pegs. What would fold the letters over is refused.
std::optional<HandleDrag> drag_block(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                     Point from, const ToolEvent& to) {
  const Result<PieceResult> was = session.evaluator().seat_now(start, id);
  const Lettering* l = start.find(id)->lettering();
  if (!was || was->bent == nullptr || l == nullptr)
    return std::nullopt;
  const bool free = to.modifiers.testFlag(Qt::ControlModifier), straight = to.modifiers.testFlag(Qt::ShiftModifier);
  const bool peg = handle.block.kind == BlockHandleKind::Peg || handle.block.kind == BlockHandleKind::PegAlong ||
                   handle.block.kind == BlockHandleKind::PegDown;
  BlockDrag drag{from, to.at, !free, {}};
  if (straight && peg) {
    const Vec by = to.at - from;
    drag.to = from + (std::abs(by.x) > std::abs(by.y) ? Vec{by.x, 0} : Vec{0, by.y});
  }
  const std::vector<std::size_t> chosen = chosen_pegs(session);
  if (std::find(chosen.begin(), chosen.end(), handle.block.index) != chosen.end())
    drag.chosen = chosen;
  const Bend bend = with_block_handle(l->recipe.bend, was->bent->made, l->placement, handle.block, drag);
  HandleDrag out;
  out.document = edit_piece(start, id, [&](Piece& p) { p.lettering()->recipe.bend = bend; });
  const RailsBend& r = bend.rails;
  const RailEdge& edge = handle.block.bottom && r.link == EdgeLink::Free ? r.bottom : r.top;
  switch (handle.block.kind) {
  case BlockHandleKind::Depth:
    out.name = handle.block.bottom ? QObject::tr("Pull the bottom edge") : QObject::tr("Pull the top edge");
    out.measure = depth_words(r, edge.first, start.unit);
    break;
  case BlockHandleKind::More:
    out.name = handle.block.bottom ? QObject::tr("Pull the bottom edge") : QObject::tr("Pull the top edge");
    out.measure = depth_words(r, edge.plus, start.unit);
    break;
  case BlockHandleKind::TaperAlong:
    out.name = QObject::tr("Taper the ends");
    out.measure = QObject::tr("taper %1 %").arg(r.taper_along, 0, 'f', 0);
    break;
  case BlockHandleKind::TaperAcross:
    out.name = QObject::tr("Taper the sides");
    out.measure = QObject::tr("taper %1 %").arg(r.taper_across, 0, 'f', 0);
    break;
  case BlockHandleKind::Corner:
    out.name = QObject::tr("Move a corner");
    out.measure =
        r.fill.corners
            ? QObject::tr("corner at %1 % of the edge").arg((*r.fill.corners)[handle.block.index] * 100, 0, 'f', 1)
            : QString();
    break;
  case BlockHandleKind::End:
    out.name = QObject::tr("Move an end");
    out.measure =
        QObject::tr("from %1 % of the height on").arg(r.fill.upright.ends[handle.block.index] * 100, 0, 'f', 0);
    break;
  case BlockHandleKind::Peg: {
    const Vec by = drag.to - drag.from;
    out.name = drag.chosen.size() > 1 ? QObject::tr("Pull pegs") : QObject::tr("Pull a peg");
    out.measure =
        QString("%1, %2 %3").arg(length_text(by.x, start.unit), length_text(by.y, start.unit), unit_name(start.unit));
    break;
  }
  case BlockHandleKind::PegAlong:
  case BlockHandleKind::PegDown:
    out.name = QObject::tr("Pull a peg's handle");
    out.measure = QObject::tr("handle");
    break;
  }
  if (const std::optional<Error> fault = warp_refusal(start, out.document, id, session.evaluator())) {
    out.refused = true;
    out.measure = words_of(fault->what);
  }
  return out;
}

std::optional<HandleDrag> drag_bead(const Session& session, const Document& start, PieceId id, const ToolEvent& to) {
  const Result<Bead> bead = bead_of(start, id, session.evaluator());
  if (!bead)
    return std::nullopt;
  HandleDrag out;
  double s = bead->guide->nearest(to.at);
  QString word;
  if (!to.modifiers.testFlag(Qt::ControlModifier)) {
    std::vector<BeadCatch> catches = bead_catches(start, id, session.evaluator());
    if (const std::optional<BeadCatch> level = session.level_catch(id))
      catches.insert(catches.begin(), *level);
    for (const BeadCatch& c : catches) {
      const double whole = bead->guide->length();
      double off = std::abs(c.s - s);
      if (bead->guide->closed())
        off = std::min(off, whole - off);
      if (off < catch_px * to.mm_per_px) {
        s = c.s;
        out.caught = bead->guide->at(s).point;
        word = QString(" · ") + QString::fromStdString(c.name);
        break;
      }
    }
  }
  out.document = slide_bead(start, id, session.evaluator(), s);
  out.name = QObject::tr("Move along guide");
  const Result<PieceResult>& now = session.seated(id);
  if (now && now->seated != nullptr) {
    const GuideBend& b = out.document.find(id)->lettering()->recipe.bend.guide;
    const QString place = b.by == AlongBy::Angle      ? QString("%1°").arg(b.angle, 0, 'f', 1)
                          : b.by == AlongBy::Distance ? length_text(b.distance, start.unit, 1)
                                                      : QString("%1 %").arg(b.percent, 0, 'f', 1);
    out.measure = QString("%1 of %2 %3   %4%5")
                      .arg(length_text(now->seated->used_length, start.unit, 1),
                           length_text(now->seated->guide_length, start.unit, 1), unit_name(start.unit), place, word);
  }
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
  out.name = QObject::tr("Change base offset");
  out.measure = QObject::tr("offset %1 %2").arg(length_text(offset, start.unit), unit_name(start.unit));
  return out;
}

std::optional<HandleDrag> drag_arc(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                   Point from, const ToolEvent& to) {
  const Piece* piece = start.find(id);
  const Result<PieceResult> was = session.evaluator().seat_now(start, id);
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
  out.name = QObject::tr("Change arc");
  out.measure =
      QObject::tr("rise %1   radius %2 %3")
          .arg(length_text(by_rise.value, start.unit), length_text(*radius, start.unit, 1), unit_name(start.unit));
  return out;
}

// Guide shapes: places are caught, lengths go in half millimetres unless Ctrl is held.
std::optional<HandleDrag> drag_shape(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                     Point from, const ToolEvent& to) {
  const GuideShape was = start.find(id)->guide()->shape;
  const bool free = to.modifiers.testFlag(Qt::ControlModifier), straight = to.modifiers.testFlag(Qt::ShiftModifier);
  HandleDrag out;
  out.document = start;
  const auto handles = shape_handles(was, 0);
  if (handle.index >= handles.size())
    return std::nullopt;
  ToolEvent hand = to;
  hand.at = handles[handle.index].at + (to.at - from);
  if (handle.shape == ShapeHandleKind::Turn)
    hand.at = to.at;
  if (handle.shape == ShapeHandleKind::Move && straight) {
    const Vec by = hand.at - handles[0].at;
    hand.at = handles[0].at + (std::abs(by.x) > std::abs(by.y) ? Vec{by.x, 0} : Vec{0, by.y});
  }
  std::vector<PieceId> except{id};
  for (const PieceId f : followers_of(start, id))
    except.push_back(f);
  HandPlace place{hand.at, {}, {}};
  if (handle.shape != ShapeHandleKind::Turn)
    place = caught_place(session, start, hand, {.except = except});
  if (const auto* line = std::get_if<LineGuide>(&was); line != nullptr && straight && handle.index > 0) {
    const Point fixed = handle.index == 1 ? line->to : line->from;
    const Vec d = place.at - fixed;
    const double step = pi / 12, angle = std::round(std::atan2(d.y, d.x) / step) * step;
    place.at = fixed + direction(angle) * length(d);
  }
  GuideShape now = with_handle(was, handle.index, place.at);
  const auto measure = measure_of_handle(was, handle.index);
  if (measure && !free && !place.caught) {
    const ShapeMeasure m = shape_measures(now)[*measure];
    if (m.kind == ShapeMeasureKind::Length) {
      now = with_measure(now, *measure, std::round(m.value * 2) / 2);
      if (std::string(handles[handle.index].name) == "size") // width, and height after it
        now = with_measure(now, *measure + 1, std::round(shape_measures(now)[*measure + 1].value * 2) / 2);
    } else if (m.kind == ShapeMeasureKind::Angle) {
      const double step = straight ? 15 : 90, near = std::round(m.value / step) * step;
      if (straight || std::abs(m.value - near) < 2)
        now = with_measure(now, *measure, wrap_degrees(near));
    }
  }
  if (handle.shape == ShapeHandleKind::Turn && measure) { // letters placed by angle turn along
    const double by = wrap_degrees(shape_measures(now)[*measure].value - shape_measures(was)[*measure].value);
    for (const PieceId rider : riders_of(start, id))
      out.document = edit_piece(std::move(out.document), rider, [&](Piece& p) {
        GuideBend& b = p.lettering()->recipe.bend.guide;
        if (b.by == AlongBy::Angle)
          b.angle = wrap_degrees(b.angle + by);
      });
  }
  out.caught = place.caught;
  const QString name = core_words(shape_name(was)).toLower();
  out.name = handle.shape == ShapeHandleKind::Move   ? QObject::tr("Move %1").arg(name)
             : handle.shape == ShapeHandleKind::Turn ? QObject::tr("Turn %1").arg(name)
                                                     : QObject::tr("Change %1").arg(name);
  if (measure) {
    const ShapeMeasure m = shape_measures(now)[*measure];
    const QString value = m.kind == ShapeMeasureKind::Length
                              ? QString("%1 %2").arg(length_text(m.value, start.unit), unit_name(start.unit))
                          : m.kind == ShapeMeasureKind::Angle ? QString("%1°").arg(m.value, 0, 'f', 1)
                                                              : QString::number(m.value, 'f', 2);
    out.measure = QString("%1 %2").arg(core_words(m.name).toLower(), value);
    if (std::string(handles[handle.index].name) == "size")
      out.measure += " × " + length_text(shape_measures(now)[*measure + 1].value, start.unit);
  } else {
    out.measure =
        QString("x %1   y %2 %3")
            .arg(length_text(place.at.x, start.unit), length_text(place.at.y, start.unit), unit_name(start.unit));
    if (const auto* line = std::get_if<LineGuide>(&now); line != nullptr && handle.index > 0)
      out.measure = QObject::tr("length %1 %2   %3°")
                        .arg(length_text(distance(line->from, line->to), start.unit), unit_name(start.unit))
                        .arg(degrees(std::atan2(line->to.y - line->from.y, line->to.x - line->from.x)), 0, 'f', 1);
  }
  out.measure += place.word;
  out.document = edit_piece(std::move(out.document), id, [&](Piece& p) { p.guide()->shape = now; });
  return out;
}

// The letter's own middle at its base and its directions on the sheet.
struct LetterFrame {
  Point base;
  Vec along, up;
};
LetterFrame frame_of(const PlacedLetter& l) {
  const Vec along = direction(l.angle);
  return {l.origin + along * (l.advance / 2), along, up_of(along)};
}

// Of a variable face: its width at the right of the ink, its weight over it.
void add_axis_handles(const Session& session, const Letters& letters, const Box& ink, double mm_per_px,
                      std::vector<Handle>& out) {
  const Box b = ink.grown(axis_gap_px * mm_per_px);
  const Point right{b.x1, (b.y0 + b.y1) / 2}, over{b.x0 + b.width() * 0.75, b.y0};
  for (const FaceAxis& axis : axes_of(letters, session.faces()))
    if (axis.tag == width_axis)
      out.push_back({HandleKind::FaceWidth, right, right});
    else if (axis.tag == weight_axis)
      out.push_back({HandleKind::FaceWeight, over, over});
}

// The ink's edge follows the hand as if the run grew evenly from one end of the axis to the other, and from its middle
// where it is centred.
std::optional<HandleDrag> drag_axis(const Session& session, const Document& start, PieceId id, const Handle& handle,
                                    Point from, const ToolEvent& to) {
  const bool width = handle.kind == HandleKind::FaceWidth;
  const Lettering& l = *start.find(id)->lettering();
  const Letters* letters = l.recipe.letters();
  const auto axis =
      letters != nullptr ? axis_of(*letters, session.faces(), width ? width_axis : weight_axis) : std::nullopt;
  if (!axis)
    return std::nullopt;
  const auto with = [&](double value) {
    return edit_piece(start, id, [&](Piece& p) { set_axis(*p.lettering()->recipe.letters(), *axis, value); });
  };
  double per_mm = (axis->high - axis->low) / (weight_px * to.mm_per_px);
  if (width) {
    const Result<PieceResult> narrow = session.evaluator().seat_now(with(axis->low), id),
                              wide = session.evaluator().seat_now(with(axis->high), id);
    if (!narrow || !wide || !(wide->ink.width() > narrow->ink.width()))
      return std::nullopt;
    const bool about_middle = l.recipe.bend.laid_by() != BendKind::Straight || letters->alignment == Alignment::Centre;
    per_mm = (axis->high - axis->low) / (wide->ink.width() - narrow->ink.width()) * (about_middle ? 2 : 1);
  }
  double value = axis_value(*letters, *axis) + per_mm * (width ? to.at.x - from.x : from.y - to.at.y);
  if (axis->high - axis->low > 20 && !to.modifiers.testFlag(Qt::ControlModifier))
    value = std::round(value);
  HandleDrag out;
  out.document = with(value);
  out.name = width ? QObject::tr("Change face width") : QObject::tr("Change weight");
  const double now = axis_value(*out.document.find(id)->lettering()->recipe.letters(), *axis);
  out.measure = (width ? QObject::tr("face width %1") : QObject::tr("weight %1")).arg(now, 0, 'g', 5);
  return out;
}

LetterTweak tweak_of(const Session& session, const Document& document) {
  const Lettering* l = document.find(session.selected()->id)->lettering();
  const LetterTweak* known = l->recipe.tweak(session.letter());
  LetterTweak t = known != nullptr ? *known : LetterTweak{};
  t.id = session.letter();
  return t;
}

std::optional<HandleDrag> drag_letter_handle(const Session& session, const Document& start, const Handle& handle,
                                             Point from, const ToolEvent& to) {
  const PlacedLetter* l = chosen_letter(session);
  if (l == nullptr)
    return std::nullopt;
  const LetterFrame frame = frame_of(*l);
  LetterTweak t = tweak_of(session, start);
  HandleDrag out;
  if (handle.kind == HandleKind::LetterTurn) {
    const auto angle = [&](Point p) { return degrees(std::atan2(p.y - frame.base.y, p.x - frame.base.x)); };
    t.turn = wrap_degrees(t.turn + angle(to.at) - angle(from));
    if (to.modifiers.testFlag(Qt::ShiftModifier))
      t.turn = std::round(t.turn / 15) * 15;
    if (std::abs(t.turn) < 1)
      t.turn = 0;
    out.name = QObject::tr("Turn letter");
    out.measure = QObject::tr("turn %1°").arg(t.turn, 0, 'f', 1);
  } else {
    const double was = distance(from, frame.base), now = distance(to.at, frame.base);
    if (!(was > 0))
      return std::nullopt;
    t.size = std::clamp(t.size * now / was, 0.1, 10.0);
    if (std::abs(t.size - 1) < 0.02)
      t.size = 1;
    out.name = QObject::tr("Change letter size");
    out.measure = QObject::tr("size %1 %").arg(t.size * 100, 0, 'f', 1);
  }
  out.document = set_tweak(start, session.selected()->id, t);
  return out;
}

} // namespace

std::vector<std::size_t> chosen_pegs(const Session& session) {
  std::vector<std::size_t> out;
  const Piece* piece = session.selected();
  if (piece != nullptr && piece->lettering() != nullptr && piece->lettering()->recipe.bend.kind == BendKind::Net)
    for (const NodeAt& n : session.nodes_chosen())
      if (n.node < piece->lettering()->recipe.bend.net.net.pegs.size())
        out.push_back(n.node);
  return out;
}

const PlacedLetter* chosen_letter(const Session& session) {
  const Piece* piece = session.selected();
  if (piece == nullptr || piece->lettering() == nullptr || session.letter() == 0)
    return nullptr;
  const Letters* letters = piece->lettering()->recipe.letters();
  const Result<PieceResult>& now = session.seated(piece->id);
  if (letters == nullptr || !now || now->seated == nullptr)
    return nullptr;
  for (const PlacedLetter& l : now->seated->letters)
    if (l.first < letters->text.size() && letters->text[l.first].id == session.letter())
      return &l;
  return nullptr;
}

const PlacedLetter* letter_at(const Session& session, Point at) {
  const Piece* piece = session.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return nullptr;
  const Result<PieceResult>& now = session.seated(piece->id);
  if (!now || now->seated == nullptr)
    return nullptr;
  const PlacedLetter* best = nullptr;
  for (const PlacedLetter& l : now->seated->letters) {
    if (l.blank() || distance(at, l.origin) > l.advance + 4 * now->seated->spaced->set->cap_height)
      continue;
    const Outline placed = l.shape->transformed(l.place);
    if (!placed.bounds().contains(at))
      continue;
    if (winding_number(placed, at, 0.05) != 0)
      return &l;
    if (best == nullptr)
      best = &l;
  }
  return best;
}

std::optional<HandleDrag> drag_letter(const Session& session, const Document& start, Point from, const ToolEvent& to) {
  const Piece* piece = session.selected();
  const PlacedLetter* l = chosen_letter(session);
  if (l == nullptr || piece->locked)
    return std::nullopt;
  const LetterFrame frame = frame_of(*l);
  const Result<PieceResult>& now = session.seated(piece->id);
  const double cap = now->seated->spaced->set->cap_height;
  LetterTweak t = tweak_of(session, start);
  double along = dot(to.at - from, frame.along), up = dot(to.at - from, frame.up);
  if (to.modifiers.testFlag(Qt::ShiftModifier))
    (std::abs(along) > std::abs(up) ? up : along) = 0;
  t.nudge += along / cap, t.raise += up / cap;
  if (std::abs(t.raise * cap) < catch_px / 2 * to.mm_per_px)
    t.raise = 0;
  HandleDrag out;
  out.document = set_tweak(start, piece->id, t);
  out.name = QObject::tr("Move letter");
  out.measure =
      QObject::tr("along %1   raised %2 %3")
          .arg(length_text(t.nudge * cap, start.unit), length_text(t.raise * cap, start.unit), unit_name(start.unit));
  return out;
}

std::vector<Handle> handles_of(const Session& session, double mm_per_px) {
  std::vector<Handle> out;
  if (session.selection().size() > 1) {
    const Document& shown = session.shown();
    const Box ink = session.selection_ink();
    const bool moves = std::any_of(session.selection().begin(), session.selection().end(), [&](PieceId id) {
      const Piece* p = shown.find(id);
      return p != nullptr && p->visible && !p->locked;
    });
    if (moves && !ink.empty()) {
      const Box b = ink.grown(2 * corner_gap_px * mm_per_px);
      add_corners(b, out);
      add_turn(b, mm_per_px, out);
      if (std::all_of(session.selection().begin(), session.selection().end(), [&](PieceId id) {
            const Piece* p = shown.find(id);
            return p == nullptr || p->outline() != nullptr;
          }))
        add_lean(ink, b, mm_per_px, out);
    }
    return out;
  }
  const Piece* piece = session.selected();
  if (piece == nullptr || piece->locked || !piece->visible)
    return out;
  if (const Guide* guide = piece->guide()) {
    const auto handles = shape_handles(guide->shape, turn_gap_px * mm_per_px);
    for (std::size_t i = 0; i < handles.size(); ++i)
      out.push_back({HandleKind::Shape, handles[i].at, handles[i].root, i, handles[i].kind});
    return out;
  }
  if (const PlacedLetter* l = chosen_letter(session); l != nullptr && session.gaps_chosen().empty()) {
    const LetterFrame frame = frame_of(*l);
    const Box box = l->shape->transformed(l->place).bounds();
    const double reach = std::max(box.width(), box.height()) / 2;
    const Point middle = box.centre();
    out.push_back(
        {HandleKind::LetterTurn, middle + frame.up * (reach + turn_gap_px * mm_per_px), middle + frame.up * reach});
    out.push_back({HandleKind::LetterSize, middle + (frame.up + frame.along) * (reach + 4 * mm_per_px) * 0.8,
                   middle + (frame.up + frame.along) * (reach + 4 * mm_per_px) * 0.8});
    return out;
  }
  if (piece->lettering() != nullptr)
    add_run_handles(session, *piece, mm_per_px, out);
  const Result<PieceResult>& now = session.seated(piece->id);
  const bool block = now && now->bent != nullptr;
  if (now && !now->ink.empty()) {
    const Box b = now->ink.grown((block ? block_corner_gap_px : corner_gap_px) * mm_per_px);
    add_corners(b, out);
    const Lettering* l = piece->lettering();
    if (l == nullptr || (l->recipe.bend.laid_by() == BendKind::Straight && !block))
      add_turn(b, mm_per_px, out);
  }
  if (const Letters* letters = piece->lettering() != nullptr ? piece->lettering()->recipe.letters() : nullptr;
      letters != nullptr && now && !now->ink.empty() && !block)
    add_axis_handles(session, *letters, now->ink, mm_per_px, out);
  if (piece->finish() != nullptr && now && !now->ink.empty())
    add_finish_handles(session, *piece, now->ink, mm_per_px, out);
  if (piece->outline() != nullptr && now && !now->ink.empty())
    add_lean(now->ink, now->ink.grown(corner_gap_px * mm_per_px), mm_per_px, out);
  if (block) {
    const std::vector<std::size_t> pegs = chosen_pegs(session);
    for (const BlockHandle& h : block_handles(piece->lettering()->recipe.bend, now->bent->made, pegs)) {
      const bool chosen = h.kind == BlockHandleKind::Peg && std::find(pegs.begin(), pegs.end(), h.index) != pegs.end();
      out.push_back({HandleKind::Block, h.at, h.root, h.index, ShapeHandleKind::Move, h, chosen});
    }
  }
  return out;
}

bool takes_number(const Handle& handle) {
  return of_all_selected(handle.kind);
}

std::optional<HandleDrag> drag_handle(const Session& session, const Document& start, const Handle& handle, Point from,
                                      const ToolEvent& to, const std::vector<PlacedBox>& others,
                                      std::optional<double> typed) {
  if (of_all_selected(handle.kind))
    return drag_selected(session, start, handle, from, to, others, typed);
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
  case HandleKind::Shape:
    return drag_shape(session, start, id, handle, from, to);
  case HandleKind::Corner:
  case HandleKind::Turn:
  case HandleKind::Lean:
    break; // of all that is selected, above
  case HandleKind::FaceWidth:
  case HandleKind::FaceWeight:
    return drag_axis(session, start, id, handle, from, to);
  case HandleKind::Block:
    return drag_block(session, start, id, handle, from, to);
  case HandleKind::Shade:
  case HandleKind::RingDistance:
  case HandleKind::Tab:
  case HandleKind::Tie:
    return drag_finish(session, start, id, handle, from, to);
  case HandleKind::LetterTurn:
  case HandleKind::LetterSize:
    return drag_letter_handle(session, start, handle, from, to);
  }
  return std::nullopt;
}

} // namespace frelm
