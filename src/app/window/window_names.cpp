// The Names view: its card and its grid take the place of the others; lists come in, and a file a row goes out.
#include "app/window/main_window.h"

#include "formats/csv_read.h"
#include "formats/name_export.h"

#include <QApplication>
#include <QClipboard>
#include <QFileDialog>
#include <QFileInfo>

namespace frelm {

void MainWindow::wire_names() {
  names_view_ = new NamesView(session_, names_, canvas_);
  connect(names_card_, &NamesCard::open_wanted, this, [this] {
    const QString path = QFileDialog::getOpenFileName(this, tr("Open a list of names"), QFileInfo(path_).path(),
                                                      tr("Lists (*.csv *.tsv *.txt);;All files (*)"));
    if (!path.isEmpty())
      open_names(path);
  });
  connect(names_card_, &NamesCard::paste_wanted, this,
          [this] { take_names(QApplication::clipboard()->text().toStdString(), {}); });
  connect(names_card_, &NamesCard::export_wanted, this, [this] {
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder for the files"), QFileInfo(path_).path());
    if (!folder.isEmpty())
      export_rows(folder);
  });
  connect(names_card_, &NamesCard::row_chosen, this, [this](int row) {
    const QModelIndex at = names_view_->model()->index(row, 0);
    names_view_->setCurrentIndex(at);
    names_view_->scrollTo(at);
  });
  connect(names_view_->selectionModel(), &QItemSelectionModel::currentChanged, this,
          [this](const QModelIndex& now) { names_card_->select_row(now.row()); });
}

void MainWindow::open_names(const QString& path) {
  const Result<std::string> bytes = storage_->read(path.toStdString());
  if (!bytes)
    bar_->tell(words_of(bytes.error()));
  else
    take_names(*bytes, QFileInfo(path).fileName());
}

void MainWindow::take_names(const std::string& bytes, const QString& source) {
  Result<ReadList> read = read_name_list(bytes, wanted_columns(session_.document()));
  if (!read) {
    bar_->tell(source.isEmpty() ? words_of(read.error()) : tr("%1: %2").arg(source, words_of(read.error())));
    return;
  }
  read->list.source = source.toStdString();
  if (const NameList* was = session_.document().names.get())
    read->list.rules = was->rules;
  const bool latin = read->latin;
  names_.set_list(tr("Open a list of names"), std::move(read->list));
  if (latin)
    bar_->tell(tr("The list is not UTF-8; it was taken as ISO 8859-1. Look whether its letters are right."));
}

void MainWindow::export_rows(const QString& folder) {
  if (session_.document().names == nullptr)
    return;
  NameExportChoice choice{folder.toStdString(), names_card_->format().toStdString()};
  choice.options = remembered_export().options;
  desk_->start_task<NameExport>(
      tr("Exporting names"),
      [this, document = session_.document(), choice](const std::stop_token& stop) {
        return export_names(document, *document.names, session_.evaluator(), choice, *storage_,
                            {stop, [this](double share) { task_.tell_progress(share); }});
      },
      [this, folder](const Result<NameExport>& done) {
        if (!done) {
          desk_->report(done.error());
          return;
        }
        QString said = tr("%1 of %2 rows written to %3").arg(done->written).arg(done->rows).arg(folder);
        if (!done->failed.empty()) {
          const NameFailure& first = done->failed.front();
          said += tr("; row %1: %2").arg(first.row + 1).arg(words_of(first.why.what));
          if (done->failed.size() > 1)
            said += tr(", and %n more", nullptr, static_cast<int>(done->failed.size()) - 1);
        }
        bar_->tell(said);
      });
}

} // namespace frelm
