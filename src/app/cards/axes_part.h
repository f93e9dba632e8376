// Rows of the Letters card for a variable face: one an axis, a slider and a field.
#pragma once

#include "app/cards/card.h"

#include <QSlider>

namespace frelm {

// What an axis is called: our word for the registered ones, the face's own for others.
QString axis_words(const FaceAxis& axis);

class AxesPart : public Card {
  Q_OBJECT

public:
  explicit AxesPart(Session& session, QWidget* parent = nullptr);
  void refresh() override; // hides itself where the face has no axes
  bool has(const std::string& tag) const;

private:
  struct Row {
    QLabel* label;
    QSlider* slider;
    MeasureField* field;
    FaceAxis axis;
  };
  void add_axis();
  void change_axis(std::size_t row, double value, bool stepped);

  std::vector<Row> rows_of_axes_; // as many as any face had so far
  std::size_t shown_ = 0;
};

} // namespace frelm
