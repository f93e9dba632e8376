#include "app/cards/names_card.h"

#include "app/style/words.h"
#include "formats/export.h"

#include <QHeaderView>
#include <QSignalBlocker>

namespace frelm {
namespace {

constexpr std::size_t most_in_table = 2000; // rows in the table; all are in the grid
constexpr int together_role = Qt::UserRole + 1;

} // namespace

NamesCard::NamesCard(Session& session, NameRows& rows, QWidget* parent)
    : Card(0, tr("Names"), session, parent), rows_(rows), about_(note_label()), asks_(note_label()),
      open_(new QPushButton(tr("Open list…"))), paste_(new QPushButton(tr("Paste"))),
      none_(new QPushButton(tr("Remove list"))), out_(new QPushButton), hand_(new QPushButton(tr("Letters by hand"))),
      table_(new QTableWidget),
      fit_(new ChoiceRow(tr("Too long"), {tr("Keep"), tr("Shrink"), tr("Spread"), tr("Tighten"), tr("Two lines")}, 3)),
      room_(length_field(tr("Room along the line"), 0, 1e5)),
      least_(length_field(tr("Least height of capitals"), 0, 1e4)),
      wide_(length_field(tr("Width of the sheets"), 1, 1e5)), long_(length_field(tr("Length of the sheets"), 0, 1e5)),
      format_(new ChoiceBox) {
  add_wide(asks_);
  add_wide(in_row({{open_, 1}, {paste_, 1}}));
  open_->setToolTip(tr("CSV: parted by commas, semicolons or tabs; a line a name is enough"));
  paste_->setToolTip(tr("Cells of a table, or lines, from the clipboard"));
  add_wide(about_);
  table_->setAccessibleName(tr("List of names"));
  table_->verticalHeader()->setDefaultSectionSize(table_->fontMetrics().height() + 8);
  table_->setMinimumHeight(table_->fontMetrics().height() * 12);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  add_wide(table_);
  add_wide(in_row({{hand_, 1}, {none_, 1}}));
  hand_->setToolTip(tr("Puts the chosen row's letters beside the sheet; what you do to them there, every row with this "
                       "very text gets"));
  none_->setToolTip(tr("The job keeps its places, and has no rows"));
  add_row(tr("Too long"), fit_);
  const QString tips[]{tr("As large as it is; what is too long is told"), tr("Smaller letters"),
                       tr("Every text over the whole room; smaller letters where there is no more"),
                       tr("Narrower gaps first, then smaller letters"),
                       tr("Parted at a space where it is too long, then smaller")};
  for (int i = 0; i < 5; ++i)
    fit_->button(i)->setToolTip(tips[i]);
  add_row(tr("Room"), room_);
  room_->setToolTip(tr("Along the line; 0: as long as the guide, and on a straight line any length"));
  add_row(tr("Not under"), least_);
  least_->setToolTip(tr("Rows whose capitals become lower than this are told; 0: none"));
  const auto offer = [this](const ExportFormat& f, const QString& words, bool together) {
    format_->addItem(words.arg(words_of(Said(f.name))),
                     QString::fromLatin1(f.suffix.data(), qsizetype(f.suffix.size())));
    format_->setItemData(format_->count() - 1, together, together_role);
  };
  for (const ExportFormat& f : export_formats())
    offer(f, tr("A file a row, %1"), false);
  for (const ExportFormat& f : export_formats())
    if (!f.picture)
      offer(f, tr("On sheets together, %1"), true);
  format_->setAccessibleName(tr("Kind of files"));
  add_wide(format_);
  add_row(tr("Sheets"), {wide_, long_});
  wide_->setToolTip(tr("Width of a sheet or roll"));
  long_->setToolTip(tr("Length of a sheet; 0: one roll"));
  wide_->show_value(NameSheets{}.width), long_->show_value(NameSheets{}.length);
  connect(format_, &QComboBox::activated, this, &NamesCard::refresh);
  out_->setObjectName("strong");
  add_wide(out_);
  connect(open_, &QPushButton::clicked, this, &NamesCard::open_wanted);
  connect(paste_, &QPushButton::clicked, this, &NamesCard::paste_wanted);
  connect(none_, &QPushButton::clicked, this, [this] { rows_.set_list(tr("Remove the list"), {}); });
  connect(out_, &QPushButton::clicked, this, &NamesCard::export_wanted);
  connect(hand_, &QPushButton::clicked, this, [this] { emit by_hand_wanted(chosen_); });
  connect(table_, &QTableWidget::cellChanged, this, [this](int row, int column) {
    rows_.set_cell(static_cast<std::size_t>(row), static_cast<std::size_t>(column),
                   table_->item(row, column)->text().toStdString());
  });
  connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) {
    if (row < 0)
      return;
    chosen_ = row;
    emit row_chosen(row);
  });
  connect(fit_, &ChoiceRow::chosen, this, [this](int i) {
    rows_.set_rules(tr("Change what is too long"), [i](NameRule& r) { r.fit = static_cast<NameFit>(i); });
  });
  connect(room_, &MeasureField::edited, this,
          [this](double mm, bool) { rows_.set_rules(tr("Change the room"), [mm](NameRule& r) { r.room = mm; }); });
  connect(least_, &MeasureField::edited, this, [this](double mm, bool) {
    rows_.set_rules(tr("Change the least height"), [mm](NameRule& r) { r.least_caps = mm; });
  });
  connect(&rows_, &NameRows::changed, this, &NamesCard::refresh);
  connect(&rows_, &NameRows::row_changed, this, [this] {
    if (isVisible() && (rows_.known() % 16 == 0 || rows_.known() == rows_.count()))
      refresh();
  });
}

QString NamesCard::format() const {
  return format_->currentData().toString();
}

std::optional<NameSheets> NamesCard::sheets() const {
  if (!format_->currentData(together_role).toBool())
    return std::nullopt;
  NameSheets out;
  out.width = wide_->value(), out.length = long_->value();
  return out;
}

void NamesCard::select_row(int row) {
  const QSignalBlocker quiet(table_);
  chosen_ = std::max(0, row);
  if (row < table_->rowCount())
    table_->setCurrentCell(row, std::max(0, table_->currentColumn()));
}

void NamesCard::fill() {
  const QSignalBlocker quiet(table_);
  filled_ = session_.document().names;
  const std::size_t rows = filled_ != nullptr ? std::min(filled_->rows.size(), most_in_table) : 0;
  const std::size_t columns = filled_ != nullptr ? filled_->columns.size() : 0;
  table_->setRowCount(static_cast<int>(rows));
  table_->setColumnCount(static_cast<int>(columns));
  QStringList heads;
  for (std::size_t c = 0; c < columns; ++c)
    heads << QString::fromStdString(filled_->columns[c]);
  table_->setHorizontalHeaderLabels(heads);
  table_->horizontalHeader()->setStretchLastSection(true);
  for (std::size_t r = 0; r < rows; ++r)
    for (std::size_t c = 0; c < columns; ++c) {
      const QString text = QString::fromStdString(filled_->rows[r][c]);
      QTableWidgetItem* item = table_->item(static_cast<int>(r), static_cast<int>(c));
      if (item == nullptr)
        table_->setItem(static_cast<int>(r), static_cast<int>(c), item = new QTableWidgetItem);
      if (item->text() != text)
        item->setText(text);
    }
}

void NamesCard::refresh() {
  if (filled_ != session_.document().names)
    fill();
  const Document& d = session_.document();
  const NameList* list = d.names.get();
  const std::size_t rows = list != nullptr ? list->rows.size() : 0;
  QStringList asks;
  for (const std::string& c : wanted_columns(d))
    asks << "{" + QString::fromStdString(c) + "}";
  const bool places = std::any_of(d.pieces.begin(), d.pieces.end(), [](const auto& p) {
    return p->lettering() != nullptr && has_places(*p->lettering());
  });
  asks_->setText(!places ? tr("No lettering has a place yet: write {name} where a name goes; {NAME} sets it in "
                              "capitals, {name or Guest} says what stands for nothing.")
                 : asks.isEmpty() ? tr("Only {number} is asked for.")
                                  : tr("The job asks for %1.").arg(asks.join(", ")));
  table_->setVisible(rows > 0), none_->setVisible(list != nullptr && rows > 0);
  hand_->setVisible(rows > 0), hand_->setEnabled(places);
  const std::size_t look = rows_.to_look_at();
  QString about = rows == 0 ? QString() : tr("%n rows", nullptr, static_cast<int>(rows));
  if (look > 0)
    about += tr(", %1 to look at").arg(look);
  if (rows > 0 && rows_.known() < rows)
    about += tr(" (%1 known)").arg(rows_.known());
  if (list != nullptr && !list->source.empty())
    about = tr("%1: %2").arg(QString::fromStdString(list->source), about);
  about_->setText(about);
  about_->setVisible(!about.isEmpty());
  set_summary(look > 0 ? tr("%1 to look at").arg(look) : QString());
  NameRule rule;
  for (const auto& p : d.pieces)
    if (list != nullptr && p->lettering() != nullptr && has_places(*p->lettering())) {
      rule = rule_for(*list, p->id);
      break;
    }
  for (QWidget* w : {static_cast<QWidget*>(fit_), static_cast<QWidget*>(room_), static_cast<QWidget*>(least_)})
    show_row(w, places);
  fit_->show_choice(static_cast<int>(rule.fit));
  for (MeasureField* f : {room_, least_, wide_, long_})
    f->set_unit(d.unit);
  show_row(wide_, rows > 0 && sheets().has_value());
  room_->show_value(rule.room), least_->show_value(rule.least_caps);
  format_->setVisible(rows > 0), out_->setVisible(rows > 0);
  out_->setEnabled(places);
  out_->setText(tr("Export %n rows…", nullptr, static_cast<int>(rows)));
}

} // namespace frelm
