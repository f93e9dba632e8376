#include "app/cards/card.h"

#include "app/style/scheme.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QStyle>

namespace frelm {

ChoiceRow::ChoiceRow(const QString& name, const QStringList& words, int columns, QWidget* parent)
    : QWidget(parent), name_(name) {
  setAccessibleName(name);
  auto* row = new QGridLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(3);
  for (int i = 0; i < words.size(); ++i) {
    auto* b = new QToolButton;
    b->setObjectName("choice");
    b->setCheckable(true);
    b->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    b->setFocusPolicy(Qt::StrongFocus);
    group_.addButton(b, i);
    row->addWidget(b, columns > 0 ? i / columns : 0, columns > 0 ? i % columns : i);
    set_word(i, words[i]);
  }
  group_.setExclusive(true);
  connect(&group_, &QButtonGroup::idClicked, this, &ChoiceRow::chosen);
}

void ChoiceRow::set_word(int index, const QString& word) {
  group_.button(index)->setText(word);
  group_.button(index)->setAccessibleName(name_ + ": " + word);
}

void ChoiceRow::show_choice(int index) {
  if (QAbstractButton* b = group_.button(index); b != nullptr && !b->isChecked())
    b->setChecked(true);
}

void ChoiceRow::set_icons(const QStringList& icons) {
  for (int i = 0; i < icons.size(); ++i)
    if (auto* b = qobject_cast<QToolButton*>(group_.button(i))) {
      b->setIcon(icon(icons[i]));
      b->setIconSize(QSize(1, 1) * std::max(22, b->fontMetrics().height() * 5 / 4));
      b->setToolButtonStyle(Qt::ToolButtonTextUnderIcon);
    }
}

int list_height(const QListWidget& list) {
  const int rows = std::clamp(list.count(), 1, 5);
  return rows * std::max(list.sizeHintForRow(0), list.fontMetrics().height()) + 2 * list.frameWidth() + 2;
}

QLabel* note_label() {
  auto* label = new QLabel;
  label->setObjectName("muted");
  label->setWordWrap(true);
  return label;
}

Card::Card(int number, const QString& title, Session& session, QWidget* parent)
    : QFrame(parent), session_(session), body_(new QWidget), rows_(new QGridLayout(body_)), fold_(new QToolButton),
      heading_(new QLabel(title)), badge_(new QLabel(QString::number(number))), summary_(new ShortLabel),
      header_(new QWidget), foldable_(number > 0) {
  setObjectName("card");
  auto* all = new QVBoxLayout(this);
  all->setContentsMargins(8, 5, 8, 5);
  all->setSpacing(6);
  auto* top = new QHBoxLayout(header_);
  top->setContentsMargins(0, 0, 0, 0);
  top->setSpacing(8);
  badge_->setObjectName("badge");
  badge_->setAlignment(Qt::AlignCenter);
  badge_->setFixedSize(fontMetrics().height() + 5, fontMetrics().height() + 5);
  badge_->setVisible(foldable_);
  heading_->setObjectName("heading");
  summary_->setObjectName("muted");
  summary_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
  summary_->setMinimumWidth(20);
  fold_->setObjectName("flat");
  fold_->setAccessibleName(title);
  fold_->setVisible(foldable_);
  if (foldable_)
    fold_->setToolTip(tr("Open or close (Alt+%1)").arg(number));
  top->addWidget(badge_);
  top->addWidget(heading_);
  top->addWidget(summary_, 1);
  top->addWidget(fold_);
  all->addWidget(header_);
  all->addWidget(body_);
  rows_->setContentsMargins(0, 0, 0, 4);
  rows_->setHorizontalSpacing(8);
  rows_->setVerticalSpacing(5);
  rows_->setColumnStretch(1, 1);
  header_->installEventFilter(this);
  connect(fold_, &QToolButton::clicked, this, [this] {
    set_open(!open_);
    if (open_)
      emit opened();
  });
  Card::restyle();
  set_open(!foldable_);
}

void Card::restyle() {
  fold_->setIcon(icon(open_ ? "unfold" : "fold"));
}

void Card::set_open(bool open) {
  open_ = open;
  body_->setVisible(open);
  fold_->setIcon(icon(open ? "unfold" : "fold"));
  for (QWidget* w : {static_cast<QWidget*>(this), static_cast<QWidget*>(badge_)}) {
    w->setProperty("open", open && foldable_);
    w->style()->unpolish(w);
    w->style()->polish(w);
  }
}

bool Card::eventFilter(QObject* object, QEvent* event) {
  if (object == header_ && event->type() == QEvent::MouseButtonRelease && foldable_) {
    fold_->click();
    return true;
  }
  return QFrame::eventFilter(object, event);
}

void Card::embed() {
  setObjectName("cardPart");
  header_->hide();
  layout()->setContentsMargins(0, 0, 0, 0);
  rows_->setContentsMargins(0, 0, 0, 0);
}

int Card::least_width() const {
  int label = 0, field = 0, wide = 0;
  for (int row = 0; row < rows_->rowCount(); ++row) {
    const QLayoutItem *first = rows_->itemAtPosition(row, 0), *second = rows_->itemAtPosition(row, 1);
    const auto width = [](const QLayoutItem* item) {
      return item != nullptr && item->widget() != nullptr ? item->widget()->minimumSizeHint().width() : 0;
    };
    if (first == second) {
      wide = std::max(wide, width(first));
    } else {
      label = std::max(label, width(first));
      field = std::max(field, width(second));
    }
  }
  const QMargins m = layout()->contentsMargins();
  return std::max(wide, label + rows_->horizontalSpacing() + field) + m.left() + m.right() + 2;
}

void Card::set_summary(const QString& text) {
  summary_->set_words(text);
  fold_->setAccessibleDescription(text);
}

QLabel* Card::add_row(const QString& label, QWidget* field) {
  auto* name = new QLabel(label);
  name->setObjectName("muted");
  name->setBuddy(field);
  const int row = rows_->rowCount();
  rows_->addWidget(name, row, 0);
  rows_->addWidget(field, row, 1);
  field->setProperty("rowLabel", QVariant::fromValue<QObject*>(name));
  return name;
}

QWidget* Card::in_row(const std::vector<std::pair<QWidget*, int>>& fields) {
  auto* box = new QWidget;
  auto* line = new QHBoxLayout(box);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(4);
  for (const auto& [w, share] : fields) {
    line->addWidget(w, share);
    w->setProperty("rowBox", QVariant::fromValue<QObject*>(box));
  }
  return box;
}

QLabel* Card::add_row(const QString& label, std::initializer_list<QWidget*> fields) {
  std::vector<std::pair<QWidget*, int>> shares;
  for (QWidget* f : fields)
    shares.emplace_back(f, 1);
  return add_row(label, in_row(shares));
}

void Card::add_wide(QWidget* widget) {
  rows_->addWidget(widget, rows_->rowCount(), 0, 1, 2);
}

void Card::show_row(QWidget* field, bool visible) {
  QWidget* box = qobject_cast<QWidget*>(field->property("rowBox").value<QObject*>());
  QWidget* row = box != nullptr ? box : field;
  row->setVisible(visible);
  if (auto* name = qobject_cast<QWidget*>(row->property("rowLabel").value<QObject*>()))
    name->setVisible(visible);
}

MeasureField* Card::length_field(const QString& name, double low, double high) {
  auto* field = new MeasureField(MeasureKind::Length, name);
  field->set_range(low, high);
  return field;
}

void Card::edit(const QString& name, bool stepped, const std::function<void(Piece&)>& change) {
  if (const Piece* piece = session_.selected())
    session_.edit(name, piece->id, change, stepped ? "step " + name.toStdString() : "");
}

} // namespace frelm
