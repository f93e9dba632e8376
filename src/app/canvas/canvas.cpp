#include "app/canvas/canvas.h"

#include "app/style/scheme.h"
#include "document/arrange.h"
#include "document/measure.h"
#include "document/outline_edits.h"
#include "document/piece_groups.h"

#include <QAccessible>
#include <QDataStream>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPaintEvent>
#include <QScreen>
#include <QUrl>
#include <QWheelEvent>

namespace frelm {
namespace {

constexpr double ruler_px = 20;
constexpr double margin_px = 22;
constexpr double least_zoom = 0.02, most_zoom = 400; // px per mm

// Nodes painted at once on the interface thread; more are painted beside it.
constexpr std::size_t most_nodes_at_once = 1200;

} // namespace

Canvas::Canvas(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), tool_(make_select_tool()), maker_([this](PaintedPicture picture) {
        mailbox_.post([this, picture = std::move(picture)]() mutable { receive(std::move(picture)); });
      }) {
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setAcceptDrops(true);
  setMinimumSize(240, 180);
  setAccessibleName(tr("Sheet"));
  setAccessibleDescription(tr("The sheet with its pieces. Arrows nudge the selection, Tab goes on to the next piece."));
  connect(&session, &Session::document_changed, this, qOverload<>(&QWidget::update));
  connect(&session, &Session::selection_changed, this, qOverload<>(&QWidget::update));
  connect(&session, &Session::part_changed, this, qOverload<>(&QWidget::update));
  connect(&session, &Session::results_changed, this, qOverload<>(&QWidget::update));
  connect(&session, &Session::only_changed, this, qOverload<>(&QWidget::update));
  connect(&session, &Session::picking_changed, this, [this] {
    setCursor(session_.picking_colour() ? Qt::CrossCursor : tool_row(kind_).cursor);
    if (session_.picking_colour())
      setFocus();
  });
  connect(&session, &Session::selection_changed, this, &Canvas::say_selected);
  connect(&session, &Session::drag_abandoned, this, &Canvas::let_go);
  connect(&session, &Session::lines_found, this, &Canvas::hover_again);
}

void Canvas::set_guide_kind(std::size_t kind) {
  if (kind == guide_kind_)
    return;
  guide_kind_ = kind;
  if (kind_ == ToolKind::Guide) {
    tool_ = tool_row(kind_).make(guide_kind_);
    overlay_ = {};
    update();
  }
  emit guide_kind_changed();
}

void Canvas::set_tool(ToolKind kind) {
  if (kind == kind_)
    return;
  session_.abandon_drag();
  if (tool_->cancel().cancel)
    session_.cancel_preview();
  kind_ = kind;
  tool_ = tool_row(kind).make(guide_kind_);
  overlay_ = {};
  setCursor(tool_row(kind).cursor);
  emit tool_changed(kind);
  update();
}

void Canvas::set_view(View view) {
  if (view == view_)
    return;
  view_ = view;
  emit view_changed(view);
  update();
}

QRectF Canvas::sheet_area() const {
  return QRectF(rect()).adjusted(ruler_px, ruler_px, 0, 0);
}
QTransform Canvas::transform() const {
  return QTransform(px_per_mm_, 0, 0, px_per_mm_, origin_.x(), origin_.y());
}
QPointF Canvas::to_screen(Point mm) const {
  return transform().map(QPointF(mm.x, mm.y));
}
Point Canvas::to_sheet(QPointF px) const {
  return {(px.x() - origin_.x()) / px_per_mm_, (px.y() - origin_.y()) / px_per_mm_};
}
Box Canvas::visible() const {
  const QRectF area = sheet_area();
  const Point a = to_sheet(area.topLeft()), b = to_sheet(area.bottomRight());
  return {a.x, a.y, b.x, b.y};
}

void Canvas::reveal(const Box& box) {
  if (fitted_ != Fit::None || box.empty())
    return;
  const Box seen = visible();
  const auto shift = [](double low, double high, double from, double to) {
    return low < from ? from - low : high > to ? to - high : 0;
  };
  const Vec by{shift(box.x0, box.x1, seen.x0, seen.x1), shift(box.y0, box.y1, seen.y0, seen.y1)};
  if (by == Vec{})
    return;
  origin_ += QPointF(by.x, by.y) * px_per_mm_;
  update();
}

double Canvas::zoom() const {
  return px_per_mm_ * 25.4 / std::max(1, logicalDpiX());
}

void Canvas::fit(const Box& box) {
  const QRectF area = sheet_area().adjusted(margin_px, margin_px, -margin_px, -margin_px - kept_free_);
  px_per_mm_ =
      std::clamp(std::min(area.width() / std::max(box.width(), 1.0), area.height() / std::max(box.height(), 1.0)),
                 least_zoom, most_zoom);
  origin_ = area.center() - QPointF(box.centre().x, box.centre().y) * px_per_mm_;
  emit zoom_changed();
  update();
}

void Canvas::zoom_to(const Box& box) {
  if (box.empty())
    return;
  fit(box);
  fitted_ = Fit::None;
}

void Canvas::zoom_to_sheet() {
  fit({0, 0, session_.document().sheet.width, session_.document().sheet.height});
  fitted_ = Fit::Sheet;
}

void Canvas::zoom_to_drawing() {
  Box ink;
  for (const auto& p : session_.document().pieces)
    if (p->visible)
      ink.add(session_.drawn_box(p->id));
  if (view_ == View::Knife && knife_ != nullptr && knife_->plan() != nullptr)
    for (const Box& panel : knife_->plan()->panels) // which lie beside the sheet
      ink.add(panel);
  if (ink.empty()) {
    zoom_to_sheet();
    return;
  }
  fit(ink);
  fitted_ = Fit::Drawing;
}

void Canvas::zoom_by(double factor, QPointF about) {
  const double wanted = std::clamp(px_per_mm_ * factor, least_zoom, most_zoom);
  origin_ = about + (origin_ - about) * (wanted / px_per_mm_);
  px_per_mm_ = wanted;
  fitted_ = Fit::None;
  emit zoom_changed();
  update();
}

void Canvas::resizeEvent(QResizeEvent*) {
  if (fitted_ == Fit::Sheet)
    zoom_to_sheet();
  else if (fitted_ == Fit::Drawing)
    zoom_to_drawing();
}

void Canvas::paintEvent(QPaintEvent*) {
  if (shown_ != transform()) {
    shown_ = transform();
    emit view_moved();
  }
  const Scene scene{session_, transform(), px_per_mm_};
  const bool surroundings_changed = renew_backdrop(scene);
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  paint_pieces_now_or_later(painter, surroundings_changed);
  painter.setClipRect(sheet_area());
  if (view_ == View::Knife) {
    if (knife_ != nullptr && !session_.dragging()) {
      constexpr double of_before = 0.35;
      painter.setOpacity(knife_->current() ? 1 : of_before);
      knife_layer_->paint(painter, scene.to_screen, px_per_mm_, sheet_area());
      painter.setOpacity(1);
    }
    paint_uncut_names(painter, scene);
  }
  paint_bench(painter, scene, visible());
  if (tool_->shows_nodes()) {
    if (const Piece* piece = session_.selected(); piece != nullptr && piece->lettering() == nullptr)
      if (const Result<Outline> nodes = nodes_of(session_.shown(), piece->id); nodes)
        paint_nodes_of(painter, scene, *nodes);
  } else {
    painter.save();
    if (overlay_.carried)
      painter.translate(QPointF(overlay_.carried->x, overlay_.carried->y) * px_per_mm_);
    paint_selection(painter, scene);
    painter.restore();
  }
  paint_made(painter, scene, made_, paths_, sheet_area());
  if (tool_->shows_backing())
    paint_backing_frame(painter, scene);
  if (tool_->shows_measured())
    if (const std::optional<MeasuredLine>& line = overlay_.measuring ? overlay_.measuring : session_.measured(); line)
      paint_measured(painter, scene, *line);
  paint_overlay(painter, scene, overlay_);
  if (session_.shown().pieces.empty() && session_.shown().backings.empty()) {
    painter.setPen(QColor("#5f6b70"));
    painter.drawText(sheet_area().adjusted(0, 0, 0, -kept_free_), Qt::AlignCenter,
                     tr("Type a name on the left,\nor take the Letters tool and click where it should stand."));
  }
  painter.setClipping(false);
  if (!underMouse())
    return;
  painter.setRenderHint(QPainter::Antialiasing, false);
  painter.setPen(QPen(scheme().teal, 1));
  const QPointF hand = to_screen(pointer_);
  if (hand.x() > ruler_px)
    painter.drawLine(QPointF(hand.x(), 0), QPointF(hand.x(), ruler_px));
  if (hand.y() > ruler_px)
    painter.drawLine(QPointF(0, hand.y()), QPointF(ruler_px, hand.y()));
}

void Canvas::set_knife(KnifePlan& knife) {
  knife_ = &knife;
  knife_layer_ = std::make_unique<KnifeLayer>(knife);
  connect(&knife, &KnifePlan::changed, this, [this] {
    if (const auto& plan = knife_->plan(); fitted_ == Fit::Drawing && (plan == nullptr || !plan->panels.empty()))
      zoom_to_drawing(); // panels come and go
    update();
  });
  connect(&knife, &KnifePlan::time_changed, this, qOverload<>(&QWidget::update));
  connect(&knife, &KnifePlan::lit_changed, this, qOverload<>(&QWidget::update));
}

void Canvas::show_made(const MadePicture& made) {
  made_ = made;
  update();
}

// Of hundreds of pieces under the hand: false until their pictures are there.
bool Canvas::paint_carried(QPainter& painter) {
  if (carried_ == nullptr)
    carried_ = std::make_unique<CarriedLayers>([this] { update(); });
  if (!carried_->held()) {
    Picture all = picture_of(session_, transform(), px_per_mm_, view_);
    all.font = font();
    carried_->begin(all, carried_along(session_.document(), session_.selection()), size() * devicePixelRatioF(),
                    devicePixelRatioF(), sheet_area(), session_.revision());
  }
  carried_->carry(*overlay_.carried);
  painter.drawPixmap(0, 0, backdrop_);
  if (!carried_->paint(painter, transform(), sheet_area()) && !picture_.image.isNull()) {
    painter.save(); // as it was, for a moment
    painter.setClipRect(sheet_area());
    painter.setTransform(picture_.to_screen.inverted() * transform(), true);
    painter.drawImage(QPointF(0, 0), picture_.image);
    painter.restore();
  }
  return true;
}

// Few nodes are painted here; more by the picture maker, and until its picture is ready the one before is shown, moved
// to where the view is now.
void Canvas::paint_pieces_now_or_later(QPainter& painter, bool surroundings_changed) {
  if (overlay_.carried && paint_carried(painter))
    return;
  Picture picture = picture_of(session_, transform(), px_per_mm_, view_);
  picture.font = font();
  if (picture.nodes <= most_nodes_at_once) {
    layers_.paint(painter, backdrop_, picture, paths_, sheet_area(), surroundings_changed);
    picture_ = {};
    got_ = asked_;
    asked_for_.clear();
    if (carried_ != nullptr)
      carried_->end();
    return;
  }
  const QTransform now = picture.to_screen;
  QByteArray key; // what the picture depends on
  QDataStream stream(&key, QIODevice::WriteOnly);
  stream << now.m11() << now.dx() << now.dy() << size() << devicePixelRatioF() << static_cast<int>(view_)
         << quint64(session_.revision()) << quint64(picture.nodes)
         << (session_.selected() != nullptr ? quint64(session_.selected()->id) : 0)
         << QByteArray::fromStdString(picture.materials.only ? to_hex(*picture.materials.only) : "");
  if (key != asked_for_) {
    asked_for_ = key;
    maker_.request(std::move(picture), size() * devicePixelRatioF(), devicePixelRatioF(), sheet_area(), ++asked_);
  }
  layers_.forget();
  painter.drawPixmap(0, 0, backdrop_);
  const bool held = carried_ != nullptr && carried_->held();
  if (held && (!painting() || carried_->revision() == session_.revision())) // put down, or given up
    carried_->end();
  if ((held && carried_->paint(painter, now, sheet_area())) || picture_.image.isNull())
    return;
  painter.save();
  painter.setClipRect(sheet_area());
  painter.setTransform(picture_.to_screen.inverted() * now, true);
  painter.drawImage(QPointF(0, 0), picture_.image);
  painter.restore();
}

void Canvas::receive(PaintedPicture picture) {
  got_ = picture.number;
  picture_ = std::move(picture);
  update();
}

// Bench, sheet and rulers change only with zoom, place, size, unit and scheme; a drag copies them.
bool Canvas::renew_backdrop(const Scene& scene) {
  const Document& document = session_.document();
  BackdropKey key{scene.to_screen, size(), devicePixelRatioF(),      document.sheet, document.unit,
                  scheme().dark,   font(), session_.shown().backings};
  if (key == backdrop_key_)
    return false;
  backdrop_ = QPixmap(size() * devicePixelRatioF());
  backdrop_.setDevicePixelRatio(devicePixelRatioF());
  backdrop_.fill(scheme().bench);
  QPainter painter(&backdrop_);
  painter.setFont(font());
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setClipRect(sheet_area());
  paint_sheet(painter, scene);
  backings_.paint(painter, session_.shown().backings, scene.to_screen);
  painter.setClipping(false);
  paint_rulers(painter);
  backdrop_key_ = std::move(key);
  return true;
}

void Canvas::paint_rulers(QPainter& painter) const {
  const Scheme& s = scheme();
  painter.setRenderHint(QPainter::Antialiasing, false);
  painter.fillRect(QRectF(0, 0, width(), ruler_px), s.panel);
  painter.fillRect(QRectF(0, 0, ruler_px, height()), s.panel);
  painter.setPen(s.lines);
  painter.drawLine(QPointF(0, ruler_px), QPointF(width(), ruler_px));
  painter.drawLine(QPointF(ruler_px, 0), QPointF(ruler_px, height()));
  const bool inches = session_.document().unit == Unit::Inch;
  const double one = inches ? mm_per_inch : 1;
  const double step = ruler_step(px_per_mm_ * one, 60);
  QFont font = painter.font();
  font.setPixelSize(std::clamp(fontMetrics().height() * 2 / 3, 10, 13));
  painter.setFont(font);
  const auto ticks = [&](bool across) {
    const double origin = across ? origin_.x() : origin_.y(), end = across ? width() : height();
    const double px = step * one * px_per_mm_;
    for (long i = std::lround(std::floor((ruler_px - origin) / px)); origin + static_cast<double>(i) * px < end; ++i)
      for (int part = 0; part < 10; ++part) {
        const double at = origin + (static_cast<double>(i) + part / 10.0) * px;
        if (at < ruler_px || at > end || (part != 0 && px / 10 < 5 && part != 5))
          continue;
        const double tall = part == 0 ? 8 : part == 5 ? 6 : 3;
        painter.setPen(s.muted);
        if (across)
          painter.drawLine(QPointF(at, ruler_px - tall), QPointF(at, ruler_px));
        else
          painter.drawLine(QPointF(ruler_px - tall, at), QPointF(ruler_px, at));
        if (part != 0)
          continue;
        const QString text = QString::number(static_cast<double>(i) * step);
        if (across) {
          painter.drawText(QPointF(at + 3, 10), text);
        } else {
          painter.save();
          painter.translate(10, at - 3);
          painter.rotate(-90);
          painter.drawText(QPointF(0, 0), text);
          painter.restore();
        }
      }
  };
  ticks(true);
  ticks(false);
  painter.fillRect(QRectF(0, 0, ruler_px, ruler_px), s.panel);
  painter.setPen(s.muted);
  painter.drawText(QRectF(0, 0, ruler_px, ruler_px), Qt::AlignCenter, unit_name(session_.document().unit));
}

ToolEvent Canvas::tool_event(const QMouseEvent& event, bool twice) const {
  return {to_sheet(event.position()), 1 / px_per_mm_, event.modifiers(), twice, on_ruler(event.position())};
}

bool Canvas::on_ruler(QPointF px) const {
  return px.x() < ruler_px || px.y() < ruler_px;
}

void Canvas::hover_again() {
  if (!pressed_)
    carry_out(tool_->move(session_, {pointer_, 1 / px_per_mm_, {}}, false));
}

// Something else has changed what the tool holds: it lets go.
void Canvas::let_go() {
  (void)hand().cancel();
  ruler_hand_.reset();
  if (carried_ != nullptr)
    carried_->carry({}); // back where it was
  pressed_ = false;
  overlay_ = {};
  update();
  emit hand_lifted();
}

void Canvas::carry_out(ToolReply reply) {
  const Session::OwnReply own(session_);
  overlay_ = std::move(reply.overlay);
  if (const Qt::CursorShape shape = reply.cursor.value_or(tool_row(kind_).cursor);
      shape != cursor().shape() && !panning_ && !space_)
    setCursor(shape);
  if (reply.cancel)
    session_.cancel_preview();
  if (reply.preview)
    session_.preview(std::move(*reply.preview));
  if (reply.apply)
    session_.apply(reply.name, std::move(*reply.apply), reply.select, reply.merge_key);
  else if (reply.commit)
    session_.commit_preview(reply.name);
  if ((reply.commit || reply.apply) && reply.change)
    session_.set_last_change(*reply.change);
  if (reply.select && !reply.apply && !reply.commit)
    session_.select(*reply.select);
  if (reply.letter)
    session_.choose_letter(*reply.letter);
  if (reply.nodes)
    session_.choose_nodes(std::move(*reply.nodes));
  if (reply.backing)
    session_.choose_backing(*reply.backing);
  if (reply.measured)
    session_.set_measured(reply.measured);
  if (reply.part)
    emit part_drawn(*reply.part);
  if (reply.back_to_select)
    set_tool(ToolKind::Select);
  if (reply.type_text)
    emit type_text();
  if (!reply.refused.isEmpty())
    emit refused(reply.refused);
  update();
}

void Canvas::mousePressEvent(QMouseEvent* event) {
  if (event->button() == Qt::MiddleButton || (event->button() == Qt::LeftButton && space_)) {
    panning_ = true;
    pan_from_ = event->position();
    setCursor(Qt::ClosedHandCursor);
    return;
  }
  if (event->button() != Qt::LeftButton)
    return;
  if (session_.picking_colour()) { // a click beside everything asks once more
    if (const auto colour = colour_at(session_, to_sheet(event->position())))
      session_.colour_picked(colour);
    return;
  }
  begin_hand();
  if (on_ruler(event->position())) // the hand draws a line out of it, whatever tool is in use
    ruler_hand_ = make_ruler_line_tool({.at = {}, .upright = event->position().x() < event->position().y()});
  carry_out(hand().press(session_, tool_event(*event)));
}

void Canvas::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton || on_ruler(event->position()))
    return;
  begin_hand();
  carry_out(tool_->press(session_, tool_event(*event, true)));
}

void Canvas::begin_hand() {
  pressed_ = true;
  typed_.clear();
  session_.begin_drag();
}

void Canvas::mouseMoveEvent(QMouseEvent* event) {
  pointer_ = to_sheet(event->position());
  emit hovered(pointer_);
  if (panning_) {
    origin_ += event->position() - pan_from_;
    pan_from_ = event->position();
    fitted_ = Fit::None;
    update();
    return;
  }
  if (session_.picking_colour())
    return;
  hand_at_ = tool_event(*event);
  if (view_ == View::Knife && knife_ != nullptr && !pressed_)
    knife_->light(knife_layer_->path_at(event->position(), transform(), px_per_mm_));
  carry_out(hand().move(session_, hand_at_, pressed_));
}

void Canvas::mouseReleaseEvent(QMouseEvent* event) {
  if (panning_ && (event->button() == Qt::MiddleButton || event->button() == Qt::LeftButton)) {
    panning_ = false;
    setCursor(tool_row(kind_).cursor);
    return;
  }
  if (event->button() != Qt::LeftButton)
    return;
  if (pressed_)
    lift_hand(tool_event(*event));
}

void Canvas::lift_hand(const ToolEvent& event) {
  pressed_ = false;
  carry_out(hand().release(session_, event));
  ruler_hand_.reset();
  session_.cancel_preview(); // what a tool left: nothing shows that no hand holds
  session_.end_drag();
  emit hand_lifted();
}

// While the hand drags, digits, units and sums are a number for it; Return takes it, Backspace takes a sign back.
bool Canvas::type_number(const QKeyEvent& event) {
  const bool takes = event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter;
  if (takes && typed_.isEmpty())
    return false;
  if (takes) {
    lift_hand(hand_at_);
    return true;
  }
  QString typed = typed_;
  if (event.key() == Qt::Key_Backspace)
    typed.chop(1);
  else if (!event.text().isEmpty() && event.text()[0].isPrint() && !(event.modifiers() & Qt::ControlModifier) &&
           (!typed.isEmpty() || !event.text()[0].isSpace()))
    typed += event.text();
  else
    return false;
  if (!hand().takes_number(typed))
    return false;
  typed_ = typed;
  carry_out(hand().move(session_, hand_at_, true));
  return true;
}

void Canvas::wheelEvent(QWheelEvent* event) {
  const QPointF d = event->angleDelta();
  if (event->modifiers().testFlag(Qt::ShiftModifier)) {
    origin_ += QPointF(d.y() + d.x(), 0) / 2;
    fitted_ = Fit::None;
    update();
    return;
  }
  zoom_by(std::pow(1.0015, d.y()), event->position());
}

Vec Canvas::nudge_by(int key, bool far) const {
  const Preferences& own = session_.preferences();
  const double step = (session_.document().unit == Unit::Inch ? own.step_inch : own.step_mm) * (far ? 10 : 1);
  return {key == Qt::Key_Left    ? -step
          : key == Qt::Key_Right ? step
                                 : 0,
          key == Qt::Key_Up     ? -step
          : key == Qt::Key_Down ? step
                                : 0};
}

// Keys of the window are no keys while a number is typed for the hand.
bool Canvas::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride && pressed_ && (session_.dragging() || overlay_.carried)) {
    const auto& key = *static_cast<QKeyEvent*>(event);
    if (!key.text().isEmpty() && key.text()[0].isPrint() && !(key.modifiers() & Qt::ControlModifier)) {
      event->accept();
      return true;
    }
  }
  return QWidget::event(event);
}

// Where a screen reader listens: the selected piece has the focus now.
void Canvas::say_selected() {
  if (!QAccessible::isActive() || session_.selected() == nullptr || !hasFocus())
    return;
  const auto& pieces = session_.shown().pieces;
  QAccessibleEvent focus(this, QAccessible::Focus);
  focus.setChild(static_cast<int>(pieces.size() - 1 - session_.shown().index_of(session_.selected()->id)));
  QAccessible::updateAccessibility(&focus);
}

void Canvas::keyPressEvent(QKeyEvent* event) {
  if (pressed_ && type_number(*event))
    return;
  switch (event->key()) {
  case Qt::Key_Escape: {
    if (session_.picking_colour())
      return session_.colour_picked({});
    const bool was_dragging = session_.dragging() || pressed_;
    pressed_ = false;
    carry_out(was_dragging ? hand().cancel() : tool_->escape(session_));
    ruler_hand_.reset();
    session_.cancel_preview();
    session_.end_drag();
    emit hand_lifted();
    return;
  }
  case Qt::Key_Left:
  case Qt::Key_Right:
  case Qt::Key_Up:
  case Qt::Key_Down:
    if (event->modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier))
      break;
    {
      ToolReply reply = tool_->nudge(session_, nudge_by(event->key(), event->modifiers().testFlag(Qt::ShiftModifier)));
      reply.overlay = overlay_; // what is being drawn stays
      carry_out(std::move(reply));
      return;
    }
  case Qt::Key_Space:
    if (!event->isAutoRepeat()) {
      space_ = true;
      setCursor(Qt::OpenHandCursor);
    }
    return;
  case Qt::Key_Plus:
  case Qt::Key_Equal:
    zoom_by(1.25, sheet_area().center());
    return;
  case Qt::Key_Minus:
    zoom_by(0.8, sheet_area().center());
    return;
  case Qt::Key_Return:
  case Qt::Key_Enter:
    if (auto reply = tool_->finish(session_)) {
      carry_out(std::move(*reply));
      return;
    }
    if (const Piece* p = session_.selected();
        p != nullptr && p->lettering() != nullptr && event->modifiers() == Qt::NoModifier) {
      emit type_text();
      return;
    }
    break;
  default:
    break;
  }
  QWidget::keyPressEvent(event);
}

void Canvas::keyReleaseEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Space && !event->isAutoRepeat()) {
    space_ = false;
    setCursor(tool_row(kind_).cursor);
    return;
  }
  QWidget::keyReleaseEvent(event);
}

void Canvas::leaveEvent(QEvent*) {
  emit left();
  update();
}

void Canvas::contextMenuEvent(QContextMenuEvent* event) {
  if (event->reason() == QContextMenuEvent::Mouse) {
    const PieceId id = piece_at(session_, to_sheet(event->pos()), pick_px / px_per_mm_);
    const auto& had = session_.selection();
    if (id != 0 && std::find(had.begin(), had.end(), id) == had.end())
      session_.select(picked(session_.document(), had, id, Click::First));
  }
  emit context_menu(event->globalPos());
}

void Canvas::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls())
    event->acceptProposedAction();
}

void Canvas::dropEvent(QDropEvent* event) {
  QStringList paths;
  for (const QUrl& url : event->mimeData()->urls())
    if (url.isLocalFile())
      paths << url.toLocalFile();
  if (!paths.isEmpty())
    emit files_dropped(paths, to_sheet(event->position()));
}

} // namespace frelm
