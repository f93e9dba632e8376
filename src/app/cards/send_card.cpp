#include "app/cards/send_card.h"

#include "app/style/words.h"

namespace frelm {

SendCard::SendCard(Session& session, KnifePlan& knife, CutterLink& link, QWidget* parent)
    : Card(0, tr("Send"), session, parent), knife_(knife), link_(link), to_(new ChoiceBox), own_(new QLineEdit),
      send_(new QPushButton(tr("Send"))), pause_(new QPushButton), stop_(new QPushButton(tr("Cancel"))),
      on_(new QPushButton), file_(new QPushButton(tr("As a file…"))), log_(new QPushButton(tr("Log…"))),
      bar_(new QProgressBar), told_(note_label()) {
  to_->setAccessibleName(tr("Which cutter"));
  to_->setMinimumContentsLength(1);
  to_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  own_->setAccessibleName(tr("Address of the cutter"));
  own_->setPlaceholderText(tr("tcp:192.168.0.20:9100"));
  own_->setToolTip(tr("tcp:HOST:PORT, serial:DEVICE:BAUD, or queue:NAME"));
  add_row(tr("To"), to_);
  add_row(tr("Address"), own_);
  send_->setObjectName("strong");
  add_wide(send_);
  bar_->setTextVisible(false);
  bar_->setFixedHeight(6);
  bar_->setAccessibleName(tr("How far it is"));
  add_wide(bar_);
  add_wide(told_);
  add_wide(in_row({{pause_, 1}, {stop_, 1}}));
  add_wide(on_);
  add_wide(in_row({{file_, 1}, {log_, 1}}));
  pause_->setToolTip(tr("After the paths that are on their way; the blade is lifted"));
  stop_->setAccessibleName(tr("Cancel the cut"));
  stop_->setToolTip(tr("At once: the blade is lifted, and it can go on from this path"));
  on_->setToolTip(tr("Only what is not cut yet"));
  file_->setToolTip(tr("What would be sent, as the machine moves"));
  log_->setToolTip(tr("What was cut, when, and how it ended"));
  log_->setAccessibleName(tr("Log of cuts"));
  connect(to_, &QComboBox::activated, this, [this] {
    emit address_chosen(address());
    refresh();
  });
  connect(own_, &QLineEdit::editingFinished, this, [this] { emit address_chosen(address()); });
  connect(send_, &QPushButton::clicked, this, [this] { emit send_wanted(address(), 0); });
  connect(on_, &QPushButton::clicked, this,
          [this] { emit send_wanted(address(), static_cast<int>(link_.report().next)); });
  connect(pause_, &QPushButton::clicked, this, [this] { link_.pause(!link_.paused()); });
  connect(stop_, &QPushButton::clicked, this, [this] { link_.cancel(); });
  connect(file_, &QPushButton::clicked, this, &SendCard::file_wanted);
  connect(log_, &QPushButton::clicked, this, &SendCard::log_wanted);
  connect(&link_, &CutterLink::changed, this, &SendCard::refresh);
  connect(&knife_, &KnifePlan::changed, this, &SendCard::refresh);
  connect(&link_, &CutterLink::found_changed, this, [this] {
    find();
    refresh();
  });
  find();
}

void SendCard::find() {
  const QString was = address();
  to_->clear();
  for (const CutterAddress& a : link_.found())
    to_->addItem(a.name, QString::fromStdString(a.address));
  to_->addItem(tr("Another, by its address"), QString());
  set_address(was.isEmpty() ? "practice" : was);
}

void SendCard::set_address(const QString& address) {
  for (int i = 0; i < to_->count(); ++i)
    if (to_->itemData(i).toString() == address) {
      to_->setCurrentIndex(i);
      return;
    }
  to_->setCurrentIndex(to_->count() - 1);
  own_->setText(address);
}

QString SendCard::address() const {
  const QString chosen = to_->currentData().toString();
  return chosen.isEmpty() ? own_->text().trimmed() : chosen;
}

void SendCard::refresh() {
  const bool running = link_.running();
  show_row(own_, to_->currentData().toString().isEmpty());
  to_->setEnabled(!running), own_->setEnabled(!running);
  const std::size_t paths = knife_.plan() != nullptr ? knife_.plan()->drive.plan.order.size() : 0;
  send_->setVisible(!running);
  send_->setEnabled(paths > 0 && knife_.current());
  send_->setText(knife_.panel() > 0         ? tr("Send panel %1").arg(knife_.panel())
                 : session_.only_material() ? tr("Send this material")
                                            : tr("Send all"));
  send_->setToolTip(tr("%n paths", nullptr, static_cast<int>(paths)));
  file_->setEnabled(paths > 0);
  const std::shared_ptr<const ToSend>& work = link_.work();
  pause_->setVisible(running), stop_->setVisible(running);
  pause_->setText(link_.paused() ? tr("Go on") : tr("Pause"));
  bar_->setVisible(running);
  const std::size_t whole = work != nullptr ? work->program.paths.size() : 0;
  const SendReport& report = link_.report();
  on_->setVisible(!running && work != nullptr && report.stopped && report.next < whole && report.next > 0);
  on_->setText(tr("Go on from path %1").arg(report.next + 1));
  if (running) {
    constexpr int fine = 1000;
    const double share = work->cut > 0 ? link_.state().cut / work->cut : 0;
    bar_->setRange(0, fine);
    bar_->setValue(static_cast<int>(share * fine));
    const QString at = tr("path %1 of %2").arg(link_.state().path + 1).arg(whole);
    constexpr double m = 1000; // mm
    const QString far = tr("%1 of %2 m").arg(link_.state().cut / m, 0, 'f', 2).arg(work->cut / m, 0, 'f', 2);
    QString doing;
    switch (link_.state().doing) {
    case SendDoing::Cutting:
      doing = tr("Cutting %1, %2").arg(at, far);
      break;
    case SendDoing::Pausing:
      doing = tr("Pausing after what is on its way: %1").arg(at);
      break;
    case SendDoing::Paused:
      doing = tr("Paused before %1").arg(at);
      break;
    case SendDoing::PausedThere:
      doing = tr("Paused at the machine: release it there. %1").arg(at);
      break;
    case SendDoing::NoMaterial:
      doing = tr("No material: load it. %1").arg(at);
      break;
    }
    told_->setText(doing);
  } else if (work != nullptr && report.stopped)
    told_->setText(report.stopped->code == ErrorCode::Cancelled
                       ? tr("Cancelled; %1 of %2 paths are cut.").arg(report.next).arg(whole)
                       : words_of(*report.stopped));
  else if (work != nullptr && report.handed_over)
    told_->setText(
        tr("All %n paths are with the queue, which does not tell what is cut.", nullptr, static_cast<int>(whole)));
  else if (work != nullptr)
    told_->setText(tr("All %n paths are cut.", nullptr, static_cast<int>(whole)));
  else if (knife_.plan() != nullptr && knife_.plan()->panels.size() > 1 && knife_.panel() == 0)
    told_->setText(tr("Panels lie behind one another on a roll; for sheets choose one of them above."));
  else
    told_->setText(QString());
  told_->setVisible(!told_->text().isEmpty());
  set_summary(running ? tr("sending") : to_->currentData().toString().isEmpty() ? own_->text() : to_->currentText());
}

} // namespace frelm
