#include "app/window/keys_page.h"
#include "app/window/main_window.h"
#include "app/window/settings_page.h"

#include <QActionGroup>
#include <QApplication>
#include <QMenuBar>
#include <QScrollArea>
#include <QVBoxLayout>

namespace frelm {

QAction* MainWindow::add_action(QMenu* menu, const QString& text, const QKeySequence& key,
                                const std::function<void()>& run, const QString& tip) {
  auto* action = new QAction(text, this);
  action->setShortcut(key);
  if (!tip.isEmpty())
    action->setToolTip(tip);
  connect(action, &QAction::triggered, this, run);
  menu->addAction(action);
  return action;
}

void MainWindow::build_menus() {
  QMenu* file = menuBar()->addMenu(tr("&File"));
  add_action(file, tr("&New job"), QKeySequence::New,
             [this] { when_safe(tr("Begin a new job?"), [this] { new_job(); }); });
  add_action(file, tr("&Open…"), QKeySequence::Open, [this] { open_dialog(); });
  recent_menu_ = file->addMenu(tr("Open &recent"));
  connect(recent_menu_, &QMenu::aboutToShow, this, &MainWindow::fill_recent);
  QMenu* examples = file->addMenu(tr("E&xamples"));
  fill_examples(examples);
  file->addSeparator();
  add_action(file, tr("&Save"), QKeySequence::Save, [this] { save(); });
  add_action(file, tr("Save &as…"), QKeySequence("Ctrl+Shift+S"), [this] { save_as(); });
  file->addSeparator();
  add_action(file, tr("&Export cut file (SVG)…"), QKeySequence("Ctrl+E"), [this] { export_dialog("svg"); });
  add_action(file, tr("Export &picture (PNG)…"), QKeySequence("Ctrl+Shift+E"), [this] { export_dialog("png"); });
  file->addSeparator();
  add_action(file, tr("&Quit"), QKeySequence::Quit, [this] { close(); });

  QMenu* edit = menuBar()->addMenu(tr("&Edit"));
  undo_ = add_action(edit, tr("&Undo"), QKeySequence::Undo, [this] { session_.undo(); });
  redo_ = add_action(edit, tr("&Redo"), QKeySequence("Ctrl+Shift+Z"), [this] { session_.redo(); });
  redo_->setShortcuts({QKeySequence("Ctrl+Shift+Z"), QKeySequence("Ctrl+Y")});
  edit->addSeparator();
  need_selection_.push_back(add_action(edit, tr("Cu&t"), QKeySequence::Cut, [this] {
    copy_selected();
    delete_selected();
  }));
  need_selection_.push_back(add_action(edit, tr("&Copy"), QKeySequence::Copy, [this] { copy_selected(); }));
  add_action(
      edit, tr("&Paste"), QKeySequence::Paste, [this] { paste(); },
      tr("Text becomes a new lettering, a drawing becomes pieces"));
  need_selection_.push_back(
      add_action(edit, tr("&Duplicate"), QKeySequence("Ctrl+D"), [this] { duplicate_selected(); }));
  need_selection_.push_back(add_action(edit, tr("De&lete"), QKeySequence::Delete, [this] { delete_selected(); }));
  edit->addSeparator();
  add_action(edit, tr("Select &all"), QKeySequence::SelectAll, [this] { select_all(); });
  add_action(edit, tr("Select &nothing"), QKeySequence("Ctrl+Shift+A"), [this] { session_.select({}); });
  edit->addSeparator();
  add_action(edit, tr("S&ettings"), QKeySequence("Ctrl+,"), [this] { show_settings(); });

  QMenu* add = menuBar()->addMenu(tr("&Add"));
  add_action(add, tr("&Lettering"), QKeySequence("Ctrl+L"), [this] { add_lettering(); });
  add_action(add, tr("Ba&dge"), {}, [this] { add_badge(); });
  add_action(add, tr("&Text on a spiral"), {}, [this] { add_spiral_text(); });
  add->addSeparator();
  add_action(add, tr("&Circle guide"), QKeySequence("Ctrl+G"), [this] { add_guide(0); });
  QMenu* guides = add->addMenu(tr("&Guide"));
  for (std::size_t kind = 1; kind < std::variant_size_v<GuideShape>; ++kind)
    add_action(guides, guide_kind_name(kind), {}, [this, kind] { add_guide(kind); });

  QMenu* lettering = menuBar()->addMenu(tr("&Lettering"));
  const QStringList bends{tr("Set &straight"), tr("Bend on an &arc"), tr("Ride on a &guide"), tr("Bend between &rails"),
                          tr("Pull by a &net")};
  for (int i = 0; i < bends.size(); ++i)
    need_selection_.push_back(add_action(lettering, bends[i], {}, [this, i] {
      open_card(bend_);
      bend_->choose(static_cast<BendKind>(i));
    }));
  need_selection_.push_back(add_action(lettering, tr("Bend &together"), {}, [this] { bend_selected_together(); }));
  lettering->addSeparator();
  even_action_ = add_action(lettering, tr("&Even gaps"), {}, [this] { strip_->even()->click(); });
  keep_action_ = add_action(lettering, tr("&Keep joined"), {}, [this] { strip_->keep()->click(); });
  for (QAction* a : {even_action_, keep_action_})
    a->setCheckable(true);
  const auto strip_action = [&](const QString& text, const char* key, const std::function<void(GapView&)>& run) {
    need_selection_.push_back(add_action(lettering, text, QKeySequence(key), [this, run] { run(*strip_->view()); }));
  };
  strip_action(tr("Gap before"), "Alt+Left", [](GapView& v) { v.step(-1, false); });
  strip_action(tr("Next gap"), "Alt+Right", [](GapView& v) { v.step(1, false); });
  strip_action(tr("Open the gap"), "Alt+Up", [](GapView& v) { v.widen(1); });
  strip_action(tr("Tighten the gap"), "Alt+Down", [](GapView& v) { v.widen(-1); });
  lettering->addSeparator();
  level_ = add_action(lettering, tr("Le&vel"), QKeySequence("Ctrl+Shift+L"), [this] { level_selected(); });
  lettering->addSeparator();
  release_action_ = add_action(lettering, tr("&Release to outlines"), QKeySequence("Ctrl+Return"),
                               [this] { release_selected(release_->as(), release_->guide()); });
  reopen_action_ =
      add_action(lettering, tr("Re&open"), QKeySequence("Ctrl+Shift+Return"), [this] { reopen_selected(); });
  lettering->addSeparator();
  const QStringList cards{tr("&Letters card"), tr("&Bend card"), tr("S&pacing card"), tr("&Finish card")};
  Card* const list[]{letters_, bend_, spacing_, finish_};
  for (int i = 0; i < 4; ++i)
    add_action(lettering, cards[i], QKeySequence(QString("Alt+%1").arg(i + 1)), [this, card = list[i]] {
      if (!card->isVisibleTo(this))
        return;
      open_card(card);
      card->first_field()->setFocus();
    });

  QMenu* outline = menuBar()->addMenu(tr("&Outline"));
  weld_ = add_action(outline, tr("&Weld"), QKeySequence("Ctrl+J"), [this] { toggle_weld(); });
  weld_->setCheckable(true);
  outline->addSeparator();
  for (int i = 0; i <= static_cast<int>(NodeCommand::StartHere); ++i) {
    const auto command = static_cast<NodeCommand>(i);
    QAction* action = add_action(outline, node_command_name(command), {}, [this, command] { node_command(command); });
    node_actions_.emplace_back(command, action);
  }

  QMenu* arrange = menuBar()->addMenu(tr("A&rrange"));
  need_selection_.push_back(
      add_action(arrange, tr("To &front"), QKeySequence("Ctrl+Shift+PgUp"), [this] { order_selected(2); }));
  need_selection_.push_back(
      add_action(arrange, tr("For&ward"), QKeySequence("Ctrl+PgUp"), [this] { order_selected(1); }));
  need_selection_.push_back(
      add_action(arrange, tr("&Backward"), QKeySequence("Ctrl+PgDown"), [this] { order_selected(-1); }));
  need_selection_.push_back(
      add_action(arrange, tr("To bac&k"), QKeySequence("Ctrl+Shift+PgDown"), [this] { order_selected(-2); }));
  arrange->addSeparator();
  need_selection_.push_back(
      add_action(arrange, tr("&Centre on sheet"), QKeySequence("Ctrl+Shift+C"), [this] { centre_on_sheet(); }));
  lock_ = add_action(arrange, tr("&Lock"), QKeySequence("Ctrl+K"), [this] { toggle_lock(); });
  lock_->setCheckable(true);

  build_view_menu(menuBar()->addMenu(tr("&View")));

  QMenu* help = menuBar()->addMenu(tr("&Help"));
  add_action(help, tr("&Keys and handles"), QKeySequence::HelpContents, [this] { show_keys(); });
  add_action(help, tr("&About Frelm"), {}, [this] { show_about(); });

  for (int i = 0; i < 4; ++i) {
    auto* tool = new QAction(this);
    tool->setShortcut(QKeySequence(QString::number(i + 1)));
    connect(tool, &QAction::triggered, this, [this, i] {
      canvas_->set_tool(static_cast<ToolKind>(i));
      canvas_->setFocus();
    });
    addAction(tool);
  }
}

void MainWindow::build_view_menu(QMenu* view) {
  const QStringList views{tr("&Ink"), tr("&Lines"), tr("&Knife")};
  for (int i = 0; i < 3; ++i)
    add_action(view, views[i], QKeySequence(Qt::Key_F7 + i), [this, i] { canvas_->set_view(static_cast<View>(i)); });
  view->addSeparator();
  add_action(view, tr("Zoom &in"), QKeySequence("Ctrl++"),
             [this] { canvas_->zoom_by(1.25, QRectF(canvas_->rect()).center()); });
  add_action(view, tr("Zoom &out"), QKeySequence("Ctrl+-"),
             [this] { canvas_->zoom_by(0.8, QRectF(canvas_->rect()).center()); });
  add_action(view, tr("Whole &sheet"), QKeySequence("Ctrl+0"), [this] { canvas_->zoom_to_sheet(); });
  need_selection_.push_back(add_action(view, tr("S&election"), QKeySequence("Ctrl+Shift+0"), [this] {
    Box box;
    for (const PieceId id : session_.selection())
      if (const Result<PieceResult>& now = session_.seated(id); now)
        box.add(now->ink);
    canvas_->zoom_to(box);
  }));
  view->addSeparator();
  add_action(view, tr("&Millimetres"), {}, [this] { set_unit(Unit::Millimetre); });
  add_action(view, tr("I&nches"), {}, [this] { set_unit(Unit::Inch); });
  view->addSeparator();
  add_action(view, tr("To and from the &gap strip"), QKeySequence(Qt::Key_F6), [this] { jump_to_strip(); });
  add_action(view, tr("&Fold the gap strip"), QKeySequence("Shift+F6"),
             [this] { strip_->set_folded(!strip_->folded()); });
  add_action(view, tr("To the &Cut check"), QKeySequence("Ctrl+Shift+J"), [this] { check_->list()->setFocus(); });
  view->addSeparator();
  QMenu* look = view->addMenu(tr("&Appearance"));
  const QStringList looks{tr("As the &desktop"), tr("&Light"), tr("D&ark")};
  for (int i = 0; i < 3; ++i)
    add_action(look, looks[i], {}, [this, i] { set_appearance(static_cast<Appearance>(i)); });
}

void MainWindow::refresh_actions() {
  const History& h = session_.history();
  const Piece* piece = session_.selected();
  const QString undo_name = QString::fromStdString(h.undo_name()), redo_name = QString::fromStdString(h.redo_name());
  undo_->setEnabled(h.can_undo());
  redo_->setEnabled(h.can_redo());
  undo_->setText(undo_name.isEmpty() ? tr("&Undo") : tr("&Undo: %1").arg(undo_name));
  redo_->setText(redo_name.isEmpty() ? tr("&Redo") : tr("&Redo: %1").arg(redo_name));
  undo_button_->setEnabled(h.can_undo());
  redo_button_->setEnabled(h.can_redo());
  undo_button_->setToolTip(undo_name.isEmpty() ? tr("Nothing to undo") : tr("Undo: %1 (Ctrl+Z)").arg(undo_name));
  redo_button_->setToolTip(redo_name.isEmpty() ? tr("Nothing to redo") : tr("Redo: %1 (Ctrl+Shift+Z)").arg(redo_name));
  for (QAction* action : need_selection_)
    action->setEnabled(!session_.selection().empty());
  const bool lettering = piece != nullptr && piece->lettering() != nullptr;
  const bool outline = piece != nullptr && piece->outline() != nullptr;
  release_action_->setEnabled(lettering);
  reopen_action_->setEnabled(reopenable() != nullptr);
  weld_->setEnabled(lettering || outline);
  weld_->setChecked((lettering && piece->lettering()->recipe.finish.welds()) ||
                    (outline && piece->outline()->finish.welds()));
  const bool evens = lettering && can_be_evened(piece->lettering()->recipe);
  const SpacingMode mode = lettering ? piece->lettering()->recipe.spacing.mode : SpacingMode::AsSet;
  even_action_->setEnabled(evens);
  keep_action_->setEnabled(evens);
  even_action_->setChecked(evens && mode == SpacingMode::EvenGaps);
  keep_action_->setChecked(evens && mode == SpacingMode::KeepJoined);
  level_->setEnabled(lettering && (piece->lettering()->recipe.bend.kind == BendKind::Arc ||
                                   piece->lettering()->recipe.bend.kind == BendKind::Guide));
  const bool nodes = canvas_->tool() == ToolKind::Nodes && piece != nullptr && !lettering;
  for (const auto& [command, action] : node_actions_) {
    const bool whole_line = command == NodeCommand::Reverse || command == NodeCommand::Close;
    action->setEnabled(nodes && (whole_line || !session_.nodes_chosen().empty()));
  }
  lock_->setEnabled(piece != nullptr);
  lock_->setChecked(piece != nullptr && piece->locked);
}

void MainWindow::fill_recent() {
  recent_menu_->clear();
  for (const QString& path : settings_->value("recent").toStringList())
    connect(recent_menu_->addAction(path), &QAction::triggered, this,
            [this, path] { when_safe(tr("Open %1?").arg(path), [this, path] { open_file(path); }); });
  if (recent_menu_->isEmpty())
    recent_menu_->addAction(tr("Nothing yet"))->setEnabled(false);
}

void MainWindow::show_keys() {
  show_page([this] { return new KeysPage(*menuBar(), canvas_); });
}

void MainWindow::show_settings() {
  show_page([this] {
    auto* page = new SettingsPage(session_, *settings_, static_cast<int>(appearance_), canvas_);
    connect(page, &SettingsPage::appearance_chosen, this,
            [this](int choice) { set_appearance(static_cast<Appearance>(choice)); });
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
