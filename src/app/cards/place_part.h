// Several pieces placed by each other: what they are measured by and what stays, and a button for each command.
#pragma once

#include "app/cards/card.h"
#include "app/commands/command_table.h"

namespace frelm {

class PlacePart : public Card {
  Q_OBJECT

public:
  PlacePart(Session& session, const CommandTable& commands);
  void refresh() override;

signals:
  void turn_wanted(double degrees);

private:
  void add_buttons(const QString& label, const QStringList& ids);

  const CommandTable& commands_;
  ChoiceRow *to_, *by_;
  MeasureField *margin_, *turn_;
  std::vector<std::pair<QPushButton*, const CommandTable::Entry*>> buttons_;
};

} // namespace frelm
