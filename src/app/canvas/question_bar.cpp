#include "app/canvas/question_bar.h"

#include "app/style/scheme.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QPushButton>

namespace frelm {

QuestionBar::QuestionBar(QWidget* parent)
    : QFrame(parent), text_(new QLabel), row_(new QHBoxLayout(this)), answers_(new QHBoxLayout) {
  setObjectName("bar");
  text_->setWordWrap(true);
  text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  row_->setContentsMargins(12, 6, 8, 6);
  row_->setSpacing(8);
  row_->addWidget(text_, 1);
  row_->addLayout(answers_);
  answers_->setSpacing(8);
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
    answers_->addWidget(button);
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

// Buttons beside the text, or under it and then one under the other where they would leave it too little room.
void QuestionBar::place() {
  const int margin = std::min(28, parentWidget()->width() / 20),
            width = std::min(parentWidget()->width() - 2 * margin, 860);
  const int letter = fontMetrics().averageCharWidth();
  int buttons = 0;
  for (const QPushButton* b : findChildren<QPushButton*>())
    buttons += b->isHidden() ? 0 : b->sizeHint().width() + row_->spacing();
  answers_->setDirection(buttons > width - 24 ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
  row_->setDirection(buttons + 24 * letter > width ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
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
