// A field for words and the button that takes them (Return does too).
#pragma once

#include <QLineEdit>
#include <QPushButton>
#include <functional>

namespace frelm {

// `taken` gets words that are not blank, and the field is empty again.
void take_words(QLineEdit* field, QPushButton* button, const std::function<void(const QString&)>& taken);

} // namespace frelm
