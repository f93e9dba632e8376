#include "app/window/export_page.h"

#include "app/commands/colour_choice.h"
#include "app/style/words.h"
#include "app/window/ground_row.h"

#include <QCheckBox>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QScrollArea>

namespace frelm {
namespace {

constexpr int longest_name = 30; // letters of a material's that are shown

// Labelled rows that write what is chosen into the choice.
class Rows : public QWidget {
public:
  explicit Rows(Unit unit) : unit_(unit), grid_(new QGridLayout(this)) {
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(12);
    grid_->setVerticalSpacing(6);
    grid_->setColumnStretch(1, 1);
  }
  template <class Choice> void choice(const QString& label, const QStringList& words, Choice& value) {
    choice(label, words, static_cast<int>(value), [&value](int now) { value = static_cast<Choice>(now); });
  }
  void choice(const QString& label, const QStringList& words, int now, const std::function<void(int)>& chosen) {
    auto* row = new ChoiceRow(label, words);
    row->show_choice(now);
    QObject::connect(row, &ChoiceRow::chosen, this, chosen);
    add(label, row);
  }
  QCheckBox* flag(const QString& words, bool& value, const QString& tip) {
    auto* box = new QCheckBox(words);
    box->setChecked(value);
    box->setToolTip(tip);
    QObject::connect(box, &QCheckBox::toggled, this, [&value](bool on) { value = on; });
    if (flags_ == nullptr || flags_->count() == 2) { // two side by side
      auto* side_by_side = new QWidget;
      flags_ = new QHBoxLayout(side_by_side);
      flags_->setContentsMargins(0, 0, 0, 0);
      flags_->setSpacing(18);
      add({}, side_by_side);
    }
    flags_->addWidget(box, 1);
    return box;
  }
  MeasureField* length(const QString& label, double& value, const QString& tip) {
    auto* field = new MeasureField(MeasureKind::Length, label);
    field->set_unit(unit_);
    field->set_range(least_flatten, most_flatten);
    field->show_value(value);
    field->setToolTip(tip);
    QObject::connect(field, &MeasureField::edited, this, [&value](double now) { value = now; });
    add(label, field);
    return field;
  }
  void words(const QString& label, std::string& value, const QString& without, const QString& tip) {
    auto* field = new QLineEdit(QString::fromStdString(value));
    field->setAccessibleName(label);
    field->setPlaceholderText(without);
    field->setToolTip(tip);
    field->setMaxLength(60);
    QObject::connect(field, &QLineEdit::textChanged, this,
                     [&value](const QString& now) { value = now.trimmed().toStdString(); });
    add(label, field);
  }
  void add(const QString& label, QWidget* field) {
    const int row = grid_->rowCount();
    if (!label.isEmpty())
      grid_->addWidget(new QLabel(label), row, 0);
    grid_->addWidget(field, row, 1);
  }

private:
  Unit unit_;
  QGridLayout* grid_;
  QHBoxLayout* flags_ = nullptr;
};

} // namespace

ExportPage::ExportPage(Session& session, ExportChoice choice, QWidget* over)
    : Page(tr("Export"), tr("Back to the sheet"), over), session_(session), choice_(std::move(choice)),
      findings_(new QLabel), findings_row_(new QWidget), materials_(new QVBoxLayout),
      knife_(new QCheckBox(tr("What the knife cuts"))), pen_(new QCheckBox(tr("What the pen draws"))),
      split_(new QCheckBox(tr("A file for each material"))), stays_(note_label()), size_(note_label()),
      go_(new QPushButton(tr("Export"))) {
  auto* inside = new QWidget;
  auto* all = new QGridLayout(inside);
  all->setContentsMargins(0, 0, 8, 0);
  all->setHorizontalSpacing(12);
  all->setVerticalSpacing(10);
  all->setColumnStretch(1, 1);
  int row = 0;
  const auto label = [&](const QString& words, Qt::Alignment at = Qt::AlignVCenter) {
    constexpr int as_fields_stand = 5; // px
    auto* l = new QLabel(words);
    l->setContentsMargins(0, at == Qt::AlignTop ? as_fields_stand : 0, 0, 0);
    all->addWidget(l, row, 0, at);
  };

  auto* first = new QHBoxLayout(findings_row_);
  first->setContentsMargins(0, 0, 0, 0);
  findings_->setWordWrap(true);
  first->addWidget(findings_, 1);
  auto* look = new QPushButton(tr("Look at them"));
  connect(look, &QPushButton::clicked, this, &ExportPage::look_at_findings);
  first->addWidget(look);
  all->addWidget(findings_row_, row++, 0, 1, 2);

  label(tr("Goes out"), Qt::AlignTop);
  auto* goes = new QVBoxLayout;
  goes->setSpacing(4);
  materials_->setSpacing(3);
  goes->addLayout(materials_);
  auto* tools = new QHBoxLayout;
  tools->setSpacing(18);
  knife_->setChecked(choice_.what.knife);
  pen_->setChecked(choice_.what.pen);
  tools->addWidget(knife_);
  tools->addWidget(pen_);
  tools->addStretch(1);
  goes->addLayout(tools);
  goes->addWidget(stays_);
  all->addLayout(goes, row++, 1);

  QStringList names;
  int at = 0, chosen = 0;
  const Result<const ExportFormat*> now = export_format(choice_.paths.front());
  for (const ExportFormat& f : export_formats()) {
    names << core_words(f.name);
    options_.push_back(options_of(f));
    if (now.ok() && *now == &f)
      chosen = at;
    ++at;
  }
  label(tr("As"));
  format_ = new ChoiceRow(tr("Format"), names);
  format_->show_choice(chosen);
  all->addWidget(format_, row++, 1);
  for (QWidget* rows : options_)
    all->addWidget(rows, row++, 1);
  show_options(chosen);
  split_->setChecked(choice_.split);
  split_->setToolTip(tr("Each has the material's name, and the same frame, so that they fit on one another"));
  all->addWidget(split_, row++, 1);
  auto* driven = new QCheckBox(tr("As the machine moves"));
  driven->setChecked(choice_.as_driven);
  const auto moves_off = [](const Material& m) { return !m.tool.follows_line(); };
  const std::vector<Material>& materials = session_.document().materials;
  driven->setEnabled(std::any_of(materials.begin(), materials.end(), moves_off));
  driven->setToolTip(
      driven->isEnabled()
          ? tr("With the blade's tip, kerf, leads, overcut and passes of the Knife view; not in pictures")
          : tr("No material has a tip, a kerf, leads, an overcut or passes; say so in the Knife view"));
  all->addWidget(driven, row++, 1);
  label(tr("Size"));
  all->addWidget(size_, row++, 1);
  label(tr("File"), Qt::AlignTop);
  file_ = file_row();
  file_->set_usual(chosen);
  all->addWidget(file_, row++, 1);
  all->setRowStretch(row, 1);

  auto* scroll = new QScrollArea;
  scroll->setAccessibleName(tr("What is written"));
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  scroll->setWidget(inside);
  inside->setAutoFillBackground(false);
  scroll->viewport()->setAutoFillBackground(false);
  body()->addWidget(scroll, 1);
  go_->setObjectName("strong");
  go_->setDefault(true);
  add_action(go_);

  connect(format_, &ChoiceRow::chosen, this, &ExportPage::choose_format);
  connect(knife_, &QCheckBox::toggled, this, [this](bool on) { choice_.what.knife = on, refresh(); });
  connect(pen_, &QCheckBox::toggled, this, [this](bool on) { choice_.what.pen = on, refresh(); });
  connect(split_, &QCheckBox::toggled, this, [this](bool on) { choice_.split = on, file_->set_replaces(!on); });
  connect(driven, &QCheckBox::toggled, this, [this](bool on) { choice_.as_driven = on; });
  connect(go_, &QPushButton::clicked, this, &ExportPage::wanted_out);
  connect(&session_, &Session::results_changed, this, &ExportPage::refresh);
  connect(&session_, &Session::document_changed, this, &ExportPage::refresh);
  refresh();
  appear();
  go_->setFocus();
}

QSize ExportPage::wanted() const {
  const int em = fontMetrics().averageCharWidth();
  return {104 * em, 34 * fontMetrics().height()};
}

QWidget* ExportPage::options_of(const ExportFormat& format) {
  ExportOptions& o = choice_.options;
  auto* rows = new Rows(session_.document().unit);
  const QStringList inks{tr("Areas"), tr("Lines to cut along")};
  const QString drawn = tr("Drawn as"), chords = tr("Chords"),
                chords_tip = tr("How far chords may be from the curves, where the file holds no curves");
  const QString suffix = QString::fromLatin1(format.suffix.data(), static_cast<qsizetype>(format.suffix.size()));
  const auto page = [&] {
    rows->choice(drawn, inks, o.page.ink);
    rows->words(tr("Spot colour"), o.page.spot, tr("none; each material has its own"),
                tr("A colour of this name for all that the knife cuts, for programs that look for one"));
  };
  if (suffix == "svg") {
    rows->choice(drawn, inks, o.svg.ink);
    const int made_for = !o.svg.plain ? 0 : !o.svg.pixels ? 1 : 2;
    rows->choice(tr("Written for"), {tr("Any reader"), tr("Only paths"), tr("Only paths, in px")}, made_for,
                 [&o](int now) { o.svg.plain = now > 0, o.svg.pixels = now == 2; });
    rows->flag(tr("Arcs stay arcs"), o.svg.arcs, tr("What lies on a circle is written as one"));
  } else if (suffix == "dxf") {
    auto* lines = new ChoiceRow(tr("Lines"), {tr("Polylines (R12)"), tr("Curves (R2000)")});
    lines->show_choice(static_cast<int>(o.dxf.version));
    rows->add(tr("Lines"), lines);
    rows->choice(tr("In"), {tr("mm"), tr("inches")}, o.dxf.unit);
    rows->flag(tr("Arcs stay arcs"), o.dxf.arcs, tr("What lies on a circle is written as one"));
    QCheckBox* all = rows->flag(tr("Curves as arcs"), o.dxf.curves_as_arcs,
                                tr("Every curve as circular arcs, for torches, lasers and routers that drive these"));
    MeasureField* field =
        rows->length(tr("Within"), o.dxf.flatten, tr("How far chords and arcs may be from the curves they stand for"));
    const auto needed = [&o, field] { field->setEnabled(o.dxf.version == DxfVersion::R12 || o.dxf.curves_as_arcs); };
    needed();
    connect(all, &QCheckBox::toggled, this, needed);
    connect(lines, &ChoiceRow::chosen, this, [&o, needed](int now) {
      o.dxf.version = static_cast<DxfVersion>(now);
      needed();
    });
  } else if (suffix == "pdf") {
    page();
    rows->flag(tr("A page for each material"), o.page.page_a_layer, tr("Else all on one page, with a layer for each"));
  } else if (suffix == "eps") {
    page();
  } else if (suffix == "plt") {
    rows->choice(tr("0,0 is"), {tr("The lower left corner"), tr("The sheet's middle")}, o.hpgl.from_middle);
    rows->flag(tr("Turned by 90°"), o.hpgl.turned, tr("The sheet's width runs along the roll"));
    rows->flag(tr("Mirrored"), o.hpgl.mirrored, tr("Left and right change places, whatever the material"));
    rows->flag(tr("Spaces between numbers"), o.hpgl.spaces, tr("Instead of commas, for machines that stop at them"));
    rows->flag(tr("With the sheet's size"), o.hpgl.page_size,
               tr("Some machines refuse a file without, others with it"));
    rows->flag(tr("Back to 0,0 at the end"), o.hpgl.back_home, tr("Else the knife stays above its last line"));
    rows->length(chords, o.hpgl.flatten, chords_tip);
  } else {
    auto* width = new MeasureField(MeasureKind::Count, tr("Width"));
    width->set_range(1, most_picture_width);
    width->set_step(100);
    width->show_value(o.picture.width);
    connect(width, &MeasureField::edited, this, [&o](double now) { o.picture.width = static_cast<int>(now); });
    rows->add(tr("Width, px"), width);
    rows->choice(drawn, {tr("Areas"), tr("Lines")}, o.picture.ink);
    auto* ground = new GroundRow(session_, tr("Transparent"), o.picture.ground);
    connect(ground, &GroundRow::chosen, this, [&o](std::optional<Colour> now) { o.picture.ground = now; });
    rows->add(tr("Ground"), ground);
  }
  return rows;
}

FileRow* ExportPage::file_row() {
  QStringList filters;
  for (const ExportFormat& f : export_formats())
    filters << QString("%1 (*.%2)").arg(core_words(f.name), QString::fromStdString(std::string(f.suffix)));
  auto* row = new FileRow(QString::fromStdString(choice_.paths.front()), filters);
  row->set_replaces(!choice_.split);
  connect(row, &FileRow::changed, this, [this, row] {
    choice_.paths = {row->path().toStdString()};
    if (const auto format = export_format(choice_.paths.front()); format.ok()) { // the name says it
      const auto index = static_cast<int>(*format - export_formats().data());
      format_->show_choice(index);
      show_options(index);
    }
  });
  connect(row, &FileRow::entered, this, [this] { go_->click(); });
  return row;
}

// The name follows the format.
void ExportPage::choose_format(int index) {
  const std::string_view suffix = export_formats()[static_cast<std::size_t>(index)].suffix;
  const QFileInfo now(file_->path());
  const QString name = now.completeBaseName().isEmpty() ? now.fileName() : now.completeBaseName();
  file_->set_path(now.dir().absoluteFilePath(name) + "." +
                  QString::fromLatin1(suffix.data(), static_cast<qsizetype>(suffix.size())));
}

bool ExportPage::goes(Colour colour) const {
  const std::vector<Colour>& out = choice_.what.left_out;
  return std::find(out.begin(), out.end(), colour) == out.end();
}

void ExportPage::show_options(int format) {
  for (std::size_t i = 0; i < options_.size(); ++i)
    options_[i]->setVisible(static_cast<int>(i) == format);
  if (file_ != nullptr)
    file_->set_usual(format);
}

// As the background last worked them out, with their sizes.
void ExportPage::show_materials() {
  const std::vector<MaterialUse>& used = session_.materials_used();
  const bool same = std::equal(used.begin(), used.end(), boxes_.begin(), boxes_.end(),
                               [](const MaterialUse& u, const auto& b) { return u.colour == b.first; });
  if (!same) {
    for (const auto& [colour, box] : boxes_)
      box->deleteLater();
    boxes_.clear();
    for (const MaterialUse& use : used) {
      auto* box = new QCheckBox;
      const Colour colour = use.colour;
      box->setIcon(swatch(colour, 16));
      box->setChecked(goes(colour));
      connect(box, &QCheckBox::toggled, this, [this, colour](bool on) {
        std::erase(choice_.what.left_out, colour);
        if (!on)
          choice_.what.left_out.push_back(colour);
        refresh();
      });
      materials_->addWidget(box);
      boxes_.emplace_back(colour, box);
    }
  }
  const Unit unit = session_.document().unit;
  for (std::size_t i = 0; i < boxes_.size(); ++i) {
    const Material* m = material_of(session_.document().materials, used[i].colour);
    const QString name =
        m != nullptr ? QString::fromStdString(m->name) : QString::fromStdString(to_hex(used[i].colour));
    boxes_[i].second->setToolTip(name);
    boxes_[i].second->setText(
        QString("%1, %2, %3 × %4 %5")
            .arg(fontMetrics().elidedText(name, Qt::ElideRight, longest_name * fontMetrics().averageCharWidth()),
                 counted_words(used[i].lines, tr("1 line"), tr("%1 lines")), length_text(used[i].box.width(), unit, 1),
                 length_text(used[i].box.height(), unit, 1), unit_name(unit)));
  }
}

void ExportPage::refresh() {
  show_materials();
  const Document& document = session_.document();
  const Unit unit = document.unit;
  std::size_t fix = 0, look = 0;
  for (const Finding& f : session_.check().findings)
    if (f.weight != Weight::Note)
      ++(f.weight == Weight::MustFix ? fix : look);
  findings_row_->setVisible(fix + look > 0);
  QStringList open;
  if (fix > 0)
    open << counted_words(fix, tr("1 place must be mended"), tr("%1 places must be mended"));
  if (look > 0)
    open << counted_words(look, tr("1 place should be looked at"), tr("%1 places should be looked at"));
  findings_->setText((fix > 0 ? "▲  " : "●  ") + tr("The Cut check: %1.").arg(open.join(tr(" and "))));

  const StaysBehind stays = stays_behind(document);
  QStringList said;
  if (stays.guides > 0)
    said << counted_words(stays.guides, tr("1 guide stays here."), tr("%1 guides stay here."));
  if (stays.off > 0)
    said << counted_words(stays.off, tr("1 piece is off or hidden and stays here."),
                          tr("%1 pieces are off or hidden and stay here."));
  if (stays.live > 0)
    said << counted_words(stays.live, tr("1 lettering goes as its outlines; in the job it stays live."),
                          tr("%1 letterings go as their outlines; in the job they stay live."));
  stays_->setText(said.join(" "));
  stays_->setVisible(!said.isEmpty());

  frelm::Box box; // QFrame has one of its own
  std::size_t drawn = 0;
  for (const MaterialUse& use : session_.materials_used()) {
    drawn += use.drawn;
    if (goes(use.colour) && ((choice_.what.knife && use.lines > use.drawn) || (choice_.what.pen && use.drawn > 0)))
      box.add(use.box);
  }
  pen_->setEnabled(drawn > 0);
  pen_->setToolTip(drawn > 0 ? QString() : tr("Nothing of this job goes to the pen"));
  const QString sheet = tr("The sheet is %1 × %2 %3.")
                            .arg(length_text(document.sheet.width, unit, 1),
                                 length_text(document.sheet.height, unit, 1), unit_name(unit));
  size_->setText(box.empty() ? tr("Nothing goes out.") + " " + sheet
                             : tr("The work is %1 × %2 %3.")
                                       .arg(length_text(box.width(), unit, 1), length_text(box.height(), unit, 1),
                                            unit_name(unit)) +
                                   " " + sheet);
  const bool none = box.empty();
  go_->setEnabled(!none);
  go_->setToolTip(none ? tr("Nothing is chosen to go out") : QString());
}

} // namespace frelm
