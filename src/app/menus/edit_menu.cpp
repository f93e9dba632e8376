#include "app/menus/edit_menu.h"

#include "app/commands/copied_pieces.h"
#include "app/menus/add_menu.h"
#include "app/menus/drawings.h"
#include "app/menus/lettering_menu.h"
#include "app/menus/outline_menu.h"
#include "document/copying.h"
#include "document/select_like.h"
#include "formats/import.h"

#include <QApplication>
#include <QBuffer>
#include <QClipboard>
#include <QImage>
#include <QMimeData>

namespace frelm {
namespace {

constexpr double copy_shift = 10; // mm

void copy_selected(Desk& desk) {
  const Document part = sub_document(desk.session.document(), desk.session.selection(), CopyGuides::Along);
  if (part.pieces.empty())
    return;
  QApplication::clipboard()->setMimeData(
      new CopiedPieces(part, desk.session.selection(), desk.session.job(), desk.faces));
}

// Hidden sources of copied blocks are not selected.
void select_copies(Desk& desk, const QString& name, Inserted copies) {
  std::erase_if(copies.ids, [&](PieceId id) { return !copies.document.find(id)->visible; });
  desk.session.apply(name, std::move(copies.document), copies.ids);
}

// In the job they came from letters go on riding on their guide, if it is still there; elsewhere it comes along.
void insert_pasted(Desk& desk, const Pasted& pasted) {
  Document part = pasted.part;
  const bool same = pasted.job == desk.session.job();
  if (same)
    std::erase_if(part.pieces, [&](const auto& p) {
      const bool asked_for = std::find(pasted.chosen.begin(), pasted.chosen.end(), p->id) != pasted.chosen.end();
      const Piece* here = desk.session.document().find(p->id);
      return !asked_for && p->guide() != nullptr && here != nullptr && here->guide() != nullptr;
    });
  Inserted copies = insert_part(desk.session.document(), part, same ? CopyInto::SameJob : CopyInto::OtherJob,
                                {copy_shift, copy_shift});
  desk.faces.set_carried(copies.document.carried ? *copies.document.carried : std::vector<CarriedShapes>{});
  select_copies(desk, Desk::tr("Paste"), std::move(copies));
}

void paste(Desk& desk) {
  const QMimeData* mime = QApplication::clipboard()->mimeData();
  if (mime == nullptr)
    return;
  if (const std::optional<Result<Pasted>> pasted = pasted_pieces(*mime); pasted) {
    if (*pasted)
      insert_pasted(desk, **pasted);
    else
      desk.report(pasted->error());
  } else if (mime->hasFormat("image/svg+xml")) {
    add_drawings(desk, {{Desk::tr("The pasted drawing"), {}, mime->data("image/svg+xml").toStdString()}},
                 desk.sheet_centre());
  } else if (mime->hasText() && looks_like_svg(mime->text().toStdString())) {
    add_drawings(desk, {{Desk::tr("The pasted drawing"), {}, mime->text().toStdString()}}, desk.sheet_centre());
  } else if (mime->hasImage() && !mime->hasText()) {
    QByteArray bytes;
    QBuffer to(&bytes);
    qvariant_cast<QImage>(mime->imageData()).save(&to, "PNG");
    add_drawings(desk, {{Desk::tr("The pasted picture"), {}, bytes.toStdString()}}, desk.sheet_centre());
  } else if (mime->hasText() && !mime->text().trimmed().isEmpty()) {
    letter_it(desk, mime->text().trimmed());
  } else {
    desk.bar.tell(Desk::tr("There is nothing here that can be pasted; copy some text or pieces first"));
  }
}

void duplicate_selected(Desk& desk) {
  select_copies(desk, Desk::tr("Duplicate"),
                duplicate_pieces(desk.session.document(), desk.session.selection(), {copy_shift, copy_shift}));
}

void select_all(Desk& desk) {
  std::vector<PieceId> ids;
  for (const auto& p : desk.session.document().pieces)
    if (p->visible && !p->locked)
      ids.push_back(p->id);
  desk.session.select(std::move(ids));
}

} // namespace

void delete_selected(Desk& desk) {
  if (desk.canvas.tool() == ToolKind::Backing) {
    desk.session.apply(Desk::tr("Remove backing"), without_backing(desk.session.document(), desk.session.backing()));
    return;
  }
  if (desk.session.selection().empty())
    return;
  if (desk.canvas.tool() == ToolKind::Nodes && !desk.session.nodes_chosen().empty()) {
    node_command(desk, NodeCommand::Delete);
    return;
  }
  for (const PieceId id : desk.session.selection())
    if (const Piece* piece = desk.session.document().find(id); piece != nullptr && piece->locked) {
      desk.bar.tell(Desk::tr("A locked piece is selected; unlock it to delete it"));
      return;
    }
  Removed removed = remove_pieces(desk.session.document(), desk.session.selection());
  const std::vector<Piece> guides = removed.guides;
  const std::vector<PieceId> riders = removed.riders;
  desk.session.apply(Desk::tr("Delete"), std::move(removed.document), std::vector<PieceId>{});
  if (guides.empty())
    return;
  desk.session.select(riders);
  desk.bar.ask(
      Desk::tr("The guide is gone; the letters keep its curve."),
      {{Desk::tr("Release"), [&desk, riders] { release_pieces(desk, riders, ReleaseAs::OnePiece, GuideAfter::Gone); }},
       {Desk::tr("Straighten"),
        [&desk, riders] {
          Document d = straighten(desk.session.document(), riders, [&desk](PieceId id) {
            const Result<PieceResult>& now = desk.session.seated(id);
            return now ? now->ink.centre() : Point{};
          });
          desk.session.apply(Desk::tr("Straighten"), std::move(d));
        }},
       {Desk::tr("Bring back"), [&desk, guides] {
          Document d = desk.session.document();
          for (const Piece& guide : guides)
            d = bring_back_guide(std::move(d), guide);
          desk.session.apply(Desk::tr("Bring back guide"), std::move(d));
        }}});
}

void fill_edit_menu(CommandTable& commands, QMenu* menu, Desk& desk) {
  const auto named = [](const QString& words, const QString& with_step, const std::string& step) {
    return step.empty() ? words : with_step.arg(QString::fromStdString(step));
  };
  commands.add(
      menu,
      {.id = "edit.undo",
       .words = Desk::tr("&Undo"),
       .keys = {QKeySequence::Undo},
       .run = [&desk] { desk.session.undo(); },
       .why_not = [&desk] { return desk.session.history().can_undo() ? QString() : Desk::tr("Nothing to undo"); },
       .words_now =
           [=, &desk] { return named(Desk::tr("&Undo"), Desk::tr("&Undo: %1"), desk.session.history().undo_name()); }});
  commands.add(
      menu,
      {.id = "edit.redo",
       .words = Desk::tr("&Redo"),
       .keys = {QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")},
       .run = [&desk] { desk.session.redo(); },
       .why_not = [&desk] { return desk.session.history().can_redo() ? QString() : Desk::tr("Nothing to redo"); },
       .words_now =
           [=, &desk] { return named(Desk::tr("&Redo"), Desk::tr("&Redo: %1"), desk.session.history().redo_name()); }});
  commands.add(menu,
               {.id = "edit.steps",
                .words = Desk::tr("&Steps and versions…"),
                .keys = {QKeySequence("Ctrl+Shift+H")},
                .tip = Desk::tr(
                    "All that was done, to go back to any of it and forth again; states with a name stay in the file"),
                .run = [&desk] { desk.show_steps(); }});
  menu->addSeparator();
  commands.add(menu, {.id = "edit.cut",
                      .words = Desk::tr("Cu&t"),
                      .keys = {QKeySequence::Cut},
                      .run =
                          [&desk] {
                            copy_selected(desk);
                            delete_selected(desk);
                          },
                      .why_not = desk.needs_selection()});
  commands.add(menu, {.id = "edit.copy",
                      .words = Desk::tr("&Copy"),
                      .keys = {QKeySequence::Copy},
                      .run = [&desk] { copy_selected(desk); },
                      .why_not = desk.needs_selection()});
  commands.add(menu, {.id = "edit.paste",
                      .words = Desk::tr("&Paste"),
                      .keys = {QKeySequence::Paste},
                      .tip = Desk::tr("Text becomes a new lettering, a drawing becomes pieces"),
                      .run = [&desk] { paste(desk); }});
  commands.add(menu, {.id = "edit.duplicate",
                      .words = Desk::tr("&Duplicate"),
                      .keys = {QKeySequence("Ctrl+D")},
                      .run = [&desk] { duplicate_selected(desk); },
                      .why_not = desk.needs_selection()});
  commands.add(menu, {.id = "edit.delete",
                      .words = Desk::tr("De&lete"),
                      .keys = {QKeySequence::Delete},
                      .run = [&desk] { delete_selected(desk); },
                      .why_not =
                          [&desk] {
                            return desk.canvas.tool() == ToolKind::Backing && !desk.session.document().backings.empty()
                                       ? QString()
                                       : desk.needs_selection()();
                          }});
  menu->addSeparator();
  commands.add(menu, {.id = "edit.select-all",
                      .words = Desk::tr("Select &all"),
                      .keys = {QKeySequence::SelectAll},
                      .run = [&desk] { select_all(desk); },
                      .why_not =
                          [&desk] {
                            return desk.session.document().pieces.empty() ? Desk::tr("There is nothing on the sheet")
                                                                          : QString();
                          }});
  QMenu* like = menu->addMenu(Desk::tr("Select al&ike"));
  const auto select_like = [&](const char* id, const QString& words, Like what) {
    commands.add(like, {.id = id,
                        .words = words,
                        .run =
                            [&desk, what] {
                              desk.session.select(pieces_like(desk.session.document(), desk.session.selection(), what));
                            },
                        .why_not = desk.needs_selection()});
  };
  select_like("edit.select-colour", Desk::tr("Of the same &colour"), Like::Colour);
  select_like("edit.select-destination", Desk::tr("For the same &destination"), Like::Destination);
  select_like("edit.select-kind", Desk::tr("Of the same &kind"), Like::Kind);
  commands.add(menu, {.id = "edit.select-nothing",
                      .words = Desk::tr("Select &nothing"),
                      .keys = {QKeySequence("Ctrl+Shift+A")},
                      .run = [&desk] { desk.session.select({}); },
                      .why_not = desk.needs_selection()});
  menu->addSeparator();
  QMenu* tools = menu->addMenu(Desk::tr("T&ool"));
  for (const ToolRow& tool : tool_table())
    if (tool.id != nullptr)
      commands.add(tools, {.id = tool.id,
                           .words = tool.words,
                           .keys = {QKeySequence(tool.key)},
                           .tip = tool.tip,
                           .run =
                               [&desk, kind = tool.kind] {
                                 desk.canvas.set_tool(kind);
                                 desk.canvas.setFocus();
                               },
                           .on = [&desk, kind = tool.kind] { return desk.canvas.tool() == kind; }});
  menu->addSeparator();
  commands.add(menu, {.id = "edit.settings",
                      .words = Desk::tr("S&ettings"),
                      .keys = {QKeySequence("Ctrl+,")},
                      .tip = Desk::tr("How Frelm looks, and how much memory it may use"),
                      .run = [&desk] { desk.show_settings(); }});
}

} // namespace frelm
