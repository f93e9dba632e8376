// Rows of the Bend card for any warp: what it does to the strokes.
#pragma once

#include "app/cards/card.h"

namespace frelm {

// What a warp does to the strokes, and the width under which that is too far.
class StrokesPart : public Card {
  Q_OBJECT

public:
  explicit StrokesPart(Session& session, QWidget* parent = nullptr);
  void refresh() override;

private:
  QLabel* numbers_;
  MeasureField* least_;
};

} // namespace frelm
