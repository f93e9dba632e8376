// The Outline menu: welding, and what is done to nodes.
#pragma once

#include "app/cards/guide_cards.h"
#include "app/menus/desk.h"

namespace frelm {

void fill_outline_menu(CommandTable& commands, QMenu* menu, Desk& desk);

void node_command(Desk& desk, NodeCommand command);

} // namespace frelm
