#include "app/canvas/question_bar.h"

#include "app/style/scheme.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPushButton>

namespace frelm {

QuestionBar::QuestionBar(QWidget* parent) : QFrame(parent), text_(new QLabel), row_(new QHBoxLayout(this)) {
  setObjectName("bar");
  text_->setWordWrap(true);
  text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  row_->setContentsMargins(12, 6, 8, 6);
  row_->setSpacing(8);
  row_->addWidget(text_, 1);
  parent->installEventFilter(this);
  hide();
}

void QuestionBar::ask(const QString& question, std::vector<Answer> answers) {
  for (QPushButton* old : findChildren<QPushButton*>()) {
    old->hide();
    old->deleteLater();
  }
  text_->setText(question);
  setAccessibleName(question);
  answers.push_back({answers.empty() ? tr("Close") : tr("Not now"), {}});
  for (Answer& a : answers) {
    auto* button = new QPushButton(a.text);
    connect(button, &QPushButton::clicked, this, [this, act = std::move(a.act)] {
      dismiss();
      if (act)
        act();
    });
    row_->addWidget(button);
  }
  show();
  raise();
  place();
}

void QuestionBar::document_edited() {
  dismiss();
}

void QuestionBar::dismiss() {
  hide();
}

void QuestionBar::place() {
  const int margin = 28, width = std::min(parentWidget()->width() - 2 * margin, 860);
  layout()->activate();
  const int height = std::max(layout()->totalHeightForWidth(width), layout()->minimumSize().height());
  setGeometry((parentWidget()->width() - width) / 2, parentWidget()->height() - height - 14, width, height);
}

bool QuestionBar::eventFilter(QObject* object, QEvent* event) {
  if (event->type() == QEvent::Resize && isVisible())
    place();
  return QFrame::eventFilter(object, event);
}

void QuestionBar::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape)
    dismiss();
  else
    QFrame::keyPressEvent(event);
}

} // namespace frelm
