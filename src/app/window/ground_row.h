// What lies under the work: one of two words, and for one of them a colour from the job's materials.
#pragma once

#include "app/cards/card.h"

namespace frelm {

class GroundRow : public QWidget {
  Q_OBJECT

public:
  // without: the word for no colour.
  GroundRow(Session& session, const QString& without, std::optional<Colour> ground);
  std::optional<Colour> ground() const { return ground_; }

signals:
  void chosen(std::optional<frelm::Colour> ground);

private:
  void choose(std::optional<Colour> ground);
  void show_ground();

  std::optional<Colour> ground_;
  Colour usual_; // the last one, or the first of the materials
  ChoiceRow* kind_;
  QToolButton* colour_;
};

} // namespace frelm
