#include "app/window/find_page.h"
#include "app/window/help_page.h"
#include "app/window/history_page.h"
#include "app/window/keys_page.h"
#include "app/window/main_window.h"
#include "app/window/materials_page.h"
#include "app/window/settings_page.h"

#include <QApplication>

namespace frelm {

void MainWindow::fill_help_menu(QMenu* menu) {
  commands_.add(menu, {.id = "help.pages",
                       .words = tr("&Help pages"),
                       .keys = {QKeySequence::HelpContents},
                       .tip = tr("How whole jobs are done, and what each tool, card and panel is for"),
                       .run = [this] { show_help(); }});
  commands_.add(
      menu, {.id = "help.walk", .words = tr("First &walk"), .tip = tr("Six steps around the window"), .run = [this] {
               begin_walk();
             }});
  commands_.add(menu, {.id = "help.find",
                       .words = tr("&Find a command"),
                       .keys = {QKeySequence::Find},
                       .tip = tr("Type a word, see the command, its key and where it is"),
                       .run = [this] { show_page([this] { return new FindPage(commands_, canvas_); }); }});
  commands_.add(
      menu, {.id = "help.keys", .words = tr("&Keys and handles"), .keys = {QKeySequence("Shift+F1")}, .run = [this] {
               show_keys();
             }});
  commands_.add(menu, {.id = "help.about", .words = tr("&About Frelm"), .run = [this] { show_about(); }});
}

void MainWindow::show_help() {
  const char* tool = tool_row(canvas_->tool()).icon;
  const QString of_tool = *tool != '\0'                          ? QString(tool)
                          : canvas_->tool() == ToolKind::Backing ? "card-backing"
                                                                 : "tool-guide";
  show_page([this, about = help_about(QApplication::focusWidget(), of_tool)] { return new HelpPage(about, canvas_); });
}

void MainWindow::begin_walk() {
  close_page();
  if (walk_ != nullptr)
    walk_->deleteLater();
  settings_->setValue("walk/shown", true);
  walk_ =
      new Walk({{tr("Words first"),
                 tr("Type the words here and press Return, or begin with a badge or an example. Nothing is final: "
                    "letters stay letters until they leave as a file."),
                 [this] { return card_scroll_; }},
                {tr("The sheet"),
                 tr("This is the material, at true size. Drag letters by themselves, by their corners, or by the "
                    "amber bead that slides them along a guide. A second click goes further in."),
                 [this] { return canvas_; }},
                {tr("Tools"),
                 tr("Guide draws a line for letters to ride on; Measure says how far it is. Esc always leads back "
                    "to Select."),
                 [this] { return top_; }},
                {tr("Four cards, in order"),
                 tr("With a lettering selected: Letters, Bend, Spacing, Finish. What you change in one never undoes "
                    "what you did in another."),
                 [this] { return card_scroll_; }},
                {tr("The gaps, straightened out"),
                 tr("The Gap strip lays a bent run straight and shows each gap. Even gaps does most of the work; "
                    "drag a letter for the rest."),
                 [this] { return strip_; }},
                {tr("Ready to cut?"),
                 tr("The Cut check reads what the blade will get, all the time, and offers cures. F1 helps with "
                    "whatever you are at, Ctrl+F finds any command."),
                 [this] { return check_; }}},
               this);
}

void MainWindow::show_keys() {
  show_page([this] { return new KeysPage(commands_, canvas_); });
}

void MainWindow::show_settings() {
  show_page([this] {
    auto* page = new SettingsPage(session_, static_cast<int>(appearance_), canvas_);
    connect(page, &SettingsPage::changed, this, &MainWindow::set_preferences);
    connect(page, &SettingsPage::materials_wanted, this, &MainWindow::show_materials, Qt::QueuedConnection);
    connect(page, &SettingsPage::appearance_chosen, this,
            [this](int choice) { set_appearance(static_cast<Appearance>(choice)); });
    return page;
  });
}

void MainWindow::show_steps() {
  show_page([this] {
    auto* page = new HistoryPage(session_, canvas_);
    connect(page, &HistoryPage::told, this, [this](const QString& words) { bar_->tell(words); });
    return page;
  });
}

void MainWindow::show_materials() {
  show_page([this] {
    auto* page = new MaterialsPage(session_, *settings_, canvas_);
    connect(page, &MaterialsPage::told, this, [this](const QString& words) { bar_->tell(words); });
    return page;
  });
}

void MainWindow::close_page() {
  if (page_ != nullptr)
    page_->close();
}

// One at a time; the keyboard goes back to the canvas after it.
void MainWindow::show_page(const std::function<Page*()>& make) {
  close_page();
  page_ = make();
  connect(page_, &Page::closed, canvas_, qOverload<>(&QWidget::setFocus));
}

void MainWindow::show_about() {
  bar_->tell(tr("Frelm %1 — bent and spaced lettering for blade, laser and torch. Free software under the GNU GPL, "
                "version 3 or later. Faces under their own licences, in the faces folder.")
                 .arg(QApplication::applicationVersion()));
}

} // namespace frelm
