// To the cutter: which one, send, pause, go on, cancel, and how it stands.
#pragma once

#include "app/cards/card.h"
#include "app/session/cutter_link.h"
#include "app/session/knife_plan.h"

#include <QProgressBar>

namespace frelm {

class SendCard : public Card {
  Q_OBJECT

public:
  SendCard(Session& session, KnifePlan& knife, CutterLink& link, QWidget* parent = nullptr);
  void refresh() override;
  QWidget* first_field() override { return to_; }
  // As remembered.
  void set_address(const QString& address);
  QString address() const; // "" while none is chosen

signals:
  void send_wanted(const QString& address, int first);
  void file_wanted();
  void log_wanted();
  void address_chosen(const QString& address);

private:
  void find();

  KnifePlan& knife_;
  CutterLink& link_;
  ChoiceBox* to_;
  QLineEdit* own_; // an address that was typed
  QPushButton *send_, *pause_, *stop_, *on_, *file_, *log_;
  QProgressBar* bar_;
  QLabel* told_;
};

} // namespace frelm
