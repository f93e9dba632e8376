#include "app/window/recovery_list.h"

#include <QDateTime>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

namespace frelm {
namespace {

constexpr QSize drawn_size{120, 80}; // px

} // namespace

QString name_of(const RecoveredJob& job) {
  return job.job_path.empty() ? RecoveryList::tr("A job that was never saved")
                              : QFileInfo(QString::fromStdString(job.job_path)).fileName();
}

QString kept_words(const RecoveredJob& job) {
  const QDateTime kept = QDateTime::fromSecsSinceEpoch(std::chrono::system_clock::to_time_t(job.kept));
  return RecoveryList::tr("kept %1").arg(QLocale().toString(kept, QLocale::ShortFormat));
}

RecoveryList::RecoveryList(const std::vector<RecoveredJob>& jobs, const RecoveryPictures& pictures, QWidget* over)
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
  for (const RecoveredJob& job : jobs)
    show_picture(job.file, pictures.of(job.file));
  connect(&pictures, &RecoveryPictures::made, this,
          [this](const QString& file, const QImage& picture) { show_picture(file.toStdString(), picture); });
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
  auto* when = new QLabel(kept_words(job));
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

void RecoveryList::show_picture(const std::string& file, const QImage& picture) {
  for (const auto& [of, row] : rows_)
    if (of == file && !picture.isNull())
      row->findChild<QLabel*>("picture")->setPixmap(
          QPixmap::fromImage(picture.scaled(drawn_size, Qt::KeepAspectRatio, Qt::SmoothTransformation)));
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
