#include "app/strip/gap_view.h"

#include "app/style/measure_field.h"
#include "app/style/scheme.h"
#include "app/style/words.h"
#include "document/measure.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QToolTip>
#include <QWheelEvent>

namespace frelm {
namespace {

constexpr double side_px = 16;                  // free on both sides
constexpr std::size_t most_pairs_at_once = 120; // evened again and again while a typed gap is found
constexpr double drag_px = 3;                   // less is a click
constexpr double near_px = 9;                   // beside a bracket's middle

} // namespace

GapView::GapView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), field_(new MeasureField(MeasureKind::Length, tr("Closest distance"), this)) {
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  setMinimumHeight(std::max(80, static_cast<int>(numbers_px() + axis_px() + 2.4 * fontMetrics().height())));
  setAccessibleName(tr("Gap strip"));
  field_->set_range(0, 1000);
  field_->hide();
  field_->installEventFilter(this);
  connect(field_, &MeasureField::edited, this, [this](double mm, bool stepped) {
    const Piece* piece = session_.selected();
    if (piece == nullptr || session_.gaps_chosen().empty())
      return;
    const auto t = text();
    if (t != nullptr && (t->spacing.waiting || t->spacing.pairs.size() > most_pairs_at_once)) {
      emit long_typing(mm);
      return;
    }
    const Result<Document> done =
        with_gaps(session_.document(), piece->id, session_.gaps_chosen(), mm, session_.evaluator());
    if (done)
      session_.apply(tr("Type a gap"), *done, {}, stepped ? "step gap" : "");
    else
      emit problem(words_of(done.error().what));
  });
  const auto refresh = [this] {
    if (line_ >= line_count())
      line_ = 0;
    if (fitted_ && drag_.hold == Hold::Nothing)
      fit();
    tell_current();
    update();
  };
  connect(&session, &Session::document_changed, this, refresh);
  connect(&session, &Session::drag_abandoned, this, [this] {
    drag_ = {};
    update();
  });
  connect(&session, &Session::selection_changed, this, [this, refresh] {
    line_ = 0;
    fitted_ = true, by_hand_ = false;
    field_->hide();
    refresh();
  });
  connect(&session, &Session::part_changed, this, [this, refresh] {
    // A letter chosen on another line: that line is shown.
    if (const auto t = text(); t != nullptr && session_.letter() != 0)
      for (const PlacedLetter& l : t->letters)
        if (l.line != line_ && id_of(l) == session_.letter()) {
          line_ = l.line;
          fitted_ = true;
          break;
        }
    refresh();
  });
  connect(&session, &Session::gaps_changed, this, refresh);
}

std::shared_ptr<const SeatedText> GapView::text() const {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return nullptr;
  const Result<PieceResult>& now = session_.seated(piece->id);
  return now ? now->seated : nullptr;
}

const Recipe* GapView::recipe() const {
  const Piece* piece = session_.selected();
  return piece != nullptr && piece->lettering() != nullptr && piece->lettering()->recipe.letters() != nullptr
             ? &piece->lettering()->recipe
             : nullptr;
}

std::vector<const Gap*> GapView::gaps() const {
  std::vector<const Gap*> out;
  const auto t = text();
  if (t == nullptr)
    return out;
  const std::pair<PieceId, std::size_t> of{session_.selected()->id, t->letters.size()};
  if (const auto fresh = session_.gaps(of.first))
    measured_ = fresh, measured_of_ = of;
  if (measured_ != nullptr && measured_of_ == of)
    for (const Gap& g : *measured_)
      if (t->letters[g.left].line == line_)
        out.push_back(&g);
  return out;
}

std::vector<PairId> GapView::pairs() const {
  const Recipe* r = recipe();
  const auto t = text();
  if (r == nullptr || t == nullptr)
    return {};
  std::vector<PairId> out = pairs_of(*r, *t);
  if (line_count() > 1)
    std::erase_if(out, [&](const PairId& p) {
      return std::none_of(t->letters.begin(), t->letters.end(),
                          [&](const PlacedLetter& l) { return l.line == line_ && id_of(l) == p.left; });
    });
  return out;
}

std::optional<PairId> GapView::pair(const Gap& gap) const {
  const Recipe* r = recipe();
  const auto t = text();
  return r != nullptr && t != nullptr ? pair_of(*r, *t, gap) : std::nullopt;
}

std::uint64_t GapView::id_of(const PlacedLetter& letter) const {
  const Recipe* r = recipe();
  return r != nullptr && letter.first < r->letters()->text.size() ? r->letters()->text[letter.first].id : 0;
}

std::size_t GapView::line_count() const {
  const auto t = text();
  return t != nullptr ? t->spaced->lines.size() : 0;
}

void GapView::set_line(std::size_t line) {
  line_ = line;
  fitted_ = true, by_hand_ = false;
  fit();
  update();
}

// ---- what is shown

GapView::Range GapView::whole() const {
  const auto t = text();
  if (t == nullptr)
    return {};
  double from = std::numeric_limits<double>::infinity(), to = -from;
  for (const PlacedLetter& l : t->letters)
    if (l.line == line_)
      from = std::min(from, l.s - l.advance / 2), to = std::max(to, l.s + l.advance / 2);
  if (!(from < to))
    return {0, 1};
  // The run with a little of the guide on both sides; on a guide at least half its length, so that its fullness shows.
  const double room = std::max((to - from) * 0.06, 2.0);
  Range r{from - room, to + room};
  const double least = std::min(t->guide_length * 0.5, (to - from) * 2.2);
  if (const double missing = least - (r.to - r.from); missing > 0)
    r.from -= missing / 2, r.to += missing / 2;
  // Tall letters on a short run must fit upwards too.
  const SetText& set = *t->spaced->set;
  const double tall = (std::max(set.cap_height, set.ascent * 0.9) + set.descent) * 1.12,
               px = std::max(10.0, band().height());
  const double widest = (width() - 2 * side_px) * tall / px;
  if (const double missing = widest - (r.to - r.from); missing > 0)
    r.from -= missing / 2, r.to += missing / 2;
  return r;
}

double GapView::axis_px() const {
  return fontMetrics().height() * gap_small_print + 2;
}
double GapView::numbers_px() const {
  return fontMetrics().height() * gap_small_print + 18;
}
QRectF GapView::band() const {
  return {0, axis_px(), static_cast<double>(width()), height() - numbers_px() - axis_px()};
}

void GapView::fit() {
  range_ = whole();
  fitted_ = true;
}

void GapView::follow(const Box& visible) {
  const auto t = text();
  if (by_hand_ || drag_.hold != Hold::Nothing || t == nullptr)
    return;
  double from = std::numeric_limits<double>::infinity(), to = -from;
  bool all = true;
  for (const PlacedLetter& l : t->letters)
    if (l.line == line_ && !l.blank()) {
      if (visible.contains(l.place == Affine{} ? l.shape->bounds().centre() : l.place(t->ink_of(l).centre())))
        from = std::min(from, l.s - l.advance), to = std::max(to, l.s + l.advance);
      else
        all = false;
    }
  if (all || !(from < to)) {
    fit();
  } else {
    range_ = {from, to};
    fitted_ = false;
  }
  update();
}

double GapView::px_per_mm() const {
  return (width() - 2 * side_px) / std::max(range_.to - range_.from, 1e-6);
}
double GapView::x_of(double s) const {
  return side_px + (s - range_.from) * px_per_mm();
}

void GapView::move_range(double by) {
  range_.from += by, range_.to += by;
  fitted_ = false, by_hand_ = true;
  update();
}

void GapView::resizeEvent(QResizeEvent*) {
  if (fitted_)
    fit();
}

QPointF GapView::bracket(const Gap& gap) const {
  const auto t = text();
  const PlacedLetter &a = t->letters[gap.left], &b = t->letters[gap.right];
  const double around = gap.seam ? t->guide_length : 0;
  const double left = x_of(a.s + (t->ink_of(a).x1 - a.advance / 2) * a.stretch),
               right = x_of(b.s + around + (t->ink_of(b).x0 - b.advance / 2) * b.stretch);
  return {(left + right) / 2, band().bottom() + 7};
}

// ---- choosing

const Gap* GapView::gap_at(QPointF px) const {
  if (px.y() < band().bottom() - 2)
    return nullptr;
  const Gap* best = nullptr;
  double nearest = near_px;
  for (const Gap* g : gaps())
    if (const double d = std::abs(bracket(*g).x() - px.x()); d < nearest)
      best = g, nearest = d;
  return best;
}

const PlacedLetter* GapView::letter_at(QPointF px) const {
  const auto t = text();
  if (t == nullptr || !band().contains(px))
    return nullptr;
  const PlacedLetter* best = nullptr;
  double nearest = 0;
  for (const PlacedLetter& l : t->letters) {
    if (l.line != line_ || l.blank())
      continue;
    const Box ink = t->ink_of(l);
    const double left = x_of(l.s + (ink.x0 - l.advance / 2) * l.stretch) - 2,
                 right = x_of(l.s + (ink.x1 - l.advance / 2) * l.stretch) + 2;
    if (px.x() < left || px.x() > right)
      continue;
    if (const double d = std::abs(px.x() - (left + right) / 2); best == nullptr || d < nearest)
      best = &l, nearest = d;
  }
  return best;
}

const Gap* GapView::current() const {
  const std::vector<PairId>& chosen = session_.gaps_chosen();
  if (chosen.empty())
    return nullptr;
  for (const Gap* g : gaps())
    if (pair(*g) == chosen.back())
      return g;
  return nullptr;
}

void GapView::choose(const Gap& gap, bool add) {
  const auto p = pair(gap);
  if (!p)
    return;
  std::vector<PairId> chosen = add ? session_.gaps_chosen() : std::vector<PairId>{};
  const auto known = std::find(chosen.begin(), chosen.end(), *p);
  if (known != chosen.end())
    chosen.erase(known);
  else
    chosen.push_back(*p);
  session_.choose_gaps(std::move(chosen));
}

void GapView::step(int by, bool extend) {
  const std::vector<PairId> all = pairs();
  if (all.empty())
    return;
  std::vector<PairId> chosen = session_.gaps_chosen();
  const auto here = chosen.empty() ? all.end() : std::find(all.begin(), all.end(), chosen.back());
  const auto last = static_cast<std::ptrdiff_t>(all.size()) - 1;
  const auto to = here != all.end() ? std::clamp((here - all.begin()) + by, std::ptrdiff_t{0}, last)
                                    : (by > 0 ? std::ptrdiff_t{0} : last);
  const PairId pair = all[static_cast<std::size_t>(to)];
  if (!extend)
    chosen.clear();
  std::erase(chosen, pair);
  chosen.push_back(pair);
  session_.choose_gaps(std::move(chosen));
  // In sight.
  for (const PlacedLetter& l : text()->letters)
    if (id_of(l) == pair.right) {
      if (const double x = x_of(l.s - l.advance / 2); x < 20)
        move_range((x - 60) / px_per_mm());
      else if (x > width() - 20)
        move_range((x - width() + 60) / px_per_mm());
      break;
    }
}

double GapView::step_mm() const {
  return session_.document().unit == Unit::Inch ? mm_per_inch / 200 : 0.1;
}

void GapView::widen(double steps) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || session_.gaps_chosen().empty())
    return;
  session_.apply(
      steps > 0 ? tr("Widen gap") : tr("Tighten gap"),
      widened(session_.document(), piece->id, session_.gaps_chosen(), steps * step_mm(), session_.evaluator()), {},
      "step gap");
}

void GapView::reset_chosen() {
  const Piece* piece = session_.selected();
  if (piece != nullptr && !session_.gaps_chosen().empty())
    session_.apply(tr("Reset gap"), gaps_reset(session_.document(), piece->id, session_.gaps_chosen()));
}

void GapView::type_gap(QKeyEvent* begun) {
  const Gap* g = current();
  if (g == nullptr)
    return;
  const QSize size = field_->minimumSizeHint();
  const double x = std::clamp(bracket(*g).x() - size.width() / 2.0, 0.0, std::max(0.0, width() - 1.0 * size.width()));
  field_->setGeometry(static_cast<int>(x), height() - size.height(), size.width(), size.height());
  field_->set_unit(session_.document().unit);
  field_->show();
  field_->setFocus();
  field_->show_value(g->closest.distance);
  field_->selectAll();
  if (begun != nullptr)
    static_cast<QObject*>(field_)->event(begun);
}

// Return takes what was typed (the field does so when it loses the focus), Escape leaves the gap as it was.
bool GapView::eventFilter(QObject* object, QEvent* event) {
  if (object != field_ || field_->isHidden())
    return QWidget::eventFilter(object, event);
  if (event->type() == QEvent::FocusOut) {
    QMetaObject::invokeMethod(field_, &QWidget::hide, Qt::QueuedConnection);
    return false;
  }
  if (event->type() != QEvent::KeyPress)
    return false;
  const int key = static_cast<QKeyEvent*>(event)->key();
  if (key != Qt::Key_Return && key != Qt::Key_Enter && key != Qt::Key_Escape)
    return false;
  if (key == Qt::Key_Escape)
    static_cast<QObject*>(field_)->event(event); // it takes its text back
  setFocus();
  field_->hide();
  return true;
}

QString describe_gap(const Session& session, const Recipe& recipe, const SeatedText& text, const Gap& gap) {
  const Unit unit = session.document().unit;
  const auto mm = [&](double v) { return length_text(v, unit, 2); };
  QStringList parts;
  switch (gap.look) {
  case GapLook::Joined:
    parts << GapView::tr("joined, %1 deep (%2 when straight)").arg(mm(*gap.depth), mm(*gap.target_depth));
    break;
  case GapLook::Lost:
    parts << GapView::tr("join lost, %1 apart").arg(mm(gap.closest.distance));
    break;
  case GapLook::Crashed:
    parts << GapView::tr("run into each other");
    break;
  default:
    if (gap.measured)
      parts << GapView::tr("optical %1, wanted %2%3")
                   .arg(mm(gap.optical), mm(gap.target),
                        gap.look == GapLook::Wide    ? GapView::tr(": wide")
                        : gap.look == GapLook::Tight ? GapView::tr(": tight")
                                                     : QString());
    if (gap.joined())
      parts << GapView::tr("touching");
    else
      parts << GapView::tr("closest %1").arg(mm(gap.closest.distance));
  }
  if (const auto p = pair_of(recipe, text, gap))
    if (const PairTweak* t = recipe.pair(p->left, p->right))
      parts << GapView::tr("by hand %1%2").arg(t->gap > 0 ? "+" : "", mm(t->gap * text.spaced->set->cap_height));
  if (gap.seam)
    parts << GapView::tr("seam");
  return parts.join(" · ") + " " + unit_name(unit);
}

void GapView::tell_current() {
  const auto t = text();
  const Gap* g = current();
  setAccessibleDescription(g != nullptr && t != nullptr ? describe_gap(session_, *recipe(), *t, *g) : QString());
}

// ---- mouse

void GapView::wheelEvent(QWheelEvent* event) {
  const double turn = event->angleDelta().y() != 0 ? event->angleDelta().y() : event->angleDelta().x();
  if (event->modifiers().testFlag(Qt::ShiftModifier) || event->angleDelta().y() == 0) {
    move_range(-turn / px_per_mm() / 2);
    return;
  }
  const double about = range_.from + (event->position().x() - side_px) / px_per_mm();
  const double factor = std::pow(1.0015, -turn);
  range_ = {about + (range_.from - about) * factor, about + (range_.to - about) * factor};
  fitted_ = false, by_hand_ = true;
  update();
}

void GapView::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton)
    return;
  drag_ = {};
  drag_.from = event->position();
  drag_.hold = Hold::Strip;
  const auto t = text();
  if (t == nullptr)
    return;
  drag_.start = session_.document();
  session_.begin_drag();
  const Session::OwnReply own(session_);
  if (const Gap* g = gap_at(event->position()); g != nullptr && pair(*g)) {
    const std::vector<PairId>& chosen = session_.gaps_chosen();
    const bool known = std::find(chosen.begin(), chosen.end(), *pair(*g)) != chosen.end();
    if (event->modifiers().testFlag(Qt::ControlModifier) || !known)
      choose(*g, event->modifiers().testFlag(Qt::ControlModifier));
    drag_.hold = Hold::Bracket;
    drag_.wider = session_.gaps_chosen();
    drag_.letter = id_of(t->letters[g->right]);
  } else if (const PlacedLetter* l = letter_at(event->position())) {
    drag_.hold = Hold::Letter;
    drag_.letter = id_of(*l);
    drag_.alone = event->modifiers().testFlag(Qt::ShiftModifier);
    const auto index = static_cast<std::size_t>(l - t->letters.data());
    bool first = true;
    for (const Gap* beside : gaps()) {
      const auto p = pair(*beside);
      if (p && beside->right == index)
        drag_.wider.push_back(*p), first = false;
      if (p && beside->left == index && (drag_.alone || first))
        drag_.tighter.push_back(*p);
    }
    session_.choose_gaps(drag_.wider.empty() ? drag_.tighter : drag_.wider);
    session_.choose_letter(drag_.letter);
  }
  for (const PlacedLetter& l : t->letters)
    if (drag_.letter != 0 && id_of(l) == drag_.letter)
      drag_.letter_px = x_of(l.s);
}

void GapView::drag_to(QPointF px) {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return;
  const double by = (px.x() - drag_.from.x()) / px_per_mm();
  Document now = widened(drag_.start, piece->id, drag_.wider, by, session_.evaluator());
  if (!drag_.tighter.empty())
    now = widened(now, piece->id, drag_.tighter, -by, session_.evaluator());
  const Session::OwnReply own(session_);
  session_.preview(std::move(now));
  // The letter stays under the hand, though a centred run grows both ways.
  if (const auto t = text())
    for (const PlacedLetter& l : t->letters)
      if (id_of(l) == drag_.letter) {
        const double away = (x_of(l.s) - drag_.letter_px - (px.x() - drag_.from.x())) / px_per_mm();
        range_.from += away, range_.to += away;
        break;
      }
  update();
}

void GapView::mouseMoveEvent(QMouseEvent* event) {
  if (!(event->buttons() & Qt::LeftButton)) {
    const Gap* g = gap_at(event->position());
    setCursor(g != nullptr && pair(*g)                  ? Qt::SplitHCursor
              : letter_at(event->position()) != nullptr ? Qt::SizeHorCursor
                                                        : Qt::ArrowCursor);
    return;
  }
  if (drag_.hold == Hold::Strip) {
    move_range((drag_.from.x() - event->position().x()) / px_per_mm());
    drag_.from = event->position();
    return;
  }
  if (drag_.hold == Hold::Nothing || (drag_.wider.empty() && drag_.tighter.empty()))
    return;
  if (std::abs(event->position().x() - drag_.from.x()) >= drag_px)
    drag_.moved = true;
  if (drag_.moved)
    drag_to(event->position());
}

void GapView::end_drag(bool keep) {
  const bool moved = drag_.moved, bracket = drag_.hold == Hold::Bracket;
  drag_ = {};
  const Session::OwnReply own(session_);
  session_.end_drag();
  if (moved && keep)
    session_.commit_preview(bracket ? tr("Change gap") : tr("Move letter in the run"));
  else if (moved)
    session_.cancel_preview();
  if (fitted_)
    fit();
  update();
}

void GapView::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton)
    end_drag(true);
}

void GapView::mouseDoubleClickEvent(QMouseEvent* event) {
  end_drag(false);
  if (const Gap* g = gap_at(event->position()); g != nullptr && pair(*g)) {
    session_.choose_gaps({*pair(*g)});
    type_gap();
    return;
  }
  by_hand_ = false;
  fit();
  update();
}

void GapView::contextMenuEvent(QContextMenuEvent* event) {
  if (event->reason() == QContextMenuEvent::Mouse)
    if (const Gap* g = gap_at(event->pos()); g != nullptr && pair(*g)) {
      const std::vector<PairId>& chosen = session_.gaps_chosen();
      if (std::find(chosen.begin(), chosen.end(), *pair(*g)) == chosen.end())
        choose(*g, false);
    }
  const Recipe* r = recipe();
  if (r == nullptr)
    return;
  QMenu menu;
  QAction* type = menu.addAction(tr("Type a gap…"), this, [this] { type_gap(); });
  QAction* reset = menu.addAction(tr("Reset chosen gaps"), this, [this] { reset_chosen(); });
  QAction* all = menu.addAction(tr("Reset all gaps"), this, [this] {
    session_.apply(tr("Reset all gaps"), all_gaps_reset(session_.document(), session_.selected()->id));
  });
  menu.addSeparator();
  menu.addAction(tr("Show the whole run"), this, [this] {
    by_hand_ = false;
    fit();
    update();
  });
  type->setEnabled(current() != nullptr);
  const std::vector<PairId>& chosen = session_.gaps_chosen();
  reset->setEnabled(
      std::any_of(chosen.begin(), chosen.end(), [&](const PairId& p) { return r->pair(p.left, p.right) != nullptr; }));
  all->setEnabled(!r->pairs.empty());
  menu.exec(event->globalPos());
}

// Arrows step through the gaps, with Ctrl and Shift they add to the choice; Shift and an arrow change the chosen gaps
// by a step.
void GapView::keyPressEvent(QKeyEvent* event) {
  const bool shift = event->modifiers().testFlag(Qt::ShiftModifier),
             ctrl = event->modifiers().testFlag(Qt::ControlModifier);
  const double middle = (range_.from + range_.to) / 2, page = (range_.to - range_.from) / 2;
  switch (event->key()) {
  case Qt::Key_Left:
  case Qt::Key_Right:
    if (const int by = event->key() == Qt::Key_Right ? 1 : -1; shift && !ctrl)
      widen(by);
    else
      step(by, shift && ctrl);
    return;
  case Qt::Key_Up:
  case Qt::Key_Down:
    widen((event->key() == Qt::Key_Up ? 1 : -1) * (shift ? 10 : 1));
    return;
  case Qt::Key_Home:
  case Qt::Key_End:
    step(event->key() == Qt::Key_End ? 1 << 20 : -(1 << 20), false);
    return;
  case Qt::Key_PageUp:
    move_range(-page);
    return;
  case Qt::Key_PageDown:
    move_range(page);
    return;
  case Qt::Key_A: {
    if (!ctrl)
      break;
    // All of them within words.
    std::vector<PairId> chosen = pairs();
    for (const Gap* g : gaps())
      if (const auto p = pair(*g); p && g->word_space)
        std::erase(chosen, *p);
    session_.choose_gaps(std::move(chosen));
    return;
  }
  case Qt::Key_Delete:
  case Qt::Key_Backspace:
    reset_chosen();
    return;
  case Qt::Key_Return:
  case Qt::Key_Enter:
    type_gap();
    return;
  case Qt::Key_Escape:
    if (drag_.moved)
      end_drag(false);
    else
      session_.choose_gaps({});
    return;
  case Qt::Key_Plus:
  case Qt::Key_Equal:
  case Qt::Key_Minus: {
    const double f = event->key() == Qt::Key_Minus ? 1.25 : 0.8;
    range_ = {middle + (range_.from - middle) * f, middle + (range_.to - middle) * f};
    fitted_ = false, by_hand_ = true;
    update();
    return;
  }
  default:
    break;
  }
  if (const QString typed = event->text(); !typed.isEmpty() && (typed[0].isDigit() || typed[0] == '.')) {
    type_gap(event);
    return;
  }
  QWidget::keyPressEvent(event);
}

bool GapView::event(QEvent* event) {
  // Keys that mean something here come before the window's shortcuts.
  if (event->type() == QEvent::ShortcutOverride) {
    const auto* key = static_cast<QKeyEvent*>(event);
    const bool plain = !(key->modifiers() & (Qt::ControlModifier | Qt::AltModifier | Qt::MetaModifier));
    if ((plain && ((key->key() >= Qt::Key_0 && key->key() <= Qt::Key_9) || key->key() == Qt::Key_Delete ||
                   key->key() == Qt::Key_Backspace)) ||
        key->matches(QKeySequence::SelectAll)) {
      event->accept();
      return true;
    }
  }
  if (event->type() == QEvent::FocusIn && session_.gaps_chosen().empty() && drag_.hold == Hold::Nothing &&
      static_cast<QFocusEvent*>(event)->reason() != Qt::MouseFocusReason)
    step(1, false);
  if (event->type() != QEvent::ToolTip)
    return QWidget::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  const Gap* g = gap_at(help->pos());
  if (g != nullptr)
    QToolTip::showText(help->globalPos(), describe_gap(session_, *recipe(), *text(), *g), this);
  else
    QToolTip::hideText();
  return true;
}

} // namespace frelm
