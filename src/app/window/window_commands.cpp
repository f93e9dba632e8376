#include "app/window/main_window.h"

#include "app/window/copied_pieces.h"
#include "document/blocks.h"
#include "document/level.h"
#include "document/starters.h"
#include "formats/svg_import.h"
#include "lettering/finish_steps.h"
#include "lettering/shape_edit.h"

#include <QApplication>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QMenu>
#include <QMenuBar>
#include <QMimeData>

namespace frelm {
namespace {

constexpr double copy_shift = 10; // mm

Point sheet_centre(const Document& d) {
  return {d.sheet.width / 2, d.sheet.height / 2};
}

std::u32string u32(const QString& text) {
  const auto ucs4 = text.toUcs4();
  return {ucs4.begin(), ucs4.end()};
}

} // namespace

void MainWindow::bend_selected_together() {
  Result<Together> together = bend_together(session_.document(), session_.selection(), BendKind::Rails);
  if (!together) {
    report(together.error());
    return;
  }
  session_.apply(tr("Bend together"), std::move(together->document), std::vector<PieceId>{together->id});
  open_card(bend_);
}

void MainWindow::level_selected() {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return;
  start_task<Document>(
      tr("Leveling"),
      [this, document = session_.document(), id = piece->id](std::stop_token stop) {
        return leveled(document, id, session_.evaluator(), stop);
      },
      [this](Result<Document> level) {
        if (level)
          session_.apply(tr("Level"), std::move(*level));
        else
          report(level.error());
      },
      tr("The job was changed meanwhile, so nothing was leveled; try again"));
}

void MainWindow::letter_it(const QString& words) {
  Document document = session_.document();
  Piece lettering = new_lettering(document, u32(words), sheet_centre(document));
  Added added = add_piece(std::move(document), std::move(lettering));
  session_.apply(tr("Add lettering"), std::move(added.document), std::vector<PieceId>{added.id});
  open_card(bend_);
}

void MainWindow::add_lettering() {
  letter_it(tr("Letters"));
  open_card(letters_);
  letters_->text_edit()->setFocus();
  letters_->text_edit()->selectAll();
}

void MainWindow::add_guide(std::size_t kind) {
  const Point centre = sheet_centre(session_.document());
  const double reach = std::round(0.3 * std::min(session_.document().sheet.width, session_.document().sheet.height));
  constexpr double circle_radius = 100; // mm
  std::optional<GuideShape> made = usual_shape(kind, centre, kind == 0 ? circle_radius : reach);
  if (!made) { // has to be drawn or pointed at: begins with its tool
    canvas_->set_guide_kind(kind);
    canvas_->set_tool(ToolKind::Guide);
    canvas_->setFocus();
    return;
  }
  Added added = add_piece(session_.document(), new_guide(std::move(*made)));
  session_.apply(tr("Add %1").arg(guide_kind_name(kind).toLower()), std::move(added.document),
                 std::vector<PieceId>{added.id});
}

void MainWindow::add_badge() {
  BadgeOptions options;
  options.centre = sheet_centre(session_.document());
  const double least = std::min(session_.document().sheet.width, session_.document().sheet.height);
  options.outer = std::round(0.42 * least);
  options.inner = std::round(0.72 * options.outer);
  options.upper = u32(tr("Upper text"));
  options.lower = u32(tr("Lower text"));
  Result<Starter> badge = frelm::add_badge(session_.document(), options);
  if (!badge) {
    report(badge.error());
    return;
  }
  session_.apply(tr("Add badge"), std::move(badge->document), std::vector<PieceId>{badge->pieces.back()});
  open_card(letters_);
  letters_->text_edit()->setFocus();
  letters_->text_edit()->selectAll();
}

// The selected lettering, or a new one of the clipboard's words, on a spiral that has room for it.
void MainWindow::add_spiral_text() {
  SpiralOptions options;
  options.centre = sheet_centre(session_.document());
  const Piece* piece = session_.selected();
  const Lettering* l = piece != nullptr ? piece->lettering() : nullptr;
  const QString clip = QApplication::clipboard()->text().trimmed();
  if (l != nullptr && l->recipe.letters() != nullptr && !piece->locked) {
    options.lettering = piece->id;
  } else if (!clip.isEmpty() && !looks_like_svg(clip.toStdString())) {
    options.text = u32(clip);
  } else {
    bar_->tell(tr("Copy a text first, or select a lettering; then it can be set on a spiral"));
    return;
  }
  Result<Starter> spiral = add_spiral(session_.document(), options, faces_);
  if (!spiral) {
    report(spiral.error());
    return;
  }
  session_.apply(tr("Add text on a spiral"), std::move(spiral->document), std::vector<PieceId>{spiral->pieces.back()});
  open_card(bend_);
}

void MainWindow::add_drawings(std::vector<DrawingSource> drawings, std::optional<Point> centre) {
  start_task<DrawingsAdded>(
      tr("Reading"),
      [this, document = session_.document(), drawings = std::move(drawings), centre](const std::stop_token& stop) {
        return frelm::add_drawings(*storage_, document, drawings, centre, stop);
      },
      [this](Result<DrawingsAdded> added) {
        if (!added) {
          report(added.error());
          return;
        }
        session_.apply(tr("Add drawing"), std::move(added->document), added->pieces);
        if (!added->told.isEmpty())
          bar_->tell(added->told.join("; "));
      },
      tr("The job was changed meanwhile, so no drawing was added; try again"));
}

void MainWindow::node_command(NodeCommand command) {
  const Piece* piece = session_.selected();
  if (piece == nullptr || piece->lettering() != nullptr)
    return;
  const std::vector<NodeAt> chosen = session_.nodes_chosen();
  const auto each = [&](Outline o, const std::function<Outline(Outline, NodeAt)>& change) {
    for (auto it = chosen.rbegin(); it != chosen.rend(); ++it)
      o = change(std::move(o), *it);
    return o;
  };
  const std::size_t contour = chosen.empty() ? 0 : chosen.front().contour;
  if (command == NodeCommand::Reverse && piece->guide() != nullptr && !piece->locked) { // a stroke stays a stroke
    session_.edit(node_command_name(command), piece->id,
                  [](Piece& p) { p.guide()->shape = reversed(p.guide()->shape); });
    return;
  }
  Document document = frelm::edit_nodes(session_.document(), piece->id, [&](Outline o) -> Outline {
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
    case NodeCommand::StartHere:
      return chosen.empty() ? o : set_start(std::move(o), chosen.front());
    }
    return o;
  });
  if (document == session_.document()) {
    bar_->tell(tr("%1 does nothing here; choose other nodes").arg(node_command_name(command)));
    return;
  }
  const bool keeps = command == NodeCommand::Corner || command == NodeCommand::Smooth || command == NodeCommand::Even ||
                     command == NodeCommand::Straight || command == NodeCommand::Curved;
  session_.apply(node_command_name(command), std::move(document));
  if (!keeps)
    session_.choose_nodes({});
}

void MainWindow::release_selected(ReleaseAs as, GuideAfter guide) {
  std::vector<PieceId> ids;
  for (const PieceId id : session_.selection())
    if (const Piece* piece = session_.document().find(id); piece != nullptr && piece->lettering() != nullptr)
      ids.push_back(id);
  release_pieces(ids, as, guide);
}

// One after another, as one step.
void MainWindow::release_pieces(const std::vector<PieceId>& ids, ReleaseAs as, GuideAfter guide) {
  if (ids.empty())
    return;
  autosave_->keep_now();
  start_task<Released>(
      tr("Releasing"),
      [this, document = session_.document(), ids, as, guide](std::stop_token stop) -> Result<Released> {
        Released all{document, {}, false};
        for (const PieceId id : ids) {
          Result<Released> one = release(all.document, id, session_.evaluator(), as, guide, stop);
          if (!one)
            return one.error();
          all.document = std::move(one->document);
          all.pieces.insert(all.pieces.end(), one->pieces.begin(), one->pieces.end());
        }
        return all;
      },
      [this](Result<Released> released) {
        if (released)
          session_.apply(tr("Release"), std::move(released->document), released->pieces);
        else
          report(released.error());
      },
      tr("The job was changed meanwhile, so nothing was released; release again"));
}

// The selected outline, or the first of several that came from one release; nothing where none did.
const Piece* MainWindow::reopenable() const {
  const Piece* first = nullptr;
  for (const PieceId id : session_.selection()) {
    const Piece* piece = session_.document().find(id);
    const OutlinePiece* outline = piece != nullptr ? piece->outline() : nullptr;
    if (outline == nullptr || outline->origin == nullptr ||
        (first != nullptr && first->outline()->origin->release != outline->origin->release))
      return nullptr;
    first = first == nullptr ? piece : first;
  }
  return first;
}

void MainWindow::reopen_selected() {
  const Piece* piece = reopenable();
  if (piece == nullptr)
    return;
  const auto go = [this, id = piece->id] {
    const Result<Reopened> back = reopen(session_.document(), id);
    if (back)
      session_.apply(tr("Reopen"), back->document, std::vector<PieceId>{back->lettering});
    else
      report(back.error());
  };
  if (reshaped_since_release(session_.document(), piece->id))
    bar_->ask(tr("Nodes were changed since the release. The lettering doesn't have these changes."),
              {{tr("Reopen without them"), go}});
  else
    go();
}

void MainWindow::delete_selected() {
  if (session_.selection().empty())
    return;
  if (canvas_->tool() == ToolKind::Nodes && !session_.nodes_chosen().empty()) {
    node_command(NodeCommand::Delete);
    return;
  }
  for (const PieceId id : session_.selection())
    if (const Piece* piece = session_.document().find(id); piece != nullptr && piece->locked) {
      bar_->tell(tr("A locked piece is selected; unlock it to delete it"));
      return;
    }
  Removed removed = remove_pieces(session_.document(), session_.selection());
  const std::vector<Piece> guides = removed.guides;
  const std::vector<PieceId> riders = removed.riders;
  session_.apply(tr("Delete"), std::move(removed.document), std::vector<PieceId>{});
  if (guides.empty())
    return;
  session_.select(riders);
  bar_->ask(tr("The guide is gone; the letters keep its curve."),
            {{tr("Release"), [this, riders] { release_pieces(riders, ReleaseAs::OnePiece, GuideAfter::Gone); }},
             {tr("Straighten"),
              [this, riders] {
                Document d = straighten(session_.document(), riders, [this](PieceId id) {
                  const Result<PieceResult>& now = session_.seated(id);
                  return now ? now->ink.centre() : Point{};
                });
                session_.apply(tr("Straighten"), std::move(d));
              }},
             {tr("Bring back"), [this, guides] {
                Document d = session_.document();
                for (const Piece& guide : guides)
                  d = bring_back_guide(std::move(d), guide);
                session_.apply(tr("Bring back guide"), std::move(d));
              }}});
}

void MainWindow::copy_selected() {
  const Document part = sub_document(session_.document(), session_.selection(), CopyGuides::Along);
  if (part.pieces.empty())
    return;
  QApplication::clipboard()->setMimeData(new CopiedPieces(part, session_.selection(), session_.job(), faces_));
}

void MainWindow::paste() {
  const QMimeData* mime = QApplication::clipboard()->mimeData();
  if (mime == nullptr)
    return;
  if (const std::optional<Result<Pasted>> pasted = pasted_pieces(*mime); pasted) {
    if (*pasted)
      insert_pasted(**pasted);
    else
      report(pasted->error());
  } else if (mime->hasFormat("image/svg+xml")) {
    add_drawings({{tr("The pasted drawing"), {}, mime->data("image/svg+xml").toStdString()}},
                 sheet_centre(session_.document()));
  } else if (mime->hasText() && looks_like_svg(mime->text().toStdString())) {
    add_drawings({{tr("The pasted drawing"), {}, mime->text().toStdString()}}, sheet_centre(session_.document()));
  } else if (mime->hasText() && !mime->text().trimmed().isEmpty()) {
    letter_it(mime->text().trimmed());
  } else {
    bar_->tell(tr("There is nothing here that can be pasted; copy some text or pieces first"));
  }
}

// In the job they came from letters go on riding on their guide, if it is still there; elsewhere it comes along.
void MainWindow::insert_pasted(const Pasted& pasted) {
  Document part = pasted.part;
  const bool same = pasted.job == session_.job();
  if (same)
    std::erase_if(part.pieces, [&](const auto& p) {
      const bool asked_for = std::find(pasted.chosen.begin(), pasted.chosen.end(), p->id) != pasted.chosen.end();
      const Piece* here = session_.document().find(p->id);
      return !asked_for && p->guide() != nullptr && here != nullptr && here->guide() != nullptr;
    });
  Inserted copies =
      insert_part(session_.document(), part, same ? CopyInto::SameJob : CopyInto::OtherJob, {copy_shift, copy_shift});
  faces_.set_carried(copies.document.carried ? *copies.document.carried : std::vector<CarriedShapes>{});
  select_copies(tr("Paste"), std::move(copies));
}

void MainWindow::duplicate_selected() {
  select_copies(tr("Duplicate"), duplicate_pieces(session_.document(), session_.selection(), {copy_shift, copy_shift}));
}

// Hidden sources of copied blocks are not selected.
void MainWindow::select_copies(const QString& name, Inserted copies) {
  std::erase_if(copies.ids, [&](PieceId id) { return !copies.document.find(id)->visible; });
  session_.apply(name, std::move(copies.document), copies.ids);
}

void MainWindow::select_all() {
  std::vector<PieceId> ids;
  for (const auto& p : session_.document().pieces)
    if (p->visible && !p->locked)
      ids.push_back(p->id);
  session_.select(std::move(ids));
}

void MainWindow::order_selected(int where) {
  if (session_.selection().empty())
    return;
  Document d = session_.document();
  const PieceId id = session_.selection().front();
  const std::size_t at = d.index_of(id), last = d.pieces.size() - 1;
  const std::size_t to = where == 2    ? last
                         : where == 1  ? std::min(at + 1, last)
                         : where == -1 ? (at > 0 ? at - 1 : 0)
                                       : 0;
  if (to != at)
    session_.apply(tr("Change order"), reorder_piece(std::move(d), id, to));
}

void MainWindow::toggle_weld() {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return;
  const bool on = !((piece->lettering() != nullptr && piece->lettering()->recipe.finish.welds()) ||
                    (piece->outline() != nullptr && piece->outline()->finish.welds()));
  session_.edit(on ? tr("Switch weld on") : tr("Switch weld off"), piece->id, [&](Piece& p) {
    Finish* finish = p.lettering() != nullptr ? &p.lettering()->recipe.finish
                     : p.outline() != nullptr ? &p.outline()->finish
                                              : nullptr;
    if (finish != nullptr)
      set_weld(*finish, on);
  });
}

void MainWindow::toggle_lock() {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return;
  const bool on = !piece->locked;
  session_.edit(on ? tr("Lock piece") : tr("Unlock piece"), piece->id, [&](Piece& p) { p.locked = on; });
}

void MainWindow::centre_on_sheet() {
  Box ink;
  for (const PieceId id : session_.selection())
    if (const Result<PieceResult>& now = session_.seated(id); now)
      ink.add(now->ink);
  if (!ink.empty())
    session_.apply(tr("Centre on sheet"), move_pieces(session_.document(), session_.selection(),
                                                      sheet_centre(session_.document()) - ink.centre()));
}

void MainWindow::set_unit(Unit unit) {
  if (unit == session_.document().unit)
    return;
  Document d = session_.document();
  d.unit = unit;
  session_.apply(unit == Unit::Inch ? tr("Show inches") : tr("Show millimetres"), std::move(d));
}

void MainWindow::jump_to_strip() {
  if (strip_->view()->hasFocus()) {
    canvas_->setFocus();
    return;
  }
  strip_->set_folded(false);
  strip_->view()->setFocus();
}

void MainWindow::type_gaps(double mm) {
  const Piece* piece = session_.selected();
  if (piece == nullptr)
    return;
  start_task<Document>(
      tr("Setting gaps"),
      [this, document = session_.document(), id = piece->id, pairs = session_.gaps_chosen(), mm](std::stop_token stop) {
        return with_gaps(document, id, pairs, mm, session_.evaluator(), stop);
      },
      [this](Result<Document> done) {
        if (done)
          session_.apply(tr("Type a gap"), std::move(*done));
        else
          report(done.error());
      },
      tr("The job was changed meanwhile, so the gap was left; type it again"));
}

// One step, or nothing with the reason.
void MainWindow::cure(const std::vector<PieceId>& pieces, Cure by) {
  const QString name = tr(cure_name(by));
  start_task<Document>(
      name,
      [this, document = session_.document(), pieces, by](std::stop_token stop) -> Result<Document> {
        Document now = document;
        for (const PieceId id : pieces) {
          Result<Document> better = cured(now, id, by, session_.evaluator(), stop);
          if (!better)
            return better.error();
          now = std::move(*better);
        }
        return now;
      },
      [this, name](Result<Document> done) {
        if (done)
          session_.apply(name, std::move(*done));
        else
          report(done.error());
      },
      tr("The job was changed meanwhile, so nothing was done; try again"));
}

void MainWindow::told_of_history() {
  if (told_of_history_ || session_.history().let_go() == 0)
    return;
  told_of_history_ = true;
  bar_->tell(tr("There is no room for more steps to undo: the oldest go now, the newest %n stay.", nullptr,
                static_cast<int>(session_.history().steps())));
}

} // namespace frelm
