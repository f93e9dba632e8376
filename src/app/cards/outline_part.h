// The outline commands as buttons of a card, with the fields of those that take a measure. While the pointer or the
// focus rests on one the canvas shows what stays and what goes, and a line here says the rest.
#pragma once

#include "app/cards/card.h"
#include "app/commands/command_table.h"
#include "app/session/outline_maker.h"

namespace frelm {

class OutlinePart : public Card {
  Q_OBJECT

public:
  // One outline has the steps of its finish beside these, so it needs fewer of them.
  enum class For { One, Several };
  OutlinePart(Session& session, OutlineMaker& maker, const CommandTable& commands, For pieces);
  void refresh() override;

protected:
  bool eventFilter(QObject* object, QEvent* event) override;

private:
  QPushButton* new_button(OutlineCommand command);
  void add_measured_row(const QString& label, OutlineCommand command,
                        const std::vector<std::pair<MeasureField*, double OutlineMeasures::*>>& fields);
  void show_picture();

  OutlineMaker& maker_;
  const CommandTable& commands_;
  struct Offer {
    QPushButton* button;
    OutlineCommand command;
  };
  std::vector<Offer> offers_;
  std::vector<std::pair<MeasureField*, double OutlineMeasures::*>> fields_;
  QLabel* told_;
};

QString outline_command_id(OutlineCommand command); // in the table

} // namespace frelm
