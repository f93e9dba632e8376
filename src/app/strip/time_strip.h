// What takes the Gap strip's place in the Knife view: play, how fast, where it stands, over the line of time.
#pragma once

#include "app/strip/time_view.h"
#include "app/style/choice_box.h"
#include "app/style/short_label.h"

#include <QLabel>
#include <QPushButton>

namespace frelm {

class TimeStrip : public QWidget {
  Q_OBJECT

public:
  TimeStrip(Session& session, KnifePlan& knife, QWidget* parent = nullptr);
  TimeView* view() const { return view_; }
  QPushButton* play_button() const { return play_; }
  QString told() const { return time_->text() + " " + length_->words(); }
  void restyle();

private:
  void refresh();

  Session& session_;
  KnifePlan& knife_;
  TimeView* view_;
  QPushButton* play_;
  ChoiceBox* speed_;
  QLabel* time_;
  ShortLabel *length_, *about_;
};

} // namespace frelm
