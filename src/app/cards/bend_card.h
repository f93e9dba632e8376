#pragma once

#include "app/cards/lettering_card.h"
#include "app/cards/net_part.h"
#include "app/cards/rails_part.h"
#include "app/cards/strokes_part.h"

#include <QComboBox>
#include <QPushButton>

namespace frelm {

// Card 2: straight, an arc, riding on a guide, between rails, by a net. Outlines know only the first and the last two.
class BendCard : public LetteringCard {
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
  // What the rows show, worked out once for each refresh.
  struct Now {
    bool arc = false, guide = false, letters = false, down = false, seated = false, fills = false;
    std::shared_ptr<const GuideLine> line; // it rides on
    std::shared_ptr<const SeatedText> text;
  };
  Now now_of(const Piece& piece, const Lettering& lettering) const;
  void add_kinds();
  void add_arc_rows();
  void add_guide_rows();
  void add_stance_rows();
  void add_along_row();
  void add_used_row();
  void add_place_rows();
  void set_arc(ArcBy by, double value, bool stepped);
  void set_guide_radius(double value, bool stepped);
  void fit_height(bool on);
  void measure_along_by(AlongBy by);
  std::optional<Document> bent_otherwise(const Piece& piece, BendKind kind) const; // straight, on an arc, on a guide
  void show_warps(const Bend& bend);
  QString summary(const Bend& bend) const;
  template <class Part> Part* make_part(QWidget* place);

  ChoiceRow* kind_;
  Now now_;
  QWidget *net_place_, *rails_place_, *strokes_place_;
  RailsPart* rails_ = nullptr;
  NetPart* net_ = nullptr;
  StrokesPart* strokes_ = nullptr;
};

} // namespace frelm
