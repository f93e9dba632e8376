// Rows of the Bend card for Rails: the two edges, or the shape to fill.
#pragma once

#include "app/cards/piece_choice.h"
#include "app/cards/warp_part.h"

#include <QPushButton>

namespace frelm {

class Gallery;

// The rows of one edge: its profile and depth, and what belongs to that.
struct EdgeRows {
  QComboBox *kind, *plus;
  PieceChoice* guide;
  MeasureField *depth, *more, *periods, *phase, *place;
  QWidget *first_row, *plus_row, *wave_row;
};

class RailsPart : public WarpPart {
  Q_OBJECT

public:
  explicit RailsPart(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return into_->button(0); }
  Gallery* gallery() { return gallery_; }

signals:
  void pick_shape(); // by a click on the canvas

private:
  EdgeRows build_edge(bool bottom);
  void build_upright();
  void edit_rails(const QString& name, bool stepped, const std::function<void(RailsBend&)>& change);
  void edit_profile(bool bottom, bool plus, const QString& name, bool stepped,
                    const std::function<void(RailProfile&)>& change);
  void choose_profile(bool bottom, bool plus, ProfileKind kind);
  void show_edge(const EdgeRows& rows, const RailEdge& edge, bool visible, DepthIn depth_in);
  void set_corner(double percent, bool stepped);

  ChoiceRow *into_, *link_, *depth_in_, *verticals_, *style_;
  MeasureField *from_, *to_, *proportion_;
  ChoiceRow* height_;
  QToolButton* gallery_button_;
  Gallery* gallery_;
  EdgeRows top_, bottom_;
  MeasureField *taper_along_, *taper_across_;
  PieceChoice* shape_;
  QPushButton *pick_, *find_corners_;
  QLabel* corners_;
  MeasureField* margin_;
  QComboBox* corner_;
  MeasureField* corner_at_;
};

} // namespace frelm
