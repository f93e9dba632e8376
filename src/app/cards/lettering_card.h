// A card of a lettering by rows.
#pragma once

#include "app/cards/rows_card.h"

namespace frelm {

class LetteringCard : public RowsCard<Lettering> {
  Q_OBJECT

protected:
  using RowsCard::RowsCard;
  static bool several_lines(const Lettering& lettering);
  void edit_subject(const QString& step, bool stepped, const std::function<void(Lettering&)>& change) override;
};

} // namespace frelm
