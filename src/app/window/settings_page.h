// Settings: how it looks, and how much memory may be spent on what makes it quick and on steps to undo. Changes hold at
// once and are kept for the next start.
#pragma once

#include "app/cards/card.h"
#include "app/window/page.h"

class QSettings;

namespace frelm {

// The budgets as they were kept, or the usual ones.
void load_memory(const QSettings& settings, Session& session);

class SettingsPage : public Page {
  Q_OBJECT

public:
  SettingsPage(Session& session, QSettings& settings, int appearance, QWidget* over);

signals:
  void appearance_chosen(int appearance);

private:
  void refresh();
  void keep();

  Session& session_;
  QSettings& settings_;
  ChoiceRow* appearance_;
  MeasureField *cache_, *history_;
  QLabel *cached_, *steps_;
};

} // namespace frelm
