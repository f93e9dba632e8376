// Finding a command: a word typed gives the commands that have it, with their keys, where they are and, when they can't
// be done now, why. Return or a click does the chosen one.
#pragma once

#include "app/commands/command_table.h"
#include "app/window/page.h"

class QLineEdit;
class QTreeWidget;

namespace frelm {

class FindPage : public Page {
  Q_OBJECT

public:
  FindPage(const CommandTable& commands, QWidget* over);
  QLineEdit* field() { return field_; }
  QTreeWidget* list() { return list_; }

protected:
  QSize wanted() const override;
  bool eventFilter(QObject* object, QEvent* event) override;

private:
  void fill();
  void carry_out();

  const CommandTable& commands_;
  QLineEdit* field_;
  QTreeWidget* list_;
};

} // namespace frelm
