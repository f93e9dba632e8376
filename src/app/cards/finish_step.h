// One step of a finish: its switch, what it made, a menu to move or remove it, and the rows of its measures. Its
// heading is dragged to another place among the steps, or moved there with Alt and an arrow.
#pragma once

#include "app/cards/rows_card.h"
#include "lettering/finish_layers.h"

#include <QMenu>

namespace frelm {

class StepRows;

class FinishStepBox : public QFrame {
  Q_OBJECT

public:
  // Of the step with this index of the piece selected, for as long as it is of the same kind.
  FinishStepBox(std::size_t index, const FinishAction& what, Session& session, QWidget* parent);
  // report: null while it is not known.
  void show_step(const FinishStep& step, const StepReport* report, bool open, std::size_t count);
  void focus_heading() { heading_->setFocus(); }

protected:
  bool eventFilter(QObject* object, QEvent* event) override;

signals:
  void opened(std::size_t index); // or folded
  void moved(std::size_t to);

private:
  void edit_steps(const QString& name, const std::function<void(std::vector<FinishStep>&)>& change);
  void move_to(std::size_t to);
  bool drag(QEvent* event); // of the heading; true: it is no click
  std::size_t place_at(int hand) const;
  QMenu* step_menu(const QString& name);
  QString words_about(const FinishAction& what, const StepReport& report) const;

  Session& session_;
  std::size_t index_;
  std::size_t count_ = 1;
  QCheckBox* on_;
  QToolButton* heading_;
  std::optional<int> held_; // y of the hand where the heading was pressed, from the box's top
  bool dragged_ = false;
  ShortLabel* told_;
  StepRows* measures_; // null: it has none
  QAction *up_ = nullptr, *down_ = nullptr;
};

} // namespace frelm
