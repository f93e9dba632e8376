// Pieces placed by each other and copied in order.
#pragma once

#include "app/menus/desk.h"
#include "document/copies.h"

namespace frelm {

void fill_place_menu(CommandTable& commands, QMenu* menu, Desk& desk);
// By a step, in rows, around: what comes of it is selected.
void make_copies(Desk& desk, const CopyOrder& order, CopyAs as, const std::function<void()>& done);

} // namespace frelm
