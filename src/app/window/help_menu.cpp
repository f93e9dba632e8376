#include "app/window/find_page.h"
#include "app/window/history_page.h"
#include "app/window/keys_page.h"
#include "app/window/main_window.h"
#include "app/window/materials_page.h"
#include "app/window/settings_page.h"

#include <QApplication>

namespace frelm {

void MainWindow::fill_help_menu(QMenu* menu) {
  commands_.add(menu, {.id = "help.find",
                       .words = tr("&Find a command"),
                       .keys = {QKeySequence::Find},
                       .tip = tr("Type a word, see the command, its key and where it is"),
                       .run = [this] { show_page([this] { return new FindPage(commands_, canvas_); }); }});
  commands_.add(
      menu, {.id = "help.keys", .words = tr("&Keys and handles"), .keys = {QKeySequence::HelpContents}, .run = [this] {
               show_keys();
             }});
  commands_.add(menu, {.id = "help.about", .words = tr("&About Frelm"), .run = [this] { show_about(); }});
}

void MainWindow::show_keys() {
  show_page([this] { return new KeysPage(commands_, canvas_); });
}

void MainWindow::show_settings() {
  show_page([this] {
    auto* page = new SettingsPage(session_, *settings_, static_cast<int>(appearance_), canvas_);
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
