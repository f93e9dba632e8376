#include "app/window/recovery_list.h"

#include "app/session/priority.h"
#include "document/job_file.h"
#include "formats/png.h"

#include <QDateTime>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

namespace frelm {
namespace {

constexpr QSize drawn_size{120, 80}; // px

QString name_of(const RecoveredJob& job) {
  return job.job_path.empty() ? RecoveryList::tr("A job that was never saved")
                              : QFileInfo(QString::fromStdString(job.job_path)).fileName();
}

} // namespace

RecoveryList::RecoveryList(std::vector<RecoveredJob> jobs, const FaceLibrary& faces, QWidget* over)
    : Page(tr("Frelm was not closed properly"), tr("Not now"), over), list_(nullptr) {
  auto* words = new QLabel(jobs.size() == 1 ? tr("This was being worked on, and is as it was.")
                                            : tr("These were being worked on, and are as they were."));
  words->setObjectName("muted");
  words->setWordWrap(true);
  body()->addWidget(words);
  auto* inside = new QWidget;
  list_ = new QVBoxLayout(inside);
  list_->setContentsMargins(0, 0, 0, 0);
  list_->setSpacing(8);
  for (const RecoveredJob& job : jobs) {
    rows_.emplace_back(job.file, row_for(job));
    list_->addWidget(rows_.back().second);
  }
  list_->addStretch(1);
  auto* scroll = new QScrollArea;
  scroll->setAccessibleName(tr("Jobs that can be brought back"));
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setWidget(inside);
  inside->setAutoFillBackground(false); // the card shows through
  scroll->viewport()->setAutoFillBackground(false);
  body()->addWidget(scroll, 1);
  way_back()->setToolTip(tr("They are offered again at the next start"));
  appear();
  if (QPushButton* first = inside->findChild<QPushButton*>())
    first->setFocus();
  painter_ = std::jthread([this, &faces, jobs = std::move(jobs)](const std::stop_token& stop) {
    give_way(5);
    make_pictures(stop, faces, jobs);
  });
}

QWidget* RecoveryList::row_for(const RecoveredJob& job) {
  auto* row = new QWidget;
  auto* line = new QHBoxLayout(row);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(12);
  auto* picture = new QLabel;
  picture->setObjectName("picture");
  picture->setFixedSize(drawn_size);
  picture->setAlignment(Qt::AlignCenter);
  line->addWidget(picture);
  auto* texts = new QVBoxLayout;
  auto* name = new QLabel(name_of(job));
  name->setObjectName("heading");
  name->setToolTip(QString::fromStdString(job.job_path));
  const QDateTime kept = QDateTime::fromSecsSinceEpoch(std::chrono::system_clock::to_time_t(job.kept));
  auto* when = new QLabel(tr("kept %1").arg(QLocale().toString(kept, QLocale::ShortFormat)));
  when->setObjectName("muted");
  texts->addStretch();
  texts->addWidget(name);
  texts->addWidget(when);
  texts->addStretch();
  line->addLayout(texts, 1);
  auto* back = new QPushButton(tr("Bring back"));
  auto* away = new QPushButton(tr("Throw away"));
  back->setAccessibleName(tr("Bring back %1").arg(name->text()));
  away->setAccessibleName(tr("Throw away %1").arg(name->text()));
  connect(back, &QPushButton::clicked, this, [this, job] { emit bring_back(job); });
  connect(away, &QPushButton::clicked, this, [this, job] { emit throw_away(job); });
  line->addWidget(back);
  line->addWidget(away);
  return row;
}

void RecoveryList::make_pictures(const std::stop_token& stop, const FaceLibrary& faces,
                                 const std::vector<RecoveredJob>& jobs) {
  for (std::size_t i = 0; i < jobs.size() && !stop.stop_requested(); ++i) {
    const Result<ReadJob> read = read_what_can_be_read(jobs[i].bytes);
    if (!read)
      continue;
    const CutSheet sheet = seen_sheet(read->document, DocumentEvaluator(faces), stop);
    const Result<std::string> png = write_png(sheet, 2 * drawn_size.width(), ExportInk::Areas);
    if (!png)
      continue;
    QImage image;
    image.loadFromData(QByteArray::fromStdString(*png));
    mailbox_.post([this, file = jobs[i].file, image] {
      for (const auto& [of, row] : rows_)
        if (of == file)
          row->findChild<QLabel*>("picture")->setPixmap(
              QPixmap::fromImage(image.scaled(drawn_size, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
    });
  }
}

void RecoveryList::remove(const RecoveredJob& job) {
  const auto row = std::find_if(rows_.begin(), rows_.end(), [&](const auto& r) { return r.first == job.file; });
  if (row == rows_.end())
    return;
  row->second->hide();
  row->second->deleteLater();
  rows_.erase(row);
  if (rows_.empty())
    close();
}

QSize RecoveryList::wanted() const {
  return {72 * fontMetrics().averageCharWidth(), 150 + static_cast<int>(rows_.size()) * (drawn_size.height() + 8)};
}

} // namespace frelm
