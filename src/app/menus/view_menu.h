// The View menu: views, zoom, units, the ways between the parts of the window.
#pragma once

#include "app/menus/desk.h"

namespace frelm {

void fill_view_menu(CommandTable& commands, QMenu* menu, Desk& desk);

void set_unit(Desk& desk, Unit unit);

} // namespace frelm
