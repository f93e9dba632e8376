#include "app/cards/jobs_card.h"

#include "app/style/scheme.h"

#include <QApplication>
#include <QListWidget>
#include <QPainter>

namespace frelm {
namespace {

constexpr QSize tile(124, 80); // px of a picture

// On white, in both schemes.
QIcon picture_of(const JobTile& job, double ratio) {
  QPixmap out(tile * ratio);
  out.setDevicePixelRatio(ratio);
  out.fill(Qt::white); // as pictures are painted
  QPainter painter(&out);
  painter.setRenderHint(QPainter::SmoothPixmapTransform);
  if (!job.picture.isNull()) {
    const QSize fits = job.picture.size().scaled(tile - QSize(8, 8), Qt::KeepAspectRatio);
    painter.drawImage(QRect(QPoint((tile.width() - fits.width()) / 2, (tile.height() - fits.height()) / 2), fits),
                      job.picture);
  }
  painter.setPen(scheme().lines);
  painter.drawRect(QRect(QPoint(), tile - QSize(1, 1)));
  QIcon icon;
  for (const QIcon::Mode mode : {QIcon::Normal, QIcon::Selected, QIcon::Active}) // the same when chosen
    icon.addPixmap(out, mode);
  return icon;
}

void fill(QListWidget* list, const std::vector<JobTile>& jobs) {
  list->clear();
  for (const JobTile& job : jobs) {
    auto* item = new QListWidgetItem(picture_of(job, list->devicePixelRatioF()), job.name, list);
    item->setData(Qt::UserRole, job.path);
    item->setToolTip(job.tip.isEmpty() ? job.path : job.tip);
    item->setTextAlignment(Qt::AlignHCenter | Qt::AlignTop);
  }
  const int rows = (static_cast<int>(jobs.size()) + 1) / 2, high = list->gridSize().height();
  list->setFixedHeight(rows * high + 4);
}

} // namespace

JobsCard::JobsCard(Session& session, QWidget* parent)
    : Card(0, tr("Jobs"), session, parent), left_words_(note_label()), lately_words_(note_label()),
      examples_words_(note_label()), left_behind_(nullptr), lately_(nullptr), examples_(nullptr) {
  left_words_->setText(tr("Not closed properly: bring back"));
  add_wide(left_words_);
  left_behind_ = add_list(tr("Jobs that can be brought back"));
  lately_words_->setText(tr("Go on with"));
  add_wide(lately_words_);
  lately_ = add_list(tr("Jobs to go on with"));
  examples_words_->setText(tr("Look at an example"));
  add_wide(examples_words_);
  examples_ = add_list(tr("Examples"));
  // A click, or Return; the second click of two is no other one.
  const auto opens = [this](QListWidget* list, void (JobsCard::*signal)(const QString&)) {
    connect(list, &QListWidget::itemClicked, this,
            [this, signal](const QListWidgetItem* item) { emit(this->*signal)(item->data(Qt::UserRole).toString()); });
    connect(list, &QListWidget::itemActivated, this, [this, signal](const QListWidgetItem* item) {
      if (QApplication::mouseButtons() == Qt::NoButton)
        emit(this->*signal)(item->data(Qt::UserRole).toString());
    });
  };
  opens(left_behind_, &JobsCard::bring_back);
  opens(lately_, &JobsCard::open);
  opens(examples_, &JobsCard::open_example);
  show_left_behind({});
  show_lately({});
  show_examples({});
}

QListWidget* JobsCard::add_list(const QString& name) {
  auto* list = new QListWidget;
  list->setAccessibleName(name);
  list->setViewMode(QListView::IconMode);
  list->setMovement(QListView::Static);
  list->setResizeMode(QListView::Adjust);
  list->setIconSize(tile);
  list->setGridSize({tile.width() + 8, tile.height() + fontMetrics().height() + 10});
  list->setTextElideMode(Qt::ElideRight);
  list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list->setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list->setFrameShape(QFrame::NoFrame);
  list->setObjectName("plain");
  add_wide(list);
  return list;
}

void JobsCard::show_jobs(QListWidget* list, QLabel* words, const std::vector<JobTile>& jobs) {
  fill(list, jobs);
  list->setVisible(!jobs.empty());
  words->setVisible(!jobs.empty());
}

void JobsCard::show_left_behind(const std::vector<JobTile>& jobs) {
  show_jobs(left_behind_, left_words_, jobs);
}

void JobsCard::show_lately(const std::vector<JobTile>& jobs) {
  show_jobs(lately_, lately_words_, jobs);
}

void JobsCard::show_examples(const std::vector<JobTile>& jobs) {
  show_jobs(examples_, examples_words_, jobs);
}

} // namespace frelm
