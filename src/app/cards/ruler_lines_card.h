// The ruler lines, with numbers for the one that is chosen.
#pragma once

#include "app/cards/card.h"

#include <QCheckBox>
#include <QListWidget>

namespace frelm {

class RulerLinesCard : public Card {
  Q_OBJECT

public:
  explicit RulerLinesCard(Session& session, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return list_; }

private:
  const RulerLine* chosen() const;
  void show_chosen();
  void change(const QString& name, bool stepped, const std::function<void(RulerLine&)>& by);

  QListWidget* list_;
  MeasureField *across_, *down_, *angle_;
  QCheckBox* locked_;
  QPushButton* remove_;
};

} // namespace frelm
