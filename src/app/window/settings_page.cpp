#include "app/window/settings_page.h"

#include "app/cards/face_choice.h"
#include "app/style/scheme.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QTimer>
#include <QToolButton>

namespace frelm {
namespace {

// Of this family the same style, else its first one.
FaceName face_of(const FaceLibrary& faces, const std::string& family, const std::string& style) {
  FaceName first;
  for (const FaceEntry& e : faces.entries()) {
    if (e.name.family != family)
      continue;
    if (e.name.style == style)
      return {family, style};
    if (first.family.empty() || e.name.style == "Regular")
      first = {family, e.name.style};
  }
  return first;
}

} // namespace

SettingsPage::SettingsPage(Session& session, int appearance, QWidget* over)
    : Page(tr("Settings"), tr("Back to the sheet"), over), session_(session), find_(new QLineEdit),
      grid_(new QGridLayout), appearance_(appearance), none_(note_label()) {
  find_->setPlaceholderText(tr("dark, unit, memory…"));
  find_->setAccessibleName(tr("A word of the setting"));
  find_->setClearButtonEnabled(true);
  body()->addWidget(find_);
  auto* inside = new QWidget;
  grid_->setContentsMargins(0, 0, 8, 0);
  grid_->setHorizontalSpacing(12);
  grid_->setVerticalSpacing(7);
  grid_->setColumnStretch(2, 1);
  inside->setLayout(grid_);
  auto* scroll = new QScrollArea;
  scroll->setAccessibleName(tr("Settings"));
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setWidgetResizable(true);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidget(inside);
  inside->setAutoFillBackground(false);
  scroll->viewport()->setAutoFillBackground(false);
  body()->addWidget(scroll, 1);
  add_looks(appearance);
  add_new_things();
  add_hand();
  add_memory();
  none_->setText(tr("No setting has this word"));
  grid_->addWidget(none_, grid_->rowCount(), 0, 1, 4);
  grid_->setRowStretch(grid_->rowCount(), 1);
  connect(find_, &QLineEdit::textChanged, this, &SettingsPage::filter);
  auto* often = new QTimer(this); // what is held in memory changes behind the window
  connect(often, &QTimer::timeout, this, &SettingsPage::refresh);
  often->start(1000);
  refresh();
  filter();
  appear();
  find_->setFocus();
}

QSize SettingsPage::wanted() const {
  return {96 * fontMetrics().averageCharWidth(), 4000}; // as high as there is room
}

int SettingsPage::rows_shown() const {
  return static_cast<int>(std::count_if(rows_.begin(), rows_.end(), [](const Row& r) {
    return r.widgets.front()->isVisibleTo(r.widgets.front()->parentWidget());
  }));
}

void SettingsPage::add_heading(const QString& words) {
  auto* heading = new QLabel(words);
  heading->setObjectName("heading");
  grid_->addWidget(heading, grid_->rowCount(), 0, 1, 4);
  headings_.push_back(heading);
}

void SettingsPage::add(const QString& label, const QString& found_by, QWidget* field, const QString& after, Row row,
                       const std::function<void()>& put_back) {
  const int at = grid_->rowCount();
  auto* words = new QLabel(label);
  words->setBuddy(field);
  auto* note = note_label();
  note->setText(after);
  row.back = new QToolButton;
  row.back->setObjectName("flat");
  row.back->setText(tr("Usual"));
  row.back->setAccessibleName(tr("%1: as usual").arg(label));
  row.back->setToolTip(tr("Back to what it is to begin with"));
  QSizePolicy stays = row.back->sizePolicy(); // so that nothing moves when it comes and goes
  stays.setRetainSizeWhenHidden(true);
  row.back->setSizePolicy(stays);
  grid_->addWidget(words, at, 0);
  grid_->addWidget(field, at, 1);
  grid_->addWidget(note, at, 2);
  grid_->addWidget(row.back, at, 3);
  row.widgets = {words, field, note, row.back};
  row.words = label + " " + found_by + " " + after;
  connect(row.back, &QToolButton::clicked, this, put_back);
  rows_.push_back(std::move(row));
}

void SettingsPage::add_number(const QString& label, const QString& found_by, MeasureKind kind,
                              double Preferences::*value, double step, const QString& after) {
  auto* field = new MeasureField(kind, label);
  const PreferenceRange range = range_of(value);
  field->set_range(range.low, range.high);
  field->set_step(step);
  connect(field, &MeasureField::edited, this,
          [this, value](double v, bool) { set([&](Preferences& p) { p.*value = v; }); });
  Row row;
  row.usual = [this, value] { return session_.preferences().*value == Preferences{}.*value; };
  row.show = [this, field, value] { field->show_value(session_.preferences().*value); };
  add(label, found_by, field, after, std::move(row),
      [this, value] { set([&](Preferences& p) { p.*value = Preferences{}.*value; }); });
}

void SettingsPage::add_looks(int appearance) {
  add_heading(tr("How it looks"));
  auto* look = new ChoiceRow(tr("Appearance"), {tr("As the desktop"), tr("Light"), tr("Dark")});
  look->show_choice(appearance);
  const auto choose = [this, look](int i) {
    appearance_ = i;
    look->show_choice(i);
    emit appearance_chosen(i);
    refresh();
  };
  connect(look, &ChoiceRow::chosen, this, choose);
  Row row;
  row.usual = [this] { return appearance_ == 0; };
  row.show = [] {};
  add(tr("Appearance"), tr("dark light colours theme look"), look, {}, std::move(row), [choose] { choose(0); });
  add_number(tr("Size of text"), tr("large small font percent zoom"), MeasureKind::Percent, &Preferences::text, 10,
             tr("of the desktop's"));
}

void SettingsPage::add_new_things() {
  add_heading(tr("What is new begins with"));
  auto* unit = new ChoiceRow(tr("Unit of new jobs"), {tr("Millimetres"), tr("Inches")});
  connect(unit, &ChoiceRow::chosen, this,
          [this](int i) { set([&](Preferences& p) { p.unit = i == 1 ? Unit::Inch : Unit::Millimetre; }); });
  Row row;
  row.usual = [this] { return session_.preferences().unit == Preferences{}.unit; };
  row.show = [this, unit] { unit->show_choice(session_.preferences().unit == Unit::Inch ? 1 : 0); };
  add(tr("Unit of new jobs"), tr("mm inch in"), unit, {}, std::move(row),
      [this] { set([](Preferences& p) { p.unit = Preferences{}.unit; }); });
  auto* face = new FaceChoice(session_.faces());
  face->setAccessibleName(tr("Face of new letterings"));
  connect(face, &FaceChoice::chosen, this, [this](const QString& family) {
    set([&](Preferences& p) { p.face = face_of(session_.faces(), family.toStdString(), p.face.style); });
  });
  Row begin;
  begin.usual = [this] { return session_.preferences().face == Preferences{}.face; };
  begin.show = [this, face] { face->show_face(QString::fromStdString(session_.preferences().face.family)); };
  add(tr("Face of new letterings"), tr("font letters family"), face, {}, std::move(begin),
      [this] { set([](Preferences& p) { p.face = Preferences{}.face; }); });
  add_number(tr("Their capitals"), tr("size letters height"), MeasureKind::Length, &Preferences::letters, 1,
             tr("high"));
  auto* materials = new QPushButton(tr("Materials…"));
  connect(materials, &QPushButton::clicked, this, &SettingsPage::materials_wanted);
  Row list;
  list.usual = [] { return true; };
  list.show = [] {};
  add(tr("Materials of new jobs"), tr("vinyl sheet roll colours"), materials, tr("a list of your own is kept there"),
      std::move(list), [] {});
}

void SettingsPage::add_hand() {
  add_heading(tr("The hand"));
  add_number(tr("Arrow keys move by"), tr("nudge step millimetre"), MeasureKind::Length, &Preferences::step_mm, 0.5,
             tr("with Shift by ten of them"));
  add_number(tr("and in inch jobs by"), tr("nudge step arrow keys"), MeasureKind::Length, &Preferences::step_inch,
             1.0 / 16, {});
  qobject_cast<MeasureField*>(rows_.back().widgets[1])->set_unit(Unit::Inch);
  add_number(tr("Catching from"), tr("snap nodes edges middles lines pixels"), MeasureKind::Count,
             &Preferences::catch_px, 1, tr("px on the screen; 0: nothing catches"));
  add_number(tr("Recovery copy after"), tr("autosave crash safety seconds"), MeasureKind::Count,
             &Preferences::keep_after, 1, tr("seconds without a change"));
}

void SettingsPage::add_memory() {
  add_heading(tr("Memory"));
  add_number(tr("Worked-out shapes"), tr("cache budget MB speed"), MeasureKind::Count, &Preferences::cache_mb, 16, {});
  auto* cached = qobject_cast<QLabel*>(rows_.back().widgets[2]);
  const auto held = [this](std::size_t bytes) {
    constexpr std::size_t mb = std::size_t{1} << 20;
    return bytes < mb ? tr("less than 1 MB") : tr("%1 MB").arg(bytes / mb);
  };
  rows_.back().show = [this, cached, held, show = rows_.back().show] {
    show();
    cached->setText(tr("MB; %1 held now").arg(held(session_.evaluator().memory().bytes())));
  };
  add_number(tr("Steps to undo"), tr("history budget MB"), MeasureKind::Count, &Preferences::history_mb, 16, {});
  auto* steps = qobject_cast<QLabel*>(rows_.back().widgets[2]);
  rows_.back().show = [this, steps, held, show = rows_.back().show] {
    show();
    const History& history = session_.history();
    const QString counted = history.steps() == 1 ? tr("1 step") : tr("%1 steps").arg(history.steps());
    steps->setText((history.let_go() > 0 ? tr("MB; %1 in %2, older ones had to go") : tr("MB; %1 in %2"))
                       .arg(counted, held(history.bytes())));
  };
}

void SettingsPage::set(const std::function<void(Preferences&)>& change) {
  Preferences now = session_.preferences();
  change(now);
  emit changed(now);
  refresh();
}

void SettingsPage::refresh() {
  for (const Row& r : rows_) {
    r.show();
    r.back->setVisible(r.widgets.front()->isVisibleTo(this) && !r.usual());
  }
}

void SettingsPage::filter() {
  const QStringList words = find_->text().split(' ', Qt::SkipEmptyParts);
  bool any = false;
  for (const Row& r : rows_) {
    const bool found = std::all_of(words.begin(), words.end(),
                                   [&](const QString& w) { return r.words.contains(w, Qt::CaseInsensitive); });
    for (QWidget* w : r.widgets)
      w->setVisible(found);
    any = any || found;
  }
  for (QLabel* h : headings_)
    h->setVisible(words.isEmpty());
  none_->setVisible(!any);
  refresh();
}

} // namespace frelm
