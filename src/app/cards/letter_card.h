// One letter of a run: how the hand has moved it, and the other shapes that the face has for it.
#pragma once

#include "app/cards/card.h"

#include <QPushButton>

namespace frelm {

class LetterCard : public Card {
  Q_OBJECT
public:
  explicit LetterCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  void restyle() override;

private:
  void edit_tweak(const QString& name, bool stepped, const std::function<void(LetterTweak&, double cap)>& change);
  void show_shapes(const Letters& letters);
  QLabel* about_;
  MeasureField *turn_, *size_, *raise_, *nudge_;
  QPushButton* back_;
  QWidget* shapes_;
  QGridLayout* shapes_grid_;
  QByteArray shown_; // which pictures: made anew only when others are wanted
};

} // namespace frelm
