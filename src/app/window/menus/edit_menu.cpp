#include "app/window/main_window.h"

namespace frelm {

void MainWindow::fill_edit_menu(QMenu* menu) {
  const auto named = [](const QString& words, const QString& with_step, const std::string& step) {
    return step.empty() ? words : with_step.arg(QString::fromStdString(step));
  };
  commands_.add(
      menu, {.id = "edit.undo",
             .words = tr("&Undo"),
             .keys = {QKeySequence::Undo},
             .run = [this] { session_.undo(); },
             .why_not = [this] { return session_.history().can_undo() ? QString() : tr("Nothing to undo"); },
             .words_now = [=, this] { return named(tr("&Undo"), tr("&Undo: %1"), session_.history().undo_name()); }});
  commands_.add(
      menu, {.id = "edit.redo",
             .words = tr("&Redo"),
             .keys = {QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")},
             .run = [this] { session_.redo(); },
             .why_not = [this] { return session_.history().can_redo() ? QString() : tr("Nothing to redo"); },
             .words_now = [=, this] { return named(tr("&Redo"), tr("&Redo: %1"), session_.history().redo_name()); }});
  menu->addSeparator();
  commands_.add(menu, {.id = "edit.cut",
                       .words = tr("Cu&t"),
                       .keys = {QKeySequence::Cut},
                       .run =
                           [this] {
                             copy_selected();
                             delete_selected();
                           },
                       .why_not = needs_selection()});
  commands_.add(menu, {.id = "edit.copy",
                       .words = tr("&Copy"),
                       .keys = {QKeySequence::Copy},
                       .run = [this] { copy_selected(); },
                       .why_not = needs_selection()});
  commands_.add(menu, {.id = "edit.paste",
                       .words = tr("&Paste"),
                       .keys = {QKeySequence::Paste},
                       .tip = tr("Text becomes a new lettering, a drawing becomes pieces"),
                       .run = [this] { paste(); }});
  commands_.add(menu, {.id = "edit.duplicate",
                       .words = tr("&Duplicate"),
                       .keys = {QKeySequence("Ctrl+D")},
                       .run = [this] { duplicate_selected(); },
                       .why_not = needs_selection()});
  commands_.add(menu, {.id = "edit.delete",
                       .words = tr("De&lete"),
                       .keys = {QKeySequence::Delete},
                       .run = [this] { delete_selected(); },
                       .why_not = needs_selection()});
  menu->addSeparator();
  commands_.add(
      menu,
      {.id = "edit.select-all",
       .words = tr("Select &all"),
       .keys = {QKeySequence::SelectAll},
       .run = [this] { select_all(); },
       .why_not =
           [this] { return session_.document().pieces.empty() ? tr("There is nothing on the sheet") : QString(); }});
  commands_.add(menu, {.id = "edit.select-nothing",
                       .words = tr("Select &nothing"),
                       .keys = {QKeySequence("Ctrl+Shift+A")},
                       .run = [this] { session_.select({}); },
                       .why_not = needs_selection()});
  menu->addSeparator();
  QMenu* tools = menu->addMenu(tr("T&ool"));
  const std::pair<const char*, QString> names[]{{"edit.tool.select", tr("&Select")},
                                                {"edit.tool.letters", tr("&Letters")},
                                                {"edit.tool.guide", tr("&Guide")},
                                                {"edit.tool.nodes", tr("&Nodes")}};
  for (int i = 0; i < 4; ++i)
    commands_.add(tools, {.id = names[i].first,
                          .words = names[i].second,
                          .keys = {QKeySequence(QString::number(i + 1))},
                          .run =
                              [this, i] {
                                canvas_->set_tool(static_cast<ToolKind>(i));
                                canvas_->setFocus();
                              },
                          .on = [this, i] { return canvas_->tool() == static_cast<ToolKind>(i); }});
  menu->addSeparator();
  commands_.add(menu, {.id = "edit.settings",
                       .words = tr("S&ettings"),
                       .keys = {QKeySequence("Ctrl+,")},
                       .tip = tr("How Frelm looks, and how much memory it may use"),
                       .run = [this] { show_settings(); }});
}

} // namespace frelm
