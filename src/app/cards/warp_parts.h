// What the Bend card shows for Rails and Net: parts of the card, each a set of rows.
#pragma once

#include "app/cards/card.h"

#include <QCheckBox>
#include <QComboBox>
#include <QPushButton>

namespace frelm {

class Gallery;

// The rows of one edge: its profile and depth, and what belongs to that.
struct EdgeRows {
  QComboBox *kind, *plus, *guide;
  MeasureField *depth, *more, *periods, *phase, *place;
  QWidget *first_row, *plus_row, *wave_row;
};

class RailsPart : public Card {
  Q_OBJECT

public:
  explicit RailsPart(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return into_->button(0); }
  Gallery* gallery() { return gallery_; }

signals:
  void pick_shape(); // by a click on the canvas
  void problem(const QString& text);

private:
  EdgeRows build_edge(bool bottom);
  void edit_rails(const QString& name, bool stepped, const std::function<void(RailsBend&)>& change);
  void edit_profile(bool bottom, bool plus, const QString& name, bool stepped,
                    const std::function<void(RailProfile&)>& change);
  void choose_profile(bool bottom, bool plus, ProfileKind kind);
  void show_edge(const EdgeRows& rows, const RailEdge& edge, bool visible, DepthIn depth_in);
  void open_gallery();
  void set_corner(double percent, bool stepped);

  ChoiceRow *into_, *link_, *depth_in_, *verticals_, *height_;
  QToolButton* gallery_button_;
  Gallery* gallery_;
  EdgeRows top_, bottom_;
  MeasureField *taper_along_, *taper_across_;
  QComboBox* shape_;
  QPushButton *pick_, *find_corners_;
  QLabel* corners_;
  MeasureField* margin_;
  QComboBox* corner_;
  MeasureField* corner_at_;
  std::vector<PieceId> lines_, shapes_; // open guides and outlines, closed ones
};

class NetPart : public Card {
  Q_OBJECT

public:
  explicit NetPart(Session& session, QWidget* parent = nullptr);
  void refresh() override;

signals:
  void problem(const QString& text);

private:
  void edit_net(const QString& name, const std::function<void(NetBend&)>& change, const std::string& key = {});
  void change_lines(NetLine line, bool more);
  void on_line(NetLine line, bool straight);
  void step_peg(int by);
  void move_peg(std::optional<double> x, std::optional<double> y, bool stepped);
  std::vector<std::size_t> chosen() const;
  std::optional<Point> peg_place(std::size_t peg) const; // on the sheet

  QLabel *over_, *columns_, *rows_count_, *note_;
  std::vector<QToolButton*> steps_;
  QPushButton *straight_row_, *straight_column_, *even_row_, *even_column_, *reset_;
  QCheckBox* mirror_;
  QLabel* peg_;
  MeasureField *x_, *y_;
  QString removed_; // what the last removal changed
  PieceId removed_of_ = 0;
};

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
