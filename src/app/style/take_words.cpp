#include "app/style/take_words.h"

namespace frelm {

void take_words(QLineEdit* field, QPushButton* button, const std::function<void(const QString&)>& taken) {
  button->setEnabled(false);
  QObject::connect(field, &QLineEdit::textChanged, button,
                   [button](const QString& words) { button->setEnabled(!words.trimmed().isEmpty()); });
  const auto take = [field, taken] {
    const QString words = field->text();
    if (words.trimmed().isEmpty())
      return;
    field->clear();
    taken(words);
  };
  QObject::connect(field, &QLineEdit::returnPressed, field, take);
  QObject::connect(button, &QPushButton::clicked, field, take);
}

} // namespace frelm
