// The column of cards, scrolled where it is longer than the window.
#pragma once

#include <QScrollArea>

namespace frelm {

// As wide as the widest card, shown or not, so that nothing is cut off and the column keeps its width; with room for
// the bar, whether it is seen or not.
class CardScroll final : public QScrollArea {
public:
  explicit CardScroll(QWidget* parent);
  QSize minimumSizeHint() const override;
};

} // namespace frelm
