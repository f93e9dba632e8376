#include "app/window/main_window.h"

namespace frelm {

void MainWindow::fill_view_menu(QMenu* menu) {
  const std::pair<const char*, QString> views[]{
      {"view.ink", tr("&Ink")}, {"view.lines", tr("&Lines")}, {"view.knife", tr("&Knife")}};
  for (int i = 0; i < 3; ++i)
    commands_.add(menu, {.id = views[i].first,
                         .words = views[i].second,
                         .keys = {QKeySequence(Qt::Key_F7 + i)},
                         .run = [this, i] { canvas_->set_view(static_cast<View>(i)); },
                         .on = [this, i] { return canvas_->view() == static_cast<View>(i); }});
  menu->addSeparator();
  commands_.add(menu, {.id = "view.zoom-in", .words = tr("Zoom &in"), .keys = {QKeySequence("Ctrl++")}, .run = [this] {
                         canvas_->zoom_by(1.25, QRectF(canvas_->rect()).center());
                       }});
  commands_.add(menu,
                {.id = "view.zoom-out", .words = tr("Zoom &out"), .keys = {QKeySequence("Ctrl+-")}, .run = [this] {
                   canvas_->zoom_by(0.8, QRectF(canvas_->rect()).center());
                 }});
  commands_.add(menu,
                {.id = "view.sheet", .words = tr("Whole &sheet"), .keys = {QKeySequence("Ctrl+0")}, .run = [this] {
                   canvas_->zoom_to_sheet();
                 }});
  commands_.add(menu, {.id = "view.selection",
                       .words = tr("S&election"),
                       .keys = {QKeySequence("Ctrl+Shift+0")},
                       .tip = tr("As large as what is selected allows"),
                       .run =
                           [this] {
                             Box box;
                             for (const PieceId id : session_.selection())
                               if (const Result<PieceResult>& now = session_.seated(id); now)
                                 box.add(now->ink);
                             canvas_->zoom_to(box);
                           },
                       .why_not = needs_selection()});
  menu->addSeparator();
  const std::pair<const char*, QString> units[]{{"view.mm", tr("&Millimetres")}, {"view.inches", tr("I&nches")}};
  for (const Unit unit : {Unit::Millimetre, Unit::Inch})
    commands_.add(menu, {.id = units[static_cast<std::size_t>(unit)].first,
                         .words = units[static_cast<std::size_t>(unit)].second,
                         .run = [this, unit] { set_unit(unit); },
                         .on = [this, unit] { return session_.document().unit == unit; }});
  menu->addSeparator();
  commands_.add(menu, {.id = "view.to-strip",
                       .words = tr("To and from the &gap strip"),
                       .keys = {QKeySequence(Qt::Key_F6)},
                       .run = [this] { jump_to_strip(); }});
  commands_.add(menu, {.id = "view.fold-strip",
                       .words = tr("&Fold the gap strip"),
                       .keys = {QKeySequence("Shift+F6")},
                       .run = [this] { strip_->set_folded(!strip_->folded()); }});
  commands_.add(menu, {.id = "view.to-check",
                       .words = tr("To the &Cut check"),
                       .keys = {QKeySequence("Ctrl+Shift+J")},
                       .run = [this] { check_->list()->setFocus(); }});
  menu->addSeparator();
  QMenu* look = menu->addMenu(tr("&Appearance"));
  const std::pair<const char*, QString> looks[]{
      {"view.as-desktop", tr("As the &desktop")}, {"view.light", tr("&Light")}, {"view.dark", tr("D&ark")}};
  for (int i = 0; i < 3; ++i)
    commands_.add(look, {.id = looks[i].first,
                         .words = looks[i].second,
                         .run = [this, i] { set_appearance(static_cast<Appearance>(i)); },
                         .on = [this, i] { return appearance_ == static_cast<Appearance>(i); }});
}

} // namespace frelm
