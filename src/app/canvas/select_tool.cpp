// Select: click picks (a group first, a second click what is in it), Ctrl+click what lies below, dragging moves (edges
// and middles catch, Ctrl lets go of them), handles reshape, dragging over empty sheet picks all it encloses, leftwards
// all it touches.
#include "app/canvas/carried_layers.h"
#include "app/canvas/handles.h"
#include "app/style/words.h"
#include "document/align_catch.h"
#include "document/arrange.h"
#include "document/measure.h"
#include "document/on_lines.h"
#include "document/piece_groups.h"
#include "document/ruler_lines.h"

namespace frelm {
namespace {

class SelectTool final : public Tool {
public:
  ToolReply press(const Session& session, const ToolEvent& event) override {
    from_ = event.at;
    moved_ = false;
    if_clicked_.reset();
    lines_.reset();
    typed_.clear();
    change_.reset();
    start_ = session.document();
    ToolReply reply;
    handle_ = handle_at(session, event);
    if (handle_) {
      drag_ = Drag::Handle;
      if (handle_->kind == HandleKind::Block && handle_->block.kind == BlockHandleKind::Peg)
        reply.nodes = pegs_after(session, handle_->block.index, event.modifiers.testFlag(Qt::ShiftModifier));
      return reply;
    }
    const PieceId id = piece_at(session, event.at, pick_px * event.mm_per_px);
    if (const auto line = id == 0 ? ruler_line(session, event) : std::nullopt) {
      drag_ = Drag::RulerLine;
      line_hand_ = make_ruler_line_tool({.at = line});
      return line_hand_->press(session, event);
    }
    std::vector<PieceId> ids = session.selection();
    const std::vector<PieceId> unit = id != 0 ? picked(start_, ids, id, Click::First) : std::vector<PieceId>{};
    const auto had = std::find(ids.begin(), ids.end(), id);
    if (event.modifiers.testFlag(Qt::ShiftModifier)) {
      if (had != ids.end())
        if_clicked_ = without(ids, unit); // a drag, which Shift keeps straight, moves it with the others
      else
        ids.insert(ids.end(), unit.begin(), unit.end());
    } else if (id == 0) {
      ids.clear();
    } else if (had == ids.end()) {
      ids = unit;
    } else if (event.modifiers.testFlag(Qt::ControlModifier)) {
      if_clicked_ = {{piece_below(session, event.at, pick_px * event.mm_per_px, ids.size() == 1 ? ids[0] : 0)}};
    } else if (ids.size() > 1) {
      if_clicked_ = picked(start_, ids, id, Click::Again);
    }
    drag_ = id == 0 ? Drag::Rubber : Drag::Move;
    // A second click goes into the run: it chooses the letter under the hand, and a drag of that letter moves it.
    const bool again = id != 0 && session.selected() != nullptr && session.selected()->id == id &&
                       !(event.modifiers & (Qt::ShiftModifier | Qt::ControlModifier));
    const PlacedLetter* letter = again ? letter_at(session, event.at) : nullptr;
    const PlacedLetter* chosen = chosen_letter(session);
    letter_ = letter != nullptr ? id_of(session, *letter) : 0;
    if (chosen != nullptr && letter_ != 0 && letter_ == session.letter())
      drag_ = Drag::Letter;
    reply.select = ids;
    if (event.twice && id != 0 && session.document().find(id)->lettering() != nullptr) {
      drag_ = Drag::None;
      letter_ = 0;
      reply.select = std::vector<PieceId>{id};
      reply.letter = 0;
      reply.type_text = true;
    }
    return reply;
  }

  ToolReply move(const Session& session, const ToolEvent& event, bool pressed) override {
    if (!pressed || drag_ == Drag::None)
      return hover(session, event);
    ToolReply reply;
    if (!moved_ && distance(event.at, from_) < drag_begins_px * event.mm_per_px)
      return reply;
    moved_ = true;
    if (drag_ == Drag::RulerLine)
      return line_hand_->move(session, event, true);
    reply.cursor = Qt::ClosedHandCursor;
    reply.overlay.measure_at = event.at;
    if (drag_ == Drag::Rubber) {
      Box box;
      box.add(from_), box.add(event.at);
      reply.overlay.rubber = box;
      reply.overlay.touching = event.at.x < from_.x;
      reply.cursor = Qt::ArrowCursor;
    } else if (drag_ == Drag::Move) {
      Vec by = event.at - from_;
      if (event.modifiers.testFlag(Qt::ShiftModifier))
        (std::abs(by.x) > std::abs(by.y) ? by.y : by.x) = 0;
      if (const auto typed = typed_way(by))
        move_exactly(session, *typed, reply);
      else
        move_by(session, event, by, reply);
    } else if (std::optional<HandleDrag> drag =
                   drag_ == Drag::Letter
                       ? drag_letter(session, start_, from_, event)
                       : drag_handle(session, start_, *handle_, from_, event, others_for(session), typed_number())) {
      if (!drag->refused)
        reply.preview = std::move(drag->document);
      reply.overlay.measure = drag->measure;
      reply.overlay.caught = drag->caught;
      name_ = drag->name;
      change_ = drag->change;
      if (drag->refused)
        reply.cursor = Qt::ForbiddenCursor;
    }
    if (!typed_.isEmpty())
      reply.overlay.measure = QObject::tr("%1▏ · %2").arg(typed_, reply.overlay.measure);
    return reply;
  }

  bool takes_number(const QString& typed) override {
    if (!moved_ || (drag_ != Drag::Move && !(drag_ == Drag::Handle && frelm::takes_number(*handle_))))
      return false;
    typed_ = typed;
    return true;
  }

  ToolReply release(const Session& session, const ToolEvent& event) override {
    ToolReply reply;
    if (moved_ && drag_ == Drag::RulerLine) {
      reply = line_hand_->release(session, event);
    } else if (moved_ && drag_ == Drag::Rubber) {
      Box box;
      box.add(from_), box.add(event.at);
      const bool touching = event.at.x < from_.x;
      std::vector<PieceId> ids;
      for (const auto& p : session.document().pieces)
        if (const Result<PieceResult>& now = session.seated(p->id);
            p->visible && !p->locked && now && !now->ink.empty() &&
            (touching ? touches(session, *p, box) : box.contains(now->ink)))
          ids.push_back(p->id);
      reply.select = by_whole_groups(session.document(), ids, touching ? TornGroups::Taken : TornGroups::Left);
    } else if (moved_ && drag_ == Drag::Move && session.selection().size() > most_laid_anew) {
      reply = move(session, event, true);
      if (const std::optional<Vec> by = reply.overlay.carried; by && *by != Vec{})
        reply.apply = move_pieces(start_, session.selection(), *by);
      reply.overlay = {};
      reply.name = name_;
      reply.change = change_;
    } else if (moved_ && session.dragging()) {
      if (drag_ == Drag::Move) { // keys count as they are held now
        reply = move(session, event, true);
        reply.overlay = {};
      }
      reply.commit = true;
      reply.name = name_;
      reply.change = change_;
    }
    if (!moved_ && (drag_ == Drag::Move || drag_ == Drag::Letter))
      reply.letter = letter_;
    if (!moved_ && drag_ == Drag::Rubber)
      reply.letter = 0;
    if (!moved_ && if_clicked_)
      reply.select = if_clicked_;
    drag_ = Drag::None;
    moved_ = false;
    return reply;
  }

  ToolReply cancel() override {
    ToolReply reply;
    reply.cancel = drag_ != Drag::None;
    drag_ = Drag::None;
    moved_ = false;
    return reply;
  }

  ToolReply nudge(const Session& session, Vec by) override {
    const std::vector<std::size_t> pegs = chosen_pegs(session);
    if (pegs.empty())
      return Tool::nudge(session, by);
    ToolReply reply;
    reply.apply = edit_piece(session.document(), session.selected()->id, [&](Piece& p) {
      Lettering& l = *p.lettering();
      l.recipe.bend = with_pegs_moved(l.recipe.bend, l.placement, pegs, by);
    });
    reply.name = QObject::tr("Nudge pegs");
    reply.merge_key = "nudge pegs";
    return reply;
  }

  // First the letter or the pegs inside the piece, then the group around it, then all.
  ToolReply escape(const Session& session) override {
    ToolReply reply = cancel();
    if (session.letter() != 0)
      reply.letter = 0;
    else if (!chosen_pegs(session).empty())
      reply.nodes = std::vector<NodeAt>{};
    else
      reply.select = one_level_out(session.document(), session.selection());
    return reply;
  }

private:
  enum class Drag { None, Move, Rubber, Handle, Letter, RulerLine };

  static std::optional<std::size_t> ruler_line(const Session& session, const ToolEvent& event) {
    const auto at = ruler_line_at(session.document(), event.at, 4 * event.mm_per_px);
    return at && !session.document().ruler_lines[*at].locked ? at : std::nullopt;
  }

  // The number that was typed, in the unit of the job or its own; of a turn degrees.
  std::optional<double> typed_number() const {
    const bool turns =
        drag_ == Drag::Handle && (handle_->kind == HandleKind::Turn || handle_->kind == HandleKind::Lean);
    return number_in(typed_, turns ? MeasureKind::Angle : MeasureKind::Length);
  }
  std::optional<double> number_in(const QString& text, MeasureKind kind) const {
    const Result<double> v = parse_measure(text.toStdString(), kind, start_.unit);
    return !text.isEmpty() && v && std::isfinite(*v) ? std::optional(*v) : std::nullopt;
  }

  // One number: so far along the longer way of the hand; two with a semicolon: across and down.
  std::optional<Vec> typed_way(Vec hand) const {
    const QStringList parts = typed_.split(';');
    const auto first = number_in(parts[0], MeasureKind::Length);
    if (parts.size() == 2) {
      const auto second = number_in(parts[1], MeasureKind::Length);
      return first && second ? std::optional(Vec{*first, *second}) : std::nullopt;
    }
    if (!first)
      return std::nullopt;
    const bool across = std::abs(hand.x) >= std::abs(hand.y);
    const double way = std::copysign(*first, (across ? hand.x : hand.y) * (*first < 0 ? -1 : 1));
    return across ? Vec{way, 0} : Vec{0, way};
  }

  void move_exactly(const Session& session, Vec by, ToolReply& reply) {
    name_ = QObject::tr("Move");
    change_ = Change{by};
    reply.overlay.measure = moved_words(by);
    show_moved(session, by, reply);
  }

  // Of hundreds the canvas carries a picture.
  void show_moved(const Session& session, Vec by, ToolReply& reply) const {
    if (session.selection().size() > most_laid_anew)
      reply.overlay.carried = by;
    else
      reply.preview = move_pieces(start_, session.selection(), by);
  }

  QString moved_words(Vec by) const {
    return QObject::tr("%1, %2 %3")
        .arg(length_text(by.x, start_.unit), length_text(by.y, start_.unit), unit_name(start_.unit));
  }

  // Letters that stand straight and are dragged onto a line light it; with Ctrl they ride on it, where the hand is.
  void move_by(const Session& session, const ToolEvent& event, Vec by, ToolReply& reply) {
    name_ = QObject::tr("Move");
    change_.reset();
    if (const PieceId line = line_under(session, event)) {
      const QString name = piece_words(start_, *start_.find(line));
      const auto follow = session.evaluator().guide(start_, line);
      reply.overlay.edge = follow ? (*follow)->curve : nullptr;
      reply.overlay.measure = QObject::tr("Ctrl: rides on %1").arg(name);
      if (event.modifiers.testFlag(Qt::ControlModifier))
        if (Result<Document> riding =
                ridden(start_, session.selection().front(), line, session.evaluator(), event.at)) {
          reply.overlay.measure = QObject::tr("rides on %1").arg(name);
          reply.preview = std::move(*riding);
          name_ = QObject::tr("Ride on a guide");
          return;
        }
    }
    QStringList words;
    if (!event.modifiers.testFlag(Qt::ControlModifier))
      words = catch_lines(session, event, by, reply);
    const QString moved = moved_words(by);
    if (reply.overlay.measure.isEmpty()) // else what a line that is near offers
      reply.overlay.measure = (QStringList{moved} + words).join(QObject::tr(" · "));
    show_moved(session, by, reply);
    change_ = Change{by};
  }

  // What can catch in this drag, and what it catches; looked up once.
  void gather(const Session& session) {
    if (lines_)
      return;
    std::vector<PlacedBox> others;
    const std::set<PieceId> moving = carried_along(start_, session.selection());
    for (const auto& p : start_.pieces)
      if (p->visible && !moving.contains(p->id))
        if (const Result<PieceResult> r = session.evaluator().seat_now(start_, p->id); r && !r->ink.empty())
          others.push_back(placed_box(p->id, *r));
    lines_ = align_lines(start_, std::move(others));
    held_ = {};
    for (const PieceId id : session.selection())
      if (const Result<PieceResult> r = session.evaluator().seat_now(start_, id)) {
        const PlacedBox one = placed_box(id, *r);
        held_.box.add(one.box);
        if (session.selection().size() == 1)
          held_ = one;
      }
  }
  // Whose size a corner may catch.
  std::vector<PlacedBox> others_for(const Session& session) {
    if (handle_->kind != HandleKind::Corner)
      return {};
    gather(session);
    return lines_->others;
  }

  // Edges and middles by those of the others and of the sheet; with Shift along the free way only. Gives what caught.
  QStringList catch_lines(const Session& session, const ToolEvent& event, Vec& by, ToolReply& reply) {
    gather(session);
    if (held_.box.empty())
      return {};
    const auto at = [&] {
      PlacedBox out = held_;
      out.box = {held_.box.x0 + by.x, held_.box.y0 + by.y, held_.box.x1 + by.x, held_.box.y1 + by.y};
      for (std::vector<double>* lines : {&out.baselines, &out.cap_lines})
        for (double& y : *lines)
          y += by.y;
      return out;
    };
    AlignCatch caught = align_catch(*lines_, at(), session.preferences().catch_px * event.mm_per_px);
    if (event.modifiers.testFlag(Qt::ShiftModifier))
      (by.x == 0 ? caught.across : caught.down).reset();
    by += {caught.across ? caught.across->by : 0, caught.down ? caught.down->by : 0};
    const Box now = at().box;
    QStringList words;
    for (const auto& c : {caught.across, caught.down})
      if (c)
        reply.overlay.equal_gaps.insert(reply.overlay.equal_gaps.end(), c->equal.begin(), c->equal.end());
    if (caught.across) {
      const Box& other = caught.across->line.box;
      reply.overlay.caught_lines.emplace_back(Point{caught.across->line.at, std::min(now.y0, other.y0)},
                                              Point{caught.across->line.at, std::max(now.y1, other.y1)});
      words << caught_words(caught.across->line, true);
    }
    if (caught.down) {
      const Box& other = caught.down->line.box;
      reply.overlay.caught_lines.emplace_back(Point{std::min(now.x0, other.x0), caught.down->line.at},
                                              Point{std::max(now.x1, other.x1), caught.down->line.at});
      if (const QString word = caught_words(caught.down->line, false); !words.contains(word))
        words << word;
    }
    return words;
  }

  QString caught_words(const AlignLine& line, bool across) const {
    const Piece* piece = start_.find(line.piece);
    if (line.to == AlignTo::RulerLine)
      return QObject::tr("ruler line");
    const QString of = piece != nullptr ? piece_words(start_, *piece) : QObject::tr("the sheet");
    switch (line.side) {
    case AlignSide::Low:
      return across ? QObject::tr("left edge of %1").arg(of) : QObject::tr("upper edge of %1").arg(of);
    case AlignSide::Middle:
      return QObject::tr("middle of %1").arg(of);
    case AlignSide::High:
      return across ? QObject::tr("right edge of %1").arg(of) : QObject::tr("lower edge of %1").arg(of);
    case AlignSide::Baseline:
      return QObject::tr("baseline of %1").arg(of);
    case AlignSide::CapLine:
      return QObject::tr("cap line of %1").arg(of);
    case AlignSide::EqualGap:
      return QObject::tr("equal gaps");
    }
    return {};
  }

  // The line nearest to the hand that the one lettering dragged could ride on.
  PieceId line_under(const Session& session, const ToolEvent& event) const {
    const Piece* piece = session.selection().size() == 1 ? start_.find(session.selection().front()) : nullptr;
    const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
    if (l == nullptr || l->recipe.letters() == nullptr || l->recipe.bend.kind != BendKind::Straight)
      return 0;
    double nearest = 2 * pick_px * event.mm_per_px;
    PieceId out = 0;
    for (const auto& p : start_.pieces)
      if (const Result<PieceResult>& now = session.seated(p->id);
          p->visible && p->lettering() == nullptr && now && now->ink.grown(nearest).contains(event.at))
        if (const auto line = session.evaluator().guide(start_, p->id)) {
          const Curve& curve = *(*line)->curve;
          if (const double d = distance(curve.at(curve.nearest(event.at)).point, event.at); d < nearest)
            nearest = d, out = p->id;
        }
    return out;
  }

  // A press chooses the peg; with Shift it joins those chosen or leaves them.
  static std::vector<NodeAt> pegs_after(const Session& session, std::size_t peg, bool more) {
    std::vector<NodeAt> out = session.nodes_chosen();
    const auto had = std::find(out.begin(), out.end(), NodeAt{0, peg});
    if (more && had != out.end())
      out.erase(had);
    else if (more)
      out.push_back({0, peg});
    else if (had == out.end())
      out = {{0, peg}};
    return out;
  }

  static std::uint64_t id_of(const Session& session, const PlacedLetter& l) {
    const Letters* letters = session.selected()->lettering()->recipe.letters();
    return letters != nullptr && l.first < letters->text.size() ? letters->text[l.first].id : 0;
  }

  static std::optional<Handle> handle_at(const Session& session, const ToolEvent& event) {
    std::optional<Handle> best;
    double nearest = (pick_px + 2) * event.mm_per_px;
    for (const Handle& h : handles_of(session, event.mm_per_px))
      if (const double d = distance(h.at, event.at); d < nearest)
        best = h, nearest = d;
    return best;
  }

  static std::vector<PieceId> without(std::vector<PieceId> ids, const std::vector<PieceId>& unit) {
    std::erase_if(ids, [&](PieceId id) { return std::find(unit.begin(), unit.end(), id) != unit.end(); });
    return ids;
  }

  static ToolReply hover(const Session& session, const ToolEvent& event) {
    ToolReply reply;
    if (const std::optional<Handle> h = handle_at(session, event)) {
      reply.cursor =
          h->kind == HandleKind::FaceWidth || h->kind == HandleKind::RingDistance || h->kind == HandleKind::Lean
              ? Qt::SizeHorCursor
          : h->kind == HandleKind::FaceWeight ? Qt::SizeVerCursor
          : h->kind != HandleKind::Corner     ? Qt::OpenHandCursor
          : h->index % 2 == 0                 ? Qt::SizeFDiagCursor
                                              : Qt::SizeBDiagCursor;
    } else if (piece_at(session, event.at, pick_px * event.mm_per_px) != 0) {
      reply.cursor = Qt::SizeAllCursor;
    } else if (const auto line = ruler_line(session, event)) {
      const RulerLine& l = session.document().ruler_lines[*line];
      reply.cursor = upright_at(l) ? Qt::SplitHCursor : level_at(l) ? Qt::SplitVCursor : Qt::SizeAllCursor;
    }
    return reply;
  }

  std::unique_ptr<Tool> line_hand_; // of a ruler line
  Drag drag_ = Drag::None;
  bool moved_ = false;
  std::uint64_t letter_ = 0;                       // under the hand when the button went down
  std::optional<std::vector<PieceId>> if_clicked_; // the selection, when the button is let go without a drag
  Point from_;
  Document start_;
  std::optional<Handle> handle_;
  std::optional<AlignLines> lines_; // of this drag
  PlacedBox held_;                  // the selection when it began
  QString name_, typed_;
  std::optional<Change> change_; // of this drag
};

} // namespace

std::unique_ptr<Tool> make_select_tool() {
  return std::make_unique<SelectTool>();
}

} // namespace frelm
