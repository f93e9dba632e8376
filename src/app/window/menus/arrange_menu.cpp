#include "app/window/main_window.h"

namespace frelm {

void MainWindow::fill_arrange_menu(QMenu* menu) {
  const auto order = [&](const char* id, const QString& words, const char* key, int where) {
    commands_.add(menu, {.id = id,
                         .words = words,
                         .keys = {QKeySequence(key)},
                         .run = [this, where] { order_selected(where); },
                         .why_not = needs_selection()});
  };
  order("arrange.front", tr("To &front"), "Ctrl+Shift+PgUp", 2);
  order("arrange.forward", tr("For&ward"), "Ctrl+PgUp", 1);
  order("arrange.backward", tr("&Backward"), "Ctrl+PgDown", -1);
  order("arrange.back", tr("To bac&k"), "Ctrl+Shift+PgDown", -2);
  menu->addSeparator();
  commands_.add(menu, {.id = "arrange.centre",
                       .words = tr("&Centre on sheet"),
                       .keys = {QKeySequence("Ctrl+Shift+C")},
                       .run = [this] { centre_on_sheet(); },
                       .why_not = needs_selection()});
  commands_.add(menu,
                {.id = "arrange.lock",
                 .words = tr("&Lock"),
                 .keys = {QKeySequence("Ctrl+K")},
                 .tip = tr("What is locked can't be moved or changed by hand"),
                 .run = [this] { toggle_lock(); },
                 .why_not = [this] { return session_.selected() != nullptr ? QString() : tr("Select one piece"); },
                 .on = [this] { return session_.selected() != nullptr && session_.selected()->locked; }});
}

} // namespace frelm
