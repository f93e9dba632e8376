#include "app/menus/view_menu.h"

namespace frelm {
namespace {

void jump_to_strip(Desk& desk) {
  if (desk.strip.view()->hasFocus()) {
    desk.canvas.setFocus();
    return;
  }
  desk.fold_strip(false);
  desk.strip.view()->setFocus();
}

} // namespace

void set_unit(Desk& desk, Unit unit) {
  if (unit == desk.session.document().unit)
    return;
  Document d = desk.session.document();
  d.unit = unit;
  desk.session.apply(unit == Unit::Inch ? Desk::tr("Show inches") : Desk::tr("Show millimetres"), std::move(d));
}

void fill_view_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  const std::pair<const char*, QString> views[]{{"view.ink", Desk::tr("&Ink")},
                                                {"view.lines", Desk::tr("&Lines")},
                                                {"view.knife", Desk::tr("&Knife")},
                                                {"view.names", Desk::tr("Na&mes")}};
  for (int i = 0; i < 4; ++i)
    commands.add(menu, {.id = views[i].first,
                        .words = views[i].second,
                        .keys = {i < 3 ? QKeySequence(Qt::Key_F7 + i) : QKeySequence("Shift+F9")},
                        .run = [&desk, i] { desk.canvas.set_view(static_cast<View>(i)); },
                        .on = [&desk, i] { return desk.canvas.view() == static_cast<View>(i); }});
  menu->addSeparator();
  commands.add(menu,
               {.id = "view.zoom-in", .words = Desk::tr("Zoom &in"), .keys = {QKeySequence("Ctrl++")}, .run = [&desk] {
                  desk.canvas.zoom_by(1.25, QRectF(desk.canvas.rect()).center());
                }});
  commands.add(
      menu, {.id = "view.zoom-out", .words = Desk::tr("Zoom &out"), .keys = {QKeySequence("Ctrl+-")}, .run = [&desk] {
               desk.canvas.zoom_by(0.8, QRectF(desk.canvas.rect()).center());
             }});
  commands.add(menu, {.id = "view.sheet",
                      .words = Desk::tr("&Whole sheet"),
                      .keys = {QKeySequence("W"), QKeySequence("Ctrl+0")},
                      .run = [&desk] { desk.canvas.zoom_to_sheet(); }});
  commands.add(menu, {.id = "view.drawing",
                      .words = Desk::tr("&Drawing"),
                      .keys = {QKeySequence("D")},
                      .tip = Desk::tr("As large as all that is drawn allows"),
                      .run = [&desk] { desk.canvas.zoom_to_drawing(); },
                      .why_not =
                          [&desk] {
                            return desk.session.document().pieces.empty() ? Desk::tr("There is nothing on the sheet")
                                                                          : QString();
                          }});
  commands.add(menu, {.id = "view.selection",
                      .words = Desk::tr("S&election"),
                      .keys = {QKeySequence("S"), QKeySequence("Ctrl+Shift+0")},
                      .tip = Desk::tr("As large as what is selected allows"),
                      .run =
                          [&desk] {
                            Box box;
                            for (const PieceId id : desk.session.selection())
                              box.add(desk.session.drawn_box(id));
                            desk.canvas.zoom_to(box);
                          },
                      .why_not = desk.needs_selection()});
  menu->addSeparator();
  const std::pair<const char*, QString> units[]{{"view.mm", Desk::tr("&Millimetres")},
                                                {"view.inches", Desk::tr("I&nches")}};
  for (const Unit unit : {Unit::Millimetre, Unit::Inch})
    commands.add(menu, {.id = units[static_cast<std::size_t>(unit)].first,
                        .words = units[static_cast<std::size_t>(unit)].second,
                        .run = [&desk, unit] { set_unit(desk, unit); },
                        .on = [&desk, unit] { return desk.session.document().unit == unit; }});
  menu->addSeparator();
  const auto needs_strip = desk.needs_lettering([](const Lettering& l) {
    return l.recipe.letters() != nullptr ? QString() : Desk::tr("There are no gaps in outlines bent as one");
  });
  commands.add(menu, {.id = "view.to-strip",
                      .words = Desk::tr("To and from the &gap strip"),
                      .keys = {QKeySequence(Qt::Key_F6)},
                      .run = [&desk] { jump_to_strip(desk); },
                      .why_not = needs_strip});
  commands.add(menu, {.id = "view.fold-strip",
                      .words = Desk::tr("&Fold the gap strip"),
                      .keys = {QKeySequence("Shift+F6")},
                      .run = [&desk] { desk.fold_strip(!desk.strip.folded()); },
                      .why_not = needs_strip,
                      .on = [&desk] { return desk.strip.folded(); }});
  commands.add(menu, {.id = "view.to-check",
                      .words = Desk::tr("To the &Cut check"),
                      .keys = {QKeySequence("Ctrl+Shift+J")},
                      .run = [&desk] {
                        desk.show_check();
                        desk.check.list()->setFocus();
                      }});
  menu->addSeparator();
  QMenu* look = menu->addMenu(Desk::tr("&Appearance"));
  const std::pair<const char*, QString> looks[]{{"view.as-desktop", Desk::tr("As the &desktop")},
                                                {"view.light", Desk::tr("&Light")},
                                                {"view.dark", Desk::tr("D&ark")}};
  for (int i = 0; i < 3; ++i)
    commands.add(look, {.id = looks[i].first,
                        .words = looks[i].second,
                        .run = [&desk, i] { desk.set_appearance(static_cast<Appearance>(i)); },
                        .on = [&desk, i] { return desk.appearance() == static_cast<Appearance>(i); }});
}

} // namespace frelm
