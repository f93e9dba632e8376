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
  void add_gallery();
  void add_edges();
  void add_shape();
  void add_upright();
  void add_corners();
  EdgeRows build_edge(bool bottom);
  double block_height() const; // mm, as large as its target: what depths in % are of
  void edit_rails(const QString& name, bool stepped, const std::function<void(RailsBend&)>& change);
  void edit_profile(bool bottom, bool plus, const QString& name, bool stepped,
                    const std::function<void(RailProfile&)>& change);
  void choose_profile(bool bottom, bool plus, ProfileKind kind);
  void show_shape(const ShapeFill& fill);
  void show_gallery(const RailsBend& rails);
  void show_edge(const EdgeRows& rows, const RailEdge& edge, bool visible, DepthIn depth_in);
  void set_corner(double percent, bool stepped);

  ChoiceRow *into_, *link_, *depth_in_;
  QToolButton* gallery_button_;
  Gallery* gallery_;
  EdgeRows top_, bottom_;
  PieceChoice* shape_;
  QPushButton* find_corners_;
  QLabel* corners_;
  QComboBox* corner_;
  MeasureField* corner_at_;
};

} // namespace frelm
