// The main window: puts the parts together and carries out commands. Layout in main_window.cpp, menus in menus/,
// files in window_files.cpp, commands on pieces in window_commands.cpp.
#pragma once

#include "app/canvas/canvas.h"
#include "app/cards/bend_card.h"
#include "app/cards/guide_cards.h"
#include "app/cards/letter_card.h"
#include "app/cards/letters_card.h"
#include "app/cards/small_cards.h"
#include "app/check/check_panel.h"
#include "app/commands/command_table.h"
#include "app/pieces/pieces_panel.h"
#include "app/strip/gap_strip.h"
#include "app/style/scheme.h"
#include "app/window/autosave.h"
#include "app/window/copied_pieces.h"
#include "app/window/opening.h"
#include "app/window/page.h"
#include "app/window/question_bar.h"
#include "app/window/recovery_list.h"
#include "app/window/task.h"

#include <QMainWindow>
#include <QPointer>
#include <QSettings>
#include <QSplitter>

namespace frelm {

struct WindowOptions {
  QString recovery_folder;
  AutosaveTimes autosave;
  QString settings_file; // empty: the user's own settings
  QString examples_folder;
  std::shared_ptr<Storage> storage = std::make_shared<DiskStorage>(); // also used from other threads
};

class MainWindow : public QMainWindow {
  Q_OBJECT

public:
  MainWindow(FaceLibrary& faces, const WindowOptions& options);
  ~MainWindow() override;

  Session& session() { return session_; }
  Canvas& canvas() { return *canvas_; }
  QuestionBar& bar() { return *bar_; }
  Task& task() { return task_; }
  bool saving() const { return saving_.running(); }
  Autosave& autosave() { return *autosave_; }
  RecoveryList* recovery_list() { return recovery_list_; }
  LettersCard& letters_card() { return *letters_; }
  BendCard& bend_card() { return *bend_; }
  SpacingCard& spacing_card() { return *spacing_; }
  GapStrip& strip() { return *strip_; }
  void open_card(Card* card); // the others fold
  const CommandTable& commands() const { return commands_; }
  QString path() const { return path_; }

  // Files; each tells its own errors in the bar.
  bool open_file(const QString& path); // at once, for the start
  // Beside the window; `then` only when all went well.
  void open_beside(const QString& path, const std::function<void()>& then = {});
  void save_to(const QString& path, const std::function<void()>& then = {});
  void export_to(const QString& path); // .svg or .png
  void offer_recovery();
  // Something was thrown while an event was handled: told, with the job as it was.
  void went_wrong(const QString& what);

  // Commands; the menus, keys and buttons call these.
  void letter_it(const QString& words);
  void add_lettering();
  void add_guide(std::size_t kind); // an index of GuideShape: of usual size, or the tool to draw it with
  void add_badge();
  void add_spiral_text();
  // Beside the window, as one step; centred there, or where they say themselves.
  void add_drawings(std::vector<DrawingSource> drawings, std::optional<Point> centre);
  void node_command(NodeCommand command);
  void release_selected(ReleaseAs as, GuideAfter guide);
  void reopen_selected();
  void delete_selected();
  void show_keys();
  void show_settings();
  void close_page(); // the settings or the keys
  void set_appearance(Appearance appearance);

protected:
  void closeEvent(QCloseEvent* event) override;

private:
  void build_top_row(QWidget* row);
  QWidget* build_left();
  QWidget* build_right();
  void build_status(QWidget* row);
  void build_menus(); // each in a file of its own, window/menus
  void fill_file_menu(QMenu* menu);
  void fill_edit_menu(QMenu* menu);
  void fill_add_menu(QMenu* menu);
  void fill_lettering_menu(QMenu* menu);
  void fill_outline_menu(QMenu* menu);
  void fill_arrange_menu(QMenu* menu);
  void fill_view_menu(QMenu* menu);
  void fill_help_menu(QMenu* menu);
  // Why not, for what works on the selection, or on one lettering (which may have a reason of its own).
  std::function<QString()> needs_selection() const;
  std::function<QString()> needs_lettering(std::function<QString(const Lettering&)> why_not = {}) const;
  const Lettering* selected_lettering() const;
  void wire();
  void restyle();

  void bend_selected_together();
  void level_selected();
  const Piece* reopenable() const;
  void style_some();
  void show_cards();
  void refresh_parts();
  bool letter_by_itself() const;
  void refresh_all();
  void refresh_status();
  void refresh_actions();
  void refresh_title();

  void new_job();
  void open_dialog();
  void save(const std::function<void()>& then = {});
  void save_as(const std::function<void()>& then = {});
  void export_dialog(const QString& suffix);
  void open_example(const QString& name);
  void fill_examples(QMenu* menu);
  void show_opened(const QString& path, Opened opened);
  void not_opened(const QString& path, const Error& error);
  void open_dropped(const QStringList& paths, Point at);
  void bring_back(const RecoveredJob& job);
  void remember(const QString& path);
  void fill_recent();
  void when_safe(const QString& question, const std::function<void()>& go);
  void load(Document document, const QString& path);

  void release_pieces(const std::vector<PieceId>& ids, ReleaseAs as, GuideAfter guide);
  void copy_selected();
  void paste();
  void insert_pasted(const Pasted& pasted);
  void select_copies(const QString& name, Inserted copies);
  void duplicate_selected();
  void select_all();
  void order_selected(int where);
  void toggle_weld();
  void toggle_lock();
  void centre_on_sheet();
  void set_unit(Unit unit);
  void show_page(const std::function<Page*()>& make);
  void show_about();
  void jump_to_strip();
  void type_gaps(double mm);
  void pieces_menu(QPoint at);
  void report(const Error& error);
  // A piece of long work, one at a time. `stale` is told instead when the job was changed meanwhile; empty: that is no
  // matter.
  template <class T>
  void start_task(const QString& name, std::function<Result<T>(std::stop_token)> work,
                  std::function<void(Result<T>)> done, const QString& stale = {}) {
    const auto finished = [this, done, stale, step = session_.history().current().id](Result<T> result) {
      if (!stale.isEmpty() && result && step != session_.history().current().id)
        bar_->tell(stale);
      else
        done(std::move(result));
    };
    if (!task_.start<T>(name, std::move(work), finished))
      bar_->tell(tr("%1 is still going on; wait or cancel it").arg(task_.name()));
  }
  void cure(const std::vector<PieceId>& pieces, Cure cure);
  void told_of_history();

  FaceLibrary& faces_;
  WindowOptions options_;
  std::unique_ptr<QSettings> settings_;
  std::shared_ptr<Storage> storage_;
  Session session_;
  std::unique_ptr<Autosave> autosave_; // goes before the session that it reads
  Task task_, saving_;
  std::function<void()> next_save_;
  QPointer<RecoveryList> recovery_list_;
  QPointer<Page> page_; // settings or help
  QString path_;
  QString lost_; // what could not be read of the file at path_
  bool told_of_history_ = false;
  Appearance appearance_ = Appearance::Desktop;
  bool closing_ = false;

  Canvas* canvas_;
  QuestionBar* bar_;
  LettersCard* letters_;
  BendCard* bend_;
  SpacingCard* spacing_;
  FinishCard* finish_;
  ReleaseBox* release_;
  OutlineCard* outline_card_;
  GuideCard* guide_card_;
  GuideKindCard* kind_card_;
  NodesCard* nodes_card_;
  LetterCard* letter_card_;
  ManyCard* many_card_;
  StartCard* start_card_;
  SheetCard* sheet_card_;
  PiecesPanel* pieces_;
  CheckPanel* check_;
  GapStrip* strip_;
  QSplitter *across_, *down_;

  std::vector<QToolButton*> tool_buttons_;
  QToolButton *undo_button_, *redo_button_, *sheet_button_, *zoom_button_;
  ChoiceRow *view_row_, *unit_row_;
  QLabel *selection_label_, *counts_label_, *guide_label_, *pointer_label_, *work_label_;
  QPushButton* cancel_button_;

  std::vector<QPointer<QWidget>> unstyled_;
  std::pair<PieceId, std::size_t> shown_as_; // what the cards are for: a piece and its sort

  CommandTable commands_{this};
  QMenu *recent_menu_ = nullptr, *add_menu_ = nullptr;
};

} // namespace frelm
