#pragma once

#include "app/cards/card.h"

#include <QComboBox>

namespace frelm {

// Card 2: straight, an arc, or riding on a guide.
class BendCard : public Card {
  Q_OBJECT

public:
  BendCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  void restyle() override;
  QWidget* first_field() override { return kind_->button(kind_->choice() < 0 ? 0 : kind_->choice()); }
  // As if the tile had been clicked.
  void choose(BendKind kind);

private:
  void edit_bend(const QString& name, bool stepped, const std::function<void(Bend&)>& change);
  void edit_placement(const QString& name, bool stepped, const std::function<void(Placement&)>& change);
  void set_arc(ArcBy by, double value, bool stepped);
  void fill_guides();

  ChoiceRow* kind_;
  MeasureField *radius_, *rise_, *sweep_;
  ChoiceRow* side_;
  QComboBox* guide_;
  MeasureField* guide_radius_;
  ChoiceRow *tops_, *sit_;
  QComboBox* anchor_;
  MeasureField *angle_, *distance_;
  MeasureField* offset_;
  MeasureField *x_, *y_, *turn_;
  std::vector<PieceId> guide_ids_;
};

} // namespace frelm
