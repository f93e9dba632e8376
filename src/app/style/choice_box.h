// A list of choices over which the wheel scrolls the card, unless it has the focus: nothing changes in passing.
#pragma once

#include <QComboBox>
#include <QWheelEvent>

namespace frelm {

class ChoiceBox : public QComboBox {
  Q_OBJECT

public:
  explicit ChoiceBox(QWidget* parent = nullptr) : QComboBox(parent) { setFocusPolicy(Qt::StrongFocus); }

protected:
  void wheelEvent(QWheelEvent* event) override {
    if (hasFocus())
      QComboBox::wheelEvent(event);
    else
      event->ignore();
  }
};

} // namespace frelm
