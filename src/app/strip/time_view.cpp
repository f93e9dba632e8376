#include "app/strip/time_view.h"

#include "app/canvas/painter.h"
#include "app/style/scheme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>

namespace frelm {
namespace {

constexpr double edge = 14;                    // px at both ends
constexpr double bars_top = 16, most_bar = 26; // px
constexpr double least_apart = 60;             // px between seconds that are written

} // namespace

TimeView::TimeView(KnifePlan& knife, QWidget* parent) : QWidget(parent), knife_(knife) {
  setFocusPolicy(Qt::StrongFocus);
  setMouseTracking(true);
  setMinimumHeight(static_cast<int>(bars_top + most_bar) + fontMetrics().height() + 6);
  setAccessibleName(tr("Line of time"));
  connect(&knife, &KnifePlan::changed, this, qOverload<>(&QWidget::update));
  connect(&knife, &KnifePlan::time_changed, this, qOverload<>(&QWidget::update));
  connect(&knife, &KnifePlan::lit_changed, this, qOverload<>(&QWidget::update));
}

double TimeView::x_of(double seconds) const {
  const double whole = knife_.plan() != nullptr ? knife_.plan()->times.seconds() : 0;
  return edge + (whole > 0 ? seconds / whole : 0) * std::max(1.0, width() - 2 * edge);
}
double TimeView::time_at(double x) const {
  const double whole = knife_.plan() != nullptr ? knife_.plan()->times.seconds() : 0;
  return std::clamp((x - edge) / std::max(1.0, width() - 2 * edge), 0.0, 1.0) * whole;
}

std::optional<std::size_t> TimeView::path_at(double x) const {
  if (knife_.plan() == nullptr || knife_.plan()->times.legs().empty() || x < edge || x > width() - edge)
    return std::nullopt;
  return knife_.plan()->times.at(time_at(x)).path;
}

void TimeView::paintEvent(QPaintEvent*) {
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  QFont font = painter.font();
  font.setPointSizeF(font.pointSizeF() * 0.88);
  painter.setFont(font);
  const QFontMetricsF metrics(font);
  const double top = bars_top, bottom = std::min(height() - metrics.height() - 6, top + most_bar);
  const auto& plan = knife_.plan();
  if (plan == nullptr || plan->times.legs().empty())
    return;
  const double now = knife_.time();
  // Bars that would be thinner than a px are one with their neighbours.
  QColor rest = scheme().teal_soft;
  painter.setPen(Qt::NoPen);
  double painted_to = -1;
  for (std::size_t i = 0; i < plan->times.legs().size(); ++i) {
    const CutLeg& leg = plan->times.legs()[i];
    const double a = x_of(leg.down), b = std::max(x_of(leg.up), a + 1);
    if (b <= painted_to)
      continue;
    const double from = std::max(a, painted_to), done = std::clamp(x_of(now), from, b);
    const double round = b - from > 6 ? 2 : 0;
    const bool lit = knife_.lit() == i;
    if (done < b) {
      painter.setBrush(lit ? scheme().amber : rest);
      painter.drawRoundedRect(QRectF(from, top, b - from, bottom - top), round, round);
    }
    if (done > from) {
      painter.setBrush(lit ? scheme().amber : scheme().teal);
      painter.drawRoundedRect(QRectF(from, top, done - from, bottom - top), round, round);
    }
    painted_to = b;
  }
  const double whole = plan->times.seconds(), px_per_s = (width() - 2 * edge) / whole;
  const double step = ruler_step(px_per_s, least_apart);
  painter.setPen(scheme().muted);
  for (double s = 0; s <= whole + 1e-9; s += step)
    painter.drawText(QPointF(x_of(s), bottom + metrics.ascent() + 6),
                     s < 60 ? tr("%1 s").arg(s)
                            : QStringLiteral("%1:%2").arg(int(s) / 60).arg(int(s) % 60, 2, 10, QChar('0')));
  const double x = x_of(now);
  painter.setPen(QPen(scheme().brick, 2));
  painter.drawLine(QPointF(x, 8), QPointF(x, bottom + 4));
  painter.setBrush(scheme().brick);
  painter.drawEllipse(QPointF(x, 8), 4.5, 4.5);
  if (hasFocus()) {
    painter.setPen(QPen(scheme().teal, 1.5));
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(QRectF(rect()).adjusted(1, 1, -1, -1));
  }
}

void TimeView::mousePressEvent(QMouseEvent* event) {
  if (event->button() == Qt::LeftButton) {
    knife_.play(false);
    knife_.set_time(time_at(event->position().x()));
  }
}
void TimeView::mouseMoveEvent(QMouseEvent* event) {
  if (event->buttons() & Qt::LeftButton)
    knife_.set_time(time_at(event->position().x()));
  knife_.light(path_at(event->position().x()));
}
void TimeView::leaveEvent(QEvent*) {
  knife_.light(std::nullopt);
}

void TimeView::step(int by) {
  const auto& plan = knife_.plan();
  if (plan == nullptr || plan->times.legs().empty())
    return;
  const std::vector<CutLeg>& legs = plan->times.legs();
  const double now = knife_.time();
  constexpr double same = 1e-6; // s
  if (by > 0) {
    for (const CutLeg& l : legs)
      if (l.down > now + same)
        return knife_.set_time(l.down);
    return knife_.set_time(plan->times.seconds());
  }
  for (auto l = legs.rbegin(); l != legs.rend(); ++l)
    if (l->down < now - same)
      return knife_.set_time(l->down);
  knife_.set_time(0);
}

void TimeView::keyPressEvent(QKeyEvent* event) {
  const bool seconds = event->modifiers() & Qt::ShiftModifier;
  switch (event->key()) {
  case Qt::Key_Left:
  case Qt::Key_Right: {
    const int by = event->key() == Qt::Key_Right ? 1 : -1;
    if (seconds)
      knife_.set_time(knife_.time() + by);
    else
      step(by);
    return;
  }
  case Qt::Key_Home:
    return knife_.set_time(0);
  case Qt::Key_End:
    return knife_.set_time(std::numeric_limits<double>::infinity());
  case Qt::Key_Space:
    return knife_.play(!knife_.playing());
  default:
    QWidget::keyPressEvent(event);
  }
}

// Arrows and Space are its own while it has the focus, whatever the commands' keys are.
bool TimeView::event(QEvent* event) {
  if (event->type() == QEvent::ShortcutOverride) {
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Left || key == Qt::Key_Right || key == Qt::Key_Home || key == Qt::Key_End ||
        key == Qt::Key_Space) {
      event->accept();
      return true;
    }
  }
  return QWidget::event(event);
}

} // namespace frelm
