#include "app/menus/lettering_menu.h"
#include "app/style/words.h"

#include "document/blocks.h"
#include "document/face_axes.h"
#include "document/level.h"
#include "document/on_lines.h"

namespace frelm {
namespace {

std::optional<LetteringWithLines> with_lines(const Desk& desk) {
  return lettering_with_lines(desk.session.document(), desk.session.selection(), desk.session.evaluator());
}

// The letters lie on the line, or between the lines, that are selected with them.
void apply_bend(Desk& desk, const QString& name, PieceId lettering, Result<Document> done) {
  if (!done) {
    desk.report(done.error());
    return;
  }
  desk.session.apply(name, std::move(*done), std::vector<PieceId>{lettering});
  desk.open_card(desk.bend);
}

void ride_on_it(Desk& desk) {
  const auto chosen = with_lines(desk);
  if (!chosen)
    return;
  const PieceId line = chosen->open.empty() ? chosen->closed.front() : chosen->open.front();
  const Result<PieceResult>& now = desk.session.seated(chosen->lettering);
  apply_bend(desk, Desk::tr("Ride on a guide"), chosen->lettering,
             ridden(desk.session.document(), chosen->lettering, line, desk.session.evaluator(),
                    now ? std::optional(now->ink.centre()) : std::nullopt));
}

void set_between_these(Desk& desk) {
  const auto chosen = with_lines(desk);
  if (chosen && chosen->open.size() == 2)
    apply_bend(desk, Desk::tr("Bend between rails"), chosen->lettering,
               set_between(desk.session.document(), chosen->lettering, chosen->open[0], chosen->open[1],
                           desk.session.evaluator()));
}

void fill_it(Desk& desk) {
  if (const auto chosen = with_lines(desk); chosen && chosen->closed.size() == 1)
    apply_bend(desk, Desk::tr("Fill a shape"), chosen->lettering,
               set_into(desk.session.document(), chosen->lettering, chosen->closed.front(), desk.session.evaluator()));
}

// Commands for a lettering and the lines selected with it.
void add_line_commands(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto needs = [&desk](std::size_t open, std::size_t closed, const QString& reason) {
    return [&desk, open, closed, reason] {
      const auto chosen = with_lines(desk);
      const bool fits = chosen && (open == 1 ? chosen->open.size() + chosen->closed.size() == 1
                                             : chosen->open.size() == open && chosen->closed.size() == closed);
      return fits ? QString() : reason;
    };
  };
  commands.add(menu, {.id = "lettering.ride-on-it",
                      .words = Desk::tr("R&ide on it"),
                      .tip = Desk::tr("On the guide or outline that is selected with the lettering"),
                      .run = [&desk] { ride_on_it(desk); },
                      .why_not = needs(1, 0, Desk::tr("Select a lettering and one line"))});
  commands.add(menu, {.id = "lettering.between-these",
                      .words = Desk::tr("Bet&ween these"),
                      .tip = Desk::tr("Between the two open lines that are selected with the lettering"),
                      .run = [&desk] { set_between_these(desk); },
                      .why_not = needs(2, 0, Desk::tr("Select a lettering and two open lines"))});
  commands.add(menu, {.id = "lettering.fill-it",
                      .words = Desk::tr("Fi&ll it"),
                      .tip = Desk::tr("The closed shape that is selected with the lettering"),
                      .run = [&desk] { fill_it(desk); },
                      .why_not = needs(0, 1, Desk::tr("Select a lettering and one closed shape"))});
}

// The selected outline, or the first of several that came from one release; nothing where none did.
const Piece* reopenable(const Desk& desk) {
  const Piece* first = nullptr;
  for (const PieceId id : desk.session.selection()) {
    const Piece* piece = desk.session.document().find(id);
    const OutlinePiece* outline = piece != nullptr ? piece->outline() : nullptr;
    if (outline == nullptr || outline->origin == nullptr ||
        (first != nullptr && first->outline()->origin->release != outline->origin->release))
      return nullptr;
    first = first == nullptr ? piece : first;
  }
  return first;
}

// Are at least two such pieces selected?
bool two_of(const Desk& desk, const std::function<bool(const Piece&)>& such) {
  std::size_t count = 0; // more are not counted
  for (const PieceId id : desk.session.selection())
    if (const Piece* p = desk.session.document().find(id); p != nullptr && such(*p) && ++count > 1)
      return true;
  return false;
}

} // namespace

void bend_selected_together(Desk& desk) {
  Result<Together> together = bend_together(desk.session.document(), desk.session.selection(), BendKind::Rails);
  if (!together) {
    desk.report(together.error());
    return;
  }
  desk.session.apply(Desk::tr("Bend together"), std::move(together->document), std::vector<PieceId>{together->id});
  desk.open_card(desk.bend);
}

void finish_selected_together(Desk& desk) {
  Result<Together> together = finish_together(desk.session.document(), desk.session.selection());
  if (!together)
    return desk.report(together.error());
  desk.session.apply(Desk::tr("Finish together"), std::move(together->document), std::vector<PieceId>{together->id});
  desk.open_card(desk.finish);
}

void take_selected_apart(Desk& desk) {
  Result<TakenApart> parts = take_apart(desk.session.document(), desk.session.selected()->id);
  if (!parts)
    return desk.report(parts.error());
  desk.session.apply(Desk::tr("Take apart"), std::move(parts->document), parts->pieces);
}

void letter_on(Desk& desk, PieceId line, const QString& words) {
  Document document = desk.session.document();
  Added added =
      add_piece(document, new_lettering(desk.session.preferences(), document, u32(words), desk.sheet_centre()));
  Result<Document> riding = ridden(added.document, added.id, line, desk.session.evaluator());
  apply_bend(desk, Desk::tr("Add lettering"), added.id, std::move(riding));
}

void level_selected(Desk& desk) {
  const Piece* piece = desk.session.selected();
  if (piece == nullptr)
    return;
  desk.start_step(
      Desk::tr("Leveling"), Desk::tr("Level"),
      [&desk, document = desk.session.document(), id = piece->id](std::stop_token stop) {
        return leveled(document, id, desk.session.evaluator(), stop);
      },
      Desk::tr("The job was changed meanwhile, so nothing was leveled; try again"));
}

void fit_by_face_width(Desk& desk, std::optional<double> mm) {
  const Piece* piece = desk.session.selected();
  if (piece == nullptr)
    return;
  const Result<PieceResult>& now = desk.session.seated(piece->id);
  if (!now || now->seated == nullptr)
    return;
  const double length = mm.value_or(now->seated->guide_length);
  desk.start_task<WidthFit>(
      Desk::tr("Fitting"),
      [&desk, document = desk.session.document(), id = piece->id, length](std::stop_token stop) {
        return fit_by_width(document, id, length, desk.session.evaluator(), stop);
      },
      [&desk](Result<WidthFit> fit) {
        if (!fit) {
          desk.report(fit.error());
          return;
        }
        constexpr double told = 0.05; // mm
        const Unit unit = desk.session.document().unit;
        desk.session.apply(Desk::tr("Fit by the face's width"), std::move(fit->document));
        if (!fit->at_end || std::abs(fit->rest_mm) < told)
          return;
        const QString rest = QString::fromStdString(format_length(std::abs(fit->rest_mm), unit));
        const QString by = fit->rest == RestBy::Size ? Desk::tr("letter size") : Desk::tr("letter spacing");
        desk.bar.tell(Desk::tr("The face's width ends at %1; the %2 %3 that were left are made up by %4.")
                          .arg(fit->width)
                          .arg(rest, unit_name(unit), by));
      },
      Desk::tr("The job was changed meanwhile, so nothing was fitted; try again"));
}

// One after another, as one step.
void release_pieces(Desk& desk, const std::vector<PieceId>& ids, ReleaseAs as, GuideAfter guide) {
  if (ids.empty())
    return;
  desk.keep_now();
  desk.start_task<Released>(
      Desk::tr("Releasing"),
      [&desk, document = desk.session.document(), ids, as, guide](std::stop_token stop) -> Result<Released> {
        Released all{document, {}, false};
        for (const PieceId id : ids) {
          Result<Released> one = release(all.document, id, desk.session.evaluator(), as, guide, stop);
          if (!one)
            return one.error();
          all.document = std::move(one->document);
          all.pieces.insert(all.pieces.end(), one->pieces.begin(), one->pieces.end());
        }
        return all;
      },
      [&desk](Result<Released> released) {
        if (released)
          desk.session.apply(Desk::tr("Release"), std::move(released->document), released->pieces);
        else
          desk.report(released.error());
      },
      Desk::tr("The job was changed meanwhile, so nothing was released; release again"));
}

void release_selected(Desk& desk, ReleaseAs as, GuideAfter guide) {
  std::vector<PieceId> ids;
  for (const PieceId id : desk.session.selection())
    if (const Piece* piece = desk.session.document().find(id); piece != nullptr && piece->lettering() != nullptr)
      ids.push_back(id);
  release_pieces(desk, ids, as, guide);
}

void reopen_selected(Desk& desk) {
  const Piece* piece = reopenable(desk);
  if (piece == nullptr)
    return;
  const auto go = [&desk, id = piece->id] {
    const Result<Reopened> back = reopen(desk.session.document(), id);
    if (back)
      desk.session.apply(Desk::tr("Reopen"), back->document, std::vector<PieceId>{back->lettering});
    else
      desk.report(back.error());
  };
  if (reshaped_since_release(desk.session.document(), piece->id))
    desk.bar.ask(Desk::tr("Nodes were changed since the release. The lettering doesn't have these changes."),
                 {{Desk::tr("Reopen without them"), go}});
  else
    go();
}

void type_gaps(Desk& desk, double mm) {
  const Piece* piece = desk.session.selected();
  if (piece == nullptr)
    return;
  desk.start_step(
      Desk::tr("Setting gaps"), Desk::tr("Type a gap"),
      [&desk, document = desk.session.document(), id = piece->id, pairs = desk.session.gaps_chosen(),
       mm](std::stop_token stop) { return with_gaps(document, id, pairs, mm, desk.session.evaluator(), stop); },
      Desk::tr("The job was changed meanwhile, so the gap was left; type it again"));
}

// One step, or nothing with the reason.
void cure(Desk& desk, const std::vector<PieceId>& pieces, Cure by) {
  const QString name = core_words(cure_name(by));
  desk.start_step(
      name, name,
      [&desk, document = desk.session.document(), pieces, by](std::stop_token stop) -> Result<Document> {
        Document now = document;
        for (const PieceId id : pieces) {
          Result<Document> better = cured(now, id, by, desk.session.evaluator(), stop);
          if (!better)
            return better.error();
          now = std::move(*better);
        }
        return now;
      },
      Desk::tr("The job was changed meanwhile, so nothing was done; try again"));
}

namespace {

void add_bends(CommandTable& commands, QMenu* menu, Desk& desk) {
  const std::pair<const char*, QString> bends[]{{"lettering.straight", Desk::tr("Set &straight")},
                                                {"lettering.arc", Desk::tr("Bend on an &arc")},
                                                {"lettering.guide", Desk::tr("Ride on a &guide")},
                                                {"lettering.rails", Desk::tr("Bend between &rails")},
                                                {"lettering.net", Desk::tr("Pull by a &net")}};
  for (int i = 0; i < static_cast<int>(std::size(bends)); ++i)
    commands.add(menu, {.id = bends[i].first,
                         .words = bends[i].second,
                         .run =
                             [&desk, i] {
                               desk.open_card(desk.bend);
                               desk.bend.choose(static_cast<BendKind>(i));
                             },
                         .why_not = i < 3 ? desk.needs_lettering() : [&desk] {
                           const Piece* piece = desk.session.selected();
                           return piece != nullptr && (piece->lettering() != nullptr || piece->outline() != nullptr)
                                      ? QString()
                                      : Desk::tr("Select a lettering or an outline");
                         }});
  commands.add(menu, {.id = "lettering.together",
                      .words = Desk::tr("Bend &together"),
                      .tip = Desk::tr("Several pieces as one block; they stay as they are, hidden"),
                      .run = [&desk] { bend_selected_together(desk); },
                      .why_not =
                          [&desk] {
                            return two_of(desk, [](const Piece& p) { return p.guide() == nullptr; })
                                       ? QString()
                                       : Desk::tr("Select two or more letterings or outlines");
                          }});
  commands.add(menu, {.id = "lettering.finish-together",
                      .words = Desk::tr("Finish to&gether"),
                      .tip = Desk::tr("One border or shade around several pieces, which stay live, hidden"),
                      .run = [&desk] { finish_selected_together(desk); },
                      .why_not = [&desk]() -> QString {
                        return two_of(desk, can_be_finished_together)
                                   ? QString()
                                   : Desk::tr("Select two or more letterings, outlines or shapes that are cut");
                      }});
  commands.add(menu, {.id = "lettering.apart",
                      .words = Desk::tr("Take a&part"),
                      .tip = Desk::tr("What was put together shows again piece by piece"),
                      .run = [&desk] { take_selected_apart(desk); },
                      .why_not = [&desk]() -> QString {
                        const Lettering* l = desk.lettering();
                        return l != nullptr && std::holds_alternative<PiecesSource>(l->recipe.source)
                                   ? QString()
                                   : Desk::tr("Select what was bent or finished together");
                      }});
}

void add_gap_commands(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto evens = desk.needs_lettering([](const Lettering& l) {
    return can_be_evened(l.recipe) ? QString() : Desk::tr("There are no gaps to even in this lettering");
  });
  const auto mode_is = [&desk](SpacingMode mode) {
    return [&desk, mode] {
      const Lettering* l = desk.lettering();
      return l != nullptr && can_be_evened(l->recipe) && l->recipe.spacing.mode == mode;
    };
  };
  commands.add(menu, {.id = "lettering.even",
                      .words = Desk::tr("&Even gaps"),
                      .tip = Desk::tr("The space between letters the same to the eye, wherever the run bends"),
                      .run = [&desk] { desk.strip.even()->click(); },
                      .why_not = evens,
                      .on = mode_is(SpacingMode::EvenGaps)});
  commands.add(menu, {.id = "lettering.keep-joined",
                      .words = Desk::tr("&Keep joined"),
                      .tip = Desk::tr("Letters that are joined in the straight word stay joined"),
                      .run = [&desk] { desk.strip.keep()->click(); },
                      .why_not = evens,
                      .on = mode_is(SpacingMode::KeepJoined)});
  const auto strip_command = [&](const char* id, const QString& words, const char* key,
                                 const std::function<void(GapView&)>& run, const std::function<QString()>& why_not) {
    commands.add(menu, {.id = id,
                        .words = words,
                        .keys = {QKeySequence(key)},
                        .run = [&desk, run] { run(*desk.strip.view()); },
                        .why_not = why_not});
  };
  const auto needs_gap = desk.needs_lettering([&desk](const Lettering&) {
    return desk.session.gaps_chosen().empty() ? Desk::tr("Choose a gap first") : QString();
  });
  strip_command(
      "lettering.gap-before", Desk::tr("Gap before"), "Alt+Left", [](GapView& v) { v.step(-1, false); },
      desk.needs_lettering());
  strip_command(
      "lettering.gap-next", Desk::tr("Next gap"), "Alt+Right", [](GapView& v) { v.step(1, false); },
      desk.needs_lettering());
  strip_command(
      "lettering.gap-open", Desk::tr("Open the gap"), "Alt+Up", [](GapView& v) { v.widen(1); }, needs_gap);
  strip_command(
      "lettering.gap-tighten", Desk::tr("Tighten the gap"), "Alt+Down", [](GapView& v) { v.widen(-1); }, needs_gap);
}

// Along the guide, and the face's axes.
void add_run_commands(CommandTable& commands, QMenu* menu, Desk& desk) {
  commands.add(menu, {.id = "lettering.level",
                      .words = Desk::tr("Le&vel"),
                      .keys = {QKeySequence("Ctrl+Shift+L")},
                      .tip = Desk::tr("The run slid along its guide until it stands level"),
                      .run = [&desk] { level_selected(desk); },
                      .why_not = desk.needs_lettering([](const Lettering& l) {
                        const BendKind kind = l.recipe.bend.kind;
                        return kind == BendKind::Arc || kind == BendKind::Guide
                                   ? QString()
                                   : Desk::tr("Only a run on an arc or on a guide can be made level");
                      })});
  commands.add(menu,
               {.id = "lettering.fit-face-width",
                .words = Desk::tr("Fit b&y the face's width"),
                .tip = Desk::tr("The run as long as its guide by the face's width axis; strokes keep their weight"),
                .run = [&desk] { fit_by_face_width(desk); },
                .why_not = desk.needs_lettering([&desk](const Lettering& l) {
                  const Letters* letters = l.recipe.letters();
                  if (letters == nullptr || !axis_of(*letters, desk.faces, width_axis))
                    return Desk::tr("This face has no width axis");
                  return l.recipe.bend.kind == BendKind::Guide ? QString()
                                                               : Desk::tr("Only a run on a guide has a length to fit");
                })});
  commands.add(menu, {.id = "lettering.face-as-its-style",
                      .words = Desk::tr("Face as its &style"),
                      .tip = Desk::tr("Weight, width and the other axes of the face as its style has them"),
                      .run =
                          [&desk] {
                            desk.session.edit(Desk::tr("Set the face as its style"), desk.session.selected()->id,
                                              [](Piece& p) { p.lettering()->recipe.letters()->face.axes.clear(); });
                          },
                      .why_not = desk.needs_lettering([](const Lettering& l) {
                        const Letters* letters = l.recipe.letters();
                        return letters != nullptr && !letters->face.axes.empty()
                                   ? QString()
                                   : Desk::tr("The face is as its style already");
                      })});
}

void add_release_commands(CommandTable& commands, QMenu* menu, Desk& desk) {
  commands.add(menu, {.id = "lettering.release",
                      .words = Desk::tr("&Release to outlines"),
                      .keys = {QKeySequence("Ctrl+Return")},
                      .tip = Desk::tr("The letters become outlines, as the Finish card says; Reopen brings them back"),
                      .run = [&desk] { release_selected(desk, desk.release.as(), desk.release.guide()); },
                      .why_not =
                          [&desk] {
                            const auto& ids = desk.session.selection();
                            return std::any_of(ids.begin(), ids.end(),
                                               [&](PieceId id) {
                                                 const Piece* p = desk.session.document().find(id);
                                                 return p != nullptr && p->lettering() != nullptr;
                                               })
                                       ? QString()
                                       : Desk::tr("Select a lettering first");
                          }});
  commands.add(menu, {.id = "lettering.reopen",
                      .words = Desk::tr("Re&open"),
                      .keys = {QKeySequence("Ctrl+Shift+Return")},
                      .tip = Desk::tr("The lettering that these outlines were released from"),
                      .run = [&desk] { reopen_selected(desk); },
                      .why_not =
                          [&desk] {
                            return reopenable(desk) != nullptr ? QString()
                                                               : Desk::tr("Select what was released from a lettering");
                          }});
}

void add_card_commands(CommandTable& commands, QMenu* menu, Desk& desk) {
  const std::pair<QString, Card*> cards[]{{Desk::tr("&Letters card"), &desk.letters},
                                          {Desk::tr("&Bend card"), &desk.bend},
                                          {Desk::tr("S&pacing card"), &desk.spacing},
                                          {Desk::tr("&Finish card"), &desk.finish}};
  for (int i = 0; i < 4; ++i)
    commands.add(menu, {.id = QString("lettering.card.%1").arg(i + 1),
                        .words = cards[i].first,
                        .keys = {QKeySequence(QString("Alt+%1").arg(i + 1))},
                        .run =
                            [&desk, card = cards[i].second] {
                              desk.open_card(*card);
                              card->first_field()->setFocus();
                            },
                        .why_not =
                            [card = cards[i].second] {
                              return card->isVisibleTo(card->window()) ? QString()
                                                                       : Desk::tr("The selection has no such card");
                            }});
}

} // namespace

void fill_lettering_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  add_bends(commands, menu, desk);
  add_line_commands(commands, menu, desk);
  menu->addSeparator();
  add_gap_commands(commands, menu, desk);
  menu->addSeparator();
  add_run_commands(commands, menu, desk);
  menu->addSeparator();
  add_release_commands(commands, menu, desk);
  menu->addSeparator();
  add_card_commands(commands, menu, desk);
}

} // namespace frelm
