// The row over everything: tools, steps, views, sheet, unit and zoom. What doesn't fit drops its words before a tool:
// first those of the steps, then the sheet's, then the tools', last what the View menu has too.
#pragma once

#include "app/canvas/canvas.h"
#include "app/cards/card.h"
#include "app/commands/command_table.h"

namespace frelm {

class TopRow : public QWidget {
  Q_OBJECT

public:
  TopRow(Session& session, Canvas& canvas, const CommandTable& commands, QWidget* parent = nullptr);
  void refresh();          // sheet and unit
  void refresh_commands(); // what undo and redo would do, or why not
  void restyle();
  QSize minimumSizeHint() const override; // of the narrowest

signals:
  void sheet_wanted();
  void unit_wanted(Unit unit);

protected:
  void resizeEvent(QResizeEvent* event) override;

private:
  QToolButton* add_button(const QString& words, const QString& tip);
  void add_tools();
  void fit();
  void show_level(int level);
  int wanted_width() const;

  Session& session_;
  Canvas& canvas_;
  const CommandTable& commands_;
  QHBoxLayout* line_;
  std::vector<QToolButton*> tools_; // in the order of the tool table
  QToolButton *undo_, *redo_, *sheet_, *zoom_;
  ChoiceRow *view_, *unit_;
  std::optional<std::pair<Sheet, Unit>> sheet_shown_;
};

} // namespace frelm
