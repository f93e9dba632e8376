#include "app/window/settings_page.h"

#include <QPushButton>
#include <QSettings>
#include <QTimer>

namespace frelm {
namespace {

constexpr std::size_t mb = std::size_t{1} << 20;
constexpr double least_mb = 16, most_mb = 8192;
const char* const cache_key = "memory/cacheMB";
const char* const history_key = "memory/historyMB";

std::size_t bytes_kept(const QSettings& settings, const char* key, std::size_t usual) {
  const double kept = settings.value(key, double(usual) / double(mb)).toDouble();
  return static_cast<std::size_t>(std::clamp(kept, least_mb, most_mb)) * mb; // also when the file says nonsense
}

MeasureField* budget_field(const QString& name) {
  auto* field = new MeasureField(MeasureKind::Count, name);
  field->set_range(least_mb, most_mb);
  field->set_step(16);
  return field;
}

} // namespace

void load_memory(const QSettings& settings, Session& session) {
  session.set_memory(bytes_kept(settings, cache_key, usual_cache_bytes),
                     bytes_kept(settings, history_key, usual_history_bytes));
}

SettingsPage::SettingsPage(Session& session, QSettings& settings, int appearance, QWidget* over)
    : Page(tr("Settings"), tr("Back to the sheet"), over), session_(session), settings_(settings),
      appearance_(new ChoiceRow(tr("Appearance"), {tr("As the desktop"), tr("Light"), tr("Dark")})),
      cache_(budget_field(tr("Memory for worked-out shapes, MB"))),
      history_(budget_field(tr("Memory for steps to undo, MB"))), cached_(note_label()), steps_(note_label()) {
  auto* rows = new QGridLayout;
  rows->setHorizontalSpacing(12);
  rows->setVerticalSpacing(8);
  rows->setColumnStretch(3, 1);
  appearance_->show_choice(appearance);
  rows->addWidget(new QLabel(tr("Appearance")), 0, 0);
  rows->addWidget(appearance_, 0, 1, 1, 3);
  const auto budget = [&](int row, const QString& label, MeasureField* field, QLabel* now) {
    auto* words = new QLabel(label);
    words->setBuddy(field);
    rows->addWidget(words, row, 0);
    rows->addWidget(field, row, 1);
    auto* unit = new QLabel(tr("MB"));
    unit->setObjectName("muted");
    rows->addWidget(unit, row, 2);
    rows->addWidget(now, row, 3);
    connect(field, &MeasureField::edited, this, &SettingsPage::keep);
  };
  budget(1, tr("Worked-out shapes"), cache_, cached_);
  budget(2, tr("Steps to undo"), history_, steps_);
  body()->addLayout(rows);
  QLabel* why = note_label();
  why->setText(tr("What was used longest ago goes first. More memory makes large jobs quicker and keeps more steps; "
                  "nothing of a job is ever lost by having less."));
  body()->addWidget(why);
  body()->addStretch(1);
  connect(appearance_, &ChoiceRow::chosen, this, &SettingsPage::appearance_chosen);
  auto* often = new QTimer(this); // what is held changes behind the window
  connect(often, &QTimer::timeout, this, &SettingsPage::refresh);
  often->start(1000);
  refresh();
  appear();
  appearance_->button(appearance)->setFocus();
}

void SettingsPage::refresh() {
  const auto in_mb = [](std::size_t bytes) { return double(bytes / mb); };
  const auto held = [&](std::size_t bytes) {
    return bytes < mb ? tr("less than 1 MB") : tr("%1 MB").arg(in_mb(bytes));
  };
  const History& history = session_.history();
  cache_->show_value(in_mb(session_.evaluator().memory().limit()));
  history_->show_value(in_mb(history.most_bytes()));
  cached_->setText(tr("%1 held now").arg(held(session_.evaluator().memory().bytes())));
  const QString steps = history.steps() == 1 ? tr("1 step") : tr("%1 steps").arg(history.steps());
  steps_->setText(
      (history.let_go() > 0 ? tr("%1 in %2; older ones had to go") : tr("%1 in %2")).arg(steps, held(history.bytes())));
}

void SettingsPage::keep() {
  settings_.setValue(cache_key, cache_->value());
  settings_.setValue(history_key, history_->value());
  load_memory(settings_, session_);
  refresh();
}

} // namespace frelm
