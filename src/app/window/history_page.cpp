#include "app/window/history_page.h"

#include "app/canvas/painter.h"
#include "app/style/scheme.h"
#include "app/style/words.h"
#include "cutting/cut_plan.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QLocale>
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
  const CutSheet work = seen_sheet(document, evaluator, stop);
  if (stop.stop_requested())
    return {};
  Box all{0, 0, document.sheet.width, document.sheet.height};
  for (const CutPiece& p : work.pieces)
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
  for (const CutPiece& p : work.pieces) {
    if (stop.stop_requested())
      return {};
    painter.fillPath(to_path(p.outline), QColor(p.colour.r, p.colour.g, p.colour.b));
  }
  return out;
}

} // namespace

HistoryPage::HistoryPage(Session& session, QWidget* over)
    : Page(tr("Steps and versions"), tr("Back to the sheet"), over), session_(session), list_(new QListWidget),
      picture_(new QLabel), kept_(new QLabel), name_(new QLineEdit), versions_(new QListWidget),
      back_to_it_(new QPushButton(tr("Go back to it"))), forget_(new QPushButton(tr("Remove"))), worker_(5) {
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
  auto* heading = new QLabel(tr("Versions"));
  heading->setObjectName("heading");
  side->addWidget(heading);
  auto* keep = new QPushButton(tr("Keep"));
  name_->setPlaceholderText(tr("Name of this state…"));
  name_->setAccessibleName(tr("Name of the version"));
  keep->setToolTip(tr("The job as it is now stays in its file under this name, whatever is done to it later"));
  auto* naming = new QHBoxLayout;
  naming->addWidget(name_, 1);
  naming->addWidget(keep);
  side->addLayout(naming);
  versions_->setAccessibleName(tr("Versions, the newest first"));
  side->addWidget(versions_, 1);
  auto* doing = new QHBoxLayout;
  back_to_it_->setToolTip(tr("As a step that can be undone"));
  doing->addWidget(back_to_it_, 1);
  doing->addWidget(forget_);
  side->addLayout(doing);
  connect(keep, &QPushButton::clicked, this, &HistoryPage::keep_version);
  connect(name_, &QLineEdit::returnPressed, this, &HistoryPage::keep_version);
  connect(versions_, &QListWidget::currentRowChanged, this, [this] {
    if (const Version* v = chosen_version(); v != nullptr && versions_->hasFocus())
      show_picture(v->document);
  });
  connect(versions_, &QListWidget::itemClicked, this, [this] {
    if (const Version* v = chosen_version())
      show_picture(v->document);
  });
  connect(back_to_it_, &QPushButton::clicked, this, [this] {
    if (const Version* v = chosen_version())
      session_.apply(tr("Go back to %1").arg(QString::fromStdString(v->name)), gone_back(session_.document(), *v),
                     std::vector<PieceId>{});
  });
  connect(forget_, &QPushButton::clicked, this, [this] {
    if (chosen_version() == nullptr)
      return;
    Versions left = session_.versions();
    left.erase(left.end() - 1 - versions_->currentRow());
    session_.set_versions(std::move(left));
  });
  row->addLayout(side);
  body()->addLayout(row, 1);
  connect(list_, &QListWidget::itemClicked, this, &HistoryPage::go_there);
  connect(list_, &QListWidget::itemActivated, this, &HistoryPage::go_there);
  connect(list_, &QListWidget::currentRowChanged, this, &HistoryPage::ask_for_picture);
  connect(&session_, &Session::history_changed, this, &HistoryPage::fill);
  connect(&session_, &Session::history_changed, this, &HistoryPage::fill_versions);
  fill();
  fill_versions();
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

const Version* HistoryPage::chosen_version() const {
  const int row = versions_->currentRow();
  const Versions& all = session_.versions();
  return row >= 0 && row < static_cast<int>(all.size()) ? &all[all.size() - 1 - static_cast<std::size_t>(row)]
                                                        : nullptr;
}

void HistoryPage::fill_versions() {
  const int row = std::max(versions_->currentRow(), 0);
  const QSignalBlocker quiet(versions_);
  versions_->clear();
  for (auto v = session_.versions().rbegin(); v != session_.versions().rend(); ++v) {
    const QDateTime when = QDateTime::fromString(QString::fromStdString(v->when), Qt::ISODate);
    const QString name = QString::fromStdString(v->name);
    versions_->addItem(
        when.isValid() ? tr("%1 · %2").arg(name, QLocale().toString(when.toLocalTime(), QLocale::ShortFormat)) : name);
  }
  versions_->setCurrentRow(std::min(row, versions_->count() - 1));
  back_to_it_->setEnabled(chosen_version() != nullptr);
  forget_->setEnabled(chosen_version() != nullptr);
}

void HistoryPage::keep_version() {
  const QString when = QDateTime::currentDateTimeUtc().toString(Qt::ISODate);
  Result<Versions> kept =
      with_version(session_.versions(), name_->text().trimmed().toStdString(), when.toStdString(), session_.document());
  if (!kept) {
    emit told(words_of(kept.error()));
    return;
  }
  name_->clear();
  session_.set_versions(std::move(*kept));
  versions_->setCurrentRow(0);
}

void HistoryPage::ask_for_picture() {
  if (list_->currentRow() < 0)
    return;
  show_picture(session_.history().step(step_of(list_->currentRow())).document);
}

void HistoryPage::show_picture(const Document& document) {
  if (asked_ > 0 && document == wanted_)
    return;
  wanted_ = document;
  worker_.request([this, number = ++asked_, document, ratio = devicePixelRatioF(),
                   &evaluator = session_.evaluator()](std::stop_token stop) {
    const QImage image = picture_of_step(document, evaluator, ratio, stop);
    if (image.isNull())
      return;
    mailbox_.post([this, number, image] {
      if (number != asked_)
        return; // another was asked for since
      shown_ = number;
      picture_->setPixmap(QPixmap::fromImage(image));
    });
  });
}

} // namespace frelm
