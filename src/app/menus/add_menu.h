// The Add menu: letterings, guides, starters; and what else adds pieces.
#pragma once

#include "app/menus/desk.h"

namespace frelm {

void fill_add_menu(CommandTable& commands, QMenu* menu, Desk& desk);

// Words on a new straight lettering in the middle of the sheet.
void letter_it(Desk& desk, const QString& words);
void add_badge(Desk& desk);

} // namespace frelm
