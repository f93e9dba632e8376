// Keys and handles: what the hand can do, and every menu command with its key.
#pragma once

#include "app/window/page.h"

class QMenuBar;

namespace frelm {

class KeysPage : public Page {
  Q_OBJECT

public:
  KeysPage(const QMenuBar& menus, QWidget* over);

protected:
  QSize wanted() const override;
};

} // namespace frelm
