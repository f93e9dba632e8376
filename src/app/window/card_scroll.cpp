#include "app/window/card_scroll.h"

#include "app/cards/card.h"

#include <QLayout>
#include <QScrollBar>

namespace frelm {
namespace {

// Seen only where there is something to scroll, but always there: a bar that comes and goes changes the room of what it
// scrolls, which may bring or take the bar again, without end.
class QuietBar final : public QScrollBar {
public:
  using QScrollBar::QScrollBar;

protected:
  void paintEvent(QPaintEvent* event) override {
    if (maximum() > minimum())
      QScrollBar::paintEvent(event);
  }
};

} // namespace

CardScroll::CardScroll(QWidget* parent) : QScrollArea(parent) {
  setVerticalScrollBar(new QuietBar(this));
  setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOn);
  setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
}

QSize CardScroll::minimumSizeHint() const {
  int widest = 0;
  for (const Card* card : widget()->findChildren<Card*>(Qt::FindDirectChildrenOnly))
    widest = std::max(widest, card->least_width());
  const QMargins m = widget()->layout()->contentsMargins();
  return {widest + m.left() + m.right() + verticalScrollBar()->sizeHint().width(), 100};
}

} // namespace frelm
