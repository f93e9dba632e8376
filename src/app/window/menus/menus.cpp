// The menus: one file each beside this one, all of the table of commands.
#include "app/window/main_window.h"

#include <QMenuBar>

namespace frelm {

void MainWindow::build_menus() {
  fill_file_menu(menuBar()->addMenu(tr("&File")));
  fill_edit_menu(menuBar()->addMenu(tr("&Edit")));
  add_menu_ = menuBar()->addMenu(tr("&Add"));
  fill_add_menu(add_menu_);
  fill_lettering_menu(menuBar()->addMenu(tr("&Lettering")));
  fill_outline_menu(menuBar()->addMenu(tr("&Outline")));
  fill_arrange_menu(menuBar()->addMenu(tr("A&rrange")));
  fill_view_menu(menuBar()->addMenu(tr("&View")));
  fill_help_menu(menuBar()->addMenu(tr("&Help")));
}

const Lettering* MainWindow::selected_lettering() const {
  const Piece* piece = session_.selected();
  return piece != nullptr ? piece->lettering() : nullptr;
}

std::function<QString()> MainWindow::needs_selection() const {
  return [this] { return session_.selection().empty() ? tr("Nothing is selected") : QString(); };
}

std::function<QString()> MainWindow::needs_lettering(std::function<QString(const Lettering&)> why_not) const {
  return [this, why_not = std::move(why_not)] {
    const Lettering* l = selected_lettering();
    return l == nullptr ? tr("Select a lettering first") : why_not ? why_not(*l) : QString();
  };
}

void MainWindow::refresh_actions() {
  commands_.refresh();
  const auto follow = [&](QToolButton* button, const char* id) {
    const QAction* action = commands_.action(id);
    button->setEnabled(action->isEnabled());
    button->setToolTip(action->isEnabled() ? tr("%1 (%2)").arg(QString(action->text()).remove('&'),
                                                               action->shortcut().toString(QKeySequence::NativeText))
                                           : action->toolTip());
  };
  follow(undo_button_, "edit.undo");
  follow(redo_button_, "edit.redo");
}

// What can be done with the selection; with nothing selected, what can be added.
void MainWindow::pieces_menu(QPoint at) {
  QMenu menu;
  menu.setToolTipsVisible(true);
  for (const char* id : {"edit.undo", "lettering.release", "lettering.reopen", "outline.weld", "arrange.lock"})
    if (QAction* a = commands_.action(id); a->isEnabled())
      menu.addAction(a);
  menu.addSeparator();
  for (const char* id : {"edit.duplicate", "edit.delete", "arrange.front"})
    if (QAction* a = commands_.action(id); a->isEnabled())
      menu.addAction(a);
  if (session_.selection().empty())
    menu.addActions(add_menu_->actions());
  menu.exec(at);
}

} // namespace frelm
