#include "app/strip/time_strip.h"

#include "app/style/scheme.h"
#include "app/style/words.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace frelm {
namespace {

constexpr double speeds[]{1, 2, 8, 30, 100};

// "0:07.4"
QString clock_text(double seconds) {
  const int tenths = qRound(seconds * 10);
  return QStringLiteral("%1:%2.%3").arg(tenths / 600).arg(tenths / 10 % 60, 2, 10, QChar('0')).arg(tenths % 10);
}

} // namespace

TimeStrip::TimeStrip(Session& session, KnifePlan& knife, QWidget* parent)
    : QWidget(parent), session_(session), knife_(knife), view_(new TimeView(knife)), play_(new QPushButton),
      speed_(new ChoiceBox), time_(new QLabel), length_(new ShortLabel), about_(new ShortLabel) {
  setObjectName("strip");
  setAttribute(Qt::WA_StyledBackground);
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(12, 3, 12, 3);
  all->setSpacing(2);
  auto* head = new QHBoxLayout;
  head->setSpacing(12);
  play_->setToolTip(tr("The knife as it will go (Space on the line of time)"));
  speed_->setAccessibleName(tr("How fast"));
  speed_->setToolTip(tr("As fast as the machine, or faster"));
  for (const double s : speeds)
    speed_->addItem(tr("%1 ×").arg(s), s);
  time_->setObjectName("heading");
  length_->setObjectName("muted");
  about_->setObjectName("muted");
  length_->setMinimumWidth(40);
  head->addWidget(play_);
  head->addWidget(speed_);
  head->addWidget(time_);
  head->addWidget(length_, 3);
  head->addWidget(about_, 2);
  all->addLayout(head);
  all->addWidget(view_, 1);
  connect(play_, &QPushButton::clicked, this, [this] { knife_.play(!knife_.playing()); });
  connect(speed_, &QComboBox::activated, this, [this] { knife_.set_speed(speed_->currentData().toDouble()); });
  connect(&knife, &KnifePlan::changed, this, &TimeStrip::refresh);
  connect(&knife, &KnifePlan::time_changed, this, &TimeStrip::refresh);
  connect(&session, &Session::document_changed, this, &TimeStrip::refresh);
  restyle();
  refresh();
}

void TimeStrip::restyle() {
  play_->setIcon(icon(knife_.playing() ? "pause" : "play"));
}

void TimeStrip::refresh() {
  const auto& plan = knife_.plan();
  const std::size_t paths = plan != nullptr ? plan->times.legs().size() : 0;
  const QString word = knife_.playing() ? tr("Pause") : tr("Play");
  if (play_->text() != word) {
    play_->setText(word);
    restyle();
  }
  play_->setEnabled(paths > 0);
  speed_->setEnabled(paths > 0);
  for (int i = 0; i < speed_->count(); ++i)
    if (speed_->itemData(i).toDouble() == knife_.speed())
      speed_->setCurrentIndex(i);
  time_->setVisible(paths > 0);
  if (paths == 0) {
    const QString why = words_of(knife_.why_not());
    length_->set_words(!knife_.current() ? tr("Working out the cut…") : why.isEmpty() ? tr("Nothing is cut") : why);
    about_->set_words({});
    return;
  }
  const CutMoment now = knife_.now();
  constexpr double m = 1000; // mm
  time_->setText(tr("%1 of %2").arg(clock_text(knife_.time()), clock_text(plan->times.seconds())));
  length_->set_words(tr("cut %1 of %2 m · travel %3 m · %4")
                         .arg(now.cut / m, 0, 'f', 2)
                         .arg(plan->times.cut() / m, 0, 'f', 2)
                         .arg(now.travel / m, 0, 'f', 2)
                         .arg(now.down ? tr("knife down") : tr("knife up")));
  QStringList about{tr("%n paths", nullptr, static_cast<int>(paths))};
  if (const std::size_t gone = plan->drive.gone.size(); gone > 0)
    about << tr("%n lost in the kerf", nullptr, static_cast<int>(gone));
  if (const std::size_t none = plan->drive.without_lead.size(); none > 0)
    about << tr("%n without a lead", nullptr, static_cast<int>(none));
  about_->set_words(about.join(tr(" · ")));
}

} // namespace frelm
