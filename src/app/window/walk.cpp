#include "app/window/walk.h"

#include "app/cards/card.h"
#include "app/style/scheme.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace frelm {

Walk::Walk(std::vector<WalkStep> steps, QWidget* window)
    : QFrame(window), steps_(std::move(steps)), heading_(new QLabel), words_(note_label()), number_(new QLabel),
      back_(new QPushButton(tr("Back"))), on_(new QPushButton), leave_(new QPushButton(tr("Leave"))) {
  setAccessibleName(tr("A first walk"));
  heading_->setObjectName("heading");
  number_->setObjectName("muted");
  on_->setObjectName("strong");
  leave_->setObjectName("flat");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(16, 12, 16, 12);
  all->setSpacing(6);
  auto* head = new QHBoxLayout;
  head->addWidget(heading_, 1);
  head->addWidget(number_);
  all->addLayout(head);
  all->addWidget(words_);
  auto* foot = new QHBoxLayout;
  foot->addWidget(leave_);
  foot->addStretch(1);
  foot->addWidget(back_);
  foot->addWidget(on_);
  all->addLayout(foot);
  connect(on_, &QPushButton::clicked, this, [this] { step_ + 1 < steps_.size() ? show_step(step_ + 1) : end(); });
  connect(back_, &QPushButton::clicked, this, [this] { show_step(step_ - 1); });
  connect(leave_, &QPushButton::clicked, this, &Walk::end);
  window->installEventFilter(this);
  show_step(0);
  show();
  raise();
}

void Walk::show_step(std::size_t step) {
  step_ = step;
  heading_->setText(steps_[step].heading);
  words_->setText(steps_[step].words);
  number_->setText(tr("%1 of %2").arg(step + 1).arg(steps_.size()));
  back_->setEnabled(step > 0);
  on_->setText(step + 1 < steps_.size() ? tr("Next") : tr("Done"));
  setAccessibleDescription(steps_[step].words);
  place();
}

// Beside what it is about, where there is room: right, left, below, above; inside the window always.
void Walk::place() {
  QWidget* window = parentWidget();
  setFixedWidth(std::min(44 * fontMetrics().averageCharWidth(), window->width() - 20));
  adjustSize();
  const QWidget* at = steps_[step_].at ? steps_[step_].at() : nullptr;
  const QRect room = window->rect().adjusted(10, 10, -10, -10);
  QPoint corner = room.center() - QPoint(width() / 2, height() / 2);
  if (at != nullptr && at->isVisible()) {
    constexpr int gap = 12;
    const QRect about(at->mapTo(window, QPoint()), at->size());
    const QPoint beside[]{{about.right() + gap, about.top()},
                          {about.left() - gap - width(), about.top()},
                          {about.left(), about.bottom() + gap},
                          {about.left(), about.top() - gap - height()}};
    corner = about.center() - QPoint(width() / 2, height() / 2); // on it, where it fills the window
    for (const QPoint& p : beside)
      if (room.contains(QRect(p, QSize(width(), 1)))) {
        corner = p;
        break;
      }
  }
  move(std::clamp(corner.x(), room.left(), std::max(room.left(), room.right() - width())),
       std::clamp(corner.y(), room.top(), std::max(room.top(), room.bottom() - height())));
}

void Walk::end() {
  deleteLater();
  hide();
}

bool Walk::eventFilter(QObject* object, QEvent* event) {
  if (event->type() == QEvent::Resize && isVisible())
    place();
  return QFrame::eventFilter(object, event);
}

void Walk::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape)
    end();
  else
    QFrame::keyPressEvent(event);
}

void Walk::paintEvent(QPaintEvent*) {
  const Scheme& s = scheme();
  QPainter painter(this);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.setPen(QPen(s.teal, 1.5));
  painter.setBrush(s.panel);
  painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 8, 8);
}

} // namespace frelm
