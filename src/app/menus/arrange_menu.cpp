#include "app/menus/arrange_menu.h"

#include "document/sheet_marks.h"

#include "app/menus/place_menu.h"
#include "document/copies.h"
#include "document/links.h"
#include "document/piece_groups.h"
#include "document/ruler_lines.h"

namespace frelm {
namespace {

bool all_locked(const Desk& desk) {
  const std::vector<PieceId>& ids = desk.session.selection();
  return !ids.empty() &&
         std::all_of(ids.begin(), ids.end(), [&](PieceId id) { return desk.session.document().find(id)->locked; });
}

void toggle_lock(Desk& desk) {
  Document d = desk.session.document();
  const bool on = !all_locked(desk);
  for (const PieceId id : desk.session.selection())
    d = edit_piece(std::move(d), id, [&](Piece& p) { p.locked = on; });
  const bool one = desk.session.selection().size() == 1;
  desk.session.apply(on ? (one ? Desk::tr("Lock piece") : Desk::tr("Lock pieces"))
                        : (one ? Desk::tr("Unlock piece") : Desk::tr("Unlock pieces")),
                     std::move(d));
}

void group_selected(Desk& desk) {
  Result<Grouped> made = grouped(desk.session.document(), desk.session.selection());
  if (!made) {
    desk.report(made.error());
    return;
  }
  std::vector<PieceId> members = members_of(made->document, made->group, Members::Reached);
  desk.session.apply(Desk::tr("Group"), std::move(made->document), std::move(members));
}

void ungroup_selected(Desk& desk) {
  Result<Document> made = ungrouped(desk.session.document(), desk.session.selection());
  if (made)
    desk.session.apply(Desk::tr("Ungroup"), std::move(*made));
  else
    desk.report(made.error());
}

// What a hand or a command last did, once more; with a copy it is the copy that moves on.
void do_again(Desk& desk, bool with_copy) {
  const Session& s = desk.session;
  const Change change = *s.last_change();
  const Box ink = s.selection_ink();
  Copied made{s.document(), s.selection()};
  if (with_copy)
    made = copied_and_changed(s.document(), s.selection(), change, ink);
  else
    made.document = changed(s.document(), s.selection(), change, ink);
  if (made.document == s.document())
    desk.bar.tell(Desk::tr("That changes nothing here: what is selected is locked, or can't be changed so"));
  else
    desk.session.apply(with_copy ? Desk::tr("Again with a copy") : Desk::tr("Again"), std::move(made.document),
                       std::move(made.ids));
}

void add_again(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto why_not = [&desk] {
    return desk.session.selection().empty() ? Desk::tr("Select a piece first")
           : desk.session.last_change()     ? QString()
                                            : Desk::tr("Move, turn or size something first");
  };
  commands.add(menu, {.id = "arrange.again",
                      .words = Desk::tr("&Again"),
                      .keys = {QKeySequence("R")},
                      .tip = Desk::tr("Moves, turns or sizes what is selected as the last time"),
                      .run = [&desk] { do_again(desk, false); },
                      .why_not = why_not});
  commands.add(menu, {.id = "arrange.again-copy",
                      .words = Desk::tr("Again with a c&opy"),
                      .keys = {QKeySequence("Shift+R")},
                      .tip = Desk::tr("A copy moves, turns or grows on by the same; again and again for a row of them"),
                      .run = [&desk] { do_again(desk, true); },
                      .why_not = why_not});
}

void add_links(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto none_linked = [&desk] {
    const std::vector<PieceId>& ids = desk.session.selection();
    const bool any = std::any_of(ids.begin(), ids.end(),
                                 [&](PieceId id) { return desk.session.document().find(id)->link.has_value(); });
    return any ? QString() : Desk::tr("Select a linked copy first; Copies… makes them");
  };
  commands.add(menu,
               {.id = "arrange.select-linked",
                .words = Desk::tr("&Select its linked copies"),
                .run = [&desk] { desk.session.select(linked_with(desk.session.document(), desk.session.selection())); },
                .why_not = none_linked});
  commands.add(menu, {.id = "arrange.free-linked",
                      .words = Desk::tr("Fr&ee from its copies"),
                      .tip = Desk::tr("It stays as it is, and no longer follows the others, nor they it"),
                      .run =
                          [&desk] {
                            desk.session.apply(Desk::tr("Free linked copy"),
                                               freed_links(desk.session.document(), desk.session.selection()));
                          },
                      .why_not = none_linked});
}

void add_groups(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto units = [&desk] { return units_of(desk.session.document(), desk.session.selection()); };
  commands.add(menu,
               {.id = "arrange.group",
                .words = Desk::tr("&Group"),
                .keys = {QKeySequence("Ctrl+G")},
                .tip = Desk::tr("What is selected is handled as one; a second click goes inside"),
                .run = [&desk] { group_selected(desk); },
                .why_not = [units] { return units().size() > 1 ? QString() : Desk::tr("Select two pieces or more"); }});
  commands.add(menu, {.id = "arrange.ungroup",
                      .words = Desk::tr("U&ngroup"),
                      .keys = {QKeySequence("Ctrl+Shift+G")},
                      .run = [&desk] { ungroup_selected(desk); },
                      .why_not =
                          [units] {
                            const std::vector<PieceUnit> all = units();
                            const bool any =
                                std::any_of(all.begin(), all.end(), [](const PieceUnit& u) { return u.group != 0; });
                            return any ? QString() : Desk::tr("Select a group first");
                          }});
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
                              Change change;
                              change.mirror = way;
                              desk.session.set_last_change(change);
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

void add_ruler_lines(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto add = [&](const char* id, const QString& words, double angle) {
    commands.add(
        menu,
        {.id = id,
         .words = words,
         .tip = Desk::tr("Through the middle of what is selected, else of the sheet; it can also be "
                         "dragged out of the ruler"),
         .run = [&desk, angle] {
           const Box ink = desk.session.selection_ink();
           const Point at = ink.empty() ? desk.sheet_centre() : ink.centre();
           desk.session.apply(Desk::tr("Add ruler line"), add_ruler_line(desk.session.document(), {at, angle, false}));
         }});
  };
  add("arrange.ruler-line-level", Desk::tr("Add a &level one"), 0);
  add("arrange.ruler-line-upright", Desk::tr("Add an &upright one"), 90);
  const auto none = [&desk] {
    return desk.session.document().ruler_lines.empty() ? Desk::tr("There are no ruler lines") : QString();
  };
  const auto locked = [&desk] {
    const auto& lines = desk.session.document().ruler_lines;
    return !lines.empty() && std::all_of(lines.begin(), lines.end(), [](const RulerLine& l) { return l.locked; });
  };
  commands.add(menu, {.id = "arrange.ruler-lines-lock",
                      .words = Desk::tr("L&ock all"),
                      .run =
                          [&desk, locked] {
                            Document d = desk.session.document();
                            const bool on = !locked();
                            for (RulerLine& l : d.ruler_lines)
                              l.locked = on;
                            desk.session.apply(on ? Desk::tr("Lock ruler lines") : Desk::tr("Unlock ruler lines"),
                                               std::move(d));
                          },
                      .why_not = none,
                      .on = locked});
  commands.add(menu, {.id = "arrange.ruler-lines-remove",
                      .words = Desk::tr("&Remove all"),
                      .run =
                          [&desk] {
                            Document d = desk.session.document();
                            d.ruler_lines.clear();
                            desk.session.apply(Desk::tr("Remove ruler lines"), std::move(d));
                          },
                      .why_not = none});
}

// Of the selection, or of all.
void mark(Desk& desk, const QString& step,
          Result<Marked> (*make)(const Document&, const std::vector<PieceId>&, const DocumentEvaluator&,
                                 const std::stop_token&)) {
  std::vector<PieceId> ids = desk.session.selection();
  if (ids.empty())
    for (const auto& p : desk.session.document().pieces)
      ids.push_back(p->id);
  desk.start_step(
      step, step,
      [&desk, ids, make, document = desk.session.document()](const std::stop_token& stop) -> Result<Document> {
        const Result<Marked> made = make(document, ids, desk.session.evaluator(), stop);
        if (!made)
          return made.error();
        return made->document;
      },
      Desk::tr("The job was changed meanwhile, so nothing was added; try again"));
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
  else {
    desk.session.apply(Desk::tr("Turn"), std::move(turned));
    Change change;
    change.turn = degrees;
    desk.session.set_last_change(change);
  }
}

void fill_arrange_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto order = [&](const char* id, const QString& words, const char* key, Stacking where) {
    commands.add(menu, {.id = id,
                        .words = words,
                        .keys = {QKeySequence(key)},
                        .run =
                            [&desk, where] {
                              Document d = stacked(desk.session.document(), desk.session.selection(), where);
                              if (d.pieces != desk.session.document().pieces)
                                desk.session.apply(Desk::tr("Change order"), std::move(d));
                            },
                        .why_not = desk.needs_selection()});
  };
  order("arrange.front", Desk::tr("To &front"), "Ctrl+Shift+PgUp", Stacking::Front);
  order("arrange.forward", Desk::tr("For&ward"), "Ctrl+PgUp", Stacking::Forward);
  order("arrange.backward", Desk::tr("&Backward"), "Ctrl+PgDown", Stacking::Backward);
  order("arrange.back", Desk::tr("To bac&k"), "Ctrl+Shift+PgDown", Stacking::Back);
  menu->addSeparator();
  add_groups(commands, menu, desk);
  menu->addSeparator();
  commands.add(menu, {.id = "arrange.centre",
                      .words = Desk::tr("&Centre on sheet"),
                      .keys = {QKeySequence("Ctrl+Shift+C")},
                      .run = [&desk] { centre_on_sheet(desk); },
                      .why_not = desk.needs_selection()});
  fill_place_menu(commands, menu->addMenu(Desk::tr("&Place")), desk);
  commands.add(menu,
               {.id = "arrange.copies",
                .words = Desk::tr("Cop&ies…"),
                .keys = {QKeySequence("Ctrl+Shift+D")},
                .tip = Desk::tr("By a step, in rows and columns, around a middle, along a line, nested on the sheet"),
                .run = [&desk] { desk.show_copies(); },
                .why_not = desk.needs_selection()});
  commands.add(menu, {.id = "arrange.park",
                      .words = Desk::tr("Put a cop&y aside"),
                      .keys = {QKeySequence("P")},
                      .tip = Desk::tr("As it is now, beside the sheet; it is not cut"),
                      .run = [&desk] { park(desk); },
                      .why_not = desk.needs_selection()});
  QMenu* weeding = menu->addMenu(Desk::tr("Wee&ding and marks"));
  using Mark = Result<Marked> (*)(const Document&, const std::vector<PieceId>&, const DocumentEvaluator&,
                                  const std::stop_token&);
  struct MarkRow {
    const char* id;
    QString words, tip, step;
    Mark make;
  };
  const MarkRow marks[]{
      {"arrange.weeding-box", Desk::tr("Weeding &box"), Desk::tr("Around the selection, or all, a box a material"),
       Desk::tr("Weeding box"),
       [](const Document& d, const std::vector<PieceId>& ids, const DocumentEvaluator& e, const std::stop_token& stop) {
         return with_weeding_box(d, ids, e, usual_weeding_margin, stop);
       }},
      {"arrange.weeding-lines", Desk::tr("Weeding &lines"),
       Desk::tr("Between lines of letters, never through one; within a weeding box from side to side"),
       Desk::tr("Weeding lines"),
       [](const Document& d, const std::vector<PieceId>& ids, const DocumentEvaluator& e, const std::stop_token& stop) {
         return with_weeding_lines(d, ids, e, least_weeding_room, stop);
       }},
      {"arrange.register-marks", Desk::tr("&Register marks"),
       Desk::tr("Four crosses, at the same places in every material"), Desk::tr("Register marks"),
       [](const Document& d, const std::vector<PieceId>& ids, const DocumentEvaluator& e, const std::stop_token& stop) {
         return with_register_marks(d, ids, e, usual_mark_size, usual_mark_distance, stop);
       }}};
  for (const MarkRow& row : marks)
    commands.add(weeding, {.id = row.id,
                           .words = row.words,
                           .tip = row.tip,
                           .run = [&desk, step = row.step, make = row.make] { mark(desk, step, make); },
                           .why_not =
                               [&desk] {
                                 return desk.session.document().pieces.empty()
                                            ? Desk::tr("There is nothing on the sheet")
                                            : QString();
                               }});
  add_links(commands, menu, desk);
  add_again(commands, menu, desk);
  add_turns(commands, menu->addMenu(Desk::tr("&Turn and mirror")), desk);
  add_ruler_lines(commands, menu->addMenu(Desk::tr("&Ruler lines")), desk);
  menu->addSeparator();
  commands.add(menu, {.id = "arrange.lock",
                      .words = Desk::tr("&Lock"),
                      .keys = {QKeySequence("Ctrl+K")},
                      .tip = Desk::tr("What is locked can't be moved or changed by hand"),
                      .run = [&desk] { toggle_lock(desk); },
                      .why_not = desk.needs_selection(),
                      .on = [&desk] { return all_locked(desk); }});
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
