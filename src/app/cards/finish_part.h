// The steps of a piece's finish, one above the other; the one that is open shows its measures. Part of the Finish card
// and of the card of an outline.
#pragma once

#include "app/cards/finish_step.h"
#include "app/commands/command_table.h"

namespace frelm {

class FinishPart : public Card {
  Q_OBJECT

public:
  explicit FinishPart(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  static QString lines_told(const Outline& outline); // how many nodes in how many lines
  void restyle() override;
  QWidget* first_field() override { return add_; }
  // The commands that add a step, as the menu of the button.
  void offer(const CommandTable& commands, const QStringList& ids);

private:
  static constexpr std::size_t none = static_cast<std::size_t>(-1);
  void open_step(std::size_t index); // the others fold
  void rebuild(const Finish& finish);

  QWidget* list_;
  QPushButton* add_;
  QLabel* nodes_;
  std::vector<FinishStepBox*> boxes_;
  std::vector<std::pair<std::size_t, std::size_t>> kinds_; // of each box: the step's kind, and its rings
  PieceId of_ = 0;
  std::size_t open_ = none;
};

} // namespace frelm
