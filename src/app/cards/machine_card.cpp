#include "app/cards/machine_card.h"

#include "app/commands/colour_choice.h"
#include "app/style/words.h"
#include "cutting/cut_time.h"

namespace frelm {

MaterialRowsCard::MaterialRowsCard(int number, const QString& title, Session& session, KnifePlan& knife,
                                   QWidget* parent)
    : RowsCard<Material>(number, title, session, parent), knife_(knife) {}

std::vector<Colour> MaterialRowsCard::used() const {
  std::vector<Colour> out;
  for (const MaterialUse& u : session_.materials_used())
    out.push_back(u.colour);
  return out;
}

std::optional<Colour> MaterialRowsCard::shown() const {
  if (session_.only_material())
    return session_.only_material();
  const std::vector<Colour> all = used();
  return all.size() == 1 ? std::optional(all.front()) : std::nullopt;
}

Material MaterialRowsCard::material() const {
  const std::optional<Colour> colour = shown();
  const Material* m = colour ? material_of(session_.document().materials, *colour) : nullptr;
  Material out = m != nullptr ? *m : Material{};
  if (m == nullptr && colour)
    out.colour = *colour, out.name = to_hex(*colour);
  return out;
}

void MaterialRowsCard::edit_subject(const QString& step, bool stepped, const std::function<void(Material&)>& change) {
  if (!shown())
    return;
  Material changed = material();
  change(changed);
  Document d = session_.document();
  const auto at = std::find_if(d.materials.begin(), d.materials.end(),
                               [&](const Material& m) { return m.colour == changed.colour; });
  if (at == d.materials.end() && d.materials.size() >= most_materials)
    return refresh();
  if (at == d.materials.end())
    d.materials.push_back(changed);
  else
    *at = changed;
  session_.apply(step, std::move(d), {}, stepped ? "material " + step.toStdString() : std::string());
}

MachineCard::MachineCard(Session& session, KnifePlan& knife, QWidget* parent)
    : MaterialRowsCard(0, tr("Machine"), session, knife, parent), which_(new ChoiceBox), panel_(new ChoiceBox),
      all_(note_label()) {
  which_->setAccessibleName(tr("Material"));
  which_->setMinimumContentsLength(1);
  which_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
  add_row(tr("Material"), which_);
  connect(which_, &QComboBox::activated, this,
          [this](int i) { session_.show_only(choices_[static_cast<std::size_t>(i)]); });
  all_->setText(tr("Choose one material to see what cuts it."));
  add_wide(all_);
  const auto one = [this](const Material&) { return shown().has_value(); };
  const auto blade = [this](const Material& m) { return shown() && m.machine == Machine::Blade; };
  const auto kerf = [this](const Material& m) { return shown() && m.machine != Machine::Blade; };
  const auto tool = [](auto value) { return [value](auto& m) { return &(m.tool.*value); }; };
  auto* machine =
      new_choice({{}, tr("What cuts it"), {}, {}}, {tr("Blade"), tr("Laser"), tr("Torch"), tr("Router")}, 2);
  connect(machine, &ChoiceRow::chosen, this, [this](int i) {
    edit_subject(tr("Change a material's machine"), false,
                 [&](Material& m) { m = with_machine(m, static_cast<Machine>(i)); });
  });
  add_row(tr("Cut by"), machine);
  on_show([machine, one](const Material& m) {
    machine->show_choice(static_cast<int>(m.machine));
    show_row(machine, one(m));
  });
  number({tr("Tip"), tr("Distance of the blade's tip"), tr("Change a blade's tip"),
          tr("How far the tip trails behind the axis that the blade turns about; 0: the cutter sees to it")},
         {MeasureKind::Length, 0, most_tip, 0.05}, tool(&CutTool::tip), blade);
  number({tr("Kerf"), tr("Width of the kerf"), tr("Change a kerf"),
          tr("What is lost along the line; half of it is cut beside what stays")},
         {MeasureKind::Length, 0, most_kerf, 0.1}, tool(&CutTool::kerf), kerf);
  number({tr("Overcut"), tr("Overcut"), tr("Change an overcut"), tr("So far over the beginning of a line once more")},
         {MeasureKind::Length, 0, most_overcut, 0.1}, tool(&CutTool::overcut), one);
  number({tr("Passes"), tr("Passes"), tr("Change the passes"), tr("Times over every line")},
         {MeasureKind::Count, 1, double(most_passes), 1, 1, false, true}, tool(&CutTool::passes), one);
  auto* speed = new_number(
      {{}, tr("Speed, mm/s"), {}, tr("mm a second while it cuts; nothing: what such a machine usually does")},
      {MeasureKind::Count, 0, 5000, 10});
  bind(speed, tr("Change a speed"), {MeasureKind::Count, 0, 5000, 10}, tool(&CutTool::speed), one);
  auto* rise = new_number({{}, tr("Acceleration, mm/s²"), {}, tr("mm/s²; nothing: what such a machine usually has")},
                          {MeasureKind::Count, 0, 1e6, 100});
  bind(rise, tr("Change an acceleration"), {MeasureKind::Count, 0, 1e6, 100}, tool(&CutTool::acceleration), one);
  add_row(tr("Speed"), {speed, rise});
  on_show([speed, rise](const Material& m) {
    const CutPace usual = pace_of(m.machine);
    speed->set_usual(tr("%1 mm/s").arg(usual.cut));
    rise->set_usual(tr("%1 mm/s²").arg(usual.acceleration));
  });
  number(
      {tr("Panels"), tr("Overlap of panels"), tr("Change the panels"),
       tr("What is larger than its sheet or roll is cut in panels that overlap so far; 0: it is not")},
      {MeasureKind::Length, 0, most_panel_overlap, 1}, [](auto& m) { return &m.panel_overlap; },
      [this](const Material& m) { return shown() && m.width > 0; });
  panel_->setAccessibleName(tr("Which panel"));
  panel_->setToolTip(tr("The one that is shown, sent and written to a file"));
  add_row(tr("Panel"), panel_);
  connect(panel_, &QComboBox::activated, this, [this](int i) { knife_.show_panel(static_cast<std::size_t>(i)); });
  connect(&knife_, &KnifePlan::changed, this, &MachineCard::refresh);
  connect(&session_, &Session::only_changed, this, &MachineCard::refresh);
  connect(&session_, &Session::results_changed, this, [this] { // what is cut of which material
    if (isVisible())
      refresh();
  });
}

void MachineCard::refresh() {
  const std::vector<Colour> all = used();
  which_->clear(), choices_.clear();
  const auto offer = [&](std::optional<Colour> colour, const QString& words) {
    if (colour)
      which_->addItem(swatch(*colour, 14), words);
    else
      which_->addItem(words);
    choices_.push_back(colour);
  };
  if (all.size() > 1)
    offer(std::nullopt, tr("All %1").arg(all.size()));
  for (const Colour c : all) {
    const Material* m = material_of(session_.document().materials, c);
    offer(c, m != nullptr ? QString::fromStdString(m->name) : QString::fromStdString(to_hex(c)));
  }
  which_->setEnabled(all.size() > 1);
  for (std::size_t i = 0; i < choices_.size(); ++i)
    if (choices_[i] == shown())
      which_->setCurrentIndex(static_cast<int>(i));
  all_->setVisible(all.size() > 1 && !shown());
  const Material m = material();
  show_rows(m);
  const std::size_t panels = knife_.plan() != nullptr ? knife_.plan()->panels.size() : 0;
  show_row(panel_, panels > 1);
  panel_->clear();
  panel_->addItem(tr("All %1").arg(panels));
  for (std::size_t i = 1; i <= panels; ++i)
    panel_->addItem(tr("%1 of %2").arg(i).arg(panels));
  panel_->setCurrentIndex(static_cast<int>(knife_.panel()));
  const CutPace pace = pace_of(session_.document().materials, m.colour);
  set_summary(!shown()                                        ? QString()
              : m.machine == Machine::Blade && m.tool.tip > 0 ? tr("%1 mm tip").arg(m.tool.tip)
              : m.tool.kerf > 0                               ? tr("%1 mm kerf").arg(m.tool.kerf)
                                                              : tr("%1 mm/s").arg(pace.cut));
}

} // namespace frelm
