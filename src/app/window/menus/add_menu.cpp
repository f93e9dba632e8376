#include "app/window/main_window.h"

namespace frelm {

void MainWindow::fill_add_menu(QMenu* menu) {
  commands_.add(menu, {.id = "add.lettering",
                       .words = tr("&Lettering"),
                       .keys = {QKeySequence("Ctrl+L")},
                       .tip = tr("Words set straight, to be bent later"),
                       .run = [this] { add_lettering(); }});
  commands_.add(menu, {.id = "add.badge",
                       .words = tr("Ba&dge"),
                       .tip = tr("A circle with words over it, under it and in the middle"),
                       .run = [this] { add_badge(); }});
  commands_.add(menu, {.id = "add.spiral",
                       .words = tr("&Text on a spiral"),
                       .tip = tr("The text that was copied last, or the selected lettering"),
                       .run = [this] { add_spiral_text(); }});
  menu->addSeparator();
  commands_.add(menu,
                {.id = "add.circle", .words = tr("&Circle guide"), .keys = {QKeySequence("Ctrl+G")}, .run = [this] {
                   add_guide(0);
                 }});
  QMenu* guides = menu->addMenu(tr("&Guide"));
  for (std::size_t kind = 1; kind < std::variant_size_v<GuideShape>; ++kind)
    commands_.add(guides, {.id = QString("add.guide.%1").arg(kind),
                           .words = guide_kind_name(kind),
                           .run = [this, kind] { add_guide(kind); }});
}

} // namespace frelm
