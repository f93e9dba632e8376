#pragma once

#include "app/cards/net_part.h"
#include "app/cards/rails_part.h"
#include "app/cards/strokes_part.h"

#include <QCheckBox>
#include <QComboBox>
#include <QPushButton>

namespace frelm {

// Card 2: straight, an arc, riding on a guide, between rails, by a net. Outlines know only the first and the last two.
class BendCard : public Card {
  Q_OBJECT

public:
  BendCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  void restyle() override;
  QWidget* first_field() override { return kind_->button(kind_->choice() < 0 ? 0 : kind_->choice()); }
  // As if the tile had been clicked.
  void choose(BendKind kind);
  // Made when a bend first needs them: a window is shown sooner without.
  RailsPart& rails();
  NetPart& net();

signals:
  void pick_shape(); // for letters to fill, on the canvas
  void problem(const QString& text);
  void level_wanted();
  void draw_guide(); // none is there yet: begin to draw one

private:
  void edit_bend(const QString& name, bool stepped, const std::function<void(Bend&)>& change);
  void edit_placement(const QString& name, bool stepped, const std::function<void(Placement&)>& change);
  void set_arc(ArcBy by, double value, bool stepped);

  ChoiceRow* kind_;
  MeasureField *radius_, *rise_, *sweep_;
  ChoiceRow* side_;
  PieceChoice* guide_;
  MeasureField* guide_radius_;
  QCheckBox* fit_;
  ChoiceRow *tops_, *sit_, *stance_;
  QCheckBox* stretch_;
  QComboBox *anchor_, *by_;
  MeasureField *angle_, *distance_, *percent_;
  QPushButton* level_;
  QLabel* used_;
  MeasureField* offset_;
  ChoiceRow *corners_, *lines_;
  MeasureField *x_, *y_, *turn_;
  template <class Part> Part* make_part(QWidget* place);
  QWidget *net_place_, *rails_place_, *strokes_place_;
  RailsPart* rails_ = nullptr;
  NetPart* net_ = nullptr;
  StrokesPart* strokes_ = nullptr;
};

} // namespace frelm
