#include "app/window/main_window.h"
#include "app/window/materials_page.h"

#include "app/menus/drawings.h"
#include "app/style/words.h"
#include "app/window/recovery_list.h"
#include "document/job_file.h"
#include "formats/job_svg.h"

#include <QCryptographicHash>
#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>

namespace frelm {
namespace {

constexpr int most_recent = 8;

bool is_svg(const std::string& path) {
  return QString::fromStdString(path).endsWith(".svg", Qt::CaseInsensitive);
}

} // namespace

void MainWindow::went_wrong(const QString& what) {
  session_.abandon_drag();
  autosave_->keep_now();
  bar_->tell(tr("Something went wrong inside (%1). The job is as it was before.").arg(what));
}

Document MainWindow::with_materials(Document document) const {
  if (document.materials.empty())
    document.materials = own_materials(*settings_);
  return document;
}

// A job that another window has open too is told: whoever saves last wins.
void MainWindow::hold_job() {
  if (held_path_ == path_)
    return;
  let_go_of_job();
  held_path_ = path_;
  if (path_.isEmpty())
    return;
  const QFileInfo file(path_);
  const QString whole = file.canonicalFilePath().isEmpty() ? file.absoluteFilePath() : file.canonicalFilePath();
  const QByteArray name = QCryptographicHash::hash(whole.toUtf8(), QCryptographicHash::Sha1).toHex();
  lock_file_ = options_.recovery_folder + "/open-" + QString::fromLatin1(name) + ".lock";
  job_lock_ = try_lock(lock_file_.toStdString());
  if (job_lock_ == nullptr && QFileInfo(options_.recovery_folder).isWritable())
    bar_->tell(tr("%1 is open in another window too. Whichever saves last is what the file holds; save one of them "
                  "under another name.")
                   .arg(file.fileName()));
}

void MainWindow::let_go_of_job() {
  if (job_lock_ != nullptr) // while it is ours
    QFile::remove(lock_file_);
  job_lock_.reset();
}

void MainWindow::load(Document document, const QString& path, Versions versions) {
  path_ = path;
  memory_.forget_nameless();
  lost_.clear();
  came_in_->show_arrivals({});
  autosave_->set_job_path(path);
  session_.reset(with_materials(std::move(document)), std::move(versions));
  autosave_->saved();
  hold_job();
  show_cards();
  refresh_all();
  refresh_title();
  canvas_->zoom_to_drawing();
  if (session_.document().pieces.empty())
    start_card_->first_field()->setFocus();
  else
    canvas_->setFocus();
}

// Goes on at once when everything is saved, else asks in the bar first.
void MainWindow::when_safe(const QString& question, const std::function<void()>& go) {
  if (session_.saved()) {
    go();
    return;
  }
  autosave_->keep_now();
  bar_->ask(tr("%1 There are changes that aren't saved.").arg(question),
            {{tr("Save first"), [this, go] { save(go); }}, {tr("Give up the changes"), go}});
}

void MainWindow::new_job() {
  Document fresh;
  fresh.unit = session_.preferences().unit;
  load(std::move(fresh), {});
}

void MainWindow::show_opened(const QString& path, Opened opened) {
  const QString name = QFileInfo(path).fileName();
  if (opened.arrival) { // a new job on a sheet of the drawing's size
    load(std::move(opened.document), {});
    desk_->show_arrivals({std::move(*opened.arrival)});
    return;
  }
  const bool picture = is_picture_file(path);
  load(std::move(opened.document), picture ? QString() : path, std::move(opened.versions));
  if (!picture)
    remember(path);
  if (!opened.told.isEmpty())
    bar_->tell(opened.told);
  if (opened.changed_elsewhere)
    bar_->ask(tr("The drawing in %1 was changed by another program. This is the job as it was saved here.").arg(name),
              {{tr("Take the drawing instead"), [this, path] { open_beside(path, {}, OpenAs::Drawing); }}});
  if (!opened.lost.empty()) {
    lost_ = describe_losses(opened.lost);
    bar_->tell(tr("%1 could not be read whole. Missing: %2. The file stays as it is until you save over it.")
                   .arg(name, lost_));
    return;
  }
  QStringList absent;
  for (const auto& p : session_.document().pieces)
    if (const Lettering* l = p->lettering();
        l != nullptr && l->recipe.letters() != nullptr && faces_.find(l->recipe.letters()->face) == nullptr)
      absent << QString::fromStdString(l->recipe.letters()->face.text());
  absent.removeDuplicates();
  if (!absent.isEmpty())
    bar_->tell(tr("%1 is not on this machine. The letters in the job are shown and cut exactly as they were saved; new "
                  "ones may be missing.")
                   .arg(absent.join(", ")));
}

void MainWindow::not_opened(const QString& path, const Error& error) {
  if (error.code != ErrorCode::Cancelled)
    bar_->tell(QFileInfo(path).fileName() + ": " + words_of(error));
}

bool MainWindow::open_file(const QString& path) {
  Result<Opened> opened = read_to_open(*storage_, path);
  if (!opened) {
    not_opened(path, opened.error());
    return false;
  }
  show_opened(path, std::move(*opened));
  return true;
}

void MainWindow::open_beside(const QString& path, const std::function<void()>& then, OpenAs as) {
  desk_->start_task<Opened>(
      tr("Opening"),
      [this, path, as](const std::stop_token& stop) {
        return read_to_open(*storage_, path, as, {stop, [this](double share) { task_.tell_progress(share); }});
      },
      [this, path, then](Result<Opened> opened) {
        if (!opened) {
          not_opened(path, opened.error());
          return;
        }
        show_opened(path, std::move(*opened));
        if (then)
          then();
      },
      tr("The job was changed meanwhile, so nothing was opened; open it again"));
}

void MainWindow::open_dialog() {
  when_safe(tr("Open another job?"), [this] {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open a job or a drawing"), QFileInfo(path_).path(),
                                     tr("Jobs, drawings and pictures (*.frelm %1)").arg(drawing_patterns()));
    if (!path.isEmpty())
      open_beside(path);
  });
}

void MainWindow::open_example(const QString& name) {
  when_safe(tr("Open the example?"), [this, name] {
    open_beside(options_.examples_folder + "/" + name + ".frelm", [this] {
      path_.clear(); // an example is saved under a name of its own
      autosave_->set_job_path({});
      refresh_title();
    });
  });
}

void MainWindow::open_dropped(const QStringList& paths, Point at) {
  QStringList jobs;
  std::vector<DrawingSource> drawings; // added to the job
  for (const QString& path : paths)
    if (is_picture_file(path) || (is_drawing_file(path) && (!session_.document().pieces.empty() || paths.size() > 1)))
      drawings.push_back({QFileInfo(path).fileName(), path});
    else
      jobs << path;
  if (!drawings.empty())
    add_drawings(*desk_, std::move(drawings), at);
  if (jobs.isEmpty())
    return;
  const QString more = jobs.size() > 1 ? tr(" Only one job can be open; the others are left.") : QString();
  when_safe(tr("Open %1?").arg(QFileInfo(jobs.front()).fileName()) + more, [this, jobs] { open_beside(jobs.front()); });
}

// Beside the window, one after another; what is marked as saved is the step that was written.
void MainWindow::save_to(const QString& path, const std::function<void()>& then) {
  if (saving_.running()) {
    next_save_ = [this, path, then] { save_to(path, then); };
    return;
  }
  const HistoryStep& step = session_.history().current();
  saving_.start<Done>(
      tr("Saving"),
      [this, document = step.document, versions = session_.versions(), path = path.toStdString()](std::stop_token) {
        return storage_->write(path, is_svg(path) ? write_job_svg(document, session_.evaluator(), versions)
                                                  : write_job(document, faces_, versions));
      },
      [this, path, then, id = step.id, versions = session_.versions_number()](const Result<Done>& done) {
        if (done) {
          if (path_.isEmpty())
            memory_.named(path);
          path_ = path;
          lost_.clear();
          session_.mark_saved(id, versions);
          hold_job();
          autosave_->set_job_path(path);
          if (session_.saved())
            autosave_->saved();
          remember(path);
          refresh_title();
        } else {
          desk_->report(done.error());
          autosave_->keep_now();
        }
        if (const auto next = std::exchange(next_save_, nullptr))
          next();
        else if (done && then)
          then();
      });
}

void MainWindow::save(const std::function<void()>& then) {
  if (path_.isEmpty())
    save_as(then);
  else if (!lost_.isEmpty())
    bar_->ask(tr("%1 holds pieces that could not be read: %2. Saving over it gives them up.")
                  .arg(QFileInfo(path_).fileName(), lost_),
              {{tr("Save over it"), [this, then] { save_to(path_, then); }},
               {tr("Save under another name"), [this, then] { save_as(then); }}});
  else
    save_to(path_, then);
}

void MainWindow::save_as(const std::function<void()>& then) {
  const QString in_svg = tr("SVG with the job in it (*.svg)");
  QString chosen = is_svg(path_.toStdString()) ? in_svg : QString();
  QString path = QFileDialog::getSaveFileName(this, tr("Save the job"), path_.isEmpty() ? "lettering.frelm" : path_,
                                              tr("Frelm jobs (*.frelm)") + ";;" + in_svg, &chosen);
  if (path.isEmpty())
    return;
  if (QFileInfo(path).suffix().isEmpty())
    path += chosen == in_svg ? ".svg" : ".frelm";
  save_to(path, then);
}

void MainWindow::remember(const QString& path) {
  QStringList recent = settings_->value("recent").toStringList();
  const QString full = QFileInfo(path).absoluteFilePath();
  if (full.startsWith(QFileInfo(options_.examples_folder).absoluteFilePath() + "/"))
    return;
  recent.removeAll(full);
  recent.prepend(full);
  for (const QString& old : recent.mid(most_recent))
    QFile::remove(picture_of(old));
  settings_->setValue("recent", recent.mid(0, most_recent));
  picture_job(full);
}

void MainWindow::offer_walk() {
  if (!settings_->contains("walk/shown") && recovery_list_ == nullptr && session_.document().pieces.empty())
    begin_walk();
}

void MainWindow::offer_recovery() {
  left_behind_ = autosave_->recovery().left_behind();
  if (left_behind_.empty())
    return;
  left_pictures_ = std::make_unique<RecoveryPictures>(left_behind_, faces_);
  connect(left_pictures_.get(), &RecoveryPictures::made, this, &MainWindow::show_left_behind);
  show_left_behind();
  auto* list = new RecoveryList(left_behind_, *left_pictures_, canvas_);
  recovery_list_ = list;
  connect(list, &RecoveryList::bring_back, this, [this](const RecoveredJob& job) {
    when_safe(tr("Bring back the other job?"), [this, job] { bring_back(job); });
  });
  connect(list, &RecoveryList::throw_away, this, [this](const RecoveredJob& job) {
    autosave_->recovery().forget(job);
    dealt_with(job);
  });
}

void MainWindow::dealt_with(const RecoveredJob& job) {
  std::erase_if(left_behind_, [&](const RecoveredJob& j) { return j.file == job.file; });
  show_left_behind();
  if (recovery_list_ != nullptr)
    recovery_list_->remove(job);
}

// The job as it was, unsaved; its recovery file goes when it is safe elsewhere.
void MainWindow::bring_back(const RecoveredJob& job) {
  Result<ReadJob> read = read_what_can_be_read(job.bytes);
  if (!read) {
    desk_->report(read.error());
    return;
  }
  load({}, QString::fromStdString(job.job_path));
  faces_.set_carried(read->document.carried ? *read->document.carried : std::vector<CarriedShapes>{});
  session_.apply(tr("Bring back"), std::move(read->document));
  if (!read->versions.empty())
    session_.set_versions(std::move(read->versions));
  canvas_->zoom_to_drawing();
  if (!read->lost.empty())
    bar_->tell(tr("Not everything could be read. Missing: %1.").arg(describe_losses(read->lost)));
  autosave_->forget_when_safe(job);
  dealt_with(job);
}

} // namespace frelm
