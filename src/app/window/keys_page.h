// Keys and handles: what the hand can do, and every menu command with its key.
#pragma once

#include "app/commands/command_table.h"
#include "app/window/page.h"

namespace frelm {

class KeysPage : public Page {
  Q_OBJECT

public:
  KeysPage(const CommandTable& commands, QWidget* over);

protected:
  QSize wanted() const override;
};

} // namespace frelm
