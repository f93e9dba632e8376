#include "app/strip/gap_strip.h"

#include "app/style/scheme.h"
#include "document/measure.h"

#include <QHBoxLayout>
#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QToolTip>
#include <QVBoxLayout>
#include <QWheelEvent>
#include <set>

namespace frelm {
namespace {

constexpr double small_print = 0.86; // of the window's text
constexpr double side_px = 16;       // free on both sides

} // namespace

GapView::GapView(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
  setFocusPolicy(Qt::StrongFocus);
  setMinimumHeight(std::max(80, static_cast<int>(numbers_px() + axis_px() + 2.4 * fontMetrics().height())));
  setAccessibleName(tr("Gap strip"));
  const auto refresh = [this] {
    if (line_ >= line_count())
      line_ = 0;
    if (fitted_)
      fit();
    update();
  };
  connect(&session, &Session::document_changed, this, refresh);
  connect(&session, &Session::selection_changed, this, [this, refresh] {
    line_ = 0;
    fitted_ = true;
    refresh();
  });
  connect(&session, &Session::gaps_changed, this, qOverload<>(&QWidget::update));
}

std::shared_ptr<const SeatedText> GapView::text() const {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() == nullptr)
    return nullptr;
  const Result<PieceResult>& now = session_.seated(piece->id);
  return now ? now->seated : nullptr;
}

std::size_t GapView::line_count() const {
  const auto t = text();
  return t != nullptr ? t->spaced->lines.size() : 0;
}

void GapView::set_line(std::size_t line) {
  line_ = line;
  fitted_ = true;
  fit();
  update();
}

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
               px = std::max(10.0, height() - numbers_px() - axis_px());
  const double widest = (width() - 2 * side_px) * tall / px;
  if (const double missing = widest - (r.to - r.from); missing > 0)
    r.from -= missing / 2, r.to += missing / 2;
  return r;
}

double GapView::axis_px() const {
  return fontMetrics().height() * small_print + 2;
}
double GapView::numbers_px() const {
  return fontMetrics().height() * small_print + 16;
}

void GapView::fit() {
  range_ = whole();
  fitted_ = true;
}

double GapView::px_per_mm() const {
  return (width() - 2 * side_px) / std::max(range_.to - range_.from, 1e-6);
}
double GapView::x_of(double s) const {
  return side_px + (s - range_.from) * px_per_mm();
}

void GapView::move_range(double by) {
  range_.from += by, range_.to += by;
  fitted_ = false;
  update();
}

void GapView::resizeEvent(QResizeEvent*) {
  if (fitted_)
    fit();
}

void GapView::paint_axis(QPainter& painter, const SeatedText& text, double baseline) const {
  const Scheme& s = scheme();
  QPen guide(s.teal, 1.2);
  guide.setDashPattern({6, 3, 1, 3});
  painter.setPen(guide);
  painter.drawLine(QPointF(0, baseline), QPointF(width(), baseline));
  const double one = session_.document().unit == Unit::Inch ? mm_per_inch : 1;
  const double step = ruler_step(px_per_mm() * one, 70);
  painter.setPen(s.muted);
  for (long i = std::lround(std::ceil(range_.from / (step * one))); static_cast<double>(i) * step * one <= range_.to;
       ++i) {
    const double x = x_of(static_cast<double>(i) * step * one);
    painter.drawLine(QPointF(x, axis_px() - 3), QPointF(x, axis_px()));
    painter.drawText(QRectF(x - 40, -1, 80, axis_px() - 2), Qt::AlignCenter,
                     QString::number(static_cast<double>(i) * step));
  }
  // The guide's own start and end (the seam of a closed one).
  painter.setPen(QPen(s.teal, 1.6));
  for (const double at : {0.0, text.guide_length}) {
    const double x = x_of(at);
    if (x >= 0 && x <= width())
      painter.drawLine(QPointF(x, baseline - 7), QPointF(x, baseline + 7));
  }
  // Its corners.
  for (const CurveCorner& c : text.guide->corners())
    if (const double x = x_of(c.s); x >= 0 && x <= width())
      painter.drawPolyline(
          QPolygonF{QPointF(x - 5, baseline + 6), QPointF(x, baseline + 1), QPointF(x + 5, baseline + 6)});
}

void GapView::paint_gaps(QPainter& painter, const SeatedText& text, double top) const {
  const Piece* piece = session_.selected();
  const auto gaps = piece != nullptr ? session_.gaps(piece->id) : nullptr;
  if (gaps == nullptr)
    return;
  const Scheme& s = scheme();
  const QFontMetricsF metrics(painter.font());
  double last_text = -1e9;
  for (const Gap& g : *gaps) {
    const PlacedLetter &a = text.letters[g.left], &b = text.letters[g.right];
    if (a.line != line_)
      continue;
    const double left = x_of(a.s + (a.plain->bounds().x1 - a.advance / 2) * a.stretch),
                 right = x_of(b.s + (b.plain->bounds().x0 - b.advance / 2) * b.stretch);
    const double middle = (left + right) / 2, half = std::max(std::abs(right - left) / 2, 3.5);
    if (g.joined()) {
      painter.setPen(Qt::NoPen);
      painter.setBrush(s.teal);
      painter.drawEllipse(QPointF(middle, top + 6), 3, 3);
      continue;
    }
    painter.setPen(QPen(s.muted, 1.1));
    painter.drawPolyline(QPolygonF{QPointF(middle - half, top + 2), QPointF(middle - half, top + 8),
                                   QPointF(middle + half, top + 8), QPointF(middle + half, top + 2)});
    const QString number = length_text(g.closest.distance, session_.document().unit, 1);
    const double w = metrics.horizontalAdvance(number);
    if (middle - w / 2 < last_text + 3)
      continue; // numbers that would overlap stay for a closer look
    last_text = middle + w / 2;
    painter.drawText(QRectF(middle - 30, top + 10, 60, metrics.height()), Qt::AlignHCenter | Qt::AlignTop, number);
  }
}

void GapView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  const Scheme& s = scheme();
  const auto t = text();
  QFont small = painter.font();
  small.setPointSizeF(small.pointSizeF() * small_print);
  painter.setFont(small);
  const QRectF band(0, axis_px(), width(), height() - numbers_px() - axis_px());
  painter.setPen(QPen(s.lines, 1));
  painter.setBrush(s.dark ? s.panel : s.panel.lighter(102));
  painter.drawRect(band.adjusted(-2, 0, 2, 0));
  if (t == nullptr || line_ >= t->spaced->lines.size()) {
    painter.setPen(s.muted);
    painter.drawText(band, Qt::AlignCenter, tr("Select a lettering to see its gaps"));
    return;
  }
  const SetText& set = *t->spaced->set;
  const double k = px_per_mm(), tall = std::max(set.cap_height, set.ascent * 0.9);
  const double free = std::max(0.0, band.height() - (tall + set.descent) * k);
  const double baseline = band.bottom() - free / 2 - set.descent * k;
  painter.save();
  painter.setClipRect(band.adjusted(0, -axis_px(), 0, 0));
  paint_axis(painter, *t, baseline);
  const Piece& piece = *session_.selected();
  const QColor colour = s.dark ? s.text : QColor(piece.colour.r, piece.colour.g, piece.colour.b);
  for (const PlacedLetter& l : t->letters) {
    const double x = x_of(l.s - l.advance / 2 * l.stretch);
    if (l.line != line_ || l.blank() || x > width() + 200 || x_of(l.s + l.advance) < -200)
      continue;
    painter.setTransform(QTransform(k * l.stretch, 0, 0, k, x, baseline));
    const bool off = l.beyond || l.meets_start;
    painter.setPen(off ? QPen(colour, 0) : QPen(Qt::NoPen));
    QBrush hatch(colour, Qt::BDiagPattern);
    hatch.setTransform(painter.transform().inverted());
    painter.setBrush(off ? hatch : QBrush(colour));
    painter.drawPath(paths_.of(l.plain));
    painter.resetTransform();
  }
  painter.restore();
  if (hasFocus()) {
    painter.setPen(QPen(s.teal, 1));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(band.adjusted(0, 0, -1, 0));
  }
  paint_gaps(painter, *t, band.bottom() + 1);
  if (t->overflow > 0) {
    painter.setPen(s.brick);
    painter.drawText(
        band.adjusted(0, 4, -10, 0), Qt::AlignRight | Qt::AlignTop,
        tr("%1 %2 too long")
            .arg(length_text(t->overflow, session_.document().unit, 1), unit_name(session_.document().unit)));
  }
}

void GapView::wheelEvent(QWheelEvent* event) {
  const double turn = event->angleDelta().y() != 0 ? event->angleDelta().y() : event->angleDelta().x();
  if (event->modifiers().testFlag(Qt::ShiftModifier) || event->angleDelta().y() == 0) {
    move_range(-turn / px_per_mm() / 2);
    return;
  }
  const double about = range_.from + (event->position().x() - side_px) / px_per_mm();
  const double factor = std::pow(1.0015, -turn);
  range_ = {about + (range_.from - about) * factor, about + (range_.to - about) * factor};
  fitted_ = false;
  update();
}

void GapView::mousePressEvent(QMouseEvent* event) {
  pan_from_ = event->position().x();
}
void GapView::mouseMoveEvent(QMouseEvent* event) {
  if (!(event->buttons() & Qt::LeftButton))
    return;
  move_range((pan_from_ - event->position().x()) / px_per_mm());
  pan_from_ = event->position().x();
}
void GapView::mouseDoubleClickEvent(QMouseEvent*) {
  fit();
  update();
}

void GapView::keyPressEvent(QKeyEvent* event) {
  const double page = (range_.to - range_.from) / 10, middle = (range_.from + range_.to) / 2;
  switch (event->key()) {
  case Qt::Key_Left:
    move_range(-page);
    return;
  case Qt::Key_Right:
    move_range(page);
    return;
  case Qt::Key_Plus:
  case Qt::Key_Equal:
  case Qt::Key_Minus: {
    const double f = event->key() == Qt::Key_Minus ? 1.25 : 0.8;
    range_ = {middle + (range_.from - middle) * f, middle + (range_.to - middle) * f};
    fitted_ = false;
    update();
    return;
  }
  case Qt::Key_Home:
    mouseDoubleClickEvent(nullptr);
    return;
  default:
    QWidget::keyPressEvent(event);
  }
}

bool GapView::event(QEvent* event) {
  if (event->type() != QEvent::ToolTip)
    return QWidget::event(event);
  const auto* help = static_cast<QHelpEvent*>(event);
  const auto t = text();
  const auto gaps = t != nullptr ? session_.gaps(session_.selected()->id) : nullptr;
  if (gaps == nullptr)
    return true;
  const double s = range_.from + (help->pos().x() - side_px) / px_per_mm();
  for (const Gap& g : *gaps) {
    const PlacedLetter &a = t->letters[g.left], &b = t->letters[g.right];
    if (a.line != line_ || s < a.s || s > b.s)
      continue;
    QToolTip::showText(help->globalPos(),
                       g.joined() ? tr("Joined")
                                  : tr("Closest distance on the bend: %1 %2")
                                        .arg(length_text(g.closest.distance, session_.document().unit),
                                             unit_name(session_.document().unit)),
                       this);
    return true;
  }
  QToolTip::hideText();
  return true;
}

GapStrip::GapStrip(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), view_(new GapView(session)), about_(new QLabel), line_(new QLabel),
      back_(new QToolButton), on_(new QToolButton), fold_(new QToolButton) {
  setObjectName("strip");
  setAttribute(Qt::WA_StyledBackground);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(12, 4, 12, 4);
  all->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->setSpacing(12);
  auto* heading = new QLabel(tr("Gap strip"));
  heading->setObjectName("heading");
  about_->setObjectName("muted");
  about_->setMinimumWidth(40);
  about_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
  line_->setObjectName("muted");
  back_->setText("‹");
  on_->setText("›");
  back_->setAccessibleName(tr("Line before"));
  on_->setAccessibleName(tr("Next line"));
  fold_->setObjectName("flat");
  fold_->setAccessibleName(tr("Fold the gap strip"));
  fold_->setToolTip(tr("Fold or unfold"));
  head->addWidget(heading);
  head->addWidget(about_, 1);
  head->addWidget(back_);
  head->addWidget(line_);
  head->addWidget(on_);
  head->addWidget(fold_);
  all->addLayout(head);
  all->addWidget(view_, 1);
  connect(back_, &QToolButton::clicked, this, [this] {
    view_->set_line(view_->line() - 1);
    refresh();
  });
  connect(on_, &QToolButton::clicked, this, [this] {
    view_->set_line(view_->line() + 1);
    refresh();
  });
  connect(fold_, &QToolButton::clicked, this, [this] { set_folded(!folded()); });
  connect(&session, &Session::document_changed, this, &GapStrip::refresh);
  connect(&session, &Session::selection_changed, this, &GapStrip::refresh);
  restyle();
  refresh();
}

void GapStrip::set_folded(bool folded) {
  view_->setVisible(!folded);
  setMaximumHeight(folded ? sizeHint().height() : QWIDGETSIZE_MAX);
  restyle();
}

void GapStrip::restyle() {
  fold_->setIcon(icon(folded() ? "unfold" : "fold"));
}

void GapStrip::refresh() {
  const Piece* piece = session_.selected();
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  const QString laid = l == nullptr || l->recipe.bend.kind == BendKind::Straight ? tr("the run as it stands")
                       : l->recipe.bend.kind == BendKind::Arc                    ? tr("arc laid straight")
                                                                                 : tr("guide laid straight");
  about_->setText(laid + tr(" · number: closest distance between the letters as they really sit, %1 · knot: joined")
                             .arg(unit_name(session_.document().unit)));
  const std::size_t lines = view_->line_count();
  for (QWidget* w : {static_cast<QWidget*>(back_), static_cast<QWidget*>(on_), static_cast<QWidget*>(line_)})
    w->setVisible(lines > 1);
  back_->setEnabled(view_->line() > 0);
  on_->setEnabled(view_->line() + 1 < lines);
  line_->setText(tr("line %1 of %2").arg(view_->line() + 1).arg(lines));
}

} // namespace frelm
