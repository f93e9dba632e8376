#include "app/window/main_window.h"

#include "app/canvas/spoken_sheet.h"
#include "app/commands/colour_choice.h"
#include "app/commands/copied_pieces.h"
#include "app/menus/add_menu.h"
#include "app/menus/arrange_menu.h"
#include "app/menus/drawings.h"
#include "app/menus/edit_menu.h"
#include "app/menus/lettering_menu.h"
#include "app/menus/outline_menu.h"
#include "app/menus/place_menu.h"
#include "app/menus/view_menu.h"
#include "app/style/spoken_button.h"
#include "app/window/card_scroll.h"
#include "app/window/history_page.h"
#include "app/window/settings_page.h"
#include "document/outline_edits.h"

#include <QAccessible>
#include <QApplication>
#include <QClipboard>
#include <QCloseEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMenuBar>
#include <QScreen>
#include <QTimer>
#include <QVBoxLayout>

namespace frelm {

MainWindow::MainWindow(FaceLibrary& faces, const WindowOptions& options)
    : faces_(faces), options_(options),
      settings_(options.settings_file.isEmpty()
                    ? std::make_unique<QSettings>()
                    : std::make_unique<QSettings>(options.settings_file, QSettings::IniFormat)),
      storage_(options.storage), session_(faces), link_(new_link(*storage_)),
      autosave_(std::make_unique<Autosave>(session_, *storage_, options.recovery_folder, options.autosave)) {
  QAccessible::installFactory(&spoken_sheet);
  QAccessible::installFactory(&spoken_button);
  session_.set_preferences(read_preferences(*settings_));
  session_.reset(with_materials({}));
  appearance_ = static_cast<Appearance>(settings_->value("appearance", 0).toInt());
  apply_appearance(*qApp, appearance_);
  apply_text_size(*qApp, session_.preferences().text);
  setWindowIcon(QIcon(":/icons/frelm.svg"));
  // From the outside in: with a style sheet a widget that is put into another one is styled anew with all that it
  // holds, which took half of the start.
  auto* central = new QWidget(this);
  setCentralWidget(central);
  auto* all = new QVBoxLayout(central);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(0);
  canvas_ = new Canvas(session_, central);
  bar_ = new QuestionBar(canvas_);
  auto* cards = new QWidget(central);
  top_ = new TopRow(session_, *canvas_, commands_, central);
  strip_ = new GapStrip(session_, central), time_strip_ = new TimeStrip(session_, knife_, central);
  pieces_ = new PiecesPanel(session_, central);
  check_ = new CheckPanel(session_, central);
  columns_ = new Columns(session_, {cards, canvas_, strip_, time_strip_, pieces_, check_}, central);
  status_ = new StatusRow(session_, *canvas_, task_, saving_, central);
  all->addWidget(top_);
  all->addWidget(columns_, 1);
  all->addWidget(status_);
  build_cards(cards);
  desk_.emplace(Desk{.session = session_,
                     .faces = faces_,
                     .storage = *storage_,
                     .task = task_,
                     .canvas = *canvas_,
                     .bar = *bar_,
                     .maker = maker_,
                     .letters = *letters_,
                     .bend = *bend_,
                     .spacing = *spacing_,
                     .finish = *finish_,
                     .release = *release_,
                     .strip = *strip_,
                     .check = *check_,
                     .open_card = [this](Card& card) { open_card(&card); },
                     .keep_now = [this] { autosave_->keep_now(); },
                     .fold_strip = [this](bool folded) { columns_->set_strip_folded(folded); },
                     .show_check = [this] { columns_->show_tab(Columns::Tab::Check); },
                     .show_settings = [this] { show_settings(); },
                     .show_materials = [this] { show_materials(); },
                     .show_copies = [this] { show_copies(true); },
                     .show_tie_in = [this] { show_tie_in(true); },
                     .show_trace = [this] { show_trace(true); },
                     .show_steps = [this] { show_steps(); },
                     .show_arrivals =
                         [this](std::vector<Arrival> came) {
                           came_in_->show_arrivals(std::move(came));
                           refresh_actions();
                         },
                     .show_came_in = [this] { came_in_->show_again(); },
                     .came_in = [this] { return came_in_->holds(); },
                     .appearance = [this] { return appearance_; },
                     .set_appearance = [this](Appearance a) { set_appearance(a); }});
  build_menus();
  for (FinishPart* steps : {&finish_->steps(), &outline_card_->steps(), &guide_card_->steps()})
    steps->offer(commands_, {"outline.add.border", "outline.add.block-shade", "outline.add.drop-shade",
                             "outline.add.weld", "outline.add.thin", "outline.add.round", "outline.add.tab",
                             "outline.add.ties", "outline.add.stencil", "outline.draw-ties", "outline.add.mirror"});
  outline_card_->put_in(new OutlinePart(session_, maker_, commands_, OutlinePart::For::One));
  many_card_->offer(commands_,
                    {"lettering.ride-on-it", "lettering.between-these", "lettering.fill-it", "lettering.together",
                     "lettering.finish-together", "outline.tie-in", "lettering.release"});
  auto* place = new PlacePart(session_, commands_);
  connect(place, &PlacePart::turn_wanted, this, [this](double degrees) { turn_selected(*desk_, degrees); });
  many_card_->put_in(place, new OutlinePart(session_, maker_, commands_, OutlinePart::For::Several));
  wire();
  resize(QSize(1280, 800).boundedTo(screen()->availableSize()));
  if (settings_->contains("window/geometry"))
    restoreGeometry(settings_->value("window/geometry").toByteArray());
  columns_->recall(*settings_);
  restyle();
  use_preferences();
  new_job();
  // What has not been shown yet is made and styled while nothing else is to do, so that the first time is as quick as
  // the next.
  constexpr int after_start = 1200, apart = 40; // ms
  QTimer::singleShot(after_start, this, [this] { bend_->rails(); });
  QTimer::singleShot(after_start + apart, this, [this] {
    bend_->net();
    for (QWidget* w : findChildren<QWidget*>())
      unstyled_.push_back(w);
    style_some();
  });
}

void MainWindow::style_some() {
  constexpr int at_once = 4; // below a millisecond
  for (int i = 0; i < at_once && !unstyled_.empty(); ++i) {
    if (unstyled_.back() != nullptr)
      unstyled_.back()->ensurePolished();
    unstyled_.pop_back();
  }
  if (!unstyled_.empty())
    QTimer::singleShot(2, this, &MainWindow::style_some);
}

MainWindow::~MainWindow() {
  close_page();               // its fields read the session as they lose the focus
  check_->parts().end_work(); // which asks the session
  knife_.end();
  names_.end();
  link_->end();
  if (const auto* copied = qobject_cast<const CopiedPieces*>(QApplication::clipboard()->mimeData()))
    QApplication::clipboard()->setMimeData(copied->written());
  task_.cancel();
  session_.stop_work();
  let_go_of_job();
}

void MainWindow::build_cards(QWidget* place) {
  auto* all = new QVBoxLayout(place);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(8);
  auto* scroll = card_scroll_ = new CardScroll(place);
  auto* column = new QWidget(scroll);
  all->addWidget(scroll, 1);
  scroll->setObjectName("panel");
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setFocusPolicy(Qt::NoFocus);
  scroll->setWidget(column);
  auto* cards = new QVBoxLayout(column);
  cards->setContentsMargins(0, 0, 0, 0);
  cards->setSpacing(6);
  for (Card* card : {static_cast<Card*>(came_in_ = new CameInCard(session_, column)),
                     static_cast<Card*>(kind_card_ = new GuideKindCard(session_, column)),
                     static_cast<Card*>(nodes_card_ = new NodesCard(session_, column)),
                     static_cast<Card*>(snip_card_ = new LineToolCard(ToolKind::Snip, session_, column)),
                     static_cast<Card*>(space_card_ = new LineToolCard(ToolKind::Space, session_, column)),
                     static_cast<Card*>(sand_card_ = new LineToolCard(ToolKind::Sand, session_, column)),
                     static_cast<Card*>(measure_card_ = new MeasureCard(session_, column)),
                     static_cast<Card*>(copies_card_ = new CopiesCard(session_, column)),
                     static_cast<Card*>(tie_in_card_ = new TieInCard(session_, column)),
                     static_cast<Card*>(letter_card_ = new LetterCard(session_, column)),
                     static_cast<Card*>(names_card_ = new NamesCard(session_, names_, column)),
                     static_cast<Card*>(machine_card_ = new MachineCard(session_, knife_, column)),
                     static_cast<Card*>(order_card_ = new OrderCard(session_, knife_, column)),
                     static_cast<Card*>(send_card_ = new SendCard(session_, knife_, *link_, column)),
                     static_cast<Card*>(start_card_ = new StartCard(session_, column)),
                     static_cast<Card*>(letters_ = new LettersCard(session_, column)),
                     static_cast<Card*>(bend_ = new BendCard(session_, column)),
                     static_cast<Card*>(spacing_ = new SpacingCard(session_, column)),
                     static_cast<Card*>(finish_ = new FinishCard(session_, column)),
                     static_cast<Card*>(outline_card_ = new OutlineCard(session_, column)),
                     static_cast<Card*>(guide_card_ = new GuideCard(session_, column)),
                     static_cast<Card*>(many_card_ = new ManyCard(session_, column)),
                     static_cast<Card*>(backing_card_ = new BackingCard(session_, column)),
                     static_cast<Card*>(trace_card_ = new TraceCard(session_, tracer_, column)),
                     static_cast<Card*>(sheet_card_ = new SheetCard(session_, column)),
                     static_cast<Card*>(jobs_card_ = new JobsCard(session_, column)),
                     static_cast<Card*>(ruler_lines_card_ = new RulerLinesCard(session_, column))})
    cards->addWidget(card);
  jobs_card_->hide(); // until it is filled
  cards->addStretch(1);
  release_ = new ReleaseBox(session_, place);
  all->addWidget(release_);
  for (Card* card : {static_cast<Card*>(letters_), static_cast<Card*>(bend_), static_cast<Card*>(spacing_),
                     static_cast<Card*>(finish_)})
    connect(card, &Card::opened, this, [this, card] { open_card(card); });
  bend_->set_open(true);
  for (Card* card :
       {static_cast<Card*>(copies_card_), static_cast<Card*>(tie_in_card_), static_cast<Card*>(trace_card_)})
    card->hide(); // until they are asked for
}

void MainWindow::build_menus() {
  fill_file_menu(menuBar()->addMenu(tr("&File")));
  fill_edit_menu(commands_, menuBar()->addMenu(tr("&Edit")), *desk_);
  add_menu_ = menuBar()->addMenu(tr("&Add"));
  fill_add_menu(commands_, add_menu_, *desk_);
  fill_lettering_menu(commands_, menuBar()->addMenu(tr("&Lettering")), *desk_);
  fill_outline_menu(commands_, menuBar()->addMenu(tr("&Outline")), *desk_);
  fill_arrange_menu(commands_, menuBar()->addMenu(tr("A&rrange")), *desk_);
  fill_view_menu(commands_, menuBar()->addMenu(tr("&View")), *desk_);
  fill_help_menu(menuBar()->addMenu(tr("&Help")));
}

void MainWindow::wire() {
  connect(&session_, &Session::document_changed, this, &MainWindow::refresh_all);
  connect(&session_, &Session::selection_changed, this, [this] {
    columns_->fit_strip();
    show_cards();
    refresh_all();
  });
  connect(&session_, &Session::gaps_changed, spacing_, &Card::refresh);
  connect(canvas_, &Canvas::view_moved, this, [this] { strip_->view()->follow(canvas_->visible()); });
  connect(strip_->view(), &GapView::problem, bar_, &QuestionBar::tell);
  connect(strip_->view(), &GapView::long_typing, this, [this](double mm) { type_gaps(*desk_, mm); });
  connect(&session_, &Session::results_changed, this, [this] {
    finish_->refresh();
    outline_card_->refresh();
    guide_card_->refresh();
  });
  connect(&maker_, &OutlineMaker::changed, this, [this] {
    const auto& picture = maker_.picture();
    canvas_->show_made(picture ? MadePicture{picture->stays, picture->goes} : MadePicture{});
  });
  connect(&session_, &Session::history_changed, this, [this] {
    bar_->document_edited();
    refresh_actions();
    refresh_title();
    told_of_history();
  });
  connect(canvas_, &Canvas::tool_changed, this, [this] {
    show_cards();
    refresh_all();
  });
  connect(canvas_, &Canvas::guide_kind_changed, this, [this] { kind_card_->show_kind(canvas_->guide_kind()); });
  connect(kind_card_, &GuideKindCard::chosen, this, [this](std::size_t kind) {
    canvas_->set_guide_kind(kind);
    canvas_->set_tool(ToolKind::Guide);
    kind_card_->show_kind(kind);
    canvas_->setFocus();
  });
  kind_card_->show_kind(canvas_->guide_kind());
  connect(guide_card_, &GuideCard::letter_it, this, [this](const QString& words) {
    if (const Piece* guide = session_.selected())
      letter_on(*desk_, guide->id, words);
  });
  connect(guide_card_, &GuideCard::edit_nodes, this, [this] { canvas_->set_tool(ToolKind::Nodes); });
  connect(nodes_card_, &NodesCard::command, this, [this](NodeCommand c) { node_command(*desk_, c); });
  connect(&session_, &Session::part_changed, this, &MainWindow::refresh_parts);
  connect(bend_, &BendCard::problem, bar_, &QuestionBar::tell);
  connect(bend_, &BendCard::level_wanted, this, [this] { level_selected(*desk_); });
  connect(bend_, &BendCard::pick_shape, this, [this] {
    canvas_->set_tool(ToolKind::Shape);
    canvas_->setFocus();
    bar_->tell(tr("Click the closed line, or the space between lines, that the letters are to fill"));
  });
  connect(canvas_, &Canvas::view_changed, this, &MainWindow::refresh_actions);
  connect(canvas_, &Canvas::hand_lifted, columns_, &Columns::fit_strip);
  connect(strip_, &GapStrip::fold_wanted, columns_, &Columns::set_strip_folded);
  connect(top_, &TopRow::unit_wanted, this, [this](Unit unit) { set_unit(*desk_, unit); });
  connect(top_, &TopRow::sheet_wanted, this, [this] {
    session_.select({});
    columns_->show_tab(Columns::Tab::Cards);
    if (auto* field = sheet_card_->findChild<MeasureField*>())
      field->setFocus();
  });
  connect(canvas_, &Canvas::type_text, this, [this] { desk_->type_words(); });
  connect(canvas_, &Canvas::refused, bar_, &QuestionBar::tell);
  connect(pieces_, &PiecesPanel::materials_wanted, this, &MainWindow::show_materials);
  connect(canvas_, &Canvas::context_menu, this, &MainWindow::pieces_menu);
  connect(canvas_, &Canvas::files_dropped, this, &MainWindow::open_dropped);
  connect(&check_->parts(), &PartsList::light, this,
          [this](const std::shared_ptr<const Outline>& part, const std::vector<Point>& contacts) {
            canvas_->show_made({part, nullptr, contacts});
          });
  connect(&check_->parts(), &PartsList::look_at, this, &MainWindow::look_at);
  connect(check_, &CheckPanel::cure, this,
          [this](const std::vector<PieceId>& pieces, Cure by) { cure(*desk_, pieces, by); });
  connect(&session_, &Session::refused, this, [this](const QString& why) {
    refresh_all(); // fields go back to what holds
    bar_->tell(why);
  });
  connect(came_in_, &CameInCard::look_at, this, &MainWindow::look_at);
  connect(tie_in_card_, &TieInCard::closed, this, [this] { show_tie_in(false); });
  connect(tie_in_card_, &TieInCard::problem, bar_, &QuestionBar::tell);
  connect(tie_in_card_, &TieInCard::find_wanted, this, [this](const TieInWish& wish) {
    find_tie_in_places(*desk_, wish, [this](const Document& in, const Result<FoundInFrame>& found) {
      tie_in_card_->show_found(in, found);
    });
  });
  connect(tie_in_card_, &TieInCard::one_wanted, this, [this](const WordInFrame& pair, double width) {
    make_one_piece(*desk_, pair, width, [this] { show_tie_in(false); });
  });
  connect(tie_in_card_, &TieInCard::numbered, this, [this](const std::vector<Point>& places) {
    canvas_->show_made({nullptr, nullptr, places});
  });
  connect(copies_card_, &CopiesCard::closed, this, [this] { show_copies(false); });
  connect(copies_card_, &CopiesCard::wanted, this, [this](const CopyOrder& order, CopyAs as) {
    make_copies(*desk_, order, as, [this] { show_copies(false); });
  });
  connect(copies_card_, &CopiesCard::shown, this, [this](const std::shared_ptr<const Outline>& copies) {
    canvas_->show_made({copies, nullptr});
  });
  connect(measure_card_, &MeasureCard::problem, bar_, &QuestionBar::tell);
  connect(&session_, &Session::measured_changed, canvas_, qOverload<>(&QWidget::update));
  connect(backing_card_, &BackingCard::by_hand, this, [this](bool on) {
    canvas_->set_tool(on ? ToolKind::Backing : ToolKind::Select);
    canvas_->setFocus();
  });
  connect(backing_card_, &BackingCard::known_length, this, [this] {
    canvas_->set_tool(ToolKind::Measure);
    canvas_->setFocus();
  });
  connect(backing_card_, &BackingCard::trace_wanted, this, [this] { show_trace(true); });
  connect(trace_card_, &TraceCard::closed, this, [this] { show_trace(false); });
  connect(trace_card_, &TraceCard::draw_part, this, [this](bool on) {
    canvas_->set_tool(on ? ToolKind::Part : ToolKind::Select);
    canvas_->setFocus();
  });
  connect(canvas_, &Canvas::part_drawn, trace_card_, &TraceCard::take_part);
  connect(trace_card_, &TraceCard::wanted, this, [this](bool keep) {
    if (make_traced(*desk_, tracer_, keep))
      show_trace(false);
  });
  connect(&tracer_, &PictureTracer::changed, this, [this] { show_tracing(); });
  connect(came_in_, &CameInCard::size_wanted, this, [this](std::size_t at, double size) {
    resize_drawing(*desk_, came_in_->arrivals()[at], size);
    canvas_->zoom_to_drawing();
  });
  connect(came_in_, &CameInCard::place_wanted, this, [this](std::size_t at) {
    const Arrival& arrival = came_in_->arrivals()[at];
    session_.apply(tr("Place as in the file"), placed_as_in_file(session_.document(), arrival), arrival.pieces);
    canvas_->zoom_to_drawing();
  });
  connect(came_in_, &CameInCard::clean_wanted, this, [this](const QString& step, const CleanStep& clean) {
    desk_->start_step(
        tr("Cleaning"), step,
        [document = session_.document(), clean](std::stop_token) -> Result<Document> { return clean(document); },
        tr("The job was changed meanwhile, so nothing was cleaned; try again"));
  });
  connect(came_in_, &CameInCard::again_wanted, this, [this](std::size_t at, const TakeAs& as) {
    take_drawing_again(*desk_, came_in_->arrivals()[at], as, [this, at](std::optional<Arrival> again) {
      if (again)
        came_in_->replace(at, std::move(*again));
      else
        came_in_->show_again(); // as it is
    });
  });
  connect(check_, &CheckPanel::look_at, this, [this](const Finding& f) {
    if (f.piece != 0 && session_.document().find(f.piece) == nullptr) // deleted since
      return;
    if (f.piece != 0)
      session_.select({f.piece});
    const Box box = f.where.empty() && session_.seated(f.piece) ? session_.seated(f.piece)->ink : f.where;
    look_at(box);
  });
  letters_->faces().set_favourites(settings_->value("faces/favourites").toStringList());
  connect(&letters_->faces(), &FaceChoice::favourites_changed, this,
          [this] { settings_->setValue("faces/favourites", letters_->faces().favourites()); });
  connect(letters_, &LettersCard::problem, bar_, &QuestionBar::tell);
  connect(letters_, &LettersCard::width_asked, this, [this](double mm) { fit_by_face_width(*desk_, mm); });
  connect(outline_card_, &OutlineCard::problem, bar_, &QuestionBar::tell);
  connect(many_card_, &ManyCard::problem, bar_, &QuestionBar::tell);
  connect(outline_card_, &OutlineCard::reopen, this, [this] { reopen_selected(*desk_); });
  connect(release_, &ReleaseBox::pick_colour, this, [this](std::size_t line) {
    const Piece* piece = session_.selected();
    if (piece == nullptr || piece->lettering() == nullptr)
      return;
    choose_colour(this, QCursor::pos(), session_, [this, line, id = piece->id](Colour c) {
      session_.edit(tr("Change a line's colour"), id, [&](Piece& p) {
        std::vector<Colour>& own = p.lettering()->line_colours;
        while (own.size() <= line)
          own.push_back(p.colour);
        own[line] = c;
      });
    });
  });
  connect(release_, &ReleaseBox::release, this,
          [this] { release_selected(*desk_, release_->as(), release_->guide()); });
  connect(start_card_, &StartCard::letter_it, this, [this](const QString& words) { letter_it(*desk_, words); });
  connect(start_card_, &StartCard::open, this, &MainWindow::open_dialog);
  connect(start_card_, &StartCard::badge, this, [this] { add_badge(*desk_); });
  connect(start_card_, &StartCard::show_examples, this, [this](QPoint at) {
    QMenu menu;
    fill_examples(&menu);
    menu.exec(at);
  });
  connect(jobs_card_, &JobsCard::open, this,
          [this](const QString& path) { when_safe(tr("Open %1?").arg(path), [this, path] { open_file(path); }); });
  connect(jobs_card_, &JobsCard::bring_back, this, [this](const QString& file) {
    const auto job = std::find_if(left_behind_.begin(), left_behind_.end(),
                                  [&](const RecoveredJob& j) { return QString::fromStdString(j.file) == file; });
    if (job != left_behind_.end())
      when_safe(tr("Bring back the other job?"), [this, back = *job] { bring_back(back); });
  });
  connect(jobs_card_, &JobsCard::open_example, this,
          [this](const QString& path) { open_example(QFileInfo(path).completeBaseName()); });
  connect(autosave_.get(), &Autosave::problem, bar_, &QuestionBar::tell);
  wire_knife();
  wire_names();
}

void MainWindow::set_appearance(Appearance appearance) {
  appearance_ = appearance;
  settings_->setValue("appearance", static_cast<int>(appearance));
  apply_appearance(*qApp, appearance);
  restyle();
  refresh_actions();
}

void MainWindow::set_preferences(const Preferences& preferences) {
  session_.set_preferences(preferences);
  write_preferences(*settings_, preferences);
  use_preferences();
  restyle();
}

// What does not ask for them when it needs them.
void MainWindow::use_preferences() {
  const Preferences& own = session_.preferences();
  apply_text_size(*qApp, own.text);
  AutosaveTimes times = options_.autosave;
  if (own.keep_after != Preferences{}.keep_after) {
    constexpr double ms = 1000;
    times.rest_ms = static_cast<int>(own.keep_after * ms);
    times.longest_ms = std::max(times.longest_ms, times.rest_ms);
  }
  autosave_->set_times(times);
}

void MainWindow::restyle() {
  top_->restyle();
  for (QWidget* w : card_scroll_->findChildren<QWidget*>())
    w->ensurePolished();
  card_scroll_->updateGeometry(); // what cards in it need is not told by itself
  for (Card* card : {static_cast<Card*>(letters_), static_cast<Card*>(bend_), static_cast<Card*>(spacing_),
                     static_cast<Card*>(finish_)})
    card->restyle();
  kind_card_->restyle();
  pieces_->restyle();
  check_->restyle();
  strip_->restyle();
  time_strip_->restyle();
  names_view_->restyle();
  update();
}

void MainWindow::show_cards() {
  const Piece* piece = session_.selected();
  const ToolKind tool = canvas_->tool();
  // These views have cards of their own.
  const bool names = canvas_->view() == View::Names, knife = canvas_->view() == View::Knife, other = names || knife;
  const bool nodes = tool == ToolKind::Nodes,
             lines = tool == ToolKind::Snip || tool == ToolKind::Space || tool == ToolKind::Sand;
  const bool drawing = tool == ToolKind::Guide || lines;
  const bool backing = tool == ToolKind::Backing, measure = tool == ToolKind::Measure;
  const bool pieces =
      !drawing && !nodes && !backing && !measure && tool != ToolKind::Part && !other; // the cards are about them
  names_card_->setVisible(names);
  for (Card* card :
       {static_cast<Card*>(machine_card_), static_cast<Card*>(order_card_), static_cast<Card*>(send_card_)})
    card->setVisible(knife && !drawing && !nodes && !backing && !measure);
  const bool lettering =
      piece != nullptr && piece->lettering() != nullptr && piece->lettering()->recipe.letters() != nullptr;
  kind_card_->setVisible(tool == ToolKind::Guide && !names);
  nodes_card_->setVisible(nodes && !names);
  snip_card_->setVisible(tool == ToolKind::Snip && !names);
  space_card_->setVisible(tool == ToolKind::Space && !names);
  sand_card_->setVisible(tool == ToolKind::Sand && !names);
  measure_card_->setVisible(measure && !names);
  letter_card_->setVisible(letter_by_itself() && !nodes && !lines && !other);
  const bool block = piece != nullptr && piece->lettering() != nullptr && !lettering; // outlines bent as one
  const bool outline = piece != nullptr && piece->outline() != nullptr;
  for (Card* card : {static_cast<Card*>(letters_), static_cast<Card*>(spacing_)})
    card->setVisible(lettering && pieces);
  finish_->setVisible((lettering || block) && pieces);
  bend_->setVisible((lettering || block || outline) && pieces);
  shown_as_ = {piece != nullptr ? piece->id : 0, piece != nullptr ? piece->content.index() : 0};
  outline_card_->setVisible((block || outline) && !drawing && !backing && !measure && !other);
  guide_card_->setVisible(piece != nullptr && piece->guide() != nullptr && pieces);
  if (session_.selection().size() != 2 && !tie_in_card_->has_answers())
    tie_in_card_->hide();
  const bool asked = tie_in_card_->isVisibleTo(this); // its own rows are enough to look at
  many_card_->setVisible(session_.selection().size() > 1 && pieces && !asked);
  show_backing_card();
  const bool sheet = session_.selection().empty() && pieces && !trace_card_->isVisibleTo(this);
  start_card_->setVisible(sheet), sheet_card_->setVisible(sheet);
  show_jobs(session_.document().pieces.empty() && session_.document().backings.empty() && pieces);
  show_ruler_lines_card();
}

void MainWindow::show_copies(bool on) {
  if (on)
    columns_->show_tab(Columns::Tab::Cards);
  copies_card_->setVisible(on);
  if (on)
    copies_card_->first_field()->setFocus();
}

void MainWindow::look_at(const Box& box) {
  if (!box.empty())
    canvas_->zoom_to(box.grown(std::max(5.0, 0.1 * std::max(box.width(), box.height()))));
}

void MainWindow::show_tie_in(bool on) {
  if (on)
    columns_->show_tab(Columns::Tab::Cards);
  tie_in_card_->setVisible(on);
  show_cards();
  if (on)
    tie_in_card_->refresh(), tie_in_card_->first_field()->setFocus();
}

void MainWindow::show_trace(bool on) {
  if (on) {
    session_.select({});
    canvas_->set_tool(ToolKind::Select);
    columns_->show_tab(Columns::Tab::Cards);
  }
  tracing_ = on;
  show_cards();
  if (on)
    trace_card_->refresh(), trace_card_->first_field()->setFocus();
}

void MainWindow::show_tracing() {
  const std::vector<Backing>& backings = session_.document().backings;
  MadePicture made;
  made.lines = tracer_.lines();
  if (const auto& part = tracer_.wish().part; tracer_.wanted() && part && session_.backing() < backings.size())
    made.frame = corners_on_sheet(backings[session_.backing()], *part);
  canvas_->show_made(made);
}

void MainWindow::show_ruler_lines_card() {
  ruler_lines_card_->setVisible(!session_.document().ruler_lines.empty() && sheet_card_->isVisibleTo(this));
}

// While there is a backing and nothing else is worked on.
void MainWindow::show_backing_card() {
  const ToolKind tool = canvas_->tool();
  if (session_.selection().empty())
    copies_card_->hide();
  backing_card_->show_by_hand(tool == ToolKind::Backing);
  const bool alone =
      tool == ToolKind::Backing || tool == ToolKind::Part || (tool == ToolKind::Select && session_.selection().empty());
  backing_card_->setVisible(BackingCard::has_something(session_) && alone && canvas_->view() <= View::Lines);
  trace_card_->show_drawing_part(tool == ToolKind::Part);
  const bool tracing = tracing_ && BackingCard::has_something(session_) && alone;
  trace_card_->setVisible(tracing);
  backing_card_->show_tracing(tracing);
  tracer_.set_wanted(tracing);
}

// Chosen as a letter, and not as one of a gap's two.
bool MainWindow::letter_by_itself() const {
  return chosen_letter(session_) != nullptr && session_.gaps_chosen().empty();
}

void MainWindow::refresh_parts() {
  const bool was = letter_card_->isVisibleTo(this), now = letter_by_itself();
  if (was != now)
    show_cards();
  if (now)
    letter_card_->refresh();
  nodes_card_->refresh();
  spacing_->refresh();
  if (bend_->isVisibleTo(this))
    bend_->refresh();
  refresh_actions();
  if (const PlacedLetter* letter = chosen_letter(session_))
    canvas_->reveal(letter->shape->transformed(letter->place).bounds());
}

void MainWindow::open_card(Card* card) {
  columns_->show_tab(Columns::Tab::Cards);
  for (Card* other : {static_cast<Card*>(letters_), static_cast<Card*>(bend_), static_cast<Card*>(spacing_),
                      static_cast<Card*>(finish_)})
    other->set_open(other == card);
}

void MainWindow::refresh_all() {
  if (const Piece* piece = session_.selected();
      piece != nullptr && shown_as_ != std::pair{piece->id, piece->content.index()})
    show_cards(); // the piece has become one of another sort
  const bool traced = trace_card_->isVisibleTo(this);
  show_backing_card();
  if (trace_card_->isVisibleTo(this) != traced)
    show_cards();
  show_ruler_lines_card();
  for (Card* card : {static_cast<Card*>(letters_), static_cast<Card*>(bend_), static_cast<Card*>(spacing_),
                     static_cast<Card*>(finish_)})
    if (card->isVisibleTo(this))
      card->refresh();
  for (Card* card :
       {static_cast<Card*>(outline_card_), static_cast<Card*>(guide_card_),      static_cast<Card*>(many_card_),
        static_cast<Card*>(start_card_),   static_cast<Card*>(sheet_card_),      static_cast<Card*>(nodes_card_),
        static_cast<Card*>(letter_card_),  static_cast<Card*>(snip_card_),       static_cast<Card*>(space_card_),
        static_cast<Card*>(sand_card_),    static_cast<Card*>(measure_card_),    static_cast<Card*>(backing_card_),
        static_cast<Card*>(copies_card_),  static_cast<Card*>(tie_in_card_),     static_cast<Card*>(trace_card_),
        static_cast<Card*>(machine_card_), static_cast<Card*>(order_card_),      static_cast<Card*>(send_card_),
        static_cast<Card*>(names_card_),   static_cast<Card*>(ruler_lines_card_)})
    if (card->isVisibleTo(this))
      card->refresh();
  release_->refresh();
  release_->setVisible(canvas_->view() <= View::Lines);
  top_->refresh();
  status_->refresh();
  if (!session_.dragging())
    refresh_actions();
}

void MainWindow::refresh_actions() {
  commands_.refresh();
  top_->refresh_commands();
}

// What can be done with the selection; with nothing selected, what can be added.
void MainWindow::pieces_menu(QPoint at) {
  QMenu menu;
  menu.setToolTipsVisible(true);
  for (const char* id : {"edit.undo", "lettering.release", "lettering.reopen", "outline.weld", "arrange.lock"})
    if (QAction* a = commands_.action(id); a->isEnabled())
      menu.addAction(a);
  menu.addSeparator();
  for (const char* id : {"edit.duplicate", "edit.delete", "arrange.front"})
    if (QAction* a = commands_.action(id); a->isEnabled())
      menu.addAction(a);
  if (session_.selection().empty())
    menu.addActions(add_menu_->actions());
  menu.exec(at);
}

void MainWindow::told_of_history() {
  if (told_of_history_ || session_.history().let_go() == 0)
    return;
  told_of_history_ = true;
  bar_->tell(tr("There is no room for more steps to undo: the oldest go now, the newest %n stay.", nullptr,
                static_cast<int>(session_.history().steps())));
}

void MainWindow::refresh_title() {
  const QString name = path_.isEmpty() ? tr("New job") : QFileInfo(path_).fileName();
  setWindowTitle(name + "[*] — Frelm");
  setWindowModified(!session_.saved());
}

void MainWindow::closeEvent(QCloseEvent* event) {
  settings_->setValue("window/geometry", saveGeometry());
  columns_->remember(*settings_);
  if (session_.saved() || closing_) {
    autosave_->saved();
    event->accept();
    return;
  }
  event->ignore();
  when_safe(tr("Close Frelm?"), [this] {
    closing_ = true;
    close();
  });
}

} // namespace frelm
