// The Edit menu: steps, clipboard, selection, tools.
#pragma once

#include "app/menus/desk.h"

namespace frelm {

void fill_edit_menu(CommandTable& commands, QMenu* menu, Desk& desk);

// With the Nodes tool and nodes chosen, these; else the selected pieces. Letters whose guide goes keep its curve.
void delete_selected(Desk& desk);

} // namespace frelm
