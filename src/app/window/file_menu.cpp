#include "app/window/main_window.h"
#include "formats/png.h"

#include <QCryptographicHash>
#include <QDir>
#include <QSaveFile>
#include <QTimer>

namespace frelm {

namespace {

constexpr std::size_t most_tiles = 4; // of a kind on the start card

} // namespace

void MainWindow::fill_file_menu(QMenu* menu) {
  commands_.add(menu, {.id = "file.new", .words = tr("&New job"), .keys = {QKeySequence::New}, .run = [this] {
                         when_safe(tr("Begin a new job?"), [this] { new_job(); });
                       }});
  commands_.add(menu,
                {.id = "file.new-window",
                 .words = tr("New &window"),
                 .keys = {QKeySequence("Ctrl+Shift+N")},
                 .tip = tr("For another job beside this one; pieces can be copied from one to the other"),
                 .run =
                     [this] {
                       if (!options_.new_window())
                         bar_->tell(tr("Another window could not be begun; the machine may be short of memory"));
                     },
                 .why_not = [this] { return options_.new_window ? QString() : tr("There is only one window here"); }});
  commands_.add(
      menu, {.id = "file.open", .words = tr("&Open…"), .keys = {QKeySequence::Open}, .run = [this] { open_dialog(); }});
  recent_menu_ = menu->addMenu(tr("Open &recent"));
  connect(recent_menu_, &QMenu::aboutToShow, this, &MainWindow::fill_recent);
  fill_examples(menu->addMenu(tr("E&xamples")));
  menu->addSeparator();
  commands_.add(menu,
                {.id = "file.save", .words = tr("&Save"), .keys = {QKeySequence::Save}, .run = [this] { save(); }});
  commands_.add(menu,
                {.id = "file.save-as", .words = tr("Save &as…"), .keys = {QKeySequence("Ctrl+Shift+S")}, .run = [this] {
                   save_as();
                 }});
  menu->addSeparator();
  commands_.add(menu, {.id = "file.export",
                       .words = tr("&Export…"),
                       .keys = {QKeySequence("Ctrl+E")},
                       .tip = tr("Cut files and pictures: SVG, DXF, PDF, EPS, HP-GL, PNG"),
                       .run = [this] { show_export(); }});
  commands_.add(menu, {.id = "file.export-again",
                       .words = tr("E&xport again"),
                       .keys = {QKeySequence("Ctrl+Shift+E")},
                       .tip = tr("The last export of this job once more, to the same file"),
                       .run = [this] { export_again(); },
                       .why_not =
                           [this] {
                             return memory_.read("exports", path_).isEmpty()
                                        ? tr("Nothing of this job was exported yet")
                                        : QString();
                           }});
  commands_.add(menu, {.id = "file.proof",
                       .words = tr("&Proof for the customer…"),
                       .tip = tr("A sheet with the work, its size, its materials and a line to sign"),
                       .run = [this] { show_proof(); }});
  menu->addSeparator();
  commands_.add(menu,
                {.id = "file.quit", .words = tr("&Quit"), .keys = {QKeySequence::Quit}, .run = [this] { close(); }});
}

void MainWindow::fill_examples(QMenu* menu) {
  const std::pair<const char*, QString> examples[]{
      {"saltmarsh-badge", tr("Yard badge")},
      {"marigold-transom", tr("Transom name with border and shade")},
      {"freehand-wake", tr("Freehand wake")},
      {"tide-decal", tr("Tide decal: two rings in three layers")},
      {"pier-tag", tr("Pier tag: one border around several pieces")},
      {"launch-ribbon", tr("Launch ribbon: folded, with words on it")},
      {"herring-ornament", tr("Herring ornament: a name tied in, in one piece")},
      {"stencil-plate", tr("Stencil plate: counters stay with it")},
      {"mussel-plate", tr("Mussel plate: words cut out of brass")},
      {"tide-spiral", tr("Tide rhyme on a spiral")},
      {"slow-ribbon", tr("Ribbon's lower edge")},
      {"pontoon-frame", tr("Pontoon frame")},
      {"pontoon-names", tr("Pontoon badges: one design, nine names")},
      {"creek-plaque", tr("Creek plaque: even gaps, joins kept")},
      {"slow-wake", tr("Slow wake: between the edges of a ribbon")},
      {"herring-tag", tr("Herring tag: a word that fills a shape")},
      {"yard-stack", tr("Yard stack: three lines as one block")},
      {"badge-starter", tr("Badge from the starter")},
      {"pulled-node", tr("Pulled pen curve")}};
  for (const auto& [file, name] : examples)
    commands_.add(menu, {.id = QString("file.example.%1").arg(file),
                         .words = name,
                         .run = [this, file = QString(file)] { open_example(file); }});
}

void MainWindow::fill_recent() {
  recent_menu_->clear();
  for (const QString& path : settings_->value("recent").toStringList())
    connect(recent_menu_->addAction(path), &QAction::triggered, this,
            [this, path] { when_safe(tr("Open %1?").arg(path), [this, path] { open_file(path); }); });
  if (recent_menu_->isEmpty())
    recent_menu_->addAction(tr("Nothing yet"))->setEnabled(false);
}

QString MainWindow::picture_of(const QString& path) const {
  const QByteArray name = QCryptographicHash::hash(path.toUtf8(), QCryptographicHash::Sha1).toHex();
  return options_.recovery_folder + "/pictures/" + QString::fromLatin1(name) + ".png";
}

// Its pictures are read once the window is there, and only if it still shows.
void MainWindow::show_jobs(bool on) {
  if (on && !jobs_card_->isVisibleTo(this))
    QTimer::singleShot(0, this, &MainWindow::fill_jobs);
  jobs_card_->setVisible(on);
}

void MainWindow::show_left_behind() {
  std::vector<JobTile> left;
  for (const RecoveredJob& job : left_behind_)
    if (left.size() < most_tiles)
      left.push_back({QString::fromStdString(job.file), job.job_path.empty() ? tr("Never saved") : name_of(job),
                      left_pictures_->of(job.file), kept_words(job)});
  jobs_card_->show_left_behind(left);
}

void MainWindow::fill_jobs() {
  if (!jobs_card_->isVisibleTo(this))
    return;
  std::vector<JobTile> lately, examples;
  for (const QString& path : settings_->value("recent").toStringList())
    if (lately.size() < most_tiles && QFileInfo::exists(path))
      lately.push_back({path, QFileInfo(path).completeBaseName(), QImage(picture_of(path))});
  for (const char* name : {"saltmarsh-badge", "herring-tag", "marigold-transom", "tide-spiral"})
    if (const QString path = options_.examples_folder + "/" + name + ".frelm"; QFileInfo::exists(path))
      examples.push_back({path, commands_.find(QString("file.example.%1").arg(name))->words(),
                          QImage(options_.examples_folder + "/pictures/" + name + ".png")});
  jobs_card_->show_lately(lately);
  jobs_card_->show_examples(examples);
}

void MainWindow::picture_job(const QString& path) {
  pictures_.request([document = session_.document(), to = picture_of(path),
                     &evaluator = session_.evaluator()](const std::stop_token& stop) {
    constexpr int width = 320; // px
    const CutSheet sheet = seen_sheet(document, evaluator, stop);
    const Result<std::string> png = stop.stop_requested() ? bad_input({}) : write_png(sheet, width, ExportInk::Areas);
    QDir().mkpath(QFileInfo(to).path());
    QSaveFile file(to);
    if (png && file.open(QIODevice::WriteOnly) && file.write(png->data(), static_cast<qint64>(png->size())) > 0)
      file.commit(); // without it the job is offered by its name alone
  });
}

} // namespace frelm
