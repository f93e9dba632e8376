#include "app/window/log_page.h"

#include "app/style/words.h"

#include <QDateTime>
#include <QHeaderView>
#include <QLabel>
#include <QTableWidget>
#include <QVBoxLayout>

namespace frelm {

LogPage::LogPage(Storage& storage, const QString& file, Unit unit, QWidget* over)
    : Page(tr("Cuts so far"), tr("Back to the sheet"), over) {
  const Result<std::vector<CutLogEntry>> log = read_cut_log(storage, file.toStdString());
  if (!log || log->empty()) {
    auto* note = new QLabel(log ? tr("Nothing has been sent yet.") : words_of(log.error()));
    note->setObjectName("muted");
    note->setWordWrap(true);
    body()->addWidget(note, 1);
    appear();
    way_back()->setFocus();
    return;
  }
  auto* table = new QTableWidget(static_cast<int>(log->size()), 6);
  table->setAccessibleName(tr("Cuts so far"));
  table->setHorizontalHeaderLabels({tr("When"), tr("Job"), tr("Material"), tr("Paths"), tr("Cut"), tr("How it ended")});
  table->verticalHeader()->hide();
  table->setEditTriggers(QAbstractItemView::NoEditTriggers);
  table->setSelectionBehavior(QAbstractItemView::SelectRows);
  table->setShowGrid(false);
  table->horizontalHeader()->setStretchLastSection(true);
  int row = 0;
  for (auto e = log->rbegin(); e != log->rend(); ++e, ++row) {
    const QDateTime when = QDateTime::fromString(QString::fromStdString(e->when), Qt::ISODate);
    constexpr double minute = 60;
    const QStringList cells{
        when.isValid() ? QLocale().toString(when, QLocale::ShortFormat) : QString::fromStdString(e->when),
        QString::fromStdString(e->job),
        QString::fromStdString(e->material),
        tr("%1 of %2").arg(e->paths).arg(e->whole_paths),
        tr("%1 %2 in %3 min").arg(length_text(e->cut, unit, 0), unit_name(unit)).arg(e->seconds / minute, 0, 'f', 1),
        e->ended.empty() ? tr("whole") : QString::fromStdString(e->ended)};
    for (int i = 0; i < cells.size(); ++i) {
      auto* item = new QTableWidgetItem(cells[i]);
      item->setToolTip(cells[i]);
      table->setItem(row, i, item);
    }
  }
  table->resizeColumnsToContents();
  table->setMinimumSize(70 * fontMetrics().averageCharWidth(), 12 * fontMetrics().height());
  body()->addWidget(table, 1);
  appear();
  table->setFocus();
}

} // namespace frelm
