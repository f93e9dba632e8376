// Beside the Measure tool: what the line measures, and what is made as large as its true length says.
#pragma once

#include "app/cards/card.h"

#include <QListWidget>

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
  void keep();
  void show_marks();
  void show_selected();

  QLabel *how_, *told_, *scales_, *selected_;
  ChoiceRow* may_;
  MeasureField* known_;
  QPushButton *keep_, *remove_;
  QListWidget* marks_;
};

} // namespace frelm
