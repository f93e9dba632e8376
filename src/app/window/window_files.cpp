#include "app/window/main_window.h"

#include "document/job_file.h"
#include "formats/png.h"
#include "formats/svg.h"
#include "formats/svg_import.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QMenu>

namespace frelm {
namespace {

constexpr int most_recent = 8;
constexpr int picture_width = 2000; // px

} // namespace

void MainWindow::report(const Error& error) {
  if (error.code != ErrorCode::Cancelled)
    bar_->tell(QString::fromStdString(error.text()));
}

void MainWindow::load(Document document, const QString& path) {
  path_ = path;
  autosave_->set_job_path(path);
  session_.reset(std::move(document));
  autosave_->saved();
  show_cards();
  refresh_all();
  refresh_title();
  canvas_->zoom_to_sheet();
  if (session_.document().pieces.empty())
    start_card_->first_field()->setFocus();
  else
    canvas_->setFocus();
}

// Goes on at once when everything is saved, else asks in the bar first.
void MainWindow::when_safe(const QString& question, const std::function<void()>& go) {
  if (session_.history().is_saved()) {
    go();
    return;
  }
  autosave_->keep_now();
  bar_->ask(tr("%1 There are changes that aren't saved.").arg(question), {{tr("Save first"),
                                                                           [this, go] {
                                                                             save();
                                                                             if (session_.history().is_saved())
                                                                               go();
                                                                           }},
                                                                          {tr("Give up the changes"), go}});
}

void MainWindow::new_job() {
  load({}, {});
}

bool MainWindow::open_file(const QString& path) {
  const Result<std::string> bytes = storage_.read(path.toStdString());
  if (!bytes) {
    report(bytes.error());
    return false;
  }
  if (path.endsWith(".svg", Qt::CaseInsensitive) || looks_like_svg(*bytes))
    return open_drawing(path, *bytes);
  Result<Document> document = read_job(*bytes);
  if (!document) {
    bar_->tell(QFileInfo(path).fileName() + ": " + QString::fromStdString(document.error().text()));
    return false;
  }
  load(std::move(*document), path);
  remember(path);
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
  return true;
}

// A drawing opens as a new job on a sheet of its own size.
bool MainWindow::open_drawing(const QString& path, const std::string& bytes) {
  const QString name = QFileInfo(path).fileName();
  Result<Imported> job = job_from_svg(bytes);
  if (!job) {
    bar_->tell(name + ": " + QString::fromStdString(job.error().text()));
    return false;
  }
  load(std::move(job->document), {});
  tell_skipped(name, job->skipped);
  return true;
}

void MainWindow::fill_examples(QMenu* menu) {
  const std::pair<const char*, QString> examples[]{{"saltmarsh-badge", tr("Yard badge")},
                                                   {"marigold-transom", tr("Transom name")},
                                                   {"freehand-wake", tr("Freehand wake")},
                                                   {"tide-spiral", tr("Tide rhyme on a spiral")},
                                                   {"slow-ribbon", tr("Ribbon's lower edge")},
                                                   {"pontoon-frame", tr("Pontoon frame")},
                                                   {"creek-plaque", tr("Creek plaque: even gaps, joins kept")},
                                                   {"slow-wake", tr("Slow wake: between the edges of a ribbon")},
                                                   {"herring-tag", tr("Herring tag: a word that fills a shape")},
                                                   {"yard-stack", tr("Yard stack: three lines as one block")},
                                                   {"badge-starter", tr("Badge from the starter")},
                                                   {"pulled-node", tr("Pulled pen curve")}};
  for (const auto& [file, name] : examples)
    add_action(menu, name, {}, [this, file = QString(file)] { open_example(file); });
}

void MainWindow::open_dialog() {
  when_safe(tr("Open another job?"), [this] {
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a job or a drawing"), QFileInfo(path_).path(),
                                                      tr("Jobs and drawings (*.frelm *.svg)"));
    if (!path.isEmpty())
      open_file(path);
  });
}

void MainWindow::open_example(const QString& name) {
  when_safe(tr("Open the example?"), [this, name] {
    if (open_file(options_.examples_folder + "/" + name + ".frelm")) {
      path_.clear(); // an example is saved under a name of its own
      autosave_->set_job_path({});
      refresh_title();
    }
  });
}

bool MainWindow::save_to(const QString& path) {
  const Result<Done> done = storage_.write(path.toStdString(), write_job(session_.document(), faces_));
  if (!done) {
    report(done.error());
    autosave_->keep_now();
    return false;
  }
  path_ = path;
  session_.mark_saved();
  autosave_->set_job_path(path);
  autosave_->saved();
  remember(path);
  refresh_title();
  return true;
}

void MainWindow::save() {
  if (path_.isEmpty())
    save_as();
  else
    save_to(path_);
}

void MainWindow::save_as() {
  QString path = QFileDialog::getSaveFileName(this, tr("Save the job"), path_.isEmpty() ? "lettering.frelm" : path_,
                                              tr("Frelm jobs (*.frelm)"));
  if (path.isEmpty())
    return;
  if (QFileInfo(path).suffix().isEmpty())
    path += ".frelm";
  save_to(path);
}

void MainWindow::export_dialog(const QString& suffix) {
  const QString base =
      path_.isEmpty() ? "lettering" : QFileInfo(path_).path() + "/" + QFileInfo(path_).completeBaseName();
  QString path =
      QFileDialog::getSaveFileName(this, suffix == "svg" ? tr("Export the cut file") : tr("Export a picture"),
                                   base + "." + suffix, suffix == "svg" ? tr("SVG (*.svg)") : tr("PNG (*.png)"));
  if (path.isEmpty())
    return;
  if (QFileInfo(path).suffix().isEmpty())
    path += "." + suffix;
  export_to(path);
}

void MainWindow::export_to(const QString& path) {
  const Document document = session_.document();
  const bool started = task_.start<Done>(
      tr("Exporting"),
      [this, document, path = path.toStdString()](std::stop_token stop) -> Result<Done> {
        const Result<CutSheet> sheet = cut_sheet(document, session_.evaluator(), stop);
        if (!sheet)
          return sheet.error();
        const Result<std::string> bytes = path.ends_with(".png") ? write_png(*sheet, picture_width, PictureView::Ink)
                                                                 : Result<std::string>(write_svg(*sheet));
        if (!bytes)
          return bytes.error();
        if (stop.stop_requested())
          return Error{ErrorCode::Cancelled, "cancelled", path};
        DiskStorage storage;
        return storage.write(path, *bytes);
      },
      [this, path](const Result<Done>& done) {
        if (done)
          bar_->tell(tr("Exported to %1").arg(path));
        else
          report(done.error());
      });
  if (!started)
    bar_->tell(tr("%1 is still going on; wait or cancel it").arg(task_.name()));
}

void MainWindow::remember(const QString& path) {
  QStringList recent = settings_->value("recent").toStringList();
  const QString full = QFileInfo(path).absoluteFilePath();
  if (full.startsWith(QFileInfo(options_.examples_folder).absoluteFilePath() + "/"))
    return;
  recent.removeAll(full);
  recent.prepend(full);
  settings_->setValue("recent", recent.mid(0, most_recent));
}

void MainWindow::offer_recovery() {
  const std::vector<RecoveredJob> left = autosave_->recovery().left_behind();
  if (left.empty())
    return;
  const RecoveredJob job = left.back();
  const QString name = job.job_path.empty() ? tr("a job that was never saved")
                                            : QFileInfo(QString::fromStdString(job.job_path)).fileName();
  bar_->ask(tr("Frelm was not closed properly. Bring back %1 as it was?").arg(name),
            {{tr("Bring back"),
              [this, job] {
                Result<Document> document = read_job(job.bytes);
                if (!document) {
                  report(document.error());
                  return;
                }
                load({}, QString::fromStdString(job.job_path));
                faces_.set_carried(document->carried ? *document->carried : std::vector<CarriedShapes>{});
                session_.apply(tr("Bring back"), std::move(*document));
                canvas_->zoom_to_sheet();
                autosave_->keep_now();
                autosave_->recovery().forget(job);
              }},
             {tr("Throw it away"), [this, job] { autosave_->recovery().forget(job); }}},
            Lasts::UntilAnswered);
}

} // namespace frelm
