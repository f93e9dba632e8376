#include "app/window/page.h"

#include <QEvent>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace frelm {

Page::Page(const QString& heading, const QString& back, QWidget* over) : QFrame(over), body_(new QVBoxLayout) {
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
  all->addWidget(back_, 0, Qt::AlignRight);
  over->installEventFilter(this);
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
  constexpr int margin = 28; // px of the canvas that stay to be seen
  const QWidget* over = parentWidget();
  const QSize size = wanted().boundedTo(over->size() - QSize(2 * margin, 2 * margin));
  setGeometry(QRect(QPoint((over->width() - size.width()) / 2, (over->height() - size.height()) / 2), size));
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
