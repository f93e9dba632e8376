#include "app/menus/outline_menu.h"

#include "app/style/words.h"
#include "document/outline_edits.h"
#include "lettering/finish_edit.h"
#include "lettering/shape_edit.h"

namespace frelm {
namespace {

void toggle_weld(Desk& desk) {
  const Piece* piece = desk.session.selected();
  const Finish* finish = piece != nullptr ? piece->finish() : nullptr;
  if (finish == nullptr)
    return;
  const bool on = !finish->welds();
  desk.session.edit(on ? Desk::tr("Switch weld on") : Desk::tr("Switch weld off"), piece->id,
                    [&](Piece& p) { set_weld(*p.finish(), on); });
}

TieStep stencil_step() {
  TieStep out;
  out.kind = TieKind::Stencil;
  return out;
}

void add_step_commands(CommandTable& commands, QMenu* menu, Desk& desk) {
  const std::tuple<const char*, QString, QString, FinishAction> steps[]{
      {"border", Desk::tr("Add &border"), Desk::tr("Rings around the letters, each a layer of its own colour"),
       BorderStep{}},
      {"block-shade", Desk::tr("Add block &shade"), Desk::tr("What the letters cover when they are swept aside"),
       ShadeStep{}},
      {"drop-shade", Desk::tr("Add &drop shade"), Desk::tr("A copy of the letters that lies aside, beneath them"),
       ShadeStep{.kind = ShadeKind::Drop}},
      {"weld", Desk::tr("Add &weld"), Desk::tr("What touches becomes one outline"), WeldStep{}},
      {"thin", Desk::tr("Add &fewer nodes"), Desk::tr("All layers with fewer nodes, within a tolerance"), ThinStep{}},
      {"round", Desk::tr("Add r&ound corners"), Desk::tr("Corners of all layers become arcs of a radius"), RoundStep{}},
      {"tab", Desk::tr("Add hanging &tab"), Desk::tr("A ring that joins the edge where it is dropped"), TabStep{}},
      {"ties", Desk::tr("Add t&ies"),
       Desk::tr("Short bridges from part to part, so that it leaves the sheet in one piece"), TieStep{}},
      {"stencil", Desk::tr("Add stencil brid&ges"),
       Desk::tr("Bridges across the strokes, so that counters stay with the sheet"), stencil_step()},
      {"mirror", Desk::tr("Add &mirror"),
       Desk::tr("Cut left for right, for work seen from behind; on the sheet it stays readable"), MirrorStep{}}};
  for (const auto& [id, words, tip, what] : steps)
    commands.add(menu, {.id = QString("outline.add.%1").arg(id),
                        .words = words,
                        .tip = tip,
                        .run =
                            [&desk, what = what] {
                              desk.session.edit(Desk::tr("Add %1").arg(words_of(step_name(what)).toLower()),
                                                desk.session.selected()->id, [&](Piece& p) {
                                                  const bool thin = std::holds_alternative<ThinStep>(what);
                                                  const auto& materials = desk.session.document().materials;
                                                  add_fitting_step(*p.finish(),
                                                                   thin ? thin_step_for(materials, p.colour) : what,
                                                                   desk.session.selection_ink().height(), p.colour);
                                                });
                            },
                        .why_not = [&desk]() -> QString {
                          const Piece* piece = desk.session.selected();
                          if (piece == nullptr || piece->finish() == nullptr)
                            return Desk::tr("Select a lettering, an outline or a shape that is cut");
                          return piece->finish()->steps.size() < most_finish_steps
                                     ? QString()
                                     : Desk::tr("It has as many steps as there can be");
                        }});
}

void draw_ties(Desk& desk) {
  desk.canvas.set_tool(ToolKind::Tie);
  desk.bar.tell(Desk::tr("Drag from edge to edge: each drag is a tie. Esc leaves"));
}

struct OutlineWords {
  QString words, tip;
};
OutlineWords outline_words(OutlineCommand command) {
  switch (command) {
  case OutlineCommand::WeldTogether:
    return {Desk::tr("&Weld together"), Desk::tr("All of them become one outline")};
  case OutlineCommand::CutAway:
    return {Desk::tr("&Cut away"), Desk::tr("The front piece is cut out of what lies behind it, and goes")};
  case OutlineCommand::CutAwayBehind:
    return {Desk::tr("Cut the &front"), Desk::tr("What lies behind is cut out of the front piece, and goes")};
  case OutlineCommand::KeepShared:
    return {Desk::tr("&Keep shared"), Desk::tr("What all of them cover stays")};
  case OutlineCommand::DropShared:
    return {Desk::tr("&Drop shared"), Desk::tr("What two of them cover goes")};
  case OutlineCommand::Combine:
    return {Desk::tr("C&ombine"), Desk::tr("They become one piece; no line changes")};
  case OutlineCommand::BreakApart:
    return {Desk::tr("&Break apart"), Desk::tr("Each part with its own holes becomes a piece")};
  case OutlineCommand::OffsetAsPiece:
    return {Desk::tr("&Offset as a piece"), Desk::tr("A ring's area behind them; less than nothing goes inwards")};
  case OutlineCommand::ShadeAsPiece:
    return {Desk::tr("&Shade as a piece"), Desk::tr("Their block shade behind them")};
  case OutlineCommand::FewerNodes:
    return {Desk::tr("Fewer &nodes at once"), Desk::tr("Their outlines with fewer nodes, within the tolerance")};
  case OutlineCommand::RoundedCorners:
    return {Desk::tr("&Round corners at once"), Desk::tr("Corners become arcs of the radius, as far as they fit")};
  case OutlineCommand::CloseLines:
    return {Desk::tr("C&lose"), Desk::tr("Open lines are closed with straight ones")};
  case OutlineCommand::ReverseLines:
    return {Desk::tr("Re&verse"), Desk::tr("All lines run the other way")};
  }
  return {};
}

void make_of_selection(Desk& desk, OutlineCommand command) {
  desk.maker.hide();
  const QString name = outline_words(command).words.remove('&');
  desk.start_task<OutlinesMade>(
      name,
      [document = desk.session.document(), ids = desk.session.selection(), command, measures = desk.maker.measures(),
       &evaluator = desk.session.evaluator()](std::stop_token stop) {
        return make_outlines(document, ids, command, measures, evaluator, false, stop);
      },
      [&desk, name](Result<OutlinesMade> made) {
        if (!made)
          return desk.report(made.error());
        desk.session.apply(name, std::move(made->document), made->pieces);
        if (!made->forgotten.empty())
          desk.bar.tell(Desk::tr("%1 can't be reopened any more; Undo brings that back").arg(listed(made->forgotten)));
        else if (!made->released.empty())
          desk.bar.tell(Desk::tr("Now outlines: %1. Reopen brings the live letters back").arg(listed(made->released)));
      },
      Desk::tr("The job was changed meanwhile, so nothing was made; do it once more"));
}

// A picture of what each makes shows while the pointer or the arrow keys rest on it.
void add_outline_command(CommandTable& commands, QMenu* menu, Desk& desk, OutlineCommand command) {
  const OutlineWords words = outline_words(command);
  const QString id = outline_command_id(command);
  commands.add(menu, {.id = id,
                      .words = words.words,
                      .tip = words.tip,
                      .run = [&desk, command] { make_of_selection(desk, command); },
                      .why_not =
                          [&desk, command] {
                            const Said why =
                                why_no_outlines(desk.session.document(), desk.session.selection(), command);
                            return why.empty() ? QString() : words_of(why);
                          }});
  QAction* action = commands.action(id);
  QObject::connect(action, &QAction::hovered, menu, [&desk, action, command] {
    if (action->isEnabled())
      desk.maker.show(command);
    else
      desk.maker.hide();
  });
  QObject::connect(menu, &QMenu::aboutToHide, menu, [&desk] { desk.maker.hide(); });
}

void add_outline_commands(CommandTable& commands, QMenu* menu, Desk& desk) {
  using enum OutlineCommand;
  QMenu* together = menu->addMenu(Desk::tr("&Together"));
  for (const OutlineCommand c : {WeldTogether, CutAway, CutAwayBehind, KeepShared, DropShared, Combine})
    add_outline_command(commands, together, desk, c);
  QMenu* pieces = menu->addMenu(Desk::tr("As a &piece"));
  for (const OutlineCommand c : {OffsetAsPiece, ShadeAsPiece})
    add_outline_command(commands, pieces, desk, c);
  QMenu* change = menu->addMenu(Desk::tr("C&hange lines"));
  for (const OutlineCommand c : {BreakApart, FewerNodes, RoundedCorners, CloseLines, ReverseLines})
    add_outline_command(commands, change, desk, c);
}

} // namespace

void node_command(Desk& desk, NodeCommand command) {
  const Piece* piece = desk.session.selected();
  if (piece == nullptr || piece->lettering() != nullptr)
    return;
  const std::vector<NodeAt> chosen = desk.session.nodes_chosen();
  const auto each = [&](Outline o, const std::function<Outline(Outline, NodeAt)>& change) {
    for (auto it = chosen.rbegin(); it != chosen.rend(); ++it)
      o = change(std::move(o), *it);
    return o;
  };
  const std::size_t contour = chosen.empty() ? 0 : chosen.front().contour;
  if (command == NodeCommand::Reverse && piece->guide() != nullptr && !piece->locked) { // a stroke stays a stroke
    desk.session.edit(node_command_name(command), piece->id,
                      [](Piece& p) { p.guide()->shape = reversed(p.guide()->shape); });
    return;
  }
  Document document = frelm::edit_nodes(desk.session.document(), piece->id, [&](Outline o) -> Outline {
    switch (command) {
    case NodeCommand::Add:
      return each(std::move(o), [](Outline x, NodeAt n) { return add_node(std::move(x), n.contour, n.node, 0.5); });
    case NodeCommand::Delete:
      return delete_nodes(std::move(o), chosen);
    case NodeCommand::Corner:
    case NodeCommand::Smooth:
    case NodeCommand::Even: {
      const NodeKind kind = command == NodeCommand::Corner   ? NodeKind::Corner
                            : command == NodeCommand::Smooth ? NodeKind::Smooth
                                                             : NodeKind::Even;
      return each(std::move(o), [&](Outline x, NodeAt n) { return set_node_kind(std::move(x), n, kind); });
    }
    case NodeCommand::Straight:
      return set_straight(std::move(o), chosen);
    case NodeCommand::Curved:
      return set_curved(std::move(o), chosen);
    case NodeCommand::Break:
      return each(std::move(o), [](Outline x, NodeAt n) { return break_at(std::move(x), n); });
    case NodeCommand::Join:
      return chosen.size() == 2 ? join_ends(std::move(o), chosen[0], chosen[1]) : o;
    case NodeCommand::Close:
      return close_contour(std::move(o), contour);
    case NodeCommand::Reverse:
      return reverse_contour(std::move(o), contour);
    case NodeCommand::Sand: {
      const Outline was = o;
      for (const NodeAt n : chosen)
        o = sanded(was, o, node_point(was.contours[n.contour], n.node), desk.session.brush());
      return with_few_nodes(was, o, desk.session.brush());
    }
    case NodeCommand::Stretch:
      return chosen.size() == 2 ? one_line(std::move(o), chosen[0], chosen[1]) : o;
    case NodeCommand::StartHere:
      return chosen.empty() ? o : set_start(std::move(o), chosen.front());
    }
    return o;
  });
  if (document == desk.session.document()) {
    desk.bar.tell(Desk::tr("%1 does nothing here; choose other nodes").arg(node_command_name(command)));
    return;
  }
  const bool keeps = command == NodeCommand::Corner || command == NodeCommand::Smooth || command == NodeCommand::Even ||
                     command == NodeCommand::Straight || command == NodeCommand::Curved;
  desk.session.apply(node_command_name(command), std::move(document));
  if (!keeps)
    desk.session.choose_nodes({});
}

void find_tie_in_places(Desk& desk, const TieInWish& wish, const PlacesFound& done) {
  const Document document = desk.session.document();
  desk.start_task<FoundInFrame>(
      Desk::tr("Looking for places"),
      [wish, document, ids = desk.session.selection(), &evaluator = desk.session.evaluator(),
       &task = desk.task](std::stop_token stop) {
        return find_tie_in(document, ids, wish, evaluator, stop, [&](double share) { task.tell_progress(share); });
      },
      [&desk, done, document](const Result<FoundInFrame>& found) {
        if (!found && found.error().code == ErrorCode::Cancelled)
          desk.report(found.error());
        else
          done(document, found);
      },
      Desk::tr("The job was changed meanwhile; look again"));
}

void make_one_piece(Desk& desk, const WordInFrame& pair, double width, const std::function<void()>& done) {
  desk.start_task<OnePiece>(
      Desk::tr("Making one piece"),
      [pair, width, document = desk.session.document(), &evaluator = desk.session.evaluator()](std::stop_token stop) {
        return made_one(document, pair, width, evaluator, stop);
      },
      [&desk, done](Result<OnePiece> made) {
        if (!made) {
          desk.report(made.error());
          return;
        }
        desk.session.apply(Desk::tr("Make one piece"), std::move(made->document), std::vector<PieceId>{made->piece});
        desk.bar.tell(made->parts == 1
                          ? Desk::tr("It leaves the sheet in one part; Reopen brings the live letters back")
                          : Desk::tr("It leaves the sheet in %1 parts").arg(made->parts));
        done();
      },
      Desk::tr("The job was changed meanwhile; nothing was done"));
}

bool make_traced(Desk& desk, const PictureTracer& tracer, bool keep_backing) {
  const auto traced = tracer.traced();
  if (!tracer.current() || traced == nullptr || traced->levels.empty())
    return false;
  TracedIn made = with_traced(desk.session.document(), desk.session.backing(), *traced, keep_backing);
  desk.session.apply(Desk::tr("Trace the backing"), std::move(made.document), made.pieces);
  desk.bar.tell(Desk::tr("%1 with %2 nodes")
                    .arg(counted_words(traced->contours, Desk::tr("1 outline"), Desk::tr("%1 outlines")))
                    .arg(traced->nodes));
  return true;
}

void fill_outline_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto finish = [&desk] {
    const Piece* piece = desk.session.selected();
    return piece != nullptr ? piece->finish() : nullptr;
  };
  commands.add(menu, {.id = "outline.weld",
                      .words = Desk::tr("&Weld"),
                      .keys = {QKeySequence("Ctrl+J")},
                      .tip = Desk::tr("What overlaps becomes one outline; the letters stay live"),
                      .run = [&desk] { toggle_weld(desk); },
                      .why_not =
                          [finish] {
                            return finish() != nullptr
                                       ? QString()
                                       : Desk::tr("Select a lettering, an outline or a shape that is cut");
                          },
                      .on = [finish] { return finish() != nullptr && finish()->welds(); }});
  QMenu* steps = menu->addMenu(Desk::tr("&Finish"));
  add_step_commands(commands, steps, desk);
  commands.add(menu, {.id = "outline.tie-in",
                      .words = Desk::tr("&Tie into a frame…"),
                      .tip = Desk::tr("Puts a word into a frame so that both hold together at several places"),
                      .run = [&desk] { desk.show_tie_in(); },
                      .why_not = [&desk]() -> QString {
                        return desk.session.selection().size() == 2 ? QString() : Desk::tr("Select a word and a frame");
                      }});
  commands.add(menu, {.id = "outline.trace",
                      .words = Desk::tr("Trace the &backing…"),
                      .tip = Desk::tr("Makes outlines of a picture's ink or of its colours"),
                      .run = [&desk] { desk.show_trace(); },
                      .why_not = [&desk]() -> QString {
                        return desk.session.document().backings.empty()
                                   ? Desk::tr("Add a PNG or JPEG picture first, by File or by dropping it")
                                   : QString();
                      }});
  commands.add(steps, {.id = "outline.draw-ties",
                       .words = Desk::tr("D&raw ties by hand"),
                       .tip = Desk::tr("A drag from edge to edge is a tie"),
                       .run = [&desk] { draw_ties(desk); },
                       .why_not =
                           [finish] {
                             return finish() != nullptr
                                        ? QString()
                                        : Desk::tr("Select a lettering, an outline or a shape that is cut");
                           }});
  add_outline_commands(commands, menu, desk);
  menu->addSeparator();
  for (int i = 0; i <= static_cast<int>(NodeCommand::Stretch); ++i) {
    const auto command = static_cast<NodeCommand>(i);
    commands.add(menu, {.id = QString("outline.node.%1").arg(i),
                        .words = node_command_name(command),
                        .run = [&desk, command] { node_command(desk, command); },
                        .why_not = [&desk, command]() -> QString {
                          const Piece* piece = desk.session.selected();
                          if (desk.canvas.tool() != ToolKind::Nodes)
                            return Desk::tr("Take the Nodes tool first");
                          if (piece == nullptr || piece->lettering() != nullptr)
                            return Desk::tr("Select an outline or a guide");
                          const bool whole_line = command == NodeCommand::Reverse || command == NodeCommand::Close;
                          return whole_line || !desk.session.nodes_chosen().empty() ? QString()
                                                                                    : Desk::tr("Choose a node first");
                        }});
  }
}

} // namespace frelm
