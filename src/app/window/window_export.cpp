// What leaves: exports, the last one again, and the customer's sheet.
#include "app/style/words.h"
#include "app/window/export_page.h"
#include "app/window/main_window.h"
#include "app/window/proof_form_page.h"
#include "formats/export_json.h"

#include <QDir>
#include <QFileInfo>
#include <QStandardPaths>

namespace frelm {
namespace {

const char* const exports = "exports";
const char *const proofs = "proofs", *const proof_files = "proof-files";

} // namespace

// As it was done last, else an SVG beside the job.
ExportChoice MainWindow::remembered_export() const {
  const std::string remembered = memory_.read(exports, path_).toStdString();
  ExportChoice choice = read_choice(remembered);
  if (remembered.empty())
    choice.options = usual_options(session_.document());
  choice.job_path = path_.toStdString();
  if (choice.paths.size() != 1) {
    const QString base = beside_job();
    const bool job_there = path_.endsWith(".svg", Qt::CaseInsensitive);
    choice.paths = {(base + (job_there ? tr("-cut") : QString()) + ".svg").toStdString()};
  }
  return choice;
}

// The job's path without its suffix; of one without a path a name among the user's documents.
QString MainWindow::beside_job() const {
  if (path_.isEmpty())
    return QDir(QStandardPaths::writableLocation(QStandardPaths::DocumentsLocation)).absoluteFilePath(tr("lettering"));
  const QFileInfo job(path_);
  return job.absoluteDir().absoluteFilePath(job.completeBaseName());
}

void MainWindow::show_export() {
  show_page([this] {
    auto* page = new ExportPage(session_, remembered_export(), canvas_);
    connect(page, &ExportPage::wanted_out, this, [this, page] { export_as(page->choice()); });
    connect(page, &ExportPage::look_at_findings, this, [this] {
      close_page();
      desk_->show_check();
      check_->list()->setFocus();
    });
    return page;
  });
}

void MainWindow::export_again() {
  export_as(remembered_export());
}

void MainWindow::export_to(const QString& path) {
  ExportChoice choice = remembered_export();
  choice.paths = {path.toStdString()};
  export_as(choice);
}

void MainWindow::export_as(const ExportChoice& choice) {
  const QPointer<Page> page = page_;
  desk_->start_task<Exported>(
      tr("Exporting"),
      [this, document = session_.document(), choice](std::stop_token stop) {
        return export_job(document, session_.evaluator(), choice, *storage_,
                          {stop, [this](double share) { task_.tell_progress(share); }});
      },
      [this, choice, page, from = path_](const Result<Exported>& done) {
        if (!done) {
          desk_->report(done.error());
          return;
        }
        if (from == path_)
          memory_.write(exports, path_, QString::fromStdString(write_choice(choice)));
        if (page != nullptr && page == page_)
          close_page();
        const QString where = done->paths.size() == 1
                                  ? QString::fromStdString(done->paths.front())
                                  : tr("%1 files in %2")
                                        .arg(done->paths.size())
                                        .arg(QFileInfo(QString::fromStdString(choice.paths.front())).path());
        bar_->tell(done->read_back ? tr("Exported to %1; read back and the same").arg(where)
                                   : tr("Exported to %1").arg(where));
        refresh_actions();
      });
}

void MainWindow::show_proof() {
  show_page([this] {
    const QString kept = memory_.read(proofs, path_);
    ProofForm form = read_proof_form((kept.isEmpty() ? settings_->value("proof").toString() : kept).toStdString());
    if (kept.isEmpty()) // another job of the same shop
      form.title = QFileInfo(path_).completeBaseName().toStdString(), form.addressee.clear(), form.remarks.clear();
    QString path = memory_.read(proof_files, path_);
    if (path.isEmpty())
      path = beside_job() + tr("-proof") + ".pdf";
    auto* page = new ProofFormPage(session_, std::move(form), path, canvas_);
    connect(page, &ProofFormPage::wanted_out, this, [this, page] { save_proof(page->form(), page->path()); });
    return page;
  });
}

void MainWindow::save_proof(const ProofForm& form, const QString& path) {
  const QString text = QString::fromStdString(write_proof_form(form));
  memory_.write(proofs, path_, text);
  memory_.write(proof_files, path_, path);
  settings_->setValue("proof", text);
  const QPointer<Page> page = page_;
  desk_->start_task<Done>(
      tr("Writing the proof"),
      [this, document = session_.document(), form, path = path.toStdString()](std::stop_token stop) -> Result<Done> {
        const Result<std::string> bytes = write_proof(document, session_.evaluator(), form, path, stop);
        if (!bytes)
          return bytes.error();
        return storage_->write(path, *bytes);
      },
      [this, path, page](const Result<Done>& done) {
        if (!done) {
          desk_->report(done.error());
          return;
        }
        if (page != nullptr && page == page_)
          close_page();
        bar_->tell(tr("The proof is in %1").arg(path));
      });
}

} // namespace frelm
