// Beside the Measure tool: what the line measures, and what is made as large as its true length says.
#pragma once

#include "app/cards/card.h"

namespace frelm {

class MeasureCard : public Card {
  Q_OBJECT

public:
  explicit MeasureCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return known_; }

signals:
  void problem(const QString& text);

private:
  void make_it(double length);

  QLabel *how_, *told_, *scales_;
  MeasureField* known_;
};

} // namespace frelm
