// What cuts the material that the Knife view shows, and how: the blade's tip, the kerf, speed, passes.
#pragma once

#include "app/cards/rows_card.h"
#include "app/session/knife_plan.h"

namespace frelm {

// A card about the material that is shown: the only one, or the one of all that is cut.
class MaterialRowsCard : public RowsCard<Material> {
public:
  MaterialRowsCard(int number, const QString& title, Session& session, KnifePlan& knife, QWidget* parent);

protected:
  void edit_subject(const QString& step, bool stepped, const std::function<void(Material&)>& change) override;
  std::vector<Colour> used() const; // what is cut, in the plan's order
  std::optional<Colour> shown() const;
  // As the list has it; one that is not in the list yet, by its colour.
  Material material() const;

  KnifePlan& knife_;
};

class MachineCard : public MaterialRowsCard {
  Q_OBJECT

public:
  MachineCard(Session& session, KnifePlan& knife, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return which_; }

private:
  ChoiceBox *which_, *panel_;
  std::vector<std::optional<Colour>> choices_;
  QLabel* all_;
};

} // namespace frelm
