// Size, place and lean of all that is selected, as one, by numbers; held by one of nine places of what its ink covers,
// which stays where it is sized and is what the place fields tell.
#pragma once

#include "app/cards/card.h"

#include <QCheckBox>

namespace frelm {

class PosePart : public Card {
  Q_OBJECT

public:
  explicit PosePart(Session& session);
  void refresh() override;

signals:
  void problem(const QString& text);

private:
  void size(InkSide side, double target);
  void move(Vec by);

  MeasureField *width_, *height_, *x_, *y_, *lean_;
  ChoiceBox* held_by_;
  QCheckBox* grows_;
};

} // namespace frelm
