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
  connect(names_card_, &NamesCard::by_hand_wanted, this, &MainWindow::row_by_hand);
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
    read->list.rules = was->rules, read->list.by_hand = was->by_hand;
  const bool latin = read->latin;
  names_.set_list(tr("Open a list of names"), std::move(read->list));
  if (latin)
    bar_->tell(tr("The list is not UTF-8; it was taken as ISO 8859-1. Look whether its letters are right."));
}

void MainWindow::row_by_hand(int row) {
  desk_->start_task<RowAside>(
      tr("Row beside the sheet"),
      [this, document = session_.document(), row](const std::stop_token& stop) {
        return row_aside(document, static_cast<std::size_t>(row), session_.evaluator(), stop);
      },
      [this, was = session_.document(), row](Result<RowAside> made) {
        if (!made)
          return desk_->report(made.error());
        if (session_.document() != was)
          return bar_->tell(tr("The job was changed meanwhile, so nothing was done; try again"));
        if (made->document != was)
          session_.apply(tr("Row %1 beside the sheet").arg(row + 1), std::move(made->document));
        session_.select(made->ids);
        canvas_->set_view(View::Ink);
        Box box;
        for (const PieceId id : session_.selection())
          box.add(session_.drawn_box(id));
        canvas_->zoom_to(box);
        bar_->tell(tr("What you do to these letters, every row with this very text gets. They are not cut."));
      });
}

void MainWindow::export_rows(const QString& folder) {
  if (session_.document().names == nullptr)
    return;
  NameExportChoice choice{folder.toStdString(), names_card_->format().toStdString()};
  choice.options = remembered_export().options;
  const std::optional<NameSheets> sheets = names_card_->sheets();
  desk_->start_task<NestedNames>(
      tr("Exporting names"),
      [this, document = session_.document(), choice, sheets](const std::stop_token& stop) -> Result<NestedNames> {
        const ExportWatch watch{stop, [this](double share) { task_.tell_progress(share); }};
        if (sheets)
          return export_names_nested(document, *document.names, session_.evaluator(), choice, *sheets, *storage_,
                                     watch);
        Result<NameExport> rows =
            export_names(document, *document.names, session_.evaluator(), choice, *storage_, watch);
        if (!rows)
          return rows.error();
        return NestedNames{std::move(*rows), 0, 0};
      },
      [this, folder](const Result<NestedNames>& done) {
        if (!done) {
          desk_->report(done.error());
          return;
        }
        const NameExport& rows = done->rows;
        QString said = done->sheets > 0
                           ? tr("%1 of %2 rows on %n sheets in %3", nullptr, static_cast<int>(done->sheets))
                                 .arg(rows.written)
                                 .arg(rows.rows)
                                 .arg(folder)
                           : tr("%1 of %2 rows written to %3").arg(rows.written).arg(rows.rows).arg(folder);
        if (!rows.failed.empty()) {
          const NameFailure& first = rows.failed.front();
          said += tr("; row %1: %2").arg(first.row + 1).arg(words_of(first.why.what));
          if (rows.failed.size() > 1)
            said += tr(", and %n more", nullptr, static_cast<int>(rows.failed.size()) - 1);
        }
        bar_->tell(said);
      });
}

} // namespace frelm
