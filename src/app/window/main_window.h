// The main window: puts the parts together, opens and saves. Layout and wiring in main_window.cpp, files in
// window_files.cpp, the menus that are the window's own in file_menu.cpp and help_menu.cpp.
#pragma once

#include "app/cards/backing_card.h"
#include "app/cards/came_in_card.h"
#include "app/cards/copies_card.h"
#include "app/cards/guide_cards.h"
#include "app/cards/jobs_card.h"
#include "app/cards/letter_card.h"
#include "app/cards/line_tool_card.h"
#include "app/cards/measure_card.h"
#include "app/cards/names_card.h"
#include "app/cards/order_card.h"
#include "app/cards/ruler_lines_card.h"
#include "app/cards/send_card.h"
#include "app/cards/tie_in_card.h"
#include "app/cards/trace_card.h"
#include "app/menus/desk.h"
#include "app/session/autosave.h"
#include "app/session/opening.h"
#include "app/strip/time_strip.h"
#include "app/window/columns.h"
#include "app/window/job_memory.h"
#include "app/window/names_view.h"
#include "app/window/page.h"
#include "app/window/recovery_list.h"
#include "app/window/status_row.h"
#include "app/window/top_row.h"
#include "app/window/walk.h"
#include "formats/export.h"
#include "formats/proof.h"

#include <QMainWindow>
#include <QPointer>
#include <QScrollArea>
#include <QSettings>

namespace frelm {

struct WindowOptions {
  QString recovery_folder;
  AutosaveTimes autosave;
  QString settings_file; // empty: the user's own settings
  QString examples_folder;
  std::shared_ptr<Storage> storage = std::make_shared<DiskStorage>(); // also used from other threads
  std::function<bool()> new_window = {}; // begins another one, a program of its own; none: it can't be done
};

class MainWindow : public QMainWindow {
  Q_OBJECT

public:
  MainWindow(FaceLibrary& faces, const WindowOptions& options);
  ~MainWindow() override;

  Session& session() { return session_; }
  Canvas& canvas() { return *canvas_; }
  QuestionBar& bar() { return *bar_; }
  CameInCard& came_in() { return *came_in_; }
  Columns& columns() { return *columns_; }
  Task& task() { return task_; }
  bool saving() const { return saving_.running(); }
  Autosave& autosave() { return *autosave_; }
  RecoveryList* recovery_list() { return recovery_list_; }
  LettersCard& letters_card() { return *letters_; }
  PiecesPanel& pieces_panel() { return *pieces_; }
  BendCard& bend_card() { return *bend_; }
  SpacingCard& spacing_card() { return *spacing_; }
  GapStrip& strip() { return *strip_; }
  TimeStrip& time_strip() { return *time_strip_; }
  KnifePlan& knife() { return knife_; }
  CutterLink& link() { return *link_; }
  SendCard& send_card() { return *send_card_; }
  OrderCard& order_card() { return *order_card_; }
  QString cut_log() const; // the file
  NameRows& names() { return names_; }
  NamesView& names_view() { return *names_view_; }
  NamesCard& names_card() { return *names_card_; }
  void open_names(const QString& path);
  void take_names(const std::string& bytes, const QString& source); // empty: pasted
  void export_rows(const QString& folder);
  void row_by_hand(int row);
  void open_card(Card* card); // the others fold
  const CommandTable& commands() const { return commands_; }
  OutlineMaker& maker() { return maker_; }
  const PictureTracer& tracer() const { return tracer_; }
  Desk& desk() { return *desk_; }
  QString path() const { return path_; }

  // Files; each tells its own errors in the bar.
  bool open_file(const QString& path); // at once, for the start
  // Beside the window; `then` only when all went well.
  void open_beside(const QString& path, const std::function<void()>& then = {}, OpenAs as = OpenAs::Job);
  void save_to(const QString& path, const std::function<void()>& then = {});
  void export_to(const QString& path); // by its suffix, else as the job was exported last
  void export_as(const ExportChoice& choice);
  void offer_recovery();
  void offer_walk(); // at the first start
  // Something was thrown while an event was handled: told, with the job as it was.
  void went_wrong(const QString& what);

  void show_keys();
  void show_settings();
  void show_jobs(bool on); // on the start card's side
  void fill_jobs();
  void picture_job(const QString& path);         // for the next time it is offered
  QString picture_of(const QString& path) const; // the file that holds it
  void show_help();                              // about what has the keyboard
  void begin_walk();
  void set_preferences(const Preferences& preferences);
  void use_preferences();
  void show_materials();
  void show_steps();
  void show_export();
  void show_proof();
  Document with_materials(Document document) const; // the user's own list where it has none
  void close_page();                                // the settings or the keys
  void set_appearance(Appearance appearance);

protected:
  void closeEvent(QCloseEvent* event) override;

private:
  void build_cards(QWidget* place);
  void build_menus();
  void fill_file_menu(QMenu* menu);
  void fill_help_menu(QMenu* menu);
  void wire();
  void restyle();

  void style_some();
  void show_cards();
  void refresh_parts();
  bool letter_by_itself() const;
  void show_backing_card();
  void show_ruler_lines_card();
  void show_copies(bool on);
  static std::unique_ptr<CutterLink> new_link(Storage& storage);
  void wire_knife();
  void wire_names();
  void show_view(); // the one that is chosen
  void send_job(const QString& address, int first);
  void send_to_file();
  void show_cut_log();
  void show_tie_in(bool on);
  void show_trace(bool on);
  void show_tracing();          // what would come of it
  void look_at(const Box& box); // so that it fills the canvas
  void refresh_all();
  void refresh_actions();
  void refresh_title();

  void new_job();
  void open_dialog();
  void save(const std::function<void()>& then = {});
  void save_as(const std::function<void()>& then = {});
  QString beside_job() const;
  ExportChoice remembered_export() const;
  void export_again();
  void save_proof(const ProofForm& form, const QString& path);
  void open_example(const QString& name);
  void fill_examples(QMenu* menu);
  void show_opened(const QString& path, Opened opened);
  void not_opened(const QString& path, const Error& error);
  void open_dropped(const QStringList& paths, Point at);
  void bring_back(const RecoveredJob& job);
  void show_left_behind();
  void dealt_with(const RecoveredJob& job);
  void remember(const QString& path);
  void fill_recent();
  void when_safe(const QString& question, const std::function<void()>& go);
  void load(Document document, const QString& path, Versions versions = {});
  void hold_job();
  void let_go_of_job();

  void show_page(const std::function<Page*()>& make);
  void show_about();
  void pieces_menu(QPoint at);
  void told_of_history();

  FaceLibrary& faces_;
  WindowOptions options_;
  std::unique_ptr<QSettings> settings_;
  JobMemory memory_{*settings_};
  std::shared_ptr<Storage> storage_;
  Session session_;
  OutlineMaker maker_{session_};
  PictureTracer tracer_{session_};
  KnifePlan knife_{session_};
  NameRows names_{session_};
  std::unique_ptr<CutterLink> link_;
  std::unique_ptr<Autosave> autosave_; // goes before the session that it reads
  Task task_, saving_;
  std::function<void()> next_save_;
  std::vector<RecoveredJob> left_behind_; // not yet brought back or thrown away
  std::unique_ptr<RecoveryPictures> left_pictures_;
  QPointer<RecoveryList> recovery_list_;
  QPointer<Page> page_; // settings or help
  QString path_;
  QString lock_file_;
  QString held_path_;                        // of the job that job_lock_ holds
  std::shared_ptr<const FileLock> job_lock_; // null: another window has it
  QString lost_;                             // what could not be read of the file at path_
  bool told_of_history_ = false;
  Appearance appearance_ = Appearance::Desktop;
  bool closing_ = false;

  Canvas* canvas_;
  QuestionBar* bar_;
  CameInCard* came_in_;
  BackingCard* backing_card_;
  MeasureCard* measure_card_;
  CopiesCard* copies_card_;
  TieInCard* tie_in_card_;
  TraceCard* trace_card_;
  NamesCard* names_card_;
  NamesView* names_view_;
  MachineCard* machine_card_;
  OrderCard* order_card_;
  SendCard* send_card_;
  bool tracing_ = false; // asked for, while there is a backing
  LettersCard* letters_;
  BendCard* bend_;
  SpacingCard* spacing_;
  FinishCard* finish_;
  ReleaseBox* release_;
  OutlineCard* outline_card_;
  GuideCard* guide_card_;
  GuideKindCard* kind_card_;
  NodesCard* nodes_card_;
  LineToolCard *snip_card_, *space_card_, *sand_card_;
  LetterCard* letter_card_;
  ManyCard* many_card_;
  StartCard* start_card_;
  SheetCard* sheet_card_;
  RulerLinesCard* ruler_lines_card_;
  PiecesPanel* pieces_;
  CheckPanel* check_;
  GapStrip* strip_;
  TimeStrip* time_strip_;
  JobsCard* jobs_card_;
  NewestWorker pictures_{15};
  QPointer<Walk> walk_;
  QScrollArea* card_scroll_;
  Columns* columns_;
  TopRow* top_;
  StatusRow* status_;

  std::vector<QPointer<QWidget>> unstyled_;
  std::pair<PieceId, std::size_t> shown_as_; // what the cards are for: a piece and its sort

  std::optional<Desk> desk_; // once its parts are made
  CommandTable commands_{this};
  QMenu *recent_menu_ = nullptr, *add_menu_ = nullptr;
};

} // namespace frelm
