// In which order, from where and which way: seams, leads, sides, and the list of paths, which hands may sort.
#pragma once

#include "app/cards/machine_card.h"

namespace frelm {

class OrderCard : public MaterialRowsCard {
  Q_OBJECT

public:
  OrderCard(Session& session, KnifePlan& knife, QWidget* parent = nullptr);
  void refresh() override;
  QListWidget* list() const { return list_; }

private:
  void fill();
  void take_order();               // as the list has it now
  void move_path(int row, int by); // rows

  QListWidget* list_;
  QPushButton *earlier_, *later_, *own_;
  QLabel* told_;
  std::shared_ptr<const PlannedCut> filled_;
  bool filling_ = false; // what the list tells then is not the hand's
};

} // namespace frelm
