#include "app/window/find_page.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <QLineEdit>
#include <QTimer>
#include <QTreeWidget>
#include <QVBoxLayout>

namespace frelm {

FindPage::FindPage(const CommandTable& commands, QWidget* over)
    : Page(tr("Find a command"), tr("Back to the sheet"), over), commands_(commands), field_(new QLineEdit),
      list_(new QTreeWidget) {
  field_->setPlaceholderText(tr("even, border, spiral…"));
  field_->setAccessibleName(tr("A word of the command"));
  field_->setClearButtonEnabled(true);
  field_->installEventFilter(this);
  list_->setAccessibleName(tr("Commands"));
  list_->setRootIsDecorated(false);
  list_->setUniformRowHeights(true);
  list_->setHeaderHidden(true);
  list_->setColumnCount(3);
  list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  list_->header()->setStretchLastSection(false);
  list_->header()->setSectionResizeMode(0, QHeaderView::Stretch);
  list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
  list_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
  body()->addWidget(field_);
  body()->addWidget(list_, 1);
  connect(field_, &QLineEdit::textChanged, this, &FindPage::fill);
  connect(list_, &QTreeWidget::itemActivated, this, &FindPage::carry_out);
  connect(list_, &QTreeWidget::itemClicked, this, &FindPage::carry_out);
  fill();
  appear();
  field_->setFocus();
}

QSize FindPage::wanted() const {
  return {70 * fontMetrics().averageCharWidth(), 24 * fontMetrics().height()};
}

void FindPage::fill() {
  list_->clear();
  for (const CommandTable::Entry* e : commands_.matching(field_->text())) {
    const QString reason = e->why_not();
    auto* row = new QTreeWidgetItem(list_, {e->words(), reason.isEmpty() ? e->menu : reason, e->key()});
    row->setData(0, Qt::UserRole, e->command.id);
    row->setTextAlignment(2, Qt::AlignRight | Qt::AlignVCenter);
    row->setForeground(1, palette().placeholderText());
    row->setForeground(2, palette().placeholderText());
    row->setDisabled(!reason.isEmpty());
    row->setToolTip(0, e->command.tip);
    row->setData(0, Qt::AccessibleDescriptionRole, reason.isEmpty() ? e->menu : reason);
  }
  if (list_->topLevelItemCount() == 0) {
    auto* none = new QTreeWidgetItem(list_, {tr("No command has this word")});
    none->setDisabled(true);
  }
  for (int i = 0; i < list_->topLevelItemCount(); ++i)
    if (!list_->topLevelItem(i)->isDisabled()) {
      list_->setCurrentItem(list_->topLevelItem(i));
      break;
    }
}

void FindPage::carry_out() {
  const QTreeWidgetItem* row = list_->currentItem();
  if (!isVisible() || row == nullptr || row->isDisabled()) // a double click comes twice
    return;
  QAction* action = commands_.action(row->data(0, Qt::UserRole).toString());
  close();
  // Once the click is over: the command may open a page of its own, or wait for an answer while the list goes.
  QTimer::singleShot(0, action, &QAction::trigger);
}

// Up and Down move in the list while words are typed.
bool FindPage::eventFilter(QObject* object, QEvent* event) {
  if (object == field_ && event->type() == QEvent::KeyPress) {
    auto* key = static_cast<QKeyEvent*>(event);
    switch (key->key()) {
    case Qt::Key_Up:
    case Qt::Key_Down: {
      const int step = key->key() == Qt::Key_Down ? 1 : -1;
      for (int i = list_->indexOfTopLevelItem(list_->currentItem()) + step; i >= 0 && i < list_->topLevelItemCount();
           i += step)
        if (!list_->topLevelItem(i)->isDisabled()) {
          list_->setCurrentItem(list_->topLevelItem(i));
          break;
        }
      return true;
    }
    case Qt::Key_Return:
    case Qt::Key_Enter:
      carry_out();
      return true;
    default:
      break;
    }
  }
  return Page::eventFilter(object, event);
}

} // namespace frelm
