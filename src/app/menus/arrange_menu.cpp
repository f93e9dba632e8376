#include "app/menus/arrange_menu.h"

#include "app/menus/place_menu.h"
#include "document/arrange.h"
#include "document/copies.h"

namespace frelm {
namespace {

void order_selected(Desk& desk, int where) {
  if (desk.session.selection().empty())
    return;
  Document d = desk.session.document();
  const PieceId id = desk.session.selection().front();
  const std::size_t at = d.index_of(id), last = d.pieces.size() - 1;
  const std::size_t to = where == 2    ? last
                         : where == 1  ? std::min(at + 1, last)
                         : where == -1 ? (at > 0 ? at - 1 : 0)
                                       : 0;
  if (to != at)
    desk.session.apply(Desk::tr("Change order"), reorder_piece(std::move(d), id, to));
}

void toggle_lock(Desk& desk) {
  const Piece* piece = desk.session.selected();
  if (piece == nullptr)
    return;
  const bool on = !piece->locked;
  desk.session.edit(on ? Desk::tr("Lock piece") : Desk::tr("Unlock piece"), piece->id,
                    [&](Piece& p) { p.locked = on; });
}

void centre_on_sheet(Desk& desk) {
  if (const Box ink = desk.session.selection_ink(); !ink.empty())
    desk.session.apply(Desk::tr("Centre on sheet"), move_pieces(desk.session.document(), desk.session.selection(),
                                                                desk.sheet_centre() - ink.centre()));
}

void park(Desk& desk) {
  Result<Copied> made = parked(desk.session.document(), desk.session.selection(), desk.session.evaluator());
  if (!made) {
    desk.report(made.error());
    return;
  }
  desk.session.apply(Desk::tr("Put a copy aside"), std::move(made->document));
  desk.bar.tell(Desk::tr("A copy stands beside the sheet, on the right; it is not cut"));
}

QString needs_outlines(const Desk& desk) {
  const std::vector<PieceId>& ids = desk.session.selection();
  const auto outline = [&](PieceId id) { return desk.session.document().find(id)->outline() != nullptr; };
  return ids.empty()                                    ? Desk::tr("Select an outline first")
         : std::all_of(ids.begin(), ids.end(), outline) ? QString()
                                                        : Desk::tr("Letterings are mirrored by their Finish");
}

void add_turns(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto turn = [&](const char* id, const QString& words, double degrees) {
    commands.add(menu, {.id = id,
                        .words = words,
                        .run = [&desk, degrees] { turn_selected(desk, degrees); },
                        .why_not = desk.needs_selection()});
  };
  turn("arrange.turn-right", Desk::tr("A quarter &clockwise"), 90);
  turn("arrange.turn-left", Desk::tr("A quarter c&ounter-clockwise"), -90);
  turn("arrange.turn-over", Desk::tr("By &half"), 180);
  const auto mirror = [&](const char* id, const QString& words, MirrorWay way) {
    commands.add(menu, {.id = id,
                        .words = words,
                        .run =
                            [&desk, words, way] {
                              const Session& s = desk.session;
                              desk.session.apply(
                                  QString(words).remove('&'),
                                  mirror_outlines(s.document(), s.selection(), s.selection_ink().centre(), way));
                            },
                        .why_not = [&desk] { return needs_outlines(desk); }});
  };
  mirror("arrange.mirror-across", Desk::tr("Mirror &left for right"), MirrorWay::Across);
  mirror("arrange.mirror-down", Desk::tr("Mirror &upside down"), MirrorWay::Down);
}

// The pieces that are selected now get the colour of what is clicked next.
void pick_up_colour(Desk& desk) {
  desk.bar.tell(Desk::tr("Click a piece or a layer; what is selected gets its colour. Esc leaves it"));
  desk.session.pick_colour([&desk, ids = desk.session.selection()](Colour c) {
    Document now = desk.session.document();
    for (const PieceId id : ids)
      if (now.find(id) != nullptr)
        now = edit_piece(std::move(now), id, [&](Piece& p) { p.colour = c; });
    desk.session.apply(Desk::tr("Change colour"), std::move(now));
  });
}

} // namespace

void turn_selected(Desk& desk, double degrees) {
  const Box ink = desk.session.selection_ink();
  if (ink.empty())
    return;
  Document turned = turn_pieces(desk.session.document(), desk.session.selection(), ink.centre(), degrees);
  if (turned == desk.session.document())
    desk.bar.tell(Desk::tr("What is selected, or the guide that it rides on, is locked; Arrange → Lock lets it be "
                           "moved again"));
  else
    desk.session.apply(Desk::tr("Turn"), std::move(turned));
}

void fill_arrange_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto order = [&](const char* id, const QString& words, const char* key, int where) {
    commands.add(menu, {.id = id,
                        .words = words,
                        .keys = {QKeySequence(key)},
                        .run = [&desk, where] { order_selected(desk, where); },
                        .why_not = desk.needs_selection()});
  };
  order("arrange.front", Desk::tr("To &front"), "Ctrl+Shift+PgUp", 2);
  order("arrange.forward", Desk::tr("For&ward"), "Ctrl+PgUp", 1);
  order("arrange.backward", Desk::tr("&Backward"), "Ctrl+PgDown", -1);
  order("arrange.back", Desk::tr("To bac&k"), "Ctrl+Shift+PgDown", -2);
  menu->addSeparator();
  commands.add(menu, {.id = "arrange.centre",
                      .words = Desk::tr("&Centre on sheet"),
                      .keys = {QKeySequence("Ctrl+Shift+C")},
                      .run = [&desk] { centre_on_sheet(desk); },
                      .why_not = desk.needs_selection()});
  fill_place_menu(commands, menu->addMenu(Desk::tr("&Place")), desk);
  commands.add(menu, {.id = "arrange.copies",
                      .words = Desk::tr("Cop&ies…"),
                      .keys = {QKeySequence("Ctrl+Shift+D")},
                      .tip = Desk::tr("By a step, in rows and columns, around a middle"),
                      .run = [&desk] { desk.show_copies(); },
                      .why_not = desk.needs_selection()});
  commands.add(menu, {.id = "arrange.park",
                      .words = Desk::tr("Put a cop&y aside"),
                      .keys = {QKeySequence("P")},
                      .tip = Desk::tr("As it is now, beside the sheet; it is not cut"),
                      .run = [&desk] { park(desk); },
                      .why_not = desk.needs_selection()});
  add_turns(commands, menu->addMenu(Desk::tr("&Turn and mirror")), desk);
  menu->addSeparator();
  commands.add(
      menu,
      {.id = "arrange.lock",
       .words = Desk::tr("&Lock"),
       .keys = {QKeySequence("Ctrl+K")},
       .tip = Desk::tr("What is locked can't be moved or changed by hand"),
       .run = [&desk] { toggle_lock(desk); },
       .why_not = [&desk] { return desk.session.selected() != nullptr ? QString() : Desk::tr("Select one piece"); },
       .on = [&desk] { return desk.session.selected() != nullptr && desk.session.selected()->locked; }});
  menu->addSeparator();
  commands.add(menu, {.id = "arrange.colour-as",
                      .words = Desk::tr("Colour as another &piece"),
                      .keys = {QKeySequence("C")},
                      .tip = Desk::tr("The next click takes up the colour of what lies there"),
                      .run = [&desk] { pick_up_colour(desk); },
                      .why_not = desk.needs_selection()});
  commands.add(menu, {.id = "arrange.materials",
                      .words = Desk::tr("&Materials…"),
                      .tip = Desk::tr("The sheets and rolls that the colours stand for"),
                      .run = [&desk] { desk.show_materials(); }});
}

} // namespace frelm
