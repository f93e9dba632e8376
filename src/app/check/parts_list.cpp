#include "app/check/parts_list.h"

#include "app/style/words.h"

#include <QEvent>
#include <QVBoxLayout>

namespace frelm {
namespace {

constexpr std::size_t most_rows = 300; // of a sheet: nobody reads more

} // namespace

PartsList::PartsList(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), finder_(session), told_(new QLabel), meet_(new QLabel),
      list_(new QListWidget) {
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(0, 0, 0, 0);
  all->setSpacing(4);
  for (QLabel* label : {meet_, told_}) {
    label->setObjectName("muted");
    label->setWordWrap(true);
    all->addWidget(label);
  }
  list_->setAccessibleName(tr("Parts"));
  list_->setMouseTracking(true);
  list_->setUniformItemSizes(true);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->viewport()->installEventFilter(this);
  list_->installEventFilter(this);
  all->addWidget(list_, 1);
  connect(&finder_, &PartsFinder::changed, this, &PartsList::show_parts);
  connect(list_, &QListWidget::itemEntered, this, [this](QListWidgetItem* item) { light_row(list_->row(item)); });
  connect(list_, &QListWidget::currentRowChanged, this, &PartsList::light_row);
  connect(list_, &QListWidget::itemActivated, this, [this](QListWidgetItem* item) {
    if (const CutPart* part = part_of(list_->row(item)))
      emit look_at(part->box);
  });
}

void PartsList::showEvent(QShowEvent*) {
  finder_.set_wanted(true);
  show_parts();
}

void PartsList::hideEvent(QHideEvent*) {
  finder_.set_wanted(false);
  emit light(nullptr, {});
}

bool PartsList::eventFilter(QObject*, QEvent* event) {
  if (event->type() == QEvent::Leave || event->type() == QEvent::FocusOut)
    emit light(nullptr, contacts());
  return false;
}

const CutPart* PartsList::part_of(int row) const {
  const auto at = static_cast<std::size_t>(row);
  if (row < 0 || shown_ == nullptr || at >= rows_.size() || rows_[at].part < 0)
    return nullptr;
  const SheetParts& s = (*shown_)[rows_[at].sheet];
  const auto i = static_cast<std::size_t>(rows_[at].part);
  return i < s.parts.size() ? &s.parts[i] : &s.counters[i - s.parts.size()];
}

void PartsList::light_row(int row) {
  const CutPart* part = part_of(row);
  emit light(part != nullptr ? std::shared_ptr<const Outline>(shown_, &part->outline) : nullptr, contacts());
}

std::vector<Point> PartsList::contacts() const {
  std::vector<Point> out;
  if (finder_.contacts())
    for (const Contact& c : *finder_.contacts())
      out.push_back(c.at);
  return out;
}

void PartsList::show_contacts() {
  const std::vector<PieceId>& ids = session_.selection();
  const Document& document = session_.document();
  const Piece* a = ids.size() == 2 ? document.find(ids[0]) : nullptr;
  const Piece* b = ids.size() == 2 ? document.find(ids[1]) : nullptr;
  const auto& found = finder_.contacts();
  meet_->setVisible(found && a != nullptr && b != nullptr);
  if (!meet_->isVisibleTo(this))
    return;
  QStringList widths;
  for (const Contact& c : *found)
    widths << length_text(c.width, document.unit);
  const QString both = tr("%1 and %2").arg(piece_words(document, *a), piece_words(document, *b));
  meet_->setText(found->empty() ? tr("%1 don't meet.").arg(both)
                                : tr("%1 hold together at %2: %3 %4 wide.")
                                      .arg(both, counted_words(found->size(), tr("1 place"), tr("%1 places")),
                                           widths.join(" · "), unit_name(document.unit)));
}

void PartsList::show_parts() {
  show_contacts();
  if (std::vector<Point> now = contacts(); isVisible() && now != numbered_) {
    numbered_ = std::move(now);
    emit light(nullptr, numbered_);
  }
  const Unit unit = session_.document().unit;
  const auto mm = [&](double v) { return length_text(v, unit) + " " + unit_name(unit); };
  if (!finder_.current() || finder_.sheets() == nullptr) {
    told_->setText(finder_.current() ? words_of(finder_.why_not()) : tr("Working out the parts…"));
    if (finder_.current())
      list_->clear(), rows_.clear(), shown_ = nullptr;
    return;
  }
  shown_ = finder_.sheets();
  rows_.clear();
  const QSignalBlocker quiet(list_);
  list_->clear();
  QStringList words;
  for (std::size_t k = 0; k < shown_->size(); ++k) {
    const SheetParts& s = (*shown_)[k];
    const QString name = s.name.empty() ? QString::fromStdString(to_hex(s.colour)) : QString::fromStdString(s.name);
    const auto n = s.parts.size(), loose = s.counters.size();
    QString line = n == 1 ? tr("%1: 1 part").arg(name) : tr("%1: %2 parts").arg(name).arg(n);
    if (loose > 0)
      line = loose == 1 ? tr("%1, 1 piece of stock falls out").arg(line)
                        : tr("%1, %2 pieces of stock fall out").arg(line).arg(loose);
    if (s.weakest)
      line = (s.links_left_out ? tr("%1, narrowest link of those looked at %2") : tr("%1, narrowest link %2"))
                 .arg(line, mm(s.weakest->width));
    words << line;
    QPixmap colour(12, 12);
    colour.fill(QColor(s.colour.r, s.colour.g, s.colour.b));
    for (std::size_t i = 0; i < n + loose && i < most_rows; ++i) {
      const CutPart& p = i < n ? s.parts[i] : s.counters[i - n];
      const QString size =
          tr("%1 × %2 %3").arg(length_text(p.box.width(), unit), length_text(p.box.height(), unit), unit_name(unit));
      auto* item = new QListWidgetItem(i < n ? tr("Part %1 · %2").arg(i + 1).arg(size) : tr("Stock · %1").arg(size));
      item->setIcon(colour);
      list_->addItem(item);
      rows_.push_back({k, static_cast<int>(i)});
    }
    if (n + loose > most_rows) {
      list_->addItem(tr("and %1 more").arg(n + loose - most_rows));
      rows_.push_back({k, -1});
    }
  }
  told_->setText(words.isEmpty() ? tr("Nothing goes to the knife.") : words.join("\n"));
}

} // namespace frelm
