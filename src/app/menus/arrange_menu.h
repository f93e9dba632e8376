// The Arrange menu: order, place, lock.
#pragma once

#include "app/menus/desk.h"

namespace frelm {

void fill_arrange_menu(CommandTable& commands, QMenu* menu, Desk& desk);
void turn_selected(Desk& desk, double degrees); // clockwise, about the middle of all

} // namespace frelm
