#include "app/window/materials_page.h"

#include "app/commands/colour_choice.h"
#include "app/style/words.h"
#include "document/material_json.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QSettings>

namespace frelm {
namespace {

const char* const own_key = "materials";
constexpr double largest_sheet = 1e5; // mm

} // namespace

std::vector<Material> own_materials(const QSettings& settings) {
  const std::string kept = settings.value(own_key).toString().toStdString();
  return kept.empty() ? shipped_materials() : read_materials(kept).value_or(shipped_materials());
}

MaterialsPage::MaterialsPage(Session& session, QSettings& settings, QWidget* over)
    : Page(tr("Materials"), tr("Back to the sheet"), over), session_(session), settings_(settings),
      scroll_(new QScrollArea) {
  scroll_->setWidgetResizable(true);
  scroll_->setAccessibleName(tr("Materials"));
  scroll_->setFrameShape(QFrame::NoFrame);
  body()->addWidget(scroll_, 1);
  body()->addWidget(new_machine_row());
  QLabel* note = note_label();
  note->setText(
      tr("Every colour is a sheet of its own. 0 is \"not said\"; a length of 0 is a roll. The Cut check looks for "
         "finer strokes and gaps, and for what is larger than the sheet."));
  body()->addWidget(note);
  auto* add = new QPushButton(tr("Add a material"));
  auto* keep = new QPushButton(tr("Keep as my own list"));
  keep->setToolTip(tr("New jobs, and jobs without a list, begin with this one"));
  auto* buttons = new QHBoxLayout;
  buttons->addWidget(add);
  buttons->addWidget(keep);
  buttons->addStretch(1);
  body()->addLayout(buttons);
  connect(add, &QPushButton::clicked, this, [this] {
    Document with = with_new_material(session_.document(), tr("New material").toStdString());
    session_.apply(tr("Add a material"), std::move(with));
    if (!rows_.empty())
      rows_.back().name->setFocus(), rows_.back().name->selectAll();
  });
  connect(keep, &QPushButton::clicked, this, [this] {
    settings_.setValue(own_key, QString::fromStdString(write_materials(session_.document().materials)));
    emit told(tr("New jobs begin with this list of materials"));
  });
  connect(&session_, &Session::document_changed, this, &MaterialsPage::refresh);
  refresh();
  appear();
  (rows_.empty() ? static_cast<QWidget*>(add) : rows_.front().name)->setFocus();
}

QSize MaterialsPage::wanted() const {
  const int em = fontMetrics().averageCharWidth();
  return {125 * em, 34 * fontMetrics().height()};
}

void MaterialsPage::change(std::size_t at, const QString& step, const std::function<void(Material&)>& edit,
                           bool stepped) {
  if (at >= session_.document().materials.size())
    return;
  Material m = session_.document().materials[at];
  edit(m);
  const Result<Document> changed = with_material(session_.document(), at, m);
  if (!changed)
    emit told(words_of(changed.error()));
  else
    session_.apply(step, *changed, {}, stepped ? (step + QString::number(at)).toStdString() : std::string());
}

MaterialsPage::Fields MaterialsPage::new_fields(std::size_t at) {
  Fields f;
  f.colour = new QToolButton;
  f.colour->setObjectName("flat");
  connect(f.colour, &QToolButton::clicked, this, [this, at, button = f.colour] {
    choose_colour(this, button->mapToGlobal(QPoint(0, button->height())), session_, [this, at](Colour c) {
      change(at, tr("Change a material's colour"), [&](Material& m) { m.colour = c; });
    });
  });
  f.name = new QLineEdit;
  f.name->setMaxLength(longest_material_name);
  f.name->setMinimumWidth(fontMetrics().averageCharWidth() * 16);
  connect(f.name, &QLineEdit::editingFinished, this, [this, at, field = f.name] {
    if (at < session_.document().materials.size() &&
        field->text() != QString::fromStdString(session_.document().materials[at].name))
      change(at, tr("Name a material"), [&](Material& m) { m.name = field->text().toStdString(); });
  });
  const auto measure = [&](double Material::*value, const QString& step) {
    auto* field = new MeasureField(MeasureKind::Length, step);
    field->set_range(0, largest_sheet);
    field->setMaximumWidth(fontMetrics().averageCharWidth() * 16);
    connect(field, &MeasureField::edited, this, [this, at, value, step](double mm, bool stepped) {
      change(
          at, step, [&](Material& m) { m.*value = mm; }, stepped);
    });
    return field;
  };
  f.width = measure(&Material::width, tr("Width of the sheet"));
  f.length = measure(&Material::length, tr("Length of the sheet"));
  f.stroke = measure(&Material::least_stroke, tr("Least stroke"));
  f.gap = measure(&Material::least_gap, tr("Least gap"));
  f.mirrored = new QCheckBox;
  f.mirrored->setToolTip(tr("Left and right change places where it is cut; on the sheet it stays readable"));
  connect(f.mirrored, &QCheckBox::clicked, this, [this, at](bool on) {
    change(at, on ? tr("Cut a material mirrored") : tr("Cut a material as it is"),
           [&](Material& m) { m.mirrored = on; });
  });
  f.gone = new QToolButton;
  f.gone->setObjectName("flat");
  f.gone->setText("×");
  f.gone->setToolTip(tr("Remove it from the list; what has its colour keeps that"));
  connect(f.gone, &QToolButton::clicked, this,
          [this, at] { session_.apply(tr("Remove a material"), without_material(session_.document(), at)); });
  return f;
}

// What cuts the material whose row had the focus last.
QWidget* MaterialsPage::new_machine_row() {
  auto* row = new QWidget;
  auto* all = new QHBoxLayout(row);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(8);
  chosen_name_ = new QLabel;
  machine_ = new ChoiceBox;
  machine_->addItems({tr("Blade"), tr("Laser"), tr("Torch"), tr("Router")});
  machine_->setToolTip(tr("All but a blade step from node to node and drive arcs, which a DXF then has"));
  connect(machine_, &QComboBox::activated, this, [this](int i) {
    change(chosen_, tr("Change a material's machine"),
           [&](Material& m) { m = with_machine(m, static_cast<Machine>(i)); });
  });
  const auto field = [&](MeasureKind kind, double Material::*value, const QString& step, const QString& tip) {
    auto* f = new MeasureField(kind, step);
    f->set_range(0, kind == MeasureKind::Count ? most_per_100 : most_distance);
    f->setMaximumWidth(fontMetrics().averageCharWidth() * 16);
    f->setToolTip(tip);
    connect(f, &MeasureField::edited, this, [this, value, step](double v, bool stepped) {
      change(
          chosen_, step, [&](Material& m) { m.*value = v; }, stepped);
    });
    return f;
  };
  nodes_ = field(MeasureKind::Count, &Material::nodes_per_100, tr("Change a material's nodes"),
                 tr("At most so many nodes for each 100 mm of line; 0: any number"));
  apart_ = field(MeasureKind::Length, &Material::nodes_apart, tr("Change a material's nodes"),
                 tr("At least so far from node to node; 0: any distance"));
  all->addWidget(chosen_name_, 1);
  all->addWidget(machine_);
  for (const auto& [label, widget] :
       {std::pair<QString, MeasureField*>{tr("Nodes in 100 mm"), nodes_}, {tr("Apart"), apart_}}) {
    auto* words = new QLabel(label);
    words->setObjectName("muted");
    all->addWidget(words);
    all->addWidget(widget);
  }
  return row;
}

bool MaterialsPage::eventFilter(QObject* object, QEvent* event) {
  if (event->type() == QEvent::FocusIn && object->property("row").isValid()) {
    chosen_ = static_cast<std::size_t>(object->property("row").toInt());
    refresh();
  }
  return Page::eventFilter(object, event);
}

void MaterialsPage::build() {
  rows_.clear();
  table_ = new QWidget;
  auto* grid = new QGridLayout(table_);
  grid->setContentsMargins(0, 0, 8, 0);
  grid->setHorizontalSpacing(8);
  grid->setVerticalSpacing(5);
  grid->setColumnStretch(1, 1);
  const QStringList heads{
      {}, tr("Name"), tr("Width"), tr("Length"), tr("Least stroke"), tr("Least gap"), tr("Mirrored")};
  for (int i = 0; i < heads.size(); ++i) {
    auto* head = new QLabel(heads[i]);
    head->setObjectName("muted");
    grid->addWidget(head, 0, i);
  }
  for (std::size_t i = 0; i < session_.document().materials.size(); ++i) {
    rows_.push_back(new_fields(i));
    for (QWidget* w : {static_cast<QWidget*>(rows_.back().name), static_cast<QWidget*>(rows_.back().width),
                       static_cast<QWidget*>(rows_.back().length), static_cast<QWidget*>(rows_.back().stroke),
                       static_cast<QWidget*>(rows_.back().gap), static_cast<QWidget*>(rows_.back().mirrored)})
      w->setProperty("row", static_cast<int>(i)), w->installEventFilter(this);
    const Fields& f = rows_.back();
    int column = 0;
    for (QWidget* w : {static_cast<QWidget*>(f.colour), static_cast<QWidget*>(f.name), static_cast<QWidget*>(f.width),
                       static_cast<QWidget*>(f.length), static_cast<QWidget*>(f.stroke), static_cast<QWidget*>(f.gap),
                       static_cast<QWidget*>(f.mirrored), static_cast<QWidget*>(f.gone)})
      grid->addWidget(w, static_cast<int>(i) + 1, column++, w == f.mirrored ? Qt::AlignHCenter : Qt::Alignment());
  }
  grid->setRowStretch(static_cast<int>(rows_.size()) + 1, 1);
  if (QWidget* before = scroll_->takeWidget()) // one of its buttons may be what was pressed
    before->hide(), before->deleteLater();
  scroll_->setWidget(table_);
  table_->setAutoFillBackground(false); // the card shows through
  scroll_->viewport()->setAutoFillBackground(false);
}

void MaterialsPage::refresh() {
  const std::vector<Material>& list = session_.document().materials;
  if (table_ == nullptr || rows_.size() != list.size())
    build();
  const Unit unit = session_.document().unit;
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    const Material& m = list[i];
    const Fields& f = rows_[i];
    const QString name = QString::fromStdString(m.name);
    f.colour->setIcon(swatch(m.colour, 18));
    f.colour->setAccessibleName(tr("Colour of %1").arg(name));
    f.colour->setToolTip(tr("Another colour; what is cut from it gets that too"));
    if (!f.name->hasFocus() || f.name->text() != name)
      f.name->setText(name);
    f.name->setAccessibleName(tr("Name of %1").arg(name));
    const std::pair<MeasureField*, double> values[]{
        {f.width, m.width}, {f.length, m.length}, {f.stroke, m.least_stroke}, {f.gap, m.least_gap}};
    for (const auto& [field, value] : values) {
      field->set_unit(unit);
      field->show_value(value);
    }
    f.width->setAccessibleName(tr("Width of %1").arg(name));
    f.length->setAccessibleName(tr("Length of %1").arg(name));
    f.stroke->setAccessibleName(tr("Least stroke of %1").arg(name));
    f.gap->setAccessibleName(tr("Least gap of %1").arg(name));
    f.mirrored->setChecked(m.mirrored);
    f.mirrored->setAccessibleName(tr("%1 mirrored").arg(name));
    f.gone->setAccessibleName(tr("Remove %1").arg(name));
  }
  if (chosen_ >= list.size())
    chosen_ = list.empty() ? 0 : list.size() - 1;
  for (QWidget* w : {static_cast<QWidget*>(machine_), static_cast<QWidget*>(nodes_), static_cast<QWidget*>(apart_)})
    w->setEnabled(!list.empty());
  if (list.empty())
    return;
  const Material& m = list[chosen_];
  const QString name = QString::fromStdString(m.name);
  chosen_name_->setText(tr("%1 is cut by").arg(name));
  machine_->setCurrentIndex(static_cast<int>(m.machine));
  machine_->setAccessibleName(tr("What cuts %1").arg(name));
  nodes_->show_value(m.nodes_per_100);
  nodes_->setAccessibleName(tr("Nodes in 100 mm of %1").arg(name));
  apart_->set_unit(unit);
  apart_->show_value(m.nodes_apart);
  apart_->setAccessibleName(tr("Nodes of %1 apart").arg(name));
}

} // namespace frelm
