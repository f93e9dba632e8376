// Copies in order: by a step, in rows and columns, around, along a line. What would come of it is shown on the sheet
// while the card is open.
#pragma once

#include "app/cards/card.h"
#include "document/copies.h"

#include <QCheckBox>

namespace frelm {

class CopiesCard : public Card {
  Q_OBJECT

public:
  explicit CopiesCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return kind_; }

signals:
  void wanted(const frelm::CopyOrder& order, frelm::CopyAs as);
  void shown(std::shared_ptr<const frelm::Outline> copies); // null: nothing
  void closed();

protected:
  void showEvent(QShowEvent* event) override;
  void hideEvent(QHideEvent* event) override;

private:
  template <class Order>
  MeasureField* field(MeasureKind kind, const QString& name, double low, double high,
                      const std::function<void(Order&, double)>& set);
  CopyOrder& order() { return orders_[static_cast<std::size_t>(kind_->choice())]; }
  void changed();

  std::vector<CopyOrder> orders_{StepCopies{}, GridCopies{}, RingCopies{}, AlongCopies{},
                                 NestedCopies{}}; // as each was last
  ChoiceRow* kind_;
  MeasureField *count_, *step_across_, *step_down_, *turn_;       // by a step
  MeasureField *columns_, *rows_count_, *gap_across_, *gap_down_; // in rows
  MeasureField *around_, *sweep_;                                 // around
  MeasureField* along_;                                           // along a line
  MeasureField *nested_, *apart_, *margin_;                       // close together
  ChoiceRow* may_turn_;
  QCheckBox *upright_, *linked_;
  ChoiceRow* about_;
  QPushButton* make_;
};

} // namespace frelm
