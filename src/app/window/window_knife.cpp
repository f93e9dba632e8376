// The Knife view: its cards and its line of time take the place of the others, and a job goes to the cutter.
#include "app/window/main_window.h"

#include "app/window/log_page.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QStandardPaths>
#include <filesystem>

namespace frelm {
namespace {

// Beside this program, where it is installed; where it was built.
QString practice_program() {
  const QString beside = QCoreApplication::applicationDirPath() + "/frelm-cutter";
  return QFileInfo::exists(beside) ? beside : QStringLiteral(FRELM_BUILT_CUTTER);
}

constexpr const char* cutter_key = "send/cutter";

} // namespace

std::unique_ptr<CutterLink> MainWindow::new_link(Storage& storage) {
  return std::make_unique<CutterLink>(storage, practice_program());
}

void MainWindow::wire_knife() {
  canvas_->set_knife(knife_);
  connect(canvas_, &Canvas::view_changed, this, [this] { show_view(); });
  send_card_->set_address(settings_->value(cutter_key, "practice").toString());
  connect(send_card_, &SendCard::address_chosen, this,
          [this](const QString& address) { settings_->setValue(cutter_key, address); });
  connect(send_card_, &SendCard::send_wanted, this, &MainWindow::send_job);
  connect(send_card_, &SendCard::file_wanted, this, &MainWindow::send_to_file);
  connect(send_card_, &SendCard::log_wanted, this, &MainWindow::show_cut_log);
  connect(link_.get(), &CutterLink::changed, this, [this] {
    const SendReport& report = link_->report();
    if (!link_->running() && report.stopped && report.stopped->code != ErrorCode::Cancelled)
      bar_->tell(words_of(report.stopped->said()));
  });
}

void MainWindow::show_view() {
  const View view = canvas_->view();
  knife_.set_wanted(view == View::Knife);
  if (view == View::Knife)
    link_->look_for_queues();
  columns_->set_time_shown(view == View::Knife);
  strip_->setVisible(view <= View::Lines); // of names there are many runs
  names_.set_wanted(view == View::Names);
  names_view_->setVisible(view == View::Names);
  if (view == View::Names)
    names_view_->setGeometry(canvas_->rect()), names_view_->lower();
  show_cards();
  refresh_all();
}

// The user's own data, beside what else is kept there.
QString MainWindow::cut_log() const {
  const QString folder = options_.recovery_folder.isEmpty()
                             ? QStandardPaths::writableLocation(QStandardPaths::AppDataLocation)
                             : options_.recovery_folder;
  return QDir(folder).filePath("cuts.log");
}

void MainWindow::send_job(const QString& address, int first) {
  if (link_->running())
    return;
  if (address.isEmpty()) {
    bar_->tell(tr("Say where the cutter is: tcp:HOST:PORT, serial:DEVICE, or queue:NAME"));
    return;
  }
  CutLogEntry entry;
  entry.job = path_.isEmpty() ? tr("New job").toStdString() : QFileInfo(path_).fileName().toStdString();
  entry.cutter = address.toStdString();
  const std::optional<Colour> only = session_.only_material();
  if (const Material* m = only ? material_of(session_.document().materials, *only) : nullptr)
    entry.material = m->name;
  const auto begin = [this, address, first, entry](const std::shared_ptr<const ToSend>& work) {
    std::error_code ignored; // where there is no folder nothing is logged, which is told then
    std::filesystem::create_directories(QFileInfo(cut_log()).path().toStdString(), ignored);
    link_->send(work, address.toStdString(), static_cast<std::size_t>(first), entry, cut_log().toStdString());
  };
  if (first > 0 && link_->work() != nullptr) { // what was begun, whatever the job is now
    begin(link_->work());
    return;
  }
  SendChoice choice;
  choice.what.only = only;
  choice.what.pen = false, choice.what.panel = knife_.panel();
  desk_->start_task<ToSend>(
      tr("Working out the cut"),
      [this, document = session_.document(), choice](const std::stop_token& stop) {
        return to_send(document, session_.evaluator(), choice, stop);
      },
      [this, begin](Result<ToSend> work) {
        if (work)
          begin(std::make_shared<const ToSend>(std::move(*work)));
        else
          desk_->report(work.error());
      });
}

void MainWindow::send_to_file() {
  const QString path =
      QFileDialog::getSaveFileName(this, tr("What would be sent, as a file"), beside_job(), tr("HP-GL (*.plt)"));
  if (path.isEmpty())
    return;
  ExportChoice choice = remembered_export();
  choice.paths = {(path.endsWith(".plt") ? path : path + ".plt").toStdString()};
  choice.as_driven = true, choice.split = false;
  choice.what = {session_.only_material(), {}, true, false, knife_.panel()};
  desk_->start_task<Exported>( // which is no export that would be done again
      tr("Exporting"),
      [this, document = session_.document(), choice](const std::stop_token& stop) {
        return export_job(document, session_.evaluator(), choice, *storage_,
                          {stop, [this](double share) { task_.tell_progress(share); }});
      },
      [this](const Result<Exported>& done) {
        if (done)
          bar_->tell(tr("Exported to %1").arg(QString::fromStdString(done->paths.front())));
        else
          desk_->report(done.error());
      });
}

void MainWindow::show_cut_log() {
  show_page([this] { return new LogPage(*storage_, cut_log(), session_.document().unit, canvas_); });
}

} // namespace frelm
