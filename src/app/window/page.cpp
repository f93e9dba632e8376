#include "app/window/page.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace frelm {

Page::Page(const QString& heading, const QString& back, QWidget* over)
    : QFrame(over->window()), over_(over), body_(new QVBoxLayout), foot_(new QHBoxLayout) {
  setObjectName("card");
  setAttribute(Qt::WA_DeleteOnClose);
  setAccessibleName(heading);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(16, 14, 16, 14);
  all->setSpacing(10);
  auto* title = new QLabel(heading);
  title->setObjectName("heading");
  all->addWidget(title);
  body_->setSpacing(10);
  all->addLayout(body_, 1);
  back_ = new QPushButton(back);
  connect(back_, &QPushButton::clicked, this, &QWidget::close);
  foot_->addStretch(1);
  foot_->addWidget(back_);
  all->addLayout(foot_);
  over->installEventFilter(this);
  over->window()->installEventFilter(this);
}

void Page::add_action(QPushButton* button) {
  foot_->insertWidget(foot_->count() - 2, button);
}

void Page::appear() {
  place();
  show();
  raise();
}

QSize Page::wanted() const {
  return sizeHint();
}

void Page::place() {
  constexpr int margin = 28; // px of what lies under it that stay to be seen
  const auto room_of = [](const QRect& r) { return r.adjusted(margin, margin, -margin, -margin); };
  const QRect canvas = room_of(QRect(over_->mapTo(parentWidget(), QPoint()), over_->size()));
  const QSize size = wanted();
  const bool fits = size.width() <= canvas.width() && minimumSizeHint().height() <= canvas.height();
  const QRect room = fits ? canvas : room_of(parentWidget()->rect());
  QRect place(QPoint(), size.boundedTo(room.size()));
  place.moveCenter(room.center());
  setGeometry(place);
}

bool Page::eventFilter(QObject* object, QEvent* event) {
  if (event->type() == QEvent::Resize)
    place();
  return QFrame::eventFilter(object, event);
}

void Page::closeEvent(QCloseEvent* event) {
  QFrame::closeEvent(event);
  emit closed();
}

void Page::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape)
    close();
  else
    QFrame::keyPressEvent(event);
}

} // namespace frelm
