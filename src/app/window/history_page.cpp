#include "app/window/history_page.h"

#include "app/canvas/painter.h"
#include "app/style/scheme.h"
#include "app/style/words.h"
#include "cutting/cut_plan.h"

#include <QHBoxLayout>
#include <QPainter>
#include <QVBoxLayout>

namespace frelm {
namespace {

constexpr QSize picture_size(300, 220); // px

// The sheet as it is seen, on the bench; what stands beside the sheet too.
QImage picture_of_step(const Document& document, const DocumentEvaluator& evaluator, double ratio,
                       const std::stop_token& stop) {
  QImage out(picture_size * ratio, QImage::Format_RGB32);
  out.setDevicePixelRatio(ratio);
  const Scheme& s = scheme();
  out.fill(s.bench);
  const Result<CutSheet> work = cut_sheet(document, evaluator, stop, SheetSide::Seen);
  if (stop.stop_requested())
    return {};
  Box all{0, 0, document.sheet.width, document.sheet.height};
  if (work)
    for (const CutPiece& p : work->pieces)
      all.add(p.outline.bounds());
  constexpr double margin = 8;
  const double k =
      std::min((picture_size.width() - 2 * margin) / all.width(), (picture_size.height() - 2 * margin) / all.height());
  QPainter painter(&out);
  painter.setRenderHint(QPainter::Antialiasing);
  painter.translate(picture_size.width() / 2.0, picture_size.height() / 2.0);
  painter.scale(k, k);
  painter.translate(-all.centre().x, -all.centre().y);
  painter.fillRect(QRectF(0, 0, document.sheet.width, document.sheet.height), s.sheet);
  if (work)
    for (const CutPiece& p : work->pieces) {
      if (stop.stop_requested())
        return {};
      painter.fillPath(to_path(p.outline), QColor(p.colour.r, p.colour.g, p.colour.b));
    }
  return out;
}

} // namespace

HistoryPage::HistoryPage(Session& session, QWidget* over)
    : Page(tr("Steps"), tr("Back to the sheet"), over), session_(session), list_(new QListWidget), picture_(new QLabel),
      kept_(new QLabel), worker_(5) {
  auto* row = new QHBoxLayout;
  row->setSpacing(12);
  list_->setAccessibleName(tr("Steps, the newest first"));
  row->addWidget(list_, 1);
  picture_->setFixedSize(picture_size);
  picture_->setAccessibleName(tr("The sheet at the chosen step"));
  auto* side = new QVBoxLayout;
  side->addWidget(picture_);
  kept_->setObjectName("muted");
  kept_->setWordWrap(true);
  side->addWidget(kept_);
  side->addStretch(1);
  row->addLayout(side);
  body()->addLayout(row, 1);
  connect(list_, &QListWidget::itemClicked, this, &HistoryPage::go_there);
  connect(list_, &QListWidget::itemActivated, this, &HistoryPage::go_there);
  connect(list_, &QListWidget::currentRowChanged, this, &HistoryPage::ask_for_picture);
  connect(&session_, &Session::history_changed, this, &HistoryPage::fill);
  fill();
  appear();
  list_->setFocus();
}

QSize HistoryPage::wanted() const {
  return {picture_size.width() + 40 * fontMetrics().averageCharWidth(), 640};
}

std::size_t HistoryPage::step_of(int row) const {
  return session_.history().steps() - static_cast<std::size_t>(std::max(row, 0));
}

void HistoryPage::fill() {
  const History& history = session_.history();
  const QSignalBlocker quiet(list_);
  list_->clear();
  for (std::size_t i = history.steps() + 1; i-- > 0;) {
    const std::string& name = history.step(i).name;
    const QString words = !name.empty()          ? QString::fromStdString(name)
                          : history.let_go() > 0 ? tr("As it was before")
                                                 : tr("As it was opened");
    auto* item = new QListWidgetItem(i == history.at() ? tr("● %1").arg(words) : tr("%1").arg(words), list_);
    if (i > history.at())
      item->setForeground(scheme().faint);
    if (i == history.at()) {
      item->setToolTip(tr("The job is here now"));
      list_->setCurrentItem(item);
    }
  }
  const QString kept = counted_words(history.steps(), tr("1 step is kept"), tr("%1 steps are kept"));
  kept_->setText(history.let_go() > 0
                     ? tr("%1; older ones had to go. Settings say how much memory they may take.").arg(kept)
                     : tr("%1. What comes after the present one goes with the next change.").arg(kept));
  ask_for_picture();
}

void HistoryPage::go_there() {
  session_.go_to_step(step_of(list_->currentRow()));
}

void HistoryPage::ask_for_picture() {
  if (list_->currentRow() < 0)
    return;
  const HistoryStep& step = session_.history().step(step_of(list_->currentRow()));
  if (step.id == wanted_)
    return;
  wanted_ = step.id;
  worker_.request([this, id = step.id, document = step.document, ratio = devicePixelRatioF(),
                   &evaluator = session_.evaluator()](std::stop_token stop) {
    const QImage image = picture_of_step(document, evaluator, ratio, stop);
    if (image.isNull())
      return;
    mailbox_.post([this, id, image] {
      if (id != wanted_)
        return;
      shown_ = id;
      picture_->setPixmap(QPixmap::fromImage(image));
    });
  });
}

} // namespace frelm
